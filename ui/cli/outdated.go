package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
)

func (a *app) outdatedCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "outdated",
		Short: "What this program, or the site that this one began as, has newer",
		Long: `A site keeps the sections that it uses, its theme and the base styles as they were when
it took them, in kept/: a newer program builds the same pages of them. Outdated tells
what this program has newer: what changed, which fields, options and parts come and
go, what blocks say that would not be shown any more, and what would move at which
widths. ` + "`ziegel draw --dry-run --to changes.png -- update home/plans`" + ` shows it.

For a site that began as another one (` + "`ziegel new DIR --from FOLDER`" + `) it tells what that
folder has now: sections, theme, fonts, icons, and of ziegel.yaml blocks on every page,
ranges, looks and the like. ` + "`ziegel update`" + ` takes either.`,
		Example: `  ziegel outdated
  ziegel update home/plans
  ziegel update sections/pricing/tickets
  ziegel update --all`,
		Args: cobra.NoArgs,
		RunE: func(_ *cobra.Command, _ []string) error {
			e, _, err := a.open()
			if err != nil {
				return err
			}
			newer, noVersions := edit.NewerOf(e)
			list, noStarter := edit.OutdatedOf(e.Site)
			began := !edit.NoStarter(noStarter)
			switch {
			case e.Keeps() && noVersions != nil:
				return noVersions
			case began && noStarter != nil:
				return noStarter
			case !e.Keeps() && !began:
				return noVersions
			}
			if a.json {
				return a.writeJSON(map[string]any{"outdated": append([]edit.Outdated{}, list...),
					"newer": append([]edit.Newer{}, newer...)})
			}
			for _, n := range newer {
				if err := a.tellNewer(e, n); err != nil {
					return err
				}
			}
			for _, o := range list {
				more := ""
				if o.Here {
					more = a.style.Dim("  changed here, too")
				}
				a.say("  %-8s %s%s", o.How, o.Name, more)
			}
			open := len(list)
			for _, n := range newer {
				if n.Refused == "" {
					open++
				}
			}
			if open == 0 && len(newer) > 0 {
				a.say("nothing else is newer")
				return nil
			}
			if n := open; n > 0 {
				a.say("%s; ziegel update NAME, or --all, takes them", diag.Plural(n, "change"))
				return nil
			}
			a.say("%s: all is as it is there", a.style.Good("fine"))
			return nil
		},
	}
	return a.jsonFlag(cmd)
}

// tellNewer says what would be other with what the program has now.
func (a *app) tellNewer(e *project.Project, n edit.Newer) error {
	head := n.Name
	switch {
	case n.Section() && n.Is == "":
		head += a.style.Dim("  this program has it no longer; it stays")
	case n.Section() && n.Was == n.Is:
		head += a.style.Dim("  other files under the same version " + n.Is)
	case n.Section():
		head += fmt.Sprintf("  version %s, here %s", n.Is, n.Was)
	default:
		head += a.style.Dim("  what all pages are made from")
	}
	a.say("  %s", head)
	if n.Refused != "" {
		a.say("    %s", a.style.Wrap("stays as it is here: "+n.Refused, 4))
		return nil
	}
	for _, s := range n.Says {
		a.say("    %s", a.style.Wrap(s, 4))
	}
	for _, c := range []struct {
		what   string
		change edit.Change
	}{{"fields", n.Fields}, {"options", n.Options}, {"parts", n.Parts}} {
		for _, x := range []struct {
			how   string
			names []string
		}{{"come", c.change.Come}, {"go", c.change.Go}, {"are renamed", c.change.Renamed}} {
			if len(x.names) > 0 {
				a.say("    %s", a.style.Wrap(fmt.Sprintf("%s %s: %s", c.what, x.how, strings.Join(x.names, ", ")), 6))
			}
		}
	}
	for _, l := range n.Lost {
		a.say("    %s", a.style.Wrap(a.style.Warning("would be parked")+": "+l, 6))
	}
	if n.Section() {
		a.say("    %s", a.style.Wrap("made of it: "+strings.Join(n.Blocks, ", "), 6))
	}
	if n.Section() && n.Is == "" {
		return nil
	}
	p := edit.New(e, storeOf(e))
	if err := edit.UpdateKept(p, []string{n.Name}); err != nil {
		return err
	}
	_, after, err := p.Work()
	if err != nil { // it can be told, and then it is refused
		a.say("    %s", a.style.Wrap(a.style.Warning("cannot be taken alone")+": "+err.Error(), 6))
		return nil
	}
	a.moved(p.Store, p.Touched, p.Env, after)
	return nil
}

func (a *app) updateCmd() *cobra.Command {
	var all, over, dry, freeze bool
	var because string
	cmd := &cobra.Command{
		Use:   "update NAME...",
		Short: "Take what this program, or the site that this one began as, has newer",
		Long: `Update takes changes that ` + "`ziegel outdated`" + ` lists. Of this program: a section, by its
name or by a block made of it, or a file of what all pages are made from. What a block
says and the newer section does not show is parked. --keep says why something stays as
it is; outdated asks again when there is yet another.

Of the site that this one began as: a file, a folder such as a section, or a key of
ziegel.yaml. What was changed here as well stays, unless --over is said.

It is one edit, which undo takes back. --freeze begins to keep what the pages are made
from in a site that does not.`,
		Example: `  ziegel update home/plans
  ziegel update pricing/tiers --keep "the client has signed it as it is"
  ziegel update sections/pricing/tickets "ziegel.yaml every-page"
  ziegel update --all --dry-run`,
		RunE: func(cmd *cobra.Command, args []string) error {
			keep := cmd.Flags().Changed("keep")
			switch {
			case freeze && (len(args) > 0 || all || keep):
				return errors.New("--freeze stands alone: it keeps all that is in use as it is now")
			case freeze:
				return a.change(dry, edit.Freeze)
			case len(args) == 0 && !all:
				return errors.New("what is to be taken? name it as `ziegel outdated` does, or give --all")
			case len(args) > 0 && all:
				return errors.New("names and --all are one too much")
			}
			return a.change(dry, func(p *edit.Plan) error {
				if keep {
					return edit.Refuse(p, args, because)
				}
				return edit.Update(p, args, over)
			})
		},
	}
	cmd.Flags().BoolVar(&all, "all", false, "take every change")
	cmd.Flags().BoolVar(&over, "over", false, "also where this site has changed the same")
	cmd.Flags().BoolVar(&freeze, "freeze", false, "keep what the pages are made from as it is now")
	cmd.Flags().StringVar(&because, "keep", "", "leave it as it is here, for this reason")
	dryRunFlag(cmd, &dry)
	return cmd
}

// keepShipped has a site that was just made keep what its pages are made from.
func (a *app) keepShipped(dir string) error {
	e, err := a.enter(dir)
	if err != nil {
		return err
	}
	for _, f := range edit.Frozen(e) {
		if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(f.Path)), []byte(f.After)); err != nil {
			return fmt.Errorf("write %s: %w", filepath.Join(dir, f.Path), diag.Bare(err))
		}
	}
	return nil
}
