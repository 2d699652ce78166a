// Package layout places the boxes of one styled page at one viewport width: block and inline flow, Flexbox, Grid,
// positioned and replaced boxes, as browsers do, in whole 1/64 px. What it does not model it leaves to
// css.Document.Unsupported to report. It reads no files and draws nothing. An [Engine] keeps what does not depend on
// the width and is for one goroutine.
package layout

import (
	"ziegel/core/css"
	"ziegel/core/font"
)

// Px is a length in 1/64 CSS px.
type Px = css.Px

// Options are the surroundings of a page.
type Options struct {
	Fonts *font.Set
	// Picture gives the natural size of a picture in CSS px; ok is false when it cannot be loaded.
	Picture func(src string) (w, h float64, ok bool)
	Height  int // viewport height, CSS px; 0 means 900
	// Scrollbar is what a scrollbar takes of the width, CSS px. Conditions and units of the viewport count it in.
	Scrollbar int
	Dark      bool
	Text      float64 // size of text that nothing sets, CSS px; 0 means 16
}

// Rect is a rectangle in page coordinates.
type Rect struct{ X, Y, W, H Px }

// Right gives the right edge.
func (r Rect) Right() Px { return r.X + r.W }

// Bottom gives the lower edge.
func (r Rect) Bottom() Px { return r.Y + r.H }

// Empty reports a rectangle without area.
func (r Rect) Empty() bool { return r.W <= 0 || r.H <= 0 }

func (r Rect) union(o Rect) Rect {
	if r == (Rect{}) {
		return o
	}
	x, y := min(r.X, o.X), min(r.Y, o.Y)
	return Rect{x, y, max(r.Right(), o.Right()) - x, max(r.Bottom(), o.Bottom()) - y}
}

// Intersect gives the common area, empty when there is none.
func (r Rect) Intersect(o Rect) Rect {
	x, y := max(r.X, o.X), max(r.Y, o.Y)
	return Rect{x, y, max(0, min(r.Right(), o.Right())-x), max(0, min(r.Bottom(), o.Bottom())-y)}
}

// Placed is the box of one element.
type Placed struct {
	Element *css.Element
	Pseudo  string // before or after: a generated box of the element
	Style   *css.Style
	Rect           // border box as getBoundingClientRect gives it, nothing scrolled
	Lines   int    // line boxes that the element's own text takes
	Text    Rect   // around the element's own text, as it is laid out, clipped by nothing
	Runs    []Rect // each line of the element's own text
	Cut     int    // lines of it that end inside a word
	Clip    Rect   // what ancestors let through; zero when nothing clips
	Clipped bool   // Clip is in force
	Window  Rect   // what ancestors and the box itself let through of its own text; zero when nothing clips
	Cropped bool   // Window is in force
	Scrolls bool   // what Window cuts off can be scrolled to
	Above   bool   // out of flow: fixed, absolute or sticky
	Content Rect   // content box
}

// Result is a page laid out at one width. Its styles hold until the engine has laid out twice more.
type Result struct {
	Width    int
	Height   Px // scroll height of the document
	Overflow Px // how far it scrolls sideways
	Boxes    []Placed
	// Generated are the boxes of ::before and ::after, without their text.
	Generated []Placed
	Widest    *css.Element // the element that reaches furthest right, when Overflow is above 0
	ByIndex   []int        // element index to position in Boxes, -1 for none

	slab   []Rect // memory for Runs
	styler *css.Styler
}

// Of returns the box of an element, nil when it has none.
func (r *Result) Of(e *css.Element) *Placed {
	if i := r.ByIndex[e.Index]; i >= 0 {
		return &r.Boxes[i]
	}
	return nil
}

// DarkLook gives the look of a box for those who ask for dark colors, parent being that of its parent. It holds as
// long as the result.
func (r *Result) DarkLook(p *Placed, parent css.Look) css.Look {
	return r.styler.DarkLook(p.Element, p.Pseudo, p.Style, parent)
}

// DarkState tells apart the widths at which looks may have different twins in the dark.
func (r *Result) DarkState() uint64 { return r.styler.DarkState() }

// scratch is memory that one layout after the other uses.
type scratch struct {
	tops   [][]Px
	plan   []planState
	spans  []Px
	cand   []cursor
	pieces []piece
	onLine []*openBox
	tracks []gridTrack
	bases  []Px
	wide   []span // items over several tracks
	flexes []span // items in flexible tracks
}

// Engine lays one document out at any width.
type Engine struct {
	doc      *css.Document
	styler   *css.Styler
	fonts    *font.Set
	opts     Options
	width    Px
	height   Px
	root     *Box
	paras    map[paraKey]*para
	nature   []*[3]float64 // natural sizes of replaced elements
	boxes    []*Box        // of each element at the last width
	met      map[*css.Inherited]metrics
	percents int // how often a percentage of a height was looked at

	pseudos   map[pseudoKey]*Box // the generated boxes there are
	counted   map[pseudoKey]*counted
	need      Px   // the least width at which a line of the paragraph at work would hold more
	cut       bool // a line of it ends inside a word
	hyphen    hyphenOf
	recounted bool   // since the last width
	counting  []bool // elements that may count, by index; nil until asked
	pass      int    // counts layouts
	scratch   scratch
	spare     *Result
}

// New returns an engine for a document.
func New(doc *css.Document, opts Options) *Engine {
	if opts.Height == 0 {
		opts.Height = 900
	}
	e := &Engine{doc: doc, styler: css.NewStyler(doc), fonts: opts.Fonts, opts: opts, paras: map[paraKey]*para{}, boxes: make([]*Box, len(doc.Elements)), nature: make([]*[3]float64, len(doc.Elements)), met: map[*css.Inherited]metrics{}, pseudos: map[pseudoKey]*Box{}}
	e.styler.Face = func(s *css.Style) css.FaceUnits {
		faces := e.fonts.Find(WantOf(s))
		if len(faces) == 0 {
			return css.FaceUnits{Zero: s.FontSize / 2, X: s.FontSize / 2, Cap: s.FontSize * .7, Line: s.FontSize * 1.2}
		}
		f := faces[0]
		a, d, g := f.Metrics(s.FontSize)
		return css.FaceUnits{Zero: f.ZeroWidth(s.FontSize), X: f.XHeight * s.FontSize / f.Upem, Cap: f.CapHeight * s.FontSize / f.Upem, Line: float64(a + d + g)}
	}
	return e
}

// WantOf describes the face that a style asks for.
func WantOf(s *css.Style) font.Want {
	return font.Want{Families: s.FontFamily, Weight: s.FontWeight, Stretch: s.FontStretch, Italic: s.Italic, Slant: s.Slant, Size: s.FontSize, NoSize: s.NoOptical, Axes: s.Variations}
}

// Layout places all boxes at a viewport width in CSS px.
func (e *Engine) Layout(width int) *Result {
	e.width, e.height = Px(width-e.opts.Scrollbar)*64, Px(e.opts.Height)*64
	e.styler.SetMedia(css.Media{Width: width, Height: e.opts.Height, Dark: e.opts.Dark, Text: e.opts.Text})
	e.pass++
	e.recounted = e.count()
	root := e.rootBox()
	if root == nil {
		return &Result{Width: width, ByIndex: e.none(nil), styler: e.styler}
	}
	e.root = root
	root.display = css.Blockify(root.display)
	root.bfc = true
	e.layout(root, space{cbW: e.width, cbH: e.height, defCB: true})
	root.X, root.Y = root.mar[css.Left], root.mar[css.Top]
	e.placeAbsolutes(root)
	return e.finish(root, width)
}

// rootBox makes the box of the root element, or readies the last one for this width.
func (e *Engine) rootBox() *Box {
	el := e.doc.Root
	st := e.styler.Style(el, e.styler.Root(), nil)
	if old := e.root; old != nil && old.version == old.style.Version && st.Display != css.None && old.style.Display == st.Display && !old.unboxed {
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

func (e *Engine) none(spare []int) []int {
	out := grown(&spare, len(e.doc.Elements))
	for i := range out {
		out[i] = -1
	}
	return out
}
