package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
)

// declarations are what rules of the test say, by family: shorthands and longhands that meet on one element.
var declarations = map[string][]string{
	"radius": {"border-radius: 3px", "border-radius: 1px 2px / 5px", "border-top-left-radius: 7px",
		"border-start-end-radius: 9px", "-webkit-border-radius: 2px"},
	"shadow": {"box-shadow: 0 0 4px red", "box-shadow: inset 1px 1px blue", "box-shadow: none",
		"-webkit-box-shadow: 0 0 2px lime"},
	"border": {"border: 2px solid red", "border-color: lime blue", "border-top: 3px dashed",
		"border-inline-color: teal", "border-left-color: navy", "border-style: dotted", "border-image: linear-gradient(red, blue) 1"},
	"outline": {"outline: 2px dashed red", "outline-color: blue", "outline: none", "outline-style: auto",
		"outline-width: 5px", "outline-offset: 3px"},
	"decoration": {"text-decoration: underline wavy red", "text-decoration: none", "text-decoration-color: blue",
		"text-decoration-thickness: 3px", "text-decoration: line-through 2px"},
	"transition": {"transition: color .3s ease-in 1s", "transition: all 2s, opacity 1s linear",
		"transition-duration: 5s", "transition-property: width", "transition: none", "-webkit-transition: left 1s steps(2)"},
	"animation": {"animation: sway 2s infinite alternate", "animation-name: drift", "animation-duration: 4s",
		"animation: 1s both paused drift", "animation: none", "animation-range: entry 10% exit 20%"},
	"background": {"background: red", "background: url(a.png) no-repeat 10% 20% / cover, blue",
		"background-color: lime", "background-position: right 3px bottom 4px", "background-position-x: 7px", "background-size: 3px auto",
		"background-clip: text", "background-repeat: repeat-x", "background: center / 4px 5px local content-box linear-gradient(red, blue)", "background-image: none"},
	"mask": {"mask: linear-gradient(red, blue) no-repeat", "mask-image: none", "-webkit-mask-size: 3px",
		"mask-position: 1px 2px", "mask-repeat: repeat-y"},
	"text": {"text-shadow: 1px 1px red", "color: red", "text-shadow: none", "color: var(--none, blue)",
		"-webkit-text-stroke: 1px red", "-webkit-text-stroke-color: blue", "text-underline-offset: 3px", "color: inherit"},
	"pointer": {"cursor: pointer", "pointer-events: none", "user-select: none", "-webkit-user-select: text",
		"caret-color: red", "accent-color: red", "touch-action: none", "cursor: revert"},
	"effects": {"opacity: .5", "filter: blur(2px)", "mix-blend-mode: multiply", "clip-path: circle(50%)",
		"transform: rotate(3deg)", "-webkit-filter: none", "isolation: isolate", "backdrop-filter: blur(1px)", "-webkit-clip-path: none"},
	"font": {"font: italic 700 20px/24px serif", "font-variant: small-caps", "font-feature-settings: \"smcp\"",
		"font-kerning: none", "font-size: 30px", "line-height: 30px", "font-stretch: condensed", "font: 12px serif", "font-variant-numeric: tabular-nums", "font-optical-sizing: none", "font-variation-settings: \"wght\" 300", "font-synthesis: none"},
	"grid": {"grid: auto-flow 1px / 2px", "grid-template: 'a b' 3px / 4px 5px", "grid-auto-rows: 7px",
		"grid-template-columns: 9px", "grid: none", "grid-auto-flow: column", "grid-auto-columns: 11px", "grid-template-areas: 'c'"},
	"columns": {"columns: 2 4px", "column-count: 3", "column-rule: 2px solid red", "column-rule-color: blue",
		"column-width: 7px", "columns: auto"},
	"scroll": {"overscroll-behavior: none contain", "overscroll-behavior-block: auto", "scroll-behavior: smooth",
		"scrollbar-color: red blue", "scroll-margin: 3px", "scroll-margin-inline: 5px"},
	"lists": {"list-style: square inside", "list-style-image: url(a.png)", "list-style: none",
		"list-style-position: outside", "list-style-type: decimal"},
	"breaks": {"break-before: page", "page-break-before: auto", "break-inside: avoid", "page-break-inside: auto",
		"orphans: 4", "widows: 5"},
	"box": {"margin: 3px 4px", "margin-inline: 7px auto", "padding: 5px", "padding-block-end: 9px",
		"margin-left: 11px", "padding: 1px 2px", "inset: 3px", "left: 5px", "inset-inline: 9px"},
	"flex": {"flex: 2", "flex-grow: 3", "flex: none", "flex-flow: column wrap", "flex-direction: row-reverse",
		"flex-basis: 5px", "place-items: center", "align-items: end", "gap: 3px 4px", "row-gap: 5px"},
	"wide": {"all: unset", "color: red", "border-radius: 3px", "box-shadow: 0 0 1px red", "cursor: pointer",
		"border-radius: revert-layer", "box-shadow: initial", "transition: inherit"},
}

// winnersPage writes rules in random layers, of random weight, in random states, for elements that each have a family
// of properties.
func winnersPage(seed int64, families []string, each int) string {
	r := rand.New(rand.NewSource(seed))
	var sheet, body strings.Builder
	sheet.WriteString("@layer low, high;\n")
	for _, f := range families {
		for k := range each {
			name := fmt.Sprintf("%s-%d", f, k)
			fmt.Fprintf(&body, "<p id=%s class=\"%s c\" tabindex=0 data-family=%s>x</p>\n", name, name, f)
			for range 3 + r.Intn(4) {
				d := declarations[f][r.Intn(len(declarations[f]))]
				if r.Intn(6) == 0 {
					d += " !important"
				}
				sel := []string{"." + name, "p." + name, "#" + name, "." + name + ".c", ":where(#" + name + ")",
					"body ." + name}[r.Intn(6)]
				if r.Intn(4) == 0 {
					sel += []string{":focus", ":focus-within", "::before", "::after"}[r.Intn(4)]
				}
				rule := fmt.Sprintf("%s { %s }", sel, d)
				switch r.Intn(5) {
				case 0:
					rule = "@layer low { " + rule + " }"
				case 1:
					rule = "@layer high { " + rule + " }"
				case 2:
					rule = "@media (width >= 300px) { " + rule + " }"
				}
				fmt.Fprintln(&sheet, rule)
			}
		}
	}
	return "<!doctype html><style>" + sheet.String() +
		"p::before, p::after { content: 'y' }</style>\n" + body.String()
}

// The program names the winner of every property as the browser does: the computed value of an element equals that of
// another one which has nothing but the declaration that we say wins.
func TestChromiumAgreesWhoWins(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	var families []string
	for f := range declarations {
		families = append(families, f)
	}
	slices.Sort(families)
	names := map[string][]string{} // longhands of a family
	for f, list := range declarations {
		seen := map[string]bool{}
		for _, d := range list {
			name, _, _ := strings.Cut(d, ":")
			for _, l := range css.Longhands(name) {
				if !seen[l] && l != "all" && !strings.HasPrefix(l, "-webkit-mask") {
					seen[l] = true
					names[f] = append(names[f], l)
				}
			}
		}
	}
	names["wide"] = []string{"color", "border-top-left-radius", "box-shadow", "cursor", "transition-duration"}
	page := winnersPage(1, families, 12)
	file := filepath.Join(t.TempDir(), "page.html")
	require.NoError(t, os.WriteFile(file, []byte(page), 0o666))
	rest, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	focused, err := rest.In("focus", "focus-within", "focus-visible")
	require.NoError(t, err)
	type question struct {
		ID, Pseudo, Name, Says string
		Focus                  bool
	}
	var ask []question
	for _, l := range []*sweep.Prepared{rest, focused} {
		at := l.Engine().Layout(1280)
		for _, e := range l.Doc.Elements {
			f := e.Attr("data-family")
			if f == "" {
				continue
			}
			for _, pseudo := range []string{"", "before", "after"} {
				for _, n := range names[f] {
					q := question{ID: e.ID, Pseudo: pseudo, Name: n, Focus: l == focused}
					ring := false // the browser draws it around what has the focus
					for _, s := range l.Doc.Chain(e, pseudo, at.Of(e).Style, n) {
						if s.Wins && !s.UA {
							q.Says = s.Name + ": " + s.Value
						}
						ring = ring || s.Wins && s.UA && strings.HasPrefix(n, "outline")
					}
					// initial values that other properties decide: a style of none, the text color
					if ring || q.Says == "" && (strings.HasSuffix(n, "-width") || strings.HasSuffix(n, "-color")) {
						continue
					}
					ask = append(ask, q)
				}
			}
		}
	}
	asked, err := json.Marshal(ask)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	style, body, _ := strings.Cut(page, "</style>")
	text, err := browser.Text(ctx, style+`</style><body>`+body+`<script>
const wrong = [], probes = {}, list = `+string(asked)+`;
const probe = q => { // a pseudo-element inherits from its element, and so does what stands for it
  const key = (q.Pseudo ? q.ID : "") + "|" + q.Says;
  if (!(key in probes)) {
    const p = document.createElement(q.Pseudo ? "span" : "p");
    p.style.cssText = q.Says;
    (q.Pseudo ? document.getElementById(q.ID) : document.body).append(p);
    probes[key] = p;
  }
  return probes[key];
};
list.forEach(probe);
let n = 0;
for (const q of list) {
  const e = document.getElementById(q.ID);
  if (q.Focus) e.focus(); else if (document.activeElement) document.activeElement.blur();
  const got = getComputedStyle(e, q.Pseudo ? "::" + q.Pseudo : null).getPropertyValue(q.Name), want = getComputedStyle(probe(q)).getPropertyValue(q.Name);
  n++;
  const once = v => q.Name.startsWith("background") ? v.split(", ")[0] : v; // lists are cut and repeated to the number of pictures
  if (once(got) !== once(want)) wrong.push(JSON.stringify(q) + " is " + got + ", not " + want);
}
document.body.textContent = JSON.stringify({n, wrong});
</script></body>`)
	require.NoError(t, err)
	text, _, _ = strings.Cut(text, "<script>")
	var got struct {
		N     int
		Wrong []string
	}
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace(text)), &got), text[:min(len(text), 400)])
	t.Logf("%d computed values of %d families of properties: %d differ", got.N, len(families), len(got.Wrong))
	require.Greater(t, got.N, 3000)
	for i, w := range got.Wrong {
		if i == 40 {
			break
		}
		assert.Fail(t, w)
	}
}
