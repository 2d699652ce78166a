package compose_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/compose"
)

const plansBlock = "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n"

// leaves lists the leaves of a page's own content that are samples all the same.
func sampleLeaves(p *compose.Page) string {
	var out []string
	for _, u := range p.Fields {
		if u.State == compose.Sample && strings.ContainsAny(u.Field, "[.") {
			out = append(out, u.Field)
		}
	}
	return strings.Join(out, " ")
}

// A sample value keeps its mark, leaf by leaf, until its text changes or somebody says that it is meant so.
func TestSamplesKeepTheirMarks(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	entry := "    content:\n      items:\n        - {title: Mine, price: €85, text: Short and own, points: [A diamond of 90 cm, Mine too], link: {label: Pick a day, to: '#'}}\n"
	for _, c := range []struct{ name, yaml, want string }{
		{"words of a page are its own", entry, ""},
		{"what a command wrote is not", entry + "    sample: [items]\n", "items[1].price items[1].link.label"},
		{"until it is said to be meant", entry + "    sample: [items]\n    own: ['items[1].price']\n",
			"items[1].link.label"},
		{"or all of an entry", entry + "    sample: [items]\n    own: ['items[1]']\n", ""},
		{"a mark on another field says nothing", entry + "    sample: [heading]\n", ""},
		{"a plain field", "    content: {heading: 'Sew one, fly it home'}\n    sample: [heading]\n", ""},
		{"an entry that says all that a sample says",
			"    content:\n      items:\n        - title: First kite\n          text: A day for two hands that have never held a needle.\n          price: €85\n          unit: a person, one day\n          points: ['A diamond of 90 cm, yours to keep', Sewing machines and all tools]\n          link: {label: Pick a day, to: '#'}\n",
			"items[1].title items[1].text items[1].price items[1].unit items[1].points[1] items[1].points[2] items[1].link.label"},
	} {
		t.Run(c.name, func(t *testing.T) {
			p, _ := page(t, plansBlock+c.yaml)
			assert.Equal(t, c.want, sampleLeaves(p))
		})
	}
}

// Words of the template that a site began as count as samples, however short; other sites may use the same words.
func TestTemplatesBringSamples(t *testing.T) {
	files := map[string]string{
		"ziegel.yaml":     "name: Mine\ntemplate: debut\nevery-page:\n  bottom:\n    - name: foot\n      section: footer/line\n      content:\n        brand: Mine\n        links: [{label: Write to us, to: 'mailto:hello@larkspan.example'}]\n        legal: Larkspan Kites, Skerrow. Since 2009.\n",
		"pages/home.yaml": "title: T\nblocks: []\n",
	}
	p := home(t, compose.Options{}, files)
	var got []string
	for _, u := range p.Fields {
		if u.State == compose.Sample {
			got = append(got, u.Field)
		}
	}
	assert.Contains(t, got, "legal")
	assert.Contains(t, got, "links[1].label")
	assert.NotContains(t, got, "brand")
	files["ziegel.yaml"] = strings.Replace(files["ziegel.yaml"], "template: debut\n", "", 1)
	for _, u := range home(t, compose.Options{}, files).Fields {
		assert.False(t, u.State == compose.Sample && (u.Field == "legal" || u.Field == "links[1].label"), u.Field)
	}
}

// No sample address is built, an empty one is an error with its place, and links to nothing are told.
func TestNothingLeadsToASample(t *testing.T) {
	const form = "title: T\nblocks:\n  - name: write\n    section: contact/details\n"
	p, problems := page(t, form)
	assert.NotContains(t, p.HTML, "mailto:")
	assert.NotContains(t, p.HTML, "larkspan.example/")
	assert.NotContains(t, p.HTML, "action=\"")
	assert.Empty(t, problems)
	p, problems = page(t, form+"    content: {send-to: ''}\n")
	assert.NotContains(t, p.HTML, "action=\"")
	if assert.Len(t, problems, 1) {
		assert.Equal(t, "form-nowhere", problems[0].Rule)
		assert.Equal(t, "pages/home.yaml:5:24", problems[0].Position.String())
	}
	p, problems = page(t, form+"    content: {send-to: 'https://mine.example/post'}\n")
	assert.Contains(t, p.HTML, `action="https://mine.example/post"`)
	assert.Empty(t, problems)
	_, problems = page(t, plansBlock+
		"    content:\n      items:\n        - {title: Mine, link: {label: Book, to: '#'}}\n")
	if assert.Len(t, problems, 1) {
		assert.Contains(t, problems[0].Text, `the link "Book" leads nowhere`)
	}
}
