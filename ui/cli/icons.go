package cli

import (
	"fmt"
	"io/fs"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/search"
	"ziegel/stock"
)

func (a *app) iconsCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "icons [WORDS]",
		Short: "Find an icon by its name or by everyday words",
		Example: `  # all of them
  ziegel icons

  # what is there for a letter
  ziegel icons letter
  ziegel set home/reasons items[1].icon=mail`,
		RunE: func(_ *cobra.Command, args []string) error {
			var own fs.FS
			if _, err := a.find(); err == nil || a.siteDir != "" {
				e, _, err := a.open()
				if err != nil {
					return err
				}
				own = e.Dir
			}
			everyday, problems := search.IconWords(stock.Files)
			if err := problems.Err(); err != nil {
				return err
			}
			names := media.Icons(stock.Files, own)
			list := names
			if len(args) > 0 {
				list = media.FindIcons(names, everyday, strings.Join(args, " "))
			}
			if a.json {
				return a.writeJSON(map[string]any{"icons": append([]string{}, list...)})
			}
			if len(list) == 0 {
				if n := diag.Nearest(strings.Join(args, "-"), names); n != "" {
					return fmt.Errorf("no icon speaks of %q; did you mean %s?", strings.Join(args, " "), n)
				}
				return fmt.Errorf("no icon speaks of %q", strings.Join(args, " "))
			}
			if len(args) == 0 {
				a.say("%s", a.style.Wrap(strings.Join(list, " "), 0))
				return nil
			}
			for _, n := range list {
				a.say("%-22s %s", n, a.style.Dim(everyday[n]))
			}
			return nil
		},
	}
	return a.jsonFlag(cmd)
}
