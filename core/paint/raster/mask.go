package raster

import (
	"image"
	"image/draw"
	"math"

	"golang.org/x/image/vector"

	"ziegel/core/paint/geom"
)

// pathFiller turns paths into coverage.
type pathFiller struct{ r vector.Rasterizer }

// mask gives how much of each pixel of a rectangle a path covers, in device pixels.
func (f *pathFiller) mask(p *geom.Path, area image.Rectangle) *image.Alpha {
	out := image.NewAlpha(area)
	if !p.EvenOdd {
		f.into(out, p)
		return out
	}
	// what an odd number of parts cover: part by part, each turns what it covers
	for i, part := range parts(p) {
		if i == 0 {
			f.into(out, part)
			continue
		}
		box := outer(part.Bounds()).Intersect(area)
		if box.Empty() {
			continue
		}
		m := image.NewAlpha(box)
		f.into(m, part)
		for y := box.Min.Y; y < box.Max.Y; y++ {
			a := out.Pix[out.PixOffset(box.Min.X, y):][:box.Dx()]
			b := m.Pix[m.PixOffset(box.Min.X, y):][:box.Dx()]
			for x := range a {
				if b[x] != 0 {
					s, t := uint32(a[x]), uint32(b[x])
					a[x] = uint8(s + t - 2*uint32(div255(s*t)))
				}
			}
		}
	}
	return out
}

// parts cuts a path where it begins anew.
func parts(p *geom.Path) []*geom.Path {
	var out []*geom.Path
	var at *geom.Path
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		if op == geom.Move || at == nil {
			at = &geom.Path{}
			out = append(out, at)
			if op != geom.Move {
				at.MoveTo(from.X, from.Y)
			}
		}
		at.Ops, at.Points = append(at.Ops, op), append(at.Points, pts...)
		if op == geom.Close {
			at = nil
		}
	})
	return out
}

// The rasterizer counts in fixed point for what is narrow, which overflows far beside it; from floating px on it counts
// in floating point.
const (
	fixedReach = 2000 // px
	floating   = 513  // px
)

// into fills a path that winds.
func (f *pathFiller) into(out *image.Alpha, p *geom.Path) {
	area := out.Rect
	if area.Empty() {
		return
	}
	w, b := area.Dx(), p.Bounds()
	if math.IsNaN(b.X0 + b.X1 + b.Y0 + b.Y1) {
		return // it is nowhere
	}
	if max(b.X1-float64(area.Min.X), float64(area.Min.X)-b.X0, b.Y1-float64(area.Min.Y),
		float64(area.Min.Y)-b.Y0) > fixedReach {
		w = max(w, floating)
	}
	f.r.Reset(w, area.Dy())
	x0, y0 := float64(area.Min.X), float64(area.Min.Y)
	// what lies far beside the area is brought near it: its lines go on straight
	far := float64(1 << 14)
	at := func(q geom.Point) (x, y float32) {
		return float32(max(-far, min(far, q.X-x0))), float32(max(-far, min(far, q.Y-y0)))
	}
	open := false
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		if op != geom.Move && !open {
			x, y := at(from)
			f.r.MoveTo(x, y)
			open = true
		}
		switch op {
		case geom.Move:
			if open {
				f.r.ClosePath()
			}
			x, y := at(pts[0])
			f.r.MoveTo(x, y)
			open = true
		case geom.Line:
			x, y := at(pts[0])
			f.r.LineTo(x, y)
		case geom.Quad:
			ax, ay := at(pts[0])
			x, y := at(pts[1])
			f.r.QuadTo(ax, ay, x, y)
		case geom.Cubic:
			ax, ay := at(pts[0])
			bx, by := at(pts[1])
			x, y := at(pts[2])
			f.r.CubeTo(ax, ay, bx, by, x, y)
		case geom.Close:
			f.r.ClosePath()
			open = false
		}
	})
	if open {
		f.r.ClosePath()
	}
	// the mask is new, and the rasterizer is fastest where a picture begins at 0
	f.r.DrawOp = draw.Src
	at0 := &image.Alpha{Pix: out.Pix, Stride: out.Stride, Rect: area.Sub(area.Min)}
	f.r.Draw(at0, at0.Rect, image.Opaque, image.Point{})
}

// rectMask gives how much of each pixel an upright rectangle covers.
func rectMask(r geom.Rect, area image.Rectangle) *image.Alpha {
	out := image.NewAlpha(area)
	cover := func(lo, hi float64, i int) float64 {
		return max(0, min(hi, float64(i+1))-max(lo, float64(i)))
	}
	across := make([]float64, area.Dx())
	for x := range across {
		across[x] = cover(r.X0, r.X1, area.Min.X+x)
	}
	for y := range area.Dy() {
		down := cover(r.Y0, r.Y1, area.Min.Y+y)
		row := out.Pix[y*out.Stride:][:area.Dx()]
		for x := range row {
			row[x] = uint8(across[x]*down*255 + .5)
		}
	}
	return out
}
