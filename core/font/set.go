package font

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"sort"
	"strings"
	"sync"
)

// Entry is a font file that a page, or the program, brings.
type Entry struct {
	Family                  string
	WeightLow, WeightHigh   float64
	StretchLow, StretchHigh float64 // percent; both 0 mean 100
	Italic                  bool
	SlantLow, SlantHigh     float64   // degrees, of an oblique face with a slant axis
	Ranges                  [][2]rune // unicode-range; empty means all
	SizeAdjust              float64   // a factor; 0 means 1
	// ascent-, descent- and line-gap-override as factors of the size; below 0 means the font's own
	Ascent, Descent, Gap float64
	// font units; what text fields are sized by, where a stand-in's own values differ
	AvgWidth, MaxWidth float64
	Data               []byte

	once sync.Once // reads the file when it is first asked for; sets share entries
	file *file
}

// Plain returns an entry with a weight and no other descriptors.
func Plain(family string, weight float64, italic bool, data []byte) *Entry {
	return &Entry{Family: family, WeightLow: weight, WeightHigh: weight, Italic: italic, Ascent: -1, Descent: -1,
		Gap: -1, Data: data}
}

// Set finds faces for styles. It is for one goroutine; Clone gives another one that shares the files.
type Set struct {
	entries  []*Entry
	families map[string][]*Entry
	generic  map[string][]string
	faces    map[faceKey]*Face
	lists    map[string][]*Face
	quick    map[quickKey]quickList
	replaced map[string]string
	files    *files // shared with the sets that it came from
}

type faceKey struct {
	entry *Entry
	extra string
}

// quickKey finds a list of faces again without its size and axes; families are known by where their list is.
type quickKey struct {
	families               *string
	n                      int
	weight, stretch, slant float64
	italic, noSize         bool
	adjust                 Adjust
}

type quickList struct {
	faces []*Face
	sized bool // a face depends on the size
}

// Want describes the face that a style asks for.
type Want struct {
	Families []string
	Weight   float64
	Italic   bool
	Stretch  float64 // percent; 0 means 100
	Slant    float64 // degrees
	Size     float64 // CSS px, for the optical size axis
	NoSize   bool    // font-optical-sizing: none
	Axes     map[string]float32
	Adjust   Adjust
}

// NewSet returns a set of fonts. generic maps generic names (sans-serif, ...) and unknown ones (key "") to families
// in the set, in the order that glyphs are looked for in them.
func NewSet(entries []*Entry, generic map[string][]string) *Set {
	return newSet(entries, generic, &files{})
}

func newSet(entries []*Entry, generic map[string][]string, read *files) *Set {
	s := &Set{files: read, entries: entries, generic: generic, families: map[string][]*Entry{}, faces: map[faceKey]*Face{},
		lists: map[string][]*Face{}, quick: map[quickKey]quickList{}, replaced: map[string]string{}}
	for _, e := range entries {
		k := strings.ToLower(e.Family)
		s.families[k] = append(s.families[k], e)
	}
	return s
}

// With returns a set that has more fonts; they win over those of the same family.
func (s *Set) With(more []*Entry) *Set {
	return newSet(append(append([]*Entry(nil), more...), s.entries...), s.generic, s.files)
}

// Reaching returns a set in which letters that the faces of a style do not have are looked for in more families before
// those that stand in for all.
func (s *Set) Reaching(families ...string) *Set {
	generic := maps.Clone(s.generic)
	if generic == nil {
		generic = map[string][]string{}
	}
	generic[""] = append(slices.Clone(families), generic[""]...)
	return newSet(s.entries, generic, s.files)
}

// Clone returns an independent set over the same files.
func (s *Set) Clone() *Set { return newSet(s.entries, s.generic, s.files) }

// Readable reports whether the file of an entry is a font. It is read once for all sets that come from this one.
func (s *Set) Readable(e *Entry) bool { return e.instance(nil, s.files) != nil }

// Replaced lists families that were asked for and not there, with what took their place.
func (s *Set) Replaced() map[string]string { return s.replaced }

// Find returns the faces to try for a style, in order. It never returns an empty list while the set has a usable
// font.
func (s *Set) Find(w Want) []*Face {
	if len(w.Families) == 0 || len(w.Axes) > 0 {
		return s.find(w)
	}
	key := quickKey{&w.Families[0], len(w.Families), w.Weight, w.Stretch, w.Slant, w.Italic, w.NoSize, w.Adjust}
	q, ok := s.quick[key]
	if !ok {
		q.faces = s.find(w)
		for _, f := range q.faces {
			q.sized = q.sized || f.Sized()
		}
		s.quick[key] = q
	}
	if q.sized {
		return s.find(w)
	}
	return q.faces
}

func (s *Set) find(w Want) []*Face {
	key := strings.Join(w.Families, "\x00") + string(rune(int(w.Weight))) + string(rune(int(math.Round(w.Size*16))))
	if w.Italic {
		key += "i"
	}
	if w.Stretch == 0 {
		w.Stretch = 100
	}
	if w.Stretch != 100 || w.Slant != 0 || w.NoSize {
		key += fmt.Sprint(w.Stretch, w.Slant, w.NoSize)
	}
	if w.Adjust.Of != "" {
		key += fmt.Sprint(w.Adjust)
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
		found := false
		for _, e := range pick(entries, w) {
			f := s.face(e, w)
			if f != nil && !seen[f] {
				seen[f] = true
				list = append(list, f)
			}
			found = found || f != nil
		}
		return found
	}
	for _, family := range w.Families {
		if !add(family) {
			for _, g := range s.generic[strings.ToLower(family)] {
				add(g)
			}
		}
	}
	for _, g := range s.generic[""] {
		add(g)
	}
	if len(w.Families) > 0 && len(list) > 0 {
		first := strings.ToLower(w.Families[0])
		if _, generic := s.generic[first]; !generic && len(s.families[first]) == 0 {
			s.replaced[w.Families[0]] = list[0].Family
		}
	}
	if w.Adjust.Of != "" && len(list) > 0 {
		list = w.Adjust.all(list)
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

// pick chooses the entries for a width, slant and weight after CSS Fonts 4 "Font style matching". Rules that differ
// only in their unicode-range all come, the last one first.
func pick(entries []*Entry, w Want) []*Entry {
	var best []*Entry
	bestCost := math.Inf(1)
	for i := len(entries) - 1; i >= 0; i-- {
		e := entries[i]
		cost := weightCost(e, w.Weight) + 1e9*stretchCost(e, w.Stretch)
		if w.Italic != (e.Italic || w.Slant != 0 && e.SlantHigh > e.SlantLow) {
			cost += 1e6
		}
		switch {
		case cost < bestCost:
			best, bestCost = []*Entry{e}, cost
		case cost == bestCost && len(best[len(best)-1].Ranges) > 0:
			best = append(best, e)
		}
	}
	return best
}

// stretchCost orders widths: up to 100 % narrower ones first, above wider ones first.
func stretchCost(e *Entry, want float64) float64 {
	lo, hi := e.StretchLow, e.StretchHigh
	if lo == 0 && hi == 0 {
		lo, hi = 100, 100
	}
	switch {
	case want >= lo && want <= hi:
		return 0
	case want <= 100 && hi < want:
		return want - hi
	case want <= 100:
		return 1000 + lo - want
	case lo > want:
		return lo - want
	}
	return 1000 + want - hi
}

// weightCost orders weights: 400 to 500 look up to 500 first, then down, then up; lighter ones down first; bolder
// ones up first.
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
		f = e.instance(nil, s.files)
		s.faces[plain] = f
	}
	if f == nil || !f.variable {
		return f
	}
	within := func(v, lo, hi float64) float32 { return float32(math.Max(lo, math.Min(hi, v))) }
	all := map[string]float32{"wght": within(w.Weight, e.WeightLow, e.WeightHigh), "opsz": float32(w.Size)}
	if e.StretchHigh > 0 {
		all["wdth"] = within(w.Stretch, e.StretchLow, e.StretchHigh)
	}
	if w.Slant != 0 {
		all["slnt"] = -within(w.Slant, e.SlantLow, e.SlantHigh) // the axis counts the other way round
	}
	if e.Italic {
		all["ital"] = 1
	}
	if w.NoSize {
		delete(all, "opsz")
	}
	for n, v := range w.Axes {
		all[n] = v
	}
	axes := map[string]float32{}
	for n, v := range all {
		if a, ok := f.axes[n]; ok {
			axes[n] = within(float64(v), a[0], a[2])
		}
	}
	key := faceKey{entry: e, extra: axesKey(axes)}
	v, ok := s.faces[key]
	if !ok {
		v = e.instance(axes, s.files)
		if len(s.faces) > 512 { // fluid type of a font with an optical size asks for a new face at every width
			s.faces, s.lists, s.quick = map[faceKey]*Face{plain: f}, map[string][]*Face{}, map[quickKey]quickList{}
		}
		s.faces[key] = v
	}
	return v
}

// instance reads the face of an entry, with the descriptors of its rule; nil when the file cannot be read.
func (e *Entry) instance(axes map[string]float32, read *files) *Face {
	e.once.Do(func() { e.file = read.read(e.Family, e.Data) })
	if e.file == nil {
		return nil
	}
	f := e.file.instance(axes)
	if f == nil {
		return nil
	}
	f.ranges, f.Weight = e.Ranges, e.WeightHigh
	_, slants := f.axes["slnt"]
	f.Leaning = e.Italic || slants
	if e.SizeAdjust > 0 {
		f.adjust = e.SizeAdjust
	}
	for _, o := range []struct {
		to *float64
		v  float64
	}{{&f.Ascent, e.Ascent}, {&f.Descent, e.Descent}, {&f.LineGap, e.Gap}} {
		if o.v >= 0 {
			*o.to = o.v * f.Upem
		}
	}
	if e.AvgWidth > 0 {
		f.AvgWidth, f.MaxWidth = e.AvgWidth, e.MaxWidth
	}
	return f
}
