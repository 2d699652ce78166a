package styles

import (
	"maps"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Usage is what some blocks use of the library and of the site's styles: it decides what their stylesheet has. A
// built site has the sheet of all its blocks; a page or a block that is looked at alone has a sheet of its own, in
// which the same rules stand in the same order.
type Usage struct {
	// of options, by section: "media=left"; every section that is used has an entry
	Choices map[string]map[string]bool
	Lanes   map[string]bool
	Styles  map[string]bool // shared looks, used under no condition
	Held    bool            // some block stands in another
	Draft   bool
}

func newUsage() *Usage {
	return &Usage{Choices: map[string]map[string]bool{}, Lanes: map[string]bool{}, Styles: map[string]bool{}}
}

// add takes in what some blocks use.
func (u *Usage) add(e *project.Project, blocks []*site.Block) {
	for _, b := range blocks {
		u.Held, u.Draft = u.Held || b.Within != "", u.Draft || b.Draft
		if b.Lane != "" {
			u.Lanes[b.Lane] = true
		}
		eachUse(b, func(name string, t Target) {
			if t.State+t.At+t.In+t.When == "" {
				u.Styles[name] = true
			}
		})
		s := e.Library.Section(b.Section)
		if s == nil {
			continue
		}
		if u.Choices[s.Name] == nil {
			u.Choices[s.Name] = map[string]bool{}
		}
		for i := range s.Options {
			if o := &s.Options[i]; o.Type == "choice" {
				u.Choices[s.Name][o.Name+"="+Choice(b, o)] = true
			}
		}
	}
}

// key names a usage: two of the same key have the same sheet.
func (u *Usage) key() string {
	var b strings.Builder
	for _, s := range slices.Sorted(maps.Keys(u.Choices)) {
		b.WriteString(s + " " + strings.Join(slices.Sorted(maps.Keys(u.Choices[s])), " ") + "\n")
	}
	b.WriteString("\n" + strings.Join(slices.Sorted(maps.Keys(u.Lanes)), " ") + "\n" +
		strings.Join(slices.Sorted(maps.Keys(u.Styles)), " "))
	if u.Held {
		b.WriteString("\nheld")
	}
	if u.Draft {
		b.WriteString("\ndraft")
	}
	return b.String()
}

// sections lists the sections of a usage, by name.
func (u *Usage) sections(lib *library.Library) []*library.Section {
	var out []*library.Section
	for _, name := range slices.Sorted(maps.Keys(u.Choices)) {
		if s := lib.Section(name); s != nil {
			out = append(out, s)
		}
	}
	return out
}

// UsageOf is what the blocks of a page use.
func UsageOf(e *project.Project, p *site.Page) *Usage {
	u := newUsage()
	u.add(e, e.All(p)) // with the options of defaults
	return u
}

// join takes in what another usage has.
func (u *Usage) join(o *Usage) {
	for s, choices := range o.Choices {
		if u.Choices[s] == nil {
			u.Choices[s] = map[string]bool{}
		}
		maps.Copy(u.Choices[s], choices)
	}
	maps.Copy(u.Lanes, o.Lanes)
	maps.Copy(u.Styles, o.Styles)
	u.Held, u.Draft = u.Held || o.Held, u.Draft || o.Draft
}

var AttrForm = regexp.MustCompile(` (class|href|src|srcset|poster|style)="([^"]*)"`)

type sheetKey struct {
	site         *site.Site
	theme, draft *theme.Theme
	library      *library.Library
	base, usage  string
}

type keptSheet struct {
	sheet    *Sheet
	problems diag.Problems
}
