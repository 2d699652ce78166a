package css_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/css"
)

func TestAPageThatIsDarkForEverybody(t *testing.T) {
	for sheet, want := range map[string]bool{
		":root { color-scheme: dark }":                                    true,
		"html { color-scheme: only dark }":                                true,
		":root { color-scheme: light dark }":                              false,
		":root { color-scheme: light }":                                   false,
		"video { color-scheme: dark }":                                    false,
		"@media (width > 600px) { :root { color-scheme: dark } }":         false,
		":root { color-scheme: dark } :root { color-scheme: light dark }": false,
		"": false,
	} {
		doc, err := css.Load(css.Source{File: "a.html", HTML: "<!doctype html><style>" + sheet +
			"</style><video></video>"})
		assert.NoError(t, err)
		assert.Equal(t, want, doc.OnlyDark(), sheet)
	}
}
