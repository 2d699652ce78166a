package paint

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// text draws a text element: each line of it from its own place on.
func (d *drawing) text(n *node) []display.Item {
	if d.file {
		d.p.miss(d.box.el, "letters in a picture file are set in the fonts of the page")
	}
	x, y := n.length("x", 0, 0), n.length("y", 1, 0)
	var out []display.Item
	var walk func(n *node)
	walk = func(n *node) {
		if v := n.value("x"); v != nil {
			x = n.length("x", 0, x)
		}
		if v := n.value("y"); v != nil {
			y = n.length("y", 1, y)
		}
		x, y = x+n.length("dx", 0, 0), y+n.length("dy", 1, 0)
		for _, c := range n.el.Children {
			if c.Element != nil {
				if c.Element.Tag == "tspan" || c.Element.Tag == "a" {
					walk(n.child(d, c.Element))
				} else if c.Element.Tag == "textPath" {
					d.p.miss(d.box.el, "text along a path")
				}
				continue
			}
			words := strings.Join(strings.Fields(c.Text), " ")
			if words == "" {
				continue
			}
			st := d.letters(n)
			t := d.p.e.DrawText(st, words)
			width := t.Rect.W.Float()
			at := x
			switch n.word("text-anchor") {
			case "middle":
				at -= width / 2
			case "end":
				at -= width
			}
			t.Rect.X, t.Base = css.FromFloat(at), css.FromFloat(y)
			brush, ok := d.brush(n, "fill", geom.RectPath(geom.R(at, y, width, 1))).(display.Solid)
			if ok {
				run := d.p.run(&box{Drawn: &layout.Drawn{Style: st}, read: n.read}, &t)
				run.Color = css.Color(brush)
				out = append(out, run)
			}
			x = at + width
		}
	}
	walk(n)
	return out
}

// letters gives the style of a text with what its attributes say.
func (d *drawing) letters(n *node) *css.Style {
	st := *n.style
	inh := *st.Inherited
	inh.FontSize /= d.zoom
	inh.LetterSpacing, inh.WordSpacing = inh.LetterSpacing/d.zoom, inh.WordSpacing/d.zoom
	if v := n.value("font-size"); v != nil {
		if l, ok := n.read.Length(v); ok {
			inh.FontSize = l.At(inh.FontSize)
		}
	}
	if v := n.value("font-weight"); v != nil {
		switch w := css.Word(v); w {
		case "bold":
			inh.FontWeight = 700
		case "normal":
			inh.FontWeight = 400
		default:
			if f, ok := n.read.Number(v); ok && w == "" {
				inh.FontWeight = f
			}
		}
	}
	for at := n; at != nil; at = at.up {
		if a, ok := at.el.LookupAttr("font-family"); ok {
			inh.FontFamily = nil
			for _, f := range strings.Split(a, ",") {
				inh.FontFamily = append(inh.FontFamily, strings.Trim(strings.TrimSpace(f), `"'`))
			}
			break
		}
	}
	st.Inherited = &inh
	return &st
}
