package cli

import (
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/areas"
	"ziegel/core/check"
)

func (a *app) sketchCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "sketch PAGE",
		Short: "A page as a drawing in text: what stands beside what, to scale",
		Long: `Sketch prints a page in the notation of drawings: for each block the cells that stand
beside one another, at each range of the site, and the parts in each cell. Widths
are to scale. ` + "`ziegel new --sketch`" + ` reads a page from it.`,
		Example: `  ziegel sketch home
  ziegel sketch home > idea.yaml
  ziegel new another --sketch idea.yaml`,
		Args: cobra.ExactArgs(1), ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			e, _, err := a.open()
			if err != nil {
				return err
			}
			page, err := address.FindPage(e, args[0])
			if err != nil {
				return err
			}
			s, err := check.Lay(e, page, nil)
			if err != nil {
				return err
			}
			a.say("%s", strings.TrimSuffix(areas.Sketch(s.Prepared, page.Title, e.Site.Ranges), "\n"))
			return nil
		},
	}
	return cmd
}
