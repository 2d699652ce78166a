package font_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/font"
)

func file(t *testing.T, name string) []byte {
	t.Helper()
	data, err := os.ReadFile("../../e2e/testdata/boxes/assets/" + name)
	require.NoError(t, err)
	return data
}

// wide measures a word in the first face that a want finds, CSS px.
func wide(t *testing.T, s *font.Set, w font.Want) float64 {
	t.Helper()
	faces := s.Find(w)
	require.NotEmpty(t, faces)
	text := []rune("Hamburgefonstiv")
	p := faces[0].Shape(text, font.Features{}).Prefix(w.Size, 0, 0, text)
	return float64(p[len(text)]) / 65536
}

func TestAxesFollowTheStyle(t *testing.T) {
	flex := font.Plain("F", 400, false, file(t, "flex-width.woff2"))
	flex.WeightLow, flex.WeightHigh, flex.StretchLow, flex.StretchHigh = 100, 1000, 25, 151
	optical := font.Plain("O", 400, false, file(t, "fraunces-size.woff2"))
	optical.WeightLow, optical.WeightHigh = 100, 900
	s := font.NewSet([]*font.Entry{flex, optical}, map[string][]string{"": {"F"}})
	want := font.Want{Families: []string{"F"}, Weight: 400, Size: 20}
	plain := wide(t, s, want)
	narrow, bold, set := want, want, want
	narrow.Stretch, bold.Weight, set.Axes = 50, 900, map[string]float32{"wdth": 50}
	assert.Less(t, wide(t, s, narrow), plain*.95)
	assert.Greater(t, wide(t, s, bold), plain)
	assert.InDelta(t, wide(t, s, narrow), wide(t, s, set), .01, "font-stretch and the axis say the same")
	assert.InDelta(t, plain*2, wide(t, s, font.Want{Families: []string{"F"}, Weight: 400, Size: 40}), .2,
		"without an optical size, widths grow in proportion")

	small, large := font.Want{Families: []string{"O"}, Weight: 400, Size: 9},
		font.Want{Families: []string{"O"}, Weight: 400, Size: 90}
	assert.Less(t, wide(t, s, large), wide(t, s, small)*9.5, "with one, large letters are narrower")
	still := large
	still.NoSize = true
	assert.NotEqual(t, wide(t, s, large), wide(t, s, still))
}

func TestRulesAreChosenByWidthSlantAndWeight(t *testing.T) {
	data := file(t, "marlow.ttf")
	entry := func(weight, stretch float64, italic bool) *font.Entry {
		e := font.Plain("K", weight, italic, data)
		e.StretchLow, e.StretchHigh = stretch, stretch
		e.SizeAdjust = 1 + weight/1e4 + stretch/1e5 // tells them apart
		if italic {
			e.SizeAdjust += .5
		}
		return e
	}
	list := []*font.Entry{entry(400, 100, false), entry(700, 100, false), entry(400, 75, false),
		entry(400, 100, true)}
	s := font.NewSet(list, map[string][]string{"": {"K"}})
	for _, c := range []struct {
		want font.Want
		i    int
	}{{font.Want{Weight: 400}, 0}, {font.Want{Weight: 600}, 1}, {font.Want{Weight: 300}, 0},
		{font.Want{Weight: 400, Stretch: 60}, 2}, {font.Want{Weight: 700, Stretch: 80},
			2}, {font.Want{Weight: 700, Italic: true}, 3}, {font.Want{Weight: 400, Stretch: 120}, 0}} {
		c.want.Families, c.want.Size = []string{"K"}, 100
		assert.InDelta(t, list[c.i].SizeAdjust*100, s.Find(c.want)[0].Effective(100), .02, "%+v", c.want)
	}
}

func TestRangesShareAFamily(t *testing.T) {
	caps, small := font.Plain("P", 400, false, file(t, "marlow.ttf")),
		font.Plain("P", 400, false, file(t, "marlow.otf"))
	caps.Ranges, small.Ranges = [][2]rune{{'A', 'Z'}}, [][2]rune{{'a', 'z'}}
	faces := font.NewSet([]*font.Entry{caps, small}, nil).Find(font.Want{Families: []string{"P"},
		Weight: 400, Size: 16})
	require.Len(t, faces, 2)
	assert.True(t, faces[0].Has('a') && !faces[0].Has('A'), "the last rule comes first")
	assert.True(t, faces[1].Has('A') && !faces[1].Has('1'))
}

func TestDescriptorsOverrideMetrics(t *testing.T) {
	e := font.Plain("S", 400, false, file(t, "marlow.ttf"))
	e.Ascent, e.Descent, e.Gap, e.SizeAdjust = 1, .3, .1, .9
	f := font.NewSet([]*font.Entry{e}, nil).Find(font.Want{Families: []string{"S"}, Weight: 400, Size: 100})[0]
	a, d, g := f.Metrics(100)
	assert.Equal(t, [3]int{90, 27, 9}, [3]int{a, d, g})
}

func TestBrokenFilesAreNoFaces(t *testing.T) {
	good := file(t, "marlow.ttf")
	for name, data := range map[string][]byte{"empty": nil,
		"junk": []byte("no font at all, and long enough to look at"), "cut": good[:200], "half": good[:len(good)/2]} {
		s := font.NewSet([]*font.Entry{font.Plain("X", 400, false, data), font.Plain("G", 400, false, good)},
			map[string][]string{"": {"G"}})
		faces := s.Find(font.Want{Families: []string{"X"}, Weight: 400, Size: 16})
		require.NotEmpty(t, faces, name)
		assert.Equal(t, "G", faces[len(faces)-1].Family, "%s: the fallback is there", name)
	}
}

// Faces of different proportions are made alike in one measure; what their rules say of the size counts no more.
func TestFacesAreAdjustedToAMeasure(t *testing.T) {
	sized := font.Plain("S", 400, false, file(t, "marlow.ttf"))
	sized.SizeAdjust = .5
	s := font.NewSet([]*font.Entry{font.Plain("M", 400, false, file(t, "marlow.ttf")), sized,
		font.Plain("F", 400, false, file(t, "flex-width.woff2"))}, nil)
	want := font.Want{Families: []string{"M", "F", "S"}, Weight: 400, Size: 20}
	plain := s.Find(want)
	require.Len(t, plain, 3)
	assert.Equal(t, 20.0, plain[0].Scaled(20))
	for of, measure := range map[string]func(f *font.Face) float64{
		"ex-height":  func(f *font.Face) float64 { return f.XHeight / f.Upem },
		"cap-height": func(f *font.Face) float64 { return f.CapHeight / f.Upem },
		"ch-width":   func(f *font.Face) float64 { return f.ZeroWidth(1000) / f.Scaled(1000) },
	} {
		want.Adjust = font.Adjust{Of: of, To: .6}
		for _, f := range s.Find(want) {
			assert.InDelta(t, 60, measure(f)*f.Scaled(100), .2, "%s of %s", of, f.Family)
		}
	}
	want.Adjust = font.Adjust{Of: "ic-width", To: 2}
	assert.Equal(t, 40.0, s.Find(want)[0].Scaled(20), "an ideograph that is not there is as wide as the size")
	want.Adjust = font.Adjust{}
	assert.Equal(t, plain, s.Find(want), "nothing is left of it")
}
