package cli

import (
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/audit"
)

func (a *app) explainCmd() *cobra.Command {
	var at int
	cmd := &cobra.Command{
		Use:   "explain PAGE/BLOCK[.PART] width|height|x|y",
		Short: "What makes a box that size, or puts it there",
		Long: `Explain lays the page out at one width and follows what decides: a size of its
own, the tallest card in the row, the longest word, the lines of a text, the room
that is left over. Each step names the declaration behind it.`,
		Example: `  # why the cards are as high as they are on a phone
  ziegel explain home/plans.card height --at 390

  # one of them, on a desktop
  ziegel explain home/plans.card[2] width --at 1280`,
		Args: cobra.RangeArgs(1, 2), ValidArgsFunction: a.complete("part"),
		RunE: func(_ *cobra.Command, args []string) error {
			if err := checkSpan(at, at); err != nil {
				return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", at)
			}
			ad, err := parseAddress(args[0])
			if err != nil {
				return err
			}
			axis := ad.property
			if len(args) == 2 {
				axis = args[1]
			}
			if !slices.Contains(audit.Axes, axis) {
				if axis == "" {
					return fmt.Errorf("explain what? add one of %s", strings.Join(audit.Axes, ", "))
				}
				return unknown("question", axis, audit.Axes, "")
			}
			return a.explain(ad, axis, at)
		},
	}
	cmd.Flags().IntVar(&at, "at", 390, "screen width, CSS px")
	return a.jsonFlag(cmd)
}

func (a *app) explain(ad address, axis string, at int) error {
	s, err := a.subject(ad.page)
	if err != nil {
		return err
	}
	_, b, err := findBlock(s.env, ad)
	if err != nil {
		return err
	}
	if sec := s.env.Library.Section(b.Section); ad.part != "" && ad.part != "root" && !sec.HasPart(ad.part) {
		return unknown("part", ad.part, sec.Parts, " in "+sec.Name)
	}
	list := audit.Find(s.laid, b.Name, ad.part, ad.index)
	if len(list) == 0 {
		return fmt.Errorf("%s/%s has no %s%s with this content", ad.page, ad.block, ad.part, position(ad.index))
	}
	r := s.laid.Engine().Layout(at)
	type answer struct {
		Path    string         `json:"path"`
		Reasons []audit.Reason `json:"reasons"`
	}
	var answers []answer
	for _, e := range list {
		if r.Of(e) != nil || len(list) == 1 {
			answers = append(answers, answer{e.Path(), audit.Explain(s.laid, r, e, axis)})
		}
		if ad.index == 0 && len(answers) == 1 { // like boxes have like reasons
			break
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"page": ad.page, "at": at, "axis": axis, "boxes": answers})
	}
	for _, an := range answers {
		for i, reason := range an.Reasons {
			lead := ""
			if i > 0 {
				lead = "  "
			}
			a.say("%s", a.style.Wrap(lead+reason.Text, len(lead)+2))
			if reason.At != "" {
				a.say("%s", a.style.Dim("     "+reason.At))
			}
		}
	}
	return nil
}

func position(i int) string {
	if i == 0 {
		return ""
	}
	return fmt.Sprintf("[%d]", i)
}
