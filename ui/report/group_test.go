package report_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/ui/report"
)

// found makes a finding of "rule block.part[item] cause"; the severity is that of the rule's first letter.
func found(text string) check.Finding {
	f := strings.Fields(text)
	block, part, _ := strings.Cut(f[1], ".")
	out := check.Finding{Rule: f[0], Block: block, From: 240, To: 300, Text: text,
		Severity: map[byte]diag.Severity{'e': diag.Error, 'w': diag.Warning, 'n': diag.Note}[f[0][0]]}
	if name, item, ok := strings.Cut(part, "["); ok {
		part = name
		_, _ = fmt.Sscanf(item, "%d]", &out.Item)
	}
	out.Part = part
	if len(f) > 2 {
		out.Cause = diag.Place{Position: diag.Position{File: f[2], Line: 1, Column: 1}}
	}
	return out
}

func TestWhatIsToldAsOne(t *testing.T) {
	for name, c := range map[string]struct {
		pages map[string][]string
		want  []string
	}{
		"one cause, wherever it shows": {map[string][]string{"a": {"e x.card[1] s.css", "e y.card[2] s.css",
			"e z.card t.css"}},
			[]string{"a/x.card[1] also a/y.card[2]", "a/z.card"}},
		"three of a rule in a block": {map[string][]string{"a": {"w x.link", "w x.text", "w x.price", "w y.link",
			"w y.text"}},
			[]string{"a/x.link also a/x.text a/x.price", "a/y.link", "a/y.text"}},
		"the worst first": {map[string][]string{"a": {"n x.a", "e y.b", "w z.c"}},
			[]string{"a/y.b", "a/z.c", "a/x.a"}},
		"what says other things of one place stays": {map[string][]string{"a": {"n x", "nn x", "n2 x", "e x.p one",
			"ee x.p one"}},
			[]string{"a/x.p", "a/x.p", "a/x", "a/x", "a/x"}},
		"a block of every page, once": {map[string][]string{"a": {"e foot.link", "e x.link"},
			"b": {"e foot.link", "e x.link"}},
			[]string{"a/foot.link on b", "a/x.link", "b/x.link"}},
		"but not what another page has": {map[string][]string{"a": {"e foot.link"},
			"b": {"e foot.link", "e foot.text"}},
			[]string{"a/foot.link on b", "b/foot.text"}},
	} {
		t.Run(name, func(t *testing.T) {
			var reports []*check.Report
			for _, page := range []string{"a", "b"} {
				r := &check.Report{Page: page, From: 240, To: 300}
				for _, f := range c.pages[page] {
					r.Findings = append(r.Findings, found(f))
				}
				reports = append(reports, r)
			}
			var got []string
			list := report.Groups(reports, map[string]bool{"foot": true})
			for _, g := range list {
				text := report.Address(g.Page, g.Finding)
				if len(g.Also) > 0 {
					text += " also " + strings.Join(g.Also, " ")
				}
				if len(g.Pages) > 0 {
					text += " on " + strings.Join(g.Pages, " ")
				}
				got = append(got, text)
			}
			assert.Equal(t, c.want, got)
			counts := report.Counts(list)
			assert.Equal(t, len(list), counts[diag.Error]+counts[diag.Warning]+counts[diag.Note])
		})
	}
}
