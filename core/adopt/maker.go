package adopt

import (
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/project"
)

// maker makes a section of a band.
type maker struct {
	env    *project.Project
	n      *namer
	page   *Page
	band   *Band
	kind   string
	of     map[*html.Node]*css.Element
	copies map[*css.Element]*html.Node
	pieces map[*css.Element]*piece
	marked map[*css.Element]bool
	called map[*html.Node]string // names of entries that are no pattern
	out    record
	told   []string
	level  int // of the band's own heading
	reader *reader
	runs   map[*css.Element][]*html.Node // of text without an element of its own
}

func (m *maker) tellOnce(s string) {
	if !slices.Contains(m.told, s) {
		m.told = append(m.told, s)
	}
}

// text reports an element that has text itself, or hands its size to what has.
func (m *maker) text(e *css.Element) bool { return strings.TrimSpace(e.Text()) != "" }
