package layout

import (
	"path"
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

// pictureBox makes an inline box as large as a picture that a property names, nil when it cannot be loaded. Styles do
// not reach it.
func (e *Engine) pictureBox(st *css.Style, property, src string) *Box {
	src, w, h, ok := e.named(st, property, src)
	if !ok {
		return nil
	}
	own := e.styler.Anonymous(st, css.InlineBlock)
	own.Width, own.Height = css.PxLen(w*e.zoom()), css.PxLen(h*e.zoom())
	return madeBox(node{kind: blockBox, style: own, display: css.InlineBlock, bfc: true, shows: src})
}

// named gives the address on the page and the natural size of a picture that a property names by its address from the
// stylesheet.
func (e *Engine) named(st *css.Style, property, src string) (address string, w, h float64, ok bool) {
	if e.opts.Picture == nil || src == "" {
		return src, 0, 0, false
	}
	if sheet, _, known := st.Declared(property); known && !strings.Contains(src, ":") && !strings.HasPrefix(src, "/") {
		if at := path.Dir(sheet.File); at != path.Dir(e.doc.File) {
			if rest, below := strings.CutPrefix(at, path.Dir(e.doc.File)+"/"); below {
				src = path.Join(rest, src)
			}
		}
	}
	w, h, ok = e.opts.Picture(src)
	return src, w, h, ok && w > 0 && h > 0
}
