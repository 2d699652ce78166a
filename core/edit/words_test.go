package edit_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/edit"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/words"
	"ziegel/internal/testsite"
)

var comment = regexp.MustCompile(`[ \t]*<!--.*?-->`)

// The words of every template and demo go out and come back without a change, with their comments and without; as a
// table and as XLIFF, too.
func TestTheWordsOfWhatShipsComeBack(t *testing.T) {
	for _, name := range testsite.ShippedSites(t) {
		e := testsite.Open(t, testsite.Write(t, testsite.Shipped(t, name)))
		pages, err := edit.Words(e, "")
		require.NoError(t, err)
		document := words.Markdown(pages, nil)
		take := func(how string, do func(p *edit.Plan) error) {
			p := edit.New(e, store.Store{})
			require.NoError(t, do(p), "%s %s", name, how)
			changes, _, err := p.Work()
			require.NoError(t, err, "%s %s", name, how)
			assert.Empty(t, changes, "%s %s", name, how)
		}
		take("as it is", func(p *edit.Plan) error { return edit.TakeWords(p, "x.md", document, "") })
		take("without comments", func(p *edit.Plan) error {
			return edit.TakeWords(p, "x.md", comment.ReplaceAllString(document, ""), "")
		})
		take("as a table", func(p *edit.Plan) error {
			rows, err := words.ReadCSV("x.csv", []byte(words.CSV(words.Rows(pages, nil), "")), "")
			require.NoError(t, err)
			return edit.TakeRows(p, "x.csv", rows, "")
		})
		take("as XLIFF", func(p *edit.Plan) error {
			text, err := words.XLIFF(words.Rows(pages, nil), e.Site.Language, "")
			require.NoError(t, err)
			rows, err := words.ReadXLIFF("x.xlf", []byte(text), "")
			require.NoError(t, err)
			return edit.TakeRows(p, "x.xlf", rows, "")
		})
	}
}

// taken gives the page after a document was taken, and what was told.
func taken(t *testing.T, page string, edited func(document string) string) (string, string) {
	e := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": page}))
	pages, err := edit.Words(e, "home")
	require.NoError(t, err)
	p := edit.New(e, store.Store{})
	require.NoError(t, edit.TakeWords(p, "home.md", edited(words.Markdown(pages, nil)), "home"))
	changes, _, err := p.Work()
	require.NoError(t, err)
	told := []string{p.Done}
	for _, n := range p.Notes {
		told = append(told, n.Text)
	}
	for _, c := range changes {
		if c.Path == "pages/home.yaml" {
			page = c.After
		}
	}
	return page, strings.Join(told, "\n")
}

const writersPage = `title: H
blocks:
  # why they come
  - name: why
    section: features/cards
    content:
      heading: Three of them # as agreed
      items:
        - {title: First, text: One., link: {label: Go, to: home}}
        - {title: Second, text: Two.}
    style:
      card[2]: {padding: 2rem}
    own: ["items[2].title"]
`

func TestEditsOfAWriterLandInThePage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	replace := func(pairs ...string) func(string) string { return strings.NewReplacer(pairs...).Replace }
	page, told := taken(t, writersPage, replace("Three of them", "Four of them", "[Go](home)", "[Go on](#why)"))
	assert.Contains(t, page, "heading: Four of them # as agreed", "comments stay")
	assert.Contains(t, page, `link: {label: Go on, to: "#why"}`)
	assert.Contains(t, told, "took 2 changes from home.md")

	// an entry before the second: what speaks of it by its number follows
	page, told = taken(t, writersPage, replace("2. Second", "1. New\n\n   Fresh.\n\n2. Second"))
	assert.Regexp(t, `(?s)title: First.*title: New.*text: Fresh\..*title: Second`, page)
	assert.Contains(t, page, "card[3]: {padding: 2rem}")
	assert.Contains(t, page, `items[3].title`)
	assert.Contains(t, told, "items (1 new)")

	// a list that shows samples so far begins to be the page's own
	page, _ = taken(t, "title: H\nblocks:\n  - {name: why, section: features/cards}\n",
		replace("Cut by hand, one at a time", "Cut by two hands"))
	assert.Contains(t, page, "Cut by two hands")
	assert.Contains(t, page, "sample: [items]", "what still is a sample is known as one")

	// a link that a writer invents has no target yet
	page, told = taken(t, writersPage, func(s string) string {
		return strings.Replace(s, "1. First",
			"1. [Read more](#)\n\n   First", 1)
	})
	assert.NotContains(t, page, "Read more\n")
	assert.Contains(t, told, "kept aside")
	assert.Contains(t, page, "parked:")

	// typing
	page, told = taken(t, writersPage, replace("Three of them", `"Three" - of 5 kg...`))
	assert.Contains(t, page, "“Three” – of 5\u00a0kg…")
	assert.Contains(t, told, "typing tidied for en")
}

func TestTranslationsAreWrittenBesideTheirOriginals(t *testing.T) {
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlanguages: [en, de]\n",
		"pages/home.yaml": writersPage,
		"words/de.yaml":   "# by hand\nhome/why.heading: {of: Two of them, is: Zwei davon}\n"})
	e := testsite.Open(t, dir)
	work := func(do func(p *edit.Plan) error) (string, []edit.Note) {
		p := edit.New(e, store.Store{})
		require.NoError(t, do(p))
		changes, _, err := p.Work()
		require.NoError(t, err)
		if len(changes) == 0 {
			return "", p.Notes
		}
		require.Equal(t, site.WordsPath("de"), changes[0].Path)
		return changes[0].After, p.Notes
	}
	rows := []words.Row{{Page: "home", Block: "why", Path: "heading", Text: "Three of them", Target: "Drei davon"},
		{Page: "home", Block: "why", Path: "items[1].title", Text: "First", Target: "Erstens"},
		{Page: "home", Block: "gone", Path: "heading", Target: "x"}}
	text, notes := work(func(p *edit.Plan) error { return edit.TakeTranslated(p, "de.csv", rows, "", "de") })
	assert.Contains(t, text, "# by hand\n")
	assert.Contains(t, text, "home/why.items[1].title:\n  of: First\n  is: Erstens\n")
	assert.Regexp(t, `home/why.heading: \{of: Three of them, is: Drei davon\}|home/why.heading:\n  of: Three of them\n  is: Drei davon`, text)
	assert.Contains(t, notes[0].Text, "there is no such text")
	text, _ = work(func(p *edit.Plan) error { return edit.Confirm(p, []string{"home/why.heading"}, "de") })
	assert.Contains(t, text, "of: Three of them")
	assert.ErrorContains(t, edit.Confirm(edit.New(e, store.Store{}), []string{"home/why.haeding"}, "de"),
		"did you mean home/why.heading?")
	assert.ErrorContains(t, edit.Spoken(e, "en"), "is the language of the page files")
	assert.ErrorContains(t, edit.Spoken(e, "dee"), "did you mean de?")
}
