package check

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/words"
)

// Besides leaves of a translation's report what the page in its own language has not as well: findings at other places,
// and at widths at which it is fine.
func (r *Report) Besides(original *Report) {
	r.Findings = slices.DeleteFunc(r.Findings, func(f Finding) bool {
		return OfContent(f.Rule) && f.Severity != diag.Error && f.Rule != untranslated ||
			slices.ContainsFunc(original.Findings, func(o Finding) bool {
				return o.Rule == f.Rule && o.Block == f.Block && o.Part == f.Part && o.Item == f.Item &&
					o.From <= f.From && o.To >= f.To
			})
	})
}

// Untranslated tells how many texts of a page have no translation to a language, or one of an earlier original.
func Untranslated(list []words.Translation, page, tag string) []Finding {
	open, stale, all := 0, 0, 0
	for _, t := range list {
		if t.Page != page {
			continue
		}
		all++
		switch {
		case t.State == words.Open && !t.Sample:
			open++
		case t.State == words.Stale:
			stale++
		}
	}
	if open+stale == 0 {
		return nil
	}
	var parts []string
	if open > 0 {
		parts = append(parts, fmt.Sprintf("%d of %d texts not translated", open, all))
	}
	if stale > 0 {
		parts = append(parts, fmt.Sprintf("%d of %d translated before their originals changed", stale, all))
	}
	text := strings.Join(parts, ", ")
	return []Finding{{Rule: untranslated, Severity: diag.Note, Text: text, Cure: "ziegel words --language " + tag}}
}
