package project

import (
	"fmt"
)

// FontFile is a font that built pages carry.
type FontFile struct {
	Family string
	Weight int
	To     int // the greatest weight of a file that has all from Weight on, else 0
	Italic bool
	Name   string // file name in fonts/
}

// Weights writes the weights of a file for CSS.
func (f FontFile) Weights() string {
	if f.To > 0 {
		return fmt.Sprintf("%d %d", f.Weight, f.To)
	}
	return fmt.Sprint(f.Weight)
}

// FontFormats are the kinds of font files by extension, in the words of CSS.
var FontFormats = map[string]string{".woff2": "woff2", ".woff": "woff", ".ttf": "truetype", ".otf": "opentype"}
