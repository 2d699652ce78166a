package font

import (
	"math"
	"sort"
	"strings"
)

// Entry is a font file that a page, or the program, brings.
type Entry struct {
	Family                string
	WeightLow, WeightHigh float64
	Italic                bool
	Data                  []byte
}

// Set finds faces for styles. It is for one goroutine; Clone gives another one that shares the files.
type Set struct {
	entries  []*Entry
	families map[string][]*Entry
	generic  map[string]string
	faces    map[faceKey]*Face
	lists    map[string][]*Face
	replaced map[string]string
}

type faceKey struct {
	entry *Entry
	extra string
}

// Want describes the face that a style asks for.
type Want struct {
	Families []string
	Weight   float64
	Italic   bool
	Size     float64 // CSS px, for the optical size axis
	Axes     map[string]float32
}

// NewSet returns a set of fonts. generic maps generic names (sans-serif, ...) and unknown ones (key "") to families in the set.
func NewSet(entries []*Entry, generic map[string]string) *Set {
	s := &Set{entries: entries, generic: generic, families: map[string][]*Entry{}, faces: map[faceKey]*Face{}, lists: map[string][]*Face{}, replaced: map[string]string{}}
	for _, e := range entries {
		k := strings.ToLower(e.Family)
		s.families[k] = append(s.families[k], e)
	}
	return s
}

// With returns a set that has more fonts; they win over those of the same family.
func (s *Set) With(more []*Entry) *Set {
	return NewSet(append(append([]*Entry(nil), more...), s.entries...), s.generic)
}

// Clone returns an independent set over the same files.
func (s *Set) Clone() *Set { return NewSet(s.entries, s.generic) }

// Replaced lists families that were asked for and not there, with what took their place.
func (s *Set) Replaced() map[string]string { return s.replaced }

// Find returns the faces to try for a style, in order. It never returns an empty list while the set has a usable font.
func (s *Set) Find(w Want) []*Face {
	key := strings.Join(w.Families, "\x00") + string(rune(int(w.Weight))) + string(rune(int(math.Round(w.Size*16))))
	if w.Italic {
		key += "i"
	}
	if len(w.Axes) > 0 {
		key += axesKey(w.Axes)
	}
	if list, ok := s.lists[key]; ok {
		return list
	}
	var list []*Face
	seen := map[*Face]bool{}
	add := func(family string) bool {
		entries := s.families[strings.ToLower(family)]
		if len(entries) == 0 {
			return false
		}
		f := s.face(pick(entries, w), w)
		if f != nil && !seen[f] {
			seen[f] = true
			list = append(list, f)
		}
		return f != nil
	}
	for _, family := range w.Families {
		if !add(family) {
			if g, ok := s.generic[strings.ToLower(family)]; ok {
				add(g)
			}
		}
	}
	add(s.generic[""])
	if len(w.Families) > 0 && len(list) > 0 {
		first := strings.ToLower(w.Families[0])
		if _, generic := s.generic[first]; !generic && len(s.families[first]) == 0 {
			s.replaced[w.Families[0]] = list[0].Family
		}
	}
	if len(s.lists) > 4096 {
		s.lists = map[string][]*Face{}
	}
	s.lists[key] = list
	return list
}

func axesKey(axes map[string]float32) string {
	var names []string
	for n := range axes {
		names = append(names, n)
	}
	sort.Strings(names)
	out := ""
	for _, n := range names {
		out += n + string(rune(int(axes[n]*8)))
	}
	return out
}

// pick chooses the entry for a weight and slant after CSS Fonts 4 "Font style matching".
func pick(entries []*Entry, w Want) *Entry {
	var best *Entry
	bestCost := math.Inf(1)
	for i := len(entries) - 1; i >= 0; i-- {
		e := entries[i]
		cost := weightCost(e, w.Weight)
		if e.Italic != w.Italic {
			cost += 1e6
		}
		if cost <= bestCost {
			best, bestCost = e, cost
		}
	}
	return best
}

// weightCost orders weights: 400 to 500 look up to 500 first, then down, then up; lighter ones down first; bolder ones up first.
func weightCost(e *Entry, want float64) float64 {
	if want >= e.WeightLow && want <= e.WeightHigh {
		return 0
	}
	nearest := e.WeightLow
	if want > e.WeightHigh {
		nearest = e.WeightHigh
	}
	d := nearest - want
	switch {
	case want >= 400 && want <= 500:
		if d > 0 && nearest <= 500 {
			return d
		}
		if d < 0 {
			return 1000 - d
		}
		return 2000 + d
	case want < 400:
		if d < 0 {
			return -d
		}
		return 1000 + d
	}
	if d > 0 {
		return d
	}
	return 1000 - d
}

func (s *Set) face(e *Entry, w Want) *Face {
	plain := faceKey{entry: e}
	f, ok := s.faces[plain]
	if !ok {
		f, _ = instance(e.Family, e.Data, nil)
		s.faces[plain] = f
	}
	if f == nil || !f.variable {
		return f
	}
	axes := map[string]float32{"wght": float32(math.Max(e.WeightLow, math.Min(e.WeightHigh, w.Weight))), "opsz": float32(w.Size)}
	for n, v := range w.Axes {
		axes[n] = v
	}
	key := faceKey{entry: e, extra: axesKey(axes)}
	v, ok := s.faces[key]
	if !ok {
		v, _ = instance(e.Family, e.Data, axes)
		s.faces[key] = v
	}
	return v
}
