package project_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/internal/testsite"
)

func compoundSite(t *testing.T, language, values string) *project.Project {
	return testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlanguage: " + language + "\n",
		"pages/home.yaml": "title: H\nblocks:\n  - name: plans\n    section: pricing/plans\n    content: {items: [" + values + "]}\n"}))
}

func TestPricesAndDaysAreSetByTheLanguage(t *testing.T) {
	for _, c := range []struct{ language, price, day string }{
		{"en", "€1,219.90", "1 May 2026"}, {"de", "1.219,90\u00a0€", "1. Mai 2026"}, {"fr", "1\u00a0219,90\u00a0€", "1 mai 2026"},
		{"nl", "€\u00a01.219,90", "1 mei 2026"}, {"es", "1.219,90\u00a0€", "1 de mayo de 2026"}, {"ar", "1,219.90\u00a0€", "1 مايو 2026"},
		{"de-AT", "1\u00a0219,90\u00a0€", "1. Mai 2026"},
	} {
		e := compoundSite(t, c.language, "{title: {date: 2026-05-01}, price: {amount: 1219.90, currency: EUR, per: a month}}, {price: {amount: 85, currency: USD}, unit: once}")
		page := e.Site.Page("home")
		assert.Empty(t, e.CompoundMistakes(page))
		items := e.All(page)[0].Content.Get("items").Items
		assert.Equal(t, c.price, items[0].Get("price").Str(), c.language)
		assert.Equal(t, c.day, items[0].Get("title").Str(), c.language)
		assert.Equal(t, "a month", items[0].Get("unit").Str(), "the period stands in the field for it")
		assert.Equal(t, "once", items[1].Get("unit").Str())
		assert.NotContains(t, items[1].Get("price").Str(), ".00", "as many decimals as were typed")
		assert.Equal(t, "1219.90", page.Blocks[0].Content.Get("items").Items[0].Get("price").Get("amount").Str(), "the page stays as it is")
	}
	for value, want := range map[string]string{
		"{amount: lots, currency: EUR}":           `"lots" is no amount`,
		"{amount: 5, currency: EURO}":             `there is no currency "EURO"`,
		"{amount: 5, currency: EUR, each: month}": `a value with amount has no "each"`,
		"{date: 1.5.2026}":                        `"1.5.2026" is no day`,
	} {
		e := compoundSite(t, "en", "{price: "+value+"}")
		problems := e.CompoundMistakes(e.Site.Page("home"))
		require.Len(t, problems, 1, value)
		assert.Contains(t, problems[0].String(), "pages/home.yaml:5:")
		assert.Contains(t, problems[0].Text, want)
	}
}
