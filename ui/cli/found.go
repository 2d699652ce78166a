package cli

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/ui/report"
	"ziegel/ui/term"
)

// mostTold is how many findings are told unless all are asked for.
const mostTold = 10

// groups puts the findings of pages together as they are told. env is nil for files.
func groups(env *project.Project, reports []*check.Report) []report.Group {
	every := map[string]bool{}
	if env != nil {
		for _, list := range [][]*site.Block{env.Site.Top, env.Site.Bottom} {
			for _, b := range list {
				every[b.Name] = true
			}
		}
	}
	return report.Groups(reports, every)
}

// found tells findings, the worst first, and no more than ten unless all are asked for: on a terminal block by block,
// where each holds drawn on a short ruler.
func (a *app) found(reports []*check.Report, list []report.Group) {
	told := list
	if !a.all && len(list) > mostTold+1 { // one more takes as much room as saying so
		told = list[:mostTold]
	}
	if a.style.Terminal {
		a.grouped(reports, told)
	} else {
		for _, g := range told {
			a.group(g)
		}
	}
	if rest := list[len(told):]; len(rest) > 0 {
		counts := report.Counts(rest)
		var parts []string
		for _, s := range []diag.Severity{diag.Error, diag.Warning, diag.Note} {
			if n := counts[s]; n > 0 {
				parts = append(parts, diag.Plural(n, string(s)))
			}
		}
		a.say("and %s more; --all tells them", diag.And(parts))
	}
}

// grouped tells findings block by block, for a terminal.
func (a *app) grouped(reports []*check.Report, list []report.Group) {
	section := map[string]string{}
	for _, r := range reports {
		for _, b := range r.Blocks {
			section[r.Page+"/"+b.Name] = b.Section
		}
	}
	blockOf := func(g report.Group) string { return g.Page + "/" + g.Block }
	var order []string
	for _, g := range list {
		if b := blockOf(g); !slices.Contains(order, b) {
			order = append(order, b)
		}
	}
	for _, block := range order {
		first := true
		var last check.Finding // what is behind several findings is told once
		for _, g := range list {
			if blockOf(g) != block {
				continue
			}
			if first {
				first = false
				title := a.style.Bold(strings.TrimSuffix(block, "/"))
				if g.Where != "" {
					title = a.style.Bold(g.Page + ": " + g.Where)
				}
				if s := section[block]; s != "" {
					title += a.style.Dim("  " + s)
				}
				a.say("%s", title)
			}
			head := fmt.Sprintf("  %s%s %s  %-10s ", a.style.Severity(g.Severity),
				strings.Repeat(" ", 8-len(g.Severity)),
				term.Strip(a.style, sweep.DefaultFrom, sweep.DefaultTo, g.Spans), g.Widths())
			a.say("%s%s", head, a.style.Dim(g.Rule))
			a.say("%s", a.style.Wrap("      "+g.Text, 6))
			told := g.Finding
			if g.Block == last.Block && g.Rule == last.Rule && g.Part == last.Part {
				if g.Cause == last.Cause {
					told.Cause = diag.Place{}
				}
				if g.Why == last.Why {
					told.Why = ""
				}
				if g.Cure == last.Cure {
					told.Cure = ""
				}
			}
			a.also(g, "      ")
			a.reasons(told, "      ")
			last = g.Finding
		}
	}
}

// group tells a finding on lines of its own, with the address that other commands take.
func (a *app) group(g report.Group) {
	widths := ""
	if w := g.Widths(); w != "" {
		widths = " at " + w
	}
	a.say("%s", a.style.Wrap(fmt.Sprintf("%s: %s%s: %s [%s]", a.style.Severity(g.Severity),
		a.style.Bold(report.Address(g.Page, g.Finding)), widths, g.Text, g.Rule), 3))
	a.also(g, "   ")
	a.reasons(g.Finding, "   ")
}

// mostAlso is how many places are named that have the same finding, unless all are asked for.
const mostAlso = 4

// also names the other places where a finding holds.
func (a *app) also(g report.Group, indent string) {
	if len(g.Also) > 0 {
		names := g.Also
		if !a.all && len(names) > mostAlso+1 {
			names = append(slices.Clone(names[:mostAlso]), fmt.Sprintf("%d more", len(names)-mostAlso))
		}
		a.say("%s", a.style.Wrap(indent+"also:  "+diag.And(names), len(indent)+7))
	}
	switch n := len(g.Pages); {
	case n > mostAlso && !a.all:
		a.say("%son:    %d more pages, with the same block", indent, n)
	case n > 0:
		a.say("%son:    %s too, with the same block", indent, diag.And(g.Pages))
	}
}

func (a *app) findings(page string, list []check.Finding) {
	for _, f := range report.Merge(list) {
		a.group(report.Group{Told: f, Page: page})
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

func (a *app) verdict(reports []*check.Report, told []report.Group) {
	text := report.Verdict(reports, told)
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

// tellRenamed tells what a site calls as an earlier version did; env is nil for files.
func (a *app) tellRenamed(env *project.Project) {
	if env == nil {
		return
	}
	for _, text := range env.Renamed() {
		a.answer("%s", a.style.Wrap("renamed: "+text, 3))
	}
}
