package cli

import (
	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

func (a *app) moveCmd() *cobra.Command {
	var at edit.Spot
	var into string
	var dry bool
	cmd := &cobra.Command{
		Use:   "move ADDRESS",
		Short: "Move a block on its page, or an entry in its list",
		Long: `Move puts a block elsewhere on its page, or an entry of a list elsewhere in it. What
speaks of an entry by its position (a style of card[3], a mark of a sample) goes with it.`,
		Example: `  ziegel move home/voices --before plans
  ziegel move home/plans --last

  # an entry of a list, by its field or by its part
  ziegel move home/reasons.items[3] --first
  ziegel move home/plans.card[1] --after 2

  # into a slot of a block that holds others
  ziegel move home/voices --into two.right`,
		Args:              cobra.ExactArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Move(p, args[0], at, into) })
		},
	}
	cmd.Flags().StringVar(&into, "into", "", "put it into this slot of a block: BLOCK.SLOT")
	spotFlags(cmd, &at)
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) copyCmd() *cobra.Command {
	var at edit.Spot
	var as string
	var dry bool
	cmd := &cobra.Command{
		Use:   "copy ADDRESS [PAGE]",
		Short: "Copy a block, on its page or to another, or an entry of a list",
		Example: `  ziegel copy home/plans --as winter-plans
  ziegel copy home/plans courses --last

  # an entry, behind the one that it is of
  ziegel copy home/reasons.items[2]`,
		Args:              cobra.RangeArgs(1, 2),
		ValidArgsFunction: a.complete("block", "page"),
		RunE: func(_ *cobra.Command, args []string) error {
			onto := ""
			if len(args) == 2 {
				onto = args[1]
			}
			return a.change(dry, func(p *edit.Plan) error { return edit.Copy(p, args[0], onto, as, at) })
		},
	}
	cmd.Flags().StringVar(&as, "as", "", "name of the copy")
	spotFlags(cmd, &at)
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) renameCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:     "rename PAGE/BLOCK NAME",
		Short:   "Give a block another name; links to it follow",
		Example: `  ziegel rename home/plans prices`,
		Args:    cobra.ExactArgs(2), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Rename(p, args[0], args[1]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) removeCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:   "remove ADDRESS",
		Short: "Take a block off its page, or an entry out of its list; `undo` brings it back",
		Example: `  ziegel remove home/voices

  # an entry of a list, by its field or by its part
  ziegel remove home/reasons.items[2]
  ziegel remove home/plans.card[3]
  ziegel remove home/plans.items[2].points[1]`,
		Args:              cobra.ExactArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Remove(p, args[0]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}
