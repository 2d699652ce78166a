package check

import (
	"cmp"
	"slices"
	"sort"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// What is painted where: the boxes of a layout that show something, and the texts that lie over or under one that
// they do not stand in.

// layer is something that is painted.
type layer struct {
	p     *layout.Fragment
	at    layout.Rect // where it shows, clipped
	end   int         // of the elements inside it: it holds those from its own index to this one
	rank  int         // in the painting order, once something crosses
	own   int         // position in Result.Generated, -1 for the box of an element
	src   string      // of an img
	fixed bool
}

// holds reports that an element stands in the layer.
func (l *layer) holds(e *css.Element) bool {
	return l.own < 0 && e.Index >= l.p.Element.Index && e.Index < l.end
}

// crossing is a text that meets a layer it does not stand in.
type crossing struct {
	text  int // in Result.Boxes
	layer int // in sight.layers
}

// sight is what can be seen at one width.
type sight struct {
	width     int
	layers    []layer
	crossings []crossing
	paint     *layout.Painting // nil when nothing crosses
	grid      bands
	looks     []css.Look // of all boxes, as they were
	paints    []bool     // whether such a box shows anything
	fixed     []bool     // by element
	inks      []int      // boxes with words of their own that show, the lowest end first
	inked     bool       // inks are those of this layout
	// by element: whether a box shows where it ends (1) or not (-1), 0 where nobody has asked since looks changed
	ends []int8
}

// sight looks at a layout, once for all rules that ask.
func (s *Scene) sight(r *layout.Result) *sight {
	v, _ := s.sights.LoadOrStore(r, &sight{})
	at := v.(*sight)
	if at.width != r.Width {
		s.see(r, at)
	}
	return at
}

// inksOf lists the boxes with words of their own that show in a layout, the one that ends lowest first.
func (s *Scene) inksOf(r *layout.Result) []int {
	at := s.sight(r)
	if at.inked {
		return at.inks
	}
	at.inked, at.inks = true, at.inks[:0]
	for i := range r.Boxes {
		if p := &r.Boxes[i]; s.own[p.Element.Index] > 0 && shown(p) && !p.Above {
			at.inks = append(at.inks, i)
		}
	}
	slices.SortFunc(at.inks, func(a, b int) int {
		if n := cmp.Compare(inkBottom(&r.Boxes[b]), inkBottom(&r.Boxes[a])); n != 0 {
			return n
		}
		return b - a
	})
	return at.inks
}

// see fills in what can be seen of a layout; the memory is that of the last one of its engine.
func (s *Scene) see(r *layout.Result, at *sight) {
	at.width, at.layers, at.crossings, at.paint, at.inked = r.Width, at.layers[:0], at.crossings[:0], nil, false
	n := len(r.Boxes) + len(r.Generated)
	if len(at.looks) != n {
		at.looks, at.paints, at.ends = make([]css.Look, n), make([]bool, n), nil
	}
	if at.fixed == nil {
		at.fixed = make([]bool, len(s.l.Doc.Elements))
	}
	for i := range n {
		p, own := placedAt(r, i)
		look := p.Style.Look()
		if look != at.looks[i] {
			at.looks[i], at.paints[i] = look, s.shows(p, look)
			at.ends = nil
		}
		if own < 0 {
			up := p.Element.Parent
			at.fixed[p.Element.Index] = p.Style.Position == css.Fixed || up != nil && at.fixed[up.Index]
		}
		if p.Empty() || !p.Style.Visible || p.Style.Opacity == 0 || !at.paints[i] {
			continue
		}
		l := layer{p: p, at: p.Rect, end: s.end[p.Element.Index], own: own,
			fixed: at.fixed[p.Element.Index] || p.Style.Position == css.Fixed}
		if own < 0 && p.Element.Tag == "img" {
			l.src = p.Element.Attr("src")
		}
		if p.Clipped {
			l.at = l.at.Intersect(p.Clip)
		}
		if l.fixed {
			l.at.Y += s.fixedAt(r, p)
		}
		if !l.at.Empty() {
			at.layers = append(at.layers, l)
		}
	}
	at.cross(s, r)
}

// placedAt gives a box of an element, or behind those a generated one with its position among them.
func placedAt(r *layout.Result, i int) (*layout.Fragment, int) {
	if i < len(r.Boxes) {
		return &r.Boxes[i], -1
	}
	return &r.Generated[i-len(r.Boxes)], i - len(r.Boxes)
}

// fixedAt gives how far down what stays on the screen is looked at: what is held by the lower edge lies over the end
// of the page, which cannot be scrolled away from under it; anything else over its beginning.
func (s *Scene) fixedAt(r *layout.Result, p *layout.Fragment) layout.Px {
	for e := p.Element; e != nil; e = e.Parent {
		b := r.Of(e)
		if b == nil || b.Style.Position != css.Fixed {
			continue
		}
		if b.Style.Inset[css.Top].IsAuto() && !b.Style.Inset[css.Bottom].IsAuto() {
			return r.Height - s.screen()
		}
		return 0
	}
	return 0
}

// screen is the height of the screen.
func (s *Scene) screen() layout.Px {
	if s.l.Height > 0 {
		return layout.Px(s.l.Height) * 64
	}
	return 900 * 64
}

// shows reports whether a box shows something of its own beside text: a ground, or a picture.
func (s *Scene) shows(p *layout.Fragment, look css.Look) bool {
	if p.Pseudo == "" {
		switch p.Element.Tag {
		case "img", "video", "iframe":
			return true
		}
	}
	paint := s.colors.light.Of(look, css.Color{A: 1})
	return paint.Ground.A > 0 || len(paint.Stops)+len(paint.Pictures) > 0
}

// cross finds the texts that meet a layer which they do not stand in.
func (v *sight) cross(s *Scene, r *layout.Result) {
	v.grid.reset(r.Height)
	for i := range v.layers {
		v.grid.add(i, v.layers[i].at)
	}
	for t := range r.Boxes {
		b := &r.Boxes[t]
		if b.Lines == 0 || !shown(b) || b.Element.Index == 0 {
			continue
		}
		y := layout.Px(0)
		if v.fixed[b.Element.Index] {
			y = s.fixedAt(r, b)
		}
		v.grid.each(b.Text.Y+y, b.Text.Bottom()+y, func(i int) {
			l := &v.layers[i]
			if l.holds(b.Element) {
				return
			}
			for _, run := range b.Runs {
				if common := v.ink(b, run, y).Intersect(l.at); common.W > 128 && common.H > 128 {
					v.crossings = append(v.crossings, crossing{t, i})
					return
				}
			}
		})
	}
	if len(v.crossings) == 0 {
		return
	}
	v.paint = r.Painting()
	for i := range v.layers {
		l := &v.layers[i]
		switch {
		case l.own >= 0:
			l.rank = v.paint.Generated[l.own]
		case naming.IsPicture(l.p.Element):
			l.rank = v.paint.Words[r.ByIndex[l.p.Element.Index]]
		default:
			l.rank = v.paint.Ground[r.ByIndex[l.p.Element.Index]]
		}
	}
}

// ink gives where the letters of a line show: fonts keep room above and below them.
func (v *sight) ink(b *layout.Fragment, run layout.Rect, y layout.Px) layout.Rect {
	if b.Cropped {
		run = run.Intersect(b.Window)
	}
	run.Y += run.H/5 + y
	run.H -= run.H * 2 / 5
	return run
}

// bands finds layers by height: each band of the page lists those that reach into it.
type bands struct {
	cells [][]int32
	seen  []int32
	round int32
}

const bandHeight = 192 * 64

func (b *bands) reset(height layout.Px) {
	n := max(1, int(height/bandHeight)+1)
	for len(b.cells) < n {
		b.cells = append(b.cells, nil)
	}
	b.cells = b.cells[:n]
	for i := range b.cells {
		b.cells[i] = b.cells[i][:0]
	}
}

func (b *bands) span(top, bottom layout.Px) (from, to int) {
	last := len(b.cells) - 1
	return min(last, max(0, int(top/bandHeight))), min(last, max(0, int(bottom/bandHeight)))
}

func (b *bands) add(i int, at layout.Rect) {
	from, to := b.span(at.Y, at.Bottom())
	for c := from; c <= to; c++ {
		b.cells[c] = append(b.cells[c], int32(i))
	}
	for len(b.seen) <= i {
		b.seen = append(b.seen, 0)
	}
}

// each calls visit once for every layer that may reach between two heights.
func (b *bands) each(top, bottom layout.Px, visit func(i int)) {
	b.round++
	from, to := b.span(top, bottom)
	for c := from; c <= to; c++ {
		for _, i := range b.cells[c] {
			if b.seen[i] != b.round {
				b.seen[i] = b.round
				visit(int(i))
			}
		}
	}
}

// of lists the crossings of one text.
func (v *sight) of(text int) []crossing {
	from := sort.Search(len(v.crossings), func(i int) bool { return v.crossings[i].text >= text })
	to := from
	for to < len(v.crossings) && v.crossings[to].text == text {
		to++
	}
	return v.crossings[from:to]
}

// alpha tells how much of what lies below a layer it hides at a spot, 0..1, in the light. It is 0 where nobody can
// tell.
func (s *Scene) alpha(r *layout.Result, l *layer, spot layout.Rect) float64 {
	look := l.p.Style.Look()
	paint := s.colors.light.Of(look, css.Color{A: 1})
	if paint.Blended || clipPath(look) {
		return 0
	}
	a := paint.Ground.A
	if n := len(paint.Stops); n > 0 && paint.Band == 0 {
		least := 1.0
		for _, c := range paint.Stops {
			least = min(least, c.A)
		}
		a = max(a, least)
	}
	if l.src != "" {
		a = max(a, s.pictureAlpha(l, paint, spot))
	} else if l.own < 0 && (l.p.Element.Tag == "video" || l.p.Element.Tag == "iframe") {
		a = 1
	}
	a *= l.p.Style.Opacity
	for e := l.p.Element; e != nil; e = e.Parent {
		if e == l.p.Element && l.own < 0 {
			continue
		}
		if b := r.Of(e); b != nil {
			a *= b.Style.Opacity
		}
	}
	return a
}

func clipPath(look css.Look) bool {
	v := strings.ToLower(css.Text(look.Value("clip-path")))
	return v != "" && v != "none"
}

// pictureAlpha gives how much a picture hides under a spot.
func (s *Scene) pictureAlpha(l *layer, paint *css.Paint, spot layout.Rect) float64 {
	pic := s.colors.picture(s, l.src, false)
	if pic.grid == nil {
		return 0
	}
	g := pic.grid
	x0, y0, x1, y1 := 0, 0, g.Columns, g.Rows
	if pic.w > 0 && l.p.Content.W > 0 && l.p.Content.H > 0 {
		x0, y0, x1, y1 = sweep.CellsUnder(spot.Intersect(l.p.Rect),
			sweep.Drawn(l.p.Content, pic.w, pic.h, paint.Fit, paint.Focus), g.Columns, g.Rows)
	}
	sum, n := 0.0, 0
	for y := y0; y < y1; y++ {
		for x := x0; x < x1; x++ {
			sum += float64(g.Cells[y*g.Columns+x].A) / 255
			n++
		}
	}
	if n == 0 {
		return 0
	}
	return sum / float64(n)
}

func inkBottom(p *layout.Fragment) layout.Px {
	if p.Lines > 0 {
		return p.Text.Bottom()
	}
	return p.Bottom()
}
