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
func FindStyled(e *project.Project, where string, sc Scope) (*Styled, error) {
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
		return nil, fmt.Errorf("name a part of %s/%s: %s; or block for all of it", page.Name, b.Name,
			strings.Join(sec.Parts, ", "))
	}
	if !styles.HasPart(sec, ad.Part) {
		return nil, diag.Unknown("part", ad.Part, append(slices.Clone(sec.Parts), "block", "root"), " in "+sec.Name)
	}
	t := styles.Target{Part: ad.Part, Index: ad.Index, Place: ad.Place, At: sc.At, In: sc.In, When: sc.When}
	err = sc.conditions(e, &t)
	return &Styled{page, b, sec, t}, err
}

// conditions checks the flags that limit a style.
func (sc Scope) conditions(e *project.Project, t *styles.Target) error {
	if sc.At != "" {
		if _, _, ok := e.Span(sc.At); !ok {
			return fmt.Errorf("%w; or write widths, such as 480..719",
				diag.Unknown("range", sc.At, e.RangeNames(), ""))
		}
	}
	if sc.In != "" {
		if _, _, ok := site.ParseSpan(sc.In); !ok {
			return fmt.Errorf("--in %q is no span of widths: write ..480, 481.. or 480..719", sc.In)
		}
	}
	if sc.When != "" {
		if _, ok := styles.CanonicalWhen(sc.When); !ok {
			return diag.Unknown("arrangement", sc.When, styles.Arrangements, "")
		}
	}
	if sc.State != "" {
		s, ok := styles.CanonicalState(sc.State)
		if !ok {
			var names []string
			for _, s := range styles.States {
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
	if on.Target.Part == styles.PartBlock {
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
	if sc.Scope == "style" {
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

// styleValue checks one NAME=VALUE of a style.
func styleValue(e *project.Project, on *Styled, kv [2]string) (*site.Value, error) {
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
		if _, _, ok := styles.LaneLines(kv[1]); !ok {
			return nil, fmt.Errorf("%q is no lane and no two lines: write text, body, wide or edge, or two of them and middle, such as middle..edge", kv[1])
		}
		return site.NewText(kv[1]), nil
	}
	if problem := project.CheckProperty(e, kv[0], kv[1]); problem != nil {
		return nil, *problem
	}
	return site.NewText(kv[1]), nil
}

// setShared writes properties of a shared style, and puts it on the part if one is named.
func setShared(p *Plan, on *Styled, list [][2]string, sc Scope) error {
	t := styles.Target{Part: "part", At: sc.At, In: sc.In, When: sc.When}
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
		p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path),
			site.Keys(kv[0])...), Value: v})
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
	key := styles.StyleKey(on.Block.Style, t)
	list := &site.Value{Kind: site.List}
	var own *site.Value
	if on.Block.Style != nil {
		own = on.Block.Style.Get(key)
	}
	for _, n := range styles.UsedBy(own) {
		if n == name {
			return
		}
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	p.edit(on.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(on.Block.Path, "style", key,
		"use"), Value: list})
	p.Touch(on.Page.Name, on.Block.Name)
}

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
		return fmt.Errorf("there is a shared style %s already; take another name, or change it: ziegel style PROPERTY=VALUE --for style %s", sc.Name, sc.Name)
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
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("styles", sc.Name), Value: whole})
	p.edit(src.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(src.Block.Path, "style", src.Target.Element(),
		"use"), Value: useList(styles.UsedBy(firstPlain(list)), sc.Name)})
	p.Done = fmt.Sprintf("made the shared style %s of %s/%s.%s, which uses it now", sc.Name, src.Page.Name,
		src.Block.Name, src.Target.Element())
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
		if t, err := styles.ParseTarget(e.Key); err == nil && t.Tail() == "" {
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
	eachStyled(p.Env, func(page *site.Page, b *site.Block, t styles.Target) {
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
		t, _ := styles.ParseTarget(e.Key)
		return t.Tail()
	}
	for _, e := range a {
		if !slices.ContainsFunc(b, func(o site.Entry) bool { return tail(o) == tail(e) && o.Value.Equal(e.Value) }) {
			return false
		}
	}
	return true
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
	if sc.Scope == "style" {
		path := site.Keys("styles", sc.Name)
		if tail := strings.TrimSpace(on.Target.Tail()); tail != "" {
			path = append(path, site.Keys(tail)...)
		}
		for _, e := range moved {
			p.edit(site.FileName, site.Edit{Op: site.Set, Path: append(slices.Clone(path), site.Keys(e.Key)...),
				Value: e.Value.Clone()})
		}
		p.useOn(on, sc.Name)
		p.Done = fmt.Sprintf("moved %s of %s to the shared style %s", keysOf(moved), scopeName(on, sc.Of), sc.Name)
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

// resetKeys lists the style keys that a target means: with a state or a condition that one, without any all of the
// same part, whatever they wait for.
func resetKeys(style *site.Value, t styles.Target) []string {
	if style == nil {
		return nil
	}
	var out []string
	for _, e := range style.Entries {
		have, err := styles.ParseTarget(e.Key)
		same := have == t || t.State+t.At+t.In+t.When == "" && have.Part == t.Part && have.Index == t.Index &&
			have.Place == t.Place
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
			return fmt.Errorf("the shared style %s is in use: %s; take it off there first", sc.Name,
				strings.Join(users, ", "))
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
