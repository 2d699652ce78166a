package cli

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/ui/report"
	"ziegel/ui/term"
)

func spanFlags(cmd *cobra.Command, from, to *int) {
	cmd.Flags().IntVar(from, "from", sweep.DefaultFrom, "narrowest width, CSS px")
	cmd.Flags().IntVar(to, "to", sweep.DefaultTo, "widest width, CSS px")
}

func checkSpan(from, to int) error {
	if from < 1 || to > 20000 || to < from {
		return fmt.Errorf("--from %d --to %d is no span of widths: give 1 to 20000, the smaller first", from, to)
	}
	return nil
}

func (a *app) stackCmd() *cobra.Command {
	var from, to, at int
	cmd := &cobra.Command{
		Use:   "stack PAGE|FILE [BLOCK]",
		Short: "How each block stacks, over all widths or at one",
		Example: `  # how every block of home stacks, and at which widths that changes
  ziegel stack home

  # one block, its boxes drawn to scale on a phone
  ziegel stack home plans --at 390

  # any HTML file
  ziegel stack some/page.html --json`,
		Args:              cobra.RangeArgs(1, 2),
		ValidArgsFunction: a.complete("page"),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := checkSpan(from, to); err != nil {
				return err
			}
			s, err := a.subject(args[0])
			if err != nil {
				return err
			}
			only := s.Block
			if len(args) == 2 {
				only = args[1]
			}
			if only != "" && !keepBlock(s.Prepared, only) {
				var names []string
				for _, b := range s.Prepared.Every() {
					names = append(names, b.Name)
				}
				return diag.Unknown("block", only, names, " on "+s.Name)
			}
			if cmd.Flags().Changed("at") {
				return a.outline(s, only, at)
			}
			if a.json {
				reports, err := a.auditAll([]*check.Subject{s}, from, to)
				if err != nil {
					return err
				}
				return a.writeJSON(report1(reports[0]))
			}
			blocks := stackOf(s, only != "", from, to)
			ranges := site.DefaultRanges
			if s.Env != nil {
				ranges = s.Env.Site.Ranges
			}
			term.Map(a.out, a.style, sweep.Widths{From: from, To: to}, ranges, blocks)
			a.tellDirection(s.Prepared.Engine().Layout(from))
			if changed := notSeen(s); len(changed) > 0 {
				var names []string
				for _, b := range blocks {
					if changed[b.Name] {
						names = append(names, b.Name)
					}
				}
				if len(names) > 0 {
					a.say("not checked since they changed: %s", strings.Join(names, ", "))
				}
			}
			return nil
		},
	}
	cmd.Flags().IntVar(&at, "at", 0, "draw the boxes at this width, CSS px")
	spanFlags(cmd, &from, &to)
	return a.jsonFlag(cmd)
}

// stackOf sweeps a page, block by block where it can.
func stackOf(s *check.Subject, one bool, from, to int) []sweep.Stacking {
	if s.Env == nil || one {
		return s.Prepared.Map(from, to, nil)
	}
	return check.StackKept(storeOf(s.Env), s, from, to)
}

// keepBlock drops all blocks but one.
func keepBlock(l *sweep.Prepared, name string) bool {
	b := l.Block(name)
	if b != nil {
		l.Blocks = []*sweep.Block{b}
	}
	return b != nil
}

func (a *app) outline(s *check.Subject, block string, at int) error {
	if err := checkSpan(at, at); err != nil {
		return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", at)
	}
	if !a.json {
		if how := term.PicturesOf(a.stdin, a.out, a.style); how != term.PicturesNone {
			shot, err := draw.Of(s.Prepared, at, draw.Target{Block: block}, draw.Look{})
			if err != nil {
				return err
			}
			return a.showShot(how, shot)
		}
	}
	r := s.Prepared.Engine().Layout(at)
	boxes := s.Prepared.Outline(r)
	if a.json {
		return a.writeJSON(report.Outline(s.Prepared.Name, at, boxes))
	}
	term.Outline(a.out, a.style, at, boxes)
	a.tellDirection(r)
	return nil
}

// tellDirection says where rows begin on a page from right to left.
func (a *app) tellDirection(r *layout.Result) {
	if r.Leftward {
		a.say(
			"lines run from right to left: a row begins at its start, the right side, and what is beside stands towards its end",
		)
	}
}
