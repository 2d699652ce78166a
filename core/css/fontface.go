package css

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

func (d *Document) addFontFace(sheet *Sheet, n *Node) {
	f := FontFace{WeightLow: 400, WeightHigh: 400, Overrides: [3]float64{-1, -1, -1}, From: sheet.File, Pos: n.Pos}
	for _, c := range n.Children {
		text := Text(c.Value)
		switch c.Name {
		case "font-family":
			f.Family = unquote(text)
		case "font-style":
			f.Italic = strings.HasPrefix(text, "italic") || strings.HasPrefix(text, "oblique")
			for i, w := range strings.Fields(text) {
				if i > 0 && i < 3 {
					a, _ := angle(Tokenize(w))
					f.Slant[i-1] = a * 180 / math.Pi
					f.Slant[1] = max(f.Slant[1], f.Slant[i-1])
				}
			}
		case "font-stretch", "font-width":
			for i, w := range strings.Fields(text) {
				n, ok := stretchWords[w]
				if !ok {
					_, _ = fmt.Sscanf(w, "%g%%", &n)
				}
				if i == 0 {
					f.Stretch[0] = n
				}
				f.Stretch[1] = n
			}
		case "unicode-range":
			f.Ranges = unicodeRanges(text)
		case "size-adjust":
			f.SizeAdjust, _ = percentage(text)
		case "ascent-override", "descent-override", "line-gap-override":
			if v, ok := percentage(text); ok {
				f.Overrides[map[string]int{"ascent-override": 0, "descent-override": 1,
					"line-gap-override": 2}[c.Name]] = v
			}
		case "font-weight":
			var w []float64
			for _, s := range strings.Fields(text) {
				switch s {
				case "normal":
					s = "400"
				case "bold":
					s = "700"
				}
				var x float64
				_, _ = fmt.Sscanf(s, "%g", &x)
				w = append(w, x)
			}
			if len(w) > 0 {
				f.WeightLow, f.WeightHigh = w[0], w[len(w)-1]
			}
		case "src":
			f.Sources = fontSources(c.Value)
		}
	}
	d.FontFaces = append(d.FontFaces, f)
}

var stretchWords = map[string]float64{"normal": 100, "condensed": 75, "expanded": 125, "semi-condensed": 87.5,
	"semi-expanded":   112.5,
	"extra-condensed": 62.5, "extra-expanded": 150, "ultra-condensed": 50, "ultra-expanded": 200}

// unicodeRanges reads "U+41-5A, U+4??".
func unicodeRanges(text string) [][2]rune {
	var out [][2]rune
	for _, part := range strings.Split(text, ",") {
		part = strings.TrimPrefix(strings.ToLower(strings.TrimSpace(part)), "u+")
		lo, hi, ok := strings.Cut(part, "-")
		if !ok {
			lo, hi = strings.ReplaceAll(part, "?", "0"), strings.ReplaceAll(part, "?", "f")
		}
		a, err1 := strconv.ParseUint(lo, 16, 32)
		z, err2 := strconv.ParseUint(hi, 16, 32)
		if err1 == nil && err2 == nil && z <= 0x10ffff {
			out = append(out, [2]rune{rune(a), rune(z)})
		}
	}
	return out
}

func fontSources(v []Token) []string {
	var out []string
	for _, part := range SplitCommas(v) {
		for i, t := range part {
			if t.Kind == css.URLToken {
				out = append(out, urlText(t.Text))
			} else if t.Kind == css.FunctionToken && t.Is("url(") && i+1 < len(part) {
				out = append(out, unquote(part[i+1].Text))
			}
		}
	}
	return out
}
