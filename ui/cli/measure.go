package cli

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/ui/report"
)

func (a *app) measureCmd() *cobra.Command {
	var at, scheme string
	var height int
	cmd := &cobra.Command{
		Use:   "measure PAGE|PAGE/BLOCK|FILE --at WIDTHS",
		Short: "Print the box of every element at given widths",
		Long: `Measure prints where every element lies, as a browser would place it: border
boxes in page coordinates, CSS px. Without --json it prints one box a line.`,
		Example: `  # a page of the site on a phone and a laptop
  ziegel measure home --at 390,1280

  # one block of it; blocks and parts are named
  ziegel measure home/plans --at 390

  # any HTML file, as JSON
  ziegel measure some/page.html --at 390,768 --json`,
		Args:              cobra.ExactArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			widths, err := parseWidths(at)
			if err != nil {
				return err
			}
			if scheme != "light" && scheme != "dark" {
				return fmt.Errorf("--scheme cannot be %q: use light or dark", scheme)
			}
			if height < 1 || height > 100000 {
				return fmt.Errorf("--height %d is no viewport height: give 1 to 100000 CSS px", height)
			}
			s, err := a.subject(args[0])
			if err != nil {
				return err
			}
			s.Prepared.Height, s.Prepared.Dark = height, scheme == "dark"
			engine := s.Prepared.Engine()
			doc := report.MeasureDoc{Page: s.Prepared.Name}
			for _, w := range widths {
				m := report.Measure(s.Prepared, engine.Layout(w))
				if s.Block != "" {
					m.Boxes = slices.DeleteFunc(m.Boxes, func(b report.MeasureBox) bool { return b.Block != s.Block })
				}
				doc.Widths = append(doc.Widths, m)
			}
			doc.Doubts = report.Doubts(s.Prepared)
			if a.json {
				return a.writeJSON(doc)
			}
			for _, w := range doc.Widths {
				sideways, across := "nothing beyond the edge", "x"
				if w.Overflow > 0 {
					sideways = fmt.Sprintf("scrolls sideways by %g px", w.Overflow)
				}
				if w.Direction == "rtl" { // places count from the edge where lines begin
					across = "start"
					if sideways = "from right to left, " + sideways; w.Overflow > 0 {
						sideways += " to the left"
					}
				}
				a.say("%s, %g px high, %s", a.style.Bold(fmt.Sprintf("%d px wide", w.Width)), w.Height, sideways)
				a.say("%10s %10s %9s   %-9s%s", across, "y", "width", "height", "element")
				for _, b := range w.Boxes {
					lines := ""
					if b.Lines > 0 {
						lines = "  " + diag.Plural(b.Lines, "line")
					}
					x := b.X
					if b.Start != nil {
						x = *b.Start
					}
					a.say("%10.2f %10.2f %9.2f x %-9.2f%s%s%s", x, b.Y, b.W, b.H, calledBox(s.Name, b), b.Path, lines)
				}
			}
			for _, d := range doc.Doubts {
				a.say("%s: %s [%s]", a.style.Severity(diag.Note), d.Text, d.Rule)
				if d.At != "" {
					a.say("   cause: %s", d.At)
				}
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&at, "at", "390,820,1280", "screen widths, CSS px, with commas between")
	cmd.Flags().IntVar(&height, "height", 900, "viewport height, CSS px")
	cmd.Flags().StringVar(&scheme, "scheme", "light", "light or dark")
	return a.jsonFlag(cmd)
}

// calledBox gives the address of a block or part before its path; what only stands in one has none.
func calledBox(page string, b report.MeasureBox) string {
	if !b.Is {
		return ""
	}
	name := page + "/" + b.Block
	if b.Part != "" {
		name += "." + b.Part
	}
	if b.Item > 0 {
		name += fmt.Sprintf("[%d]", b.Item)
	}
	return name + "  "
}

func parseWidths(s string) ([]int, error) {
	var out []int
	for _, part := range strings.Split(s, ",") {
		n, err := strconv.Atoi(strings.TrimSuffix(strings.TrimSpace(part), "px"))
		if err != nil || n < 1 || n > 20000 {
			return nil, fmt.Errorf(
				"--at %q: %q is no width; give 1 to 20000 CSS px, with commas between, such as 390,820,1280",
				s,
				part,
			)
		}
		out = append(out, n)
	}
	return out, nil
}
