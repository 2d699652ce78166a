package check

import (
	"ziegel/core/diag"
	"ziegel/core/review"
	"ziegel/core/sweep"
)

// addFonts adds to the report of a page the fonts that its own styles name and nothing brings.
func (rep *Report) addFonts(missing []review.MissingFont, l *sweep.Prepared) {
	for _, m := range missing {
		if m.Page != "" && m.Page != l.Name {
			continue
		}
		rep.Findings = append(rep.Findings, Finding{Rule: "font-missing", Severity: diag.Warning, Block: m.Block,
			Text: m.Text(), Cause: diag.Place{Position: m.Pos}, Cure: m.Cure()})
	}
}
