package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/words"
)

func pageFile(name string) string { return "pages/" + name + ".yaml" }

// freePage checks the name of a page that is to come.
func freePage(e *project.Project, name string) error {
	switch {
	case name == words.EveryPage:
		return fmt.Errorf("%q means what stands on every page; take another name", name)
	case name != project.Lost && !site.ValidName(name):
		return fmt.Errorf(
			"%q cannot be a page name: use small letters, digits and hyphens, beginning with a letter",
			name,
		)
	case e.Site.HasPage(name):
		return fmt.Errorf("there is a page %q already; take another name", name)
	}
	return nil
}

// AddPage makes a page with some sections on it, which show their samples.
func AddPage(p *Plan, name, title string, sections []string) error {
	if err := freePage(p.Env, name); err != nil {
		return err
	}
	if title == "" {
		title = TitleCase(name)
	}
	page := &site.Page{Name: name}
	p.edit(pageFile(name), site.Edit{Op: site.Set, Path: site.Keys("title"), Value: site.NewText(title)})
	p.edit(pageFile(name), site.Edit{Op: site.Set, Path: site.Keys("blocks"), Value: &site.Value{Kind: site.List}})
	taken := map[string]bool{}
	for i, full := range sections {
		sec := p.Env.Library.Section(full)
		if sec == nil {
			return diag.Unknown("section", full, p.Env.Library.Names(), "")
		}
		block := usualName(p.Env, page, sec.Kind, taken)
		p.edit(pageFile(name), site.Edit{Op: site.Insert, Path: site.Keys("blocks"), Index: i,
			Value: site.NewMap("name", site.NewText(block), "section", site.NewText(sec.Name))})
		p.Touch(name, block)
	}
	p.Done = fmt.Sprintf("made the page %s (%s)", name, pageFile(name))
	if len(sections) == 0 {
		p.note("it is empty: ziegel add %s SECTION", name)
	}
	return nil
}

// CopyPage copies a page, as it was written, comments included.
func CopyPage(p *Plan, from, to, title string) error {
	page, err := address.FindPage(p.Env, from)
	if err != nil {
		return err
	}
	if err := freePage(p.Env, to); err != nil {
		return err
	}
	if title == "" {
		title = TitleCase(to)
	}
	text, err := site.EditSource(page.File.Path, page.File.Source,
		site.Edit{Op: site.Set, Path: site.Keys("title"), Value: site.NewText(title)})
	if err != nil {
		return err
	}
	p.files = append(p.files, site.FileChange{Path: pageFile(to), After: text, New: true})
	p.Done = fmt.Sprintf("copied the page %s to %s, with the title %s", from, to, title)
	return nil
}

// RenamePage gives a page another name; what speaks of it follows.
func RenamePage(p *Plan, from, to string) error {
	page, err := address.FindPage(p.Env, from)
	if err != nil {
		return err
	}
	if from == "home" || from == project.Lost {
		return fmt.Errorf(
			"%s keeps its name: servers ask for it; `ziegel page copy %s %s` makes another like it",
			from,
			from,
			to,
		)
	}
	if err := freePage(p.Env, to); err != nil {
		return err
	}
	refs := pageReferences(p.Env, from, to)
	var own []site.Edit
	for _, r := range refs {
		e := site.Edit{Op: site.Set, Path: r.path, Value: site.NewText(r.text)}
		if r.file == page.File.Path {
			own = append(own, e)
		} else {
			p.edit(r.file, e)
		}
	}
	text, err := site.EditSource(page.File.Path, page.File.Source, own...)
	if err != nil {
		return err
	}
	p.files = append(p.files, site.FileChange{Path: page.File.Path, Before: page.File.Source, Gone: true},
		site.FileChange{Path: pageFile(to), After: text, New: true})
	p.Done = fmt.Sprintf("renamed the page %s to %s; %s followed", from, to, diag.Plural(len(refs), "reference"))
	if n := p.followComments(func(page, place string) (string, string) {
		if page == from {
			page = to
		}
		return page, place
	}); n > 0 {
		p.Done += ", and " + diag.Plural(n, "comment")
	}
	return nil
}

// RemovePage takes a page off the site. What still speaks of it is told.
func RemovePage(p *Plan, name string) error {
	page, err := address.FindPage(p.Env, name)
	if err != nil {
		return err
	}
	if len(p.Env.Site.PageNames()) == 1 {
		return fmt.Errorf("%s is the only page of the site", name)
	}
	p.files = append(p.files, site.FileChange{Path: page.File.Path, Before: page.File.Source, Gone: true})
	p.removes = true
	p.Done = fmt.Sprintf("removed the page %s; `ziegel undo` brings it back", name)
	for _, r := range pageReferences(p.Env, name, "") {
		if r.file != page.File.Path {
			p.Notes = append(p.Notes, Note{r.old.Pos, diag.Warning, fmt.Sprintf("%q still points there", r.old.Text)})
		}
	}
	return nil
}

// Order puts the blocks of a page into an order. Those that are not named follow, as they stand.
func Order(p *Plan, where string, names []string) error {
	page, err := address.FindPage(p.Env, where)
	if err != nil {
		return err
	}
	var now []string
	for _, b := range page.Blocks {
		now = append(now, b.Name)
	}
	every := map[string]bool{}
	for _, list := range [][]*site.Block{p.Env.Site.Top, p.Env.Site.Bottom} {
		for _, b := range list {
			every[b.Name] = true
		}
	}
	var want []string
	for _, n := range names {
		switch {
		case slices.Contains(want, n):
			return fmt.Errorf("%s is named twice", n)
		case every[n]: // it stands above or below all others, whatever is said
			p.note("%s stands on every page and keeps its place", n)
		case !slices.Contains(now, n):
			return diag.Unknown("block", n, now, " on "+page.Name+" that can be moved")
		default:
			want = append(want, n)
		}
	}
	if len(want) == 0 {
		return errors.New("which order? name the blocks from top to bottom")
	}
	var rest []string
	for _, n := range now {
		if !slices.Contains(want, n) {
			rest = append(rest, n)
		}
	}
	if len(rest) > 0 {
		p.note("not named, so they follow: %s", strings.Join(rest, ", "))
	}
	for i, n := range append(want, rest...) {
		at := slices.Index(now, n)
		if at == i {
			continue
		}
		p.edit(page.File.Path, site.Edit{Op: site.Move, Path: site.Keys("blocks", at), Index: i})
		now = slices.Insert(slices.Delete(now, at, at+1), i, n)
		p.Touch(page.Name, n)
	}
	p.Done = fmt.Sprintf("%s now: %s", page.Name, strings.Join(now, ", "))
	return nil
}

// AddToEveryPage puts a section on every page: above what pages have when it is a navigation or an announcement,
// below it otherwise.
func AddToEveryPage(p *Plan, section, as string) error {
	sec := p.Env.Library.Section(section)
	if sec == nil {
		return diag.Unknown("section", section, p.Env.Library.Names(), "")
	}
	name := as
	if name == "" {
		name = library.BlockName(sec.Kind)
	}
	if as != "" && !site.ValidName(as) {
		return fmt.Errorf(
			"%q cannot be a block name: use small letters, digits and hyphens, beginning with a letter",
			as,
		)
	}
	for _, page := range p.Env.Site.Pages() {
		if p.Env.Site.Block(page, name) == nil {
			continue
		}
		if as != "" {
			return fmt.Errorf("%s already has a block %q; take another name", page.Name, as)
		}
		name = freeName(p.Env, page, name)
	}
	list, end, at := "bottom", len(p.Env.Site.Bottom), "below"
	switch {
	case sec.Kind == "announcement":
		list, end, at = "top", 0, "above"
	case project.Landmark(sec.Kind) == "header":
		list, end, at = "top", len(p.Env.Site.Top), "above"
	}
	p.edit(site.FileName, site.Edit{Op: site.Insert, Path: site.Keys("every-page", list), Index: end,
		Value: site.NewMap("name", site.NewText(name), "section", site.NewText(sec.Name))})
	p.Done = fmt.Sprintf("added %s (%s) to every page, %s what each has, with sample content", name, sec.Name, at)
	if names := p.Env.Site.PageNames(); len(names) > 0 {
		p.Touch(names[0], name)
	}
	return nil
}

// Reset takes what a block says of its fields, options, tone and distances away: the section's and the theme's own
// hold again.
func Reset(p *Plan, where string, names []string) error {
	where, inside := address.Inside(where)
	ad, err := address.Parse(where)
	if err != nil {
		return err
	}
	page, b, err := address.FindBlock(p.Env, ad)
	if err != nil {
		return err
	}
	s, err := newSetter(p, page, b)
	if err != nil {
		return err
	}
	var done []string
	for _, name := range names {
		if inside != "" {
			name = inside + "." + name
		}
		path, err := s.pathOf(name)
		if err != nil {
			return err
		}
		if s.current(path) == nil {
			p.note("%s says nothing of %s", b.Name, name)
			continue
		}
		for len(path) > len(b.Path)+1 && path[len(path)-1].Key != "" { // maps that it leaves empty go with it
			if parent := s.current(path[:len(path)-1]); parent.Kind != site.Map || len(parent.Entries) > 1 {
				break
			}
			path = path[:len(path)-1]
		}
		e := site.Edit{Op: site.Delete, Path: path}
		p.edit(s.file, e)
		if err := site.Apply(s.root, e); err != nil {
			return err
		}
		done = append(done, name)
	}
	p.Done = fmt.Sprintf("reset %s of %s/%s", strings.Join(done, ", "), page.Name, b.Name)
	p.Touch(page.Name, b.Name)
	return nil
}

// pathOf gives the place of a field, an option or a setting of the block in its file.
func (s *setter) pathOf(name string) (site.Path, error) {
	if option, ok := strings.CutPrefix(name, "options."); ok {
		plain, _, _ := strings.Cut(option, " at ")
		if s.sec.Option(plain) == nil {
			return nil, diag.Unknown("option", plain, s.sec.OptionNames(), " of "+s.sec.Name)
		}
		return site.Keys(s.b.Path, "options", option), nil
	}
	if s.sec.Field(name) == nil && slices.Contains(blockSettings, name) {
		return site.Keys(s.b.Path, name), nil
	}
	if rest, ok := strings.CutPrefix(name, "ground."); ok && s.sec.Field("ground") == nil {
		return site.Keys(s.b.Path, "ground", rest), nil
	}
	name, err := s.fieldOf(name)
	if err != nil {
		return nil, err
	}
	path, _, err := s.resolve(name)
	return path, err
}
