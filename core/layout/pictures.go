package layout

import (
	"math"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/css"
)

// Which file an img shows: the sources of its picture, srcset and sizes (HTML, section 4.8.4.3), at one device pixel
// a CSS px.

// Source gives the address of the file that an img shows at this width, "" when it shows none.
func (r *Result) Source(el *css.Element) string {
	if !choosesPicture(el) {
		return el.Attr("src")
	}
	src, _ := pictureSource(r.styler, el)
	return src
}

// choosesPicture reports an img whose file may depend on the width.
func choosesPicture(el *css.Element) bool {
	_, set := el.LookupAttr("srcset")
	return set || el.Parent != nil && el.Parent.Tag == "picture"
}

// pictureSource gives the address of the file that an img shows, and how many of its pixels a CSS px takes.
func pictureSource(styler *css.Styler, el *css.Element) (src string, density float64) {
	if p := el.Parent; p != nil && p.Tag == "picture" {
		for _, s := range p.Kids() {
			if s == el {
				break
			}
			if s.Tag != "source" || !showable(s.Attr("type")) ||
				s.Attr("media") != "" && !styler.MatchesMedia(s.Attr("media")) {
				continue
			}
			if src, d, ok := candidate(styler, s.Attr("srcset"), s.Attr("sizes"), ""); ok {
				return src, d
			}
		}
	}
	src, density, _ = candidate(styler, el.Attr("srcset"), el.Attr("sizes"), el.Attr("src"))
	return src, density
}

func showable(kind string) bool {
	switch strings.ToLower(strings.TrimSpace(kind)) {
	case "", "image/avif", "image/webp", "image/svg+xml", "image/png", "image/jpeg", "image/gif",
		"image/apng", "image/bmp":
		return true
	}
	return false
}

type pictureCandidate struct {
	src     string
	density float64
}

// candidate chooses from a srcset: of the two densities around that of the screen the lower one, unless their geometric
// mean lies below it.
func candidate(styler *css.Styler, srcset, sizes, src string) (string, float64, bool) {
	var list []pictureCandidate
	wide := false
	slot := 0.0
	for _, part := range splitSrcset(srcset) {
		c := pictureCandidate{src: part[0], density: 1}
		if len(part) > 1 {
			n, err := strconv.ParseFloat(part[1][:len(part[1])-1], 64)
			if err != nil || n <= 0 {
				continue
			}
			switch part[1][len(part[1])-1] {
			case 'w':
				if !wide {
					wide, slot = true, styler.SourceSize(sizes)
				}
				if slot <= 0 {
					slot = 1
				}
				c.density = n / slot
			case 'x':
				c.density = n
			default:
				continue
			}
		}
		list = append(list, c)
	}
	plain := false
	for _, c := range list {
		plain = plain || c.density == 1
	}
	if src != "" && !wide && !plain {
		list = append(list, pictureCandidate{src, 1})
	}
	if len(list) == 0 {
		return src, 1, src != ""
	}
	want := styler.Zoom()
	sort.SliceStable(list, func(i, j int) bool { return list[i].density < list[j].density })
	for i := 0; i+1 < len(list); i++ {
		now, next := list[i].density, list[i+1].density
		if next < want {
			continue
		}
		if now < want || want >= math.Sqrt(now*next) {
			i++
		}
		return list[i].src, list[i].density, true
	}
	last := list[len(list)-1]
	return last.src, last.density, true
}

// splitSrcset gives the address and the descriptor of each candidate.
func splitSrcset(text string) [][]string {
	var out [][]string
	for _, part := range strings.Split(text, ",") {
		if f := strings.Fields(part); len(f) > 0 {
			out = append(out, f)
		}
	}
	return out
}
