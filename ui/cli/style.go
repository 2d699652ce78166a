package cli

import (
	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

func (a *app) styleCmd() *cobra.Command {
	var sc edit.Scope
	var dry bool
	var review bool
	var try, sheet string
	var take int
	cmd := &cobra.Command{
		Use:   "style PAGE/BLOCK.PART PROPERTY=VALUE...",
		Short: "Change the look of a part: of a block, a page, a section or a shared look",
		Long: `Style sets CSS properties on one part. Part, property, value and token are
checked. A token of the theme stands in braces: {space.far}. Conditions: --at
limits it to screen widths (a range such as phone, or 480..719), --in to the room
that the block has, --when to an arrangement, --state to hover, focus, pressed.

--for says whom it reaches: this block (the usual), all blocks of that section on
the page, all of them on the site, or a shared look that any part can use:
use=NAME puts it on a part. "block" is the whole block, lane=middle..edge a place
on the lines of the page.`,
		Example: `  # more room in the cards, less on phones
  ziegel style home/plans.card padding=2.5rem
  ziegel style home/plans.card padding=1rem --at phone

  # one of them, every second, a state, a token, an arrangement
  ziegel style home/plans.card[2] background="{color.accent}"
  ziegel style home/plans.card[odd] background="{color.surface}"
  ziegel style home/plans.card border-color="{color.accent}" --state hover
  ziegel style home/opening.words text-align=center --when stacked

  # all plans of the site; what was tried on one as a shared look
  ziegel style home/plans.card padding=2rem --for section
  ziegel style --from home/plans.card --for look lifted
  ziegel style courses/prices.card use=lifted

  # it was meant for all of them; as it was
  ziegel style home/plans.card padding --move --for section
  ziegel style home/plans.card --reset

  # several values to look at; the second one
  ziegel style home/plans.card padding --try 1rem,1.5rem,2rem
  ziegel style --take 2

  # what is written twice, does nothing, or serves nobody
  ziegel style --review`,
		ValidArgsFunction: a.complete("part"),
		RunE: func(_ *cobra.Command, args []string) error {
			switch {
			case review:
				return a.review(args)
			case take > 0:
				return a.takeTried(dry, take)
			case try != "":
				if err := a.mayWrite(sheet); err != nil {
					return err
				}
				return a.tryStyle(args, sc, try, sheet)
			}
			return a.change(dry, func(p *edit.Plan) error { return edit.Style(p, args, sc) })
		},
	}
	f := cmd.Flags()
	f.StringVar(&sc.At, "at", "", "only at these screen widths: a range, or 480..719")
	f.StringVar(&sc.In, "in", "", "only where the block itself has this much room: ..480")
	f.StringVar(&sc.When, "when", "", "only when it sits like this: stacked, beside, wrapped, alone in its row, 2+1")
	f.StringVar(&sc.State, "state", "", "only in a state: hover, focus, pressed, current, disabled ...")
	f.StringVar(&sc.Scope, "for", "block", "whom it reaches: block, page, section, or look NAME")
	f.StringVar(&sc.From, "from", "", "take the looks of this part: home/plans.card")
	f.BoolVar(&sc.Move, "move", false, "take it from where it is (see --of) to where --for says")
	f.StringVar(&sc.Of, "of", "block", "with --move and --reset: where it is now: block, page or section")
	f.BoolVar(&sc.Reset, "reset", false, "take the named properties back, or all of the part")
	f.StringVar(&try, "try", "", "values to look at side by side: 1rem,1.5rem,2rem")
	f.StringVar(&sheet, "sheet", "", "with --try: the file to write (default try.html in the site's cache)")
	a.forceFlag(cmd)
	f.IntVar(&take, "take", 0, "the value of the last --try with this number")
	f.BoolVar(&review, "review", false, "looks that do nothing, are written twice, or that nothing uses")
	cmd.MarkFlagsMutuallyExclusive("at", "in", "when")
	cmd.MarkFlagsMutuallyExclusive("reset", "move", "from", "try", "take", "review")
	dryRunFlag(cmd, &dry)
	cmd.Flags().BoolVar(&a.json, "json", false, "with --review: print one JSON document")
	return cmd
}
