package layout

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"ziegel/core/css"
)

// letterBefore reports that the text of a positioned box goes on in a word as far as text-transform is concerned: a
// browser looks at what is before the box in the page, however far away that is shown (measured: "new" is not
// capitalized after <h2>Kites</h2>).
func (e *Engine) letterBefore(b *Box) bool {
	if !b.off || b.el == nil || b.pseudo != "" {
		return false
	}
	for el := b.el; el != nil && el.Parent != nil; el = el.Parent {
		if k := e.boxes[el.Index]; k == nil || !k.off && k.kind != inlineBox {
			return false
		}
		up := el.Parent
		lines := hasLines(up)
		for i := len(up.Children) - 1; i >= 0; i-- {
			c := &up.Children[i]
			if c.Element == el {
				for i--; i >= 0; i-- {
					if r, ok := e.lastLetter(&up.Children[i], lines); ok {
						return inWord(r)
					}
				}
			}
		}
	}
	return false
}

// lastLetter gives the last letter of what stands in a child, 0 for one without text; ok is false when it has no box.
func (e *Engine) lastLetter(c *css.Child, lines bool) (r rune, ok bool) {
	if c.Element == nil {
		if text := strings.TrimSpace(c.Text); text == "" {
			return ' ', lines && c.Text != ""
		}
		r, _ = utf8.DecodeLastRuneInString(c.Text)
		return r, true
	}
	k := e.boxes[c.Element.Index]
	if k == nil {
		return 0, false
	}
	within := hasLines(c.Element)
	for i := len(c.Element.Children) - 1; i >= 0; i-- {
		if r, ok := e.lastLetter(&c.Element.Children[i], within); ok {
			return r, true
		}
	}
	return 0, !k.off && k.kind != inlineBox
}

// hasLines reports an element with text of its own that is more than white space: white space in it is shown, too.
func hasLines(el *css.Element) bool {
	for i := range el.Children {
		if el.Children[i].Element == nil && strings.TrimSpace(el.Children[i].Text) != "" {
			return true
		}
	}
	return false
}

// inWord reports a letter after which a word goes on.
func inWord(r rune) bool {
	return unicode.IsLetter(r) || unicode.IsDigit(r) || r == '\'' || r == '\u2019' || r == '_'
}
