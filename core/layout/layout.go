// Package layout places the boxes of one styled page at one viewport width: block and inline flow, Flexbox, Grid,
// positioned and replaced boxes, as browsers do, in whole 1/64 px. What it does not model it leaves to
// css.Document.Unsupported to report. It reads no files and draws nothing. An [Engine] keeps what does not depend on
// the width and is for one goroutine.
package layout

import (
	"maps"
	"slices"

	"ziegel/core/css"
)

// New returns an engine for a document.
func New(doc *css.Document, opts Options) *Engine {
	if opts.Height == 0 {
		opts.Height = 900
	}
	e := &Engine{doc: doc, styler: css.NewStyler(doc), fonts: opts.Fonts, opts: opts, paras: map[paraKey]*para{},
		boxes: make([]*Box, len(doc.Elements)), nature: make([]*[3]float64, len(doc.Elements)),
		met: map[*css.Inherited]metrics{}, pseudos: map[pseudoKey]*Box{}}
	e.styler.Face = func(s *css.Style) css.FaceUnits {
		faces := e.fonts.Find(WantOf(s))
		if len(faces) == 0 {
			return css.FaceUnits{Zero: s.FontSize / 2, X: s.FontSize / 2, Cap: s.FontSize * .7,
				Line: s.FontSize * 1.2}
		}
		f := faces[0]
		a, d, g := f.Metrics(s.FontSize)
		return css.FaceUnits{Zero: f.ZeroWidth(s.FontSize), X: f.XHeight * f.Scaled(s.FontSize) / f.Upem,
			Cap: f.CapHeight * f.Scaled(s.FontSize) / f.Upem, Line: float64(a + d + g),
			ZeroShare: f.Aspect("ch-width"), IdeographShare: f.Aspect("ic-width")}
	}
	return e
}

// ReplacedFonts lists, sorted, the families that the pages laid out so far asked for and that are not there.
func (e *Engine) ReplacedFonts() []string { return slices.Sorted(maps.Keys(e.fonts.Replaced())) }

// Layout places all boxes at a viewport width in CSS px.
func (e *Engine) Layout(width int) *Result {
	e.width, e.height = e.px(float64(width-e.opts.Scrollbar)), e.px(float64(e.opts.Height))
	e.styler.SetMedia(css.Media{Width: width, Height: e.opts.Height, Dark: e.opts.Dark, Text: e.opts.Text,
		Zoom: e.opts.Zoom})
	e.pass++
	e.recounted = e.count()
	root := e.rootBox()
	if root == nil {
		return &Result{Width: width, ByIndex: e.none(nil), styler: e.styler}
	}
	e.root = root
	root.display = css.Blockify(root.display)
	root.bfc = true
	for {
		floating := e.floating
		e.layout(root, space{cbW: e.width, cbH: e.height, defCB: true})
		root.X, root.Y = root.margin[css.Left], root.margin[css.Top]
		if root.rtl() {
			root.X = e.width - root.W - root.margin[css.Right]
		}
		e.placeAbsolutes(root)
		if e.floating == floating {
			break
		}
		root.outdate() // the first float was found on the way
	}
	return e.finish(root, width)
}

// outdate has all that is in a box laid out again.
func (b *Box) outdate() {
	b.valid = false
	for _, k := range b.kids {
		k.outdate()
	}
}

// rootBox makes the box of the root element, or readies the last one for this width.
func (e *Engine) rootBox() *Box {
	el := e.doc.Root
	st := e.styler.Style(el, e.styler.Root(), nil)
	old := e.root
	reusable := old != nil && old.version == old.style.Version && st.Display != css.None &&
		old.style.Display == st.Display && !old.unboxed
	if reusable {
		if old.style != st || old.version != st.Version {
			e.restyle(old, st)
		}
		old.valid = false
		if ok, ch := e.update(old, el, st, nil); ok {
			old.sized = old.sized && !ch
			return old
		}
	}
	return e.element(el, e.styler.Root(), nil)
}

// Recycle takes a result back whose caller is done with it and with all that it points to: its memory serves for a
// later one.
func (e *Engine) Recycle(r *Result) { e.spare = r }
