package layout

import (
	"ziegel/core/css"
)

// spread makes room for items that span as many tracks each (CSS Grid 2, section 11.5, steps 3 and 5).
func (g *gridState) spread(a *axisTracks, group []span, mode byte, def bool) {
	if len(group) == 0 {
		return
	}
	contentMin := func(t *gridTrack) bool {
		return t.Min.Kind == css.LenMinContent ||
			t.Min.Kind == css.LenMaxContent
	}
	intrinsicMin := func(t *gridTrack) bool { return !fixedTrack(t.Min, def) }
	intrinsicMax := func(t *gridTrack) bool { return !fixedTrack(t.Max, def) }
	maxMin := func(t *gridTrack) bool {
		return t.Min.Kind == css.LenMaxContent || mode == 'M' && intrinsicMin(t) && t.Min.Kind != css.LenMinContent
	}
	maxMax := func(t *gridTrack) bool { return intrinsicMax(t) && t.Max.Kind != css.LenMinContent }
	least := func(it span) Px { return it.least }
	lo := func(it span) Px { return it.lo }
	hi := func(it span) Px { return it.hi }
	g.raiseBases(a, group, intrinsicMin, least, intrinsicMax)
	g.raiseBases(a, group, contentMin, lo, intrinsicMax)
	g.raiseBases(a, group, maxMin, hi, maxMax)
	for i := range a.tracks {
		if t := &a.tracks[i]; !t.infinite {
			t.limit = max(t.limit, t.base)
		}
	}
	growable := g.raiseLimits(a, group, intrinsicMax, lo, nil)
	g.raiseLimits(a, group, maxMax, hi, growable)
}

// raiseBases shares what the items need beyond the base sizes of their tracks: up to the growth limits first, then
// beyond them.
func (g *gridState) raiseBases(a *axisTracks, group []span, affects func(*gridTrack) bool, need func(span) Px,
	beyond func(*gridTrack) bool) {
	planned := make([]Px, len(a.tracks))
	for _, it := range group {
		var open []int
		extra := need(it) - g.spannedGaps(a, it)
		for i := it.from; i < it.to; i++ {
			t := &a.tracks[i]
			extra -= t.base
			if !t.collapsed && affects(t) {
				open = append(open, i)
			}
		}
		if extra <= 0 || len(open) == 0 {
			continue
		}
		gain := make([]Px, len(a.tracks))
		for room := open; extra > 0 && len(room) > 0; {
			var still []int
			spent := Px(0)
			for k, i := range room {
				part := (extra - spent) / Px(len(room)-k)
				t := &a.tracks[i]
				if !t.infinite {
					part = min(part, max(0, t.limit-t.base-gain[i]))
				}
				gain[i] += part
				spent += part
				if t.infinite || t.base+gain[i] < t.limit {
					still = append(still, i)
				}
			}
			extra -= spent
			room = still
			if spent == 0 {
				break
			}
		}
		if extra > 0 {
			var over []int
			for _, i := range open {
				if beyond(&a.tracks[i]) {
					over = append(over, i)
				}
			}
			if len(over) == 0 {
				over = open
			}
			for k, i := range over {
				part := extra / Px(len(over)-k)
				gain[i] += part
				extra -= part
			}
		}
		for _, i := range open {
			planned[i] = max(planned[i], gain[i])
		}
	}
	for i, p := range planned {
		a.tracks[i].base += p
	}
}

// raiseLimits shares what the items need beyond the growth limits of their tracks. It returns the tracks whose limit
// was infinite.
func (g *gridState) raiseLimits(a *axisTracks, group []span, affects func(*gridTrack) bool, need func(span) Px,
	growable map[int]bool) map[int]bool {
	planned := make([]Px, len(a.tracks))
	touched := map[int]bool{}
	for _, it := range group {
		var open, free []int
		extra := need(it) - g.spannedGaps(a, it)
		for i := it.from; i < it.to; i++ {
			t := &a.tracks[i]
			if t.infinite {
				extra -= t.base
			} else {
				extra -= t.limit
			}
			if !t.collapsed && affects(t) {
				open = append(open, i)
				touched[i] = true
				if t.infinite || growable[i] {
					free = append(free, i)
				}
			}
		}
		if len(free) > 0 {
			open = free
		}
		for k, i := range open {
			if extra <= 0 {
				break
			}
			part := extra / Px(len(open)-k)
			planned[i] = max(planned[i], part)
			extra -= part
		}
	}
	was := map[int]bool{}
	for i := range touched {
		t := &a.tracks[i]
		if t.infinite {
			was[i] = true
			t.limit, t.infinite = t.base, false
		}
		t.limit += planned[i]
	}
	return was
}

func (g *gridState) spannedGaps(a *axisTracks, it span) Px {
	open := 0
	for i := it.from; i < it.to; i++ {
		open += bit(!a.tracks[i].collapsed)
	}
	return a.gap * Px(max(0, open-1))
}

// spreadFlexible makes room for items in flexible tracks, all at once: each of the tracks gets its share of what an
// item needs, by the factors, whatever other items have made of its neighbours (measured).
func (g *gridState) spreadFlexible(a *axisTracks, items []span, mode byte, def bool) {
	bases := grown(&g.e.scratch.bases, len(a.tracks))
	clear(bases)
	for _, it := range items {
		sum, open := 0.0, []int(nil)
		extra := -g.spannedGaps(a, it)
		for i := it.from; i < it.to; i++ {
			t := &a.tracks[i]
			if flexible(t) && !fixedTrack(t.Min, def) {
				open = append(open, i)
				sum += t.Max.Px
			} else {
				extra -= t.base
			}
		}
		if len(open) == 0 {
			continue
		}
		extra += g.minFor(&a.tracks[open[0]], it, mode)
		left := extra
		for k, i := range open {
			part := left / Px(len(open)-k)
			if sum > 0 {
				part = css.FromFloat(extra.Float() * a.tracks[i].Max.Px / sum)
			}
			if k == len(open)-1 {
				part = left
			}
			bases[i] = max(bases[i], part)
			left -= part
		}
	}
	for i, b := range bases {
		a.tracks[i].base = max(a.tracks[i].base, b)
	}
}
