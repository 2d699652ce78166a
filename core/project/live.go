package project

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/records"
	"ziegel/core/site"
)

// A list of a block can say where its entries come from instead of having them: {from: data/articles/*.md, sort: -date,
// limit: 3, where: {kind: news}}.

// LiveKeys are what such a list can say.
func LiveKeys() []string { return []string{"from", "sort", "limit", "where"} }

// IsLive reports a value of a list that says where its entries come from.
func IsLive(v *site.Value) bool { return v != nil && v.Kind == site.Map && v.Get("from") != nil }

// liveKey names what a list follows from.
type liveKey struct{ section, field, value, language string }

type liveEntries struct {
	list    *site.Value
	of      int // entries without the limit
	problem *diag.Problem
}

// Live gives the entries of a list that says where they come from, and how many there would be without its limit.
func (e *Project) Live(
	sec *library.Section,
	fd *library.Field,
	v *site.Value,
) (list *site.Value, of int, problem *diag.Problem) {
	l := Once(
		e,
		liveKey{sec.Name, fd.Name, v.String() + v.Pos.String(), e.Site.Language},
		func() liveEntries { return e.readLive(sec, fd, v) },
	)
	return l.list, l.of, l.problem
}

func (e *Project) readLive(sec *library.Section, fd *library.Field, v *site.Value) liveEntries {
	none := &site.Value{Kind: site.List, Pos: v.Pos, Width: v.Width}
	wrong := func(at *site.Value, rule, text, expected, try string) liveEntries {
		return liveEntries{none, 0, &diag.Problem{Position: at.Pos, Severity: diag.Error, Rule: rule, Text: text,
			Expected: expected, Try: try, Width: max(1, at.Width)}}
	}
	for _, en := range v.Entries {
		if keys := LiveKeys(); !slices.Contains(keys, en.Key) {
			return wrong(en.Value, "unknown-key", fmt.Sprintf("a list from data has no %q", en.Key),
				"one of "+strings.Join(keys, ", "), diag.Nearest(en.Key, keys))
		}
	}
	from := v.Get("from")
	all, untranslated, err := e.data(from.Str(), e.Site.Tag)
	if err != nil {
		return wrong(from, "bad-data", err.Error(), "a file below data/ that has the entries", "")
	}
	found, at, column := choose(all, v, "")
	if at != nil {
		return wrong(at, "bad-data", fmt.Sprintf("%s has no column %q", from.Str(), column),
			"one of "+strings.Join(all.Columns, ", "), diag.Nearest(column, all.Columns))
	}
	limit := len(found.Rows)
	if l := v.Get("limit"); l != nil {
		n, err := strconv.Atoi(l.Str())
		if err != nil || n < 0 {
			return wrong(
				l,
				"wrong-type",
				fmt.Sprintf("%q is no number of entries", l.Str()),
				"a whole number, such as 3",
				"",
			)
		}
		limit = min(limit, n)
	}
	fill := &records.Filling{Name: fd.Name, Field: fd, From: found, Alias: sec.FieldAt}
	entries, err := fill.Entries()
	if err != nil {
		return wrong(from, "bad-data", err.Error(), "columns named as the fields of the list", "")
	}
	e.linkPages(fd, found, entries)
	out := &site.Value{Kind: site.List, Pos: v.Pos, Width: v.Width, Items: entries[:limit]}
	for _, it := range out.Items {
		standAt(it, v)
	}
	if len(untranslated) > 0 {
		return liveEntries{
			out,
			len(entries),
			&diag.Problem{Position: from.Pos, Severity: diag.Note, Rule: "untranslated",
				Text:     fmt.Sprintf("%s shown as it is: no file has it in %s", isAre(untranslated), e.Site.Tag),
				Expected: "a file in that language", Try: records.In(untranslated[0], e.Site.Tag), Width: max(1,
					from.Width)},
		}
	}
	return liveEntries{out, len(entries), nil}
}

// data reads the records that a pattern names, in a language, "" for that of the page files.
func (e *Project) data(pattern, tag string) (all *records.Records, untranslated []string, err error) {
	speak := records.Spoken{Tag: tag}
	if len(e.Site.Languages) > 1 {
		speak.To = e.Site.Languages[1:]
	}
	return records.Glob(e.Dir, pattern, speak)
}

// isAre names the first of some files, for a sentence.
func isAre(files []string) string {
	if len(files) == 1 {
		return files[0] + " is"
	}
	return fmt.Sprintf("%s and %s are", files[0], diag.Plural(len(files)-1, "file")+" more")
}

// choose gives the records that where: keeps, in the order of sort:, or of by without it. at is the value that names a
// column which there is not.
func choose(all *records.Records, v *site.Value, by string) (found *records.Records, at *site.Value, column string) {
	found = all
	if w := v.Get("where"); w != nil {
		want := map[string][]string{}
		for _, en := range w.Entries {
			if !all.Has(en.Key) {
				return nil, w, en.Key
			}
			if en.Value.Kind == site.Text {
				want[en.Key] = []string{en.Value.Str()}
			}
			for _, it := range en.Value.Items {
				want[en.Key] = append(want[en.Key], it.Str())
			}
		}
		found = found.Where(want)
	}
	if s := v.Get("sort"); s != nil {
		by = s.Str()
		if column = strings.TrimPrefix(by, "-"); !all.Has(column) {
			return nil, s, column
		}
	}
	if by != "" {
		found = found.Sorted(by)
	}
	return found, nil, ""
}

// linkPages gives entries without a link one to the page that is made from the same file.
func (e *Project) linkPages(fd *library.Field, from *records.Records, entries []*site.Value) {
	link := fd.Find("link")
	if link == nil || link.Type != library.Link || !from.Has("slug") {
		return
	}
	for i, it := range entries {
		slug := from.Text(i, "slug")
		if it.Kind != site.Map || it.Get("link") != nil || !e.Site.HasPage(slug) {
			continue
		}
		word, _ := e.Word("read")
		it.Entries = append(
			it.Entries,
			site.Entry{Key: "link", Value: site.NewMap("label", site.NewText(word), "to", site.NewText(slug))},
		)
	}
}

// standAt gives values that have no place of their own that of another.
func standAt(v, at *site.Value) {
	if v.Pos.File == "" {
		v.Pos, v.Width = at.Pos, at.Width
	}
	for _, it := range v.Items {
		standAt(it, at)
	}
	for i := range v.Entries {
		if v.Entries[i].KeyPos.File == "" {
			v.Entries[i].KeyPos = at.Pos
		}
		standAt(v.Entries[i].Value, at)
	}
}

// liveLists puts entries in the place of what says where they come from.
func (e *Project) liveLists(b *site.Block) *site.Block {
	e.eachLive(b, func(i int, sec *library.Section, fd *library.Field, v *site.Value) {
		list, _, _ := e.Live(sec, fd, v)
		c := *b
		c.Content = &site.Value{Kind: site.Map, Pos: b.Content.Pos, Entries: slices.Clone(b.Content.Entries)}
		c.Content.Entries[i].Value = list
		b = &c
	})
	return b
}

// eachLive calls do for every list of a block that says where its entries come from.
func (e *Project) eachLive(b *site.Block, do func(i int, sec *library.Section, fd *library.Field, v *site.Value)) {
	if b.Content == nil {
		return
	}
	sec := e.Library.Section(b.Section)
	for i, en := range b.Content.Entries {
		if sec == nil || !IsLive(en.Value) {
			continue
		}
		if fd := sec.Field(en.Key); fd != nil && fd.Type == library.ListOf {
			do(i, sec, fd, en.Value)
		}
	}
}

// LiveMistakes tells what is wrong with the lists of blocks that come from data.
func (e *Project) LiveMistakes(p *site.Page) diag.Problems {
	var out diag.Problems
	for _, b := range e.Site.All(p) {
		e.eachLive(b, func(_ int, sec *library.Section, fd *library.Field, v *site.Value) {
			if _, _, problem := e.Live(sec, fd, v); problem != nil {
				pr := *problem
				pr.Source = diag.LineOf(b.File.Source, pr.Line)
				out = append(out, pr)
			}
		})
	}
	return out
}

// Amount is a page whose lists from data have as many entries as they may come to have.
type Amount struct {
	Says string // none, one, all 12
	Env  *Project
}

// Amounts gives the page of a site with none, with one and with all of the entries that its lists from data have; nil
// for a page without such lists.
func (e *Project) Amounts(p *site.Page) []Amount {
	most, any := 0, false
	for _, b := range e.Site.All(p) {
		e.eachLive(b, func(_ int, sec *library.Section, fd *library.Field, v *site.Value) {
			if _, of, problem := e.Live(sec, fd, v); problem == nil || problem.Severity == diag.Note {
				most, any = max(most, of), true
			}
		})
	}
	if !any {
		return nil
	}
	with := func(says string, limit int) Amount {
		env, _ := e.Vary(p, func(b *site.Block) *site.Block {
			e.eachLive(b, func(i int, _ *library.Section, _ *library.Field, v *site.Value) {
				c, list := *b, v.Clone()
				for k := range list.Entries {
					if list.Entries[k].Key == "limit" {
						list.Entries[k].Value = site.NewText(strconv.Itoa(limit))
					}
				}
				if list.Get("limit") == nil {
					list.Entries = append(
						list.Entries,
						site.Entry{Key: "limit", Value: site.NewText(strconv.Itoa(limit)), KeyPos: v.Pos},
					)
				}
				c.Content = &site.Value{Kind: site.Map, Pos: b.Content.Pos, Entries: slices.Clone(b.Content.Entries)}
				c.Content.Entries[i].Value = list
				b = &c
			})
			return b
		})
		return Amount{says, env}
	}
	return []Amount{with("none", 0), with("one", 1), with(fmt.Sprintf("all %d", most), most)}
}
