package words_test

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/words"
	"ziegel/internal/testsite"
)

func text(field, s string) *words.Node {
	return &words.Node{Field: field, Path: field, Kind: words.Text, Text: s}
}

func entry(i int, texts ...*words.Node) []*words.Node {
	for _, n := range texts {
		n.Path = fmt.Sprintf("items[%d].%s", i, n.Field)
	}
	return texts
}

// workshop is a page with one of everything.
func workshop() *words.Page {
	link := func(label, to string) []*words.Node {
		return []*words.Node{{Field: ".", Path: "actions[1]", Kind: words.Link, Text: label, To: to}}
	}
	return &words.Page{Name: "home", Blocks: []*words.Block{
		{Nodes: []*words.Node{text("title", "Kites for real wind")}},
		{Name: "opening", Nodes: []*words.Node{
			text("eyebrow", "Kite workshop"), text("heading", "Made for _real_ wind"),
			text("lead", "We cut, sew and fly every kite here before it leaves the loft.\n\nStay for a weekend."),
			{
				Field:   "actions",
				Path:    "actions",
				Kind:    words.List,
				Entries: [][]*words.Node{link("See the courses", "courses")},
			},
			{Field: "media", Path: "media", Kind: words.Picture, Text: "A red kite", To: "delta.svg"},
		}},
		{Name: "reasons", Nodes: []*words.Node{
			text("heading", "Three things we will not hurry"),
			{Field: "items", Path: "items", Kind: words.List, Entries: [][]*words.Node{
				entry(1, text("title", "Cut by hand"), text("text", "A hot knife seals the cloth.")),
				entry(2, text("title", "Spars that give"), text("text", "We bend each over a scale.")),
				entry(3, text("title", "Flown first"), text("text", "An hour on the sands.")),
			}},
		}},
	}}
}

func compare(p *words.Page, document string) []words.Diff {
	known := map[string][]string{p.Name: {}}
	for _, b := range p.Blocks {
		known[p.Name] = append(known[p.Name], b.Name)
	}
	doc := words.Read(document, known)
	var out []words.Diff
	for _, have := range doc.Pages {
		if have.Name == p.Name {
			out = append(out, doc.Compare(p, have)...)
		}
	}
	return out
}

var comments = regexp.MustCompile(`[ \t]*<!--.*?-->`)

// changed says what differs, in a line for each.
func changed(list []words.Diff) string {
	var out []string
	for _, d := range list {
		for _, c := range d.Changes {
			out = append(out, fmt.Sprintf("%s=%s", words.Address(d.Page, d.Block, c.Path), c.Is+c.To))
		}
		for _, r := range d.Lists {
			s := words.Address(d.Page, d.Block, r.Path) + ":"
			for _, it := range r.Items {
				s += fmt.Sprintf(" %d", it.From)
				for _, c := range it.Texts {
					s += fmt.Sprintf(" %s=%s", c.Path, c.Is)
				}
			}
			out = append(out, s)
		}
		for _, a := range d.Aside {
			out = append(out, "aside "+a)
		}
		for _, m := range d.Missing {
			out = append(out, "missing "+words.Address(d.Page, d.Block, m))
		}
		for _, c := range d.Conflicts {
			out = append(out, "conflict "+c.Path)
		}
	}
	return strings.Join(out, "\n")
}

func TestWhatAWriterDoes(t *testing.T) {
	replace := func(pairs ...string) func(string) string { return strings.NewReplacer(pairs...).Replace }
	bare := func(edit func(string) string) func(string) string {
		return func(s string) string { return edit(comments.ReplaceAllString(s, "")) }
	}
	for _, c := range []struct {
		name string
		edit func(string) string
		want string
	}{
		{"nothing", replace(), ""},
		{"nothing but the comments", bare(replace()), ""},
		{"other line breaks and bullets", replace("every kite here", "every\nkite   here", "- [See", "* [See", "\n",
			"\r\n"), ""},
		{"one text", replace("Kite workshop", "Kites"), "home/opening.eyebrow=Kites"},
		{"one text, no comments, nothing in common", bare(replace("Kite workshop", "Sailcloth")),
			"home/opening.eyebrow=Sailcloth"},
		{"paragraphs moved", bare(func(s string) string {
			s = strings.Replace(s, "Made for _real_ wind\n", "", 1)
			return strings.Replace(s, "a weekend.\n", "a weekend.\n\nMade for _real_ wind\n", 1)
		}), ""},
		{"moved to another block", bare(func(s string) string {
			s = strings.Replace(s, "Three things we will not hurry\n", "", 1)
			return strings.Replace(s, "Kite workshop\n", "Kite workshop\n\nThree things we will never hurry\n", 1)
		}), "home/reasons.heading=Three things we will never hurry"},
		{"a fourth entry", bare(func(s string) string { return s + "\n4. Carried home\n\n   We ship nothing.\n" }),
			"home/reasons.items: 0 1 2 -1 title=Carried home text=We ship nothing."},
		{"an entry between", replace("2. Spars", "1. Dyed twice\n\n   In the harbor.\n\n2. Spars"),
			"home/reasons.items: 0 -1 title=Dyed twice text=In the harbor. 1 2"},
		{"entries in another order", bare(func(s string) string {
			return strings.NewReplacer("Cut by hand", "Flown first", "A hot knife seals the cloth.",
				"An hour on the sands.",
				"Flown first", "Cut by hand", "An hour on the sands.", "A hot knife seals the cloth.").Replace(s)
		}), "home/reasons.items: 2 1 0"},
		{"an entry that goes stays", bare(func(s string) string {
			return regexp.MustCompile(`(?s)2\. Spars.*?3\. `).ReplaceAllString(s, "2. ")
		}), "missing home/reasons.items[2].title\nmissing home/reasons.items[2].text"},
		{"a link", replace("[See the courses](courses)", "[All courses](courses#plans)"),
			"home/opening.actions[1]=All coursescourses#plans"},
		{"what a picture shows", replace("![A red kite]", "![A red delta kite]"),
			"home/opening.media=A red delta kite"},
		{"a paragraph of nobody's", func(s string) string { return s + "\nCall us!\n" }, "aside Call us!"},
		{"a heading of the writer's own", bare(replace("Three things we will not hurry",
			"### Three things we never hurry")),
			"home/reasons.heading=Three things we never hurry"},
		{"a paragraph more of running text", replace("Stay for a weekend.", "Stay for a weekend.\n\nOr a month."),
			"home/opening.lead=We cut, sew and fly every kite here before it leaves the loft.\n\nStay for a weekend.\n\nOr a month."},
		{"the title of the page", replace("Kites for real wind", "Kites & wind"), "home title=Kites & wind"},
	} {
		p := workshop()
		assert.Equal(t, c.want, changed(compare(p, c.edit(words.Markdown([]*words.Page{p}, nil)))), c.name)
	}
}

// What the page says since the document was written stays when the writer has not touched it, and is not overwritten
// when he has.
func TestBothSidesHaveChanged(t *testing.T) {
	document := words.Markdown([]*words.Page{workshop()}, nil)
	now := workshop()
	now.Blocks[1].Nodes[1].Text = "Made for the coast"
	assert.Equal(t, "", changed(compare(now, document)))
	assert.Equal(t, "aside Made for storms\nconflict heading",
		changed(compare(now, strings.Replace(document, "Made for _real_ wind", "Made for storms", 1))))
}

func TestNotesStandBesideTheirTexts(t *testing.T) {
	document := words.Markdown([]*words.Page{workshop()}, func(_ *words.Page, _ *words.Block, n *words.Node) string {
		return map[string]string{"heading": "up to 30 letters -- sample"}[n.Field]
	})
	assert.Contains(t, document, "Made for _real_ wind <!-- heading: up to 30 letters - - sample -->\n")
	assert.Equal(t, "", changed(compare(workshop(), document)))
}

// nasty are texts that a Markdown document could take for something else.
var nasty = []string{
	"1. Januar",
	"1) x",
	`1\. x`,
	"# no heading",
	"- no list",
	"* no list",
	"+ no",
	"> no quote",
	"```",
	"~~~",
	"---",
	"--",
	"===",
	"***",
	"    indented",
	"<b>no element</b>",
	"<!-- heading -->",
	"a <!-- heading -->",
	`\# x`,
	`\\`,
	`\`,
	"[a](b)",
	"![a](b)",
	"[a]: b",
	"a\n\n- b",
	"a\n\nb <!-- text -->",
	"[x]",
	"a\nb",
	"Price: 5 * 3 * 2",
	"`code`",
	"_a_ **b**",
	"a]b",
	"a)b",
	"ends with \\",
	"  spaces  ",
	"\ttab",
	"https://a.example",
	"&amp; &copy;",
	"Zeile  \nzwei",
}

func pageOf(texts ...string) *words.Page {
	b := &words.Block{Name: "opening"}
	list := &words.Node{Field: "items", Path: "items", Kind: words.List}
	for i, s := range texts {
		switch i % 4 {
		case 0, 1:
			b.Nodes = append(b.Nodes, text(fmt.Sprintf("field-%c", 'a'+i%26), s))
		case 2:
			list.Entries = append(list.Entries, entry(len(list.Entries)+1, text("title", s), text("text", s+" more")))
		default:
			b.Nodes = append(
				b.Nodes,
				&words.Node{Field: "link", Path: "link", Kind: words.Link, Text: s, To: "a(b) c"},
			)
		}
	}
	if len(list.Entries) > 0 {
		b.Nodes = append(b.Nodes, list)
	}
	return &words.Page{Name: "home", Blocks: []*words.Block{{}, b}}
}

func TestEveryTextComesBack(t *testing.T) {
	for _, s := range nasty {
		p := pageOf(s, "Second", s, s)
		assert.Equal(t, "", changed(compare(p, words.Markdown([]*words.Page{p}, nil))), "%q", s)
	}
}

// FuzzRoundTrip: what goes out comes back as it was.
func FuzzRoundTrip(f *testing.F) {
	for _, s := range nasty {
		f.Add(s, "b", s)
	}
	f.Fuzz(func(t *testing.T, a, b, c string) {
		for _, s := range []string{a, b, c} {
			if strings.TrimSpace(s) == "" ||
				strings.ContainsFunc(
					s,
					func(r rune) bool { return r < ' ' && r != '\n' || r == 0xfffd || r == 0x7f },
				) {
				t.Skip()
			}
		}
		p := pageOf(a, b, c, a)
		document := words.Markdown([]*words.Page{p}, nil)
		if got := changed(compare(p, document)); got != "" {
			t.Fatalf("%s\n%s", got, document)
		}
	})
}

// FuzzWriter: whatever a writer does with the document, no word of it is lost: it is in a text, in a new entry or kept
// aside; and no text of the page is gone without being told.
func FuzzWriter(f *testing.F) {
	f.Add(uint64(1), "A new thing")
	f.Add(uint64(7), "- x")
	f.Fuzz(func(t *testing.T, seed uint64, more string) {
		if strings.TrimSpace(more) == "" || strings.ContainsFunc(more, func(r rune) bool {
			return r < ' ' || r == 0xfffd || r == '<' || r == '#' || r == '=' || r == '`' || r == '~'
		}) {
			t.Skip()
		}
		rnd := rand.New(rand.NewPCG(seed, 1))
		p := workshop()
		parts := strings.Split(words.Markdown([]*words.Page{p}, nil), "\n\n")
		if rnd.IntN(2) == 0 {
			for i := range parts {
				parts[i] = comments.ReplaceAllString(parts[i], "")
			}
		}
		for range rnd.IntN(4) { // paragraphs of a block change places
			i := 3 + rnd.IntN(3)
			parts[i], parts[i+1] = parts[i+1], parts[i]
		}
		at := 3 + rnd.IntN(len(parts)-4)
		marker := "marker " + strings.TrimSpace(more)
		parts = slices.Insert(parts, at, marker)
		list := compare(p, strings.Join(parts, "\n\n"))
		all := changed(list)
		plain := strings.Join(strings.Fields(all), " ")
		if !strings.Contains(plain, "marker") {
			t.Fatalf("%q is lost:\n%s\n---\n%s", marker, all, strings.Join(parts, "\n\n"))
		}
		said := map[string]bool{}
		for _, d := range list {
			for _, c := range d.Changes {
				said[c.Was] = true
			}
		}
		document := strings.Join(parts, "\n\n")
		p.Each(func(_ *words.Block, n *words.Node) {
			first, _, _ := strings.Cut(n.Text, "\n")
			if !strings.Contains(document, first) && !said[n.Text] && !strings.Contains(all, "missing") {
				t.Fatalf("%q is gone without a word", n.Text)
			}
		})
	})
}

func TestTablesAndXLIFF(t *testing.T) {
	p := workshop()
	rows := words.Rows(
		[]*words.Page{p},
		func(_ *words.Page, _ *words.Block, n *words.Node) string { return "note " + n.Field },
	)
	require.Len(t, rows, 13)
	assert.Equal(t, "home/reasons.items[2].title", rows[9].Address())
	for i := range rows {
		rows[i].Target = "X " + rows[i].Text
	}
	rows[3].Was = "Earlier"
	back, err := words.ReadCSV("w.csv", []byte(words.CSV(rows, "de")), "de")
	require.NoError(t, err)
	text, err := words.XLIFF(rows, "en", "de")
	require.NoError(t, err)
	assert.Contains(t, text, `<unit id="u3" name="home/opening.heading">`)
	assert.Contains(t, text,
		`Made for <pc id="1" dataRefStart="d1" dataRefEnd="d1" dispStart="_" dispEnd="_">real</pc> wind`)
	assert.Contains(t, text, "the original has changed; it was: Earlier")
	validXLIFF(t, text)
	xliff, err := words.ReadXLIFF("w.xlf", []byte(text), "de")
	require.NoError(t, err)
	require.Len(t, back, len(rows))
	require.Len(t, xliff, len(rows))
	for i, r := range rows {
		for _, b := range []words.Row{back[i], xliff[i]} {
			assert.Equal(t, []string{r.Address(), r.Text, r.Target}, []string{b.Address(), b.Text, b.Target})
		}
	}
	broken := strings.Replace(
		text,
		`X Made for <pc id="1" dataRefStart="d1" dataRefEnd="d1" dispStart="_" dispEnd="_">real</pc> wind`,
		"X Made for real wind",
		1,
	)
	require.NotEqual(t, text, broken)
	xliff, err = words.ReadXLIFF("w.xlf", []byte(broken), "de")
	require.NoError(t, err)
	assert.Empty(t, xliff[2].Target)
	assert.Equal(t, "the code _ of the original is not in the translation", xliff[2].Note)

	data := regexp.MustCompile(`(?s)\s*<originalData>.*?</originalData>`)
	for what, change := range map[string]func(string) string{
		"no originalData": func(s string) string { return data.ReplaceAllString(s, "") },
		"lines broken": func(s string) string {
			return strings.NewReplacer("Made for <pc", "\n   Made for\n\t<pc", "</pc> wind",
				"</pc>\n  wind\n").Replace(s)
		},
	} {
		changed := change(text)
		require.NotEqual(t, text, changed)
		xliff, err := words.ReadXLIFF("w.xlf", []byte(changed), "de")
		require.NoError(t, err)
		assert.Equal(t, []string{"Made for _real_ wind", "X Made for _real_ wind"},
			[]string{xliff[2].Text, xliff[2].Target}, what)
	}
	bare := regexp.MustCompile(` disp\w+="[^"]*"`).ReplaceAllString(data.ReplaceAllString(text, ""), "")
	xliff, err = words.ReadXLIFF("w.xlf", []byte(bare), "de")
	require.NoError(t, err)
	assert.Equal(t, []string{"", "the code d1 has no characters: its originalData is missing"},
		[]string{xliff[2].Target, xliff[2].Note})

	for data, want := range map[string]string{
		"<xliff": "an XLIFF 2 document is expected",
		`<xliff xmlns="urn:oasis:names:tc:xliff:document:1.2"/>`:  "an XLIFF 2 document is expected",
		strings.Replace(text, `trgLang="de"`, `trgLang="ar"`, 1):  "has translations to ar, not to de",
		strings.Replace(text, `name="home title"`, `name="x"`, 1): `has no address of a text as its name, but "x"`,
	} {
		_, err := words.ReadXLIFF("w.xlf", []byte(data), "de")
		assert.ErrorContains(t, err, want)
	}
	_, err = words.ReadCSV("w.csv", []byte("address,words\nhome title,x\n"), "")
	assert.ErrorContains(t, err, `w.csv:1: there is no column "text"`)
	_, err = words.ReadCSV("w.csv", []byte("address,text\nnowhere,x\n"), "")
	assert.ErrorContains(t, err, `w.csv:2: "nowhere" is no address of a text`)
}

// FuzzCodes: a text with its marks as codes comes back as it was.
func FuzzCodes(f *testing.F) {
	for _, s := range append(nasty, "**a _b_ c** and `x*y` [l](to)", "_a_b_c_", "*a*b*", "**", "a & <b>") {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if strings.ContainsFunc(
			s,
			func(r rune) bool { return r < ' ' && r != '\n' || r == 0xfffd || r == 0xfffe || r == 0xffff },
		) {
			t.Skip()
		}
		text, err := words.XLIFF([]words.Row{{Page: "home", Block: "a", Path: "b", Text: s, Target: s}}, "en", "de")
		require.NoError(t, err)
		validXLIFF(t, text)
		back, err := words.ReadXLIFF("x", []byte(text), "de")
		require.NoError(t, err)
		assert.Equal(t, s, back[0].Text)
		assert.Equal(t, s, back[0].Target)
	})
}

// spoken opens a site of one page in two languages.
func spoken(t *testing.T, de string) *project.Project {
	return testsite.Open(
		t,
		testsite.Write(
			t,
			map[string]string{
				"ziegel.yaml":      "name: L\nlanguages: [en, de]\nevery-page:\n  top:\n    - {name: menu, section: nav/bar}\n",
				"pages/home.yaml":  "title: Kites\nblocks:\n  - name: plans\n    section: pricing/plans\n    content:\n      heading: Sew one\n      items:\n        - {title: One, text: For a day., link: {label: Pick, to: home}}\n        - {title: Two}\n  - {name: opening, section: hero/beside, content: {media: delta.svg}}\n",
				"pages/about.yaml": "title: About\nblocks: []\n",
				"words/de.yaml":    de,
			},
		),
	)
}

func TestTranslationsStandInTheirPlaces(t *testing.T) {
	e := spoken(t, `home title: {of: Kites, is: Drachen}
about address: ueber
home/plans.heading: {of: Sew one, is: Einen nähen}
home/plans.items[1].link: {of: Pick, is: Aussuchen}
home/plans.items[1].title: {of: Two, is: Zwei}
home/plans.items[2].title: {of: One, is: Eins}
home/opening.media: {is: Ein Drachen, file: festival.svg}
home/opening.lead: Ein Satz.
every-page/menu.links[1]: Erstens
`)
	de := words.In(e, "de")
	home := de.Site.Page("home")
	assert.Equal(t, []string{"de", "Drachen"}, []string{de.Site.Language, home.Title})
	plans := de.Site.Block(home, "plans").Content
	assert.Equal(t, "Einen nähen", plans.Get("heading").Str())
	items := plans.Get("items").Items
	assert.Equal(
		t,
		[]string{"Eins", "Zwei"},
		[]string{items[0].Get("title").Str(), items[1].Get("title").Str()},
		"entries that have changed places",
	)
	assert.Equal(
		t,
		[]string{"Aussuchen", "home"},
		[]string{items[0].Get("link").Get("label").Str(), items[0].Get("link").Get("to").Str()},
	)
	assert.Equal(t, "For a day.", items[0].Get("text").Str(), "what has no translation stays")
	media := de.Site.Block(home, "opening").Content.Get("media")
	assert.Equal(t, []string{"festival.svg", "Ein Drachen"}, []string{media.Get("file").Str(), media.Get("alt").Str()})
	assert.Equal(
		t,
		"Ein Satz.",
		de.Site.Block(home, "opening").Content.Get("lead").Str(),
		"a sample has a translation, too",
	)
	links := de.Site.Block(home, "menu").Content.Get("links").Items
	assert.Equal(t, "Erstens", links[0].Get("label").Str())
	assert.Equal(
		t,
		"words/de.yaml:3:39",
		plans.Get("heading").Pos.String(),
		"messages name the place of the translation",
	)
	assert.Equal(
		t,
		"Sew one",
		e.Site.Block(e.Site.Page("home"), "plans").Content.Get("heading").Str(),
		"the original is as it was",
	)
	assert.Equal(t, []string{"de/index.html", "de/ueber/index.html", "de/404.html", "about/index.html"},
		[]string{de.Path("home"), de.Path("about"), de.Path("404"), e.Path("about")})
	assert.Same(t, e, words.In(e, "en"))
	assert.Empty(t, words.Languages(de), "a translation is not translated")
}

func TestWhatIsOpenAndStale(t *testing.T) {
	e := spoken(
		t,
		"home title: {of: Kite, is: Drachen}\nhome/plans.heading: {of: Sew one, is: Einen nähen}\nhome/plans.items[2].title: {of: Deux, is: Zwei}\nhome/gone.heading: {of: A, is: B}\n",
	)
	state := map[string]words.State{}
	for _, x := range words.Translations(e, "de", nil) {
		if state[x.Address()] == "" {
			state[x.Address()] = x.State
		}
	}
	assert.Equal(t, words.Stale, state["home title"])
	assert.Equal(t, words.Ready, state["home/plans.heading"])
	assert.Equal(t, words.Open, state["home/plans.items[2].title"], "another entry stands there now")
	assert.Equal(t, words.Orphan, state["home/gone.heading"])
	assert.Equal(t, words.Open, state["about title"])

	for de, want := range map[string]string{
		"home/gone.heading: x\n":                      `words/de.yaml:1:1: warning: the page home has no block "gone"`,
		"hoem title: x\n":                             `there is no page "hoem"`,
		"nowhere: x\n":                                `"nowhere" is no address of a text`,
		"home address: Über uns\n":                    `"Über uns" cannot be the address of a page`,
		"home address: about\nabout address: about\n": "the pages about and home have the same address in de: about",
	} {
		var all []string
		for _, p := range words.Mistakes(spoken(t, de)) {
			all = append(all, p.String())
		}
		assert.Contains(t, strings.Join(all, "\n"), want)
	}
}

// The translations of the demo are whole, and of what it says now.
func TestTheDemoIsTranslated(t *testing.T) {
	files := testsite.Shipped(t, "demo")
	files["ziegel.yaml"] = strings.Replace(files["ziegel.yaml"], "language: en", "languages: [en, de, ar]", 1)
	for name, text := range testsite.Shipped(t, "demo-words") {
		files["words/"+name] = text
	}
	e := testsite.Open(t, testsite.Write(t, files))
	assert.Empty(t, words.Mistakes(e))
	for _, tag := range words.Languages(e) {
		list := words.Translations(e, tag, nil)
		require.Greater(t, len(list), 80)
		for _, x := range list {
			assert.Equal(t, words.Ready, x.State, "%s %s", tag, x.Address())
			assert.Empty(t, words.LostMarks(x.Text, x.Target), "%s %s", tag, x.Address())
		}
	}
}
