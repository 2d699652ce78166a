package compose

import (
	"fmt"
	"io/fs"
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
	Styles  map[string]bool // shared styles, used under no condition
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
				u.Choices[s.Name][o.Name+"="+choice(b, o)] = true
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
	b.WriteString("\n" + strings.Join(slices.Sorted(maps.Keys(u.Lanes)), " ") + "\n" + strings.Join(slices.Sorted(maps.Keys(u.Styles)), " "))
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

var (
	tagForm  = regexp.MustCompile(`<[a-zA-Z][^>]*>`)
	attrForm = regexp.MustCompile(` (class|href|src|srcset|poster|style)="([^"]*)"`)
)

// faceless writes tags as they would be on any page: classes of the page's own, links to elsewhere and the way to the
// site's root are the same everywhere. Words are never touched.
func faceless(markup, page string, links bool) string {
	return tagForm.ReplaceAllStringFunc(markup, func(tag string) string {
		return attrForm.ReplaceAllStringFunc(tag, func(attr string) string {
			m := attrForm.FindStringSubmatch(attr)
			name, value := m[1], m[2]
			switch {
			case name == "class":
				list := strings.Fields(value)
				for i, c := range list {
					if rest, ok := strings.CutPrefix(c, page+"-"); ok {
						list[i] = "page-" + rest
					}
				}
				value = strings.Join(list, " ")
			case name == "href" && !strings.HasPrefix(value, "#"):
				if links {
					value = "far"
				}
			default:
				value = strings.ReplaceAll(value, "../", "")
			}
			return " " + name + `="` + value + `"`
		})
	})
}

// Faceless writes down all that the boxes of a page follow from, pictures and fonts included, so that blocks of
// several pages that look the same have the same text: neither the page's name, nor what its head says, nor where its
// links lead changes a box.
func Faceless(e *project.Project, page *Page) string {
	sheets := page.Site.Text + "\x00" + page.Own.Text
	_, body, _ := strings.Cut(page.HTML, "<body>")
	body = faceless(body, page.Name, !strings.Contains(sheets, "[href"))
	same := strings.NewReplacer("."+page.Name+"-", ".page-", `"../`, `"`, "(../", "(")
	var b strings.Builder
	fmt.Fprintln(&b, e.Site.Language, e.Site.Ranges)
	for _, f := range e.FontsOf(page.Blocks) {
		b.WriteString(f.Name + " " + fontHash(e, f.Name) + "\n")
	}
	for _, m := range page.Media {
		w, h, err := e.PictureSize(m)
		fmt.Fprintln(&b, m, w, h, err == nil)
	}
	b.WriteString(body + "\x00" + same.Replace(sheets))
	return b.String()
}

// fontHash names the content of a font file of the site's own.
func fontHash(e *project.Project, name string) string {
	return project.Once(e, fontKey(name), func() string {
		if _, err := fs.Stat(e.Stock, "fonts/"+name); err == nil { // those that ship change with the program only
			return ""
		}
		data, err := fs.ReadFile(e.Dir, "media/fonts/"+name)
		if err != nil {
			return ""
		}
		return site.Hash(string(data))
	})
}

type fontKey string

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

// SheetFor gives the rules of site.css that some blocks need.
func SheetFor(e *project.Project, blocks []*site.Block) *Sheet {
	sheet, _ := sheetOf(e, blocks)
	return sheet
}

// sheetOf gives the stylesheet of some blocks: the part of site.css that they need.
func sheetOf(e *project.Project, blocks []*site.Block) (*Sheet, diag.Problems) {
	u := newUsage()
	u.add(e, blocks)
	kept := project.Once(e, sheetKey{e.Site, e.Theme, e.Draft, e.Library, e.Base, u.key()}, func() (k keptSheet) {
		k.sheet, k.problems = writeSheet(e, u)
		return k
	})
	return kept.sheet, kept.problems
}
