package cli

import (
	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

func (a *app) keepCmd() *cobra.Command {
	var summary string
	var dry, bind bool
	cmd := &cobra.Command{
		Use:   "keep PAGE/BLOCK KIND/NAME",
		Short: "Turn a block, with its styles, into a section of the site's own",
		Long: `Keep copies the files of the block's section to sections/KIND/NAME of the site, with
the block's styles among its rules. The block is made of the new section from then
on, and others can be: what you change in these files shows in all of them. Blocks
of the same section with the same styles are told; --bind makes them of it at once.`,
		Example: `  # the plans as they look now, to be used again
  ziegel keep home/plans pricing/tickets
  ziegel replace courses/prices pricing/tickets`,
		Args: cobra.ExactArgs(2), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Keep(p, args[0], args[1], summary, bind) })
		},
	}
	cmd.Flags().StringVar(&summary, "summary", "", "one line that says what it is")
	cmd.Flags().BoolVar(&bind, "bind", false, "make other blocks that look the same of it, too")
	dryRunFlag(cmd, &dry)
	return cmd
}
