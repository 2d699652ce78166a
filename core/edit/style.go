package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/site"
	"ziegel/core/styles"
)

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
	case on == nil && sc.Scope != "look":
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

// TakeName finds the name of the shared look in --for look NAME.
func (sc *Scope) TakeName(args []string) ([]string, error) {
	if name, ok := strings.CutPrefix(strings.Replace(sc.Scope, "style:", "look:", 1), "look:"); ok {
		sc.Scope, sc.Name = "look", name
		return args, nil
	}
	if places := []string{"block", "page", "section"}; !slices.Contains(places, sc.Of) {
		return nil, diag.Unknown("place", sc.Of, places, " for --of")
	}
	switch sc.Scope {
	case "block", "page", "section":
		return args, nil
	case "look", "style": // as earlier versions called it
		sc.Scope = "look"
		for i := len(args) - 1; i >= 0; i-- {
			if site.ValidName(args[i]) {
				sc.Name = args[i]
				return slices.Delete(slices.Clone(args), i, i+1), nil
			}
		}
		return nil, errors.New("--for look needs a name: --for look lifted")
	}
	return nil, diag.Unknown("scope", sc.Scope, []string{"block", "page", "section", "look"}, "")
}

// StyleOne sets values, as PROPERTY=VALUE, of a part.
func StyleOne(p *Plan, on *Styled, args []string, sc Scope) error {
	if on != nil && on.Target.Index > 0 && sc.Scope == "block" {
		t := on.Target
		if n := partCounts(p.Env, on.Page, []*site.Block{on.Block})[on.Block.Name][t.Part]; t.Index > n {
			return fmt.Errorf("%s/%s shows %s, so there is no %s[%d]", on.Page.Name, on.Block.Name,
				partPlural(n, styles.Target{Part: t.Part}), t.Part, t.Index)
		}
	}
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return errors.New("which property? write PROPERTY=VALUE, such as padding=2rem")
	}
	if sc.Scope == "look" {
		return setShared(p, on, list, sc)
	}
	h, err := sc.home(p, on, sc.Scope)
	if err != nil {
		return err
	}
	key := styles.StyleKey(h.style, on.Target)
	for _, kv := range list {
		v, err := styleValue(p.Env, on, kv)
		if err != nil {
			return err
		}
		p.edit(h.file, site.Edit{Op: site.Set, Path: site.Keys(h.path, key, kv[0]), Value: v})
	}
	p.Done = fmt.Sprintf("styled %s: %s", p.reach(on, sc.Scope), strings.Join(args, " "))
	p.touchScope(on, sc.Scope)
	if on.Target.Part == styles.PartBlock { // its neighbours may change places
		p.Touch(on.Page.Name, address.BlockNames(p.Env, on.Page)...)
	}
	p.stops(on, list)
	if sc.Scope == "block" {
		p.After = append(p.After, func(env *project.Project) []string { return idle(env, on, list) })
	}
	if slices.ContainsFunc(list, func(kv [2]string) bool { return kv[0] == "font-family" || kv[0] == "font" }) {
		p.After = append(p.After, func(env *project.Project) []string { return fontNotes(p.Env, env) })
	}
	return nil
}

// fontNotes tells of fonts that styles name and nothing brings, those that an edit added.
func fontNotes(before, after *project.Project) []string {
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
func idle(env *project.Project, on *Styled, list [][2]string) []string {
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

// setShared writes properties of a shared look, and puts it on the part if one is named.
func setShared(p *Plan, on *Styled, list [][2]string, sc Scope) error {
	t := styles.Target{Part: "part", At: sc.At, In: sc.In, When: sc.When}
	if err := sc.conditions(p.Env, &t); err != nil {
		return err
	}
	path := site.Keys("looks", sc.Name)
	if tail := strings.TrimSpace(t.Tail()); tail != "" {
		path = append(path, site.Keys(tail)...)
	}
	for _, kv := range list {
		v, err := styleValue(p.Env, on, kv)
		if err != nil {
			return err
		}
		p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path),
			site.Keys(kv[0])...), Value: v})
	}
	p.Done = fmt.Sprintf("styled the shared look %s", sc.Name)
	if on != nil {
		p.useOn(on, sc.Name)
	}
	p.touchUsers(sc.Name)
	p.Done += p.users(sc.Name)
	return nil
}
