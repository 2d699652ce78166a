package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/adopt"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Take writes pages that were taken apart: each a page of the site, with what all of them begin and end with on every
// page. Pictures and other files are not written by it.
func Take(p *Plan, t *adopt.Taking) error {
	for _, page := range t.Pages {
		if err := freePage(p.Env, page.Name); err != nil {
			return err
		}
	}
	p.takeSections(t)
	written := p.everyPage(t)
	blocks := 0
	for _, page := range t.Pages {
		skips := slices.DeleteFunc(slices.Clone(t.Skips[page.Name]), func(n string) bool {
			return !slices.Contains(written, n)
		})
		blocks += p.takePage(page, skips)
	}
	if err := p.takeTokens(t); err != nil {
		return err
	}
	p.removes = true // a page that is linked to may come later
	p.Done = fmt.Sprintf("took %s with %s", diag.Plural(len(t.Pages), "page"), diag.Plural(blocks, "block"))
	return nil
}

// withoutRoles takes out what tones bind in a built stylesheet: the color in force is no token.
func withoutRoles(tokens map[string]any) {
	for name, v := range tokens { // what sections say to themselves
		if group, ok := v.(map[string]any); ok && group["$value"] != nil && len(group) < 3 &&
			!slices.Contains(theme.Roles, name) {
			delete(tokens, name)
		}
	}
	for _, role := range theme.Roles {
		if group, ok := tokens[role].(map[string]any); ok && group["$value"] != nil {
			delete(group, "$value")
			delete(group, "$type")
			if len(group) == 0 {
				delete(tokens, role)
			}
		}
	}
}

// takeSections writes the sections that were made of bands.
func (p *Plan) takeSections(t *adopt.Taking) {
	for _, own := range t.Own {
		dir := "sections/" + own.Name + "/"
		for _, f := range [][2]string{{"section.html", own.Files.HTML}, {"section.css", own.Files.CSS},
			{"section.yaml", own.Files.YAML}} {
			p.files = append(p.files, site.FileChange{Path: dir + f[0], After: f[1], New: true})
		}
		p.note("made the section %s (%s)", own.Name, dir)
		for _, told := range own.Told {
			p.note("  %s", told)
		}
	}
}

// TakeSnippet writes a section that was made of a snippet.
func TakeSnippet(p *Plan, t *adopt.Taking) error {
	name := t.Own[0].Name
	if p.Env.Library.Has(name) {
		return fmt.Errorf("there is a section %q already; take another name", name)
	}
	p.takeSections(t)
	p.Done = "took a section from " + t.Pages[0].File
	return nil
}

// Section writes the files of a section of the site's own; one of that name must not be there.
func Section(p *Plan, name string, files library.Kept, from string) error {
	if p.Env.Library.Has(name) {
		return fmt.Errorf("there is a section %q already; take another name", name)
	}
	p.takeSections(&adopt.Taking{Own: []*adopt.Own{{Name: name, Files: files}}})
	p.Done = "made a section of " + from
	return nil
}

// takeTokens writes what was measured as the theme of a site that has no pages yet and no tokens of its own.
func (p *Plan) takeTokens(t *adopt.Taking) error {
	if _, err := site.ReadIn(p.dir, TokensFile); err == nil || len(p.Env.Site.PageNames()) > 0 {
		p.note("the site's theme stays; colors and type of the old pages are not taken")
		return nil
	}
	files, err := ReadTokenFiles(p.Env, p.dir)
	if err != nil {
		return err
	}
	measured := t.Tokens()
	if measured.Sheet != "" {
		light, dark, _, _ := p.Env.Theme.FromCSS(measured.Sheet)
		withoutRoles(light)
		withoutRoles(dark)
		if _, err := theme.Merge(files.Light, light); err != nil {
			return err
		}
		if _, err := theme.Merge(files.Dark, dark); err != nil {
			return err
		}
		files.darkToo = len(dark) > 0
	} else {
		taken, err := theme.Merge(files.Light, measured.Values)
		if err != nil {
			return err
		}
		if scheme := measured.Scheme; scheme != "" {
			if err := files.Set([]string{theme.TreatmentGroup + theme.Scheme + "=" + scheme}); err != nil {
				return err
			}
			files.Dark = nil
		}
		p.note("measured %s of the theme on the pages (%s)", diag.Plural(len(taken.Changed)+len(taken.Added), "token"),
			TokensFile)
	}
	for _, told := range measured.Told {
		p.note("%s", told)
	}
	return files.write(p)
}

// everyPage writes what all pages begin and end with, and names what it has written. A site that has such blocks keeps
// its own.
func (p *Plan) everyPage(t *adopt.Taking) (written []string) {
	for _, end := range []struct {
		name  string
		have  int
		bands []*adopt.Band
	}{{"top", len(p.Env.Site.Top), t.Top}, {"bottom", len(p.Env.Site.Bottom), t.Bottom}} {
		if len(end.bands) == 0 {
			continue
		}
		if end.have > 0 {
			p.note(
				"the site's own blocks at the %s of every page stay; those of the old pages are not taken",
				end.name,
			)
			continue
		}
		if len(p.Env.Site.PageNames()) > 0 { // pages that are there would get them, too
			onTheirPages(t, end.bands, end.name == "top")
			continue
		}
		v := &site.Value{Kind: site.List}
		for _, b := range end.bands {
			v.Items, written = append(v.Items, blockValue(b)), append(written, b.Name)
		}
		p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("every-page", end.name), Value: v})
	}
	return written
}

// onTheirPages gives bands that pages share back to each of the pages that have them.
func onTheirPages(t *adopt.Taking, bands []*adopt.Band, top bool) {
	for _, page := range t.Pages {
		var own []*adopt.Band
		for _, b := range bands {
			if !slices.Contains(t.Skips[page.Name], b.Name) {
				own = append(own, b)
			}
		}
		if top {
			page.Bands = append(own, page.Bands...)
		} else {
			page.Bands = append(page.Bands, own...)
		}
	}
}

// takePage writes the file of one page.
func (p *Plan) takePage(page *adopt.Page, skips []string) int {
	file := pageFile(page.Name)
	set := func(key string, v *site.Value) {
		p.edit(file, site.Edit{Op: site.Set, Path: site.Keys(key), Value: v})
	}
	title := page.Title
	if title == "" {
		title = TitleCase(page.Name)
	}
	set("title", site.NewText(title))
	if page.Description != "" {
		set("description", site.NewText(page.Description))
	}
	if len(skips) > 0 {
		v := &site.Value{Kind: site.List}
		for _, s := range skips {
			v.Items = append(v.Items, site.NewText(s))
		}
		set("leave-out", v)
	}
	brief, list := &site.Value{Kind: site.List}, &site.Value{Kind: site.List}
	for _, b := range page.Bands {
		list.Items = append(list.Items, blockValue(b))
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(wanted(b)), "block", site.NewText(b.Name)))
	}
	if len(brief.Items) > 0 {
		set("brief", brief)
	}
	set("blocks", list)
	return len(page.Every())
}

// wanted says what a band was to show, for the brief.
func wanted(b *adopt.Band) string {
	if h := b.Content.Get("heading"); !h.Empty() && h.Kind == site.Text {
		text := strings.Join(strings.Fields(strings.NewReplacer("_", "", "*", "", "\\", "").Replace(h.Text)), " ")
		if r := []rune(text); len(r) > 60 {
			text = string(r[:57]) + "..."
		}
		return text
	}
	kind, _, _ := strings.Cut(b.Section, "/")
	return kind
}

// blockValue writes a band as a block.
func blockValue(b *adopt.Band) *site.Value {
	v := site.NewMap("name", site.NewText(b.Name), "section", site.NewText(b.Section))
	add := func(key string, x *site.Value) { v.Entries = append(v.Entries, site.Entry{Key: key, Value: x}) }
	if len(b.Options) > 0 {
		add("options", &site.Value{Kind: site.Map, Entries: b.Options})
	}
	if b.Tone != "" {
		add("tone", site.NewText(b.Tone))
	}
	if b.Lane != "" {
		add("lane", site.NewText(b.Lane))
	}
	if b.Content != nil && len(b.Content.Entries) > 0 {
		add("content", b.Content)
	}
	if b.Style != nil {
		add("style", b.Style)
	}
	if len(b.Without) > 0 {
		list := &site.Value{Kind: site.List}
		for _, w := range b.Without {
			list.Items = append(list.Items, site.NewText(w))
		}
		add("without", list)
	}
	if len(b.Meant) > 0 {
		list := &site.Value{Kind: site.List}
		for _, w := range b.Meant {
			list.Items = append(list.Items, site.NewText(w))
		}
		add("own", list)
	}
	if len(b.Holds) > 0 {
		holds := &site.Value{Kind: site.Map}
		for _, h := range b.Holds {
			list := &site.Value{Kind: site.List}
			for _, x := range h.Bands {
				list.Items = append(list.Items, blockValue(x))
			}
			holds.Entries = append(holds.Entries, site.Entry{Key: h.Slot, Value: list})
		}
		add("holds", holds)
	}
	return v
}

// RewriteSection writes the files of a section of the site's own anew.
func RewriteSection(p *Plan, name string, files library.Kept, from string) error {
	for _, f := range [][2]string{{"section.html", files.HTML}, {"section.css", files.CSS},
		{"section.yaml", files.YAML}} {
		path := "sections/" + name + "/" + f[0]
		old, err := site.ReadIn(p.dir, path)
		if err != nil {
			return fmt.Errorf("there is no section %s of the site's own to write anew: leave out --again", name)
		}
		if string(old) != f[1] {
			p.files = append(p.files, site.FileChange{Path: path, Before: string(old), After: f[1]})
		}
	}
	p.Done = "made the section " + name + " anew of " + from
	return nil
}
