package cli

import (
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/areas"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/search"
	"ziegel/core/site"
)

func (a *app) sectionsComposeCmd() *cobra.Command {
	var dry, replace bool
	cmd := &cobra.Command{
		Use:   "compose DRAWING.yaml",
		Short: "Make a section of a drawing in text and a list of parts",
		Long: `Compose makes a section of the site's own without a line of CSS. Rows of names draw
which cell stands where, one drawing for each range of widths if wanted; a list says
which parts stand in each cell:

  name: features/tall
  areas:
    desktop: |
      tall  tall  wide
      tall  tall  small
    phone: |
      tall
      wide
      small
  parts:
    tall: [picture]
    wide: [eyebrow, heading, lead, actions]
    small: {place: bottom left, tone: tinted, parts: [figure, text]}

Parts are eyebrow, heading, lead, title, text, note, figure, price, quote, name, role,
picture, icon, link, actions, points, and items with the parts of an entry
({items: [icon, title, text]}). A cell of two groups, each with a place, has a buffer
between them. "blocks" makes a cell a slot for other blocks; . is an empty cell.
Widths that are not drawn have all cells in one column.

The section is checked at every width and tried with hostile content at once.`,
		Example: `  ziegel sections compose tall.yaml
  ziegel add home features/tall`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			text, err := os.ReadFile(args[0])
			if err != nil {
				return fmt.Errorf("read %s: %w", args[0], diag.Bare(err))
			}
			f, problems := site.ReadFile(args[0], string(text))
			if err := problems.Err(); err != nil {
				return err
			}
			e, err := a.shelf()
			if err != nil {
				return err
			}
			d, problems := areas.Parse(f, e.Site.Ranges)
			if err := problems.Err(); err != nil {
				return err
			}
			files := d.Section()
			if dry {
				for _, f := range [][2]string{{"section.html", files.HTML}, {"section.css", files.CSS},
					{"section.yaml", files.YAML}} {
					a.say("%s", a.style.Bold("sections/"+d.Name+"/"+f[0]))
					a.say("%s", strings.TrimSuffix(f[1], "\n"))
				}
				return nil
			}
			err = a.change(false, func(p *edit.Plan) error {
				if replace {
					return edit.RewriteSection(p, d.Name, files, args[0])
				}
				return edit.Section(p, d.Name, files, args[0])
			})
			if err != nil {
				return err
			}
			if err := a.lookAtOwn(d.Name); err != nil {
				return err
			}
			return a.narrowCells(f, d)
		},
	}
	cmd.Flags().BoolVar(&replace, "again", false, "write a section anew that was made of a drawing before")
	dryRunFlag(cmd, &dry)
	return cmd
}

// narrowCells tells cells that are too narrow for what they hold.
func (a *app) narrowCells(f *site.File, d *areas.Drawing) error {
	e, err := a.shelf()
	if err != nil {
		return err
	}
	alone, page := search.Alone(e, e.Library.Section(d.Name))
	s, err := check.Lay(alone, page, nil)
	if err != nil {
		return err
	}
	return d.Narrow(f, s.Prepared).Err()
}
