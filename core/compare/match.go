package compare

import (
	"strings"

	"ziegel/core/paint/geom"
)

// matchAddresses pairs the pieces of two states of a page.
func matchAddresses(ours, theirs []piece) []pair {
	type key struct {
		address string
		kind    sort
		n       int
	}
	index := func(list []piece) []key {
		count := map[key]int{}
		out := make([]key, len(list))
		for i, p := range list {
			k := key{p.address, p.kind, 0}
			count[k]++
			out[i] = key{p.address, p.kind, count[k]}
		}
		return out
	}
	by := map[key]*piece{}
	for i, k := range index(theirs) {
		by[k] = &theirs[i]
	}
	out := make([]pair, len(ours))
	for i, k := range index(ours) {
		if q := by[k]; q != nil {
			out[i] = paired(&ours[i], q)
			out[i].other = ours[i].kind == text && ours[i].text != q.text
		}
	}
	return out
}

// matchTexts pairs the pieces of two pages: texts that are the same, in order where several are; pictures by their
// files and their alternative texts; boxes and blocks by what they hold.
func matchTexts(ours, theirs []piece) []pair {
	out := make([]pair, len(ours))
	by := map[string][]*piece{}
	for i := range theirs {
		if k := theirs[i].words(); k != "" {
			by[k] = append(by[k], &theirs[i])
		}
	}
	for i := range ours {
		if k := ours[i].words(); k != "" && len(by[k]) > 0 {
			out[i] = paired(&ours[i], by[k][0])
			by[k] = by[k][1:]
		}
	}
	wordless(ours, theirs, out)
	for i := len(ours) - 1; i >= 0; i-- {
		if ours[i].kind == box || ours[i].kind == block {
			if q := holding(ours, theirs, out, i); q != nil {
				out[i] = paired(&ours[i], q)
			}
		}
	}
	return out
}

// wordless pairs pictures that say nothing by what stands right after or before them.
func wordless(ours, theirs []piece, out []pair) {
	leaf := func(list []piece, i, step int) int { // the next leaf from i on
		for i += step; i >= 0 && i < len(list); i += step {
			if list[i].kind == text || list[i].kind == picture {
				return i
			}
		}
		return -1
	}
	at, taken := map[*piece]int{}, map[*piece]bool{}
	for i := range theirs {
		at[&theirs[i]] = i
	}
	for _, p := range out {
		taken[p.piece] = true
	}
	for _, step := range []int{1, -1} {
		for k := range ours { // from the neighbour on, so that several side by side are all paired
			i := k
			if step == 1 {
				i = len(ours) - 1 - k
			}
			if ours[i].kind != picture || out[i].found {
				continue
			}
			j := leaf(ours, i, step)
			if j < 0 || out[j].piece == nil {
				continue
			}
			n := leaf(theirs, at[out[j].piece], -step)
			if n >= 0 && theirs[n].kind == picture && !taken[&theirs[n]] {
				out[i] = paired(&ours[i], &theirs[n])
				taken[&theirs[n]] = true
			}
		}
	}
}

// words gives what a leaf is recognised by.
func (p *piece) words() string {
	switch p.kind {
	case text:
		return "text " + strings.ToLower(p.text)
	case picture:
		src := p.element.Attr("src")
		if alt := p.element.Attr("alt"); alt != "" {
			return "picture " + strings.ToLower(alt)
		}
		if src != "" {
			return "file " + src[strings.LastIndexByte(src, '/')+1:]
		}
	}
	return ""
}

// holding gives the box of the other page that holds the same and least besides.
func holding(ours, theirs []piece, pairs []pair, i int) *piece {
	var want geom.Rect
	n := 0
	for j := i + 1; j < len(ours); j++ {
		if pairs[j].piece != nil && (ours[j].kind == text || ours[j].kind == picture) && holds(ours, j, i) {
			want = want.Union(pairs[j].piece.rect)
			n++
		}
	}
	if n == 0 {
		return nil
	}
	var best *piece
	for j := range theirs {
		q := &theirs[j]
		// letters reach over their lines
		if q.kind != box && q.kind != block || want.Intersect(q.rect.Grow(8)) != want {
			continue
		}
		if best == nil || q.rect.W()*q.rect.H() < best.rect.W()*best.rect.H() {
			best = q
		}
	}
	return best
}

func paired(p, q *piece) pair {
	out := pair{found: true, there: q.rect, factor: 1, likely: 1, seen: allSeen, piece: q}
	if p.kind == text && p.size > 0 {
		out.factor = q.size / p.size
		out.rewrap = p.lines != q.lines
	}
	return out
}
