package check_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/rogpeppe/go-internal/txtar"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/css"
)

// Each rule: a page with the fault at known widths, and one that looks risky and is not. The browser is asked about
// the ends of the spans in e2e.
func TestEachRuleTellsTheFaultFromTheRisk(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	data, err := os.ReadFile("testdata/rules.txtar")
	require.NoError(t, err)
	pages := map[string]string{}
	tried := map[string]int{} // how many pages have the fault, those of faults.txtar included
	for _, f := range txtar.Parse(data).Files {
		pages[f.Name] = string(f.Data)
	}
	foreign, err := os.ReadFile("testdata/faults.txtar")
	require.NoError(t, err)
	for _, f := range txtar.Parse(foreign).Files {
		if rule, _, ok := strings.Cut(f.Name, "/"); ok && strings.HasSuffix(f.Name, ".html") {
			tried[rule]++
		}
	}
	for name, fault := range pages {
		rule, which, ok := strings.Cut(name, "/fault")
		if !ok {
			continue
		}
		which = strings.TrimSuffix(which, ".html") // fault-2.html has a risk-2.html, perhaps
		tried[rule]++
		t.Run(rule+which, func(t *testing.T) {
			from, to := 240, 420
			if rule == "height-cut" {
				from, to = 470, 520
			}
			var spans []string
			for _, f := range reportOn(t, `<main><section>`+fault+`</section></main>`, from, to).Findings {
				if f.Rule == rule {
					spans = append(spans, fmt.Sprintf("%d..%d", f.From, f.To))
					assert.NotEmpty(t, f.Text)
				}
			}
			want := ""
			if first, _, _ := strings.Cut(fault, "\n"); strings.HasPrefix(first, "<!-- ") {
				want = strings.TrimSuffix(strings.TrimPrefix(first, "<!-- "), " -->")
			}
			if assert.NotEmpty(t, spans, "the fault is not found") && want != "" {
				assert.Equal(t, want, spans[0])
			}
			for _, f := range reportOn(t, `<main><section>`+pages[rule+"/risk"+which+".html"]+`</section></main>`, from,
				to).Findings {
				assert.NotEqual(t, rule, f.Rule, f.Text)
			}
		})
	}
	// they need a site, or have tests of their own
	elsewhere := []string{"missing-file", "dead-link", "brief", "accept-unused", "sample-content", "not-modelled",
		"replaced-font", "option-idle", "font-missing", "overlay-thin", "unsafe-picture", "icon-simplified",
		"page-heavy", "not-looked-at", "no-description", "no-title", "same-title",
		"same-description", "long-title", "long-description", "comment", "words-aside", "day-past", "untranslated"}
	for _, r := range check.Rules() {
		assert.True(t, tried[r.Name] >= 3 || slices.Contains(elsewhere, r.Name),
			"%d pages try %s: three are the least", tried[r.Name], r.Name)
	}
}

// What an attribute says has no place in a style sheet, and none is made up.
func TestAttributesHaveNoPlace(t *testing.T) {
	const row, words = `<main><div style="display:flex;margin:0 20px">`, `<p style="width:900px">Kites</p></div></main>`
	for svg, known := range map[string]bool{
		`<svg width=24 height=24></svg>`:                           false,
		`<svg style="width:24px;height:24px;flex-shrink:1"></svg>`: true,
	} {
		found := 0
		for _, f := range reportOn(t, row+svg+words, 240, 300).Findings {
			if f.Rule == "drawing-squeezed" {
				found++
				assert.Equal(t, known, f.Cause.Line > 0, svg)
			}
		}
		assert.Equal(t, 1, found, svg)
	}
}

// Every finding is of a listed rule.
func TestAllRulesAreListed(t *testing.T) {
	listed := map[string]bool{}
	for _, r := range check.Rules() {
		assert.False(t, listed[r.Name], r.Name)
		assert.NotEmpty(t, r.What, r.Name)
		assert.NotEmpty(t, r.Looks, "%s says what it looks at", r.Name)
		listed[r.Name] = true
	}
	page := `<main><h1>a</h1><h3>b</h3><h1>c</h1><form></form><img src="kite-2.jpg" alt="kite-2"><img src=x.png><p id=a style="float:left;font-family:Nobody"></p><p id=a></p></main>`
	for _, f := range reportOn(t, page, 240, 300).Findings {
		assert.True(t, listed[f.Rule], f.Rule)
	}
}

// A rule over layouts has changes to try against it, or says why there are none; what is tried is CSS that the engine
// reads.
func TestEachRuleDecidesOnRemedies(t *testing.T) {
	for _, r := range check.Rules() {
		if r.Untried != "" || r.Remedies != nil {
			assert.True(t, (r.Untried == "") == (r.Remedies != nil), "%s has remedies, or says why not", r.Name)
		} else {
			assert.True(t, check.OverContent(r.Name),
				"%s looks at layouts: give it remedies, or say why none is tried", r.Name)
		}
		for _, x := range r.Remedies {
			assert.Contains(t, []string{"", "around", "root"}, x.Where, r.Name)
			for _, decl := range splitDecls(x.CSS) {
				property, value, ok := strings.Cut(decl, "=")
				require.True(t, ok, "%s: %s", r.Name, x.CSS)
				if !strings.Contains(value, "{") {
					assert.True(t, css.CheckValue(property, value), "%s: %s", r.Name, decl)
				}
			}
		}
	}
}

// splitDecls parts two declarations: the second begins with a property.
func splitDecls(text string) []string {
	var out []string
	for _, f := range strings.Fields(text) {
		if name, _, ok := strings.Cut(f, "="); ok && !strings.ContainsAny(name, "(") {
			out = append(out, f)
		} else {
			out[len(out)-1] += " " + f
		}
	}
	return out
}
