package project

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"ziegel/core/diag"
	"ziegel/core/records"
	"ziegel/core/site"
)

// Pages can be made from data files after the pattern of a page, one of each record: pages: {from: data/articles/*.md,
// page: article} in ziegel.yaml. In the pattern {title} is what the record says in its column title, and {passages} the
// headings and paragraphs of a Markdown file as entries of a list. The pattern itself is no page of the site.

var madeKeys = []string{"from", "page", "sort", "where"}

// makePages makes the pages that the site's file asks for.
func (e *Project) makePages() diag.Problems {
	e.Feeds = nil
	v := e.Site.File.Root.Get("pages")
	if v == nil {
		return nil
	}
	list := []*site.Value{v}
	if v.Kind == site.List {
		list = v.Items
	}
	var out diag.Problems
	for _, one := range list {
		if p := e.makeFrom(one); p != nil {
			out = append(out, *p)
		}
	}
	return out
}

func (e *Project) makeFrom(v *site.Value) *diag.Problem {
	wrong := func(at *site.Value, text, expected, try string) *diag.Problem {
		if at == nil {
			at = v
		}
		p := e.Site.File.Problem(at, "bad-data", text, expected, try)
		return &p
	}
	if v.Kind != site.Map || v.Get("from").Str() == "" || v.Get("page").Str() == "" {
		return wrong(v, "pages are made from data after a page", "{from: data/articles/*.md, page: article}", "")
	}
	for _, en := range v.Entries {
		if !slices.Contains(madeKeys, en.Key) {
			return wrong(
				en.Value,
				fmt.Sprintf("pages from data have no %q", en.Key),
				"one of "+strings.Join(madeKeys, ", "),
				diag.Nearest(en.Key, madeKeys),
			)
		}
	}
	from, pattern := v.Get("from"), v.Get("page").Str()
	if !e.Site.HasPage(pattern) {
		return wrong(v.Get("page"), fmt.Sprintf("there is no page %q to make them after", pattern), "one of "+
			strings.Join(e.Site.PageNames(), ", "), diag.Nearest(pattern, e.Site.PageNames()))
	}
	all, _, err := e.data(from.Str(), "")
	if err != nil {
		return wrong(from, err.Error(), "files below data/", "")
	}
	found, at, column := choose(all, v, "-date")
	if at != nil {
		return wrong(at, fmt.Sprintf("%s has no column %q", from.Str(), column),
			"one of "+strings.Join(all.Columns, ", "),
			diag.Nearest(column, all.Columns))
	}
	if all = found; !all.Has("slug") && !all.Has("title") {
		return wrong(from, from.Str()+" has no column slug and no column title to name pages by", "one of them", "")
	}
	return e.made(v, pattern, all)
}

// made puts the pages of records in the place of their pattern.
func (e *Project) made(v *site.Value, pattern string, all *records.Records) *diag.Problem {
	of := e.Site.Page(pattern)
	source, err := e.Site.PageSource(pattern)
	if err != nil || of.Problems.Err() != nil {
		return nil // that is told of the pattern itself
	}
	feed := Feed{Pattern: pattern}
	var pages []site.MadePage
	taken := map[string]bool{}
	for _, n := range e.Site.PageNames() {
		taken[n] = n != pattern
	}
	for i := range all.Rows {
		name := all.Text(i, "slug")
		if name == "" {
			name = slugOf(all.Text(i, "title"))
		}
		if !site.ValidName(name) || taken[name] {
			p := e.Site.File.Problem(v.Get("from"), "bad-data", fmt.Sprintf("%q cannot be the name of a page", name),
				"small letters, digits and hyphens, beginning with a letter, and no name twice: slug: in the file", "")
			return &p
		}
		taken[name] = true
		filled, unknown := fill(of.File.Root, all, i)
		if unknown != nil {
			p := of.File.Problem(
				unknown,
				"bad-data",
				fmt.Sprintf("the data has no column for %s", placeholder.FindString(unknown.Text)),
				"one of {"+strings.Join(append(all.Columns, passages), "}, {")+"}",
				"",
			)
			return &p
		}
		var says strings.Builder
		for k, c := range all.Rows[i] {
			if c != nil {
				fmt.Fprintf(&says, "%s: %s\n", all.Columns[k], c)
			}
		}
		pages = append(pages, site.MadePage{Name: name, Root: filled, From: source + "\n" + says.String()})
		feed.Items = append(feed.Items, FeedItem{name, all.Text(i, "title"), all.Text(i, "text"), all.Text(i, "date")})
	}
	e.Site = e.Site.WithMade(pattern, pages)
	e.Feeds = append(e.Feeds, feed)
	return nil
}

var (
	placeholder = regexp.MustCompile(`\{[a-z][a-z0-9.-]*\}`)
	notInName   = regexp.MustCompile(`[^a-z0-9]+`)
)

// passages is the placeholder of a Markdown file as entries.
const passages = "passages"

func slugOf(title string) string {
	return strings.Trim(notInName.ReplaceAllString(strings.ToLower(title), "-"), "-")
}

// fill gives a value with what a record says in the place of {column}. unknown is a text with a column that the records
// do not have; references to tokens, {color.plain.ink}, are none.
func fill(v *site.Value, all *records.Records, row int) (out, unknown *site.Value) {
	c := *v
	switch v.Kind {
	case site.Text:
		if v.Text == "{"+passages+"}" {
			list := passagesOf(all.Text(row, "article"))
			standAt(list, v)
			return list, nil
		}
		c.Text = placeholder.ReplaceAllStringFunc(v.Text, func(m string) string {
			column := m[1 : len(m)-1]
			if !all.Has(column) {
				if !strings.Contains(column, ".") && column != "year" && unknown == nil {
					unknown = v
				}
				return m
			}
			return all.Text(row, column)
		})
	case site.List:
		c.Items = make([]*site.Value, len(v.Items))
		for i, it := range v.Items {
			filled, u := fill(it, all, row)
			if c.Items[i] = filled; u != nil {
				return nil, u
			}
		}
	case site.Map:
		c.Entries = slices.Clone(v.Entries)
		for i := range c.Entries {
			if c.Entries[i].Key == "style" { // {space.room} is a token there
				continue
			}
			filled, u := fill(c.Entries[i].Value, all, row)
			if c.Entries[i].Value = filled; u != nil {
				return nil, u
			}
		}
	}
	return &c, unknown
}

var heading = regexp.MustCompile(`^#{1,6}\s+(.*?)\s*#*$`)

// passagesOf cuts a Markdown text at its headings: entries with a title and a text.
func passagesOf(article string) *site.Value {
	out := &site.Value{Kind: site.List}
	title, text := "", []string{}
	flush := func() {
		body := strings.TrimSpace(strings.Join(text, "\n"))
		if title == "" && body == "" {
			return
		}
		m := &site.Value{Kind: site.Map}
		m.Entries = append(
			m.Entries,
			site.Entry{Key: "title", Value: site.NewText(title)},
			site.Entry{Key: "text", Value: site.NewText(body)},
		)
		out.Items = append(out.Items, m)
	}
	for _, line := range strings.Split(article, "\n") {
		if m := heading.FindStringSubmatch(line); m != nil {
			flush()
			title, text = m[1], nil
			continue
		}
		text = append(text, line)
	}
	flush()
	return out
}

// FeedPath gives the built file of a feed: feed.xml of the first, others are called by their pattern.
func (e *Project) FeedPath(pattern string) string {
	if len(e.Feeds) > 0 && e.Feeds[0].Pattern == pattern {
		return "feed.xml"
	}
	return pattern + "-feed.xml"
}

// Dated reports a feed that has an entry with a date, as readers need one.
func (f *Feed) Dated() bool {
	return slices.ContainsFunc(
		f.Items,
		func(it FeedItem) bool { _, err := time.Parse(time.DateOnly, it.Date); return err == nil },
	)
}
