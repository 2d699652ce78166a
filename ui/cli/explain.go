package cli

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/explain"
	"ziegel/core/naming"
	"ziegel/core/styles"
	"ziegel/core/theme"
)

func (a *app) explainCmd() *cobra.Command {
	var at int
	cmd := &cobra.Command{
		Use:   "explain PAGE/BLOCK[.PART] PROPERTY|width|height|x|y",
		Short: "Where a value comes from, or what makes a box that size",
		Long: `Explain lays the page out at one width. For a CSS property it lists who says
what of it: the declaration that wins first, then the others from the strongest
down, with their places in your files and why they lost.

For width, height, x and y it follows what decides: a size of its own, the tallest
card in the row, the longest word, the lines of a text, the room that is left over.`,
		Example: `  # who decides about the room in the cards
  ziegel explain home/plans.card padding --at 720

  # why the cards are as high as they are on a phone
  ziegel explain home/plans.card height --at 390

  # one of them, on a desktop
  ziegel explain home/plans.card[2] width --at 1280`,
		Args: cobra.RangeArgs(1, 2), ValidArgsFunction: a.complete("part"),
		RunE: func(_ *cobra.Command, args []string) error {
			if err := checkSpan(at, at); err != nil {
				return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", at)
			}
			ad, err := address.Parse(args[0])
			if err != nil {
				return err
			}
			axis := ad.Property
			if len(args) == 2 {
				axis = args[1]
			}
			switch {
			case axis == "":
				return fmt.Errorf("explain what? add a CSS property, or one of %s", strings.Join(explain.Axes, ", "))
			case slices.Contains(explain.Axes, axis):
				return a.explain(ad, axis, at)
			case !css.KnownProperty(axis) && axis != "lane":
				return diag.Unknown("CSS property", axis, css.PropertyNames(), "")
			}
			return a.explainValue(ad, axis, at)
		},
	}
	cmd.Flags().IntVar(&at, "at", 390, "screen width, CSS px")
	return a.jsonFlag(cmd)
}

func (a *app) explain(ad address.Address, axis string, at int) error {
	s, list, err := a.addressed(ad)
	if err != nil {
		return err
	}
	r := s.Prepared.Engine().Layout(at)
	type answer struct {
		Path    string           `json:"path"`
		Reasons []explain.Reason `json:"reasons"`
	}
	var answers []answer
	for _, e := range list {
		if r.Of(e) != nil || len(list) == 1 {
			answers = append(answers, answer{e.Path(), explain.Explain(s.Prepared, r, e, axis)})
		}
		if ad.Index == 0 && len(answers) == 1 { // like boxes have like reasons
			break
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"page": ad.Page, "at": at, "axis": axis, "boxes": answers})
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

// addressed finds the elements that an address speaks of.
func (a *app) addressed(ad address.Address) (*check.Subject, []*css.Element, error) {
	e, _, err := a.open()
	if err == nil {
		ad, err = ad.In(e)
	}
	if err != nil {
		return nil, nil, err
	}
	s, err := a.subject(ad.Page)
	if err != nil {
		return nil, nil, err
	}
	_, b, err := address.FindBlock(s.Env, ad)
	if err != nil {
		return nil, nil, err
	}
	sec := s.Env.Library.Section(b.Section)
	if part := sec.PartAt(ad.Part); ad.Part != "" && !styles.HasPart(sec, ad.Part) && part != "" {
		ad.Part = part // named as its field
	}
	if ad.Part != "" && !styles.HasPart(sec, ad.Part) {
		return nil, nil, diag.Unknown("part", ad.Part, sec.Parts, " in "+sec.Name)
	}
	list := explain.Find(s.Prepared, b.Name, ad.Part, ad.Index)
	if len(list) == 0 {
		return nil, nil, fmt.Errorf("%s/%s has no %s%s with this content", ad.Page, ad.Block, ad.Part,
			position(ad.Index))
	}
	return s, list, nil
}

// explainValue prints the chain of declarations behind a value.
func (a *app) explainValue(ad address.Address, property string, at int) error {
	s, list, err := a.addressed(ad)
	if err != nil {
		return err
	}
	name := property
	if name == "lane" {
		name = "--lane"
	}
	links, from := explain.Chain(s.Prepared, s.Prepared.Engine().Layout(at), list[0], name)
	if a.json {
		if links == nil {
			links = []explain.Link{}
		}
		return a.writeJSON(map[string]any{"page": ad.Page, "at": at, "property": property, "path": from.Path(),
			"chain": links})
	}
	if len(links) == 0 {
		a.say("nothing says anything of %s: it is what CSS begins with", property)
		return nil
	}
	if from != list[0] {
		a.say("%s comes from %s around it", property, naming.Of(s.Prepared, from))
	}
	for _, k := range links {
		value := k.Value
		if k.Resolved != "" {
			value = k.Resolved + " (" + tokensText(s.Env.Theme, k.Value) + ")"
		}
		head := "loses "
		if k.Wins {
			head = "wins  "
		}
		line := fmt.Sprintf("%s %s: %s, %s", head, k.Property, value, k.Who)
		if k.Where != "" {
			line += ", " + k.Where
		}
		if k.Why != "" {
			line += ": " + k.Why
		}
		a.say("%s", a.style.Wrap(line, 7))
		if k.At != "" {
			a.say("%s", a.style.Dim("       "+k.At))
		}
	}
	return nil
}

var customProperty = regexp.MustCompile(`var\(--([a-z-]+)\)`)

// tokensText writes custom properties as the tokens that they stand for.
func tokensText(t *theme.Theme, value string) string {
	return customProperty.ReplaceAllStringFunc(value, func(m string) string {
		name := customProperty.FindStringSubmatch(m)[1]
		for _, token := range []string{strings.Replace(name, "-", ".", 1), "color." + name} {
			if _, ok := t.Token(token); ok {
				return "{" + token + "}"
			}
		}
		return m
	})
}

func position(i int) string {
	if i == 0 {
		return ""
	}
	return fmt.Sprintf("[%d]", i)
}
