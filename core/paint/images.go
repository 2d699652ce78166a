package paint

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// image reads an image value, nil when it cannot be drawn.
func (p *painter) image(b *box, v []css.Token) *image {
	name, args, ok := css.Call(v)
	if !ok {
		return nil
	}
	switch {
	case name == "url":
		return p.file(b, css.Unquote(css.Text(args)))
	case strings.HasSuffix(name, "gradient"):
		build := p.gradient(b, name, args)
		if build == nil {
			p.miss(b.el, "a gradient: "+css.Text(v))
			return nil
		}
		return &image{gradient: func(at geom.Rect) display.Brush { return build(at) },
			draw: func(at geom.Rect) []display.Item {
				r := at
				return []display.Item{&display.Fill{Rect: &r, Brush: build(at)}}
			}}
	case name == "image-set" || name == "-webkit-image-set":
		for _, choice := range css.SplitCommas(args) {
			parts := css.Parts(choice)
			if len(parts) == 0 {
				continue
			}
			if text := css.Text(parts[0]); strings.HasPrefix(text, `"`) || strings.HasPrefix(text, "'") {
				return p.file(b, css.Unquote(text))
			}
			return p.image(b, parts[0])
		}
	}
	p.miss(b.el, "the image "+css.Text(v))
	return nil
}
