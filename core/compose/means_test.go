package compose_test

import (
	"encoding/json"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
)

var dataForm = regexp.MustCompile(`(?s)<script type="application/ld\+json">(.*?)</script>`)

// What blocks mean is told as data, from what the page says and never from samples; what lacks what its readers need
// is left out.
func TestPagesTellWhatTheyMean(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const organization = `{"@type":"Organization","name":"Mine","url":"https://mine.example/","logo":"https://mine.example/touch-icon.png"}`
	block := func(section, content string) string {
		return "  - name: b-" + strings.ReplaceAll(
			section,
			"/",
			"-",
		) + "\n    section: " + section + "\n    content: " + content + "\n"
	}
	for _, c := range []struct{ name, site, blocks, want string }{
		{"nothing", "name: Mine", block("hero/alone", "{heading: H}"), ``},
		{"who made it", "name: Mine\naddress: https://mine.example", block("hero/alone", "{heading: H}"), organization},
		{"samples are no data", "name: Mine", block("questions/list", "{heading: H}") +
			block("pricing/plans", "{heading: H}") +
			block("articles/text", "{items: [{title: A, text: B}]}"), ``},
		{"questions, of two blocks in one", "name: Mine",
			block("questions/list", `{items: [{title: "Who, *me*?", text: "Yes & </script>."}, {title: No answer}]}`) +
				block("questions/groups", `{groups: [{title: G, entries: [{title: B, text: D}]}]}`),
			`{"@type":"FAQPage","mainEntity":[{"@type":"Question","name":"Who, me?","acceptedAnswer":{"@type":"Answer","text":"Yes & </script>."}},{"@type":"Question","name":"B","acceptedAnswer":{"@type":"Answer","text":"D"}}]}`},
		{"prices", "name: Mine", block("pricing/card",
			`{groups: [{title: G, entries: [{title: A, price: "€1,150"}, {title: B, price: from 85 €}, {title: C, price: free}, {title: D, price: "4,50 zł"}, {title: E, price: $12}]}]}`),
			`{"@type":"Product","name":"A","offers":{"@type":"Offer","price":"1150","priceCurrency":"EUR"}},{"@type":"Product","name":"D","offers":{"@type":"Offer","price":"4.5","priceCurrency":"PLN"}}`},
		{"dollars of a region", "name: Mine\nlanguage: en-CA", block("pricing/single",
			`{heading: A kite, lead: Sewn, price: $12}`),
			`{"@type":"Product","name":"A kite","description":"Sewn","offers":{"@type":"Offer","price":"12","priceCurrency":"CAD"}}`},
		{"a price that is a value", "name: Mine", block("pricing/single",
			`{heading: A kite, price: {amount: 12.50, currency: USD, per: a month}}`),
			`{"@type":"Product","name":"A kite","offers":{"@type":"Offer","price":"12.50","priceCurrency":"USD"}}`},
		{"hours", "name: Mine", block("contact/hours",
			`{items: [{title: {days: sat}, text: {hours: 9-12}}, {title: {days: "mon, wed"}, text: late}]}`),
			`{"@type":"LocalBusiness","name":"Mine","openingHoursSpecification":{"@type":"OpeningHoursSpecification","dayOfWeek":"https://schema.org/Saturday","opens":"09:00","closes":"12:00"}}`},
		{"crumbs", "name: ''\naddress: https://mine.example", block("heading/crumbs",
			`{heading: H, links: [{label: Start, to: home}, {label: Away, to: 'https://o.example/a'}]}`),
			`{"@type":"BreadcrumbList","itemListElement":[{"@type":"ListItem","position":1,"name":"Start","item":"https://mine.example/"},{"@type":"ListItem","position":2,"name":"Away","item":"https://o.example/a"}]}`},
		{"an article", "name: Mine", block("articles/text", `{heading: Gale, lead: Nine went up}`),
			`{"@type":"Article","headline":"Gale","description":"Nine went up","author":{"@type":"Organization","name":"Mine"},"publisher":{"@type":"Organization","name":"Mine"}}`},
	} {
		t.Run(c.name, func(t *testing.T) {
			p := home(t, compose.Options{}, map[string]string{"ziegel.yaml": "theme: marram\n" + c.site + "\n",
				"pages/home.yaml": "title: T\nblocks:\n" + c.blocks})
			m := dataForm.FindStringSubmatch(p.HTML)
			if c.want == "" {
				assert.Nil(t, m)
				return
			}
			require.NotNil(t, m, "no data")
			assert.NotContains(t, m[1], "<")
			assert.JSONEq(t, `{"@context":"https://schema.org","@graph":[`+c.want+`]}`, m[1])
			var doc map[string]any
			require.NoError(t, json.Unmarshal([]byte(m[1]), &doc))
		})
	}
}

// The pieces of a price and of a day are elements where somebody needs them: a style of that part, a program that reads
// days.
func TestPiecesOfTexts(t *testing.T) {
	const plans = "  - name: plans\n    section: pricing/plans\n    content: {items: [{title: {date: 2026-05-01}, price: {amount: 1219.90, currency: EUR}, unit: a day}]}\n"
	made := func(style string) string {
		return home(t, compose.Options{}, map[string]string{"ziegel.yaml": "name: Mine\n",
			"pages/home.yaml": "title: T\nblocks:\n" + plans + style}).HTML
	}
	plain := made("")
	assert.Contains(t, plain, `price">€1,219.90</span>`)
	assert.Contains(t, plain, `<time datetime="2026-05-01">1 May 2026</time>`)
	assert.NotContains(t, plain, "data-amount")
	assert.Contains(t, made("    style: {currency: {font-size: 50%}}\n"),
		`price"><span class="home-plans-currency">€</span>1,219.90</span>`)
	assert.Contains(t, made("    style: {amount: {font-size: 50%}}\n"),
		`price">€<span class="home-plans-amount">1,219.90</span></span>`)
	assert.Contains(t, made("    style: {\"amount[2]\": {font-size: 50%}}\n"), `price">€<span>1,219.90</span></span>`,
		"not this one")
}
