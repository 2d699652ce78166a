package cli

import (
	"errors"

	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

// spotFlags are the flags that say where a block goes.
func spotFlags(cmd *cobra.Command, s *edit.Spot) {
	cmd.Flags().StringVar(&s.Before, "before", "", "put it before this block, or the entry with this number")
	cmd.Flags().StringVar(&s.After, "after", "", "put it after this block, or the entry with this number")
	cmd.Flags().BoolVar(&s.First, "first", false, "put it first")
	cmd.Flags().BoolVar(&s.Last, "last", false, "put it last")
	cmd.MarkFlagsMutuallyExclusive("before", "after", "first", "last")
}

func (a *app) addCmd() *cobra.Command {
	var at edit.Spot
	var as string
	var dry, every bool
	cmd := &cobra.Command{
		Use:   "add PAGE [SECTION]",
		Short: "Put a section on a page",
		Long: `Add puts a section on a page, with its sample content until you set your own.
A page that does not exist yet is made. A block that holds others takes them in its
slots: name the slot after a dot; "ziegel sections layout" lists such sections and
"ziegel sections layout/columns" the slots of one. Without a section, a terminal shows the library:
type to narrow it, with an outline of how each section stacks beside the list.`,
		Example: `  # at the end of home
  ziegel add home pricing/plans

  # look through the library and choose
  ziegel add home

  # into the left column of a block that holds others
  ziegel add home/two.left features/list

  # on every page
  ziegel add --every-page footer/columns

  # somewhere else, under a name of your own
  ziegel add home features/cards --as reasons --after opening`,
		Args:              cobra.RangeArgs(1, 2),
		ValidArgsFunction: a.complete("page", "section"),
		RunE: func(_ *cobra.Command, args []string) error {
			if every {
				if len(args) != 1 || at != (edit.Spot{}) {
					return errors.New("a block on every page needs no page and no place: ziegel add --every-page nav/bar")
				}
				return a.change(dry, func(p *edit.Plan) error { return edit.AddToEveryPage(p, args[0], as) })
			}
			if len(args) == 1 {
				name, err := a.chooseSection(args[0])
				if err != nil {
					return err
				}
				args = append(args, name)
				a.args = append(a.args, name) // as undo will tell it
			}
			return a.change(dry, func(p *edit.Plan) error { return edit.Add(p, args[0], args[1], as, at) })
		},
	}
	cmd.Flags().BoolVar(&every, "every-page", false,
		"put the section on every page: a navigation above what they have, others below")
	cmd.Flags().StringVar(&as, "as", "", "name of the block")
	spotFlags(cmd, &at)
	dryRunFlag(cmd, &dry)
	return cmd
}
