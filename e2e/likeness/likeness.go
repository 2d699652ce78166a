// Package likeness compares two pictures of a page: how alike they look, and where they differ.
package likeness

import (
	"image"
	"image/color"
	"math"
)

// Window is the side of the squares that SSIM is taken over, px.
const window = 8

// Result is how alike two pictures are.
type Result struct {
	SSIM  float64         // mean structural similarity of the brightness, 1 for the same
	Flat  int             // greatest difference of a channel where both are of one color, of 255
	FlatN int             // how many such places were compared
	Apart float64         // share of pixels that differ by more than 32 of 255 in a channel
	Worst image.Rectangle // the square that differs most
	Least float64         // its similarity
}

func gray(c color.RGBA) float64 {
	return .2126*float64(c.R) + .7152*float64(c.G) + .0722*float64(c.B)
}

// Compare compares two pictures where they overlap.
func Compare(a, b *image.RGBA) Result {
	r := image.Rect(0, 0, min(a.Rect.Dx(), b.Rect.Dx()), min(a.Rect.Dy(), b.Rect.Dy()))
	at := func(m *image.RGBA, x, y int) color.RGBA { return m.RGBAAt(m.Rect.Min.X+x, m.Rect.Min.Y+y) }
	out := Result{Least: 1, SSIM: 1}
	sum, n := 0.0, 0
	apart := 0
	const c1, c2 = (.01 * 255) * (.01 * 255), (.03 * 255) * (.03 * 255)
	for y := 0; y+window <= r.Dy(); y += window {
		for x := 0; x+window <= r.Dx(); x += window {
			var sa, sb, saa, sbb, sab float64
			first, second := at(a, x, y), at(b, x, y)
			one := true
			for j := range window {
				for i := range window {
					p, q := at(a, x+i, y+j), at(b, x+i, y+j)
					one = one && p == first && q == second
					u, v := gray(p), gray(q)
					sa, sb, saa, sbb, sab = sa+u, sb+v, saa+u*u, sbb+v*v, sab+u*v
					if difference(p, q) > 32 {
						apart++
					}
				}
			}
			const k = window * window
			ma, mb := sa/k, sb/k
			va, vb, cov := saa/k-ma*ma, sbb/k-mb*mb, sab/k-ma*mb
			s := (2*ma*mb + c1) * (2*cov + c2) / ((ma*ma + mb*mb + c1) * (va + vb + c2))
			sum, n = sum+s, n+1
			if s < out.Least {
				out.Least, out.Worst = s, image.Rect(x, y, x+window, y+window)
			}
			if one {
				out.FlatN++
				out.Flat = max(out.Flat, difference(first, second))
			}
		}
	}
	if n > 0 {
		out.SSIM = sum / float64(n)
		out.Apart = float64(apart) / float64(n*window*window)
	}
	return out
}

func difference(p, q color.RGBA) int {
	d := func(a, b uint8) int { return int(math.Abs(float64(a) - float64(b))) }
	return max(d(p.R, q.R), d(p.G, q.G), d(p.B, q.B))
}
