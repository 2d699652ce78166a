package font_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/font"
)

func face(t testing.TB, file string) *font.Face {
	t.Helper()
	data, err := os.ReadFile("../../stock/fonts/" + file)
	require.NoError(t, err)
	f, err := font.Parse("F", data)
	require.NoError(t, err)
	return f
}

func TestWOFF2GivesAdvancesAndKerning(t *testing.T) {
	f := face(t, "instrument-sans-400.woff2")
	s := f.Shape([]rune("AV"), font.Features{})
	assert.Equal(t, []float64{728, 728}, s.Adv)
	assert.Negative(t, s.Kern[0]+s.Kern[1], "the pair is kerned")
	plain := f.Shape([]rune("AV"), font.Features{NoKerning: true})
	assert.Equal(t, []float64{0, 0}, plain.Kern)
	assert.True(t, f.Has('é'))
	assert.False(t, f.Has('漢'))
}

func TestWidthsUseTheTruncatedSize(t *testing.T) {
	f := face(t, "instrument-sans-400.woff2")
	text := []rune("a")
	adv := f.Shape(text, font.Features{}).Adv[0]
	p := f.Shape(text, font.Features{}).Prefix(13.333, 0, 0, text)
	assert.InDelta(t, adv*853/64/1000*65536, p[1], 8, "13.333 px counts as 853/64")
	for size, want := range map[float64]float64{18.39085: 1176, 18.21875: 1165, 18.72: 1197, 16.125: 1031,
		18.111: 1159, 17: 1088} {
		p := f.Shape(text, font.Features{}).Prefix(size, 0, 0, text)
		assert.InDelta(t, adv*want/64/1000*65536, p[1], 8, "%g px counts as %g/64", size, want)
	}
	spaced := f.Shape(text, font.Features{}).Prefix(16, 0.5, 0, text)
	assert.InDelta(t, (adv*16/1000+.5)*65536, spaced[1], 2)
}

func TestTheNearestWeightIsFound(t *testing.T) {
	var entries []*font.Entry
	for _, w := range []float64{400, 600} {
		data, err := os.ReadFile(map[float64]string{400: "../../stock/fonts/instrument-sans-400.woff2",
			600: "../../stock/fonts/instrument-sans-600.woff2"}[w])
		require.NoError(t, err)
		entries = append(entries, font.Plain("I", w, false, data))
	}
	s := font.NewSet(entries, map[string][]string{"": {"I"}})
	light, bold := s.Find(font.Want{Families: []string{"I"}, Weight: 500, Size: 16}),
		s.Find(font.Want{Families: []string{"i"}, Weight: 700, Size: 16})
	require.NotEmpty(t, light)
	require.NotEmpty(t, bold)
	assert.NotSame(t, light[0], bold[0])
	s.Find(font.Want{Families: []string{"Nowhere"}, Weight: 400, Size: 16})
	assert.Equal(t, map[string]string{"Nowhere": "I"}, s.Replaced())
}

// FuzzParse holds the law: a broken font is an error, never a crash.
func FuzzParse(f *testing.F) {
	data, err := os.ReadFile("../../stock/fonts/instrument-sans-400.woff2")
	require.NoError(f, err)
	f.Add(data[:200])
	f.Add([]byte("wOF2\x00\x01\x00\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		if len(data) > 1<<16 {
			return
		}
		_, _ = font.Parse("F", data)
	})
}
