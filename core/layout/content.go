package layout

import (
	"strings"

	"ziegel/core/css"
)

// contentKids gives the boxes of a generated content: its text, and the pictures in it (css-content-3, section 2).
func (e *Engine) contentKids(b *Box, el *css.Element) []*Box {
	value := b.style.Content
	if !strings.Contains(strings.ToLower(value), "url(") {
		return e.contentTexts(b, el, value, 0)
	}
	var out []*Box
	var run strings.Builder
	flush := func() {
		out = append(out, e.contentTexts(b, el, run.String(), len(out))...)
		run.Reset()
	}
	for _, part := range css.Parts(css.Tokenize(value)) {
		if css.Text(part) == "/" {
			break // what follows is read aloud, not shown
		}
		if src, ok := css.Address(part); ok {
			flush()
			if k := e.pictureBox(b.style, "content", src); k != nil {
				k.parent, k.key = b, pseudoKey{el, b.pseudo + " picture"}
				out = append(out, k)
			}
			continue
		}
		run.WriteString(css.Text(part) + " ")
	}
	flush()
	return out
}

func (e *Engine) contentTexts(b *Box, el *css.Element, value string, n int) []*Box {
	text := e.contentText(el, b.pseudo, value)
	if text == "" {
		return nil
	}
	key := b.pseudo + " text"
	if n > 0 {
		key += strings.Repeat("+", n)
	}
	return []*Box{madeBox(node{kind: textBox, style: b.style, text: text, parent: b, key: pseudoKey{el, key}})}
}
