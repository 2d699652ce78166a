package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/e2e/browser"
	"ziegel/internal/testsite"
)

// onPaper says what is wrong with blocks on paper: entries of lists that a page may cut in two, text that cannot be
// read on its ground, rows that are cut where the screen would scroll, addresses of links that do not show.
const onPaper = `(() => {
  const out = new Set(), seen = getComputedStyle, canvas = document.createElement("canvas").getContext("2d", { willReadFrequently: true });
  const rgb = c => { canvas.clearRect(0, 0, 1, 1); canvas.fillStyle = c; canvas.fillRect(0, 0, 1, 1); return [...canvas.getImageData(0, 0, 1, 1).data]; };
  const lum = c => c.slice(0, 3).map(v => (v /= 255) <= .03928 ? v / 12.92 : ((v + .055) / 1.055) ** 2.4).reduce((s, v, i) => s + v * [.2126, .7152, .0722][i], 0);
  for (const block of document.querySelectorAll(".page-block")) {
    const tell = (what, el) => out.add(block.id + ": " + what + ": " + (el.dataset.part || el.className.split(" ").pop() || el.tagName));
    for (const el of block.querySelectorAll("*")) {
      const s = seen(el), r = el.getBoundingClientRect();
      if (!el.checkVisibility() || r.height === 0 || s.clipPath !== "none") continue;
      const whole = x => { for (; x !== block; x = x.parentElement) if (seen(x).breakInside.startsWith("avoid")) return true; return false; };
      if (el.dataset.each && !el.querySelector("[data-each]") && r.height < 600 && !/inline/.test(s.display) && !whole(el)) tell("may be cut", el);
      if (!/visible|clip/.test(s.overflowX) && el.scrollWidth > el.clientWidth + 1 && el.tagName !== "TEXTAREA") tell("is not whole", el);
      const text = [...el.childNodes].some(n => n.nodeType === 3 && n.data.trim());
      if (text && !el.closest("svg")) {
        let ground = el;
        while (ground && rgb(seen(ground).backgroundColor)[3] < 200) ground = ground.parentElement;
        const a = lum(rgb(s.color)), b = lum(ground ? rgb(seen(ground).backgroundColor) : [255, 255, 255]);
        if ((Math.max(a, b) + .05) / (Math.min(a, b) + .05) < 4.4) tell("is hardly read (" + s.color + ")", el);
      }
      if (el.matches("a[href^=http]") && !el.querySelector("img, svg") && !seen(el, "::after").content.includes("http")) tell("leads where", el);
    }
  }
  return [...out].sort().join("\n");
})()`

// Every section on A4 and on Letter, in a light theme and in one that is dark by nature.
func TestSectionsOnPaper(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	ctx, cancel := context.WithTimeout(context.Background(), 4*time.Minute)
	defer cancel()
	onto := func(theme, blocks string, width int) string {
		e := testsite.Open(
			t,
			testsite.Write(
				t,
				map[string]string{"ziegel.yaml": "name: Larkspan\ntheme: " + theme + "\nhosts: [films.example]\n",
					"pages/home.yaml": "title: T\nblocks:\n" + blocks},
			),
		)
		p, problems := compose.Compose(e, e.Site.Page("home"), compose.Options{Marks: true})
		require.NoError(t, problems.Err())
		file := filepath.Join(t.TempDir(), "page.html")
		html := strings.Replace(
			p.HTML,
			"</head>",
			"<style>"+p.Site.Text+"</style><style>"+p.Own.Text+"</style></head>",
			1,
		)
		require.NoError(t, os.WriteFile(file, []byte(html), 0o666))
		said, err := browser.Printed(ctx, file, width, onPaper)
		require.NoError(t, err)
		return said
	}
	var all strings.Builder
	for _, s := range testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n"})).Library.All() {
		_, _ = fmt.Fprintf(&all, "  - {name: %s, section: %s}\n", strings.ReplaceAll(s.Name, "/", "-"), s.Name)
	}
	const a4, letter = 680, 702 // 210 mm and 8.5 in without the margins of base.css
	for _, c := range []struct {
		theme string
		width int
	}{{"marram", a4}, {"lamplight", letter}} {
		assert.Empty(t, onto(c.theme, all.String(), c.width), "%s at %d px", c.theme, c.width)
	}
	said := onto(
		"marram",
		"  - {name: a, section: hero/alone, ground: {color: '#123'}, content: {heading: H, actions: [{label: Go, to: 'https://o.example'}]}, style: {lead: {color: '#eee'}, action: {break-inside: auto}}}\n",
		a4,
	)
	assert.Contains(t, said, "a: is hardly read", "the test sees what it looks for")
	assert.NotContains(t, said, "leads where")
}
