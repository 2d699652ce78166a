package edit_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/edit"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/internal/testsite"
)

// fill sets a list of a page from a file and gives the list as it is then, with what was told.
func fill(t *testing.T, page, list, file, content string, pictures edit.Pictures, media ...string) (*site.Value,
	*edit.Plan, error) {
	t.Helper()
	files := map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": page,
		"pages/courses.yaml": "title: C\nblocks: []\n", "data/" + file: content}
	for _, m := range media {
		files["media/"+m] = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"/>`
	}
	dir := testsite.Write(t, files)
	p := edit.New(testsite.Open(t, dir), store.Store{})
	err := edit.Set(p, "home/x", []string{list + "=@data/" + file}, pictures, nil)
	if err != nil {
		return nil, p, err
	}
	_, after, err := p.Work()
	if err != nil {
		return nil, p, err
	}
	if after == nil {
		after = p.Env
	}
	return after.Site.Page("home").Blocks[0].Node.Get("content").Get(list), p, nil
}

func plans(content string) string {
	return "title: H\nblocks:\n  - name: x\n    section: pricing/plans\n" + content
}

func noted(p *edit.Plan) string {
	var out []string
	for _, n := range p.Notes {
		out = append(out, n.Text)
	}
	return strings.Join(out, "; ")
}

func TestTablesOfAllKindsFillLists(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for name, c := range map[string]struct {
		section, list, file, in, want, notes string
	}{
		"pieces of links": {"pricing/plans", "items", "p.csv", "title,link.label,link.to\nOne,Pick,courses\nTwo,,\n",
			"[{title: One, link: {label: Pick, to: courses}}, {title: Two}]", ""},
		"a link in a cell": {"pricing/plans", "items", "p.csv", "title,link\nOne,[Pick a day](courses)\n",
			"[{title: One, link: {label: Pick a day, to: courses}}]", ""},
		"points by number": {"pricing/plans", "items", "p.csv",
			"title,points[1],points[2],points[3]\nOne,a,,c\nTwo,,,\n",
			"[{title: One, points: [a, c]}, {title: Two}]", ""},
		"points in a cell": {"pricing/plans", "items", "p.tsv", "title\tpoints\nOne\ta, b | c\n",
			`[{title: One, points: ["a, b", c]}]`, ""},
		"names by meaning": {"testimonials/row", "items", "p.csv",
			"Name;Quote;Photo;Alt text;Shoe size\nInes;It flew;a.svg;Her face;38\n",
			"[{title: Ines, text: It flew, media: {file: a.svg, alt: Her face}}]",
			"read by meaning: Name is title, Quote is text, Photo is media, Alt text is media.alt; left over: columns that items does not show: Shoe size"},
		"a list of links": {"hero/beside", "actions", "p.csv", "text,url,look\nGo,courses,quiet\n",
			"[{label: Go, to: courses, look: quiet}]", "read by meaning: text is label, url is to"},
		"YAML": {"pricing/plans", "items", "p.yaml",
			"plans:\n  - name: One\n    link: {label: Pick, to: courses}\n    points: [a, b]\n  - {title: Two, colour: red}\n",
			"", "the columns name and title both mean title"},
		"YAML with its names": {"pricing/plans", "items", "p.yaml",
			"- title: One\n  link: {label: Pick, to: courses}\n  points: [a, b]\n- {title: Two, colour: red}\n",
			"[{title: One, link: {label: Pick, to: courses}, points: [a, b]}, {title: Two}]",
			"left over: columns that items does not show: colour"},
		"JSON": {"pricing/plans", "items", "p.json", `[{"title": "One", "price": "€1.50"}]`,
			"[{title: One, price: €1.50}]", ""},
		"Markdown": {"pricing/plans", "items", "p.md",
			"# Plans\n\nNot this.\n\n## One\n\nFor *hands*\nof all sizes.\n\n- a\n- b\n\n[Pick](courses)\n\n## Two\n",
			`[{title: One, points: [a, b], link: {label: Pick, to: courses}, text: "For *hands*\nof all sizes."}, {title: Two}]`, ""},
		"Markdown, a list": {"features/cards", "items", "p.md", "- **One**: it flies\n- **Two** It lands\n- Three\n",
			"[{title: One, text: it flies}, {title: Two, text: It lands}, {title: Three}]", ""},
	} {
		t.Run(name, func(t *testing.T) {
			page := strings.Replace(plans(""), "pricing/plans", c.section, 1)
			got, p, err := fill(t, page, c.list, c.file, c.in, edit.Pictures{}, "a.svg")
			if c.want == "" {
				assert.ErrorContains(t, err, c.notes)
				return
			}
			require.NoError(t, err)
			assert.Equal(t, c.want, got.String())
			_, told, _ := strings.Cut(noted(p), "; ")
			assert.Equal(t, c.notes, told)
		})
	}
}

// A table that is read again changes what it speaks of and nothing else.
func TestATableReadAgainKeepsTheRest(t *testing.T) {
	const items = `    content:
      items:
        - title: One # ours
          price: €1
          media: {file: a.svg, alt: A kite, focus: 10% 20%}
        - title: Two
          price: €2
          unit: a day
          points: [x, y]
`
	page := strings.Replace(plans(items), "pricing/plans", "testimonials/row", 1)
	page = strings.ReplaceAll(strings.ReplaceAll(page, "price", "role"),
		"          unit: a day\n          points: [x, y]\n", "          text: Said\n")
	got, p, err := fill(t, page, "items", "p.csv", "title,role,media\nOne,€3,a.svg\nTwo,,\n", edit.Pictures{}, "a.svg")
	require.NoError(t, err)
	assert.Equal(t, "[{title: One, role: €3, media: {file: a.svg, alt: A kite, focus: 10% 20%}}, {title: Two, text: Said}]", got.String())
	changes, _, err := p.Work()
	require.NoError(t, err)
	assert.Contains(t, changes[0].After,
		"title: One # ours\n          role: €3\n          media: {file: a.svg, alt: A kite, focus: 10% 20%}\n")

	got, _, err = fill(t, page, "items", "p.json", `[{"title": "One", "text": "New"}, {"title": "Two", "role": "c"}]`,
		edit.Pictures{}, "a.svg")
	require.NoError(t, err)
	assert.Equal(t, "[{title: One, role: €1, media: {file: a.svg, alt: A kite, focus: 10% 20%}, text: New}, {title: Two, role: c, text: Said}]", got.String())

	got, p, err = fill(t, page, "items", "p.csv", "title,role\nTwo,b\nThree,c\n", edit.Pictures{}, "a.svg")
	require.NoError(t, err)
	assert.Equal(t, "[{title: Two, role: b, text: Said}, {title: Three, role: c}]", got.String())
	assert.Contains(t, noted(p), "gone: entries that the table has not: One")
}

func TestPicturesOfATable(t *testing.T) {
	page := strings.Replace(plans(""), "pricing/plans", "testimonials/row", 1)
	const rows = "title,text\nTomasz Brekk,a\nInes Halloran,b\nOva,c\n"
	media := []string{"people/tomas.svg", "people/ines.svg", "people/ovid.svg"}
	got, p, err := fill(t, page, "items", "p.csv", rows, edit.Pictures{Folder: "media/people"}, media...)
	require.NoError(t, err)
	assert.Equal(t, "[{title: Tomasz Brekk, text: a}, {title: Ines Halloran, text: b, media: {file: people/ines.svg, alt: Ines Halloran}}, {title: Ova, text: c}]", got.String())
	assert.Equal(t, []edit.Match{{Entry: "Tomasz Brekk", File: "people/tomas.svg", How: edit.AlikeLeft},
		{Entry: "Ines Halloran", File: "people/ines.svg", How: edit.SameName}, {Entry: "Ova"}}, p.Matches)
	assert.Contains(t, noted(p), "--alike takes them")
	assert.Contains(t, noted(p),
		"entries without a picture: Ova; left over: pictures without an entry: people/ovid.svg")

	got, p, err = fill(t, page, "items", "p.csv", rows, edit.Pictures{Folder: "media/people", Alike: true}, media...)
	require.NoError(t, err)
	assert.Equal(t, "people/tomas.svg", got.Items[0].Get("media").Get("file").Str())
	assert.NotContains(t, noted(p), "--alike")

	two := append(media, "people/thomas.svg")
	_, p, err = fill(t, page, "items", "p.csv", "title\nTomas-Emil\nTomaz\n", edit.Pictures{Folder: "people"}, two...)
	require.NoError(t, err)
	for _, m := range p.Matches {
		assert.NotEqual(t, edit.AlikeTaken, m.How, "%+v", m)
	}
}

func TestTablesThatDoNotFit(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for want, c := range map[string][2]string{
		"data/p.csv: no column is a field of items; its fields are raised, tone, title, text, price, unit, points, link.label, link.to": {"p.csv", "a,b\n1,2\n"},
		"data/p.csv:3:1: error: \"courses\" is one of two things that a link needs":                                                     {"p.csv", "title,link\nOne,\nTwo,courses\n"},
		"data/p.csv: the columns name and title both mean title of items: rename one":                                                   {"p.csv", "name,title\n1,2\n"},
		"data/p.yaml:1:1: error: there is no list of entries here":                                                                      {"p.yaml", "title: x\n"},
		"data/p.yaml:1:":   {"p.yaml", "- {title: x\n"},
		"data/p.json:1:1:": {"p.json", "3"},
		"data/p.md:1:1: error: there are no entries here": {"p.md", "words\n"},
		"data/p.csv:2:": {"p.csv", "title,text\na,b,c\n"},
	} {
		_, _, err := fill(t, plans(""), "items", c[0], c[1], edit.Pictures{})
		assert.ErrorContains(t, err, want)
	}
}
