package search

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
)

// Like is a section that could stand in a block's place.
type Like struct {
	Section  *library.Section
	Options  map[string]string // choices that bring what was asked for
	Lost     []string          // fields of the block that it does not show: lead, items.icon
	distance float64
}

// Changes are what is to be different, by property: picture=left, columns=3, form=yes.
var Changes = []string{"picture", "columns", "buttons", "form", "icons", "slides", "mood"}

// Near ranks sections by how much they are like one, with changes: the nearest first, those that do not meet every
// change left out. used are the fields that the block fills, entries' fields as items.title. An error names a change
// that means nothing.
func Near(
	lib *library.Library,
	facts map[string]Facts,
	from *library.Section,
	used []string,
	but map[string]string,
) ([]Like, error) {
	var wishes []wish
	for _, name := range sortedKeys(but) {
		w, err := change(name, but[name])
		if err != nil {
			return nil, err
		}
		wishes = append(wishes, w)
	}
	of := facts[from.Name]
	var out []Like
	for _, s := range lib.All() {
		m := Match{Section: s, Options: map[string]string{}}
		met := true
		for _, w := range wishes {
			met = met && w.score(s, facts[s.Name], &m) > 0
		}
		if !met || s == from && len(m.Options) == 0 {
			continue
		}
		l := Like{Section: s, Options: m.Options}
		for _, name := range used {
			if !shows(s, name) {
				l.Lost = append(l.Lost, name)
			}
		}
		l.distance = distance(of, facts[s.Name], but) + 3*float64(len(l.Lost))
		if s.Kind != from.Kind {
			l.distance += 6
		}
		out = append(out, l)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].distance < out[j].distance })
	return out, nil
}

func sortedKeys(m map[string]string) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// change reads what is to be different.
func change(name, value string) (wish, error) {
	bad := func(expected string) (wish, error) {
		return wish{}, fmt.Errorf("%s=%s is no change: %s", name, value, expected)
	}
	n, err := strconv.Atoi(value)
	switch name {
	case "picture":
		if value == "none" || value == "no" {
			return not("picture"), nil
		}
		if at := sides[value]; at != "" {
			return pictureAt("picture "+value, at), nil
		}
		return bad("the picture stands left, right, above, below or over, or there is none")
	case "columns":
		if err != nil || n < 1 {
			return bad("columns takes a number")
		}
		return wish{
			value + " columns",
			func(s *library.Section, f Facts, m *Match) float64 { return columns(s, f, n, m) },
		}, nil
	case "buttons":
		if err != nil {
			return bad("buttons takes a number")
		}
		return wish{
			value + " buttons",
			func(_ *library.Section, f Facts, _ *Match) float64 { return yes(f.Buttons == n) },
		}, nil
	case "form", "icons", "slides":
		if value != "yes" && value != "no" {
			return bad(name + " takes yes or no")
		}
		has := property(strings.TrimSuffix(name, "s"))
		return wish{
			name,
			func(_ *library.Section, f Facts, _ *Match) float64 { return yes(has(f) == (value == "yes")) },
		}, nil
	case "mood":
		if moods[value] == nil {
			var known []string
			for m := range moods {
				known = append(known, m)
			}
			slices.Sort(known)
			return bad("moods are " + strings.Join(known, ", "))
		}
		return wish{value, func(_ *library.Section, f Facts, _ *Match) float64 { return yes(moods[value](f)) }}, nil
	}
	return wish{}, diag.Unknown("change", name, Changes, "")
}

// shows reports whether a section shows a field: lead, items.icon.
func shows(s *library.Section, name string) bool {
	fields := s.Fields
	for _, step := range strings.Split(name, ".") {
		at := slices.IndexFunc(fields, func(f *library.Field) bool { return f.Name == step })
		if at < 0 {
			return false
		}
		fields = fields[at].Of
	}
	return true
}

// distance tells how unlike two sections are that are measured: columns, pictures, size of letters, what they hold.
// What is to be different does not count.
func distance(a, b Facts, but map[string]string) float64 {
	d := 0.0
	if _, free := but["columns"]; !free {
		for i := range a.Columns {
			d += math.Abs(float64(a.Columns[i] - b.Columns[i]))
		}
	}
	if _, free := but["picture"]; !free {
		d += math.Abs(float64(a.Share-b.Share)) / 20
		if a.Picture != b.Picture {
			d += 2
		}
	}
	_, mood := but["mood"]
	if !mood {
		d += math.Abs(float64(a.Largest-b.Largest))/30 + math.Abs(float64(a.Letters-b.Letters))/30
	}
	for _, x := range []struct {
		name string
		a, b bool
	}{{"form", a.Form, b.Form}, {"icons", a.Icons, b.Icons}, {"slides", a.Slides, b.Slides}, {"", a.Opens, b.Opens}} {
		if _, free := but[x.name]; !free && x.a != x.b {
			d += 2
		}
	}
	return d + math.Abs(float64(a.Entries-b.Entries))/4
}
