// Package edit works edits of a site out: a site and what a designer asks for in, changed files and typed notes out.
// It writes nothing.
package edit

import (
	"errors"
	"fmt"
	"maps"
	"os"
	"path"
	"slices"
	"sort"
	"strings"

	"ziegel/core/address"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
)

// Plan collects the edits of one command.
type Plan struct {
	Env      *project.Project
	dir      string
	Store    store.Store
	edits    map[string][]site.Edit // by file
	files    []site.FileChange      // whole files: new, renamed or removed
	Touched  map[string][]string    // blocks to look at afterwards, by page
	Done     string                 // one line that says what was done
	Notes    []Note
	Matches  []Match                               // pictures for the entries of a table, when some are only alike
	Parked   []string                              // content that the new section of a block does not show
	Language string                                // that of the translations it changes, "" for the page files
	AsTyped  bool                                  // the typing of documents is not tidied
	removes  bool                                  // links to what goes are told and left
	After    []func(env *project.Project) []string // notes that need the site as it will be
	refuse   []func(env *project.Project) error    // reasons against it that need the site as it will be
}

// Note is what an edit tells beside what it did.
type Note struct {
	At       diag.Position // of what it speaks of; zero for none
	Severity diag.Severity // Warning, or "" for a plain line
	Text     string
}

func (p *Plan) note(format string, args ...any) {
	p.Notes = append(p.Notes, Note{Text: fmt.Sprintf(format, args...)})
}

func (p *Plan) edit(file string, e site.Edit) {
	p.edits[file] = append(p.edits[file], e)
}

// Touch has blocks of a page looked at when the edit is done.
func (p *Plan) Touch(page string, blocks ...string) {
	p.Touched[page] = append(p.Touched[page], blocks...)
}

// touchAll makes all blocks of all pages be looked at.
func (p *Plan) touchAll() {
	for _, page := range p.Env.Site.Pages() {
		p.Touch(page.Name, address.BlockNames(p.Env, page)...)
	}
}

// New begins an edit of a site. The store keeps what was found about its pages.
func New(env *project.Project, store store.Store) *Plan {
	return &Plan{Env: env, dir: env.Site.Dir, Store: store, edits: map[string][]site.Edit{},
		Touched: map[string][]string{}}
}

// Work works the edits out: the files as they will be, none when nothing changes, and the site as it will be. A
// mistake that the edit would make is the error.
func (p *Plan) Work() ([]site.FileChange, *project.Project, error) {
	if err := p.Env.Mistakes(p.Env.Site.Read()...).Err(); err != nil { // what was read has to be sound
		return nil, nil, err
	}
	changes, err := p.changes()
	if err != nil || len(changes) == 0 {
		return nil, nil, err
	}
	after, err := p.validate(changes)
	if err != nil {
		return nil, nil, err
	}
	changes = append(changes, p.keepNew(after, changes)...)
	for _, f := range p.refuse {
		if err := f(after); err != nil {
			return nil, nil, err
		}
	}
	p.TouchShared(after)
	for i, name := range slices.Sorted(maps.Keys(p.Touched)) { // what was is read while it is so
		if i < mostPages {
			p.Env.Site.Page(name)
		}
	}
	return changes, after, nil
}

// Trial gives the site as the edits would make it, for looking at.
func (p *Plan) Trial() (*project.Project, error) {
	changes, err := p.changes()
	if err != nil {
		return nil, err
	}
	return p.validate(changes)
}

// changes turns the edits into new file contents.
func (p *Plan) changes() ([]site.FileChange, error) {
	var out []site.FileChange
	names := make([]string, 0, len(p.edits))
	for n := range p.edits {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		data, err := site.ReadIn(p.dir, n)
		isNew := errors.Is(err, os.ErrNotExist)
		if err != nil && !isNew {
			return nil, err
		}
		if was := p.Env.Site.Source(n); was != "" && was != strings.TrimPrefix(string(data), "\ufeff") {
			return nil, fmt.Errorf("%s %w", n, site.ErrChanged) // the edit was worked out on another text
		}
		text, err := site.EditSource(n, string(data), p.edits[n]...)
		if err != nil {
			return nil, err
		}
		if text != string(data) {
			out = append(out, site.FileChange{Path: n, Before: string(data), After: text, New: isNew})
		}
	}
	return append(out, p.files...), nil
}

// validate reads the site as it will be, with the pages that the change can break. Mistakes that were not there
// before stop the edit.
func (p *Plan) validate(changes []site.FileChange) (*project.Project, error) {
	after, problems, err := p.Env.With(changes)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, err
	}
	names := p.reached(after, changes)
	found := p.mistakes(after, names)
	if found.Err() == nil {
		return after, nil
	}
	old := map[string]bool{}
	for _, x := range p.mistakes(p.Env, names) {
		old[x.Rule+x.Text] = true
	}
	var fresh diag.Problems
	for _, x := range found {
		if !old[x.Rule+x.Text] && x.Severity == diag.Error && (x.Rule != "dead-link" || !p.allowDead()) {
			fresh = append(fresh, x)
		}
	}
	return after, fresh.Err()
}

// mistakes composes pages, measures the blocks that were touched, and tells what is wrong.
func (p *Plan) mistakes(e *project.Project, names []string) diag.Problems {
	var out diag.Problems
	for _, name := range names {
		page := e.Site.Page(name)
		if page == nil {
			continue
		}
		out = append(out, e.Mistakes(page)...)
		_, ps := compose.Compose(e, page, compose.Options{Marks: true})
		out = append(out, ps...)
		if blocks := p.Touched[name]; len(blocks) > 0 {
			_, ps = measure.Measure(e, page, blocks, nil)
			out = append(out, ps...)
		}
	}
	return out
}

// mostPages is on how many pages an edit that reaches many is looked at: with hundreds of them an answer would take
// minutes.
const mostPages = 24

// reached names the pages on which a change can make a mistake: those whose files change, all that speak of what it
// takes away, and as many of those that it touches or that speak of what it changes as can be looked at quickly.
func (p *Plan) reached(after *project.Project, changes []site.FileChange) []string {
	names := map[string]bool{}
	var gone, words []string
	main := false
	for _, c := range changes {
		dir, file := path.Split(c.Path)
		name := strings.TrimSuffix(file, ".yaml")
		switch {
		case dir == "pages/":
			names[name] = true
			now := after.Site.Page(name)
			if now == nil {
				gone = append(gone, name)
				continue
			}
			if was := p.Env.Site.Page(name); was != nil {
				for _, b := range p.Env.Site.All(was) {
					if b.EveryPage == "" && after.Site.Block(now, b.Name) == nil {
						gone = append(gone, name+"#"+b.Name, name+"/"+b.Name)
					}
				}
			}
		case c.Path == site.FileName:
			words, main = append(words, mainWords(p.Env.Site, after.Site)...), true
		case strings.HasSuffix(file, ".tokens.json"):
			words, main = append(words, "{"), true // references to tokens
		case strings.HasPrefix(dir, "sections/"):
			words, main = append(words, path.Base(path.Dir(strings.TrimSuffix(dir, "/")))+"/"+path.Base(dir)), true
		}
	}
	if len(gone) > 0 {
		for _, page := range after.Site.Mentioning(gone...) {
			names[page.Name] = true
		}
	}
	likely := slices.Sorted(maps.Keys(p.Touched))
	if len(words) > 0 {
		likely = append(likely, after.Site.NamesMentioning(words...)...)
	}
	for _, n := range likely[:min(len(likely), mostPages)] {
		names[n] = true
	}
	if all := after.Site.PageNames(); main && len(names) == 0 && len(all) > 0 {
		names[all[0]] = true // one stands for all: what is on every page is on it
	}
	return slices.Sorted(maps.Keys(names))
}

// mainWords lists what pages may speak of and a change of the site's file touches: blocks on every page, shared
// styles, sections with defaults, ranges.
func mainWords(was, now *site.Site) []string {
	var out []string
	old := map[string]*site.Value{}
	note := func(kind, name string, v *site.Value) { old[kind+name] = v }
	differs := func(kind, name string, v *site.Value) {
		if o, had := old[kind+name]; !had || !o.Equal(v) {
			out = append(out, name)
		}
		delete(old, kind+name)
	}
	each := func(s *site.Site, do func(kind, name string, v *site.Value)) {
		for _, list := range [][]*site.Block{s.Top, s.Bottom} {
			for _, b := range list {
				for _, in := range inBlock(b) {
					do("block ", in.Name, in.Node)
				}
			}
		}
		for _, x := range s.Styles {
			do("style ", x.Name, x.Value)
		}
		for _, x := range s.Defaults {
			do("default ", x.Section, x.Node)
		}
		for _, x := range s.Ranges {
			do("range ", x.Name, site.NewText(fmt.Sprint(x.From, x.To)))
		}
	}
	each(was, note)
	each(now, differs)
	for k := range old {
		_, name, _ := strings.Cut(k, " ")
		out = append(out, name)
	}
	if was.Theme != now.Theme {
		out = append(out, "{")
	}
	return out
}

// allowDead lets removals leave dead links: they are told instead.
func (p *Plan) allowDead() bool { return p.removes }

// mostShared is on how many pages the effect of a change to a block on every page is looked at.
const mostShared = 6

// TouchShared adds other pages that a touched block stands on: those that say something of their own about it first.
func (p *Plan) TouchShared(after *project.Project) {
	var shared []string
	for name, blocks := range p.Touched {
		page := after.Site.Page(name)
		if page == nil {
			continue
		}
		for _, block := range blocks {
			if b := after.Site.Block(page, block); b != nil && b.EveryPage != "" && !slices.Contains(shared, block) {
				shared = append(shared, block)
			}
		}
	}
	sort.Strings(shared)
	for _, block := range shared {
		pages := after.Site.Mentioning(block)
		names := after.Site.PageNames()
		for _, n := range names {
			if len(pages) >= mostShared {
				break
			}
			if page := after.Site.Page(n); !slices.Contains(pages, page) {
				pages = append(pages, page)
			}
		}
		here := 0
		for _, page := range pages[:min(len(pages), mostShared)] {
			b := after.Site.Block(page, block)
			if b == nil || b.EveryPage == "" {
				continue
			}
			here++
			if !slices.Contains(p.Touched[page.Name], block) {
				p.Touched[page.Name] = append(p.Touched[page.Name], block)
			}
		}
		if here < len(names) && len(names) > mostShared {
			p.note("looked at %s on %d of %d pages; `ziegel check` looks at all", block, here, len(names))
		}
	}
}

// blockArg finds the block that a command is about, on the page itself.
func blockArg(p *Plan, arg string) (*site.Page, *site.Block, error) {
	ad, err := address.OfBlock(arg)
	if err != nil {
		return nil, nil, err
	}
	page, b, err := address.FindBlock(p.Env, ad)
	return page, b, err
}

// inBlock lists a block and all that it holds.
func inBlock(b *site.Block) []*site.Block {
	out := []*site.Block{b}
	for _, s := range b.Holds {
		for _, h := range s.Blocks {
			out = append(out, inBlock(h)...)
		}
	}
	return out
}

type blockOn struct {
	page  *site.Page
	block *site.Block
}

// usesOf gives the blocks of pages by their section. What stands on every page is listed once.
func usesOf(e *project.Project, pages []*site.Page) map[string][]blockOn {
	out, seen := map[string][]blockOn{}, map[string]bool{}
	for _, page := range pages {
		for _, b := range e.Site.All(page) {
			if b.EveryPage != "" {
				if seen[b.Name] {
					continue
				}
				seen[b.Name] = true
			}
			out[b.Section] = append(out[b.Section], blockOn{page, b})
		}
	}
	return out
}

// keepNew adds what an edit brought into use to what the site keeps.
func (p *Plan) keepNew(after *project.Project, changes []site.FileChange) []site.FileChange {
	if !p.Env.Keeps() {
		return nil
	}
	var pages []*site.Page
	for _, c := range changes {
		dir, file := path.Split(c.Path)
		if page := after.Site.Page(strings.TrimSuffix(file, ".yaml")); dir == "pages/" && page != nil {
			pages = append(pages, page)
		}
	}
	used := usesOf(after, pages)
	for _, list := range [][]*site.Block{after.Site.Top, after.Site.Bottom} {
		for _, b := range list {
			for _, in := range inBlock(b) {
				used[in.Section] = nil
			}
		}
	}
	planned := map[string]bool{}
	for _, c := range changes {
		planned[c.Path] = true
	}
	return slices.DeleteFunc(after.Unkept(slices.Sorted(maps.Keys(used))),
		func(f site.FileChange) bool { return planned[f.Path] })
}
