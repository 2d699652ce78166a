package compare

import (
	"cmp"
	"image"
	"math"
	"runtime"
	"slices"
	"strings"

	draw2 "golang.org/x/image/draw"

	"ziegel/core/draw"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
	"ziegel/core/parallel"
)

// How alike something must be to count as found, -1..1. Edges of the same words set by another renderer reach 0.8.
const (
	sure        = .88
	sameWords   = .76
	samePicture = .6
	sameInSize  = .86 // in another size of type
)

// finder looks for the pieces of a page in the picture of a design.
type finder struct {
	shot   *draw.Shot
	ours   *side
	a, b   pyramid
	ink    [2]*plane // where something is drawn, on the page and in the design
	design *image.RGBA
	pairs  []pair
	claims []geom.Rect
	done   []int // pieces that have been looked for
}

func newFinder(shot *draw.Shot, ours *side, design *image.RGBA) *finder {
	return &finder{shot: shot, ours: ours, design: design, a: newPyramid(ours.pixels), b: newPyramid(design),
		ink:   [2]*plane{edges(ours.pixels), edges(design)},
		pairs: make([]pair, len(ours.pieces))}
}

// all looks for every piece: first what tells most where a block is, then whatever is there as it is, the large before
// the small; in blocks that are there at all, what is there in another size or as something else; last what holds them.
func (f *finder) all() []pair {
	leaves := f.leaves()
	for _, i := range f.anchors(leaves) {
		f.look(i, 2*f.b[0].w, f.b[0].h, sure, true)
	}
	for _, i := range leaves {
		if !f.pairs[i].found {
			_ = f.look(i, 64, 64, sure, false) || f.look(i, 240, 320, sure, false) ||
				f.look(i, 2*f.b[0].w, 400, sure, true)
		}
	}
	gone := f.gone()
	for _, i := range leaves {
		if b := f.blockOf(i); !f.pairs[i].found && !gone[b] && !f.lost(i) {
			f.leaf(i)
		}
		f.done = append(f.done, i)
	}
	for i, p := range f.ours.pieces { // what holds something stands before it
		if p.kind == box || p.kind == block {
			f.holder(i)
		}
	}
	return f.pairs
}

// gone gives the blocks of which next to nothing was found: they are not there, and what looks like a piece of them is
// not theirs.
func (f *finder) gone() map[int]bool {
	all, found := map[int]int{}, map[int]int{}
	for i, p := range f.ours.pieces {
		if p.kind == text || p.kind == picture {
			b := f.blockOf(i)
			all[b]++
			if f.pairs[i].found {
				found[b]++
			}
		}
	}
	out := map[int]bool{}
	for b, n := range all {
		if b < 0 || n < 3 || found[b]*8 > n {
			continue
		}
		out[b] = true
		for i := range f.pairs {
			if f.pairs[i].found && f.blockOf(i) == b {
				f.claims = slices.DeleteFunc(f.claims, func(c geom.Rect) bool { return c == f.pairs[i].there })
				f.pairs[i] = pair{}
			}
		}
	}
	return out
}

// leaves gives texts and pictures, the largest first.
func (f *finder) leaves() []int {
	var out []int
	for i, p := range f.ours.pieces {
		if p.kind == text || p.kind == picture {
			out = append(out, i)
		}
	}
	area := func(i int) float64 { r := f.ours.pieces[i].rect; return r.W() * r.H() }
	slices.SortStableFunc(out, func(i, j int) int { return -cmp.Compare(area(i), area(j)) })
	return out
}

// anchors gives the three largest leaves of each block.
func (f *finder) anchors(leaves []int) []int {
	count := map[int]int{}
	var out []int
	for _, i := range leaves {
		if b := f.blockOf(i); count[b] < 3 {
			count[b]++
			out = append(out, i)
		}
	}
	return out
}

// blockOf gives the block that a piece stands in, -1 for none.
func (f *finder) blockOf(i int) int {
	for i = f.ours.pieces[i].holder; i >= 0; i = f.ours.pieces[i].holder {
		if f.ours.pieces[i].kind == block {
			return i
		}
	}
	return -1
}

// lost reports a leaf whose neighbours in the same box have all been looked for in vain.
func (f *finder) lost(i int) bool {
	n := 0
	for _, j := range f.done {
		if f.ours.pieces[j].holder == f.ours.pieces[i].holder {
			if f.pairs[j].found {
				return false
			}
			n++
		}
	}
	return n >= 2
}

// expected gives how far a piece is thought to be from its place: as its nearest neighbour that was found.
func (f *finder) expected(i int) (dx, dy float64) {
	p := f.ours.pieces[i]
	best := math.Inf(1)
	for j, q := range f.ours.pieces {
		if !f.pairs[j].found || q.kind == box || q.kind == block || j == i {
			continue
		}
		far := apart(p.rect, q.rect)
		if q.holder != p.holder {
			far = far*2 + 100
		}
		if far < best {
			best = far
			dx, dy = f.pairs[j].there.X0-q.rect.X0, f.pairs[j].there.Y0-q.rect.Y0
		}
	}
	return dx, dy
}

// apart gives how far two rectangles lie from each other, CSS px.
func apart(a, b geom.Rect) float64 {
	return math.Hypot(max(0, a.X0-b.X1, b.X0-a.X1), max(0, a.Y0-b.Y1, b.Y0-a.Y1))
}

// leaf looks for a text or a picture that is not there as it is: nearly so, in other sizes, or something else.
func (f *finder) leaf(i int) {
	p := f.ours.pieces[i]
	if p.kind == picture {
		if !f.look(i, 64, 64, samePicture, false) {
			f.other(i)
		}
		return
	}
	if f.sized(i) || f.look(i, 64, 64, sameWords, false) {
		return
	}
	f.other(i)
}

// pixelsOf gives the pixels that a rectangle touches.
func pixelsOf(r geom.Rect) image.Rectangle {
	return image.Rect(int(math.Floor(r.X0)), int(math.Floor(r.Y0)), int(math.Ceil(r.X1)), int(math.Ceil(r.Y1)))
}

// free gives what says whether something of a size may be found at a place: nothing else has been found there.
func (f *finder) free(w, h float64) func(x, y int) bool {
	return func(x, y int) bool {
		r := geom.R(float64(x), float64(y), w, h)
		for _, c := range f.claims {
			if in := c.Intersect(r); !in.Empty() && in.W()*in.H() > .5*min(c.W()*c.H(), w*h) &&
				max(c.W()*c.H(), w*h) < 4*min(c.W()*c.H(), w*h) {
				return false
			}
		}
		return true
	}
}

// look looks for a piece as it is, rx and ry px around where it is expected. alone asks that nothing else looks like
// it.
func (f *finder) look(i, rx, ry int, least float64, alone bool) bool {
	p := f.ours.pieces[i]
	r := pixelsOf(p.rect)
	dx, dy := f.expected(i)
	s, second, ok := find(f.a, f.b, r, around{r.Min.X + int(math.Round(dx)), r.Min.Y + int(math.Round(dy)), rx, ry},
		f.free(p.rect.W(), p.rect.H()))
	if !ok || s.alike < least || alone && second > s.alike-.08 {
		return false
	}
	if p.kind == text && s.alike < sure {
		part, _ := f.ours.pixels.SubImage(r).(*image.RGBA)
		if !f.verified(part, s) {
			return false
		}
	}
	out := pair{found: true, factor: 1, likely: s.alike, seen: allSeen, part: p.rect,
		there: p.rect.Move(float64(s.x-r.Min.X), float64(s.y-r.Min.Y))}
	if p.kind == text && s.alike < .96 && !f.ends(p.rect, out.there, 1) {
		return false // its end stands elsewhere: it is looked for by its beginning
	}
	f.take(i, out)
	return true
}

// bestSize tries a part of a text in all sizes, and gives the place and the size that are most alike, if any are.
func (f *finder) bestSize(part geom.Rect, best spot, at, dx, dy float64) (spot, float64) {
	type result struct {
		spot
		ok bool
	}
	results := make([]result, len(sizes))
	parallel.Each(runtime.GOMAXPROCS(0), len(sizes), func(_, k int) bool {
		factor := sizes[k]
		// its middle stays where its lines are aligned to it
		s, ok := f.inSize(part, factor, around{int(math.Round(part.X0 + dx + part.W()*(1-factor)/2)),
			int(math.Round(part.Y0 + dy)), 96 + int(math.Abs(factor-1)*part.W()), 64})
		results[k] = result{s, ok}
		return true
	})
	for k, r := range results {
		if r.ok && r.alike > max(sameInSize, best.alike) {
			best, at = r.spot, sizes[k]
		}
	}
	return best, at
}

// inSize looks for a part of a text in one size.
func (f *finder) inSize(part geom.Rect, factor float64, where around) (spot, bool) {
	drawn, err := raster.Draw(f.shot.List, raster.Options{Scale: factor, Area: &part, Workers: 1})
	if err != nil {
		return spot{}, false
	}
	s, _, ok := find(newPyramid(drawn), f.b, image.Rect(0, 0, drawn.Rect.Dx(), drawn.Rect.Dy()),
		where, f.free(part.W()*factor, part.H()*factor))
	return s, ok && f.verified(drawn, s)
}

// ends reports a line of a text whose last third was found, too: else it breaks elsewhere.
func (f *finder) ends(here, there geom.Rect, factor float64) bool {
	if here.W() < 60 || factor != 1 {
		return true
	}
	x := here.X0 + here.W()*.66
	end := pixelsOf(geom.Rect{X0: x, Y0: here.Y0, X1: here.X1, Y1: here.Y1})
	t := templateOf(f.a[0], end)
	if t == nil {
		return true
	}
	dx, dy := int(math.Round(there.X0-here.X0)), int(math.Round(there.Y0-here.Y0))
	near := t.search(f.b[0], around{end.Min.X + dx, end.Min.Y + dy, 2, 1}, 1)
	return len(near) > 0 && near[0].alike > .6
}

func (f *finder) take(i int, p pair) {
	f.pairs[i] = p
	f.claims = append(f.claims, p.there)
}

// sizes are those in which a text is looked for that is not there as it is.
var sizes = []float64{1, .95, 1.05, .9, 1.1, .85, 1.15, .8, 1.2, .75, 1.26, 1.33, .7, 1.4, .65, 1.5, .6, 1.6}

// sized looks for a text in other sizes of type: its first line, for the others may break elsewhere.
func (f *finder) sized(i int) bool {
	p := f.ours.pieces[i]
	part := p.first
	if part.W() > 90 && strings.Contains(p.text, " ") { // what still stands on the first line when the text is larger
		part.X1 = part.X0 + max(90, part.W()*.6)
	}
	dx, dy := f.expected(i)
	best, at := spot{}, 0.0
	if r := pixelsOf(part); r.Dx() > 0 { // as it is, anywhere across the page, where only its lines break elsewhere
		s, second, ok := find(f.a, f.b, r,
			around{r.Min.X + int(math.Round(dx)), r.Min.Y + int(math.Round(dy)), 2 * f.b[0].w, 400}, f.free(part.W(),
				part.H()))
		if ok && s.alike > sure && second < s.alike-.08 {
			best, at = s, 1
		}
	}
	if best.alike < .95 {
		best, at = f.bestSize(part, best, at, dx, dy)
	}
	if at == 0 {
		return false
	}
	for step := 1.0; step >= .25; step /= 2 { // by a px of type, then a half, then a quarter
		where, middle := around{best.x, best.y, 12, 12}, at
		for _, factor := range []float64{middle + step/p.size, middle - step/p.size} {
			if s, ok := f.inSize(part, factor, where); ok && s.alike > best.alike {
				best, at = s, factor
			}
		}
	}
	if size := p.size * at; math.Abs(size-p.size) < .4 {
		at = 1
	} else if math.Abs(size-math.Round(size)) < .4 { // type is set in whole px more often than not
		at = math.Round(size) / p.size
	}
	there := geom.R(float64(best.x)-(part.X0-p.first.X0)*at, float64(best.y), p.first.W()*at, part.H()*at)
	out := pair{found: true, factor: at, likely: best.alike, seen: allSeen, there: there, part: part}
	if p.lines > 1 || part.X1 < p.first.X1 && !f.ends(p.first, there, at) {
		out.rewrap = true
		out.there.X1 = out.there.X0 + p.rect.W()*at
		out.there.Y1 = out.there.Y0 + p.rect.H()*max(at, at*at)
		out.seen = [4]bool{true, false, false, p.style.TextAlign == "start" || p.style.TextAlign == "left"}
	}
	f.take(i, out)
	return true
}

// sameInDetail is how alike the sharp edges of the same letters are at least, half a pixel aside or in a size nearby.
// Those of other letters reach 0.4.
const sameInDetail = .55

// verified looks closely at what seemed to be the same letters.
func (f *finder) verified(part *image.RGBA, s spot) bool {
	own := image.NewRGBA(image.Rect(0, 0, part.Rect.Dx(), part.Rect.Dy()))
	draw2.Copy(own, image.Point{}, part, part.Rect, draw2.Src, nil)
	t := templateOf(edges(own), own.Rect)
	if t == nil {
		return false
	}
	best := 0.0
	for dy := -1; dy <= 1; dy++ {
		for dx := -1; dx <= 1; dx++ {
			best = max(best, t.like(f.ink[1], s.x+dx, s.y+dy))
		}
	}
	return best >= sameInDetail
}

// inkEdge is from where on a change between neighbouring pixels belongs to something drawn, of 255.
const inkEdge = 28

// other looks whether something else stands where a piece should be.
func (f *finder) other(i int) {
	p := f.ours.pieces[i]
	dx, dy := f.expected(i)
	r := p.rect.Move(dx, dy)
	around := pixelsOf(r.Grow(12)).Intersect(image.Rect(0, 0, f.b[0].w, f.b[0].h))
	var ink image.Rectangle
	n := 0
	for y := around.Min.Y; y < around.Max.Y; y++ {
		for x := around.Min.X; x < around.Max.X; x++ {
			if f.ink[1].at(x, y) > inkEdge && !f.claimed(x, y) {
				ink = ink.Union(image.Rect(x, y, x+1, y+1))
				n++
			}
		}
	}
	if n < 12 || float64(ink.Dx()) < r.W()*.2 || float64(ink.Dy()) < min(r.H()*.4, 8) {
		return
	}
	f.take(i, pair{found: true, other: true, factor: 1, likely: .3, seen: allSeen, there: geom.R(float64(ink.Min.X),
		float64(ink.Min.Y), float64(ink.Dx()), float64(ink.Dy()))})
}

func (f *finder) claimed(x, y int) bool {
	for _, c := range f.claims {
		if float64(x) >= c.X0-3 && float64(x) <= c.X1+3 && float64(y) >= c.Y0-3 && float64(y) <= c.Y1+3 {
			return true
		}
	}
	return false
}

// holder finds a box or a block by what it holds, and its edges where there are some.
func (f *finder) holder(i int) {
	p := f.ours.pieces[i]
	var dxs, dys []float64
	var bounds, own geom.Rect // of what it holds, there and on the page
	n := 0
	for j := i + 1; j < len(f.ours.pieces); j++ {
		q := f.ours.pieces[j]
		if q.kind == box || q.kind == block || !f.within(j, i) {
			continue
		}
		n++
		if at := f.pairs[j]; at.found && !at.other {
			dxs, dys = append(dxs, at.there.X0-q.rect.X0), append(dys, at.there.Y0-q.rect.Y0)
			bounds, own = bounds.Union(at.there), own.Union(q.rect)
		}
	}
	if n == 0 {
		f.look(i, 120, 160, .8, false)
		return
	}
	if len(dxs) == 0 { // what seemed to stand in its place belongs to something else
		for j := i + 1; j < len(f.pairs); j++ {
			if f.pairs[j].other && f.within(j, i) && n > 1 {
				f.pairs[j] = pair{}
			}
		}
		return
	}
	slices.Sort(dxs)
	slices.Sort(dys)
	r := p.rect.Move(dxs[len(dxs)/2], dys[len(dys)/2])
	out := pair{found: true, factor: 1, likely: float64(len(dxs)) / float64(n), there: r}
	if p.kind == block { // those of a page are as wide as it is
		r.X0, r.X1 = p.rect.X0, p.rect.X1
	}
	ox, oy := f.around(i)
	up := edgeQuery{img: f.design, ours: f.ours.pixels, box: p.rect, guess: r, other: p.rect.Move(ox, oy), own: own,
		inner: bounds, slack: 80}
	if p.holder >= 0 && f.ours.pieces[p.holder].kind == box && f.pairs[p.holder].found {
		up.within, up.holder = &f.pairs[p.holder], f.ours.pieces[p.holder].rect
	}
	for k, v := range [4]float64{own.Y0 - p.rect.Y0, p.rect.X1 - own.X1, p.rect.Y1 - own.Y1, own.X0 - p.rect.X0} {
		up.room[k] = max(-1, min(3, v/2))
	}
	out.there.Y0, out.seen[0] = up.edge(top)
	out.there.X1, out.seen[1] = up.edge(right)
	out.there.Y1, out.seen[2] = up.edge(bottom)
	out.there.X0, out.seen[3] = up.edge(left)
	if p.kind == block {
		out.there.X0, out.there.X1 = p.rect.X0, p.rect.X1
		out.seen[1], out.seen[3] = false, false
	}
	f.pairs[i] = out
}

// around gives how far what stands beside a box in what holds both is from its place.
func (f *finder) around(i int) (dx, dy float64) {
	r, best := f.ours.pieces[i].rect, math.Inf(1)
	for j, q := range f.ours.pieces {
		outside := q.holder == i || q.holder >= 0 && !f.within(i, q.holder)
		fixed := outside || !f.pairs[j].found || f.pairs[j].other || q.kind == box || q.kind == block
		if fixed {
			continue
		}
		if far := apart(q.rect, r); far < best {
			best, dx, dy = far, f.pairs[j].there.X0-q.rect.X0, f.pairs[j].there.Y0-q.rect.Y0
		}
	}
	return dx, dy
}

// within reports a piece that stands in another.
func (f *finder) within(j, i int) bool {
	for h := f.ours.pieces[j].holder; h >= 0; h = f.ours.pieces[h].holder {
		if h == i {
			return true
		}
	}
	return false
}
