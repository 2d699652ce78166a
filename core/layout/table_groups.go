package layout

import (
	"slices"

	"ziegel/core/css"
)

// sectionHeight is the sum of the rows of a row group, and of the room between them.
func (t *tableState) sectionHeight(i int) (h Px) {
	shown := 0
	for j := t.rowsOf[i][0]; j < t.rowsOf[i][1]; j++ {
		if r := &t.rows[j]; !r.gone {
			h += r.size
			shown++
		}
	}
	return h + t.gapY*Px(max(0, shown-1))
}

// askedHeight is the height that a row group asks for.
func (b *Box) askedHeight() Px {
	if h := b.style.Height; h.Kind == css.LenPx && !h.HasPercent() {
		return max(0, h.Resolve(0))
	}
	return 0
}

// sizeSections gives row groups the height that they or the table ask for. Groups without rows share what is left, too,
// and take a gap each (measured).
func (t *tableState) sizeSections(room Px, given bool) {
	t.ownHeights = make([]Px, len(t.sections))
	for i, s := range t.sections {
		if h := s.askedHeight(); h > t.sectionHeight(i) {
			t.growSection(i, h)
		}
	}
	if given && len(t.sections) > 0 {
		t.dealSections(room - t.gapY*Px(len(t.sections)+1))
	}
}

// growSection makes a row group so high, its rows if it has any.
func (t *tableState) growSection(i int, h Px) {
	if from, to := t.rowsOf[i][0], t.rowsOf[i][1]; from < to {
		t.spreadHeight(from, to-from, h, false)
		return
	}
	t.ownHeights[i] = h
}

// dealSections shares what is left of the height of a table among its bodies, or among all groups where there is none:
// first to those with percentages what they lack, then to those without a height, else to those with a length, else to
// all, by how high they are (measured).
func (t *tableState) dealSections(room Px) {
	heights, free := make([]Px, len(t.sections)), room
	bodies := false
	for i, s := range t.sections {
		heights[i] = t.sectionHeight(i) + t.ownHeights[i]
		free -= heights[i]
		bodies = bodies || s.display == css.TableGroup
	}
	if free <= 0 {
		return
	}
	var percents, lengths, loose []int
	lacks, lacking := make([]Px, len(t.sections)), Px(0)
	for i, s := range t.sections {
		h := s.style.Height
		switch {
		case bodies && s.display != css.TableGroup:
		case h.Kind == css.LenPx && h.HasPercent():
			percents = append(percents, i)
			lacks[i] = max(0, h.Resolve(room)-heights[i])
			lacking += lacks[i]
		case h.Kind == css.LenPx:
			lengths = append(lengths, i)
		default:
			loose = append(loose, i)
		}
	}
	grown := slices.Clone(heights)
	if lacking > 0 {
		part := min(lacking, free)
		dealBy(grown, percents, lacks, part)
		free -= part
	}
	for _, list := range [][]int{loose, lengths, percents} {
		if len(list) > 0 {
			dealBy(grown, list, slices.Clone(grown), free)
			break
		}
	}
	for i, h := range grown {
		if h > heights[i] {
			t.growSection(i, h)
		}
	}
}

// dealBy adds a length to some of the sizes by their weights, or evenly where all weigh nothing. The last has what
// rounding leaves.
func dealBy(sizes []Px, list []int, weights []Px, amount Px) {
	sum := Px(0)
	for _, i := range list {
		sum += weights[i]
	}
	left := amount
	for n, i := range list {
		share := amount / Px(len(list))
		if sum > 0 {
			share = mulDiv(amount, weights[i], sum)
		}
		if n == len(list)-1 {
			share = left
		}
		sizes[i] += share
		left -= share
	}
}
