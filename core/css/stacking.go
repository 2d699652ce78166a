package css

import (
	"strconv"
	"strings"
)

// Stacking tells how a box with this style takes part in the painting order. z-index counts for positioned boxes and
// for items of flex and grid containers only; that is the caller's to know.
func (s *Style) Stacking() Stacking {
	out := Stacking{Auto: true, Makes: s.Opacity < 1 || s.MakesContaining || s.Position == Fixed ||
		s.Position == Sticky}
	if s.spec == nil {
		return out
	}
	if s.spec.stacking == nil {
		s.spec.stacking = s.spec.readStacking()
	}
	own := *s.spec.stacking
	own.Makes = own.Makes || out.Makes
	return own
}

func (spec *specified) readStacking() *Stacking {
	out := &Stacking{Auto: true}
	value := func(name string) string { return strings.ToLower(Text(spec.values[name])) }
	if n, err := strconv.Atoi(value("z-index")); err == nil {
		out.Z, out.Auto = n, false
	}
	for _, name := range []string{"mix-blend-mode", "mask-image", "clip-path", "-webkit-mask-box-image-source"} {
		v := value(name)
		out.Makes = out.Makes || v != "" && v != "none" && v != "normal" && v != "initial"
	}
	out.Makes = out.Makes || value("isolation") == "isolate"
	for name, words := range map[string][]string{"will-change": {"opacity", "mix-blend-mode", "clip-path", "mask",
		"isolation", "z-index", "position"}, "contain": {"paint", "layout", "strict", "content"}} {
		if d := spec.declared[name]; d != nil {
			v := strings.ToLower(Text(d.value))
			for _, w := range words {
				out.Makes = out.Makes || strings.Contains(v, w)
			}
		}
	}
	return out
}

// RadiusOf reads the radius of a corner as declared, for a box of a width, in 1/64 px.
func RadiusOf(value string, width Px) (Px, bool) {
	parts := split(Tokenize(value))
	if len(parts) == 0 {
		return 0, false
	}
	e, ok := parseExpr(parts[0], exprLengthPercent)
	if !ok {
		return 0, false
	}
	l := e.compute(&unitContext{fontSize: 16, rootSize: 16})
	return l.Resolve(width), true
}
