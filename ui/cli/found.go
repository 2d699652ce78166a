package cli

import (
	"fmt"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/sweep"
	"ziegel/ui/report"
	"ziegel/ui/term"
)

// grouped tells findings block by block, for a terminal: where each holds is drawn on a short ruler.
func (a *app) grouped(r *check.Report) {
	block := "\x00"
	var last check.Finding // what is behind several findings is told once
	for _, f := range report.Merge(report.ByBlock(r)) {
		if f.Block != block {
			block = f.Block
			title := a.style.Bold(r.Page)
			if block != "" {
				title = a.style.Bold(r.Page + "/" + block)
			}
			if f.Where != "" {
				title = a.style.Bold(r.Page + ": " + f.Where)
			}
			for _, b := range r.Blocks {
				if b.Name == block && b.Section != "" {
					title += a.style.Dim("  " + b.Section)
				}
			}
			a.say("%s", title)
		}
		head := fmt.Sprintf("  %s%s %s  %-10s ", a.style.Severity(f.Severity), strings.Repeat(" ", 8-len(f.Severity)),
			term.Strip(a.style, r.From, r.To, f.Spans), f.Widths())
		a.say("%s%s", head, a.style.Dim(f.Rule))
		a.say("%s", a.style.Wrap("      "+f.Text, 6))
		told := f.Finding
		if f.Block == last.Block && f.Rule == last.Rule && f.Part == last.Part {
			if f.Cause == last.Cause {
				told.Cause = diag.Place{}
			}
			if f.Why == last.Why {
				told.Why = ""
			}
			if f.Cure == last.Cure {
				told.Cure = ""
			}
		}
		a.reasons(told, "      ")
		last = f.Finding
	}
}

func (a *app) findings(page string, list []check.Finding) {
	for _, f := range report.Merge(list) {
		where := report.Address(page, f.Finding)
		widths := ""
		if w := f.Widths(); w != "" {
			widths = " at " + w
		}
		a.say("%s", a.style.Wrap(fmt.Sprintf("%s: %s%s: %s [%s]", a.style.Severity(f.Severity), a.style.Bold(where),
			widths, f.Text, f.Rule), 3))
		a.reasons(f.Finding, "   ")
	}
}

// reasons tells what is behind a finding and what would help.
func (a *app) reasons(f check.Finding, indent string) {
	line := func(text string) { a.say("%s", a.style.Wrap(indent+text, len(indent)+7)) }
	if !f.Cause.IsZero() {
		a.say("%scause: %s", indent, f.Cause)
	}
	if f.Why != "" {
		line("why:   " + f.Why)
	}
	switch {
	case f.Proved && f.Cure != "":
		a.say("%scure:  %s", indent, a.style.Good(f.Cure)) // a command is never broken
	case f.Cure != "":
		line("try:   " + f.Cure)
	}
}

func (a *app) verdict(reports []*check.Report) {
	text := report.Verdict(reports)
	word, rest, _ := strings.Cut(text, ":")
	switch word {
	case "fine":
		word = a.style.Good(word)
	case "found":
		word = a.style.Error(word)
	}
	a.say("%s:%s", word, rest)
}

// findingLine tells a finding on one line, with the address that other commands take.
func findingLine(page string, f check.Finding) string {
	where := report.Address(page, f) + ": "
	if f.To == 0 {
		return where + f.Text + " [" + f.Rule + "]"
	}
	return where + f.Text + widthsOf(f) + " [" + f.Rule + "]"
}

func widthsOf(f check.Finding) string {
	switch {
	case f.To == 0:
		return ": " + f.Text
	case f.From == f.To:
		return fmt.Sprintf(" at %d", f.From)
	}
	return fmt.Sprintf(" at %d..%d", f.From, f.To)
}

func spansText(list []sweep.Span) string {
	var parts []string
	for i, s := range list {
		switch {
		case len(list) == 1:
			return s.As + " at every width"
		case i == len(list)-1:
			parts = append(parts, fmt.Sprintf("%s from %d", s.As, s.From))
		default:
			parts = append(parts, fmt.Sprintf("%s to %d", s.As, s.To))
		}
	}
	return strings.Join(parts, ", ")
}
