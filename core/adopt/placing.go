package adopt

import (
	"slices"

	"ziegel/core/library"
	"ziegel/core/site"
)

// A placing puts the pieces of one reading into fields.

// placing puts the pieces of one reading into the fields of a section, or of the entries of its list.
type placing struct {
	used map[*piece]bool
	out  record
	m    *Media
	kind string // of the section
	// nested begins one for an entry; placed fills it. Both stand above, in place.go.
	nested func() *placing
	placed func(fields []*library.Field, rd *reading, top bool)

	called  *piece // what became the title
	unasked int    // fields of a form that the section does not ask
}

// free lists the pieces that are not placed yet.
func (f *placing) free(rd *reading, sorts ...sort) []*piece {
	var out []*piece
	for _, p := range rd.pieces {
		if !f.used[p] && slices.Contains(sorts, p.sort) {
			out = append(out, p)
		}
	}
	return out
}

// put gives a field its value.
func (f *placing) put(name string, v *site.Value, of ...*piece) {
	f.out[name] = v
	for _, p := range of {
		f.used[p] = true
	}
}

// has finds a field by name.
func has(fields []*library.Field, name string) *library.Field {
	for _, x := range fields {
		if x.Name == name {
			return x
		}
	}
	return nil
}

// weightOf says how much a piece counts: letters, and for pictures and forms as much as a short text.
func weightOf(p *piece) float64 {
	switch p.sort {
	case picture, form, frame, film:
		return 60
	case icon:
		return 6
	case link, button:
		return 12 + float64(letters(p.plain))
	case list:
		return 0
	}
	return 4 + float64(letters(p.plain))
}
