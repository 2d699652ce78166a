package sweep

import (
	"ziegel/core/css"
	"ziegel/core/layout"
)

// OutlineBox is a box worth drawing: a block, or a part in one.
type OutlineBox struct {
	Block string
	Part  string // "" for the block itself
	As    string // the block's arrangement
	layout.Rect
}

// Outline lists the boxes of the watched blocks, outer ones first.
func (l *Prepared) Outline(r *layout.Result) []OutlineBox {
	var out []OutlineBox
	for _, b := range l.Every() {
		p := r.Of(b.Element)
		if p == nil {
			continue
		}
		out = append(out, OutlineBox{Block: b.Name, As: b.Arrangement(r), Rect: p.Rect})
		foreign := b.Element.Attr("data-block") == ""
		var walk func(e *css.Element, depth int)
		walk = func(e *css.Element, depth int) {
			for _, k := range e.Kids() {
				if k.Attr("data-block") != "" {
					continue
				}
				name := k.Attr("data-part")
				if foreign && !k.Foreign && name == "" {
					name = k.Tag
					if len(k.Classes) > 0 {
						name += "." + k.Classes[0]
					}
				}
				d := depth
				if name != "" {
					if p := r.Of(k); p != nil && !p.Empty() {
						d++
						out = append(out, OutlineBox{Block: b.Name, Part: name, Rect: p.Rect})
					}
				}
				if !foreign || d < 3 {
					walk(k, d)
				}
			}
		}
		walk(b.Element, 0)
	}
	return out
}
