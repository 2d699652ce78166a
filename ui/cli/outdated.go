package cli

import (
	"errors"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/edit"
)

func (a *app) outdatedCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "outdated",
		Short: "What has changed in the site that this one began as",
		Long: `Outdated compares what this site took when it was made (` + "`ziegel new DIR --from FOLDER`" + `) with
what that folder has now: sections, theme, fonts, icons, and of ziegel.yaml blocks on
every page, ranges, looks and the like. ` + "`ziegel update`" + ` takes it.`,
		Example: `  ziegel outdated
  ziegel update sections/pricing/tickets
  ziegel update --all`,
		Args: cobra.NoArgs,
		RunE: func(_ *cobra.Command, _ []string) error {
			e, _, err := a.open()
			if err != nil {
				return err
			}
			list, err := edit.OutdatedOf(e.Site)
			if err != nil {
				return err
			}
			if a.json {
				return a.writeJSON(map[string]any{"outdated": append([]edit.Outdated{}, list...)})
			}
			both := 0
			for _, o := range list {
				more := ""
				if o.Here {
					both++
					more = a.style.Dim("  changed here, too")
				}
				a.say("  %-8s %s%s", o.How, o.Name, more)
			}
			if len(list) == 0 {
				a.say("%s: all is as it is there", a.style.Good("fine"))
				return nil
			}
			a.say("%s; ziegel update NAME, or --all, takes them", diag.Plural(len(list), "change"))
			return nil
		},
	}
	return a.jsonFlag(cmd)
}

func (a *app) updateCmd() *cobra.Command {
	var all, over, dry bool
	cmd := &cobra.Command{
		Use:   "update NAME...",
		Short: "Take what has changed in the site that this one began as",
		Long: `Update takes changes that ` + "`ziegel outdated`" + ` lists: a file, a folder such as a section, or a
key of ziegel.yaml. What was changed here as well stays, unless --over is said. It is
one edit, which undo takes back.`,
		Example: `  ziegel update sections/pricing/tickets
  ziegel update "ziegel.yaml every-page"
  ziegel update --all --dry-run`,
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 && !all {
				return errors.New("what is to be taken? name it as `ziegel outdated` does, or give --all")
			}
			if len(args) > 0 && all {
				return errors.New("names and --all are one too much")
			}
			return a.change(dry, func(p *edit.Plan) error { return edit.Update(p, args, over) })
		},
	}
	cmd.Flags().BoolVar(&all, "all", false, "take every change")
	cmd.Flags().BoolVar(&over, "over", false, "also where this site has changed the same")
	dryRunFlag(cmd, &dry)
	return cmd
}
