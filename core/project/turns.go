package project

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// What depends on neighbours is worked out anew each time a page is made: tones and sides of pictures that blocks
// take turns in, and menus that list the blocks of their page or the pages of the site.

// takeTurns gives blocks that say nothing themselves the next value of each turn: page by page, in the order on
// screen.
func (e *Project) takeTurns(p *site.Page, list []*site.Block) []*site.Block {
	for _, turn := range e.turnsOf(p) {
		at, before := -1, ""
		for i, b := range list {
			sec := e.Library.Section(b.Section)
			if sec == nil || b.Within != "" || Landmark(sec.Kind) != "main" {
				continue
			}
			own, takes := "", false
			if turn.Name == "tone" {
				own, takes = b.Tone, b.Tone == "" && b.Ground == nil
			} else {
				o := sec.Option(turn.Name)
				if o == nil || !offers(o, turn.Values) {
					continue
				}
				v := b.Options[turn.Name]
				own, takes = v.Str(), v == nil
			}
			if !takes {
				before = own
				continue
			}
			at = (at + 1) % len(turn.Values)
			if turn.Values[at].Str() == before && len(turn.Values) > 1 { // never the same as the one above
				at = (at + 1) % len(turn.Values)
			}
			c := *b
			if before = turn.Values[at].Str(); turn.Name == "tone" {
				c.Tone = before
			} else {
				c.Options = map[string]*site.Value{turn.Name: turn.Values[at]}
				for n, v := range b.Options {
					c.Options[n] = v
				}
			}
			list[i] = &c
		}
	}
	return list
}

// turnsOf lists the turns of a page; its own go before the site's.
func (e *Project) turnsOf(p *site.Page) []site.Turn {
	out := slices.Clone(p.Turns)
	for _, t := range e.Site.Turns {
		if !slices.ContainsFunc(p.Turns, func(own site.Turn) bool { return own.Name == t.Name }) {
			out = append(out, t)
		}
	}
	return slices.DeleteFunc(out, func(t site.Turn) bool { return len(t.Values) == 0 })
}

func offers(o *library.Option, values []*site.Value) bool {
	return !slices.ContainsFunc(values, func(v *site.Value) bool { return !slices.Contains(o.Choices, v.Str()) })
}

// checkTurns reports turns that no block can take.
func (e *Project) checkTurns(list []site.Turn) diag.Problems {
	var out diag.Problems
	for _, t := range list {
		known := append([]string{"tone"}, e.optionNames()...)
		if !slices.Contains(known, t.Name) {
			out = append(out, t.File.KeyProblem(site.Entry{Key: t.Name, KeyPos: t.KeyPos}, "unknown-option",
				fmt.Sprintf("blocks cannot take turns in %q", t.Name), "tone, or an option of sections such as media",
				diag.Nearest(t.Name, known)))
			continue
		}
		for _, v := range t.Values {
			switch {
			case t.Name == "tone" && !slices.Contains(theme.Tones, v.Str()):
				out = append(out, t.File.Problem(v, "unknown-tone", fmt.Sprintf("there is no tone %q", v.Str()),
					"one of "+strings.Join(theme.Tones, ", "), diag.Nearest(v.Str(), theme.Tones)))
			case t.Name != "tone" && !slices.ContainsFunc(e.Library.All(), func(s *library.Section) bool {
				return s.Option(t.Name) != nil && slices.Contains(s.Option(t.Name).Choices, v.Str())
			}):
				out = append(out, t.File.Problem(v, "bad-value",
					fmt.Sprintf("no section has the choice %q for %s", v.Str(), t.Name),
					"a choice of the option", ""))
			}
		}
	}
	return out
}

func (e *Project) optionNames() []string {
	var out []string
	for _, s := range e.Library.All() {
		for _, o := range s.Options {
			if o.Type == "choice" && !slices.Contains(out, o.Name) {
				out = append(out, o.Name)
			}
		}
	}
	return out
}

// Lists that a menu can show instead of links of its own.
const (
	blocksList = "@blocks" // the blocks of the page that can be reached by a link
	PagesList  = "@pages"  // the other pages of the site
	// LanguagesList are the languages of the site; a field of this name shows them unless it says something else.
	LanguagesList  = "@languages"
	languagesField = "languages"
	// LanguageLink begins the address of the page itself in a language: @en.
	LanguageLink = "@"
)

// withLanguages gives a menu that takes languages those of the site, when it has several.
func (e *Project) withLanguages(sec *library.Section, b *site.Block) *site.Block {
	if len(e.Site.Languages) < 2 || sec.Field(languagesField) == nil || b.Content.Get(languagesField) != nil {
		return b
	}
	c := *b
	c.Content = &site.Value{Kind: site.Map, Pos: b.Node.Pos}
	if b.Content != nil {
		c.Content.Pos, c.Content.Entries = b.Content.Pos, slices.Clone(b.Content.Entries)
	}
	v := site.NewText(LanguagesList)
	v.Pos = b.Node.Pos
	c.Content.Entries = append(c.Content.Entries, site.Entry{Key: languagesField, Value: v, KeyPos: b.Node.Pos})
	return &c
}

// listLinks replaces @blocks and @pages in the content of a block by links.
func (e *Project) listLinks(p *site.Page, b *site.Block) *site.Block {
	sec := e.Library.Section(b.Section)
	if sec == nil {
		return b
	}
	if b = e.withLanguages(sec, b); b.Content == nil {
		return b
	}
	for i, en := range b.Content.Entries {
		fd := sec.Field(en.Key)
		noTurn := en.Value.Kind != site.Text || !slices.Contains([]string{blocksList, PagesList, LanguagesList},
			en.Value.Text) || fd == nil ||
			fd.Type != library.ListOf || fd.Find(".") == nil || fd.Find(".").Type != library.Link
		if noTurn {
			continue
		}
		list := &site.Value{Kind: site.List, Pos: en.Value.Pos, Width: en.Value.Width}
		link := func(label, to string) {
			v := site.NewMap("label", site.NewText(label), "to", site.NewText(to))
			v.Pos = en.Value.Pos
			for k := range v.Entries {
				v.Entries[k].Value.Pos = en.Value.Pos
			}
			list.Items = append(list.Items, v)
		}
		switch en.Value.Text {
		case LanguagesList:
			for _, tag := range e.Site.Languages {
				link(LanguageName(tag), LanguageLink+tag)
			}
		case PagesList:
			for _, other := range e.Site.Pages() {
				if other.Name != "home" && other.Name != Lost {
					link(other.Title, other.Name)
				}
			}
		default:
			for k, other := range p.Blocks {
				if s := e.Library.Section(other.Section); k > 0 && s != nil && s.Field("heading") != nil &&
					Landmark(s.Kind) == "main" {
					link(sentence(other.Name), "#"+other.Name)
				}
			}
		}
		c := *b
		c.Content = &site.Value{Kind: site.Map, Pos: b.Content.Pos, Entries: slices.Clone(b.Content.Entries)}
		c.Content.Entries[i].Value = list
		b = &c
	}
	return b
}

// sentence writes a block's name as a label: winter-plans becomes Winter plans.
func sentence(name string) string {
	name = strings.ReplaceAll(name, "-", " ")
	return strings.ToUpper(name[:1]) + name[1:]
}
