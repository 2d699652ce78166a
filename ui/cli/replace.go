package cli

import (
	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

func (a *app) replaceCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:   "replace PAGE/BLOCK SECTION",
		Short: "Make a block of another section; its content stays",
		Long: `Replace keeps the block's name, place, content, distances and the styles of parts
that the other section has too. What the other one does not show is kept in the
file under parked:, and comes back when a later section shows it.`,
		Example: `  # the same words in another form
  ziegel replace home/opening hero/under

  # and back: nothing was lost
  ziegel replace home/opening hero/beside`,
		Args: cobra.ExactArgs(2), ValidArgsFunction: a.complete("block", "section"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Replace(p, args[0], args[1]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}
