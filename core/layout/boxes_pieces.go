package layout

import (
	"slices"

	"ziegel/core/css"
)

// pieceKey finds what was measured of a piece of an inline box again at other widths.
type pieceKey struct {
	el *css.Element
	n  int
}

// breaks makes an inline box that holds blocks ready for what is around it (CSS 2, section 9.2.1.1): one that holds
// nothing else, and has no edges at its ends, becomes a block; any other will be broken into pieces around its blocks.
func (b *Box) breaks(kids []*Box) {
	mixed := b.el == nil
	for _, k := range kids {
		mixed = mixed || k.inlineLevel() && !k.space() && !k.aside()
	}
	if b.el != nil && (mixed || endEdges(b.style)) {
		b.broken, b.unboxed = true, true
		return
	}
	b.kind, b.display = blockBox, css.Block // its parts fill the line
	b.style, b.unboxed = unboxed(b.style), true
}

// unboxed gives the style of an inline box that became a block: without edges.
func unboxed(s *css.Style) *css.Style {
	c := *s
	for i := range 4 {
		c.Margin[i], c.Padding[i], c.BorderStyle[i] = css.Zero, css.Zero, "none"
	}
	c.Display = css.Block
	return &c
}

// endEdges reports a style with margins, borders or padding before or behind its lines.
func endEdges(s *css.Style) bool {
	for _, side := range []int{css.Left, css.Right} {
		if !s.Margin[side].IsZero() || !s.Padding[side].IsZero() || s.BorderStyle[side] != "none" {
			return true
		}
	}
	return false
}

// pieces breaks the inline boxes among the children of a block container that hold blocks: the blocks become its
// children, each piece between two blocks an inline box of the same element. The edges of the element are those of its
// first and last piece.
func pieces(kids []*Box) []*Box {
	if !slices.ContainsFunc(kids, func(k *Box) bool { return k.broken }) {
		return kids
	}
	var out []*Box
	for _, k := range kids {
		if k.broken {
			out = append(out, piecesOf(k)...)
		} else {
			out = append(out, k)
		}
	}
	return out
}

func piecesOf(b *Box) []*Box {
	var out, run []*Box
	n := 0
	flush := func(last bool) {
		filled := slices.ContainsFunc(run, func(k *Box) bool { return !k.space() && !k.silent })
		if n == 0 || filled || last {
			p := b.piece(n, last, run)
			p.silent = !filled && !endEdges(p.style)
			out = append(out, p)
			n++
		}
		run = nil
	}
	for _, k := range pieces(b.kids) {
		if k.inlineLevel() || k.aside() {
			run = append(run, k)
			continue
		}
		flush(false)
		k.inside = append(k.inside, b)
		out = append(out, k)
	}
	flush(true)
	return out
}

// piece makes the nth piece of a broken inline box with some of its children. The first is the box itself.
func (b *Box) piece(n int, last bool, kids []*Box) *Box {
	p := b
	if n > 0 {
		p = madeBox(node{kind: inlineBox, el: b.el, display: css.Inline, key: pieceKey{b.el, n}, pieceOf: b})
		p.stack, p.version = b.stack, b.version
	} else {
		b.pieceOf, b.unbroken = b, b.style
	}
	from, to := css.Left, css.Right
	if b.rtl() {
		from, to = to, from
	}
	p.style = b.unbroken
	if !b.unbroken.CloneEdges {
		p.style = withoutEdges(b.unbroken, n > 0, from)
		p.style = withoutEdges(p.style, !last, to)
	}
	p.begun, p.goes, p.kids = n > 0, !last, kids
	for _, k := range kids {
		k.parent = p
	}
	return p
}

// withoutEdges gives a style without margin, padding and border at one side, if it is to have none there.
func withoutEdges(s *css.Style, without bool, side int) *css.Style {
	if !without {
		return s
	}
	c := *s
	c.Margin[side], c.Padding[side], c.BorderStyle[side] = css.Zero, css.Zero, "none"
	return &c
}
