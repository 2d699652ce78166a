package check_test

import (
	"math"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/measure"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// gutterAt is the theme's space.gutter at a screen width, CSS px: 1.25rem at 360 to 3rem at 1280.
func gutterAt(width int) float64 {
	return math.Min(48, math.Max(20, 20+float64(width-360)*28/920))
}

// TestTextKeepsToTheLanes sweeps a page with every section, with parts that run to the edge, a flipped side, open
// edges, grounds inside a lane and a wider gap: no text comes nearer to the screen's edge than the gutter, and the
// content of every block begins or ends on the line of the body lane that the others keep to, to 1/64 px.
func TestTextKeepsToTheLanes(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps sections")
	}
	e := testsite.With(t, `title: Lanes
blocks:
  - {name: menu, section: nav/bar}
  - {name: right, section: hero/beside}
  - {name: left, section: hero/beside, options: {media: left, ratio: "1:2"}, tone: deep}
  - name: wide
    section: hero/beside
    options: {reach: body}
    style: {media: {lane: middle..wide}}
  - name: turned
    section: hero/beside
    options: {media: left, gap: 6rem}
    style: {media: {lane: middle..edge}}
    below: 0
  - {name: cards, section: features/cards, tone: tinted, above: 0, options: {look: boxed}}
  - {name: plans, section: pricing/plans, ground: {picture: festival.svg, inside: wide}}
  - {name: voices, section: testimonials/row, ground: {color: "{color.surface}", inside: body}}
  - {name: foot, section: footer/columns, tone: deep}
`)
	page, problems := measure.Page(e, e.Site.Page("home"), compose.Options{Marks: true})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(e, page)
	require.NoError(t, err)
	var mu sync.Mutex
	failed := 0
	l.Each(240, 2560, func(w int, r *layout.Result) {
		gutter := gutterAt(w)
		body := math.Min(float64(w)-2*gutter, 1152)
		start := layout.Px(0)
		for _, b := range l.Blocks {
			left, right := layout.Px(math.MaxInt32), layout.Px(0)
			for i := range r.Boxes {
				p := &r.Boxes[i]
				if !under(p.Element, b.Element) || p.Lines == 0 || p.Above && b.Name != "menu" ||
					hiddenMenu(p.Element) || p.Cropped && p.Window.W <= 64 {
					continue
				}
				left, right = min(left, p.Text.X), max(right, p.Text.Right())
			}
			edges := [2]layout.Px{layout.Px(math.MaxInt32), 0}
			for _, k := range b.Element.Kids()[0].Kids() {
				for _, x := range append([]*css.Element{k}, k.Kids()...) {
					if p := r.Of(x); p != nil && (x.Attr("data-part") == "words" ||
						x.Attr("data-part") != "" && x.Attr("data-part") != "media" &&
							x.Attr("data-part") != "halves" && x.Parent == b.Element.Kids()[0]) {
						edges[0], edges[1] = min(edges[0], p.X), max(edges[1], p.Right())
					}
				}
			}
			mu.Lock()
			if start == 0 {
				start = layout.Px(math.Round((float64(w) - body) / 2 * 64))
			}
			meets := abs(edges[0]-start) <= 1 || abs(edges[1]-(layout.Px(w*64)-start)) <= 1
			if left.Float() < gutter-.06 || right.Float() > float64(w)-gutter+.06 || !meets {
				if failed++; failed < 8 {
					assert.Fail(t, "off the lanes", "%s at %d: text %v..%v, content %v..%v, gutter %v, body from %v",
						b.Name, w, left.Float(), right.Float(), edges[0].Float(), edges[1].Float(), gutter,
						start.Float())
				}
			}
			mu.Unlock()
		}
	})
	assert.Zero(t, failed)
}

func abs(p layout.Px) layout.Px { return max(p, -p) }

func under(e, outer *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if e == outer {
			return true
		}
	}
	return false
}

func hiddenMenu(e *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if _, ok := e.LookupAttr("popover"); ok {
			return true
		}
	}
	return false
}
