package comments_test

import (
	"encoding/json"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/comments"
	"ziegel/core/compose"
	"ziegel/internal/testsite"
)

const one = `{"id":"urn:uuid:1","type":"Annotation","motivation":"commenting","creator":{"type":"Person","name":"Ines"},
"created":"2026-03-01T10:00:00Z","body":{"type":"TextualBody","value":"Larger?"},"target":{"source":"home","selector":{"type":"FragmentSelector","value":"plans.card[2]"}}}`

func document(items ...string) string {
	return `{"@context":"http://www.w3.org/ns/anno.jsonld","type":"AnnotationPage","items":[` + strings.Join(
		items,
		",",
	) + `]}`
}

func TestDocumentsAreRead(t *testing.T) {
	d, err := comments.Read("ines.json", []byte("\ufeff"+document(one)))
	require.NoError(t, err)
	require.Len(t, d.Items, 1)
	assert.Equal(t, "plans.card[2]", d.Items[0].Target.Place(), "one selector need not be a list")
	assert.Equal(t, "Ines", d.Items[0].By())
	again, err := comments.Read("ines.json", []byte(d.Write()))
	require.NoError(t, err)
	assert.Equal(t, d, again, "what is written is read as it was")
}

// What is no document of comments is refused with its place and a way out.
func TestWrongDocuments(t *testing.T) {
	change := func(from, to string) string { return document(strings.Replace(one, from, to, 1)) }
	for text, want := range map[string]string{
		"{\n  \"items\": [,]}":                                 "ines.json:2:13",
		`{"type":"FeatureCollection"}`:                         `its type is "FeatureCollection"`,
		document(one, one):                                     "annotation 2 has the id of another one",
		change("commenting", "painting"):                       `annotation 1 has the motivation "painting"`,
		change("Larger?", "  "):                                "says nothing",
		change(`"source":"home",`, ""):                         "names no page",
		change("plans.card[2]", "plans .card"):                 `is pinned to "plans .card"`,
		change(`"Annotation"`, `"Note"`):                       "is no annotation",
		change(`"urn:uuid:1"`, `""`):                           "has no id",
		change("commenting", "replying"):                       "answers nothing",
		document("null"):                                       "is no annotation",
		strings.Replace(document(one), "Larger?", "x", 1)[:40]: "ines.json:1:",
		document(`{"id":"2","type":"Annotation","motivation":"assessing","body":{"type":"TextualBody","value":"great"},"target":"urn:uuid:1"}`): `is marked "great"`,
		`{"type":"AnnotationPage","items":[{"id":3}]}`: "ines.json:1:",
	} {
		_, err := comments.Read("ines.json", []byte(text))
		assert.ErrorContains(t, err, want, text)
	}
	_, err := comments.Read("big.json", make([]byte, comments.MostBytes+1))
	assert.ErrorContains(t, err, "8 at the most")
}

// Answers and marks find their comment over files, answers of answers too; the last mark counts.
func TestThreads(t *testing.T) {
	reply := func(id, of, motivation, value, when string) string {
		return `{"id":"` + id + `","type":"Annotation","motivation":"` + motivation + `","created":"` + when +
			`","body":{"type":"TextualBody","value":"` + value + `"},"target":"` + of + `"}`
	}
	dir := fstest.MapFS{
		"reviews/a.json": {
			Data: []byte(document(one, reply("r2", "r1", "replying", "second", "2026-03-03T00:00:00Z"))),
		},
		"reviews/b.json": {
			Data: []byte(document(
				reply("r1", "urn:uuid:1", "replying", "first", "2026-03-02T00:00:00Z"),
				reply(
					"d2",
					"urn:uuid:1",
					"assessing",
					"open",
					"2026-03-05T00:00:00Z",
				),
				reply("d1", "urn:uuid:1", "assessing", "done", "2026-03-04T00:00:00Z"),
				reply("lost", "nothing", "replying", "to nobody", "2026-03-04T00:00:00Z"),
			)),
		},
		"reviews/broken.json": {Data: []byte("{")},
		"reviews/notes.txt":   {Data: []byte("not mine")},
	}
	files, err := comments.Kept(dir)
	assert.ErrorContains(t, err, "reviews/broken.json")
	require.Len(t, files, 2, "one that is broken does not hide the others")
	threads := comments.Threads(files)
	require.Len(t, threads, 1)
	assert.False(t, threads[0].Done, "it was opened again")
	var said []string
	for _, s := range threads[0].Answers {
		said = append(said, s.By+": "+s.Text)
	}
	assert.Equal(t, []string{"somebody: first", "somebody: second"}, said)
	comments.NumberAll(files)
	assert.Equal(t, 1, threads[0].Number)
	threads[0].File.Items = append(
		threads[0].File.Items,
		comments.Answer(threads[0], comments.Word{ID: "x", By: "Larkspan", At: time.Date(2026, 3, 6, 0, 0, 0, 0,
			time.UTC)},
			"assessing", "done"),
	)
	assert.True(t, comments.Threads(files)[0].Done)
	none, err := comments.Kept(fstest.MapFS{})
	require.NoError(t, err)
	assert.Empty(t, none)
}

func TestMergingKeepsWhatIsThere(t *testing.T) {
	a, err := comments.Read("a", []byte(document(one)))
	require.NoError(t, err)
	b, err := comments.Read(
		"b",
		[]byte(document(strings.Replace(one, "Larger?", "Smaller?", 1), strings.Replace(one, "uuid:1", "uuid:2", 1))),
	)
	require.NoError(t, err)
	a.Items[0].Number = 7
	assert.Equal(t, 1, a.Merge(b))
	require.Len(t, a.Items, 2)
	assert.Equal(t, "Larger?", a.Items[0].Body.Value)
	assert.Equal(t, 7, a.Items[0].Number)
	assert.Zero(t, a.Merge(b))
}

func TestNamesOfFiles(t *testing.T) {
	for who, want := range map[string]string{"Ines Halloran": "reviews/ines-halloran.json",
		"../../etc": "reviews/etc.json",
		"李":         "reviews/comments.json", "": "reviews/comments.json", strings.Repeat("a", 300): "reviews/" +
			strings.Repeat("a", 60) + ".json"} {
		assert.Equal(t, want, comments.NameOf(who))
	}
}

// A comment stays with what it speaks of when blocks and entries move, are renamed, or get another section.
func TestPlacesAreFoundAgain(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	page := func(blocks string) *comments.Page {
		env := testsite.With(t, "title: H\nblocks:\n"+blocks)
		out, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{Marks: true})
		require.NoError(t, problems.Err())
		p, err := comments.PageOf(out.HTML)
		require.NoError(t, err)
		return p
	}
	plans := func(section, name, first, second string) string {
		price := func(s string) string {
			if section == "features/cards" {
				return ""
			}
			return ", price: " + s
		}
		return "  - {name: " + name + ", section: " + section + ", content: {heading: H, items: [{title: " + first +
			price(
				"5",
			) + "}, {title: " + second + price(
			"6",
		) + "}]}}\n"
	}
	for _, x := range []struct{ what, blocks, place, quote, found, state string }{
		{"as it was", plans("pricing/plans", "plans", "Small", "Large"), "plans.title[2]", "Large", "plans.title[2]",
			""},
		{"moved in its list", plans("pricing/plans", "plans", "Large", "Small"), "plans.title[2]", "Large",
			"plans.title[1]", ""},
		{"other words", plans("pricing/plans", "plans", "Small", "Huge"), "plans.title[2]", "Large", "plans.title[2]",
			"it said: Large"},
		{"another section", plans("pricing/compare", "plans", "Small", "Large"), "plans.price[2]", "6",
			"plans.price[2]", ""},
		{"a section without it", plans("features/cards", "plans", "Small", "Large"), "plans.price[2]", "6", "plans",
			"the part price[2] is gone; it said: 6"},
		{"a block that is gone", plans("pricing/plans", "offers", "Small", "Large"), "plans.title[2]", "Large",
			"offers", "the block plans is gone; its words stand in offers"},
		{"all of it gone", plans("pricing/plans", "offers", "a", "b"), "plans.title[2]", "Large", "plans.title[2]",
			"the block plans is gone"},
		{"a block", plans("pricing/plans", "plans", "a", "b"), "plans", "", "plans", ""},
		{"the page", plans("pricing/plans", "plans", "a", "b"), "", "", "", ""},
	} {
		sel := []comments.Selector{{Type: "FragmentSelector", Value: x.place}}
		if x.quote != "" {
			sel = append(sel, comments.Selector{Type: "TextQuoteSelector", Exact: x.quote})
		}
		found := page(x.blocks).Find(comments.Target{Source: "home", Selectors: sel})
		assert.Equal(t, x.found, found.String(), x.what)
		assert.Equal(t, x.state, found.State, x.what)
	}
}

// What can be read can be written, and read again as the same; nothing makes the reader fail.
func FuzzRead(f *testing.F) {
	f.Add([]byte(document(one)))
	f.Add([]byte(`{"type":"AnnotationPage","items":[{"target":{"selector":[null]}}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := comments.Read("f", data)
		if err != nil {
			return
		}
		text := d.Write()
		again, err := comments.Read("f", []byte(text))
		require.NoError(t, err)
		assert.Equal(t, text, again.Write())
		assert.True(t, json.Valid([]byte(text)))
		comments.NumberAll([]*comments.File{{Document: d}})
	})
}
