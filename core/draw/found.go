package draw

import (
	"fmt"
	"html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/sweep"
)

// Mark is something to point out on a page at one width.
type Mark struct {
	Path  string // of the element, from body
	Width int    // CSS px
	Title string // in a few words
	Text  string
	Bad   bool // an error
}

// Found shows what was found on a page: each in a frame with its number, at the width at which it is worst, and what it
// is beside it.
func Found(s *Sheet, l *sweep.Prepared, marks []Mark, numbers layout.Options, how Look) error {
	by := map[string]*css.Element{}
	for _, el := range l.Doc.Elements {
		by[el.Path()] = el
	}
	var widths []int
	at := map[int][]int{}
	for i, m := range marks {
		if at[m.Width] == nil {
			widths = append(widths, m.Width)
		}
		at[m.Width] = append(at[m.Width], i)
	}
	s.Text("h2", l.Name)
	for _, w := range widths {
		shot, err := Of(l, w, Target{}, how)
		if err != nil {
			return err
		}
		list := *shot.List
		list.Items = append([]display.Item(nil), list.Items...)
		var span geom.Rect
		for _, i := range at[w] {
			el := by[marks[i].Path]
			if el == nil {
				continue
			}
			r, ok := shot.box(el)
			if !ok {
				continue
			}
			list.Items = append(list.Items, Frame(r.Grow(2), 3))
			list.Items = append(list.Items, Numbered(numbers, i+1, r)...)
			span = span.Union(r)
		}
		own := *shot
		own.List = &list
		if !span.Empty() { // what lies around it, not the whole page
			own.Area = geom.Rect{X1: max(float64(w), min(span.X1+40, float64(w)+400)), Y0: max(0, span.Y0-160),
				Y1: min(list.H, span.Y1+160)}
		}
		s.Raw(`<div class="row group">`)
		s.Shot(&own, fmt.Sprintf("at %d", w), "", min(560, own.Area.W()))
		s.Raw(`<div style="flex:none;width:380px">`)
		for _, i := range at[w] {
			class := ""
			if marks[i].Bad {
				class = " class=note"
			}
			s.Raw(fmt.Sprintf(`<p%s style="margin-bottom:10px"><b style="font-weight:600">%d  %s</b><br>%s</p>`, class,
				i+1,
				html.EscapeString(marks[i].Title), html.EscapeString(marks[i].Text)))
		}
		s.Raw("</div></div>")
	}
	return nil
}

// Numbered gives a number at the corner of a rectangle.
func Numbered(o layout.Options, n int, r geom.Rect) []display.Item {
	return written(o, fmt.Sprintf(`<b style="display:block;width:max-content;min-width:22px;padding:0 6px;border-radius:11px;background:#d32159;color:#fff;font:600 13px/22px 'Hanken Grotesk';text-align:center">%d</b>`, n),
		max(0, r.X0-11), max(0, r.Y0-11))
}

// written lays a few words out, as an element says, and paints them at a place.
func written(o layout.Options, element string, x, y float64) []display.Item {
	doc, err := css.Load(css.Source{File: "number", HTML: "<!doctype html><style>body{margin:0}</style>" + element})
	if err != nil {
		return nil
	}
	e := layout.New(doc, o)
	res := e.Layout(400)
	list := paint.Page(e, res, paint.Options{Only: doc.Body.Kids()[0]})
	g := display.Plain(list.Items...)
	g.Matrix = geom.Translate(x, y)
	return []display.Item{g}
}
