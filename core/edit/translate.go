package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/words"
)

// Spoken refuses a language that the site is not translated to.
func Spoken(e *project.Project, tag string) error {
	switch {
	case len(e.Site.Languages) == 0:
		return fmt.Errorf(
			"the site speaks %s alone; languages: [%s, %s] in ziegel.yaml adds one",
			e.Site.Language,
			e.Site.Language,
			tag,
		)
	case tag == e.Site.Languages[0]:
		return fmt.Errorf("%s is the language of the page files: leave out --language", tag)
	case !slices.Contains(e.Site.Languages, tag):
		return diag.Unknown("language", tag, e.Site.Languages[1:], " of the site")
	}
	return nil
}

// TakeTranslations takes translations to a language from a Markdown document that has them in the place of the
// originals, of a page or of all for no name.
func TakeTranslations(p *Plan, file, document, page, tag string) error {
	if err := Spoken(p.Env, tag); err != nil {
		return err
	}
	in := words.In(p.Env, tag)
	pages, err := Words(in, page)
	if err != nil {
		return err
	}
	diffs, err := readWords(in, pages, file, document, page)
	if err != nil {
		return err
	}
	var rows []words.Row
	for _, d := range diffs {
		for _, c := range d.Changes {
			rows = append(rows, words.Row{Page: d.Page, Block: d.Block, Path: c.Path, Target: c.Is, Line: c.Line})
		}
		for _, l := range d.Lists {
			p.note(
				"%s: a translation has the entries of its original, in their order; others were not taken",
				words.Address(d.Page, d.Block, l.Path),
			)
		}
		if len(d.Aside) > 0 {
			p.note("%s: not matched, and not taken: %s", d.Page+"/"+d.Block, quoted(d.Aside))
		}
	}
	if len(rows) == 0 {
		return nil
	}
	return TakeTranslated(p, file, rows, page, tag)
}

// TakeTranslated takes the translations (Target) of a table or of an XLIFF file.
func TakeTranslated(p *Plan, file string, rows []words.Row, page, tag string) error {
	if err := Spoken(p.Env, tag); err != nil {
		return err
	}
	pages, err := Words(p.Env, page)
	if err != nil {
		return err
	}
	by := map[string]*words.Node{}
	for _, x := range pages {
		x.Each(func(b *words.Block, n *words.Node) { by[words.Address(x.Name, b.Name, n.Path)] = n })
	}
	have := p.Env.Site.Words[tag]
	p.Language = tag
	taken, unknown, tidied := 0, 0, 0
	warn := func(r words.Row, format string, args ...any) {
		p.Notes = append(
			p.Notes,
			Note{At: diag.Position{File: file, Line: max(1, r.Line), Column: 1}, Severity: diag.Warning,
				Text: r.Address() + ": " + fmt.Sprintf(format, args...)},
		)
	}
	for _, r := range rows {
		n := by[r.Address()]
		switch {
		case n == nil:
			if unknown++; unknown <= mostNamed {
				warn(r, "there is no such text; it was not taken")
			}
			continue
		case r.Note != "" && r.Target == "": // a code is lost
			warn(r, "%s; it was not taken", r.Note)
			continue
		case r.Target == "":
			continue
		case r.Text != "" && !words.Same(r.Text, n.Text):
			warn(r, "the original has changed since; its translation was taken and counts as stale")
		}
		original := n.Text
		if r.Text != "" {
			original = r.Text
		}
		old, ok := have.Get(r.Address())
		unchanged := ok && words.Same(old.Is, r.Target) &&
			(old.Of == "" || words.Same(old.Of, original) || !r.Done)
		if unchanged { // unchanged, it is as stale as it was
			continue
		}
		if is, did := words.Tidy(r.Target, tag); !p.AsTyped && n.Kind != words.Picture && len(did) > 0 {
			r.Target = is
			tidied++
		}
		if lost := words.LostMarks(original, r.Target); lost != "" {
			warn(r, "%s; it was taken as it is", lost)
		}
		taken++
		value := site.NewMap("of", site.NewText(original), "is", site.NewText(r.Target))
		if old, ok := have.Get(r.Address()); ok && old.Node.Get("file") != nil {
			value.Entries = append(value.Entries, site.Entry{Key: "file", Value: old.Node.Get("file")})
		}
		p.edit(site.WordsPath(tag), site.Edit{Op: site.Set, Path: site.Keys(r.Address()), Value: value, Lines: true})
		if at := p.Env.Site.Page(r.Page); at != nil && r.Block != "" {
			p.Touch(r.Page, r.Block)
		}
	}
	if unknown == len(rows) {
		return fmt.Errorf(
			"%s: none of its %s is on the site; the first is %s",
			file,
			diag.Plural(len(rows), "text"),
			rows[0].Address(),
		)
	}
	if tidied > 0 {
		p.note("typing tidied for %s in %s; --as-typed leaves it", tag, diag.Plural(tidied, "text"))
	}
	if taken > 0 {
		p.Done = fmt.Sprintf("took %s to %s from %s", diag.Plural(taken, "translation"), tag, file)
	}
	return nil
}

// Confirm says that translations are still right although their originals have changed.
func Confirm(p *Plan, addresses []string, tag string) error {
	if err := Spoken(p.Env, tag); err != nil {
		return err
	}
	list := words.Translations(p.Env, tag, nil)
	var stale []string
	for _, t := range list {
		if t.State == words.Stale {
			stale = append(stale, t.Address())
		}
	}
	for _, a := range addresses {
		i := slices.IndexFunc(list, func(t words.Translation) bool { return t.Address() == a })
		if i < 0 || list[i].State != words.Stale {
			return diag.Unknown("stale translation", a, stale, "")
		}
		p.edit(
			site.WordsPath(tag),
			site.Edit{Op: site.Set, Path: site.Keys(a, "of"), Value: site.NewText(list[i].Text)},
		)
	}
	p.Done = fmt.Sprintf("still right in %s: %s", tag, strings.Join(addresses, ", "))
	return nil
}
