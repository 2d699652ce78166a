// Package search finds sections by what they are: their words, and what is measured in the laid-out section (on which
// side the picture stands and how much of it there is, columns on a phone, a tablet and a desktop, fields, forms). It
// reads no files but those of its environment; facts of the shipped sections are kept in stock/facts.json, which a
// test holds.
package search

import (
	"encoding/json"
	"io/fs"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Widths are the screen widths at which sections are measured, CSS px.
var Widths = [3]int{390, 768, 1280}

// Facts is what is measured in a section with its sample content.
type Facts struct {
	// left, right, above, below or over the words at the widest width; in entries
	Picture string   `json:"picture,omitempty"`
	Share   int      `json:"share,omitempty"`   // of the block that pictures cover there, percent
	Columns [3]int   `json:"columns"`           // at Widths
	Entries int      `json:"entries,omitempty"` // of its main list, in the sample
	Buttons int      `json:"buttons,omitempty"`
	Heights [3]int   `json:"heights"`           // at Widths, CSS px
	Largest int      `json:"largest,omitempty"` // its largest letters at the widest width, CSS px
	Letters int      `json:"letters,omitempty"` // letters that it shows there on 100,000 square CSS px
	Form    bool     `json:"form,omitempty"`
	Icons   bool     `json:"icons,omitempty"`
	Slides  bool     `json:"slides,omitempty"` // it scrolls sideways inside
	Opens   bool     `json:"opens,omitempty"`  // parts of it open and close
	Script  bool     `json:"script,omitempty"`
	Weight  int      `json:"weight"` // bytes of HTML and CSS
	Fields  []string `json:"fields"`
}

// Known reads the facts of the shipped sections.
func Known(stock fs.FS) map[string]Facts {
	out := map[string]Facts{}
	if data, err := fs.ReadFile(stock, "facts.json"); err == nil {
		_ = json.Unmarshal(data, &out)
	}
	return out
}

// All gives the facts of a library: known ones, and the others measured.
func All(e *project.Project) map[string]Facts {
	out := Known(e.Stock)
	for _, s := range e.Library.All() {
		if _, ok := out[s.Name]; !ok || !e.AsShipped(s.Name) {
			if f, err := Measure(e, s); err == nil {
				out[s.Name] = f
			}
		}
	}
	return out
}

// Alone gives the environment with nothing but one block of a section on one page.
func Alone(e *project.Project, s *library.Section) (*project.Project, *site.Page) {
	f, _ := site.ReadFile("pages/home.yaml", "title: Sample\n")
	b := &site.Block{Name: "block", Section: s.Name, Options: map[string]*site.Value{},
		Node: site.NewMap("name", site.NewText("block")), File: f, Path: site.Keys("blocks", 0)}
	p := &site.Page{Name: "home", Title: "Sample", Blocks: []*site.Block{b}, File: f}
	return e.Alone(p), p
}

var rowsOf = regexp.MustCompile(`^(\d+)(\+\d+)*$`)

// Measure lays a section out with its sample content, at three widths.
func Measure(e *project.Project, s *library.Section) (Facts, error) {
	env, page := Alone(e, s)
	composed, problems := measure.Page(env, page, compose.Options{Marks: true})
	if err := problems.Err(); err != nil {
		return Facts{}, err
	}
	l, err := sweep.FromPage(env, composed)
	if err != nil {
		return Facts{}, err
	}
	f := Facts{Fields: s.FieldNames(), Weight: len(s.HTML) + len(s.CSS.Source),
		Script: strings.Contains(s.HTML, "<script")}
	engine := l.Engine()
	for i, w := range Widths {
		r := engine.Layout(w)
		b := l.Blocks[0]
		if m := rowsOf.FindStringSubmatch(b.Arrangement(r)); m != nil {
			f.Columns[i], _ = strconv.Atoi(m[1])
		}
		if box := r.Of(b.Element); box != nil {
			f.Heights[i] = int(box.H.Float() + .5)
		}
		if i == len(Widths)-1 {
			f.look(l, r)
		}
	}
	return f, nil
}

// look reads what one layout shows.
func (f *Facts) look(l *sweep.Prepared, r *layout.Result) {
	b := l.Blocks[0]
	block := r.Of(b.Element)
	var words, picture *layout.Fragment
	area, letters, entries := 0.0, 0, map[*css.Element]int{}
	for _, e := range l.Doc.Elements {
		p := r.Of(e)
		if !inside(e, b.Element) {
			continue
		}
		_, isEntry := e.LookupAttr(compose.MarkEach)
		switch {
		case isEntry && !repeated(e.Parent, b.Element):
			if e.Tag != "a" {
				entries[e.Parent]++
				f.Entries = max(f.Entries, entries[e.Parent])
			}
		case e.Tag == "form":
			f.Form = true
		case e.Tag == "details" || e.Tag == "dialog":
			f.Opens = true
		}
		f.Icons = f.Icons || e.Tag == "svg" && e.HasClass("icon")
		if p == nil || p.Empty() {
			continue
		}
		if p.Lines > 0 && p.Style.Visible {
			for i := range e.Children {
				if text := strings.TrimSpace(e.Children[i].Text); text != "" {
					letters += utf8.RuneCountInString(text)
					f.Largest = max(f.Largest, int(p.Style.FontSize+.5))
				}
			}
		}
		f.Slides = f.Slides ||
			p.Element.Tag != "textarea" && (p.Style.OverflowX == "auto" || p.Style.OverflowX == "scroll")
		if e.HasClass("action") && !repeated(e.Parent, b.Element) {
			f.Buttons++
		}
		heading := words == nil && (e.Tag == "h1" || e.Tag == "h2" || e.Tag == "h3") && e.Parent != nil
		if heading {
			words = r.Of(e.Parent)
		}
		if e.Tag == "img" {
			area += p.W.Float() * p.H.Float()
			if picture == nil || p.W*p.H > picture.W*picture.H {
				picture = p
			}
		}
	}
	if block == nil || block.Empty() {
		return
	}
	f.Letters = int(float64(letters)*100_000/(block.W.Float()*block.H.Float()) + .5)
	if picture == nil {
		return
	}
	f.Share = min(100, int(area*100/(block.W.Float()*block.H.Float())+.5))
	if repeated(picture.Element, b.Element) || words == nil {
		f.Picture = "in entries"
		return
	}
	f.Picture = side(words, picture)
}

// side tells where a picture stands to the words.
func side(words, picture *layout.Fragment) string {
	common := words.Rect.Intersect(picture.Rect)
	switch {
	case common.W > 64 && common.H > 64:
		return "over"
	case picture.Bottom() <= words.Y+64:
		return "above"
	case picture.Y >= words.Bottom()-64:
		return "below"
	case picture.X < words.X:
		return "left"
	}
	return "right"
}

func inside(e, outer *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if e == outer {
			return true
		}
	}
	return false
}

// repeated reports an element in an entry of a list, links of a row left out.
func repeated(e, outer *css.Element) bool {
	for ; e != nil && e != outer; e = e.Parent {
		if _, ok := e.LookupAttr(compose.MarkEach); ok && e.Tag != "a" {
			return true
		}
	}
	return false
}

// Missing lists the usual kinds that a library has no section of.
func Missing(lib *library.Library) []string {
	var out []string
	for _, k := range UsualKinds {
		if !slices.Contains(lib.Kinds(), k) {
			out = append(out, k)
		}
	}
	return out
}

// UsualKinds are the kinds that pages of this trade are made of.
var UsualKinds = []string{"announcement", "nav", "hero", "logos", "features", "steps", "statistics", "gallery",
	"portfolio", "pricing", "testimonials", "team", "questions", "action", "contact", "newsletter", "articles",
	"footer", "schedule", "map", "video", "events", "timeline", "comparison", "downloads", "embed", "shop"}

// Instead says, of usual kinds that a library may lack, which sections do much the same.
var Instead = map[string]string{
	"embed":      "video/poster",
	"shop":       "portfolio/cards",
	"map":        "contact/details",
	"video":      "hero/under",
	"schedule":   "piece/list",
	"timeline":   "steps/vertical",
	"comparison": "pricing/compare",
	"downloads":  "piece/list",
	"events":     "articles/cards",
}
