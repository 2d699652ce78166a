package media

import (
	"bytes"
	"crypto/sha256"
	"errors"
	"fmt"
	"image"
	"image/color"
	"path"
	"regexp"
	"strings"
	"sync"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
)

// Colors is what a picture shows: the mean color of each cell of a grid over it, row by row. Cells are transparent
// where it is.
type Colors struct {
	Columns, Rows int
	Cells         []color.NRGBA
}

// svgColor finds the colors written in an SVG file.
var svgColor = regexp.MustCompile(`(?:fill|stop-color|stroke|flood-color|--picture-[a-z0-9-]+)\s*[=:]\s*["']?\s*(#[0-9a-fA-F]{3,8}|[a-zA-Z]+|rgba?\([^)]*\))`)

// SVGColors lists the colors that an SVG picture names, as CSS text.
func SVGColors(data []byte) []string {
	var out []string
	seen := map[string]bool{}
	for _, m := range svgColor.FindAllSubmatch(data, -1) {
		if c := strings.ToLower(string(m[1])); !seen[c] && c != "none" && c != "url" && c != "var" {
			seen[c] = true
			out = append(out, c)
		}
	}
	return out
}

// IsSVG reports a picture drawn in lines and surfaces, by its name.
func IsSVG(name string) bool { return strings.EqualFold(path.Ext(name), ".svg") }

// Look looks at a picture, an SVG one as it is in the light or in the dark. It gives nil when nobody can tell by
// looking.
func Look(name string, data []byte, dark bool) *Colors {
	read := ReadColors
	if IsSVG(name) {
		read = func(data []byte) (*Colors, error) { return ReadDrawnColors(data, dark) }
	}
	out, err := read(data)
	if err != nil {
		return nil
	}
	return out
}

// Looks keeps what pictures show, so that each is looked at once. The zero value is ready; it may be used by several
// goroutines at once.
type Looks struct {
	known sync.Map // lookKey to *Colors
}

type lookKey struct {
	hash [sha256.Size]byte
	dark bool
}

// Look does what the function of that name does, once for each content.
func (l *Looks) Look(name string, data []byte, dark bool) *Colors {
	key := lookKey{sha256.Sum256(data), dark && IsSVG(name)}
	if c, ok := l.known.Load(key); ok {
		return c.(*Colors)
	}
	c := Look(name, data, dark)
	l.known.Store(key, c)
	return c
}

// ReadColors looks at a PNG, JPEG, GIF or WebP picture.
func ReadColors(data []byte) (*Colors, error) {
	if err := checkPixels(data); err != nil {
		return nil, fmt.Errorf("not a picture that can be looked at: %w", err)
	}
	img, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	return gridOf(img), nil
}

// gridOf takes the mean color of each cell of a picture.
func gridOf(img image.Image) *Colors {
	b := img.Bounds()
	out := &Colors{Columns: min(gridSize, b.Dx()), Rows: min(gridSize, b.Dy())}
	for row := range out.Rows {
		for col := range out.Columns {
			x0, x1 := b.Min.X+col*b.Dx()/out.Columns, b.Min.X+(col+1)*b.Dx()/out.Columns
			y0, y1 := b.Min.Y+row*b.Dy()/out.Rows, b.Min.Y+(row+1)*b.Dy()/out.Rows
			out.Cells = append(out.Cells, mean(img, x0, y0, x1, y1))
		}
	}
	return out
}

// mean gives the mean color of a rectangle of pixels, at most 64 of them looked at.
func mean(img image.Image, x0, y0, x1, y1 int) color.NRGBA {
	var r, g, b, a, n uint64
	dx, dy := max(1, (x1-x0)/8), max(1, (y1-y0)/8)
	for y := y0; y < y1; y += dy {
		for x := x0; x < x1; x += dx {
			cr, cg, cb, ca := img.At(x, y).RGBA() // premultiplied
			r, g, b, a, n = r+uint64(cr), g+uint64(cg), b+uint64(cb), a+uint64(ca), n+1
		}
	}
	if n == 0 || a == 0 {
		return color.NRGBA{}
	}
	part := func(v uint64) uint8 { return uint8(v * 255 / a) }
	return color.NRGBA{part(r), part(g), part(b), uint8(a / n >> 8)}
}

// ReadDrawnColors looks at an SVG picture as ReadColors looks at others, in the light or in the dark. What the
// painter does not know (filters, masks, text) is an error: then nobody can tell by looking, and the colors that the
// file names have to do.
func ReadDrawnColors(data []byte, dark bool) (out *Colors, err error) {
	defer func() {
		if r := recover(); r != nil { // the painter trusts its input
			out, err = nil, fmt.Errorf("not a picture that can be looked at: %v", r)
		}
	}()
	if err := CheckSVG(data); err != nil { // before the painter sees it: some drawings end the program
		return nil, err
	}
	icon, err := oksvg.ReadIconStream(bytes.NewReader(plainColors(data, dark)), oksvg.StrictErrorMode)
	if err != nil {
		return nil, err
	}
	w, h := icon.ViewBox.W, icon.ViewBox.H
	if w <= 0 || h <= 0 {
		return nil, errors.New("the picture has no size")
	}
	scale := rasterSize / max(w, h)
	cols, rows := max(1, int(w*scale)), max(1, int(h*scale))
	icon.SetTarget(0, 0, float64(cols), float64(rows))
	img := image.NewRGBA(image.Rect(0, 0, cols, rows))
	icon.Draw(rasterx.NewDasher(cols, rows, newScanner(img)), 1)
	return gridOf(img), nil
}
