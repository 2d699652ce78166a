package draw

import (
	"bytes"
	"fmt"
	"html"
	"io/fs"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
	"ziegel/core/sweep"
)

// SharePicture draws what stands for a page elsewhere: its opening, the first block that is not on every page, in the
// middle of the picture.
func SharePicture(l *sweep.Prepared, opening string) ([]byte, error) {
	shot, err := Of(l, compose.ShareWidth, Target{}, Look{})
	if err != nil {
		return nil, err
	}
	top := 0.0
	if b := l.Block(opening); b != nil {
		if box := shot.Result.Of(b.Element); box != nil {
			top = box.Y.Float() + (box.H.Float()-compose.ShareHeight)/2
		}
	}
	top = max(0, min(top, shot.List.H-compose.ShareHeight))
	area := geom.R(0, top, compose.ShareWidth, compose.ShareHeight)
	return pngOf(shot.List, area)
}

func pngOf(l *display.List, area geom.Rect) ([]byte, error) {
	img, err := raster.Draw(l, raster.Options{Area: &area})
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = raster.EncodePNG(&b, img)
	return b.Bytes(), err
}

// Cover is what a picture is drawn to cover: W by H px, on a ground: a CSS color, "" for none.
type Cover struct {
	W, H   int
	Ground string
}

// File draws a picture file so that it covers a size.
func File(stock fs.FS, name string, data []byte, c Cover) ([]byte, error) {
	doc, err := css.Load(css.Source{File: "picture", HTML: fmt.Sprintf(
		`<!doctype html><style>body{margin:0;background:%s}img{display:block;width:%dpx;height:%dpx;object-fit:cover}</style><img src="%s">`, c.Ground, c.W, c.H,
		html.EscapeString(name))})
	if err != nil {
		return nil, err
	}
	fonts, err := sweep.StockFonts(stock)
	if err != nil {
		return nil, err
	}
	e := layout.New(doc, layout.Options{Fonts: fonts.Clone(), Height: c.H,
		Picture: func(string) (float64, float64, bool) { return float64(c.W), float64(c.H), true }})
	r := e.Layout(c.W)
	o := paint.Options{File: func(string) ([]byte, bool) { return data, true }}
	if c.Ground == "" {
		o.Only = doc.Body.Kids()[0]
	}
	list := paint.Page(e, r, o)
	return pngOf(list, geom.R(0, 0, float64(c.W), float64(c.H)))
}
