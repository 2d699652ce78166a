package compose_test

import (
	"io/fs"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// What a page says of itself is in its language, or in the nearest that there is; otherwise in English, and says so.
func TestPagesSpeakTheirLanguage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for language, want := range map[string]string{
		"en":         `<a class="skip" href="#main">Skip to the content</a>`,
		"de":         `<a class="skip" href="#main">Zum Inhalt springen</a>`,
		"de-CH":      `<a class="skip" href="#main">Zum Inhalt springen</a>`,
		"PT-br":      `<a class="skip" href="#main">Ir para o conteúdo</a>`,
		"fr-Latn-CA": `<a class="skip" href="#main">Aller au contenu</a>`,
		"ja":         `<a class="skip" href="#main" lang="en">Skip to the content</a>`,
		"del":        `<a class="skip" href="#main" lang="en">Skip to the content</a>`,
	} {
		env := testsite.With(t, "title: T\nblocks:\n  - {name: a, section: hero/beside}\n",
			"language: "+language+"\n")
		page, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
		require.NoError(t, problems.Err(), language)
		assert.Contains(t, page.HTML, want, language)
	}
	env := testsite.With(t, "title: T\nblocks: []\n", "language: fi\n")
	page, _ := compose.Compose(env, env.BuiltPage(project.Lost), compose.Options{})
	assert.Contains(t, page.HTML, "Täällä ei ole sivua")
	assert.Contains(t, page.HTML, "Takaisin alkuun</a>")
}

// Every language has every word.
func TestEveryLanguageHasEveryWord(t *testing.T) {
	text, err := fs.ReadFile(stock.Files, "words.yaml")
	require.NoError(t, err)
	f, problems := site.ReadFile("words.yaml", string(text))
	require.NoError(t, problems.Err())
	require.Greater(t, len(f.Root.Entries), 10)
	plain := f.Root.Get("en")
	for _, l := range f.Root.Entries {
		assert.Len(t, l.Value.Entries, len(plain.Entries), l.Key)
		for _, w := range plain.Entries {
			assert.NotEmpty(t, l.Value.Get(w.Key).Str(), "%s: %s", l.Key, w.Key)
		}
	}
}

// A button whose word a page leaves out keeps that of its language: without it nothing would open the menu.
func TestAButtonWithoutItsWordKeepsOne(t *testing.T) {
	html, problems := built(t,
		"title: H\nblocks:\n  - {name: menu, section: nav/bar, without: [menu-label, close-label]}\n", "language: de\n")
	assert.Empty(t, problems)
	assert.Contains(t, html, ">Menü</span>")
	assert.Contains(t, html, ">Schließen</span>")
}

// The direction of a page follows from the script of its language, which a tag may name.
func TestLanguagesFromRightToLeft(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for tag, rtl := range map[string]bool{"en": false, "de-AT": false, "ar": true, "ar-EG": true, "he": true,
		"fa": true,
		"ur": true, "ku": false, "ku-Arab": true, "az-Arab": true, "tr": false} {
		html, _ := built(t, "title: T\nblocks: []\n", "language: "+tag+"\n")
		want := `<html lang="` + tag + `">`
		if rtl {
			want = `<html lang="` + tag + `" dir="rtl">`
		}
		assert.Contains(t, html, want)
	}
}
