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
func (e *Engine) textWidth(s *css.Style, text string) Px {
	list := []rune(text)
	faces := e.fonts.Find(WantOf(s))
	if len(list) == 0 || len(faces) == 0 {
		return 0
	}
	if s.Caps != "normal" {
		return ceilPx(capsWidth(s, faces[0], list))
	}
	pre := faces[0].Shape(list, featuresOf(s)).Prefix(s.FontSize, s.LetterSpacing, s.WordSpacing, list)
	return ceilPx(pre[len(list)])
}

// listed reports a select that shows its options as a list.
func (e *Engine) listed(b *Box) bool {
	_, many := b.el.LookupAttr("multiple")
	return many || attrNumber(b.el, "size") > 1
}
