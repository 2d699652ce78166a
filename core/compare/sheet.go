package compare

import (
	"fmt"
	"html"
	"image"

	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Sheet shows both sides with a frame and a number at each difference, and what it is beside them. numbers says how the
// numbers are laid out.
func (r *Report) Sheet(numbers layout.Options) *draw.Sheet {
	s := &draw.Sheet{}
	s.Text("h1", fmt.Sprintf("%s and %s, at %d px", r.Page, r.Against, r.Width))
	s.Raw("<div class=row>")
	s.Raw(`<div style="flex:none;width:340px">`)
	for i, d := range r.Differences {
		name := string(d.Kind)
		if d.Address != "" {
			name += "  " + d.Address
		}
		s.Raw(fmt.Sprintf(`<p style="margin-bottom:10px"><b style="font-weight:600">%d  %s</b><br>%s</p>`, i+1,
			html.EscapeString(name), html.EscapeString(d.Text)))
	}
	if len(r.Differences) == 0 {
		s.Text("p", "Nothing differs.")
	}
	s.Raw("</div>")
	one := func(title string, img *image.RGBA, at func(Difference) *geom.Rect) {
		w, h := float64(img.Rect.Dx()), float64(img.Rect.Dy())
		l := &display.List{W: w, H: h, Items: []display.Item{&display.Picture{Image: &display.Bitmap{Name: title,
			Image: img},
			Dst: geom.R(0, 0, w, h)}}}
		for i, d := range r.Differences {
			if q := at(d); q != nil {
				l.Items = append(l.Items, draw.Frame(q.Grow(2), 2))
				l.Items = append(l.Items, draw.Numbered(numbers, i+1, *q)...)
			}
		}
		s.Raw(`<div class=cell><div class=cap><b>` + html.EscapeString(title) + `</b></div>` +
			s.Picture(l, geom.R(0, 0, w, h), w*.6) + `</div>`)
	}
	one(r.Page, r.Ours, func(d Difference) *geom.Rect { return d.Where })
	one(r.Against, r.Theirs, func(d Difference) *geom.Rect { return d.There })
	s.Raw("</div>")
	return s
}
