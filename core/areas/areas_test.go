package areas_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/areas"
	"ziegel/core/check"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

const tall = `name: features/tall
areas:
  desktop: |
    tall  tall  wide
    tall  tall  small
  tablet: |
    tall  wide
    small small
parts:
  tall: [picture]
  wide: [eyebrow, heading, lead, actions]
  small:
    - {place: top left, tone: tinted, parts: [figure]}
    - {place: bottom right, parts: [text]}
`

func parse(t testing.TB, text string) (*site.File, *areas.Drawing, []string) {
	t.Helper()
	f, problems := site.ReadFile("x.yaml", text)
	require.NoError(t, problems.Err())
	d, problems := areas.Parse(f, site.DefaultRanges)
	var rules []string
	for _, p := range problems {
		rules = append(rules, p.Rule)
		require.Positive(t, p.Line, p.Text)
	}
	return f, d, rules
}

// composed lays the section of a drawing out, alone on a page of a site that has it.
func composed(t testing.TB, text string) (*site.File, *areas.Drawing, *check.Subject) {
	t.Helper()
	f, d, rules := parse(t, text)
	require.Empty(t, rules)
	files := d.Section()
	env := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n",
		"pages/home.yaml": "title: T\nblocks:\n  - {name: x, section: " + d.Name + "}\n", "sections/" + d.Name +
			"/section.html": files.HTML,
		"sections/" + d.Name + "/section.css": files.CSS, "sections/" + d.Name + "/section.yaml": files.YAML}))
	sec := env.Library.Section(d.Name)
	require.NotNil(t, sec)
	for _, p := range append(library.Review(sec, env.SharedClasses()), library.Unsafe(sec, nil)...) {
		t.Errorf("%s: %s [%s]", p.Position, p.Text, p.Rule)
	}
	s, err := check.Lay(env, env.Site.Page("home"), nil)
	require.NoError(t, err)
	return f, d, s
}

// boxOf gives the box of a part.
func boxOf(s *check.Subject, r *layout.Result, part string) layout.Rect {
	var found *css.Element
	for _, e := range s.Prepared.Doc.Elements {
		if e.Attr("data-part") == part {
			found = e
			break
		}
	}
	return r.Of(found).Rect
}

func TestCellsStandWhereTheyAreDrawn(t *testing.T) {
	_, _, s := composed(t, tall)
	engine := s.Prepared.Engine()
	r := engine.Layout(1280)
	picture, wide, small := boxOf(s, r, "tall"), boxOf(s, r, "wide"), boxOf(s, r, "small")
	assert.Less(t, picture.Right(), wide.X)
	assert.Equal(t, wide.X, small.X)
	assert.LessOrEqual(t, wide.Bottom(), small.Y)
	assert.Equal(t, picture.Y, wide.Y)
	assert.Equal(t, picture.Bottom(), small.Bottom())
	assert.Greater(t, picture.W, 2*wide.W, "two of three columns and the gap between them")
	r = engine.Layout(820)
	picture, wide, small = boxOf(s, r, "tall"), boxOf(s, r, "wide"), boxOf(s, r, "small")
	assert.InDelta(t, picture.W.Float(), wide.W.Float(), .05)
	assert.LessOrEqual(t, picture.Bottom(), small.Y)
	assert.Equal(t, picture.X, small.X)
	assert.Equal(t, wide.Right(), small.Right())
	r = engine.Layout(390)
	picture, wide, small = boxOf(s, r, "tall"), boxOf(s, r, "wide"), boxOf(s, r, "small")
	assert.LessOrEqual(t, picture.Bottom(), wide.Y)
	assert.LessOrEqual(t, wide.Bottom(), small.Y)
	assert.Equal(t, picture.W, small.W)
	// the figure stands at the top left of its cell, the text at the bottom right, with a buffer between
	r = engine.Layout(1280)
	small = boxOf(s, r, "small")
	figure, text := boxOf(s, r, "figure"), boxOf(s, r, "text")
	assert.Less(t, figure.X-small.X, layout.Px(40*64))
	assert.Less(t, small.Bottom()-text.Bottom(), layout.Px(40*64))
	assert.GreaterOrEqual(t, text.Y-figure.Bottom(), layout.Px(24*64))
}

// TestEveryPartMakesAFineSection gives every word for parts a cell of its own.
func TestEveryPartMakesAFineSection(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	_, _, s := composed(t, `name: features/all
areas: |
  a b
  c d
parts:
  a: [eyebrow, heading, lead, title, text, note]
  b: [figure, price, quote, name, role, {items: [icon, title, text, link]}]
  c: [picture, text, {items: [picture, title, price]}]
  d: {place: bottom left, tone: deep, parts: [icon, link, actions, points]}
`)
	report := check.Run(s.Prepared, nil, s.Problems, 240, 1600)
	for _, f := range report.Findings {
		assert.NotEqual(t, "error", string(f.Severity), "%s: %s", f.Part, f.Text)
	}
	sec := s.Env.Library.Section("features/all")
	assert.Contains(t, sec.FieldNames(), "c-text", "a second text is named by its cell")
	assert.Contains(t, sec.FieldNames(), "c-items")
	for _, name := range []string{"eyebrow", "heading", "lead", "actions"} {
		assert.NotNil(t, sec.Field(name), name)
	}
}

func TestCellsTakeBlocks(t *testing.T) {
	_, _, s := composed(
		t,
		"name: layout/areas\nareas: |\n  left right right\n  left foot  foot\nparts:\n  left: blocks\n  right: blocks\n  foot: [blocks]\n",
	)
	sec := s.Env.Library.Section("layout/areas")
	assert.Equal(t, []string{"left", "right", "foot"}, sec.SlotNames())
	assert.Len(t, s.Prepared.Every(), 4, "each cell holds a sample")
}

func TestMistakesInDrawings(t *testing.T) {
	const end = "parts: {a: [text], b: [text]}\n"
	for text, want := range map[string][]string{
		"name: features/x\nareas: |\n  a b\n" + end:        nil,
		"name: x\nareas: |\n  a b\n" + end:                 {"bad-name"},
		"areas: |\n  a b\n" + end:                          {"missing-key"},
		"name: features/x\n" + end:                         {"missing-key"},
		"name: features/x\nareas: |\n  a b\n  b a\n" + end: {"no-rectangle"},
		"name: features/x\nareas: |\n  a b a\n" + end:      {"no-rectangle"},
		"name: features/x\nareas: |\n  a b\n  a\n" + end:   {"uneven-rows"},
		"name: features/x\nareas: |\n  a B\n" + end: {"bad-name",
			"unknown-cell", "empty-cell"},
		"name: features/x\nareas: {desk: a}\n" + end:                                              {"unknown-range"},
		"name: features/x\nareas: {desktop: a b, phone: a}\n" + end:                               {"missing-cell"},
		"name: features/x\nareas: |\n  a b c\n" + end:                                             {"empty-cell"},
		"name: features/x\nareas: |\n  a\n" + end:                                                 {"unknown-cell"},
		"name: features/x\nareas: |\n  a b\n":                                                     {"missing-key"},
		"name: features/x\nareas: |\n  a b\nparts: {a: [txt], b: [text]}\n":                       {"unknown-part"},
		"name: features/x\nareas: |\n  a b\nparts: {a: {place: up, parts: [text]}, b: [text]}\n":  {"bad-value"},
		"name: features/x\nareas: |\n  a b\nparts: {a: {tone: dark, parts: [text]}, b: [text]}\n": {"unknown-tone"},
		"name: features/x\nareas: |\n  a b\nparts: {a: {plase: top, parts: [text]}, b: [text]}\n": {"unknown-key"},
		"name: features/x\nareas: |\n  a b\nparts: {a: [{items: [quote]}], b: [text]}\n": {"unknown-part",
			"empty-list"},
		"name: features/x\nareas: |\n  a b\nextra: 1\n" + end:                    {"unknown-key"},
		"name: features/x\nareas: |\n  " + strings.Repeat("a ", 13) + "\n" + end: {"too-many-columns"},
		"- a\n": {"wrong-type"},
	} {
		f, problems := site.ReadFile("x.yaml", text)
		require.NoError(t, problems.Err(), text)
		_, found := areas.Parse(f, site.DefaultRanges)
		var rules []string
		for _, p := range found {
			rules = append(rules, p.Rule)
		}
		if strings.HasPrefix(strings.Join(rules, " "), "too-many-columns") {
			rules = rules[:1]
		}
		assert.ElementsMatch(t, want, rules, text)
	}
}

func TestANarrowCellIsToldWithFigures(t *testing.T) {
	f, d, s := composed(
		t,
		"name: features/narrow\nareas:\n  tablet: |\n    a b c d e f g h\nparts: {a: [heading], b: [text], c: [text], d: [text], e: [text], f: [text], g: [text], h: [text]}\n",
	)
	problems := d.Narrow(f, s.Prepared)
	require.NotEmpty(t, problems)
	assert.Equal(t, "narrow-cell", problems[0].Rule)
	assert.Regexp(
		t,
		`^the cell a has \d+ px at 600, and a word of its heading does not fit: (from \d+ on it has room|it is too narrow up to \d+)$`,
		problems[0].Text,
	)
	_, wide, s := composed(t, tall)
	assert.Empty(t, wide.Narrow(f, s.Prepared))
}

// FuzzParse holds that a drawing without a mistake makes a section that the library reads, with every cell in it.
func FuzzParse(f *testing.F) {
	f.Add(tall)
	f.Add("name: a/b\nareas: |\n  a .\n  a b\nparts: {a: [text], b: blocks}\n")
	f.Add("0000: 000\nareas: . ")
	f.Add("name: a/b\nareas: {phone: a, desktop: a}\nparts: {a: [{items: [title]}]}\n")
	_, problems, err := project.Shelf(stock.Files)
	require.NoError(f, err)
	require.NoError(f, problems.Err())
	f.Fuzz(func(t *testing.T, text string) {
		file, problems := site.ReadFile("x.yaml", text)
		if problems.Err() != nil {
			return
		}
		d, problems := areas.Parse(file, site.DefaultRanges)
		if problems.Err() != nil {
			return
		}
		files := d.Section()
		lib, problems := library.Open(
			"sections",
			stock.Files,
			testsite.Files(map[string]string{"sections/" + d.Name + "/section.html": files.HTML,
				"sections/" + d.Name + "/section.css": files.CSS, "sections/" + d.Name + "/section.yaml": files.YAML}),
		)
		require.NoError(t, problems.Err(), "%s\n%s", files.YAML, files.HTML)
		require.NotNil(t, lib.Section(d.Name))
		for _, c := range d.Cells {
			require.Contains(t, files.HTML, "cell-"+c.Name)
		}
	})
}
