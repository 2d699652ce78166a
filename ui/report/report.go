// Package report turns results into the JSON documents that the program prints. Keys may be added, never renamed.
package report

import (
	"math"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// OutlineDoc is what stack --at --json prints.
type OutlineDoc struct {
	Page  string       `json:"page"`
	Width int          `json:"width"`
	Boxes []OutlineBox `json:"boxes"`
}

// OutlineBox is one drawn box, CSS px.
type OutlineBox struct {
	Block string  `json:"block"`
	Part  string  `json:"part,omitempty"`
	As    string  `json:"as,omitempty"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
}

// Outline makes the document of an outline.
func Outline(page string, width int, boxes []sweep.OutlineBox) OutlineDoc {
	d := OutlineDoc{Page: page, Width: width, Boxes: []OutlineBox{}}
	for _, b := range boxes {
		d.Boxes = append(d.Boxes, OutlineBox{b.Block, b.Part, b.As, round(b.X), round(b.Y), round(b.W), round(b.H)})
	}
	return d
}

// MeasureDoc is what measure --json prints.
type MeasureDoc struct {
	Page   string         `json:"page"`
	Widths []MeasureWidth `json:"widths"`
	Doubts []Doubt        `json:"doubts,omitempty"`
}

// Doubt is a reason why boxes may differ from a browser's: a declaration that the layout does not follow, at
// "file:line:column", or a font that the page does not bring.
type Doubt struct {
	Rule     string `json:"rule"`
	Property string `json:"property"`
	Value    string `json:"value"`
	At       string `json:"at,omitempty"`
	Text     string `json:"text"`
}

// Doubts makes the entries of a page's doubts.
func Doubts(l *sweep.Prepared) []Doubt {
	var out []Doubt
	for _, d := range l.Doubts() {
		e := Doubt{Rule: d.Rule, Property: d.Property, Value: d.Value, Text: d.Text()}
		if d.At.File != "" {
			e.At = d.At.String()
		}
		out = append(out, e)
	}
	return out
}

// MeasureWidth is a page at one width, CSS px.
type MeasureWidth struct {
	Width    int     `json:"width"`
	Height   float64 `json:"height"`
	Overflow float64 `json:"overflow"`
	// Direction is rtl on a page from right to left, where Overflow goes beyond the left edge; "" on others.
	Direction string       `json:"direction,omitempty"`
	Boxes     []MeasureBox `json:"boxes"`
}

// MeasureBox is the border box of one element in page coordinates, CSS px. Block and Part are what it stands in, Item
// says which of the parts, from 1; Is says that it is that part, or the block, itself.
type MeasureBox struct {
	Path  string  `json:"path"`
	Block string  `json:"block,omitempty"`
	Part  string  `json:"part,omitempty"`
	Item  int     `json:"item,omitempty"`
	Is    bool    `json:"is,omitempty"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Lines int     `json:"lines,omitempty"`
	// Start is how far the box is from the edge where lines begin, the right one, on a page from right to left. CSS px.
	Start *float64 `json:"start,omitempty"`
}

// skipped elements have no entry of their own.
var skipped = map[string]bool{"html": true, "script": true, "style": true, "template": true, "option": true,
	"optgroup": true, "source": true, "track": true, "br": true, "wbr": true,
	"head": true, "link": true, "meta": true, "title": true}

// Measure makes the entry of one layout; l names the blocks of a page and what is in them, nil does not.
func Measure(l *sweep.Prepared, r *layout.Result) MeasureWidth {
	m := MeasureWidth{Width: r.Width, Height: round(r.Height), Overflow: round(r.Overflow), Boxes: []MeasureBox{}}
	if r.Leftward {
		m.Direction = "rtl"
	}
	for i := range r.Boxes {
		p := &r.Boxes[i]
		unseen := skipped[p.Element.Tag] || p.Element.Foreign && p.Element.Tag != "svg" ||
			p.Element.Parent != nil && p.Element.Parent.Foreign
		if unseen {
			continue
		}
		box := MeasureBox{Path: p.Element.Path(), X: round(p.X), Y: round(p.Y), W: round(p.W), H: round(p.H),
			Lines: p.Lines}
		if r.Leftward {
			start := round(css.FromFloat(float64(r.Width)) - p.Right())
			box.Start = &start
		}
		if l != nil && l.Page != nil {
			box.Block, box.Part, box.Item = naming.Place(l, p.Element)
			box.Is = p.Element.Attr(compose.MarkBlock) != "" ||
				p.Element.Attr(compose.MarkPart) == box.Part && box.Part != ""
		}
		m.Boxes = append(m.Boxes, box)
	}
	return m
}

// round gives CSS px; every 1/64 px has at most six decimals, so nothing is lost.
func round(p layout.Px) float64 { return math.Round(p.Float()*1e6) / 1e6 }
