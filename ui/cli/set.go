package cli

import (
	"errors"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/edit"
)

func (a *app) setCmd() *cobra.Command {
	var dry bool
	var from edit.Pictures
	var own []string
	var reset bool
	cmd := &cobra.Command{
		Use:   "set ADDRESS NAME=VALUE...",
		Short: "Fill in content: texts, links, pictures, list entries, options",
		Long: `Set writes content. Names are fields (heading), pieces of them (items[2].title,
media.alt), options (options.columns), or tone, above, below, lane and ground of
the block. items[+] is a new entry. The address may go on into the block, to an entry
by its field or by its part. For a page the names are title and description. An empty
value means empty on purpose.

NAME=@FILE fills a list from a table (.csv, .tsv) or from data (.yaml, .json, .md).
A table's first line names the fields: title, link.label, media.alt, points[1];
points alone takes several, with | between them.`,
		Example: `  # texts; _..._ takes the accent
  ziegel set home/opening heading="Made for _real_ wind"

  # an entry, a link, a picture
  ziegel set home/plans items[2].title="Delta weekend"
  ziegel set home/plans.card[2] title="Delta weekend" price=€250
  ziegel set home/plans items[+].title="Loft night" items[+].price=€40
  ziegel set home/opening actions[1].label="See the courses" actions[1].to=courses
  ziegel set home/opening media=delta.svg media.alt="A red kite over dunes"

  # options, some for a range; distances; what lies under a block
  ziegel set home/opening options.media=left "options.picture-ratio at phone=1:1"
  ziegel set home/plans above="{space.far}" ground.picture=festival.svg

  # a picture, another one on phones, and what to keep in view of it
  ziegel set home/opening media=delta.svg "media.file at phone=loft.svg" "media.focus at phone=50% 20%"

  # a list from a table, pictures matched by name
  ziegel set home/voices items=@data/voices.csv --pictures media/people

  # a list that follows its file; what of it, and in which order
  ziegel set home/voices items.from=data/voices.csv items.sort=name items.limit=3

  # a price that each language sets in its own way
  ziegel set home/plans items[2].price.amount=250 items[2].price.currency=EUR

  # back to what the section and the theme say
  ziegel set home/plans --reset tone options.columns heading

  # what still says what the sample said, and is meant so
  ziegel set home/plans --own items[2].price --own items[3]`,
		Args: cobra.MinimumNArgs(1), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 && len(own) == 0 && !strings.Contains(args[0], "=") {
				return errors.New("set what? ziegel set ADDRESS NAME=VALUE, such as heading=\"Made for real wind\"")
			}
			if reset {
				if len(own) > 0 || from != (edit.Pictures{}) {
					return errors.New("--reset takes names alone: ziegel set home/plans --reset tone options.columns")
				}
				return a.change(dry, func(p *edit.Plan) error { return edit.Reset(p, args[0], args[1:]) })
			}
			return a.change(dry, func(p *edit.Plan) error { return edit.Set(p, args[0], args[1:], from, own) })
		},
	}
	cmd.Flags().BoolVar(&reset, "reset", false,
		"take what the block says of these names away; the section's own holds again")
	cmd.Flags().StringArrayVar(&own, "own", nil, "an address in the block whose sample words are meant as they are")
	cmd.Flags().StringVar(&from.Folder, "pictures", "", "folder below media/ with a picture for each entry")
	cmd.Flags().BoolVar(&from.Alike, "alike", false, "take pictures too whose names are only like an entry's")
	dryRunFlag(cmd, &dry)
	return cmd
}
