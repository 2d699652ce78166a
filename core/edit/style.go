package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/review"
	"ziegel/core/site"
)

// Scope is what the flags of style say.
type Scope struct {
	At, In, When, State string
	Scope, From, Of     string
	Name                string // of a shared style
	Reset, Move         bool
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

// Styled is the place that a style command works on.
type Styled struct {
	Page   *site.Page
	Block  *site.Block // nil for a shared style by itself
	sec    *library.Section
	Target compose.Target
}

// Style sets, moves, takes over or takes back values of a part, of every part of its kind in a scope, or of a shared
// style.
func Style(p *Plan, args []string, sc Scope) error {
	args, err := sc.TakeName(args)
	if err != nil {
		return err
	}
	var on *Styled
	if len(args) > 0 && !strings.Contains(args[0], "=") {
		where, rest := splitProperty(args)
		if on, err = FindStyled(p.Env, where, sc); err != nil {
			return err
		}
		args = rest
	}
	switch {
	case sc.From != "":
		return styleFrom(p, on, sc)
	case on == nil && sc.Scope != "style":
		return errors.New("which part? write PAGE/BLOCK.PART, such as home/plans.card")
	case sc.Move:
		return moveStyle(p, on, args, sc)
	case sc.Reset:
		if on == nil {
			return resetShared(p, args, sc)
		}
		return resetStyle(p, on, args, sc)
	}
	return StyleOne(p, on, args, sc)
}

// TakeName finds the name of the shared style in --for style NAME.
func (sc *Scope) TakeName(args []string) ([]string, error) {
	if name, ok := strings.CutPrefix(sc.Scope, "style:"); ok {
		sc.Scope, sc.Name = "style", name
		return args, nil
	}
	if places := []string{"block", "page", "section"}; !slices.Contains(places, sc.Of) {
		return nil, diag.Unknown("place", sc.Of, places, " for --of")
	}
	switch sc.Scope {
	case "block", "page", "section":
		return args, nil
	case "style":
		for i := len(args) - 1; i >= 0; i-- {
			if site.ValidName(args[i]) {
				sc.Name = args[i]
				return slices.Delete(slices.Clone(args), i, i+1), nil
			}
		}
		return nil, errors.New("--for style needs a name: --for style lifted")
	}
	return nil, diag.Unknown("scope", sc.Scope, []string{"block", "page", "section", "style"}, "")
}

// FindStyled reads the address of a part and the conditions of the flags.
func FindStyled(e *compose.Env, where string, sc Scope) (*Styled, error) {
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
	t := compose.Target{Part: ad.Part, Index: ad.Index, Place: ad.Place, At: sc.At, In: sc.In, When: sc.When}
	err = sc.conditions(e, &t)
	return &Styled{page, b, sec, t}, err
}

// conditions checks the flags that limit a style.
func (sc Scope) conditions(e *compose.Env, t *compose.Target) error {
	if sc.At != "" {
		if _, _, ok := e.Span(sc.At); !ok {
			return fmt.Errorf("%w; or write widths, such as 480..719", diag.Unknown("range", sc.At, e.RangeNames(), ""))
		}
	}
	if sc.In != "" {
		if _, _, ok := site.ParseSpan(sc.In); !ok {
			return fmt.Errorf("--in %q is no span of widths: write ..480, 481.. or 480..719", sc.In)
		}
	}
	if sc.When != "" {
		if _, ok := compose.CanonicalWhen(sc.When); !ok {
			return diag.Unknown("arrangement", sc.When, compose.Arrangements, "")
		}
	}
	if sc.State != "" {
		s, ok := compose.CanonicalState(sc.State)
		if !ok {
			var names []string
			for _, s := range compose.States {
				names = append(names, s.Name)
			}
			return diag.Unknown("state", strings.TrimLeft(sc.State, ":"), names, "")
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

func (sc Scope) home(p *Plan, on *Styled, scope string) (home, error) {
	list, file := p.Env.Site.Defaults, site.FileName
	switch scope {
	case "block":
		return home{on.Block.File.Path, site.Keys(on.Block.Path, "style"), on.Block.Style}, nil
	case "page":
		list, file = on.Page.Defaults, on.Page.File.Path
	}
	if on.Target.Part == compose.PartBlock {
		return home{}, errors.New("the ground and the distances belong to each block: name a part of the section, or root")
	}
	h := home{file: file, path: site.Keys("defaults", on.sec.Name, "style")}
	if d := site.DefaultFor(list, on.sec.Name); d != nil {
		h.style = d.Style
	}
	return h, nil
}

// StyleOne sets values, as PROPERTY=VALUE, of a part.
func StyleOne(p *Plan, on *Styled, args []string, sc Scope) error {
	if on != nil && on.Target.Index > 0 && sc.Scope == "block" {
		t := on.Target
		if n := partCounts(p.Env, on.Page, []*site.Block{on.Block})[on.Block.Name][t.Part]; t.Index > n {
			return fmt.Errorf("%s/%s shows %s, so there is no %s[%d]", on.Page.Name, on.Block.Name, partPlural(n, compose.Target{Part: t.Part}), t.Part, t.Index)
		}
	}
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return errors.New("which property? write PROPERTY=VALUE, such as padding=2rem")
	}
	if sc.Scope == "style" {
		return setShared(p, on, list, sc)
	}
	h, err := sc.home(p, on, sc.Scope)
	if err != nil {
		return err
	}
	key := compose.StyleKey(h.style, on.Target)
	for _, kv := range list {
		v, err := styleValue(p.Env, on, kv)
		if err != nil {
			return err
		}
		p.edit(h.file, site.Edit{Op: site.Set, Path: site.Keys(h.path, key, kv[0]), Value: v})
	}
	p.Done = fmt.Sprintf("styled %s: %s", p.reach(on, sc.Scope), strings.Join(args, " "))
	p.touchScope(on, sc.Scope)
	if on.Target.Part == compose.PartBlock { // its neighbours may change places
		p.Touch(on.Page.Name, address.BlockNames(p.Env, on.Page)...)
	}
	p.stops(on, list)
	if sc.Scope == "block" {
		p.After = append(p.After, func(env *compose.Env) []string { return idle(env, on, list) })
	}
	if slices.ContainsFunc(list, func(kv [2]string) bool { return kv[0] == "font-family" || kv[0] == "font" }) {
		p.After = append(p.After, func(env *compose.Env) []string { return fontNotes(p.Env, env) })
	}
	return nil
}

// fontNotes tells of fonts that styles name and nothing brings, those that an edit added.
func fontNotes(before, after *compose.Env) []string {
	known := map[string]bool{}
	for _, m := range review.MissingFonts(before) {
		known[m.Text()] = true
	}
	var out []string
	for _, m := range review.MissingFonts(after) {
		if !known[m.Text()] {
			out = append(out, "note: "+m.Text(), "   try: "+m.Cure())
		}
	}
	return out
}

// idle points out what was just written and changes nothing.
func idle(env *compose.Env, on *Styled, list [][2]string) []string {
	var out []string
	for _, r := range review.Effects(env, on.Page.Name, on.Block.Name) {
		for _, kv := range list {
			if slices.Contains(r.Of, review.Written{Target: on.Target, Property: kv[0]}) {
				out = append(out, "note: "+r.Text)
			}
		}
	}
	return out
}

// styleValue checks one NAME=VALUE of a style.
func styleValue(e *compose.Env, on *Styled, kv [2]string) (*site.Value, error) {
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
func setShared(p *Plan, on *Styled, list [][2]string, sc Scope) error {
	t := compose.Target{Part: "part", At: sc.At, In: sc.In, When: sc.When}
	if err := sc.conditions(p.Env, &t); err != nil {
		return err
	}
	path := site.Keys("styles", sc.Name)
	if tail := strings.TrimSpace(t.Tail()); tail != "" {
		path = append(path, site.Keys(tail)...)
	}
	for _, kv := range list {
		v, err := styleValue(p.Env, on, kv)
		if err != nil {
			return err
		}
		p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path), site.Keys(kv[0])...), Value: v})
	}
	p.Done = fmt.Sprintf("styled the shared style %s", sc.Name)
	if on != nil {
		p.useOn(on, sc.Name)
	}
	p.touchUsers(sc.Name)
	p.Done += p.users(sc.Name)
	return nil
}

// useOn adds a shared style to a part.
func (p *Plan) useOn(on *Styled, name string) {
	t := on.Target
	t.At, t.In, t.When, t.State = "", "", "", ""
	key := compose.StyleKey(on.Block.Style, t)
	list := &site.Value{Kind: site.List}
	var own *site.Value
	if on.Block.Style != nil {
		own = on.Block.Style.Get(key)
	}
	for _, n := range compose.UsedBy(own) {
		if n == name {
			return
		}
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	p.edit(on.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(on.Block.Path, "style", key, "use"), Value: list})
	p.Touch(on.Page.Name, on.Block.Name)
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
