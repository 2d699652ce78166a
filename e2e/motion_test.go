package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/motion"
	"ziegel/e2e/browser"
	"ziegel/internal/testsite"
)

// motions are animations of one property each: keyframes, and how they are played.
var motions = [][3]string{
	{"opacity", "from{opacity:0}", "1s linear"},
	{"opacity", "from{opacity:0}", "1s ease both"},
	{"opacity", "from{opacity:0} 30%{opacity:.9} to{opacity:.2}", "2s ease-in-out .2s both"},
	{"opacity", "from{opacity:0;animation-timing-function:steps(3,jump-none)} 50%{opacity:1}", "1s ease-out"},
	{"translate", "from{translate:0 1.5rem}", "480ms cubic-bezier(.2,.8,.3,1) both"},
	{"translate", "from{translate:-20px} to{translate:50% 4em}", "1s linear"},
	{"scale", "to{scale:1.5 2}", "1s ease-in"},
	{"rotate", "to{rotate:-90deg}", "1s steps(4,start)"},
	{"transform", "from{transform:none} to{transform:translate(10px,20%) rotate(45deg) scale(2)}", "1s linear"},
	{"filter", "from{filter:blur(6px) brightness(.5)}", "1s linear"},
	{"color", "from{color:#c63a17} to{color:rgb(0 0 255 / .5)}", "1s linear"},
	{"background-color", "to{background-color:#1f6b4f}", "1s ease-in"},
	{"clip-path", "from{clip-path:inset(0 100% 0 0)} to{clip-path:inset(0 0 0 0)}", "1s steps(24)"},
	{"box-shadow", "to{box-shadow:0 8px 24px rgb(0 0 0 / .4)}", "1s linear"},
	{"letter-spacing", "from{letter-spacing:2px} to{letter-spacing:.5em}", "1s linear"},
	{"opacity", "to{opacity:.4}", "1s ease 2 alternate both"},
	{"opacity", "to{opacity:.4}", "1s linear reverse forwards"},
	{"opacity", "to{opacity:.4}", "1s linear(0, .8 20% 40%, 1) both"},
	{"visibility", "from{visibility:hidden}", "1s linear both"},
}

// Every property at every moment is what Chromium says when its own animation is held there.
func TestMomentsEqualChromium(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	var style, body strings.Builder
	for i, m := range motions {
		fmt.Fprintf(&style, "@keyframes m%d{%s} #e%d{animation:m%d %s}\n", i, m[1], i, i, m[2])
		fmt.Fprintf(&body, "<p id=e%d>moving</p>", i)
	}
	head := "<style>p{width:200px;height:50px;margin:0;font:16px/20px Arial;color:#222}\n" + style.String() + "</style>"
	l, _ := testsite.HTML(t, head+body.String())
	clip, err := motion.Of(l, 600, motion.Enter, nil)
	require.NoError(t, err)
	require.NotNil(t, clip)
	assert.Empty(t, clip.Missed)
	type question struct {
		ID, Property, Value string
		At                  float64
	}
	ids := map[string]string{}
	for _, e := range l.Doc.Elements {
		ids[e.Path()] = e.ID
	}
	rule := regexp.MustCompile(`([^{}]+)\{([^{}]*)\}`)
	var ask []question
	for _, at := range []float64{0, .1, .25, .4, .62, .9, 1, 1.3, 2.3} {
		said := map[string]string{}
		for _, r := range rule.FindAllStringSubmatch(clip.Sheet(at), -1) {
			said[ids[r[1]]] = strings.ReplaceAll(r[2], "!important", "")
		}
		for i, m := range motions {
			id := fmt.Sprintf("e%d", i)
			ask = append(ask, question{id, m[0], said[id], at})
		}
	}
	list, err := json.Marshal(ask)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	answer, err := browser.Text(ctx, head+"<body style='margin:0'>"+body.String()+`<script>
const wrong = [], list = `+string(list)+`;
const numbers = v => (v.match(/-?[\d.]+(e-?\d+)?/g) || []).map(Number), words = v => v.replace(/-?[\d.]+(e-?\d+)?/g, "#");
const probe = document.createElement("p");
probe.style.animation = "none";
document.body.append(probe);
for (const a of document.getAnimations()) a.pause();
for (const q of list) {
  const e = document.getElementById(q.ID);
  for (const a of document.getAnimations()) a.currentTime = q.At * 1000;
  const want = getComputedStyle(e)[q.Property.replace(/-(.)/g, (_, c) => c.toUpperCase())];
  probe.style.cssText = "animation:none;" + q.Value;
  const got = getComputedStyle(probe)[q.Property.replace(/-(.)/g, (_, c) => c.toUpperCase())];
  const x = numbers(got), y = numbers(want);
  if (words(got) !== words(want) || x.some((v, i) => Math.abs(v - y[i]) > Math.max(q.Property.endsWith("color") ? 1 : .02, Math.abs(y[i]) * .004))) wrong.push(q.ID + " " + q.Property + " at " + q.At + ": " + want + ", not " + got + " (" + q.Value + ")");
}
document.body.textContent = JSON.stringify({n: list.length, wrong});
</script>`)
	require.NoError(t, err)
	var got struct {
		N     int
		Wrong []string
	}
	answer, _, _ = strings.Cut(answer, "<script>")
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace(answer)), &got), answer[:min(len(answer), 400)])
	t.Logf("%d computed values of moving boxes: %d differ", got.N, len(got.Wrong))
	require.Greater(t, got.N, 150)
	for _, w := range got.Wrong {
		t.Error(w)
	}
}
