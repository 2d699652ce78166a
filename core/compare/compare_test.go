package compare_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compare"
	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/core/theme"
	"ziegel/internal/testsite"
)

// demo gives the demo's home with pieces of its source changed.
func demo(t testing.TB, changes ...string) (*sweep.Prepared, *theme.Theme) {
	t.Helper()
	e := testsite.Demo(t)
	text := e.Site.Page("home").File.Source
	for i := 0; i+1 < len(changes); i += 2 {
		require.Contains(t, text, changes[i])
		text = strings.Replace(text, changes[i], changes[i+1], 1)
	}
	e, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml", After: text}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	s, err := check.Lay(e, e.Site.Page("home"), nil)
	require.NoError(t, err)
	return s.Prepared, e.Theme
}

func shot(t testing.TB, l *sweep.Prepared, width int) *draw.Shot {
	t.Helper()
	s, err := draw.Of(l, width, draw.Target{}, draw.Look{Files: paint.NewFiles()})
	require.NoError(t, err)
	return s
}

func pixels(t testing.TB, s *draw.Shot) *image.RGBA {
	t.Helper()
	img, err := raster.Draw(s.List, raster.Options{Area: &s.Area})
	require.NoError(t, err)
	return img
}

// told writes differences as kind, address and command, a line each.
func told(r *compare.Report) []string {
	out := []string{}
	for _, d := range r.Differences {
		out = append(out, strings.TrimSpace(strings.Join(append([]string{string(d.Kind), d.Address}, d.Command...),
			" ")))
	}
	return out
}

// What was changed in a design is what is told, with the command that makes the change.
func TestADesignIsReadBack(t *testing.T) {
	if testing.Short() {
		t.Skip("looks for every piece of a page in nine pictures")
	}
	l, th := demo(t)
	for _, c := range []struct {
		name    string
		width   int
		changes []string
		want    []string
	}{
		{"nothing", 1280, nil, []string{}},
		{"padding of every card", 1280, []string{"    section: pricing/plans\n",
			"    section: pricing/plans\n    style: {card: {padding: 48px}}\n"},
			[]string{"distance home/plans.title style home/plans.card padding=48px --at desktop"}},
		{"a color", 1280, []string{"    section: features/cards\n",
			"    section: features/cards\n    style: {title: {color: '#b3261e'}}\n"},
			[]string{"color home/reasons.title style home/reasons.title color=#b3261e"}},
		{"a size of type", 390, []string{"    section: hero/beside\n",
			"    section: hero/beside\n    style: {lead: {font-size: 20px}}\n"},
			[]string{"type-size home/opening.lead style home/opening.lead font-size=20px --at phone"}},
		{"a distance between blocks", 1280, []string{"    section: testimonials/row\n",
			"    section: testimonials/row\n    above: 40px\n"},
			[]string{"distance home/voices.eyebrow set home/voices above=40px"}},
		{"a tone", 1280, []string{"tone: tinted", "tone: deep"},
			[]string{"ground home/plans set home/plans tone=deep"}},
		{"other words", 1280, []string{"title: Spars that give a little", "title: Something rather different"},
			[]string{"words home/reasons.title[2]"}},
		{"a picture on the other side", 768, []string{"    section: hero/beside\n",
			"    section: hero/beside\n    options: {media: left}\n"},
			[]string{"position home/opening.heading"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			other, _ := demo(t, c.changes...)
			r, err := compare.WithPicture(shot(t, l, c.width), pixels(t, shot(t, other, c.width)),
				compare.Options{Against: "design.png",
					Tolerance: compare.DefaultTolerance, Mender: compare.Mender{Page: "home",
						Range: map[bool]string{true: "phone", false: "desktop"}[c.width < 600], Theme: th}})
			require.NoError(t, err)
			lines := told(r)
			if len(c.want) == 0 {
				assert.Empty(t, lines)
				assert.Equal(t, r.Pieces, r.Found)
			}
			for _, w := range c.want {
				assert.Contains(t, lines, w)
			}
			assert.LessOrEqual(t, len(lines), 6, "%s", strings.Join(lines, "\n"))
		})
	}
}

// A block that the design has not is told once, and its pieces are found nowhere else.
func TestABlockThatIsNotThere(t *testing.T) {
	if testing.Short() {
		t.Skip("looks for every piece of a page in a picture")
	}
	l, th := demo(t)
	text := testsite.Demo(t).Site.Page("home").File.Source
	from, to := strings.Index(text, "  - name: reasons"), strings.Index(text, "  # The two courses")
	other, _ := demo(t, text[from:to], "")
	r, err := compare.WithPicture(shot(t, l, 1280), pixels(t, shot(t, other, 1280)),
		compare.Options{Against: "design.png",
			Tolerance: compare.DefaultTolerance, Mender: compare.Mender{Page: "home", Theme: th}})
	require.NoError(t, err)
	assert.Equal(t, []string{"missing home/reasons remove home/reasons"}, told(r))

	// and the other way round the design has something that the page has not
	r, err = compare.WithPicture(shot(t, other, 1280), pixels(t, shot(t, l, 1280)),
		compare.Options{Against: "design.png",
			Tolerance: compare.DefaultTolerance, Mender: compare.Mender{Page: "home", Theme: th}})
	require.NoError(t, err)
	extra := 0
	for _, d := range r.Differences {
		if d.Kind == compare.Extra {
			extra++
			assert.Nil(t, d.Where)
			require.NotNil(t, d.There)
		}
	}
	assert.Greater(t, extra, 2)
}

// States of a page are compared by address, exactly.
func TestAnEarlierState(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	now, th := demo(t, "heading: Sew one, fly it home", "heading: Sew two", "    section: testimonials/row\n",
		"    section: testimonials/row\n    style: {heading: {font-size: 30px, font-weight: 400}}\n")
	then, _ := demo(t)
	r, err := compare.WithPage(shot(t, now, 1280), shot(t, then, 1280), compare.Options{Against: "at HEAD",
		Tolerance: compare.DefaultTolerance, Mender: compare.Mender{Page: "home", Theme: th}, ByAddress: true})
	require.NoError(t, err)
	lines := told(r)
	assert.Contains(t, lines, "words home/plans.heading")
	assert.Contains(t, lines, "weight home/voices.heading style home/voices.heading font-weight=700")
	found := false
	for _, d := range r.Differences {
		if d.Kind == compare.TypeSize {
			found = d.Address == "home/voices.heading" && d.Ours == "30 px" && d.Unit == "px"
		}
	}
	assert.True(t, found, "%v", lines)
	same, err := compare.WithPage(shot(t, then, 1280), shot(t, then, 1280), compare.Options{Against: "itself",
		Tolerance: compare.DefaultTolerance, ByAddress: true})
	require.NoError(t, err)
	assert.Empty(t, same.Differences)
}

func html(t testing.TB, body string) *draw.Shot {
	t.Helper()
	l, _ := testsite.HTML(t, body)
	return shot(t, l, 600)
}

// Two pages are matched by what they say, whatever their elements are.
func TestAnotherPage(t *testing.T) {
	ours := html(t, `<style>body{margin:0;font:16px/20px Arial}h1{margin:0 0 10px;font-size:32px;line-height:40px}
		.c{padding:20px;background:#eee;width:200px}.c p{margin:0}</style>
		<section><h1>A kite</h1><p>made for real wind</p><div class=c><p>Two days</p></div></section>`)
	theirs := html(t, `<style>body{margin:0;font:16px/20px Arial}b{display:block;font-size:40px;line-height:40px;font-weight:700}
		i{display:block;font-style:normal;margin:26px 0 16px}div div{padding:30px 20px;background:#dde;width:200px;box-sizing:content-box}u{text-decoration:none}</style>
		<div><b>A kite</b><i>made for real wind</i><div><u>Two days</u></div><em>new here</em></div>`)
	r, err := compare.WithPage(ours, theirs, compare.Options{Against: "other.html",
		Tolerance: compare.DefaultTolerance})
	require.NoError(t, err)
	kinds := map[compare.Kind]int{}
	for _, d := range r.Differences {
		kinds[d.Kind]++
		assert.Empty(t, d.Command, "no page of a site: nothing to mend")
	}
	assert.Equal(t, 1, kinds[compare.TypeSize], "%+v", r.Differences)
	assert.Equal(t, 1, kinds[compare.Ground])
	assert.Equal(t, 1, kinds[compare.Extra], "new here")
	assert.Zero(t, kinds[compare.Missing])
	assert.Positive(t, kinds[compare.Distance])
	for i := 1; i < len(r.Differences); i++ {
		assert.False(t, r.Differences[i].Kind == compare.TypeSize && r.Differences[i-1].Kind == compare.Distance,
			"sizes come first")
	}
}

func TestDesignsAreReadAtTheirScale(t *testing.T) {
	encoded := func(w, h int, c color.NRGBA) []byte {
		img := image.NewNRGBA(image.Rect(0, 0, w, h))
		for i := range w * h {
			img.SetNRGBA(i%w, i/w, c)
		}
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, img))
		return b.Bytes()
	}
	for _, c := range []struct {
		w, at, width, high int
		err                string
	}{
		{600, 0, 600, 40, ""}, {600, 600, 600, 40, ""}, {1200, 600, 600, 20, ""}, {2880, 0, 1440, 20, ""}, {1800, 600,
			600, 13, ""},
		{1000, 600, 0, 0, "1000 px wide, which is not once, twice"}, {300, 600, 0, 0, "300 px wide"},
	} {
		img, width, err := compare.Design(encoded(c.w, 40, color.NRGBA{R: 255, A: 255}), c.at)
		if c.err != "" {
			assert.ErrorContains(t, err, c.err)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.width, width)
		assert.Equal(t, image.Rect(0, 0, c.width, c.high), img.Rect)
		assert.Equal(t, color.RGBA{R: 255, A: 255}, img.RGBAAt(3, 3))
	}
	img, _, err := compare.Design(encoded(10, 10, color.NRGBA{}), 0)
	require.NoError(t, err)
	assert.Equal(t, color.RGBA{R: 255, G: 255, B: 255, A: 255}, img.RGBAAt(5, 5), "what is clear shows white")
	_, _, err = compare.Design([]byte("no picture"), 0)
	assert.Error(t, err)
}
