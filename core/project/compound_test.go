package project_test

import (
	"io/fs"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

func compoundSite(t *testing.T, language, values string) *project.Project {
	return testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlanguage: " + language + "\n",
		"pages/home.yaml": "title: H\nblocks:\n  - name: plans\n    section: pricing/plans\n    content: {items: [" +
			values + "]}\n"}))
}

func TestPricesAndDaysAreSetByTheLanguage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for _, c := range []struct{ language, price, day string }{
		{"en", "€1,219.90", "1 May 2026"}, {"de", "1.219,90\u00a0€", "1. Mai 2026"}, {"fr", "1\u00a0219,90\u00a0€",
			"1 mai 2026"},
		{"nl", "€\u00a01.219,90", "1 mei 2026"}, {"es", "1.219,90\u00a0€", "1 de mayo de 2026"}, {"ar",
			"1,219.90\u00a0€", "1 مايو 2026"},
		{"de-AT", "1\u00a0219,90\u00a0€", "1. Mai 2026"},
	} {
		e := compoundSite(t, c.language,
			"{title: {date: 2026-05-01}, price: {amount: 1219.90, currency: EUR, per: a month}}, {price: {amount: 85, currency: USD}, unit: once}")
		page := e.Site.Page("home")
		assert.Empty(t, e.CompoundMistakes(page))
		items := e.All(page)[0].Content.Get("items").Items
		assert.Equal(t, c.price, items[0].Get("price").Str(), c.language)
		assert.Equal(t, c.day, items[0].Get("title").Str(), c.language)
		assert.Equal(t, "a month", items[0].Get("unit").Str(), "the period stands in the field for it")
		assert.Equal(t, "once", items[1].Get("unit").Str())
		assert.NotContains(t, items[1].Get("price").Str(), ".00", "as many decimals as were typed")
		assert.Equal(t, "1219.90", page.Blocks[0].Content.Get("items").Items[0].Get("price").Get("amount").Str(),
			"the page stays as it is")
	}
	for value, want := range map[string]string{
		"{amount: lots, currency: EUR}":           `"lots" is no amount`,
		"{amount: 5, currency: EURO}":             `there is no currency "EURO"`,
		"{amount: 5, currency: EUR, each: month}": `a value with amount has no "each"`,
		"{date: 1.5.2026}":                        `"1.5.2026" is no day`,
		"{until: soon}":                           `"soon" is no day`,
		"{days: monday, hours: 10-18}":            `there is no day "monday"`,
		"{days: mon, hours: 10}":                  `"10" has no end`,
		"{hours: 10-25}":                          `"25" is no time of a day`,
		"{hours: 9:5-10}":                         `"9:5" is no time of a day`,
		"{days: mon, open: 10-18}":                `a value with days or hours has no "open"`,
	} {
		e := compoundSite(t, "en", "{price: "+value+"}")
		problems := e.CompoundMistakes(e.Site.Page("home"))
		require.Len(t, problems, 1, value)
		assert.Contains(t, problems[0].String(), "pages/home.yaml:5:")
		assert.Contains(t, problems[0].Text, want)
	}
}

func TestHoursAreSetByTheLanguage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, c := range []struct{ language, week, hours, both string }{
		{"en", "Monday to Friday", "10:00–18:30", "Saturday, Sunday, 10:00–12:00, 14:00–24:00"},
		{"en-US", "Monday to Friday", "10 am–6:30 pm", "Saturday, Sunday, 10 am–12 pm, 2 pm–12 am"},
		{"de", "Montag bis Freitag", "10:00–18:30 Uhr", "Samstag, Sonntag, 10:00–12:00 Uhr, 14:00–24:00 Uhr"},
		{"fr", "Du lundi au vendredi", "10 h 00–18 h 30", "Samedi, dimanche, 10 h 00–12 h 00, 14 h 00–24 h 00"},
		{"ar", "من الاثنين إلى الجمعة", "10:00–18:30", "السبت، الأحد، 10:00–12:00، 14:00–24:00"},
	} {
		e := compoundSite(t, c.language,
			`{title: {days: mon-fri}, price: {hours: 10-18.30}, text: {days: [sat, sun], hours: "10-12, 14–24"}}`)
		page := e.Site.Page("home")
		assert.Empty(t, e.CompoundMistakes(page))
		item := e.All(page)[0].Content.Get("items").Items[0]
		plain := func(s string) string { return strings.ReplaceAll(s, "\u00a0", " ") }
		assert.Equal(t, []string{c.week, c.hours, c.both}, []string{plain(item.Get("title").Str()),
			plain(item.Get("price").Str()), plain(item.Get("text").Str())})
	}
	e := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlanguage: en\n"}))
	for language := range languagesOf(t) {
		e.Site.Language = language
		names, of := e.Word("days")
		assert.Empty(t, of, "%s has its own days", language)
		assert.Len(t, strings.Split(names, ", "), 7, language)
		for _, word := range []string{"days-to", "hours", "open", "until"} {
			_, of := e.Word(word)
			assert.Empty(t, of, "%s of %s", word, language)
		}
	}
}

// languagesOf lists the languages whose words ship.
func languagesOf(t *testing.T) map[string]bool {
	text, err := fs.ReadFile(stock.Files, "words.yaml")
	require.NoError(t, err)
	out := map[string]bool{}
	for _, m := range regexp.MustCompile(`(?m)^([a-z]+):$`).FindAllStringSubmatch(string(text), -1) {
		out[m[1]] = true
	}
	require.Len(t, out, 15)
	return out
}

func TestOpenings(t *testing.T) {
	week := `content: {items: [{title: {days: sat-mon}, text: {hours: "10-12, 14-24"}}, {title: {days: fri}, text: {hours: 9.30-18}}, {title: Otherwise, text: closed}]}`
	site := func(blocks string) *project.Project {
		return testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlanguage: en\n",
			"pages/home.yaml": "title: H\nblocks:\n" + blocks}))
	}
	e := site("  - {name: open, section: contact/hours, " + week + "}\n")
	assert.Equal(t, []project.Opening{
		{[]string{"Saturday", "Sunday", "Monday"}, "10:00", "12:00"}, {[]string{"Saturday", "Sunday", "Monday"},
			"14:00", "23:59"},
		{[]string{"Friday"}, "09:30", "18:00"}}, e.Openings(e.Site.Page("home")))
	for what, blocks := range map[string]string{
		"two blocks": "  - {name: open, section: contact/hours, " + week +
			"}\n  - {name: too, section: contact/hours, " + week + "}\n",
		"a day in two":      "  - {name: open, section: contact/hours, content: {items: [{title: {days: mon-wed}, text: {hours: 9-10}}, {title: {days: wed}, text: {hours: 11-12}}]}}\n",
		"no hours":          "  - {name: open, section: contact/hours, content: {items: [{title: {days: mon-wed}, text: closed}]}}\n",
		"what nobody reads": "  - {name: open, section: contact/hours, content: {items: [{title: {days: mon-wed}, text: {hours: late}}]}}\n",
		"a sample":          "  - {name: open, section: contact/hours}\n",
		"a section unknown": "  - {name: open, section: contact/none, " + week + "}\n",
	} {
		e := site(blocks)
		assert.Empty(t, e.Openings(e.Site.Page("home")), what)
	}
}

// TestThePartsOfAPrice looks at the pieces of a price: each is a part that can be styled.
func TestThePartsOfAPrice(t *testing.T) {
	for language, want := range map[string]string{"en": "currency:€ : amount:85",
		"de": "amount:85 :\u00a0 currency:€"} {
		e := compoundSite(t, language, "{price: {amount: 85, currency: EUR}}")
		var got []string
		for _, r := range e.All(e.Site.Page("home"))[0].Content.Get("items").Items[0].Get("price").Runs {
			got = append(got, r.Part+":"+r.Text)
		}
		assert.Equal(t, want, strings.Join(got, " "))
	}
	e := compoundSite(t, "en", "{}")
	assert.Subset(t, e.Library.Section("pricing/plans").Parts, []string{"amount", "currency"})
	assert.NotContains(t, e.Library.Section("pricing/plans").Parts, "period", "the field unit has it")
	assert.Contains(t, e.Library.Section("menu/card").Parts, "period")
	assert.NotContains(t, e.Library.Section("features/cards").Parts, "amount")
}

func TestLastDaysPass(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, c := range []struct{ language, want string }{
		{"en", "Until 1 May 2026"}, {"de", "Bis 1. Mai 2026"}, {"fr", "Jusqu’au 1 mai 2026"}, {"fi",
			"1. toukokuuta 2026 asti"},
	} {
		for today, passed := range map[string]bool{"": false, "2026-04-30": false, "2026-05-01": false,
			"2026-05-02": true} {
			e := compoundSite(t, c.language, "{title: {until: 2026-05-01}}")
			e.Today = today
			assert.Equal(t, c.want, e.All(e.Site.Page("home"))[0].Content.Get("items").Items[0].Get("title").Str())
			problems := e.CompoundMistakes(e.Site.Page("home"))
			require.Len(t, problems, map[bool]int{true: 1}[passed], today)
			if passed {
				assert.Equal(t, diag.Warning, problems[0].Severity)
				assert.Contains(t, problems[0].Text, "2026")
				assert.Equal(t, "day-past", problems[0].Rule)
			}
		}
	}
}
