package font

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"strings"

	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
)

// Match makes one face as wide and as high as another: the descriptors of an @font-face rule (CSS Fonts 4 and 5), in
// percent.
type Match struct {
	Size    float64 `json:"size"`    // size-adjust
	Ascent  float64 `json:"ascent"`  // ascent-override
	Descent float64 `json:"descent"` // descent-override
	Gap     float64 `json:"gap"`     // line-gap-override
}

// usual is text with letters about as often as they stand in European languages, words and numbers as sites have
// them.
const usual = "The wind does half of the work here; we sew the other half. Kurse am Wochenende, des cerfs-volants cousus à la main, 1 240 in every colour. Qué viento hace hoy? Read the small print, then bring a friend."

// MatchTo tells how a face that stands in for another is to be scaled, so that texts keep their lines and heights
// when the other one comes.
func MatchTo(own, stand *Face) Match {
	width := func(f *Face) float64 {
		s := f.Shape([]rune(usual), Features{})
		sum := 0.0
		for i := range s.Adv {
			sum += s.Adv[i] + s.Kern[i]
		}
		return sum / f.Upem
	}
	size := width(own) / width(stand)
	percent := func(v float64) float64 { return math.Round(v*10000) / 100 }
	return Match{Size: percent(size), Ascent: percent(own.Ascent / own.Upem / size),
		Descent: percent(own.Descent / own.Upem / size), Gap: percent(own.LineGap / own.Upem / size)}
}

// About is what a font file says of itself.
type About struct {
	Family          string
	Weight, Weight2 int // the same, unless the file has all weights between them
	Italic          bool
}

// Describe reads family, weight and style of a font file.
func Describe(data []byte) (a About, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("its tables are broken (%v)", r)
		}
	}()
	if _, err := Parse("file", data); err != nil {
		return a, errors.New(strings.TrimPrefix(err.Error(), "read the font file: "))
	}
	if len(data) > 4 && string(data[:4]) == "wOF2" {
		if data, err = decodeWOFF2(data, false); err != nil {
			return a, err
		}
	}
	ld, err := ot.NewLoader(bytes.NewReader(data))
	if err != nil {
		return a, err
	}
	d, _ := gofont.Describe(ld, nil)
	a = About{Family: d.Family, Weight: int(d.Aspect.Weight), Italic: d.Aspect.Style == gofont.StyleItalic}
	if a.Weight == 0 {
		a.Weight = 400
	}
	a.Weight2 = a.Weight
	if axis, ok := readAxes(ld)["wght"]; ok {
		a.Weight, a.Weight2 = int(axis[0]), int(axis[2])
	}
	return a, nil
}
