package edit

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/words"
)

// MostWords is how large a document of words may be, bytes.
const MostWords = 8 << 20

// Words gives the words of a page, of the blocks on every page (words.EveryPage), or of the whole site for no name.
func Words(e *project.Project, page string) ([]*words.Page, error) {
	switch page {
	case "":
		return words.All(e), nil
	case words.EveryPage:
		return []*words.Page{words.OfEveryPage(e)}, nil
	}
	p := e.Site.Page(page)
	if p == nil {
		return nil, diag.Unknown("page", page, append(e.Site.PageNames(), words.EveryPage), "")
	}
	return []*words.Page{words.Of(e, p)}, nil
}

// Tidied sets texts of a document as the language of the site is typeset, and tells what it did.
func (p *Plan) Tidied(diffs []words.Diff, tag string) {
	done := map[string]int{}
	tidy := func(c *words.Change) {
		if c.Kind == words.Picture || c.Is == c.Was {
			return
		}
		is, did := words.Tidy(c.Is, tag)
		for _, d := range did {
			done[d]++
		}
		c.Is = is
	}
	var items func(list []words.Reorder)
	items = func(list []words.Reorder) {
		for i := range list {
			for k := range list[i].Items {
				for n := range list[i].Items[k].Texts {
					tidy(&list[i].Items[k].Texts[n])
				}
				items(list[i].Items[k].Lists)
			}
		}
	}
	for i := range diffs {
		for k := range diffs[i].Changes {
			tidy(&diffs[i].Changes[k])
		}
		items(diffs[i].Lists)
	}
	var said []string
	for _, d := range slices.Sorted(maps.Keys(done)) {
		said = append(said, fmt.Sprintf("%s (%d)", d, done[d]))
	}
	if len(said) > 0 {
		p.note("typing tidied for %s: %s; --as-typed leaves it", tag, strings.Join(said, ", "))
	}
}

// TakeWords takes what a Markdown document says otherwise of a page, or of the whole site for no name. What it has and
// no field is, is kept aside in the block; what it does not have stays.
func TakeWords(p *Plan, file, document, page string) error {
	pages, err := Words(p.Env, page)
	if err != nil {
		return err
	}
	diffs, err := readWords(p.Env, pages, file, document, page)
	if err != nil {
		return err
	}
	if !p.AsTyped {
		p.Tidied(diffs, p.Env.Site.Language)
	}
	return p.takeWords(file, diffs)
}

// readWords reads what a document says otherwise of pages. page is the one that was named, "" for all.
func readWords(e *project.Project, pages []*words.Page, file, document, page string) ([]words.Diff, error) {
	if len(document) > MostWords {
		return nil, fmt.Errorf(
			"%s has %d MB, and %d MB are the most for words",
			file,
			len(document)>>20,
			MostWords>>20,
		)
	}
	if strings.ContainsRune(document, 0) || !isText(document) {
		return nil, fmt.Errorf("%s is no text in UTF-8: save it as plain text", file)
	}
	known := map[string][]string{}
	for _, x := range pages {
		known[x.Name] = []string{}
		for _, b := range x.Blocks {
			known[x.Name] = append(known[x.Name], b.Name)
		}
	}
	doc := words.Read(document, known)
	var diffs []words.Diff
	found := 0
	for _, have := range doc.Pages {
		of := pages[0]
		if have.Name != "" || len(pages) > 1 {
			i := slices.IndexFunc(pages, func(x *words.Page) bool { return x.Name == have.Name })
			switch {
			case i < 0 && have.Name == "" && empty(have):
				continue
			case i < 0 && have.Name == "":
				return nil, fmt.Errorf(
					"%s:%d: which page is this? begin the page with its name: # %s",
					file,
					have.Line,
					pages[len(pages)-1].Name,
				)
			case i < 0 && e.Site.HasPage(have.Name) || i < 0 && have.Name == words.EveryPage:
				return nil, fmt.Errorf(
					"%s:%d: these are words of %s, not of %s: name that page, or none to take them all",
					file,
					have.Line,
					have.Name,
					page,
				)
			case i < 0:
				return nil, fmt.Errorf("%s:%d: there is no page %q; there are %s", file, have.Line, have.Name,
					strings.Join(e.Site.PageNames(), ", "))
			}
			of = pages[i]
		} else if empty(have) {
			continue
		}
		found++
		list := doc.Compare(of, have)
		if strange(of, have, list) {
			return nil, fmt.Errorf(
				"%s: nothing in it is of the page %s; `ziegel words %s` writes its words",
				file,
				of.Name,
				of.Name,
			)
		}
		diffs = append(diffs, list...)
	}
	if found == 0 {
		return nil, fmt.Errorf("%s has no words in it", file)
	}
	return diffs, nil
}

func isText(s string) bool { return strings.ToValidUTF8(s, "") == s }

// empty reports a page of a document in which nothing stands.
func empty(p *words.FoundPage) bool {
	return !slices.ContainsFunc(p.Blocks, func(b *words.FoundBlock) bool { return len(b.Found) > 0 || b.Name != "" })
}

// strange reports a document of which nothing belongs to a page.
func strange(p *words.Page, have *words.FoundPage, list []words.Diff) bool {
	all, missing, changed := 0, 0, 0
	p.Each(func(*words.Block, *words.Node) { all++ })
	for _, d := range list {
		missing += len(d.Missing)
		changed += len(d.Changes)
	}
	named := slices.ContainsFunc(have.Blocks, func(b *words.FoundBlock) bool { return b.Name != "" })
	return all > 0 && all-missing-changed <= all/20 && !named && have.Name == ""
}

// takeWords plans what documents say otherwise.
func (p *Plan) takeWords(file string, diffs []words.Diff) error {
	t := &taking{p: p, file: file}
	for _, d := range diffs {
		var err error
		if d.Block == "" {
			err = t.page(d)
		} else {
			err = t.block(d)
		}
		if err != nil {
			return err
		}
	}
	p.removes = true // a link of the writer's that leads nowhere is told, and the rest is taken
	if t.changed+t.aside > 0 {
		p.Done = fmt.Sprintf("took %s from %s", diag.Plural(t.changed, "change"), file)
		if t.aside > 0 {
			p.Done += fmt.Sprintf("; %s kept aside, which `ziegel todo` shows", are(t.aside, "piece"))
		}
	}
	if t.missing > 0 {
		p.note("%s of the page not in %s: they stay (%s)", are(t.missing, "text"), file, strings.Join(t.missed, ", "))
	}
	return nil
}

// are says how many there are: 1 text is, 2 texts are.
func are(n int, what string) string {
	if n == 1 {
		return "1 " + what + " is"
	}
	return fmt.Sprintf("%d %ss are", n, what)
}

type taking struct {
	p                       *Plan
	file                    string
	changed, aside, missing int
	missed                  []string // the first of them
}

// mostNamed is how many missing texts are named.
const mostNamed = 6

func (t *taking) miss(d words.Diff) {
	for _, m := range d.Missing {
		if t.missing++; len(t.missed) < mostNamed {
			t.missed = append(t.missed, words.Address(d.Page, d.Block, m))
		} else if len(t.missed) == mostNamed {
			t.missed = append(t.missed, "...")
		}
	}
}

// page takes what a page, or the site, says of itself.
func (t *taking) page(d words.Diff) error {
	t.miss(d)
	file := site.FileName
	if d.Page != words.EveryPage {
		file = t.p.Env.Site.Page(d.Page).File.Path
	}
	for _, c := range d.Changes {
		t.changed++
		t.p.edit(file, site.Edit{Op: site.Set, Path: site.Keys(c.Path), Value: site.NewText(c.Is)})
		t.p.note("%s: %s", d.Page, c.Path)
	}
	for _, c := range d.Conflicts {
		t.conflict(d, c)
	}
	if len(d.Aside) > len(d.Conflicts) {
		t.p.note("%s: not matched, and not taken, because they stand above every block: %s", d.Page, quoted(d.Aside))
	}
	return nil
}

func (t *taking) conflict(d words.Diff, c words.Change) {
	t.p.Notes = append(
		t.p.Notes,
		Note{At: diag.Position{File: t.file, Line: c.Line, Column: 1}, Severity: diag.Warning,
			Text: fmt.Sprintf("%s was changed on the page, too, since the document was written; the page's words stay",
				words.Address(d.Page, d.Block, c.Path))},
	)
}

func quoted(list []string) string {
	var out []string
	for _, s := range list {
		if r := []rune(s); len(r) > 40 {
			s = string(r[:39]) + "…"
		}
		out = append(out, fmt.Sprintf("%q", s))
	}
	return strings.Join(out, ", ")
}

// block takes what a block says.
func (t *taking) block(d words.Diff) error {
	t.miss(d)
	page, b := t.find(d)
	s, err := newSetter(t.p, page, b)
	if err != nil {
		return err
	}
	var said []string
	aside := d.Aside
	for _, c := range d.Conflicts {
		t.conflict(d, c)
	}
	for _, c := range d.Changes {
		ok, err := s.word(c)
		if err != nil {
			return fmt.Errorf("%s:%d: %w", t.file, c.Line, err)
		}
		if !ok {
			aside = append(aside, fmt.Sprintf("[%s](%s)", c.Is, c.To))
			t.p.note("%s: the link %q has no target yet: ziegel set %s/%s %s.label=... %s.to=PAGE", d.Page+"/"+d.Block,
				c.Is, page.Name, b.Name, c.Path, c.Path)
			continue
		}
		t.changed++
		said = append(said, c.Path)
	}
	lists := slices.Clone(d.Lists)
	slices.SortStableFunc(lists, func(a, b words.Reorder) int { return len(b.Path) - len(a.Path) }) // inner ones first
	for _, r := range lists {
		more, lost, err := s.reorder(r)
		if err != nil {
			return err
		}
		t.changed++
		said = append(said, fmt.Sprintf("%s (%s)", r.Path, more))
		aside = append(aside, lost...)
	}
	if len(said) > 0 {
		t.p.note("%s: %s", d.Page+"/"+d.Block, strings.Join(said, ", "))
	}
	if len(aside) > 0 {
		t.aside += len(aside)
		if err := s.keepAside(aside); err != nil {
			return err
		}
		t.p.note("%s: kept aside: %s", d.Page+"/"+d.Block, quoted(aside))
	}
	if len(said) > 0 {
		t.p.Touch(page.Name, b.Name)
	}
	return nil
}

// find gives the block of a diff, on a page that has it.
func (t *taking) find(d words.Diff) (*site.Page, *site.Block) {
	e := t.p.Env
	if d.Page != words.EveryPage {
		page := e.Site.Page(d.Page)
		return page, e.Site.Block(page, d.Block)
	}
	for _, list := range [][]*site.Block{e.Site.Top, e.Site.Bottom} {
		for _, b := range list {
			for _, in := range inBlock(b) {
				if in.Name == d.Block {
					page := e.PageWith(in.Name)
					if page == nil {
						page = e.Site.Pages()[0]
					}
					return page, in
				}
			}
		}
	}
	return nil, nil
}

// TakeRows takes the texts of a table or of an XLIFF file, by their addresses: of one page, or of all for no name.
func TakeRows(p *Plan, file string, rows []words.Row, page string) error {
	pages, err := Words(p.Env, page)
	if err != nil {
		return err
	}
	if len(rows) == 0 {
		return fmt.Errorf("%s has no words in it", file)
	}
	byAddress := map[string]*words.Node{}
	for _, x := range pages {
		x.Each(func(b *words.Block, n *words.Node) { byAddress[words.Address(x.Name, b.Name, n.Path)] = n })
	}
	diffs := map[string]*words.Diff{}
	var order []string
	unknown := 0
	for _, r := range rows {
		n := byAddress[r.Address()]
		if n == nil {
			if unknown++; unknown <= mostNamed {
				p.Notes = append(p.Notes, Note{At: diag.Position{File: file, Line: max(1, r.Line), Column: 1},
					Severity: diag.Warning, Text: fmt.Sprintf("there is no text %s; it was not taken", r.Address())})
			}
			continue
		}
		key := r.Page + "/" + r.Block
		if diffs[key] == nil {
			diffs[key] = &words.Diff{Page: r.Page, Block: r.Block}
			order = append(order, key)
		}
		if !words.Same(n.Text, r.Text) && strings.TrimSpace(r.Text) != "" {
			diffs[key].Changes = append(
				diffs[key].Changes,
				words.Change{Path: n.Path, Kind: n.Kind, Was: n.Text, Is: r.Text,
					Sample: n.Sample, Line: r.Line},
			)
		}
	}
	if unknown == len(rows) {
		return fmt.Errorf("%s: none of its %s is on %s; the first is %s", file, diag.Plural(len(rows), "text"),
			map[bool]string{true: "the site", false: page}[page == ""], rows[0].Address())
	}
	var list []words.Diff
	for _, k := range order {
		list = append(list, *diffs[k])
	}
	if !p.AsTyped {
		p.Tidied(list, p.Env.Site.Language)
	}
	return p.takeWords(file, list)
}
