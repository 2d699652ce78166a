package compare

import (
	"cmp"
	"fmt"
	"image"
	"slices"

	"ziegel/core/paint/geom"
)

// Kind says in what something differs.
type Kind string

// The kinds, in the order in which they are mended: what is there at all, then what many things depend on.
const (
	Missing  Kind = "missing" // the page has it, the design does not
	Extra    Kind = "extra"   // the design has it, the page does not
	Order    Kind = "order"   // of blocks
	Ground   Kind = "ground"  // the color behind something
	Color    Kind = "color"   // of text
	TypeSize Kind = "type-size"
	Weight   Kind = "weight"
	Words    Kind = "words" // something else stands at its place
	Size     Kind = "size"
	Distance Kind = "distance" // between neighbours, or from the edge of what holds it
	Position Kind = "position"
)

var order = []Kind{Missing, Extra, Order, Ground, Color, TypeSize, Weight, Words, Size, Distance, Position}

// Difference is one thing that is not as the other side has it.
type Difference struct {
	Kind    Kind       `json:"kind"`
	Address string     `json:"address,omitempty"` // of the part, as commands take it
	Name    string     `json:"name"`              // what it is, in words
	Axis    string     `json:"axis,omitempty"`    // width, height, above, below, left, right, x, y
	Ours    string     `json:"ours,omitempty"`    // value with its unit
	Theirs  string     `json:"theirs,omitempty"`
	By      float64    `json:"by,omitempty"`   // how far apart: CSS px, or ΔE (CIEDE2000)
	Unit    string     `json:"unit,omitempty"` // px, ΔE, or % of ink
	Where   *geom.Rect `json:"where,omitempty"`
	There   *geom.Rect `json:"there,omitempty"`
	Text    string     `json:"text"`
	Command []string   `json:"command,omitempty"` // words of the command that mends it
}

// Tolerance is what counts as the same.
type Tolerance struct {
	Px     float64 `json:"px"`
	DeltaE float64 `json:"deltaE"` // CIEDE2000, 0..100
}

// DefaultTolerance is a pixel, and a difference of colors that an eye sees only side by side.
var DefaultTolerance = Tolerance{Px: 1, DeltaE: 2}

// Report is what a comparison found.
type Report struct {
	Page        string       `json:"page"`
	Against     string       `json:"against"`
	Width       int          `json:"width"` // of the screen, CSS px
	Tolerance   Tolerance    `json:"tolerance"`
	Pieces      int          `json:"pieces"` // of the page
	Found       int          `json:"found"`  // of them on the other side
	Differences []Difference `json:"differences"`
	Doubts      []string     `json:"doubts"` // what could not be told

	Ours, Theirs *image.RGBA `json:"-"` // pictures of both, a pixel a CSS px
}

// sort orders differences as they are mended: by kind, then down the page.
func (r *Report) sort() {
	rank := map[Kind]int{}
	for i, k := range order {
		rank[k] = i
	}
	top := func(d Difference) float64 {
		switch {
		case d.Where != nil:
			return d.Where.Y0
		case d.There != nil:
			return d.There.Y0
		}
		return 0
	}
	slices.SortStableFunc(r.Differences, func(a, b Difference) int {
		return cmp.Or(cmp.Compare(rank[a.Kind], rank[b.Kind]), cmp.Compare(top(a), top(b)))
	})
}

// add keeps a difference.
func (r *Report) add(d Difference) { r.Differences = append(r.Differences, d) }

// px writes a length.
func px(v float64) string { return fmt.Sprintf("%.4g px", v) }
