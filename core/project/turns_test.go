package project_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// home composes the page home of a site that has no mistakes.
func home(t *testing.T, opts compose.Options, files map[string]string) *compose.Page {
	t.Helper()
	env := testsite.Open(t, testsite.Write(t, files))
	p, problems := compose.Compose(env, env.Site.Page("home"), opts)
	require.NoError(t, problems.Err())
	return p
}

// tones lists the tones of a page's blocks from top to bottom.
func tones(html string) string {
	var out []string
	for _, m := range regexp.MustCompile(`class="page-block tone-([a-z]+)`).FindAllStringSubmatch(html, -1) {
		out = append(out, m[1])
	}
	return strings.Join(out, " ")
}

func hrefs(html string) []string {
	var out []string
	for _, m := range regexp.MustCompile(`href="([^"]*[a-z-]+/?)"`).FindAllStringSubmatch(html, -1) {
		if !strings.Contains(m[1], "icon-") {
			out = append(out, m[1])
		}
	}
	return out
}

func TestBlocksTakeTurns(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	const main = "name: L\nturns: {tone: [plain, tinted], media: [right, left]}\n"
	for _, tt := range []struct{ name, blocks, tones string }{
		{"one after the other",
			"{name: a, section: hero/alone}, {name: b, section: steps/line}, {name: c, section: steps/line}", "plain tinted plain"},
		{"what says its own is left alone",
			"{name: a, section: hero/alone}, {name: b, section: steps/line, tone: deep}, {name: c, section: steps/line}", "plain deep tinted"},
		{"never two alike", "{name: a, section: hero/alone}, {name: b, section: steps/line, tone: tinted}, {name: c, section: steps/line}", "plain tinted plain"},
		{"a ground is a tone of its own",
			"{name: a, section: hero/alone}, {name: b, section: steps/line, ground: {color: '#eeeeee'}}, {name: c, section: steps/line}", "plain plain tinted"},
		{"menus and footers do not count",
			"{name: m, section: nav/bar}, {name: a, section: hero/alone}, {name: b, section: steps/line}, {name: f, section: footer/line}", "plain plain tinted plain"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			p := home(t, compose.Options{}, map[string]string{"ziegel.yaml": main,
				"pages/home.yaml": "title: T\nblocks: [" + tt.blocks + "]\n"})
			assert.Equal(t, tt.tones, tones(p.HTML))
		})
	}
	p := home(t, compose.Options{}, map[string]string{"ziegel.yaml": main,
		"pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/beside}, {name: n, section: steps/line}, {name: b, section: action/card}]\n"})
	assert.NotContains(t, p.HTML, "hero-beside--media-left")
	assert.Contains(t, p.HTML, "action-card--media-left", "blocks between that have no picture do not count")
}

func TestMenusFollowTheirPage(t *testing.T) {
	files := map[string]string{
		"ziegel.yaml":        "name: L\nevery-page: {top: [{name: menu, section: nav/bar, content: {links: '@blocks'}}], bottom: [{name: foot, section: footer/line, content: {links: '@pages'}}]}\n",
		"pages/home.yaml":    "title: T\nblocks: [{name: opening, section: hero/alone}, {name: how-we-build, section: steps/line}, {name: plans, section: pricing/plans}]\n",
		"pages/courses.yaml": "title: Weekend courses\nblocks: [{name: one, section: hero/alone}]\n",
	}
	p := home(t, compose.Options{}, files)
	nav := p.HTML[strings.Index(p.HTML, "<nav"):strings.Index(p.HTML, "</nav>")]
	assert.Equal(t, []string{"#how-we-build", "#plans"}, hrefs(nav), "the opening is where one is already")
	assert.Contains(t, nav, "How we build")
	foot := p.HTML[strings.Index(p.HTML, "<footer"):]
	assert.Contains(t, hrefs(foot), "courses/")
}

// A link to a block, on every page, leads to the page that has it; so does that of the page for lost visitors, which
// no file of the site speaks of.
func TestLinksOnEveryPageLeadToTheBlock(t *testing.T) {
	env := testsite.Open(t, testsite.Write(t, map[string]string{
		"ziegel.yaml":        "name: L\nevery-page:\n  top: [{name: menu, section: nav/bar, content: {brand: {label: L, to: home}, links: [{label: Prices, to: '#plans'}]}}]\n",
		"pages/home.yaml":    "title: T\nblocks: [{name: opening, section: hero/beside}]\n",
		"pages/courses.yaml": "title: T\nblocks: [{name: plans, section: pricing/plans}, {name: own, section: hero/beside, content: {actions: [{label: A, to: '#opening'}]}}]\n",
	}))
	want := map[string]string{"home": "courses/#plans", "courses": "#plans", "404": "/courses/#plans"}
	for _, p := range env.Pages() {
		page, problems := compose.Compose(env, p, compose.Options{})
		assert.Contains(t, hrefs(page.HTML), want[p.Name], p.Name)
		if p.Name == "courses" { // a block of one page says which other page it means
			require.Len(t, problems, 1)
			assert.Contains(t, problems[0].Text, `the page "courses" has no block "opening"`)
			continue
		}
		assert.Empty(t, problems, p.Name)
	}
}

// Turns that nothing can follow are told where they stand.
func TestTurnsThatNothingFollowsAreTold(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for turns, want := range map[string]string{
		"{tone: [plain, dep]}":     "dep",
		"{colums: [\"1\", \"2\"]}": "colums",
		"{media: [left, middle]}":  "middle",
	} {
		_, problems, err := project.Open(testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nturns: " + turns +
			"\n", "pages/home.yaml": "title: T\n"}), stock.Files)
		require.NoError(t, err)
		require.NotEmpty(t, problems, turns)
		assert.Contains(t, problems[0].Text, want)
	}
}

// Some blocks of a page bring those that hold them and those that they hold.
func TestBlocksThatAreWanted(t *testing.T) {
	e := testsite.With(t,
		"title: T\nblocks:\n  - name: frame\n    section: layout/columns\n    holds: {left: [{name: words, section: piece/text}, {name: more, section: piece/list}], right: [{name: look, section: piece/picture}]}\n  - name: plans\n    section: pricing/plans\n")
	all := e.All(e.Site.Page("home"))
	require.Equal(t, "frame words more look plans", names(all))
	assert.Equal(t, "frame words more look plans", names(project.Wanted(all, nil)))
	assert.Equal(t, "plans", names(project.Wanted(all, []string{"plans"})))
	assert.Equal(t, "frame words more look", names(project.Wanted(all, []string{"frame"})))
	assert.Contains(t, names(project.Wanted(all, []string{"words"})), "words")
	assert.NotContains(t, names(project.Wanted(all, []string{"words"})), "plans")
	assert.Equal(t, "frame plans", names(project.Outer(all)))
}

func TestShippedThemesStylesAndSections(t *testing.T) {
	shelf, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.Empty(t, problems)
	assert.Empty(t, shelf.Site.PageNames())
	assert.Greater(t, len(shelf.Library.Names()), 40)
	themes := project.Themes(stock.Files)
	assert.Contains(t, themes, project.DefaultTheme)
	assert.IsIncreasing(t, themes)
	require.NotEmpty(t, shelf.StyleNames())
	style, file := shelf.SharedStyle(shelf.StyleNames()[0])
	require.NotNil(t, style)
	assert.NotNil(t, file)
	style, _ = shelf.SharedStyle("none")
	assert.Nil(t, style)
	assert.True(t, shelf.SharedClasses()["lanes"], "sections use them as they are")
	empty := shelf.WithLibrary(&library.Library{})
	assert.Empty(t, empty.Library.Names())
	assert.NotEmpty(t, shelf.Library.Names())
}

// A theme that does not exist is told with the nearest that does.
func TestThemesOfASite(t *testing.T) {
	e := testsite.With(t, twoBlocks)
	assert.Equal(t, project.DefaultTheme, e.Theme.Name)
	_, problems, err := project.Open(testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\ntheme: marra\n"}),
		stock.Files)
	require.NoError(t, err)
	require.NotEmpty(t, problems)
	assert.Equal(t, "marram", problems[0].Try)
	next, problems, err := e.With([]site.FileChange{{Path: "ziegel.yaml", Before: "name: L\n",
		After: "name: L\ntheme: outline\n"}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	assert.NotEqual(t, e.Theme.Name, next.Theme.Name)
	assert.Nil(t, next.Draft, "drafts look like all")
	assert.NotNil(t, e.Draft)
}
