package cli

import (
	"errors"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/site"
)

func (a *app) styleCmd() *cobra.Command {
	var at, in, state string
	var reset, dry bool
	cmd := &cobra.Command{
		Use:   "style PAGE/BLOCK.PART PROPERTY=VALUE...",
		Short: "Change the look of a part of a block",
		Long: `Style sets CSS properties on one part of one block. Part, property, value and
token are checked. A token of the theme stands in braces: {space.far}. --at
limits it to screen widths: a range such as phone, or 480..719, ..599, 1024..`,
		Example: `  # more room in the cards, less on phones
  ziegel style home/plans.card padding=2.5rem
  ziegel style home/plans.card padding=1rem --at phone

  # one of them, a state, a token
  ziegel style home/plans.card[2] background="{color.accent}"
  ziegel style home/plans.card border-color="{color.accent}" --state hover

  # as it was
  ziegel style home/plans.card --reset`,
		Args: cobra.MinimumNArgs(1), ValidArgsFunction: a.complete("part"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				where, list := splitProperty(args)
				ad, err := parseAddress(where)
				if err != nil {
					return err
				}
				return stylePart(p, ad, list, styleScope{at, in, state, reset})
			})
		},
	}
	f := cmd.Flags()
	f.StringVar(&at, "at", "", "only at these screen widths: a range, or 480..719")
	f.StringVar(&in, "in", "", "only where the block itself has this much room: ..480")
	f.StringVar(&state, "state", "", "only in a state: hover, focus-visible ...")
	f.BoolVar(&reset, "reset", false, "take the named properties back, or all of the part")
	cmd.MarkFlagsMutuallyExclusive("at", "in")
	dryRunFlag(cmd, &dry)
	return cmd
}

// splitProperty accepts "home/plans card.padding=2rem" as well as "home/plans.card padding=2rem".
func splitProperty(args []string) (string, []string) {
	if len(args) > 1 && !strings.Contains(args[0], ".") {
		part, rest, ok := strings.Cut(args[1], ".")
		if ok && !strings.Contains(part, "=") {
			out := []string{rest}
			for _, s := range args[2:] {
				out = append(out, strings.TrimPrefix(s, part+"."))
			}
			return args[0] + "." + part, out
		}
		if !strings.Contains(args[1], "=") && len(args) > 2 {
			return args[0] + "." + args[1], args[2:]
		}
	}
	return args[0], args[1:]
}

type styleScope struct {
	at, in, state string
	reset         bool
}

func stylePart(p *plan, ad address, args []string, sc styleScope) error {
	page, b, err := findBlock(p.env, ad)
	if err != nil {
		return err
	}
	sec := p.env.Library.Section(b.Section)
	if sec == nil {
		return unknown("section", b.Section, p.env.Library.Names(), "")
	}
	if ad.part == "" {
		return fmt.Errorf("name a part of %s/%s: %s", page.Name, b.Name, strings.Join(sec.Parts, ", "))
	}
	if !sec.HasPart(ad.part) && ad.part != "root" {
		return unknown("part", ad.part, sec.Parts, " in "+sec.Name)
	}
	t := compose.Target{Part: ad.part, Index: ad.index, At: sc.at, In: sc.in}
	if sc.state != "" {
		t.State = ":" + strings.TrimLeft(sc.state, ":")
	}
	if sc.at != "" {
		if _, _, ok := p.env.Span(sc.at); !ok {
			var names []string
			for _, r := range p.env.Site.Ranges {
				names = append(names, r.Name)
			}
			return fmt.Errorf("%w; or write widths, such as 480..719", unknown("range", sc.at, names, ""))
		}
	}
	if sc.in != "" {
		if _, _, ok := site.ParseSpan(sc.in); !ok {
			return fmt.Errorf("--in %q is no span of widths: write ..480, 481.. or 480..719", sc.in)
		}
	}
	key := compose.StyleKey(b.Style, t)
	if sc.reset {
		return resetStyle(p, page, b, key, t, args)
	}
	list, err := pairs(args)
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return errors.New("which property? write PROPERTY=VALUE, such as padding=2rem")
	}
	for _, kv := range list {
		if problem := compose.CheckProperty(p.env, kv[0], kv[1]); problem != nil {
			return *problem
		}
		p.edit(b.File.Path, site.Edit{Op: site.Set, Path: site.Keys(b.Path, "style", key, kv[0]), Value: site.NewText(kv[1])})
	}
	p.done = fmt.Sprintf("styled %s: %s", scopeText(p, page, b, t), strings.Join(args, " "))
	p.touch(page.Name, b.Name)
	return nil
}

// scopeText says whom a style touches.
func scopeText(p *plan, page *site.Page, b *site.Block, t compose.Target) string {
	s := fmt.Sprintf("%s of %s/%s", t, page.Name, b.Name)
	if b.EveryPage != "" {
		return s + fmt.Sprintf(", on every page (%s)", plural(len(p.env.Site.Pages), "page"))
	}
	return s + ", this block only"
}

func resetStyle(p *plan, page *site.Page, b *site.Block, key string, t compose.Target, props []string) error {
	var own *site.Value
	if b.Style != nil {
		own = b.Style.Get(key)
	}
	if own == nil {
		return fmt.Errorf("%s of %s/%s has no style of its own", t, page.Name, b.Name)
	}
	del := func(steps ...any) {
		p.edit(b.File.Path, site.Edit{Op: site.Delete, Path: site.Keys(append([]any{b.Path, "style"}, steps...)...)})
	}
	left := len(own.Entries)
	for _, name := range props {
		name, _, _ = strings.Cut(name, "=")
		if own.Get(name) == nil {
			return unknown("own property", name, own.Keys(), " on "+t.String())
		}
		left--
	}
	switch {
	case len(props) > 0 && left > 0:
		for _, name := range props {
			name, _, _ = strings.Cut(name, "=")
			del(key, name)
		}
	case len(b.Style.Entries) > 1:
		del(key)
	default:
		del()
	}
	p.done = fmt.Sprintf("reset %s of %s/%s", t, page.Name, b.Name)
	p.touch(page.Name, b.Name)
	return nil
}
