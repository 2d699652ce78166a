package layout

import (
	"maps"
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/font"
)

// featuresOf gives the OpenType features of a text. Those of font-feature-settings win (CSS Fonts 4, section 7.2).
func featuresOf(s *css.Style) font.Features {
	tags := s.Features
	if len(tags) == 0 {
		tags = s.Numeric
	} else if len(s.Numeric) > 0 {
		tags = maps.Clone(s.Numeric)
		maps.Copy(tags, s.Features)
	}
	return font.Features{NoKerning: s.NoKerning, NoLigatures: s.NoLigatures || s.LetterSpacing != 0, Tags: tags}
}

func (e *Engine) metrics(s *css.Style) metrics {
	if m, ok := e.met[s.Inherited]; ok {
		return m
	}
	var m metrics
	if faces := e.fonts.Find(WantOf(s)); len(faces) > 0 {
		m = lineMetrics(faces[0], s)
	}
	if len(e.met) > 1<<12 { // fluid type makes new styles at every width
		clear(e.met)
	}
	e.met[s.Inherited] = m
	return m
}

// lineMetrics gives the metrics of a face in a style. Where lines follow each other from the left, what is above a
// baseline stands towards the next line (css-writing-modes-4, section 6.3).
func lineMetrics(f *font.Face, s *css.Style) metrics {
	m := uprightMetrics(f, s)
	if s.Mode == css.VerticalLR {
		m.asc, m.desc, m.above, m.below, m.over, m.under = m.desc, m.asc, m.below, m.above, m.under, m.over
	}
	return m
}

func uprightMetrics(f *font.Face, s *css.Style) metrics {
	a, d, g := f.Metrics(s.FontSize)
	m := metrics{asc: Px(a) * 64, desc: Px(d) * 64}
	if m.letters = m.asc; s.Mode.Central() {
		high := m.asc + m.desc
		m.asc = (high/64 + 1) / 2 * 64 // whole px (measured)
		m.desc = high - m.asc
	}
	m.xHeight = Px(math.Round(f.XHeight * f.Scaled(s.FontSize) / f.Upem * 64))
	m.over, m.under = m.asc, m.desc
	switch over, _, _ := strings.Cut(s.TextEdges, " "); over {
	case "cap":
		m.over = Px(math.Round(f.CapHeight * f.Scaled(s.FontSize) / f.Upem * 64))
	case "ex":
		m.over = m.xHeight
	}
	if strings.HasSuffix(s.TextEdges, "alphabetic") {
		m.under = 0
	}
	if s.LineHeight.Normal {
		top := Px(g/2) * 64
		m.above, m.below = m.asc+top, m.desc+Px(g)*64-top
		return m
	}
	lh := lineHeight(s)
	lead := lh - m.asc - m.desc
	half := Px(math.Floor(float64(lead)/2/64)) * 64 // whole px, downwards, also when negative (measured)
	m.above = m.asc + half
	m.below = lh - m.above
	return m
}

// lineHeight gives the used line height: a number times the rounded font size truncates, a length rounds (measured).
func lineHeight(s *css.Style) Px {
	if s.LineHeight.Length {
		return Px(math.Round(s.LineHeight.Px * 64))
	}
	// browsers keep numbers as percentages (measured: 1.3 times 20 px is 26 px)
	percent := float32(s.LineHeight.Number * 100)
	return css.FromFloat(float64(float32(math.Round(s.FontSize*64)/64) * percent / 100))
}

// usedLineHeight is lineHeight, and what normal comes to.
func (e *Engine) usedLineHeight(s *css.Style) Px {
	if s.LineHeight.Normal {
		m := e.metrics(s)
		return m.above + m.below
	}
	return lineHeight(s)
}
