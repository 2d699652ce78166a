package check

import (
	"slices"

	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Distance is the space between two neighbours over the widths of a range, CSS px.
type Distance struct {
	Range   string  `json:"range"`
	Block   string  `json:"block"`
	Kind    string  `json:"kind"` // between: two blocks; inside: parts of a card; apart: two cards
	From    string  `json:"from"` // what stands above
	To      string  `json:"to"`   // what stands below
	Least   float64 `json:"least"`
	Most    float64 `json:"most"`
	Outlier string  `json:"outlier,omitempty"` // what the others have, in words

	free bool // it takes the room that is left
}

// distanceStep is how many widths apart a range is looked at, CSS px; its ends always are.
const distanceStep = 16

// Distances lists the vertical space between every two neighbouring blocks, and between what stands under each other
// in their cards, for each range of screen widths. Space is measured from letter to letter, or to the edge of a
// picture.
func Distances(l *sweep.Prepared, ranges []site.Range, from, to int) []Distance {
	s := NewScene(l)
	engine := l.Engine()
	var out []Distance
	for _, rg := range ranges {
		low, high := max(rg.From, from), to
		if rg.To > 0 {
			high = min(rg.To, to)
		}
		if low > high {
			continue
		}
		at := map[Distance]int{}
		begin := len(out)
		for w := low; ; w = min(w+distanceStep, high) {
			r := engine.Layout(w)
			for _, d := range s.distances(r, rg.Name) {
				gap := d.Least
				d.Least, d.Most = 0, 0
				i, ok := at[d]
				if !ok {
					i = len(out)
					at[d] = i
					d.Least, d.Most = gap, gap
					out = append(out, d)
				}
				out[i].Least, out[i].Most = min(out[i].Least, gap), max(out[i].Most, gap)
			}
			engine.Recycle(r)
			if w == high {
				break
			}
		}
		markOutliers(out[begin:])
	}
	return out
}

// distances measures one layout. The gap is in Least.
func (s *Scene) distances(r *layout.Result, name string) []Distance {
	var out []Distance
	list := s.strips(r)
	for i := 1; i < len(list); i++ {
		a, b := list[i-1], list[i]
		if b.y < a.end-64 {
			continue
		}
		kind := "between"
		if a.ground != b.ground {
			kind = "between grounds"
		}
		_, from, _ := naming.Place(s.l, a.el)
		_, to, _ := naming.Place(s.l, b.el)
		out = append(out, Distance{Range: name, Kind: kind, From: blockName(s.l, a, from), To: blockName(s.l, b, to),
			Least: (b.top - a.bottom).Float()})
	}
	for _, b := range s.l.Every() {
		for _, group := range b.Groups() {
			for i, e := range group {
				if card := r.Of(e); card != nil && !card.Empty() {
					out = append(out, s.insideCard(r, b.Name, name, card)...)
					if i > 0 {
						if last := r.Of(group[i-1]); last != nil && card.Y >= last.Bottom()-64 && len(e.Kids()) > 0 {
							out = append(out, Distance{Range: name, Block: b.Name, Kind: "apart",
								From: explain.ShortName(s.l, group[0]), To: "the next",
								Least: (card.Y - last.Bottom()).Float()})
						}
					}
				}
			}
		}
	}
	return out
}

func blockName(l *sweep.Prepared, s strip, part string) string {
	for _, b := range l.Blocks {
		if b.Element == s.el {
			return b.Name
		}
	}
	return part
}

// insideCard measures between the elements that stand under each other in a card.
func (s *Scene) insideCard(r *layout.Result, block, name string, card *layout.Fragment) []Distance {
	var out []Distance
	x := &explain.Explainer{L: s.l, R: r}
	kids := x.Kids(card)
	for i := 1; i < len(kids); i++ {
		a, b := kids[i-1], kids[i]
		if a.Empty() || b.Empty() || b.Y < a.Bottom()-64 {
			continue
		}
		out = append(out, Distance{Range: name, Block: block, Kind: "inside",
			From: bare(explain.ShortName(s.l, a.Element)), To: bare(explain.ShortName(s.l, b.Element)),
			Least: (b.Y - a.Bottom()).Float(), free: b.Style.Margin[css.Top].IsAuto()})
	}
	return out
}

// bare drops the position from a name: cards are alike.
func bare(name string) string {
	for i, c := range name {
		if c == ' ' {
			return name[:i]
		}
	}
	return name
}

// markOutliers marks the distances between blocks that are far from most of their kind.
func markOutliers(list []Distance) {
	by := map[string][]float64{}
	for _, d := range list {
		if d.Kind != "inside" && d.Kind != "apart" {
			by[d.Kind] = append(by[d.Kind], d.Most)
		}
	}
	for i := range list {
		d := &list[i]
		all := by[d.Kind]
		switch {
		case len(all) >= 3:
			if usual := slices.Sorted(slices.Values(all))[(len(all)-1)/2]; d.Most > usual*doubledFrom &&
				d.Most > usual+24 || d.Most*doubledFrom < usual && d.Most+24 < usual {
				d.Outlier = "the others have " + naming.Px(layout.Px(usual*64))
			}
		case d.Kind == "inside" && !d.free && d.Most > d.Least*1.5+8:
			d.Outlier = "it differs from card to card"
		}
	}
}
