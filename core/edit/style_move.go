package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// moveStyle takes properties from one scope to another.
func moveStyle(p *Plan, on *Styled, props []string, sc Scope) error {
	if on == nil {
		return errors.New("which part? write PAGE/BLOCK.PART, such as home/plans.card")
	}
	if sc.Of == sc.Scope {
		return fmt.Errorf("it is there already: --for says where it goes, --of where it is (now %s)", sc.Of)
	}
	from, err := sc.home(p, on, sc.Of)
	if err != nil {
		return err
	}
	key := styles.StyleKey(from.style, on.Target)
	var own *site.Value
	if from.style != nil {
		own = from.style.Get(key)
	}
	if own == nil {
		return fmt.Errorf("%s has no style for %s that could be moved", scopeName(on, sc.Of), on.Target)
	}
	var moved []site.Entry
	for _, e := range own.Entries {
		if len(props) == 0 || slices.Contains(props, e.Key) {
			moved = append(moved, e)
		}
	}
	for _, n := range props {
		if own.Get(n) == nil {
			return diag.Unknown("own property", n, own.Keys(), " on "+on.Target.String())
		}
	}
	p.deleteStyle(from, key, own, moved)
	if sc.Scope == "look" {
		path := site.Keys("looks", sc.Name)
		if tail := strings.TrimSpace(on.Target.Tail()); tail != "" {
			path = append(path, site.Keys(tail)...)
		}
		for _, e := range moved {
			p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path), site.Keys(e.Key)...),
				Value: e.Value.Clone()})
		}
		p.useOn(on, sc.Name)
		p.Done = fmt.Sprintf("moved %s of %s to the shared look %s", keysOf(moved), scopeName(on, sc.Of), sc.Name)
		return nil
	}
	to, err := sc.home(p, on, sc.Scope)
	if err != nil {
		return err
	}
	p.putAll(to, styles.StyleKey(to.style, on.Target), moved)
	p.Done = fmt.Sprintf("moved %s from %s to %s", keysOf(moved), scopeName(on, sc.Of), p.reach(on, sc.Scope))
	p.touchScope(on, sc.Of)
	p.touchScope(on, sc.Scope)
	return nil
}

// resetShared takes a shared look back, or properties of it. One in use stays.
func resetShared(p *Plan, props []string, sc Scope) error {
	s := p.Env.Site.Style(sc.Name)
	if s == nil {
		return diag.Unknown("shared look", sc.Name, p.Env.StyleNames(), "")
	}
	p.touchUsers(sc.Name)
	if len(props) == 0 {
		if users := p.usersOf(sc.Name); len(users) > 0 {
			return fmt.Errorf("the shared look %s is in use: %s; take it off there first", sc.Name,
				strings.Join(users, ", "))
		}
		path := site.Keys("looks", sc.Name)
		if len(p.Env.Site.Styles) == 1 {
			path = path[:1]
		}
		p.edit(site.FileName, site.Edit{Op: site.Delete, Path: path})
		p.Done = "removed the shared look " + sc.Name
		return nil
	}
	for _, name := range props {
		name, _, _ = strings.Cut(name, "=")
		if s.Value.Get(name) == nil {
			return diag.Unknown("property", name, s.Value.Keys(), " in "+sc.Name)
		}
		p.edit(site.FileName, site.Edit{Op: site.Delete, Path: site.Keys("looks", sc.Name, name)})
	}
	p.Done = "reset " + strings.Join(props, ", ") + " of the shared look " + sc.Name + p.users(sc.Name)
	return nil
}

func resetStyle(p *Plan, on *Styled, props []string, sc Scope) error {
	scope := sc.Scope
	if sc.Of != "block" {
		scope = sc.Of
	}
	if scope == "look" {
		return resetShared(p, props, sc)
	}
	h, err := sc.home(p, on, scope)
	if err != nil {
		return err
	}
	keys := resetKeys(h.style, on.Target)
	if len(keys) == 0 {
		return fmt.Errorf("%s of %s has no style of its own", on.Target, scopeName(on, scope))
	}
	for _, name := range props {
		name, _, _ = strings.Cut(name, "=")
		var known []string
		for _, key := range keys {
			known = append(known, h.style.Get(key).Keys()...)
		}
		if !slices.Contains(known, name) {
			return diag.Unknown("own property", name, known, " on "+on.Target.String())
		}
	}
	var also []string
	left := len(h.style.Entries)
	for _, key := range keys {
		own := h.style.Get(key)
		gone := own.Entries
		if len(props) > 0 {
			gone = nil
			for _, name := range props {
				if name, _, _ = strings.Cut(name, "="); own.Get(name) != nil {
					gone = append(gone, site.Entry{Key: name})
				}
			}
		}
		if len(gone) == 0 {
			continue
		}
		if len(gone) == len(own.Entries) {
			left--
		}
		if left == 0 { // nothing is left of the map: it goes as a whole, and what was to go of it with it
			p.edits[h.file] = slices.DeleteFunc(p.edits[h.file],
				func(e site.Edit) bool { return strings.HasPrefix(e.Path.String(), h.path.String()+".") })
			h.style = site.NewMap(key, own)
		}
		p.deleteStyle(h, key, own, gone)
		if key != styles.StyleKey(h.style, on.Target) {
			also = append(also, key)
		}
	}
	p.Done = fmt.Sprintf("reset %s", p.reach(on, scope))
	if len(also) > 0 {
		p.Done += "; also of " + strings.Join(also, ", ")
	}
	p.touchScope(on, scope)
	return nil
}

// styleFrom takes the looks of one part to a shared look, a section or page, or another part.
func styleFrom(p *Plan, on *Styled, sc Scope) error {
	src, err := FindStyled(p.Env, sc.From, Scope{})
	if err != nil {
		return err
	}
	list := ownStyles(src.Block.Style, src.Target)
	if len(list) == 0 {
		return fmt.Errorf("%s has no style of its own", sc.From)
	}
	if sc.Scope != "look" {
		if on == nil {
			on = src
		}
		if on == src && sc.Scope == "block" {
			return errors.New("to where? name another part, or --for page, section or look NAME")
		}
		for _, e := range list {
			t, _ := styles.ParseTarget(e.Key)
			to := *on
			to.Target = t
			to.Target.Part, to.Target.Index, to.Target.Place = on.Target.Part, on.Target.Index, on.Target.Place
			h, err := sc.home(p, &to, sc.Scope)
			if err != nil {
				return err
			}
			p.putAll(h, styles.StyleKey(h.style, to.Target), e.Value.Entries)
		}
		p.Done = fmt.Sprintf("styled %s as %s is", p.reach(on, sc.Scope), sc.From)
		p.touchScope(on, sc.Scope)
		return nil
	}
	if p.Env.Site.Style(sc.Name) != nil {
		return fmt.Errorf("there is a shared look %s already; take another name, or change it: ziegel style PROPERTY=VALUE --for look %s", sc.Name, sc.Name)
	}
	whole := &site.Value{Kind: site.Map}
	for _, e := range list {
		t, _ := styles.ParseTarget(e.Key)
		tail := strings.TrimSpace(t.Tail())
		if tail == "" {
			whole.Entries = append(whole.Entries, plainEntries(e.Value)...)
		} else {
			whole.Entries = append(whole.Entries, site.Entry{Key: tail, Value: e.Value.Clone()})
		}
		p.edit(src.Block.File.Path, site.Edit{Op: site.Delete, Path: site.Keys(src.Block.Path, "style", e.Key)})
	}
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("looks", sc.Name), Value: whole})
	p.edit(src.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(src.Block.Path, "style", src.Target.Element(),
		"use"), Value: useList(styles.UsedBy(firstPlain(list)), sc.Name)})
	p.Done = fmt.Sprintf("made the shared look %s of %s/%s.%s, which uses it now", sc.Name, src.Page.Name,
		src.Block.Name, src.Target.Element())
	for _, like := range p.lookalikes(src, list) {
		p.note("%s looks the same: `ziegel style %s --reset` and `ziegel style %s use=%s`", like, like, like, sc.Name)
	}
	p.Touch(src.Page.Name, src.Block.Name)
	return nil
}
