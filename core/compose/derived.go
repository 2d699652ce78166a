package compose

import (
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/markup"
)

// text is what a field says in a scope, the sample's when the page gives none.
func (f *filler) text(n *html.Node, name string, sc scope) string {
	v, given := f.lookup(name, sc)
	if given {
		return strings.TrimSpace(v.Str())
	}
	text := ""
	markup.Each(n, func(x *html.Node) {
		if field, ok := markup.Attr(x, "data-field"); ok && field == name && text == "" {
			text = strings.TrimSpace(markup.TextOf(x))
		}
	})
	return text
}

// kin gives elements of a block whose field says the same one class: kin-1 for the first text, kin-2 for the second.
// A stylesheet brings them together by it.
func (f *filler) kin(n *html.Node, name string, sc scope) {
	for i := range library.MostKin {
		markup.RemoveClass(n, "kin-"+strconv.Itoa(i+1)) // the sample's
	}
	text := strings.ToLower(f.text(n, name, sc))
	if text == "" {
		return
	}
	at := -1
	for i, known := range f.known {
		if known == text {
			at = i
		}
	}
	if at < 0 {
		at = len(f.known)
		f.known = append(f.known, text)
	}
	if at < library.MostKin {
		markup.AddClass(n, "kin-"+strconv.Itoa(at+1))
	}
}

var leading = regexp.MustCompile(`^[^\d]*?(\d[\d., ' ]*)\s*(%?)`)

// numberIn reads the first number of a text, as people write it: 1,150 or 1 150 or 4.5 or 62 %.
func numberIn(text string) (value float64, percent, ok bool) {
	m := leading.FindStringSubmatch(text)
	if m == nil {
		return 0, false, false
	}
	digits := strings.NewReplacer(" ", "", "'", "", " ", "").Replace(strings.TrimRight(m[1], "., "))
	if i := strings.LastIndexAny(digits, ".,"); i >= 0 {
		whole := strings.NewReplacer(".", "", ",", "").Replace(digits[:i])
		if len(digits)-i-1 == 3 && whole != "0" { // three digits after it: a mark between thousands
			digits = whole + digits[i+1:]
		} else {
			digits = whole + "." + digits[i+1:]
		}
	}
	value, err := strconv.ParseFloat(digits, 64)
	return value, m[2] == "%", err == nil
}

// share notes an element that is as long as the number in a field says.
func (f *filler) share(n *html.Node, name string, sc scope) {
	if _, given := f.lookup(name, sc); !given {
		return // the sample's length stays
	}
	value, percent, ok := numberIn(f.text(n, name, sc))
	if !ok {
		value = 0
	}
	f.bars = append(f.bars, bar{n, value, percent})
}

// shares writes the property --share, in percent, on the elements noted: of a hundred where every number is a
// percentage, of the largest number otherwise.
func (f *filler) shares() {
	most, percent := 0.0, true
	for _, b := range f.bars {
		most, percent = max(most, b.value), percent && b.percent
	}
	if percent {
		most = 100
	}
	for _, b := range f.bars {
		share := 0.0
		if most > 0 {
			share = min(100, 100*b.value/most)
		}
		markup.Set(b.n, "style", "--share: "+strconv.FormatFloat(share, 'f', 1, 64))
	}
}
