package media

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"regexp"
	"strings"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
)

// rasterSize is how large a drawing is painted before its colors are looked at, px along the longer side: some pixels
// for every cell.
const rasterSize = 4 * gridSize

var (
	styleElement = regexp.MustCompile(`(?s)<style[^>]*>.*?</style>`)
	darkRules    = regexp.MustCompile(`(?s)@media[^{]*prefers-color-scheme:\s*dark[^{]*\{(.*?\})\s*\}`)
	colorVar     = regexp.MustCompile(`var\(\s*--picture-([a-z][a-z0-9-]*)\s*(?:,[^)]*)?\)`)
)

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

// plainColors writes the colors that a drawing names where they are used, those for dark surroundings if asked.
func plainColors(data []byte, dark bool) []byte {
	text := string(data)
	if !strings.Contains(text, "--picture-") {
		return data
	}
	values := map[string]string{}
	take := func(css string) {
		for _, m := range pictureColor.FindAllStringSubmatch(css, -1) {
			values[m[1]] = m[2]
		}
	}
	for _, style := range styleElement.FindAllString(text, -1) {
		take(darkRules.ReplaceAllString(style, ""))
		if dark {
			for _, m := range darkRules.FindAllStringSubmatch(style, -1) {
				take(m[1])
			}
		}
	}
	text = styleElement.ReplaceAllString(text, "")
	return []byte(colorVar.ReplaceAllStringFunc(text, func(m string) string {
		if v := values[colorVar.FindStringSubmatch(m)[1]]; v != "" {
			return v
		}
		return "none"
	}))
}
