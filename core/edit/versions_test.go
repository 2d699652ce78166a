package edit_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/build"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// later is a program with other files in some places; "" takes a file away.
func later(t *testing.T, change func(name, text string) string) fs.FS {
	out := fstest.MapFS{}
	require.NoError(t, fs.WalkDir(stock.Files, ".", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasPrefix(p, "demo") || strings.HasPrefix(p, "trades") {
			return err
		}
		data, err := fs.ReadFile(stock.Files, p)
		require.NoError(t, err)
		if text := change(p, string(data)); text != "" {
			out[p] = &fstest.MapFile{Data: []byte(text)}
		}
		return nil
	}))
	return out
}

func openWith(t *testing.T, dir string, program fs.FS) *project.Project {
	e, problems, err := project.Open(dir, program)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return e
}

// commit works an edit out and writes it.
func commit(t *testing.T, e *project.Project, do func(p *edit.Plan) error) *edit.Plan {
	p := edit.New(e, store.Store{})
	require.NoError(t, do(p))
	changes, _, err := p.Work()
	require.NoError(t, err)
	for _, c := range changes {
		file := filepath.Join(e.Site.Dir, filepath.FromSlash(c.Path))
		if c.Gone {
			require.NoError(t, os.Remove(file))
			continue
		}
		require.NoError(t, site.WriteFile(file, []byte(c.After)))
	}
	return p
}

func built(t *testing.T, e *project.Project) map[string]string {
	files, problems := build.Build(e, build.Options{})
	require.NoError(t, problems.Err())
	out := map[string]string{}
	for name, f := range files {
		out[name] = string(f.Data)
	}
	return out
}

// A site that keeps what it uses gives the same bytes with a program in which everything is another: that is what
// keeping is for. The same site without it changes.
func TestANewerProgramBuildsTheSameBytes(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := testsite.Write(t, testsite.Shipped(t, "templates/studio"))
	was := built(t, openWith(t, dir, stock.Files))
	newer := later(t, func(name, text string) string {
		switch {
		case strings.HasSuffix(name, "section.css"), name == "base.css", strings.HasPrefix(name, "treatments/"):
			return text + "\n.heading { letter-spacing: 1px; }\n"
		case strings.HasSuffix(name, "section.html"):
			return strings.Replace(text, "<body>", "<body>\n<!-- newer -->", 1)
		case strings.HasPrefix(name, "themes/"):
			return strings.ReplaceAll(text, "0.875rem", "0.8125rem")
		case name == "words.yaml":
			return strings.ReplaceAll(text, "Skip to", "Jump to")
		}
		return text
	})
	assert.NotEqual(t, was, built(t, openWith(t, dir, newer)), "the newer program makes no difference at all")
	p := commit(t, openWith(t, dir, stock.Files), edit.Freeze)
	assert.Contains(t, p.Done, "keeps what its pages are made from, in kept/")
	now := built(t, openWith(t, dir, newer))
	for name, text := range was {
		assert.Equal(t, text, now[name], name)
	}
}

// newerCards is a program with another section and other base styles.
func newerCards(t *testing.T) fs.FS {
	return later(t, func(name, text string) string {
		switch name {
		case "sections/features/cards/section.yaml":
			return strings.Replace(
				text,
				"version: 1",
				"version: 3\nchanges:\n  2: The button stands below the entries.\n"+
					"  3:\n    says: The heading is called headline.\n    renames:\n      fields: {heading: headline}\n      parts: {heading: headline}",
				1,
			)
		case "sections/features/cards/section.html":
			text = strings.ReplaceAll(text, `data-field="lead"`, `data-field="opening"`)
			text = strings.Replace(text, "eyebrow heading lead", "eyebrow headline opening", 1)
			return strings.ReplaceAll(
				strings.ReplaceAll(text, `data-field="heading"`, `data-field="headline"`),
				`data-part="heading"`,
				`data-part="headline"`,
			)
		case "sections/features/cards/section.css":
			return text + "\n.cards { row-gap: 99px; }\n"
		case "base.css":
			return text + "\n.never { color: red; }\n"
		}
		return text
	})
}

const gridPage = `title: H
blocks:
  - name: why
    section: features/cards
    content:
      heading: Three of them # the client likes this
      lead: Short.
    style:
      heading: {letter-spacing: 0.02em}
  - {name: again, section: features/cards}
`

func TestNewerSectionsAreToldAndTaken(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": gridPage})
	_, err := edit.NewerOf(openWith(t, dir, stock.Files))
	require.ErrorContains(t, err, "ziegel update --freeze")
	commit(t, openWith(t, dir, stock.Files), edit.Freeze)
	list, err := edit.NewerOf(openWith(t, dir, stock.Files))
	require.NoError(t, err)
	assert.Empty(t, list)

	newer := newerCards(t)
	list, err = edit.NewerOf(openWith(t, dir, newer))
	require.NoError(t, err)
	require.Len(t, list, 2)
	n := list[0]
	assert.Equal(t, "features/cards", n.Name)
	assert.Equal(t, []string{"1", "3"}, []string{n.Was, n.Is})
	assert.Equal(t, []string{"The button stands below the entries.", "The heading is called headline."}, n.Says)
	assert.Equal(t, []string{"heading is headline now"}, n.Fields.Renamed)
	assert.Equal(t, []string{"lead"}, n.Fields.Go)
	assert.Equal(t, []string{"opening"}, n.Fields.Come)
	assert.Equal(t, []string{"home/why", "home/again"}, n.Blocks)
	assert.Equal(t, []string{"home/why lead"}, n.Lost)
	assert.Equal(t, "base.css", list[1].Name)

	// what is refused is not asked for again until there is yet another
	commit(
		t,
		openWith(t, dir, newer),
		func(p *edit.Plan) error { return edit.Refuse(p, []string{"base.css"}, "signed") },
	)
	list, err = edit.NewerOf(openWith(t, dir, newer))
	require.NoError(t, err)
	assert.Equal(t, "signed", list[1].Refused)
	more := later(t, func(name, text string) string {
		if name == "base.css" {
			return text + "\n.other { color: blue; }\n"
		}
		return text
	})
	list, err = edit.NewerOf(openWith(t, dir, more))
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Empty(t, list[0].Refused)

	// a block stands for its section; what the newer does not show is parked, what is renamed goes along
	p := commit(
		t,
		openWith(t, dir, newer),
		func(p *edit.Plan) error { return edit.Update(p, []string{"home/why"}, false) },
	)
	assert.Equal(t, "took features/cards as this program has it", p.Done)
	page, err := os.ReadFile(filepath.Join(dir, "pages/home.yaml"))
	require.NoError(t, err)
	assert.Contains(t, string(page), "headline: Three of them")
	assert.Contains(t, string(page), "headline: {letter-spacing: 0.02em}")
	assert.Regexp(t, `parked:\s+content: ?\{? *lead: Short`, string(page))
	e := openWith(t, dir, newer)
	assert.Equal(t, "3", e.Library.Section("features/cards").Version)
	assert.NotContains(t, e.Base, ".never", "base.css was taken along")
	list, err = edit.NewerOf(e)
	require.NoError(t, err)
	require.Len(t, list, 1)

	// a treatment more comes with the others
	with := func(name, text string) string { return text }
	one := later(t, with).(fstest.MapFS)
	one["treatments/panel/odd.css"] = &fstest.MapFile{Data: []byte("/* Odd. */\n.odd { color: red; }\n")}
	assert.NotContains(
		t,
		openWith(t, dir, one).SharedClasses(),
		"odd",
		"a class of a treatment that the site has not taken is shared",
	)
	list, err = edit.NewerOf(openWith(t, dir, one))
	require.NoError(t, err)
	assert.Equal(t, "treatments", list[len(list)-1].Name)

	// all but what is refused
	p = commit(t, e, func(p *edit.Plan) error { return edit.Update(p, nil, false) })
	assert.Equal(t, "base.css stays, as was said: signed", p.Notes[0].Text)
	assert.NotContains(t, openWith(t, dir, newer).Base, ".never")
}

// A section that an edit brings is kept from then on, and goes with it again.
func TestAnEditKeepsWhatItBrings(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(
		t,
		map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": "title: H\nblocks: []\n"},
	)
	commit(t, testsite.Open(t, dir), edit.Freeze)
	add := func() []site.FileChange {
		p := edit.New(testsite.Open(t, dir), store.Store{})
		require.NoError(t, edit.Add(p, "home", "features/cards", "", edit.Spot{}))
		changes, _, err := p.Work()
		require.NoError(t, err)
		return changes
	}
	var names []string
	for _, c := range add() {
		names = append(names, c.Path)
	}
	assert.Equal(t, []string{"pages/home.yaml", "kept/sections/features/cards/section.css",
		"kept/sections/features/cards/section.html", "kept/sections/features/cards/section.yaml"}, names)
	require.NoError(t, os.RemoveAll(filepath.Join(dir, "kept")))
	assert.Len(t, add(), 1, "a site that keeps nothing is asked for nothing")
}

// A program that has a section no longer: the site keeps it, and says so.
func TestWhatTheProgramHasNoLongerStays(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": gridPage})
	commit(t, openWith(t, dir, stock.Files), edit.Freeze)
	newer := later(t, func(name, text string) string {
		if strings.HasPrefix(name, "sections/features/cards/") {
			return ""
		}
		return text
	})
	e := openWith(t, dir, newer)
	list, err := edit.NewerOf(e)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "", list[0].Is)
	p := edit.New(e, store.Store{})
	require.NoError(t, edit.Update(p, nil, false))
	changes, _, err := p.Work()
	require.NoError(t, err)
	assert.Empty(t, changes)
	assert.Contains(t, p.Notes[0].Text, "has no such section any more")
}

func TestWhatCannotBeUpdated(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": gridPage})
	commit(t, openWith(t, dir, stock.Files), edit.Freeze)
	e := openWith(t, dir, newerCards(t))
	assert.ErrorContains(
		t,
		edit.Update(edit.New(e, store.Store{}), []string{"features/crads"}, false),
		"features/cards",
	)
	assert.ErrorContains(t, edit.Refuse(edit.New(e, store.Store{}), []string{"features/cards"}, " "), "needs a reason")
}
