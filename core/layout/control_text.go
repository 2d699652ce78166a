package layout

import (
	"unicode"

	"ziegel/core/css"
)

// transformed gives a text in the case that text-transform says.
func transformed(how, text string) string {
	var out []rune
	word := false
	for _, r := range text {
		out = append(out, transform(how, r, word)...)
		word = unicode.IsLetter(r) || unicode.IsDigit(r)
	}
	return string(out)
}

// textWidth measures a text in one line of a style.
func (e *Engine) textWidth(s *css.Style, text string) Px { return ceilPx(e.lineWidth(s, text)) }

// TextWidth measures a text in one line of a style, the way fields do that show it.
func (e *Engine) TextWidth(s *css.Style, text string) Px { return e.textWidth(s, text) }

// advance is textWidth before it is rounded, px.
func (e *Engine) advance(s *css.Style, text string) float64 {
	return float64(e.lineWidth(s, text)) / 65536
}

// lineWidth measures a text in one line of a style, 1/65536 px.
func (e *Engine) lineWidth(s *css.Style, text string) int64 {
	list := []rune(text)
	faces := e.fonts.Find(WantOf(s))
	if len(list) == 0 || len(faces) == 0 {
		return 0
	}
	if s.Caps != "normal" {
		return capsWidth(s, faces[0], list)
	}
	pre := faces[0].Shape(list, featuresOf(s)).Prefix(s.FontSize, s.LetterSpacing, s.WordSpacing, list)
	return pre[len(list)]
}

// listed reports a select that shows its options as a list.
func (e *Engine) listed(b *Box) bool {
	_, many := b.el.LookupAttr("multiple")
	return many || attrNumber(b.el, "size") > 1
}
