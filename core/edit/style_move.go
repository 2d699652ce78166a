package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// styleFrom takes the looks of one part to a shared style, a section or page, or another part.
func styleFrom(p *Plan, on *Styled, sc Scope) error {
	src, err := FindStyled(p.Env, sc.From, Scope{})
	if err != nil {
		return err
	}
	list := ownStyles(src.Block.Style, src.Target)
	if len(list) == 0 {
		return fmt.Errorf("%s has no style of its own", sc.From)
	}
	if sc.Scope != "style" {
		if on == nil {
			on = src
		}
		if on == src && sc.Scope == "block" {
			return errors.New("to where? name another part, or --for page, section or style NAME")
		}
		for _, e := range list {
			t, _ := compose.ParseTarget(e.Key)
			to := *on
			to.Target = t
			to.Target.Part, to.Target.Index, to.Target.Place = on.Target.Part, on.Target.Index, on.Target.Place
			h, err := sc.home(p, &to, sc.Scope)
			if err != nil {
				return err
			}
			p.putAll(h, compose.StyleKey(h.style, to.Target), e.Value.Entries)
		}
		p.Done = fmt.Sprintf("styled %s as %s is", p.reach(on, sc.Scope), sc.From)
		p.touchScope(on, sc.Scope)
		return nil
	}
	if p.Env.Site.Style(sc.Name) != nil {
		return fmt.Errorf("there is a shared style %s already; take another name, or change it: ziegel style PROPERTY=VALUE --for style %s", sc.Name, sc.Name)
	}
	whole := &site.Value{Kind: site.Map}
	for _, e := range list {
		t, _ := compose.ParseTarget(e.Key)
		tail := strings.TrimSpace(t.Tail())
		if tail == "" {
			whole.Entries = append(whole.Entries, plainEntries(e.Value)...)
		} else {
			whole.Entries = append(whole.Entries, site.Entry{Key: tail, Value: e.Value.Clone()})
		}
		p.edit(src.Block.File.Path, site.Edit{Op: site.Delete, Path: site.Keys(src.Block.Path, "style", e.Key)})
	}
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("styles", sc.Name), Value: whole})
	p.edit(src.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(src.Block.Path, "style", src.Target.Element(), "use"), Value: useList(compose.UsedBy(firstPlain(list)), sc.Name)})
	p.Done = fmt.Sprintf("made the shared style %s of %s/%s.%s, which uses it now", sc.Name, src.Page.Name, src.Block.Name, src.Target.Element())
	for _, like := range p.lookalikes(src, list) {
		p.note("%s looks the same: `ziegel style %s --reset` and `ziegel style %s use=%s`", like, like, like, sc.Name)
	}
	p.Touch(src.Page.Name, src.Block.Name)
	return nil
}

func useList(have []string, name string) *site.Value {
	list := &site.Value{Kind: site.List}
	for _, n := range have {
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	return list
}

// plainEntries leaves out what a part uses.
func plainEntries(v *site.Value) []site.Entry {
	var out []site.Entry
	for _, e := range v.Clone().Entries {
		if e.Key != "use" {
			out = append(out, e)
		}
	}
	return out
}

func firstPlain(list []site.Entry) *site.Value {
	for _, e := range list {
		if t, err := compose.ParseTarget(e.Key); err == nil && t.Tail() == "" {
			return e.Value
		}
	}
	return nil
}

func (p *Plan) putAll(h home, key string, entries []site.Entry) {
	for _, e := range entries {
		p.edit(h.file, site.Edit{Op: site.Set, Path: site.Keys(h.path, key, e.Key), Value: e.Value.Clone()})
	}
}

// lookalikes lists other parts of the site whose own styles say the same.
func (p *Plan) lookalikes(src *Styled, list []site.Entry) []string {
	var out []string
	eachStyled(p.Env, func(page *site.Page, b *site.Block, t compose.Target) {
		if b.Node == src.Block.Node && t == src.Target {
			return
		}
		if sameStyles(ownStyles(b.Style, t), list) {
			out = append(out, page.Name+"/"+b.Name+"."+t.Element())
		}
	})
	return out
}

// sameStyles compares the entries of two parts, in whatever order they stand.
func sameStyles(a, b []site.Entry) bool {
	if len(a) != len(b) {
		return false
	}
	tail := func(e site.Entry) string {
		t, _ := compose.ParseTarget(e.Key)
		return t.Tail()
	}
	for _, e := range a {
		if !slices.ContainsFunc(b, func(o site.Entry) bool { return tail(o) == tail(e) && o.Value.Equal(e.Value) }) {
			return false
		}
	}
	return true
}

// eachStyled visits every part with a style of its own, once.
func eachStyled(e *compose.Env, visit func(page *site.Page, b *site.Block, t compose.Target)) {
	seen := map[*site.Value]bool{}
	for _, page := range e.Site.Pages() {
		for _, b := range e.Site.All(page) {
			if seen[b.Node] || b.Style == nil {
				continue
			}
			seen[b.Node] = true
			var done []compose.Target
			for _, en := range b.Style.Entries {
				t, err := compose.ParseTarget(en.Key)
				if err != nil {
					continue
				}
				t = compose.Target{Part: t.Part, Index: t.Index, Place: t.Place}
				if !slices.Contains(done, t) {
					done = append(done, t)
					visit(page, b, t)
				}
			}
		}
	}
}

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
	key := compose.StyleKey(from.style, on.Target)
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
	if sc.Scope == "style" {
		path := site.Keys("styles", sc.Name)
		if tail := strings.TrimSpace(on.Target.Tail()); tail != "" {
			path = append(path, site.Keys(tail)...)
		}
		for _, e := range moved {
			p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path), site.Keys(e.Key)...), Value: e.Value.Clone()})
		}
		p.useOn(on, sc.Name)
		p.Done = fmt.Sprintf("moved %s of %s to the shared style %s", keysOf(moved), scopeName(on, sc.Of), sc.Name)
		return nil
	}
	to, err := sc.home(p, on, sc.Scope)
	if err != nil {
		return err
	}
	p.putAll(to, compose.StyleKey(to.style, on.Target), moved)
	p.Done = fmt.Sprintf("moved %s from %s to %s", keysOf(moved), scopeName(on, sc.Of), p.reach(on, sc.Scope))
	p.touchScope(on, sc.Of)
	p.touchScope(on, sc.Scope)
	return nil
}

func keysOf(list []site.Entry) string {
	var names []string
	for _, e := range list {
		names = append(names, e.Key)
	}
	return strings.Join(names, ", ")
}

// deleteStyle takes entries out of a style, and the maps around them that become empty.
func (p *Plan) deleteStyle(h home, key string, own *site.Value, gone []site.Entry) {
	switch {
	case len(gone) < len(own.Entries):
		for _, e := range gone {
			p.edit(h.file, site.Edit{Op: site.Delete, Path: site.Keys(h.path, key, e.Key)})
		}
	case len(h.style.Entries) > 1:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: site.Keys(h.path, key)})
	case h.path[0].Key == "defaults" && len(p.defaultOf(h).Entries) > 1, h.path[0].Key != "defaults":
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path})
	case len(p.defaultsOf(h)) > 1:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path[:2]})
	default:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path[:1]})
	}
}

func (p *Plan) defaultsOf(h home) []site.Default {
	if h.file == site.FileName {
		return p.Env.Site.Defaults
	}
	for _, page := range p.Env.Site.Pages() {
		if page.File.Path == h.file {
			return page.Defaults
		}
	}
	return nil
}

func (p *Plan) defaultOf(h home) *site.Value {
	if d := site.DefaultFor(p.defaultsOf(h), h.path[1].Key); d != nil {
		return d.Node
	}
	return &site.Value{}
}

func resetStyle(p *Plan, on *Styled, props []string, sc Scope) error {
	scope := sc.Scope
	if sc.Of != "block" {
		scope = sc.Of
	}
	if scope == "style" {
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
			p.edits[h.file] = slices.DeleteFunc(p.edits[h.file], func(e site.Edit) bool { return strings.HasPrefix(e.Path.String(), h.path.String()+".") })
			h.style = site.NewMap(key, own)
		}
		p.deleteStyle(h, key, own, gone)
		if key != compose.StyleKey(h.style, on.Target) {
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

// resetKeys lists the style keys that a target means: with a state or a condition that one, without any all of the
// same part, whatever they wait for.
func resetKeys(style *site.Value, t compose.Target) []string {
	if style == nil {
		return nil
	}
	var out []string
	for _, e := range style.Entries {
		have, err := compose.ParseTarget(e.Key)
		same := have == t || t.State+t.At+t.In+t.When == "" && have.Part == t.Part && have.Index == t.Index && have.Place == t.Place
		if err == nil && same {
			out = append(out, e.Key)
		}
	}
	return out
}

// resetShared takes a shared style back, or properties of it. One in use stays.
func resetShared(p *Plan, props []string, sc Scope) error {
	s := p.Env.Site.Style(sc.Name)
	if s == nil {
		return diag.Unknown("shared style", sc.Name, p.Env.StyleNames(), "")
	}
	p.touchUsers(sc.Name)
	if len(props) == 0 {
		if users := p.usersOf(sc.Name); len(users) > 0 {
			return fmt.Errorf("the shared style %s is in use: %s; take it off there first", sc.Name, strings.Join(users, ", "))
		}
		path := site.Keys("styles", sc.Name)
		if len(p.Env.Site.Styles) == 1 {
			path = path[:1]
		}
		p.edit(site.FileName, site.Edit{Op: site.Delete, Path: path})
		p.Done = "removed the shared style " + sc.Name
		return nil
	}
	for _, name := range props {
		name, _, _ = strings.Cut(name, "=")
		if s.Value.Get(name) == nil {
			return diag.Unknown("property", name, s.Value.Keys(), " in "+sc.Name)
		}
		p.edit(site.FileName, site.Edit{Op: site.Delete, Path: site.Keys("styles", sc.Name, name)})
	}
	p.Done = "reset " + strings.Join(props, ", ") + " of the shared style " + sc.Name + p.users(sc.Name)
	return nil
}
