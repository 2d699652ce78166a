package areas

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Narrow tells the cells that are too narrow for a word that they hold, at the narrowest width of each drawing, and
// from which width on they have room. l is a page on which the section stands alone.
func (d *Drawing) Narrow(f *site.File, l *sweep.Prepared) diag.Problems {
	var out diag.Problems
	engine := l.Engine()
	for i, drawn := range d.Layouts {
		if drawn.At == nil {
			continue
		}
		from, to := max(drawn.From, 320), 2560
		if i+1 < len(d.Layouts) {
			to = d.Layouts[i+1].From - 1
		}
		r := engine.Layout(from)
		for _, c := range d.Cells {
			cell := partNamed(l.Doc, c.Name)
			cut := cutIn(r, cell)
			if cut == nil {
				continue
			}
			room := fmt.Sprintf("it is too narrow up to %d", to)
			for w := from; w <= to; w += 8 {
				if r := engine.Layout(w); cutIn(r, cell) == nil {
					room = fmt.Sprintf("from %d on it has room", w)
					break
				}
			}
			text := fmt.Sprintf(
				"the cell %s has %.0f px at %d, and a word of its %s does not fit: %s",
				c.Name,
				r.Of(cell).W.Float(),
				from,
				cut.Attr("data-part"),
				room,
			)
			out = append(
				out,
				f.Problem(
					drawn.At,
					"narrow-cell",
					text,
					"fewer columns for this range, or a cell that spans more of them",
					"",
				),
			)
		}
	}
	return out
}

// partNamed finds the element of a part on a page with marks.
func partNamed(doc *css.Document, part string) *css.Element {
	for _, e := range doc.Elements {
		if e.Attr("data-part") == part {
			return e
		}
	}
	return nil
}

// cutIn finds an element in a cell of which a line ends inside a word.
func cutIn(r *layout.Result, cell *css.Element) *css.Element {
	if cell == nil || r.Of(cell) == nil {
		return nil
	}
	var found *css.Element
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		if f := r.Of(e); f != nil && f.Cut > 0 && found == nil {
			found = e
		}
		for _, k := range e.Kids() {
			walk(k)
		}
	}
	walk(cell)
	return found
}
