package report

import (
	"fmt"

	"ziegel/core/check"
	"ziegel/core/diag"
)

// Verdict says in a line how a check went. The counts are those of what was told.
func Verdict(reports []*check.Report, told []Group) string {
	counts := Counts(told)
	widths, blocks := 0, 0
	for _, r := range reports {
		widths += r.To - r.From + 1
		blocks += len(r.Blocks)
	}
	broken := diag.Plural(counts[diag.Error], "error") + ", " + diag.Plural(counts[diag.Warning], "warning")
	notes := ""
	if n := counts[diag.Note]; n > 0 {
		notes = ", " + diag.Plural(n, "note")
	}
	if last := reports[len(reports)-1]; last.Stopped {
		return fmt.Sprintf("stopped: %s was looked at from %d to %d only: %s%s", last.Page, last.From, last.To,
			broken, notes)
	}
	what := fmt.Sprintf("%s at %s", diag.Plural(blocks, "block"), diag.Plural(widths/max(1, len(reports)), "width"))
	if len(reports) > 1 {
		what = fmt.Sprintf("%d pages, %s", len(reports), what)
	}
	if counts[diag.Error]+counts[diag.Warning] == 0 {
		return fmt.Sprintf("fine: %s, nothing breaks%s", what, notes)
	}
	return fmt.Sprintf("found: %s, %s%s", what, broken, notes)
}
