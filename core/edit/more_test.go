package edit_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/adopt"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/internal/testsite"
)

// A table fills a list: columns by their names, links and pictures as such, pictures by the names of people. What is
// left over is told.
func TestTablesFillLists(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml":            "name: L\n",
		"pages/home.yaml":        "title: H\nblocks:\n  - {name: voices, section: testimonials/row}\n  - {name: plans, section: pricing/plans}\n",
		"data/voices.csv":        "Title,text,shoe size\nInes Halloran,\"It flew, at once\",38\nTomas Brekk,Good line,44\nNobody,Nothing,1\n",
		"data/plans.csv":         "title;price;link.label;link.to\nFirst kite;€85;Pick a day;courses\n",
		"data/nothing.csv":       "a,b\n1,2\n",
		"media/people/ines.svg":  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"/>`,
		"media/people/tomas.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"/>`,
		"media/people/adam.svg":  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"/>`,
		"pages/courses.yaml":     "title: C\nblocks: []\n",
	})
	fill := func(pictures string, args ...string) (*edit.Plan, error) {
		p := edit.New(testsite.Open(t, dir), store.Store{})
		return p, edit.Set(p, args[0], args[1:], edit.Pictures{Folder: pictures}, nil)
	}
	notes := func(p *edit.Plan) (out []string) {
		for _, n := range p.Notes {
			out = append(out, n.Text)
		}
		return out
	}
	p, err := fill("media/people", "home/voices", "items=@data/voices.csv")
	require.NoError(t, err)
	assert.Equal(t, []string{"items: 3 entries from data/voices.csv",
		"left over: columns that items does not show: shoe size", "left over: entries without a picture: Nobody", "left over: pictures without an entry: people/adam.svg"}, notes(p))
	changes, _, err := p.Work()
	require.NoError(t, err)
	require.Len(t, changes, 1)
	assert.Contains(t, changes[0].After, `text: "It flew, at once"`)
	assert.Contains(t, changes[0].After, "file: people/ines.svg, alt: Ines Halloran")

	p, err = fill("", "home/plans", "items=@data/plans.csv")
	require.NoError(t, err)
	assert.Equal(t, []string{"items: 1 entry from data/plans.csv"}, notes(p))
	changes, _, err = p.Work()
	require.NoError(t, err)
	assert.Contains(t, changes[0].After, "link: {label: Pick a day, to: courses}")

	for want, args := range map[string][]string{
		"there is no list \"heading\" in testimonials/row; there are items, actions": {"", "home/voices",
			"heading=@data/voices.csv"},
		"there is no file data/voice.csv; did you mean data/voices.csv?": {"", "home/voices",
			"items=@data/voice.csv"},
		"data/nothing.csv: no column is a field of items; its fields are text, media, title, role": {"", "home/voices",
			"items=@data/nothing.csv"},
		"the entries of items show no pictures, so --pictures has nothing to fill": {"media/people",
			"home/plans", "items=@data/plans.csv"},
	} {
		_, err := fill(args[0], args[1:]...)
		if assert.Error(t, err, want) {
			assert.Equal(t, want, err.Error())
		}
	}
}

// A shared look is made of a part, used by others, changed for all, and taken away only when nothing uses it.
func TestSharedStyles(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml":     "name: L\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: a, section: pricing/plans}\n  - {name: b, section: pricing/plans}\n",
	})
	try := func(sc edit.Scope, args ...string) (string, error) {
		if sc.Of == "" {
			sc.Of = "block"
		}
		p := edit.New(testsite.Open(t, dir), store.Store{})
		if err := edit.Style(p, args, sc); err != nil {
			return "", err
		}
		changes, _, err := p.Work()
		if err != nil {
			return "", err
		}
		return p.Done, site.Commit(dir, "edit", time.Now(), changes)
	}
	must := func(sc edit.Scope, args ...string) string {
		done, err := try(sc, args...)
		require.NoError(t, err, args)
		return done
	}
	must(edit.Scope{Scope: "block"}, "home/a.card", "padding=7px", "opacity=.9")
	must(edit.Scope{Scope: "block", State: "hover"}, "home/a.card", "opacity=1")
	assert.Equal(t, "made the shared look soft of home/a.card, which uses it now",
		must(edit.Scope{Scope: "look", From: "home/a.card"}, "soft"))
	main := read(t, dir, "ziegel.yaml")
	assert.Contains(t, main, "  soft:\n    padding: 7px\n    opacity: \".9\"\n    :hover: {opacity: 1}\n")
	assert.Contains(t, read(t, dir, "pages/home.yaml"), "card: {use: [soft]}")
	must(edit.Scope{Scope: "block"}, "home/b.card", "use=soft")
	assert.Equal(t, "styled the shared look soft, used by 2 parts",
		must(edit.Scope{Scope: "look"}, "soft", "padding=9px"))
	assert.Contains(t, read(t, dir, "ziegel.yaml"), "padding: 9px")
	_, err := try(edit.Scope{Scope: "look", From: "home/b.card"}, "soft")
	assert.ErrorContains(t, err, "there is a shared look soft already")
	_, err = try(edit.Scope{Scope: "look", Reset: true}, "soft")
	assert.ErrorContains(t, err, "soft")
	must(edit.Scope{Scope: "block", Reset: true}, "home/a.card")
	must(edit.Scope{Scope: "block", Reset: true}, "home/b.card")
	assert.Equal(t, "removed the shared look soft", must(edit.Scope{Scope: "look", Reset: true}, "soft"))
	assert.NotContains(t, read(t, dir, "ziegel.yaml"), "soft")
}

// All colors of a theme follow from one; what the tokens say beside colors stays. Colors that cannot be read together
// are refused, or written anyway.
func TestColorsFollowFromOne(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	env := testsite.Demo(t)
	files, err := edit.ReadTokenFiles(env, env.Site.Dir)
	require.NoError(t, err)
	radius, err := json.Marshal(files.Light["radius"])
	require.NoError(t, err)
	require.NoError(t, files.Derive("#7a3b10", ""))
	after, err := json.Marshal(files.Light["radius"])
	require.NoError(t, err)
	assert.Equal(t, string(radius), string(after))
	assert.Nil(t, files.Light["picture"], "pictures follow from the colors")
	assert.ErrorContains(t, files.Derive("kite", ""), "kite")

	pale := func(anyway bool) error {
		p := edit.New(env, store.Store{Dir: t.TempDir()})
		return edit.Tokens(p, func(f *edit.TokenFiles) error { return f.Set([]string{"color.plain.soft=#fefefe"}) },
			"done", anyway)
	}
	assert.ErrorContains(t, pale(false), "nothing was written")
	assert.NoError(t, pale(true))
}

// effects makes an edit of the demo and tells what it did to the layout.
func effects(t *testing.T, do func(p *edit.Plan) error) []edit.PageEffects {
	t.Helper()
	env := testsite.Demo(t)
	p := edit.New(env, store.Store{Dir: t.TempDir(), Version: "test"})
	require.NoError(t, do(p))
	_, after, err := p.Work()
	require.NoError(t, err)
	pages, all := edit.Effects(p.Store, p.Touched, env, after)
	require.Len(t, pages, all)
	return pages
}

// What an edit did: nothing, another arrangement, a finding that is new, a tone that takes its turn.
func TestWhatEditsDoToTheLayout(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps blocks before and after")
	}
	pages := effects(t, func(p *edit.Plan) error {
		return edit.Set(p, "home/plans",
			[]string{"items[1].link.to=home"}, edit.Pictures{}, nil)
	})
	require.Len(t, pages, 1)
	assert.True(t, pages[0].Still)
	assert.Empty(t, pages[0].Effects)

	pages = effects(t, func(p *edit.Plan) error {
		return edit.Set(p, "home/plans",
			[]string{"options.columns=2"}, edit.Pictures{}, nil)
	})
	var moved []string
	for _, e := range pages[0].Effects {
		if e.Kind == edit.StacksAnew {
			moved = append(moved, e.Where)
			assert.NotEqual(t, e.Earlier, e.Arrangements)
		}
	}
	assert.Contains(t, moved, "home/plans")
	assert.False(t, pages[0].Still)

	pages = effects(t, func(p *edit.Plan) error {
		return edit.Style(p, []string{"home/reasons.card", "min-width=900px"},
			edit.Scope{Scope: "block", Of: "block"})
	})
	var fresh []string
	for _, e := range pages[0].Effects {
		if e.Kind == edit.NewFinding {
			fresh = append(fresh, e.Finding.Rule)
		}
	}
	assert.Contains(t, fresh, "overflow-x")

	pages = effects(t, func(p *edit.Plan) error { return edit.Add(p, "home", "nav/bar", "", edit.Spot{}) })
	twice := 0
	for _, e := range pages[0].Effects {
		if e.Kind == edit.StandsTwice {
			twice++
			assert.NotEmpty(t, e.Now)
		}
	}
	assert.Equal(t, 1, twice)
}

// Findings are compared by what they are about: new, gone, and those whose words or widths changed. Notes that go are
// not told.
func TestFindingsBeforeAndAfter(t *testing.T) {
	f := func(rule string, item, from int, note bool) check.Finding {
		sev := diag.Warning
		if note {
			sev = diag.Note
		}
		return check.Finding{Rule: rule, Block: "a", Part: "card", Item: item, From: from, To: 400, Text: rule,
			Severity: sev}
	}
	was := &check.Report{Findings: []check.Finding{f("spills", 1, 300, false), f("spills", 2, 300, false),
		f("lone", 0, 300, true), f("same", 0, 300, false)}}
	now := &check.Report{Findings: []check.Finding{f("spills", 1, 320, false), f("same", 0, 300, false),
		f("covered", 0, 300, false)}}
	var got []string
	for _, e := range edit.Compare(was, now) {
		switch e.Kind {
		case edit.NewFinding:
			got = append(got, "new "+e.Finding.Rule)
		case edit.GoneFinding:
			got = append(got, "gone "+e.Before.Rule)
		default:
			got = append(got, "other "+e.Finding.Rule)
		}
	}
	assert.Equal(t, []string{"other spills", "new covered", "gone spills"}, got)
	assert.Empty(t, edit.Compare(was, was))
	assert.Len(t, edit.Compare(nil, now), 3)
	assert.Len(t, edit.Compare(was, nil), 3, "the note is not told")
}

// A step taken back names the pages that it reaches, and the blocks that are other ones now.
func TestWhatAStepReaches(t *testing.T) {
	before := testsite.Open(t, testsite.Write(t, map[string]string{
		"ziegel.yaml": "name: L\nevery-page: {bottom: [{name: foot, section: footer/columns}]}\n", "pages/home.yaml": "title: H\nblocks: [{name: a, section: hero/beside}, {name: b, section: steps/line}]\n", "pages/b.yaml": "title: B\nblocks: []\n"}))
	with := func(path, text string) (*project.Project, site.Change) {
		c := site.FileChange{Path: path, Before: before.Site.Source(path), After: text}
		after, problems, err := before.With([]site.FileChange{c})
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		return after, site.Change{Files: []site.FileChange{c}}
	}
	after, c := with("pages/home.yaml",
		strings.Replace("title: H\nblocks: [{name: a, section: hero/beside}, {name: b, section: steps/line}]\n",
			"steps/line", "steps/line, tone: deep", 1))
	assert.Equal(t, []string{"home"}, edit.Travelled(before, after, c))
	assert.Equal(t, []string{"b"}, edit.ChangedBlocks(before, after, after.Site.Page("home")))
	after, c = with("ziegel.yaml",
		"name: L\nevery-page: {bottom: [{name: foot, section: footer/columns, tone: deep}]}\n")
	assert.Equal(t, []string{"b", "home"}, edit.Travelled(before, after, c))
	assert.Equal(t, []string{"foot"}, edit.ChangedBlocks(before, after, after.Site.Page("home")))
	c.Files[0].New = true
	assert.Equal(t, []site.FileChange{{Path: "ziegel.yaml", After: c.Files[0].Before, Gone: true}}, edit.Reversed(c))
	c.Undone = true
	assert.Equal(t, c.Files[0].After, edit.Reversed(c)[0].After)
}

// A change to a block on every page is looked at on some pages, those that say something of their own about it first;
// of how many is told.
func TestBlocksOnManyPages(t *testing.T) {
	files := map[string]string{
		"ziegel.yaml":   "name: L\nevery-page: {bottom: [{name: foot, section: footer/columns}]}\n",
		"pages/z.yaml":  "title: Z\noverride: {foot: {tone: deep}}\nblocks: []\n",
		"pages/zz.yaml": "title: ZZ\nleave-out: [foot]\nblocks: []\n",
	}
	for _, n := range strings.Fields("a b c d e f g") {
		files["pages/"+n+".yaml"] = "title: T\nblocks: []\n"
	}
	p := edit.New(testsite.Open(t, testsite.Write(t, files)), store.Store{})
	require.NoError(t, edit.Set(p, "a/foot", []string{"text=Kites"}, edit.Pictures{}, nil))
	_, _, err := p.Work()
	require.NoError(t, err)
	require.Len(t, p.Notes, 1)
	assert.Equal(t, "looked at foot on 5 of 9 pages; `ziegel check` looks at all", p.Notes[0].Text)
	assert.Contains(t, p.Touched, "z", "it says something of its own")
	assert.NotContains(t, p.Touched, "zz", "it has no such block")
	assert.NotContains(t, p.Touched, "g")

	delete(files, "pages/g.yaml")
	delete(files, "pages/f.yaml")
	delete(files, "pages/e.yaml")
	delete(files, "pages/zz.yaml")
	p = edit.New(testsite.Open(t, testsite.Write(t, files)), store.Store{})
	require.NoError(t, edit.Set(p, "a/foot", []string{"text=Kites"}, edit.Pictures{}, nil))
	_, _, err = p.Work()
	require.NoError(t, err)
	assert.Empty(t, p.Notes, "all are looked at")
	assert.Len(t, p.Touched, 5)
}

// TestKeepBindsBlocksThatLookTheSame keeps a block of which others have the same styles.
func TestKeepBindsBlocksThatLookTheSame(t *testing.T) {
	const blocks = "title: T\nblocks:\n  - name: a\n    section: pricing/plans\n    style:\n      card: {padding: 3rem}\n" +
		"  - name: b\n    section: pricing/plans\n    style:\n      card: {padding: 3rem}\n" +
		"  - name: c\n    section: pricing/plans\n    style:\n      card: {padding: 4rem}\n" +
		"  - name: d\n    section: pricing/plans\n    tone: deep\n    style:\n      card: {padding: 3rem}\n"
	env := testsite.With(t, blocks)
	for _, bind := range []bool{false, true} {
		p := edit.New(env, store.Store{})
		require.NoError(t, edit.Keep(p, "home/a", "pricing/tickets", "", bind))
		changes, after, err := p.Work()
		require.NoError(t, err)
		require.NotEmpty(t, changes)
		var made []string
		for _, b := range after.Site.Page("home").Blocks {
			if b.Section == "pricing/tickets" {
				made = append(made, b.Name)
				assert.Nil(t, b.Style, "its styles are the section's")
			}
		}
		var notes []string
		for _, n := range p.Notes {
			notes = append(notes, n.Text)
		}
		if bind {
			assert.Equal(t, []string{"a", "b"}, made)
			assert.Contains(t, notes, "home/b looked the same and is made of it, too")
		} else {
			assert.Equal(t, []string{"a"}, made)
			assert.Contains(t, notes, "home/b looks the same: --bind makes it of pricing/tickets, too")
		}
	}
}

// TestAStarter begins a site as another one, changes both, and takes what has changed there.
func TestAStarter(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	top := t.TempDir()
	write := func(name, text string) {
		file := filepath.Join(top, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o777))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o666))
	}
	const section = "<!doctype html><body><section class=\"lanes root\"><h2 class=\"title\" data-field=\"heading\" data-part=\"heading\">A</h2></section>"
	write("base/ziegel.yaml",
		"name: Base\naddress: https://base.example\nranges: {phone: ..599, wide: 600..}\nevery-page:\n  bottom:\n    - name: foot\n      section: footer/line\n      content: {brand: Base, legal: Old}\n")
	write("base/sections/piece/own/section.html", section)
	write("base/sections/piece/own/section.css", ".title { color: var(--ink); }\n")
	write("base/sections/piece/own/section.yaml", "name: piece/own\nkind: piece\nsummary: A.\nversion: 1\n")
	write("base/media/icons/star.svg",
		"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><path d=\"M0 0h9\"/></svg>")
	write("base/media/unused.svg", "<svg/>")
	files, err := edit.Starter(site.Folder(filepath.Join(top, "base")), "../base", "Two")
	require.NoError(t, err)
	for name, text := range files {
		write("two/"+name, text)
	}
	write("two/pages/home.yaml", "title: T\nblocks: []\n")
	assert.NotContains(t, files, "media/unused.svg")
	assert.NotContains(t, files[site.FileName], "address")
	assert.Contains(t, files[site.FileName], "brand: Two")
	open := func() *project.Project { return testsite.Open(t, filepath.Join(top, "two")) }
	list, err := edit.OutdatedOf(open().Site)
	require.NoError(t, err)
	assert.Empty(t, list, "nothing has changed yet, though the name is another")

	write("base/sections/piece/own/section.css", ".title { color: var(--soft); }\n")
	write("base/ziegel.yaml",
		"name: Base\nranges: {phone: ..499, wide: 500..}\nevery-page:\n  bottom:\n    - name: foot\n      section: footer/line\n      content: {brand: Base, legal: New}\n")
	write("base/media/icons/moon.svg",
		"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 9\"><path d=\"M0 9h9\"/></svg>")
	require.NoError(t, os.Remove(filepath.Join(top, "base/media/icons/star.svg")))
	write("two/ziegel.yaml", strings.Replace(files[site.FileName], "..599", "..699", 1))
	list, err = edit.OutdatedOf(open().Site)
	require.NoError(t, err)
	assert.Equal(t, []edit.Outdated{
		{Name: "media/icons/moon.svg", How: "new"}, {Name: "media/icons/star.svg", How: "gone"},
		{Name: "sections/piece/own/section.css", How: "changed"},
		{Name: "ziegel.yaml every-page", How: "changed"}, {Name: "ziegel.yaml ranges", How: "changed", Here: true},
	}, list)

	p := edit.New(open(), store.Store{})
	require.ErrorContains(t, edit.Update(p, []string{"sections/piece/nope"}, false), "there is no change")
	p = edit.New(open(), store.Store{})
	require.NoError(t, edit.Update(p, nil, false))
	changes, _, err := p.Work()
	require.NoError(t, err)
	require.NoError(t, site.Commit(filepath.Join(top, "two"), "update", time.Unix(0, 0), changes))
	now, err := os.ReadFile(filepath.Join(top, "two/ziegel.yaml"))
	require.NoError(t, err)
	assert.Contains(t, string(now), "legal: New")
	assert.Contains(t, string(now), "brand: Two", "under its own name")
	assert.Contains(t, string(now), "..699", "what was changed here stays")
	list, err = edit.OutdatedOf(open().Site)
	require.NoError(t, err)
	assert.Equal(t, []edit.Outdated{{Name: "ziegel.yaml ranges", How: "changed", Here: true}}, list)
	p = edit.New(open(), store.Store{})
	require.NoError(t, edit.Update(p, []string{"ziegel.yaml ranges"}, true))
	_, after, err := p.Work()
	require.NoError(t, err)
	assert.Equal(t, 499, after.Site.Ranges[0].To)
	_, err = edit.OutdatedOf(testsite.With(t, "title: T\nblocks: []\n").Site)
	require.ErrorContains(t, err, "did not begin as another one")
}

// TestTakenPagesLeaveOutOnlyWhatTheSiteHas takes pages of which one has no navigation, into a new site and into one
// that has a navigation of its own.
func TestTakenPagesLeaveOutOnlyWhatTheSiteHas(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	header := "<header><a href=\"/index.html\">Pike Lane</a> <nav><a href=\"/a.html\">A</a> <a href=\"/b.html\">B</a></nav></header>"
	page := func(head, title string) string {
		return "<!doctype html><title>" + title + "</title>" + head + "<main><section><h1>" + title +
			"</h1><p>Words of it.</p></section></main>"
	}
	old := testsite.Files(map[string]string{"index.html": page(header, "One"), "a.html": page(header, "Two"),
		"b.html": page("", "Three")})
	for more, want := range map[string]string{
		"every-page:\n  top:\n    - {name: bar, section: nav/bar}\n": "",
	} {
		env := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n" + more,
			"pages/keep.yaml": "title: K\nblocks: []\n"}))
		taking, err := adopt.Take(env, adopt.Wanted{Folder: old, Files: []string{"index.html", "a.html", "b.html"}})
		require.NoError(t, err)
		require.Len(t, taking.Top, 1)
		p := edit.New(env, store.Store{})
		require.NoError(t, edit.Take(p, taking))
		changes, after, err := p.Work()
		require.NoError(t, err)
		for _, c := range changes {
			if c.Path != "pages/b.yaml" {
				assert.NotContains(t, c.After, "leave-out", c.Path)
			} else if want == "" {
				assert.NotContains(t, c.After, "leave-out")
			} else {
				assert.Contains(t, c.After, want)
			}
		}
		assert.Len(t, after.Site.Top, 1)
		assert.Equal(t, "Three", after.Site.Page("b").Title)
	}
	// pages that are there and have no navigation do not get one: it stands on the pages that were taken with it
	env := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n",
		"pages/keep.yaml": "title: K\nblocks:\n  - {name: menu, section: nav/bar}\n"}))
	taking, err := adopt.Take(env, adopt.Wanted{Folder: old, Files: []string{"index.html", "a.html", "b.html"}})
	require.NoError(t, err)
	p := edit.New(env, store.Store{})
	require.NoError(t, edit.Take(p, taking))
	_, after, err := p.Work()
	require.NoError(t, err)
	assert.Empty(t, after.Site.Top)
	assert.Equal(t, "menu", after.Site.Page("home").Blocks[0].Name)
	assert.Len(t, after.Site.Page("b").Blocks, 1)
}

// TestTakenPagesOfANewSite puts what most pages begin with on every page; the one without leaves it out.
func TestTakenPagesOfANewSite(t *testing.T) {
	header := "<header><a href=\"/index.html\">Pike Lane</a> <nav><a href=\"/a.html\">A</a> <a href=\"/b.html\">B</a></nav></header>"
	page := func(head, title string) string {
		return "<!doctype html><title>" + title + "</title>" + head + "<main><section><h1>" + title +
			"</h1><p>Words of it.</p></section></main>"
	}
	old := testsite.Files(map[string]string{"o/index.html": page(header, "One"), "o/a.html": page(header, "Two"),
		"o/b.html": page("", "Three")})
	env := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n"}))
	taking, err := adopt.Take(env, adopt.Wanted{Folder: old, Files: []string{"o/index.html", "o/a.html", "o/b.html"}})
	require.NoError(t, err)
	p := edit.New(env, store.Store{})
	require.NoError(t, edit.Take(p, taking))
	_, after, err := p.Work()
	require.NoError(t, err)
	require.Len(t, after.Site.Top, 1)
	assert.Equal(t, []string{"a", "b", "home"}, after.Site.PageNames(), "the first page of the folder is home")
	assert.Equal(t, []string{"menu"}, after.Site.Page("b").LeaveOut)
	assert.Empty(t, after.Site.Page("a").LeaveOut)
}
