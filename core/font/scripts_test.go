package font_test

import (
	"runtime"
	"testing"

	"github.com/go-text/typesetting/language"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/font"
	"ziegel/stock"
)

// Scripts are as the browser shapes them: brackets that close go with those that open.
func TestScriptsOfText(t *testing.T) {
	letter := map[font.Script]rune{language.Latin: 'L', language.Hebrew: 'H', language.Cyrillic: 'C',
		language.Greek: 'G'}
	for text, want := range map[string]string{
		"a 1, é":    "",
		"שלום 12%":  "HHHHHHHH",
		"a (שב) b":  "LLLHHLLL",
		"שב (a) 4":  "HHHHLHHH",
		"(שב) a":    "HHHHHL",
		"1 Δ, Та.":  "GGGGGCCC",
		"א) b [א]":  "HHHLLLHL",
		"«а» (б c)": "CCCCCCCLC",
	} {
		got := ""
		for _, s := range font.Scripts([]rune(text)) {
			got += string(letter[s])
		}
		assert.Equal(t, want, got, text)
	}
}

// A run that runs to the left turns its brackets, and pairs are those that are seen.
func TestRunsToTheLeft(t *testing.T) {
	data, err := stock.Files.ReadFile("fonts/instrument-sans-400.woff2")
	require.NoError(t, err)
	face, err := font.Parse("I", data)
	require.NoError(t, err)
	text := []rune("To,")
	ahead := face.ShapeRun(text, font.Features{}, font.Run{})
	back := face.ShapeRun(text, font.Features{}, font.Run{RTL: true})
	assert.Equal(t, face.Shape(text, font.Features{}).Kern, ahead.Kern)
	assert.NotEqual(t, ahead.Kern, back.Kern)
	assert.Equal(t, ahead.Adv, back.Adv)
	open := face.GlyphsOfRun([]rune("("), font.Features{}, font.Run{RTL: true})
	closing := face.GlyphsOfRun([]rune(")"), font.Features{}, font.Run{})
	assert.Equal(t, closing[0].ID, open[0].ID)
}

// Sets that come from one another read a file once, and tell one that is none.
func TestFilesAreReadOnce(t *testing.T) {
	data, err := stock.Files.ReadFile("fonts/instrument-sans-400.woff2")
	require.NoError(t, err)
	set := font.NewSet(nil, nil)
	first, second := font.Plain("I", 400, false, data), font.Plain("I", 400, false, append([]byte{}, data...))
	assert.True(t, set.Readable(first))
	more := set.With([]*font.Entry{second}).Clone()
	mallocs := func(do func()) uint64 {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		do()
		runtime.ReadMemStats(&after)
		return after.Mallocs - before.Mallocs
	}
	again := mallocs(func() { more.Readable(second) })
	alone := mallocs(func() { font.NewSet(nil, nil).Readable(font.Plain("I", 400, false, data)) })
	assert.Less(t, again*3, alone, "it was read again")
	assert.False(t, set.Readable(font.Plain("I", 400, false, data[:len(data)/2])))
	assert.Nil(t, set.With([]*font.Entry{font.Plain("J", 400, false, []byte("wOF2"))}).Find(font.Want{
		Families: []string{"J"}}))
}
