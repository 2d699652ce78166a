package audit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/audit"
)

// Each rule: a page with the fault at known widths, and one that looks risky and is not.
func TestEachRuleTellsTheFaultFromTheRisk(t *testing.T) {
	const words = "the wind comes over the dune and the kite goes up with it until the line is out and we let it go "
	text := strings.Repeat(words, 4)
	for rule, c := range map[string]struct{ fault, span, risky string }{
		"screen-edge": {
			`<p style="margin:0 0 0 max(4px, 20vw - 60px)">Wind</p>`, "240..339", // 8 px of room from 340 px on
			`<p style="margin:0 8px">Wind</p>`,
		},
		"line-too-long": {
			`<p style="margin:0 20px;letter-spacing:0;font-size:8px;width:360px;max-width:calc(100vw - 40px)">` + text + `</p>`, "",
			`<p style="margin:0 20px;max-width:60ch">` + text + `</p>`,
		},
		"line-too-short": {
			`<p style="margin:20px;width:70px">` + words + `</p>`, "240..420",
			`<p style="margin:20px;width:190px">` + words + `</p>`,
		},
		"word-broken": {
			`<p style="margin:20px;overflow-wrap:anywhere;font-size:40px">Donaudampfschiff</p>`, "240..385", // the word and its margins take 385.4 px
			`<p style="margin:20px;overflow-wrap:anywhere;font-size:14px">Donaudampfschiff</p>`,
		},
		"text-small": {
			`<p style="margin:20px;font-size:max(10px, 4vw)">Wind</p>`, "240..299",
			`<p style="margin:20px;font-size:12px">Wind <b style="font-size:3px"></b></p>`,
		},
		"heading-long": {
			`<h2 style="margin:20px;width:100px">one two three four five six seven eight nine ten eleven</h2>`, "240..420",
			`<h2 style="margin:20px">one two three four</h2>`,
		},
		"lead-over-title": {
			`<h2 style="margin:20px;font-size:max(20px, 8vw)">Kites</h2><p style="margin:20px;font-size:24px">For wind</p>`, "240..299",
			`<h2 style="margin:20px;font-size:24px">Kites</h2><p style="margin:20px;font-size:24px">For wind</p><h3>x</h3><div style="font-size:40px;margin:20px">a figure</div>`,
		},
		"target-small": {
			`<div style="padding:20px"><a href=a style="display:block;height:20px;line-height:1">one</a><a href=b style="display:block;height:20px;line-height:1">two</a></div>`, "240..420",
			`<p style="margin:20px">words with <a href=a>one</a> and <a href=b>two</a></p><a href=c style="display:block;height:20px;margin:40px">alone</a>`,
		},
		"target-touch": {
			`<a href=a style="display:block;margin:30px;height:max(30px, 11vw)">one</a>`, "240..399",
			`<a href=a style="display:block;margin:30px;height:44px">one</a>`,
		},
		"lone-item": {
			`<ul style="display:grid;gap:10px;padding:0;margin:20px;list-style:none;grid-template-columns:repeat(auto-fit, minmax(100px, 1fr))"><li class=c>a<li class=c>b<li class=c>c</ul>`, "250..359", // 2 columns from 210 px, 3 from 320 px, and 40 px of margins
			`<ul style="display:grid;padding:0;margin:20px;list-style:none;grid-template-columns:1fr 1fr"><li class=c>a<li class=c>b<li class=c style="grid-column:1/-1">c</ul>`,
		},
		"screen-order": {
			`<style>@media (width < 300px){.o{order:-1}}</style><div style="display:flex;flex-direction:column;padding:20px"><p>first<p class=o>second</div>`, "240..299",
			`<div style="display:grid;grid-template-columns:1fr 1fr;padding:20px"><p>first</p><p style="margin-top:-20px">second</p></div>`,
		},
		"off-one-line": {
			`<ul style="display:flex;gap:10px;padding:20px;margin:0;list-style:none"><li class=c style="flex:1"><p style="width:70px;margin:0">one two three</p><a href=a style="display:block;padding:10px;height:44px">go</a><li class=c style="flex:1"><p style="width:70px;margin:0">one</p><a href=a style="display:block;padding:10px;height:44px">go</a></ul>`, "240..420",
			`<ul style="display:flex;gap:10px;padding:20px;margin:0;list-style:none"><li class=c style="flex:1;display:flex;flex-direction:column"><p style="width:70px;margin:0">one two three</p><a href=a style="margin-top:auto;padding:10px;height:44px">go</a><li class=c style="flex:1;display:flex;flex-direction:column"><p style="width:70px;margin:0">one</p><a href=a style="margin-top:auto;padding:10px;height:44px">go</a></ul>`,
		},
		"sticky-covers": {
			`<header style="position:sticky;top:0;height:60px;padding:0 20px"><a href="#x" style="display:block;height:44px">go</a></header><div style="height:900px"></div><h2 id=x style="margin:0 20px">here</h2>`, "240..420",
			`<header style="position:sticky;top:0;height:60px;padding:0 20px"><a href="#x" style="display:block;height:44px">go</a></header><div style="height:900px"></div><h2 id=x style="margin:0 20px;scroll-margin-top:60px">here</h2>`,
		},
		"picture-enlarged": {
			`<img src="small.png" alt="" style="display:block;width:30vw">`, "337..420", // up to 1 % is nothing: 101 px at 336.7 px
			`<img src="small.png" alt="" style="display:block;width:101px">`,
		},
		"heading-skipped":  {`<h1 style="margin:20px">a</h1><h3 style="margin:20px">b</h3>`, "", `<h1 style="margin:20px">a</h1><h2 style="margin:20px">b</h2><h3 style="margin:20px">c</h3><h2 style="margin:20px">d</h2>`},
		"twice":            {`<h1 style="margin:20px">a</h1><h1 style="margin:20px">b</h1>`, "", `<h1 style="margin:20px">a</h1>`},
		"id-twice":         {`<p id=a style="margin:20px">a</p><p id=a style="margin:20px">b</p>`, "", `<p id=a style="margin:20px">a</p><p id=b style="margin:20px">b</p>`},
		"form-nowhere":     {`<form style="margin:20px"></form>`, "", `<form action="/send" style="margin:20px"></form>`},
		"alt-file-name":    {`<img src="kite-2.jpg" alt="kite-2">`, "", `<img src="kite.jpg" alt="kite">`},
		"two-main-actions": {`<div style="padding:20px"><a class=action-main href=a>a</a> or <a class=action-main href=b>b</a></div>`, "", `<ul><li class=c><a class=action-main href=a>a</a><li class=c><a class=action-main href=b>b</a></ul>`},
	} {
		t.Run(rule, func(t *testing.T) {
			var spans []string
			for _, f := range check(t, `<main><section>`+c.fault+`</section></main>`, 240, 420).Findings {
				if f.Rule == rule {
					spans = append(spans, fmt.Sprintf("%d..%d", f.From, f.To))
					assert.NotEmpty(t, f.Text)
				}
			}
			if assert.NotEmpty(t, spans, "the fault is not found") && c.span != "" {
				assert.Equal(t, c.span, spans[0])
			}
			for _, f := range check(t, `<main><section>`+c.risky+`</section></main>`, 240, 420).Findings {
				assert.NotEqual(t, rule, f.Rule, f.Text)
			}
		})
	}
}

// Every finding is of a listed rule, and every rule over widths has a page here or in audit_test.go.
func TestAllRulesAreListed(t *testing.T) {
	listed := map[string]bool{}
	for _, r := range audit.Rules() {
		assert.False(t, listed[r.Name], r.Name)
		assert.NotEmpty(t, r.What, r.Name)
		listed[r.Name] = true
	}
	page := `<main><h1>a</h1><h3>b</h3><h1>c</h1><form></form><img src="kite-2.jpg" alt="kite-2"><img src=x.png><p id=a style="float:left;font-family:Nobody"></p><p id=a></p></main>`
	for _, f := range check(t, page, 240, 300).Findings {
		assert.True(t, listed[f.Rule], f.Rule)
	}
}
