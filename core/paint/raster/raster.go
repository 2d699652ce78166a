// Package raster makes pixels of a display list, in sRGB, premultiplied, eight bits a channel, as browsers do without a
// graphics card. It paints strips of the picture at the same time; the same list gives the same bytes.
package raster

import (
	"fmt"
	"image"
	"math"
	"runtime"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/parallel"
)

// MostPixels is how many pixels a picture may have.
const MostPixels = 100_000_000

// Options say how a list becomes pixels.
type Options struct {
	Scale   float64    // device pixels a CSS px; 0 means 1
	Area    *geom.Rect // the part to draw, CSS px; nil for all
	Workers int        // goroutines; 0 for one a core
}

// Draw paints a list. The error says what is too large.
func Draw(l *display.List, o Options) (*image.RGBA, error) {
	if o.Scale <= 0 || math.IsNaN(o.Scale) {
		o.Scale = 1
	}
	area := geom.R(0, 0, l.W, l.H)
	if o.Area != nil {
		area = *o.Area
	}
	w, h := math.Ceil(area.W()*o.Scale-1e-6), math.Ceil(area.H()*o.Scale-1e-6)
	if !(w >= 1 && h >= 1) {
		w, h = 1, 1
	}
	if w*h > MostPixels {
		return nil, fmt.Errorf("a picture of %.0f x %.0f px has %.0f million pixels, and %d million are the most: "+
			"draw it at a scale of %.2f or less, or a block of it", w, h, w*h/1e6, MostPixels/1000000,
			math.Floor(o.Scale*math.Sqrt(MostPixels/(w*h))*100)/100)
	}
	out := image.NewRGBA(image.Rect(0, 0, int(w), int(h)))
	m := geom.Scale(o.Scale, o.Scale).Mul(geom.Translate(-area.X0, -area.Y0))
	workers := o.Workers
	if workers == 0 {
		workers = runtime.GOMAXPROCS(0)
	}
	const strip = 256
	shared := newMemory()
	shared.boxes = map[display.Item]image.Rectangle{}
	(&canvas{mem: shared, path: &pathFiller{}}).reaches(l.Items, m)
	n := (int(h) + strip - 1) / strip
	workers = min(workers, n)
	paths := make([]pathFiller, workers) // each keeps its room from strip to strip
	parallel.Each(workers, n, func(worker, i int) bool {
		window := image.Rect(0, i*strip, int(w), min(int(h), (i+1)*strip))
		c := &canvas{img: out.SubImage(window).(*image.RGBA), mem: shared, path: &paths[worker]}
		c.items(uncovered(l.Items, m, window), m, clipping{rect: window})
		return true
	})
	return out, nil
}

// uncovered leaves out what lies below a plain color that fills the window.
func uncovered(list []display.Item, m geom.Matrix, window image.Rectangle) []display.Item {
	for i := len(list) - 1; i > 0 && m.Upright(); i-- {
		f, ok := list[i].(*display.Fill)
		if !ok || f.Rect == nil {
			continue
		}
		color, ok := f.Brush.(display.Solid)
		r := m.Rect(*f.Rect)
		covers := ok && color.A >= 1 && r.X0 <= float64(window.Min.X) && r.Y0 <= float64(window.Min.Y) &&
			r.X1 >= float64(window.Max.X) && r.Y1 >= float64(window.Max.Y)
		if covers {
			return list[i:]
		}
	}
	return list
}

// items paints a list of items under a transform to device pixels.
func (c *canvas) items(list []display.Item, m geom.Matrix, clip clipping) {
	if clip.rect.Empty() {
		return
	}
	for _, it := range list {
		if box, ok := c.mem.boxes[it]; ok && !box.Overlaps(clip.rect) {
			continue
		}
		switch it := it.(type) {
		case *display.Group:
			c.group(it, m, clip)
		case *display.Fill:
			c.fill(it, m, clip)
		case *display.Text:
			c.text(it, m, clip)
		case *display.Shadow:
			c.shadow(it, m, clip)
		case *display.Picture:
			c.picture(it, m, clip)
		}
	}
}
