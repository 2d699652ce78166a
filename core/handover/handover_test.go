package handover_test

import (
	"bytes"
	"image/png"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/check"
	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/handover"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/core/theme"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

const page = `title: Home
blocks:
  - {name: opening, section: hero/alone, content: {heading: Made for wind, actions: [{label: Go, to: other}]}}
  - {name: plans, section: pricing/plans, options: {rows: own}, content: {heading: Plans, items: [{title: One, price: €1}, {title: Two, price: €2}]}}
`

func made(t *testing.T, e *project.Project, last *handover.Last) *handover.Book {
	t.Helper()
	var subjects []handover.Subject
	for _, n := range e.Site.PageNames() {
		s := &check.Subject{Name: n, Env: e}
		require.NoError(t, s.Prepare())
		subjects = append(subjects, handover.Subject{Page: s.Prepared, Stacks: s.Prepared.Map(240, 1400, nil)})
	}
	b, err := handover.Make(e, subjects, last)
	require.NoError(t, err)
	return b
}

func open(t *testing.T, home string, tokens string) *project.Project {
	t.Helper()
	files := map[string]string{
		"ziegel.yaml":      "name: Mine\ntheme: marram\nevery-page:\n  bottom:\n    - {name: foot, section: footer/line}\n",
		"pages/home.yaml":  home,
		"pages/other.yaml": "title: Other\nblocks: []\n",
	}
	if tokens != "" {
		files["theme.tokens.json"] = tokens
	}
	return testsite.Open(t, testsite.Write(t, files))
}

// Everything that the book names is in its files, pictures have the sizes that are told, and the code of a block, laid
// out on its own, is as high as the block in the picture.
func TestWhatIsHandedOverIsTrue(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := open(t, page, "")
	b := made(t, e, nil)
	assert.Empty(t, b.Since)
	assert.Empty(t, b.Changes)
	require.Len(t, b.Pages, 2)
	home := b.Pages[0]
	var names []string
	for _, x := range home.Blocks {
		names = append(names, x.Name)
	}
	assert.Equal(t, []string{"opening", "plans", "foot"}, names)
	assert.Empty(t, b.Pages[1].Blocks, "what stands on every page is told once")
	assert.Equal(t, "index.html", home.Path)

	picture := func(s handover.Shown) {
		t.Helper()
		data, ok := b.Files[s.File]
		require.True(t, ok, s.File)
		c, err := png.DecodeConfig(bytes.NewReader(data))
		require.NoError(t, err)
		assert.InDelta(t, s.W, c.Width, 1, s.File)
		assert.InDelta(t, s.H, c.Height, 1, s.File)
		assert.NotEmpty(t, s.Alt)
	}
	for _, s := range append(home.Whole, home.States, home.Order) {
		picture(s)
	}
	assert.Equal(t, []int{390, 820, 1280}, []int{home.Whole[0].Width, home.Whole[1].Width, home.Whole[2].Width})
	for _, x := range home.Blocks {
		require.Len(t, x.Seen, 3)
		require.Len(t, x.Measured, 2)
		for _, s := range append(x.Seen, x.Measured...) {
			picture(s)
		}
		require.NotEmpty(t, x.Drawings, x.Name)
		for _, d := range x.Drawings {
			assert.True(
				t,
				bytes.HasPrefix(b.Files[d.File], []byte("<svg")) || bytes.HasPrefix(b.Files[d.File], []byte("<?xml")),
				d.File,
			)
			assert.NotContains(t, string(b.Files[d.File]), "<text", "no font is needed")
		}
		dir := testsite.Write(
			t,
			map[string]string{"page.html": "<!doctype html><style>" + string(b.Files[x.Code[1]]) + "</style><body>" +
				string(b.Files[x.Code[0]])},
		)
		alone, err := sweep.FromFile(filepath.Join(dir, "page.html"), stock.Files)
		require.NoError(t, err)
		r := alone.Engine().Layout(1280)
		el := find(alone.Doc, x.Name)
		require.NotNil(t, el)
		assert.InDelta(t, x.Seen[2].H, r.Boxes[r.ByIndex[el.Index]].H.Float(), 1, "%s as it is pasted", x.Name)
		_, err = html.Parse(strings.NewReader(x.HTML))
		assert.NoError(t, err)
		assert.NotContains(t, x.HTML, "data-")
	}
	plans := home.Blocks[1]
	for _, o := range plans.Options {
		assert.Equal(t, o.Name == "rows", o.Own, o.Name)
	}
	assert.Contains(t, plans.CSS, ".pricing-plans")
	assert.NotContains(t, plans.CSS, "@layer reset {")

	s := &check.Subject{Name: "home", Env: e}
	require.NoError(t, s.Prepare())
	stops := 0
	for _, h := range explain.Reading(s.Prepared, s.Prepared.Engine().Layout(1280)) {
		stops = max(stops, h.Tab)
	}
	assert.Equal(t, stops, home.Stops)
	var lines []string
	for _, l := range home.Outline {
		if l.Level > 0 {
			lines = append(lines, l.Role+" "+l.Text)
		}
	}
	assert.Equal(t, []string{"h1 Made for wind", "h2 Plans", "h3 One", "h3 Two"}, lines)
	require.NotEmpty(t, home.Changes)
	for i, w := range home.Changes {
		assert.NotEmpty(t, w.Who)
		assert.True(t, i == 0 || w.Px > home.Changes[i-1].Px, "the narrowest first")
	}
}

func find(doc *css.Document, id string) *css.Element {
	for _, e := range doc.Elements {
		if e.Attr("id") == id {
			return e
		}
	}
	return nil
}

// The theme is told as it is seen: contrast by the colors, type by what its styles compute to.
func TestTheThemeIsToldAsItIsSeen(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := open(t, page, "")
	b := made(t, e, nil)
	assert.Len(t, b.Theme.Tones, len(theme.Tones))
	plain := b.Theme.Tones[0]
	colors := map[string]handover.Color{}
	for _, c := range plain.Colors {
		colors[c.Role] = c
	}
	ground, ink := colors["ground"], colors["ink"]
	assert.Zero(t, ground.Contrast)
	assert.InDelta(t, theme.ContrastOf(ground.Light, ink.Light), ink.Contrast, .001)
	assert.InDelta(t, theme.ContrastOf(ground.Dark, ink.Dark), ink.InDark, .001)
	assert.InDelta(
		t,
		theme.ContrastOf(colors["accent"].Light, colors["accent-ink"].Light),
		colors["accent-ink"].Contrast,
		.001,
	)
	a := colors["accent"]
	assert.InDelta(t, theme.ContrastOf(a.Dark, colors["accent-ink"].Dark), colors["accent-ink"].InDark, .001)
	kinds := map[string]handover.TypeStyle{}
	for _, s := range b.Theme.Type {
		kinds[s.Token] = s
	}
	display, body := kinds["type.display"], kinds["type.body"]
	assert.Equal(t, []float64{17, 17, 17}, body.Px)
	assert.Equal(t, "400", body.Weight)
	assert.Equal(t, "700", display.Weight, "the weight of its style, not of a token of its name")
	assert.Equal(t, "Bricolage Grotesque", display.Face)
	require.Len(t, display.Px, 3)
	assert.Less(t, display.Px[0], display.Px[2])
	assert.Contains(t, string(b.Files["tokens/theme.css"]), "--color-plain-accent")
	assert.Contains(t, b.Files, "tokens/theme.tokens.json")
	require.NotEmpty(t, b.Fonts)
	assert.Contains(t, b.Fonts[0].Licence, "Open Font License")
}

// What changed is told once, with how it looked; what did not change is not told.
func TestWhatChangedIsTold(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	was := made(t, open(t, page, ""), nil)
	was.Record.Day = "1 March 2026"
	last := &handover.Last{
		Record:  was.Record,
		Picture: func(file string) ([]byte, bool) { d, ok := was.Files[file]; return d, ok },
	}
	same := made(t, open(t, page, ""), last)
	assert.Equal(t, "1 March 2026", same.Since)
	assert.Empty(t, same.Changes)
	now := made(t, open(t, strings.Replace(page, "heading: Plans", "heading: Prices", 1)+
		"  - {name: more, section: hero/alone, content: {heading: More}}\n", ""), last)
	require.Len(t, now.Changes, 2)
	assert.Equal(
		t,
		handover.Change{What: "home/more", How: "new", After: "pictures/home-more-1280.png"},
		now.Changes[0],
	)
	c := now.Changes[1]
	assert.Equal(t, "home/plans", c.What)
	assert.Regexp(t, `^markup(, styles)?, looks otherwise at 390, 820 and 1280$`, c.How)
	assert.Equal(t, was.Files[c.After], now.Files[c.Before], "before is the picture of the last time")
	assert.NotEqual(t, now.Files[c.After], now.Files[c.Before])
	gone := made(t, open(t, strings.SplitAfter(page, "to: other}]}}\n")[0], ""), last)
	assert.Contains(t, gone.Changes, handover.Change{What: "home/plans", How: "gone"})
}
