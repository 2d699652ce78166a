package cli

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
)

func (a *app) styleCmd() *cobra.Command {
	var sc styleScope
	var dry bool
	var review bool
	var try, sheet string
	var take int
	cmd := &cobra.Command{
		Use:   "style PAGE/BLOCK.PART PROPERTY=VALUE...",
		Short: "Change the look of a part: of a block, a page, a section or a shared style",
		Long: `Style sets CSS properties on one part. Part, property, value and token are
checked. A token of the theme stands in braces: {space.far}. Conditions: --at
limits it to screen widths (a range such as phone, or 480..719), --in to the room
that the block has, --when to an arrangement, --state to hover, focus, pressed.

--for says whom it reaches: this block (the usual), all blocks of that section on
the page, all of them on the site, or a shared style that any part can use:
use=NAME puts it on a part. "block" is the whole block, lane=middle..edge a place
on the lines of the page.`,
		Example: `  # more room in the cards, less on phones
  ziegel style home/plans.card padding=2.5rem
  ziegel style home/plans.card padding=1rem --at phone

  # one of them, every second, a state, a token, an arrangement
  ziegel style home/plans.card[2] background="{color.accent}"
  ziegel style home/plans.card[odd] background="{color.surface}"
  ziegel style home/plans.card border-color="{color.accent}" --state hover
  ziegel style home/opening.words text-align=center --when stacked

  # all plans of the site; what was tried on one as a shared style
  ziegel style home/plans.card padding=2rem --for section
  ziegel style --from home/plans.card --for style lifted
  ziegel style courses/prices.card use=lifted

  # it was meant for all of them; as it was
  ziegel style home/plans.card padding --move --for section
  ziegel style home/plans.card --reset

  # several values to look at; the second one
  ziegel style home/plans.card padding --try 1rem,1.5rem,2rem
  ziegel style --take 2

  # what is written twice, does nothing, or serves nobody
  ziegel style --review`,
		ValidArgsFunction: a.complete("part"),
		RunE: func(_ *cobra.Command, args []string) error {
			switch {
			case review:
				return a.review(args)
			case take > 0:
				return a.takeTried(dry, take)
			case try != "":
				if err := a.mayWrite(sheet); err != nil {
					return err
				}
				return a.tryStyle(args, sc, try, sheet)
			}
			return a.change(dry, func(p *plan) error { return runStyle(p, args, sc) })
		},
	}
	f := cmd.Flags()
	f.StringVar(&sc.at, "at", "", "only at these screen widths: a range, or 480..719")
	f.StringVar(&sc.in, "in", "", "only where the block itself has this much room: ..480")
	f.StringVar(&sc.when, "when", "", "only when it sits like this: stacked, beside, wrapped, alone in its row, 2+1")
	f.StringVar(&sc.state, "state", "", "only in a state: hover, focus, pressed, current, disabled ...")
	f.StringVar(&sc.scope, "for", "block", "whom it reaches: block, page, section, or style NAME")
	f.StringVar(&sc.from, "from", "", "take the looks of this part: home/plans.card")
	f.BoolVar(&sc.move, "move", false, "take it from where it is (see --of) to where --for says")
	f.StringVar(&sc.of, "of", "block", "with --move and --reset: where it is now: block, page or section")
	f.BoolVar(&sc.reset, "reset", false, "take the named properties back, or all of the part")
	f.StringVar(&try, "try", "", "values to look at side by side: 1rem,1.5rem,2rem")
	f.StringVar(&sheet, "sheet", "", "with --try: the file to write (default try.html in the site's cache)")
	a.forceFlag(cmd)
	f.IntVar(&take, "take", 0, "the value of the last --try with this number")
	f.BoolVar(&review, "review", false, "looks that do nothing, are written twice, or that nothing uses")
	cmd.MarkFlagsMutuallyExclusive("at", "in", "when")
	cmd.MarkFlagsMutuallyExclusive("reset", "move", "from", "try", "take", "review")
	dryRunFlag(cmd, &dry)
	cmd.Flags().BoolVar(&a.json, "json", false, "with --review: print one JSON document")
	return cmd
}

// styleScope is what the flags of style say.
type styleScope struct {
	at, in, when, state string
	scope, from, of     string
	name                string // of a shared style
	reset, move         bool
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

// styled is the place that a style command works on.
type styled struct {
	page   *site.Page
	block  *site.Block // nil for a shared style by itself
	sec    *library.Section
	target compose.Target
}

func runStyle(p *plan, args []string, sc styleScope) error {
	args, err := sc.takeName(args)
	if err != nil {
		return err
	}
	var on *styled
	if len(args) > 0 && !strings.Contains(args[0], "=") {
		where, rest := splitProperty(args)
		if on, err = findStyled(p.env, where, sc); err != nil {
			return err
		}
		args = rest
	}
	switch {
	case sc.from != "":
		return styleFrom(p, on, sc)
	case on == nil && sc.scope != "style":
		return errors.New("which part? write PAGE/BLOCK.PART, such as home/plans.card")
	case sc.move:
		return moveStyle(p, on, args, sc)
	case sc.reset:
		if on == nil {
			return resetShared(p, args, sc)
		}
		return resetStyle(p, on, args, sc)
	}
	return setStyle(p, on, args, sc)
}

// takeName finds the name of the shared style in --for style NAME.
func (sc *styleScope) takeName(args []string) ([]string, error) {
	if name, ok := strings.CutPrefix(sc.scope, "style:"); ok {
		sc.scope, sc.name = "style", name
		return args, nil
	}
	if places := []string{"block", "page", "section"}; !slices.Contains(places, sc.of) {
		return nil, diag.Unknown("place", sc.of, places, " for --of")
	}
	switch sc.scope {
	case "block", "page", "section":
		return args, nil
	case "style":
		for i := len(args) - 1; i >= 0; i-- {
			if site.ValidName(args[i]) {
				sc.name = args[i]
				return slices.Delete(slices.Clone(args), i, i+1), nil
			}
		}
		return nil, errors.New("--for style needs a name: --for style lifted")
	}
	return nil, diag.Unknown("scope", sc.scope, []string{"block", "page", "section", "style"}, "")
}

// findStyled reads the address of a part and the conditions of the flags.
func findStyled(e *compose.Env, where string, sc styleScope) (*styled, error) {
	ad, err := address.Parse(where)
	if err != nil {
		return nil, err
	}
	page, b, err := address.FindBlock(e, ad)
	if err != nil {
		return nil, err
	}
	sec := e.Library.Section(b.Section)
	if sec == nil {
		return nil, diag.Unknown("section", b.Section, e.Library.Names(), "")
	}
	if ad.Part == "" {
		return nil, fmt.Errorf("name a part of %s/%s: %s; or block for all of it", page.Name, b.Name, strings.Join(sec.Parts, ", "))
	}
	if !compose.HasPart(sec, ad.Part) {
		return nil, diag.Unknown("part", ad.Part, append(slices.Clone(sec.Parts), "block", "root"), " in "+sec.Name)
	}
	t := compose.Target{Part: ad.Part, Index: ad.Index, Place: ad.Place, At: sc.at, In: sc.in, When: sc.when}
	err = sc.conditions(e, &t)
	return &styled{page, b, sec, t}, err
}

// conditions checks the flags that limit a style.
func (sc styleScope) conditions(e *compose.Env, t *compose.Target) error {
	if sc.at != "" {
		if _, _, ok := e.Span(sc.at); !ok {
			return fmt.Errorf("%w; or write widths, such as 480..719", diag.Unknown("range", sc.at, e.RangeNames(), ""))
		}
	}
	if sc.in != "" {
		if _, _, ok := site.ParseSpan(sc.in); !ok {
			return fmt.Errorf("--in %q is no span of widths: write ..480, 481.. or 480..719", sc.in)
		}
	}
	if sc.when != "" {
		if _, ok := compose.CanonicalWhen(sc.when); !ok {
			return diag.Unknown("arrangement", sc.when, compose.Arrangements, "")
		}
	}
	if sc.state != "" {
		s, ok := compose.CanonicalState(sc.state)
		if !ok {
			var names []string
			for _, s := range compose.States {
				names = append(names, s.Name)
			}
			return diag.Unknown("state", strings.TrimLeft(sc.state, ":"), names, "")
		}
		t.State = s
	}
	return nil
}

// home is where the styles of a scope are written: a file, the path of its style map, and the map as it is now.
type home struct {
	file  string
	path  site.Path
	style *site.Value
}

func (sc styleScope) home(p *plan, on *styled, scope string) (home, error) {
	list, file := p.env.Site.Defaults, site.FileName
	switch scope {
	case "block":
		return home{on.block.File.Path, site.Keys(on.block.Path, "style"), on.block.Style}, nil
	case "page":
		list, file = on.page.Defaults, on.page.File.Path
	}
	if on.target.Part == compose.PartBlock {
		return home{}, errors.New("the ground and the distances belong to each block: name a part of the section, or root")
	}
	h := home{file: file, path: site.Keys("defaults", on.sec.Name, "style")}
	if d := site.DefaultFor(list, on.sec.Name); d != nil {
		h.style = d.Style
	}
	return h, nil
}

func setStyle(p *plan, on *styled, args []string, sc styleScope) error {
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return errors.New("which property? write PROPERTY=VALUE, such as padding=2rem")
	}
	if sc.scope == "style" {
		return setShared(p, on, list, sc)
	}
	h, err := sc.home(p, on, sc.scope)
	if err != nil {
		return err
	}
	key := compose.StyleKey(h.style, on.target)
	for _, kv := range list {
		v, err := styleValue(p.env, on, kv)
		if err != nil {
			return err
		}
		p.edit(h.file, site.Edit{Op: site.Set, Path: site.Keys(h.path, key, kv[0]), Value: v})
	}
	p.done = fmt.Sprintf("styled %s: %s", p.reach(on, sc.scope), strings.Join(args, " "))
	p.touchScope(on, sc.scope)
	if on.target.Part == compose.PartBlock { // its neighbours may change places
		p.touch(on.page.Name, address.BlockNames(p.env, on.page)...)
	}
	p.stops(on, list)
	if sc.scope == "block" {
		p.after = append(p.after, func(env *compose.Env) []string { return idle(env, on, list) })
	}
	if slices.ContainsFunc(list, func(kv [2]string) bool { return kv[0] == "font-family" || kv[0] == "font" }) {
		p.after = append(p.after, func(env *compose.Env) []string { return fontNotes(p.env, env) })
	}
	return nil
}

// fontNotes tells of fonts that styles name and nothing brings, those that an edit added.
func fontNotes(before, after *compose.Env) []string {
	known := map[string]bool{}
	for _, m := range audit.MissingFonts(before) {
		known[m.Text()] = true
	}
	var out []string
	for _, m := range audit.MissingFonts(after) {
		if !known[m.Text()] {
			out = append(out, "note: "+m.Text(), "   try: "+m.Cure())
		}
	}
	return out
}

// idle points out what was just written and changes nothing.
func idle(env *compose.Env, on *styled, list [][2]string) []string {
	var out []string
	for _, r := range audit.Effects(env, on.page.Name, on.block.Name) {
		for _, kv := range list {
			if strings.HasPrefix(r.Text, on.page.Name+"/"+on.block.Name+"."+on.target.String()+": "+kv[0]+" ") {
				out = append(out, "note: "+r.Text)
			}
		}
	}
	return out
}

// styleValue checks one NAME=VALUE of a style.
func styleValue(e *compose.Env, on *styled, kv [2]string) (*site.Value, error) {
	switch kv[0] {
	case "use":
		list := &site.Value{Kind: site.List}
		for _, n := range strings.Split(kv[1], ",") {
			n = strings.TrimSpace(n)
			if s, _ := e.SharedStyle(n); s == nil {
				return nil, diag.Unknown("shared style", n, e.StyleNames(), "")
			}
			list.Items = append(list.Items, site.NewText(n))
		}
		return list, nil
	case "lane":
		if _, _, ok := compose.LaneLines(kv[1]); !ok {
			return nil, fmt.Errorf("%q is no lane and no two lines: write text, body, wide or edge, or two of them and middle, such as middle..edge", kv[1])
		}
		return site.NewText(kv[1]), nil
	}
	if problem := compose.CheckProperty(e, kv[0], kv[1]); problem != nil {
		return nil, *problem
	}
	return site.NewText(kv[1]), nil
}

// setShared writes properties of a shared style, and puts it on the part if one is named.
func setShared(p *plan, on *styled, list [][2]string, sc styleScope) error {
	t := compose.Target{Part: "part", At: sc.at, In: sc.in, When: sc.when}
	if err := sc.conditions(p.env, &t); err != nil {
		return err
	}
	path := site.Keys("styles", sc.name)
	if tail := strings.TrimSpace(t.Tail()); tail != "" {
		path = append(path, site.Keys(tail)...)
	}
	for _, kv := range list {
		v, err := styleValue(p.env, on, kv)
		if err != nil {
			return err
		}
		p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path), site.Keys(kv[0])...), Value: v})
	}
	p.done = fmt.Sprintf("styled the shared style %s", sc.name)
	if on != nil {
		p.useOn(on, sc.name)
	}
	p.touchUsers(sc.name)
	p.done += p.users(sc.name)
	return nil
}

// useOn adds a shared style to a part.
func (p *plan) useOn(on *styled, name string) {
	t := on.target
	t.At, t.In, t.When, t.State = "", "", "", ""
	key := compose.StyleKey(on.block.Style, t)
	list := &site.Value{Kind: site.List}
	var own *site.Value
	if on.block.Style != nil {
		own = on.block.Style.Get(key)
	}
	for _, n := range compose.UsedBy(own) {
		if n == name {
			return
		}
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	p.edit(on.block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(on.block.Path, "style", key, "use"), Value: list})
	p.touch(on.page.Name, on.block.Name)
}

// ownStyles lists the entries of a style map that speak of a part, whatever their conditions.
func ownStyles(style *site.Value, t compose.Target) []site.Entry {
	var out []site.Entry
	if style == nil {
		return nil
	}
	for _, e := range style.Entries {
		if have, err := compose.ParseTarget(e.Key); err == nil && have.Part == t.Part && have.Index == t.Index && have.Place == t.Place {
			out = append(out, e)
		}
	}
	return out
}
