package styles

import (
	"sort"
	"strings"

	"ziegel/core/diag"
)

// Sheet is one generated stylesheet with the origin of its declarations.
type Sheet struct {
	Name    string
	Text    string
	origins []origin
	common  int // how many bytes every sheet of the site begins with
}

type origin struct {
	at  int
	pos diag.Position
	of  map[string]diag.Position // by class, in a rule that several places share
}

// Origin gives where the declaration at a byte of the sheet was written for an element with these classes, the sheet
// itself when it was generated. A rule that says the same for several parts stands once in the sheet and was written
// in several places.
func (s *Sheet) Origin(at int, classes ...string) diag.Position {
	i := sort.Search(len(s.origins), func(i int) bool { return s.origins[i].at >= at })
	if i < len(s.origins) && s.origins[i].at == at {
		for _, c := range classes {
			if pos, ok := s.origins[i].of[c]; ok {
				return pos
			}
		}
		return s.origins[i].pos
	}
	// it stands at another line of the built file, which has the rules of all pages
	if at >= s.common && s.common > 0 {
		return diag.Position{File: s.Name}
	}
	return diag.At(s.Name, s.Text, at)
}

// decl is a declaration to be written, with its origin.
type decl struct {
	name, value string
	pos         diag.Position
	of          map[string]diag.Position // where else it was written, by the class that it is for there
}

// sheetWriter writes a readable stylesheet and remembers origins.
type sheetWriter struct {
	name    string
	b       strings.Builder
	depth   int
	opened  []int // length of the text before each open block, to drop empty ones
	origins []origin
}

func newSheet(name string) *sheetWriter { return &sheetWriter{name: name} }

func (w *sheetWriter) pad() string { return strings.Repeat("  ", w.depth) }

func (w *sheetWriter) open(prelude string) {
	w.opened = append(w.opened, w.b.Len())
	w.b.WriteString(w.pad() + prelude + " {\n")
	w.depth++
	w.opened = append(w.opened, w.b.Len())
}

// close ends a block, or takes it back when nothing was written in it.
func (w *sheetWriter) close() {
	n := len(w.opened)
	before, start := w.opened[n-2], w.opened[n-1]
	w.opened = w.opened[:n-2]
	w.depth--
	if w.b.Len() == start {
		text := w.b.String()[:before]
		w.b.Reset()
		w.b.WriteString(text)
		return
	}
	w.b.WriteString(w.pad() + "}\n")
}

func (w *sheetWriter) declaration(d decl) {
	if d.pos.File != "" {
		w.origins = append(w.origins, origin{w.b.Len(), d.pos, d.of})
	}
	w.b.WriteString(d.name + ": " + d.value + ";")
}

func (w *sheetWriter) rule(selector string, decls ...decl) {
	w.b.WriteString(w.pad() + selector + " {")
	if len(decls) == 1 {
		w.b.WriteString(" ")
		w.declaration(decls[0])
		w.b.WriteString(" }\n")
		return
	}
	w.depth++
	for _, d := range decls {
		w.b.WriteString("\n" + w.pad())
		w.declaration(d)
	}
	w.depth--
	w.b.WriteString("\n" + w.pad() + "}\n")
}

func (w *sheetWriter) raw(s string) { w.b.WriteString(s) }

func (w *sheetWriter) sheet() *Sheet {
	return &Sheet{Name: w.name, Text: w.b.String(), origins: w.origins}
}
