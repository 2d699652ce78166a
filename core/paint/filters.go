package paint

import (
	"ziegel/core/css"
	"ziegel/core/paint/display"
)

// filters reads a list of filter functions (filter-effects-1).
func (p *painter) filters(b *box, v []css.Token) []display.Filter {
	var out []display.Filter
	for _, part := range css.Parts(v) {
		name, args, ok := css.Call(part)
		if !ok {
			continue
		}
		f := display.Filter{Name: name, Amount: 1}
		switch name {
		case "blur":
			f.Amount = 0
			if n, ok := b.read.Px(args); ok {
				f.Amount = max(0, n)
			}
		case "hue-rotate":
			f.Amount = 0
			if a, ok := b.read.Angle(args); ok {
				f.Amount = a
			}
		case "brightness", "contrast", "grayscale", "sepia", "saturate", "invert", "opacity":
			if n, ok := b.read.Number(args); ok && len(args) > 0 {
				f.Amount = max(0, n)
			}
			switch name {
			case "grayscale", "sepia", "invert", "opacity":
				f.Amount = min(1, f.Amount)
			}
		case "drop-shadow":
			sh, ok := p.shadow(b, args)
			if !ok {
				continue
			}
			f.DX, f.DY, f.Amount, f.Color = sh.x, sh.y, sh.blur, sh.color
		default:
			p.miss(b.el, "the filter "+css.Text(part))
			continue
		}
		out = append(out, f)
	}
	return out
}
