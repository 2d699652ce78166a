package paint

import (
	stdimage "image"
	"math"
	"strings"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// file reads a picture that a style or an element names, nil when it is not there or cannot be drawn.
func (p *painter) file(b *box, src string) *image {
	if name, ok := strings.CutPrefix(src, "drawn:"); ok && p.o.Drawn != nil {
		return drawn(p.o.Drawn(name))
	}
	if p.o.File == nil || src == "" {
		return nil
	}
	if strings.HasPrefix(src, "#") {
		p.miss(b.el, "the picture "+src+" of this page")
		return nil
	}
	data, ok := p.o.File(src)
	if !ok {
		return nil
	}
	return p.picture(b, src, data)
}

// picture gives a picture file as an image.
func (p *painter) picture(b *box, src string, data []byte) *image {
	if looksLikeSVG(data) {
		return p.drawing(b, src, data)
	}
	bm, err := p.o.Files.bitmap(src, data)
	if err != nil {
		p.miss(b.el, "the picture "+shortName(src)+": "+err.Error())
		return nil
	}
	w, h := float64(bm.Image.Bounds().Dx()), float64(bm.Image.Bounds().Dy())
	crisp := false
	switch b.read.Word("image-rendering") {
	case "pixelated", "crisp-edges":
		crisp = true
	}
	of := func(bm *display.Bitmap, w, h float64) *image {
		return &image{w: w * p.zoom, h: h * p.zoom, ratio: w / max(1, h), draw: func(at geom.Rect) []display.Item {
			return []display.Item{&display.Picture{Image: bm, Dst: at, Crisp: crisp}}
		}}
	}
	out := of(bm, w, h)
	out.part = func(r geom.Rect) *image {
		sub, ok := bm.Image.(interface {
			SubImage(r stdimage.Rectangle) stdimage.Image
		})
		px := func(v float64) int { return int(math.Round(v / p.zoom)) }
		in := stdimage.Rect(px(r.X0), px(r.Y0), px(r.X1), px(r.Y1)).Add(bm.Image.Bounds().Min)
		if !ok || in.Empty() || math.Abs(float64(in.Dx())*p.zoom-r.W()) > 1e-6 ||
			math.Abs(float64(in.Dy())*p.zoom-r.H()) > 1e-6 {
			return nil
		}
		return of(&display.Bitmap{Name: bm.Name, Image: sub.SubImage(in)}, float64(in.Dx()), float64(in.Dy()))
	}
	return out
}

// drawn gives a picture that is drawn already.
func drawn(l *display.List) *image {
	if l == nil || l.W <= 0 || l.H <= 0 {
		return nil
	}
	return &image{w: l.W, h: l.H, ratio: l.W / l.H, draw: func(at geom.Rect) []display.Item {
		g := display.Plain(l.Items...)
		g.Matrix = geom.Translate(at.X0, at.Y0).Mul(geom.Scale(at.W()/l.W, at.H()/l.H))
		g.Clips = []*geom.Path{geom.RectPath(at)}
		return []display.Item{g}
	}}
}
