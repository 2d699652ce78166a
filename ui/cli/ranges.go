package cli

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/edit"
	"ziegel/core/site"
)

func (a *app) rangesCmd() *cobra.Command {
	var rename, remove, instead string
	var dry bool
	cmd := &cobra.Command{
		Use:   "ranges [NAME=WIDTHS...]",
		Short: "The named spans of screen widths: see, add, move, rename, remove",
		Long: `Ranges names the widths that styles and options speak of. A new name adds a range,
a known one moves it; every style that speaks of it follows, and what moved on the
pages is told. A range in use is not removed unless --instead names another.`,
		Example: `  # all of them, and who speaks of them
  ziegel ranges

  # add one, move one
  ziegel ranges watch=..319
  ziegel ranges tablet=600..899 desktop=900..

  # another name everywhere; take one away
  ziegel ranges --rename phone=handset
  ziegel ranges --remove watch --instead phone`,
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 && rename == "" && remove == "" {
				return a.showRanges()
			}
			return a.change(dry, func(p *edit.Plan) error {
				switch {
				case rename != "":
					return edit.RenameRange(p, rename)
				case remove != "":
					return edit.RemoveRange(p, remove, instead)
				}
				return edit.SetRanges(p, args)
			})
		},
	}
	f := cmd.Flags()
	f.StringVar(&rename, "rename", "", "OLD=NEW, in every place that speaks of it")
	f.StringVar(&remove, "remove", "", "take a range away")
	f.StringVar(&instead, "instead", "", "with --remove: what its uses speak of then, a range or widths")
	cmd.MarkFlagsMutuallyExclusive("rename", "remove")
	dryRunFlag(cmd, &dry)
	return a.jsonFlag(cmd)
}

func (a *app) showRanges() error {
	e, _, err := a.openWhole()
	if err != nil {
		return err
	}
	type row struct {
		Name string   `json:"name"`
		From int      `json:"from"`
		To   int      `json:"to,omitempty"`
		Uses []string `json:"uses"`
	}
	var rows []row
	for _, r := range e.Site.Ranges {
		x := row{r.Name, r.From, r.To, []string{}}
		for _, u := range edit.RangeUses(e, r.Name) {
			x.Uses = append(x.Uses, u.Where)
		}
		rows = append(rows, x)
	}
	if a.json {
		return a.writeJSON(map[string]any{"ranges": rows})
	}
	for _, r := range rows {
		uses := "no style speaks of it"
		if len(r.Uses) > 0 {
			uses = strings.Join(r.Uses, ", ")
		}
		a.say("%s", a.style.Wrap(fmt.Sprintf("%-10s %-11s %s", r.Name,
			edit.RangeText(site.Range{From: r.From, To: r.To}), a.style.Dim(uses)), 23))
	}
	return nil
}
