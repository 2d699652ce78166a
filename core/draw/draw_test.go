package draw_test

import (
	"bytes"
	"image/png"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

func home(t testing.TB, changes ...[2]string) *sweep.Prepared {
	t.Helper()
	e := testsite.Demo(t)
	text := e.Site.Page("home").File.Source
	for _, c := range changes {
		require.Contains(t, text, c[0])
		text = strings.Replace(text, c[0], c[1], 1)
	}
	e, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml", After: text}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	s, err := check.Lay(e, e.Site.Page("home"), nil)
	require.NoError(t, err)
	return s.Prepared
}

func TestShots(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	l := home(t)
	page, err := draw.Of(l, 390, draw.Target{}, draw.Look{})
	require.NoError(t, err)
	assert.Equal(t, 390.0, page.Area.W())
	assert.Greater(t, page.Area.H(), 3000.0)
	assert.Empty(t, page.List.Missed)
	block, err := draw.Of(l, 390, draw.Target{Block: "plans"}, draw.Look{})
	require.NoError(t, err)
	assert.Greater(t, block.Area.Y0, 1000.0)
	second, err := draw.Of(l, 1280, draw.Target{Block: "plans", Part: "card", Item: 2}, draw.Look{})
	require.NoError(t, err)
	third, err := draw.Of(l, 1280, draw.Target{Block: "plans", Part: "card", Item: 3}, draw.Look{})
	require.NoError(t, err)
	assert.Greater(t, third.Area.X0, second.Area.X1, "beside it")
	for target, want := range map[draw.Target]string{{Block: "nope"}: "no block nope",
		{Block: "plans", Part: "crd"}:           "did you mean card",
		{Block: "plans", Part: "card", Item: 9}: "3 parts of card, and not number 9"} {
		_, err := draw.Of(l, 1280, target, draw.Look{})
		assert.ErrorContains(t, err, want)
	}
}

// Twice the pixels show the same page, and a state shows what a rule says of it.
func TestLooks(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	l := home(t)
	card := draw.Target{Block: "plans", Part: "link", Item: 1}
	rest, err := draw.Of(l, 1280, card, draw.Look{})
	require.NoError(t, err)
	sharp, err := draw.Of(l, 1280, card, draw.Look{Scale: 2})
	require.NoError(t, err)
	assert.InDelta(t, rest.Area.W(), sharp.Area.W(), 1.01)
	assert.InDelta(t, rest.Area.Y0, sharp.Area.Y0, 2)
	img, err := raster.Draw(sharp.List, raster.Options{Scale: 2, Area: &sharp.Area})
	require.NoError(t, err)
	assert.Equal(t, int(2*sharp.Area.W()), img.Rect.Dx())
	middle := func(how draw.Look) uint8 {
		s, err := draw.Of(l, 1280, card, how)
		require.NoError(t, err)
		img, err := raster.Draw(s.List, raster.Options{Area: &s.Area})
		require.NoError(t, err)
		return img.RGBAAt(20, 12).R
	}
	assert.Greater(t, middle(draw.Look{}), middle(draw.Look{State: []string{"hover"}})+80, "darker under the pointer")
	assert.Greater(t, middle(draw.Look{}), middle(draw.Look{Dark: true})+80)
}

func TestSheets(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	l := home(t)
	count := func(s *draw.Sheet, err error) int {
		require.NoError(t, err)
		list, err := s.List(stock.Files, nil, 1)
		require.NoError(t, err)
		assert.Positive(t, list.W*list.H)
		img, err := raster.Draw(list, raster.Options{})
		require.NoError(t, err)
		seen := map[[3]uint8]bool{}
		for i := 0; i < len(img.Pix); i += 4 {
			seen[[3]uint8{img.Pix[i], img.Pix[i+1], img.Pix[i+2]}] = true
		}
		return len(seen)
	}
	stacks := l.Map(390, 391, nil)
	assert.Greater(t, count(draw.Blocks(l, stacks, []int{390, 1280}, draw.Look{})), 1000, "all colors of the pictures")
	assert.Greater(t, count(draw.Crops(l, []int{390, 1280}, draw.Look{})), 500)
	assert.Greater(t, count(draw.Icons(l, 1280, draw.Look{})), 50)
	assert.Greater(t, count(draw.States(l, 1280, draw.Look{})), 100)
	assert.Greater(t, count(draw.Seams(l, []int{390}, draw.Look{})), 100)
	e := testsite.Demo(t)
	assert.Greater(t, count(draw.Sections(e, "hero", []int{390}, draw.Look{})), 500)
	_, err := draw.Sections(e, "heroes", []int{390}, draw.Look{})
	assert.ErrorContains(t, err, `no section or kind "heroes"`)
}

// A block that has only moved is the same; one that looks different is framed, both where it was and where it is.
func TestWhatHasChangedIsFramed(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	shot := func(l *sweep.Prepared) *draw.Shot {
		s, err := draw.Of(l, 1280, draw.Target{}, draw.Look{})
		require.NoError(t, err)
		return s
	}
	before := shot(home(t))
	same, err := draw.Compare("home", before, shot(home(t)))
	require.NoError(t, err)
	assert.Empty(t, same.Changed)
	assert.Nil(t, draw.BeforeAfter("x", []*draw.Pair{same}), "pages that are the same are left out")
	pair, err := draw.Compare("home", before, shot(home(t, [2]string{"    section: pricing/plans\n",
		"    section: pricing/plans\n    style: {words: {padding-block-end: 33.3px}}\n"})))
	require.NoError(t, err)
	require.NotEmpty(t, pair.Changed)
	plans := before.Page.Block("plans").Element
	box := before.Result.Of(plans)
	for _, r := range pair.Was {
		assert.True(t, r.Y0 >= box.Y.Float()-1 && r.Y1 <= box.Bottom().Float()+1,
			"%v lies outside of the block that has changed", r)
	}
	tint, err := draw.Compare("home", before, shot(home(t, [2]string{"    section: pricing/plans\n",
		"    section: pricing/plans\n    style: {card: {background: '#e6efec'}}\n"})))
	require.NoError(t, err)
	assert.NotEmpty(t, tint.Changed, "a color that is a little lighter")
	gone, err := draw.Compare("home", before, nil)
	require.NoError(t, err)
	assert.NotNil(t, draw.BeforeAfter("x", []*draw.Pair{gone}))
}

func TestSharePicture(t *testing.T) {
	data, err := draw.SharePicture(home(t), "opening")
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, compose.ShareWidth, img.Bounds().Dx())
	assert.Equal(t, compose.ShareHeight, img.Bounds().Dy())
	red, _, _, _ := img.At(70, 440).RGBA()
	assert.Greater(t, red>>8, uint32(150), "the action of the opening")
	icon, err := draw.File(stock.Files, "a.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 2 1"><path fill="#f00" d="M0 0h1v1H0z"/><path fill="#00f" d="M1 0h1v1H1z"/></svg>`), draw.Cover{W: 48, H: 48})
	require.NoError(t, err)
	img, err = png.Decode(bytes.NewReader(icon))
	require.NoError(t, err)
	assert.Equal(t, 48, img.Bounds().Dy())
	_, _, blue, _ := img.At(40, 24).RGBA()
	assert.Greater(t, blue>>8, uint32(250))
	clear, err := draw.File(stock.Files, "a.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><circle cx="2" cy="2" r="2"/></svg>`), draw.Cover{W: 16, H: 16})
	require.NoError(t, err)
	img, err = png.Decode(bytes.NewReader(clear))
	require.NoError(t, err)
	_, _, _, alpha := img.At(0, 0).RGBA()
	assert.Zero(t, alpha, "its corners are clear")
}

// A sheet covers all of its pixels, however high what is on it is.
func TestSheetsLetNothingThrough(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	l, files := home(t), paint.NewFiles()
	var shots []*draw.Shot
	for _, w := range []int{390, 768} {
		shot, err := draw.Of(l, w, draw.Target{Block: "plans"}, draw.Look{Files: files})
		require.NoError(t, err)
		shots = append(shots, shot)
	}
	list, err := draw.Widths("plans", shots, nil).List(stock.Files, files, 1)
	require.NoError(t, err)
	assert.Equal(t, math.Trunc(list.H), list.H)
	img, err := raster.Draw(list, raster.Options{})
	require.NoError(t, err)
	assert.True(t, img.Opaque())
}

// A block is drawn as it stands on its page, whatever is left out of the rest; a transform may bring something there.
func TestABlockLooksAsOnItsPage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	l, files := home(t), paint.NewFiles()
	for _, scale := range []float64{1, 2} {
		page, err := draw.Of(l, 768, draw.Target{}, draw.Look{Scale: scale, Files: files})
		require.NoError(t, err)
		for _, name := range []string{"menu", "reasons", "plans", "foot"} {
			block, err := draw.Of(l, 768, draw.Target{Block: name}, draw.Look{Scale: scale, Files: files})
			require.NoError(t, err)
			want, err := raster.Draw(page.List, raster.Options{Scale: scale, Area: &block.Area})
			require.NoError(t, err)
			got, err := raster.Draw(block.List, raster.Options{Scale: scale, Area: &block.Area})
			require.NoError(t, err)
			assert.True(t, bytes.Equal(want.Pix, got.Pix), "%s at scale %g", name, scale)
		}
	}
}
