package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
	"ziegel/ui/cli"
)

// navSite writes a site with one bar set in a font, builds it and gives the room, CSS px, from which its links stand
// open.
func navSite(t *testing.T, dir, face, label string, more ...string) float64 {
	t.Helper()
	tokens, err := stock.Files.ReadFile("themes/marram/theme.tokens.json")
	require.NoError(t, err)
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o777))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o666))
	}
	write("theme.tokens.json", strings.Replace(string(tokens), `"Instrument Sans"`, strconv.Quote(face), 1))
	font, err := os.ReadFile("testdata/boxes/assets/fraunces-size.woff2")
	require.NoError(t, err)
	write("media/fonts/fraunces-400.woff2", string(font))
	write("ziegel.yaml", "name: Larkspan\n")
	bar := func(name, label string) string {
		return fmt.Sprintf("  - name: %s\n    section: nav/bar\n    content:\n      brand: {label: Larkspan, to: home}\n      links:\n        - {label: Kites, to: home}\n        - {label: %q, to: home}\n        - {label: Find us, to: home}\n      action: {label: Book a course, to: home}\n", name, label)
	}
	page := "title: Kites\nblocks:\n" + bar("menu", label)
	for i, l := range more {
		page += bar(fmt.Sprintf("menu-%d", i+2), l)
	}
	write("pages/home.yaml", page+"  - {name: opening, section: hero/beside}\n")
	var out, errs strings.Builder
	require.Equal(t, 0, cli.Run([]string{"build", "--site", dir}, strings.NewReader(""), &out, &errs), errs.String())
	return folds(t, dir, "menu")
}

// folds reads the threshold of a bar from the built stylesheet, CSS px of the room.
func folds(t *testing.T, dir, block string) float64 {
	t.Helper()
	css, err := os.ReadFile(filepath.Join(dir, "built", "home.css"))
	require.NoError(t, err)
	m := regexp.MustCompile(`@container \(width >= ([0-9.]+)rem\) \{\s+\.home-` + block +
		` \.nav-bar__room`).FindSubmatch(css)
	require.NotNil(t, m, string(css))
	rem, err := strconv.ParseFloat(string(m[1]), 64)
	require.NoError(t, err)
	return rem * 16
}

// askFolds tells of every bar of a page at which widths its room reaches each width asked for, whether its links
// stand open there, and how wide the second link is.
const askFolds = `<!doctype html><body></body><script>
window.onload = () => {
  const f = document.querySelector("iframe"), d = f.contentDocument, out = [];
  for (let w = 420; w <= 860; w++) {
    f.style.width = w + "px";
    f.offsetWidth + d.body.offsetWidth;
    out.push([...d.querySelectorAll(".nav-bar")].map(n =>
      [w, n.querySelector(".nav-bar__room").getBoundingClientRect().width, getComputedStyle(n.querySelector(".nav-bar__toggle")).display == "none" ? 1 : 0]));
  }
  document.body.textContent = JSON.stringify(out);
};
</script><iframe src="/built/index.html" style="border:0;height:900px"></iframe>`

// fold is the widest room in which a bar is folded and the narrowest in which it is open, CSS px, with the screen's
// width there.
type fold struct {
	below, at float64
	screen    int
}

// browserFolds asks Chromium where the bars of a built page open.
func browserFolds(t *testing.T, dir string) []fold {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	answer, err := browser.Ask(ctx, dir, askFolds, false)
	require.NoError(t, err)
	var widths [][][3]float64
	require.NoError(t, json.Unmarshal([]byte(answer), &widths), answer)
	out := make([]fold, len(widths[0]))
	for _, bars := range widths {
		for i, b := range bars {
			if b[2] == 0 {
				out[i].below = b[1]
			} else if out[i].at == 0 {
				out[i].at, out[i].screen = b[1], int(b[0])
			}
		}
	}
	return out
}

// barWidths gives the widths of the name and of the second label of a built bar, CSS px.
func barWidths(t *testing.T, dir string, screen int) (name, label float64) {
	t.Helper()
	l, err := sweep.FromFile(filepath.Join(dir, "built", "index.html"), stock.Files)
	require.NoError(t, err)
	r := l.Engine().Layout(screen)
	links := 0
	for i := range r.Boxes {
		for _, c := range r.Boxes[i].Element.Classes {
			switch c {
			case "nav-bar__brand":
				name = r.Boxes[i].W.Float()
			case "nav-bar__link":
				if links++; links == 2 {
					label = r.Boxes[i].W.Float()
				}
			}
		}
	}
	return name, label
}

// TestChromiumFoldsWhereTheBuildMeasured: the links of a bar fold into a menu one pixel below the built threshold and
// not at it, in three fonts, and a longer label moves the threshold by what it is longer.
func TestChromiumFoldsWhereTheBuildMeasured(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	for _, face := range []string{"Instrument Sans", "Bricolage Grotesque", "Fraunces"} {
		t.Run(face, func(t *testing.T) {
			short, long := t.TempDir(), t.TempDir()
			a, b := navSite(t, short, face, "Courses"), navSite(t, long, face, "Courses by the sea")
			seen, longer := browserFolds(t, short)[0], browserFolds(t, long)[0]
			for _, c := range []struct {
				built float64
				seen  fold
			}{{a, seen}, {b, longer}} {
				assert.Less(t, c.seen.below, c.built, "folded up to %v px of room, built at %v",
					c.seen.below, c.built)
				assert.GreaterOrEqual(t, c.seen.at, c.built)
				assert.Less(t, c.seen.at-c.seen.below, 1.01, "it folds once")
			}
			name, label := barWidths(t, short, seen.screen)
			longName, longLabel := barWidths(t, long, longer.screen)
			assert.Greater(t, longLabel, label+70)
			// the name is set in fluid type, so it is a little wider too on the wider screen
			assert.InDelta(t, longLabel-label+longName-name, b-a, 1, "the label is %v px longer", longLabel-label)
		})
	}
}

// TestTwoBarsFoldEachWhereTheirsDoes: a second block of one section costs one line of CSS.
func TestTwoBarsFoldEachWhereTheirsDoes(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	dir := t.TempDir()
	first := navSite(t, dir, "Instrument Sans", "Courses", "Courses for two by the sea")
	second := folds(t, dir, "menu-2")
	assert.Greater(t, second, first+100)
	seen := browserFolds(t, dir)
	require.Len(t, seen, 2)
	assert.LessOrEqual(t, first, seen[0].at)
	assert.Greater(t, first, seen[0].below)
	assert.LessOrEqual(t, second, seen[1].at)
	assert.Greater(t, second, seen[1].below)
	css, err := os.ReadFile(filepath.Join(dir, "built", "home.css"))
	require.NoError(t, err)
	assert.Equal(t, 2, strings.Count(string(css), "--nav-bar_open: yes"), "one line for each")
	site, err := os.ReadFile(filepath.Join(dir, "built", "site.css"))
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(string(site), "@container style(--nav-bar_open: yes)"))
}
