package layout

import (
	"path"
	"strings"

	"ziegel/core/css"
)

// pictureBox makes an inline box as large as a picture that a property names, nil when it cannot be loaded. Styles do
// not reach it.
func (e *Engine) pictureBox(st *css.Style, property, src string) *Box {
	src, w, h, ok := e.named(st, property, src)
	if !ok {
		return nil
	}
	own := e.styler.Anonymous(st, css.InlineBlock)
	own.Width, own.Height = css.PxLen(w*st.ZoomFactor()), css.PxLen(h*st.ZoomFactor())
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
