package edit

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/explain"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// scopeName names whom a style of some scope belongs to.
func scopeName(on *Styled, scope string) string {
	switch scope {
	case "page":
		return fmt.Sprintf("%s on %s", on.sec.Name, on.Page.Name)
	case "section":
		return "every " + on.sec.Name
	}
	return on.Page.Name + "/" + on.Block.Name
}

// reach says whom a style touches: this block only, or 14 cards on 3 pages.
func (p *Plan) reach(on *Styled, scope string) string {
	t := on.Target
	elements, blocks, pages := 0, 0, 0
	for _, page := range p.pagesIn(on, scope) {
		var of []*site.Block
		for _, b := range p.Env.Site.All(page) {
			same := b.Node == on.Block.Node
			if scope == "section" || scope == "page" && page.Name == on.Page.Name {
				same = b.Section == on.Block.Section
			}
			if same && (scope != "page" || page.Name == on.Page.Name) {
				of = append(of, b)
			}
		}
		if len(of) > 0 {
			pages++
			blocks += len(of)
			counts := partCounts(p.Env, page, of)
			for _, b := range of {
				elements += counts[b.Name][t.Part]
			}
		}
	}
	s := fmt.Sprintf("%s of %s", t, scopeName(on, scope))
	if scope == "block" {
		if on.Block.EveryPage != "" {
			return s + fmt.Sprintf(", on every page (%s)", diag.Plural(len(p.Env.Site.PageNames()), "page"))
		}
		s += ", this block only"
		if elements > 1 && t.Index == 0 {
			s += " (" + partPlural(elements, t) + ")"
		}
		return s
	}
	return s + fmt.Sprintf(": %s in %s on %s", partPlural(elements, t), diag.Plural(blocks, "block"),
		diag.Plural(pages, "page"))
}

// pagesIn lists the pages on which a style of some scope can be in force.
func (p *Plan) pagesIn(on *Styled, scope string) []*site.Page {
	switch {
	case scope == "section" && on.Block.EveryPage == "":
		return p.Env.Site.Mentioning(on.Block.Section)
	case scope == "section":
		return p.Env.Site.Pages()
	}
	return []*site.Page{on.Page}
}

func partPlural(n int, t styles.Target) string {
	if t.Place != "" || t.Index > 0 {
		return "some of " + diag.Plural(n, t.Part)
	}
	return diag.Plural(n, t.Part)
}

// partCounts counts the elements of each part of some blocks of a page, by block.
func partCounts(e *project.Project, page *site.Page, blocks []*site.Block) map[string]map[string]int {
	var only []string
	for _, b := range blocks {
		only = append(only, b.Name)
	}
	composed, _ := compose.Compose(e, page, compose.Options{Marks: true, Only: only})
	out := map[string]map[string]int{}
	doc, err := html.Parse(strings.NewReader(composed.HTML))
	if err != nil {
		return out
	}
	var walk func(n *html.Node, block string)
	walk = func(n *html.Node, block string) {
		if name, ok := markup.Attr(n, compose.MarkBlock); ok {
			block = name
			out[block] = map[string]int{styles.PartBlock: 1, styles.PartRoot: 1}
		}
		if part, ok := markup.Attr(n, compose.MarkPart); ok && out[block] != nil {
			out[block][part]++
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c, block)
		}
	}
	walk(doc, "")
	return out
}

// touchScope notes the blocks that a style of some scope may change.
func (p *Plan) touchScope(on *Styled, scope string) {
	for _, page := range p.pagesIn(on, scope) {
		for _, b := range p.Env.Site.All(page) {
			reached := b.Node == on.Block.Node || b.Section == on.Block.Section &&
				(scope == "section" || scope == "page" && page.Name == on.Page.Name)
			if reached {
				p.Touch(page.Name, b.Name)
			}
		}
	}
}

// usersOf lists the parts that use a shared look.
func (p *Plan) usersOf(name string) []string {
	var out []string
	eachStyled(p.Env, func(page *site.Page, b *site.Block, t styles.Target) {
		for _, e := range ownStyles(b.Style, t) {
			if slices.Contains(styles.UsedBy(e.Value), name) {
				out = append(out, page.Name+"/"+b.Name+"."+t.Element())
				return
			}
		}
	})
	for _, x := range defaultsIn(p.Env) {
		for _, e := range x.d.Style.Entries {
			if slices.Contains(styles.UsedBy(e.Value), name) {
				out = append(out, x.where+" "+e.Key)
			}
		}
	}
	return out
}

type placedDefault struct {
	where string
	page  *site.Page // nil for the site
	d     site.Default
}

// defaultsIn lists the defaults of the site and its pages that have styles.
func defaultsIn(e *project.Project) []placedDefault {
	var out []placedDefault
	for _, d := range e.Site.Defaults {
		if d.Style != nil {
			out = append(out, placedDefault{"every " + d.Section, nil, d})
		}
	}
	for _, page := range e.Site.Pages() {
		for _, d := range page.Defaults {
			if d.Style != nil {
				out = append(out, placedDefault{d.Section + " on " + page.Name, page, d})
			}
		}
	}
	return out
}

// touchUsers notes the blocks that use a shared look.
func (p *Plan) touchUsers(name string) {
	for _, page := range p.Env.Site.Mentioning(p.speaksOf(name)...) {
		for _, b := range p.Env.Site.All(page) {
			used := usesStyle(b.Style, name)
			for _, list := range [][]site.Default{p.Env.Site.Defaults, page.Defaults} {
				if d := site.DefaultFor(list, b.Section); d != nil {
					used = used || usesStyle(d.Style, name)
				}
			}
			if used {
				p.Touch(page.Name, b.Name)
			}
		}
	}
}

// speaksOf lists the words by which a page can use a shared look: its name, and sections whose defaults use it. A
// style that a block on every page uses is on every page.
func (p *Plan) speaksOf(name string) []string {
	out := []string{name}
	for _, d := range p.Env.Site.Defaults {
		if usesStyle(d.Style, name) {
			out = append(out, d.Section)
		}
	}
	for _, b := range p.Env.Site.All(&site.Page{File: p.Env.Site.File}) {
		if usesStyle(b.Style, name) {
			return []string{""}
		}
	}
	return out
}

func usesStyle(style *site.Value, name string) bool {
	if style == nil {
		return false
	}
	for _, e := range style.Entries {
		if slices.Contains(styles.UsedBy(e.Value), name) {
			return true
		}
	}
	return false
}

// users words how many parts use a shared look.
func (p *Plan) users(name string) string {
	n := len(p.usersOf(name))
	if n == 0 {
		return ", which nothing uses yet"
	}
	return fmt.Sprintf(", used by %s", diag.Plural(n, "part"))
}

// stops warns when a plain value ends what the section does by itself at some widths or in some states.
func (p *Plan) stops(on *Styled, list [][2]string) {
	t := on.Target
	if t.At+t.In+t.When+t.State != "" {
		return
	}
	p.After = append(p.After, func(env *project.Project) []string {
		page := env.Site.Page(on.Page.Name)
		s, err := check.Lay(env, page, []string{on.Block.Name})
		if err != nil {
			return nil
		}
		var out []string
		for _, kv := range list {
			for _, stop := range explain.Stops(s.Prepared, on.Block.Name, t.Part, t.Index, kv[0]) {
				at, cure := "at "+stop.Where, "Limit yours with --at, --in or --when"
				if stop.State {
					at, cure = "in "+stop.Where, "Give the state its own with --state"
				}
				out = append(out, fmt.Sprintf("this stops what %s says of %s %s: %s. %s if that was not meant",
					stop.Who, kv[0], at, stop.Said, cure))
			}
		}
		return out
	})
}

// eachStyled visits every part with a style of its own, once.
func eachStyled(e *project.Project, visit func(page *site.Page, b *site.Block, t styles.Target)) {
	seen := map[*site.Value]bool{}
	for _, page := range e.Site.Pages() {
		for _, b := range e.Site.All(page) {
			if seen[b.Node] || b.Style == nil {
				continue
			}
			seen[b.Node] = true
			var done []styles.Target
			for _, en := range b.Style.Entries {
				t, err := styles.ParseTarget(en.Key)
				if err != nil {
					continue
				}
				t = styles.Target{Part: t.Part, Index: t.Index, Place: t.Place}
				if !slices.Contains(done, t) {
					done = append(done, t)
					visit(page, b, t)
				}
			}
		}
	}
}

// Styled is the place that a style command works on.
type Styled struct {
	Page   *site.Page
	Block  *site.Block // nil for a shared look by itself
	sec    *library.Section
	Target styles.Target
}

// ownStyles lists the entries of a style map that speak of a part, whatever their conditions.
func ownStyles(style *site.Value, t styles.Target) []site.Entry {
	var out []site.Entry
	if style == nil {
		return nil
	}
	for _, e := range style.Entries {
		if have, err := styles.ParseTarget(e.Key); err == nil && have.Part == t.Part && have.Index == t.Index &&
			have.Place == t.Place {
			out = append(out, e)
		}
	}
	return out
}

// FindStyled reads the address of a part and the conditions of the flags.
func FindStyled(e *project.Project, where string, sc Scope) (*Styled, error) {
	ad, err := address.Parse(where)
	if err != nil {
		return nil, err
	}
	page, b, err := address.FindBlock(e, ad)
	if err != nil {
		return nil, err
	}
	sec := e.Library.Section(b.Section)
	if sec == nil {
		return nil, diag.Unknown("section", b.Section, e.Library.Names(), "")
	}
	if ad.Part == "" {
		return nil, fmt.Errorf("name a part of %s/%s: %s; or block for all of it", page.Name, b.Name,
			strings.Join(sec.Parts, ", "))
	}
	if part := sec.PartAt(ad.Part); !styles.HasPart(sec, ad.Part) && part != "" { // named as its field
		ad.Part = part
	}
	if !styles.HasPart(sec, ad.Part) {
		return nil, diag.Unknown("part", ad.Part, append(slices.Clone(sec.Parts), "block", "root"), " in "+sec.Name)
	}
	t := styles.Target{Part: ad.Part, Index: ad.Index, Place: ad.Place, At: sc.At, In: sc.In, When: sc.When}
	err = sc.conditions(e, &t)
	return &Styled{page, b, sec, t}, err
}

// Scope is what the flags of style say.
type Scope struct {
	At, In, When, State string
	Scope, From, Of     string
	Name                string // of a shared look
	Reset, Move         bool
}

// conditions checks the flags that limit a style.
func (sc Scope) conditions(e *project.Project, t *styles.Target) error {
	if sc.At != "" {
		if n, err := strconv.Atoi(sc.At); err == nil {
			return fmt.Errorf("--at %d is one width; do you mean up to it (--at ..%d), from it on (--at %d..), or a range (%s)?",
				n, n, n, strings.Join(e.RangeNames(), ", "))
		}
		if _, _, ok := e.Span(sc.At); !ok {
			return fmt.Errorf("%w; or write widths, such as 480..719",
				diag.Unknown("range", sc.At, e.RangeNames(), ""))
		}
	}
	if sc.In != "" {
		if _, _, ok := site.ParseSpan(sc.In); !ok {
			return fmt.Errorf("--in %q is no span of widths: write ..480, 481.. or 480..719", sc.In)
		}
	}
	if sc.When != "" {
		if _, ok := styles.CanonicalWhen(sc.When); !ok {
			return diag.Unknown("arrangement", sc.When, styles.Arrangements, "")
		}
	}
	if sc.State != "" {
		s, ok := styles.CanonicalState(sc.State)
		if !ok {
			var names []string
			for _, s := range styles.States {
				names = append(names, s.Name)
			}
			return diag.Unknown("state", strings.TrimLeft(sc.State, ":"), names, "")
		}
		t.State = s
	}
	return nil
}
