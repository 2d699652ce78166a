package css

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"
)

// NewStyler returns a Styler; call SetMedia before Style.
func NewStyler(d *Document) *Styler {
	s := &Styler{doc: d, truth: make([]bool, len(d.conditions)), slots: make([]slot, len(d.Elements)),
		pseudos: map[string][]slot{}, rootSize: 16, base: initialStyle, initial: initialStyle, parsed: map[string]parsedValue{},
		queries: map[string]*query{}}
	return s
}

// SetMedia sets the viewport for the styles that follow.
func (s *Styler) SetMedia(m Media) {
	s.media = m
	size := 16.0
	if m.Text != 0 {
		size = m.Text
	}
	if size *= m.zoom(); s.base.FontSize != size {
		in := *s.base.Inherited
		in.FontSize, in.Zoom = size, m.Zoom
		s.base.Inherited = &in
	}
	if z := m.zoom(); s.initial.FontSize != 16*z {
		in := *initialInherited
		in.FontSize, in.Zoom = in.FontSize*z, m.Zoom
		s.initial = initialStyle
		s.initial.Inherited = &in
		for i := range s.initial.BorderWidth {
			s.initial.BorderWidth[i] *= z
		}
	}
	for i, c := range s.doc.conditions {
		if !c.container {
			s.truth[i] = m.eval(c.query)
		}
	}
}

func bit(on bool) int {
	if on {
		return 1
	}
	return 0
}

// Zoom is how many device pixels a CSS px takes.
func (s *Styler) Zoom() float64 { return s.media.zoom() }

// MatchesMedia answers a media query list at the viewport in force.
func (s *Styler) MatchesMedia(text string) bool {
	q, ok := s.queries[text]
	if !ok {
		q = parseMediaList(Tokenize(text)).prepare()
		s.queries[text] = q
	}
	return s.media.eval(q)
}

// SourceSize evaluates the sizes attribute of a picture at the viewport in force, CSS px: 100vw when nothing fits.
func (s *Styler) SourceSize(sizes string) float64 {
	c := &unitContext{fontSize: 16, rootSize: 16, lineHeight: 19.2, vw: float64(s.media.Width),
		vh: float64(s.media.Height), cqw: float64(s.media.Width), cqh: float64(s.media.Height)}
	for _, part := range SplitCommas(Tokenize(sizes)) {
		values := split(part)
		if len(values) == 0 {
			continue
		}
		size := values[len(values)-1] // conditions stand before it
		if cond := trim(trim(part)[:len(trim(part))-len(size)]); len(cond) > 0 && !s.MatchesMedia(Text(cond)) {
			continue
		}
		if e, ok := parseExpr(size, exprLength); ok {
			return e.compute(c).Px
		}
	}
	return float64(s.media.Width)
}

// Root returns the style that the root element inherits from.
func (s *Styler) Root() *Style { return &s.base }

// Style returns the computed style of an element. The root element must come first at every viewport.
func (s *Styler) Style(e *Element, parent *Style, containers []Container) *Style {
	st := s.resolve(&s.slots[e.Index], e, e.matched, parent, containers)
	if e.Parent == nil {
		own := st.ZoomFactor() / s.media.zoom()
		s.rootSize, s.rootLine, s.root = st.FontSize/own, s.lineHeight(st)/own, *st
	}
	return st
}

// Pseudo returns the style of ::before, ::after or another pseudo-element, nil when no rule speaks of it.
func (s *Styler) Pseudo(e *Element, name string, parent *Style, containers []Container) *Style {
	list := e.pseudo[name]
	if len(list) == 0 {
		return nil
	}
	if s.pseudos[name] == nil {
		s.pseudos[name] = make([]slot, len(s.doc.Elements))
	}
	st := s.resolve(&s.pseudos[name][e.Index], e, list, parent, containers)
	if name == "first-letter" {
		st.asLetter()
	}
	return st
}

// InitialStyle gives the initial values of all properties.
func InitialStyle() *Style { return &initialStyle }

// asLetter takes from the style of a first letter what does not apply to one (css-pseudo-4, section 2.2.2).
func (st *Style) asLetter() {
	i := &initialStyle
	st.Display, st.Position, st.Inset = Inline, i.Position, i.Inset
	if st.Float != 0 {
		st.Display, st.VerticalAlign = Block, i.VerticalAlign
	}
	st.Width, st.MinW, st.MaxW, st.Height, st.MinH, st.MaxH = i.Width, i.MinW, i.MaxW, i.Height, i.MinH, i.MaxH
	st.OverflowX, st.OverflowY, st.AspectRatio, st.Clear = i.OverflowX, i.OverflowY, 0, i.Clear
	st.TextTrim = i.TextTrim
}

// Anonymous returns the style of an anonymous box inside parent.
func (s *Styler) Anonymous(parent *Style, d Display) *Style {
	st := s.initial
	st.Inherited = parent.Inherited
	st.Display = d
	st.spec = parent.spec
	return &st
}

// resolve gives the style of an element or pseudo-element in the present state of all conditions. A style that it has
// already is given again when nothing has changed that it follows from; when only the room has, the values that follow
// the room are computed anew.
func (s *Styler) resolve(sl *slot, e *Element, list []match, parent *Style, containers []Container) *Style {
	inVars := noVars
	if parent.spec != nil {
		inVars = parent.spec.vars
	}
	spec := s.specifiedIn(sl, e, list, specKey{s.stateOf(e, containers, inVars), inVars, Way{parent.RTL, parent.Mode}})
	k, cq := s.keyOf(spec, parent, containers)
	if sl.style != nil && sl.last == k {
		return sl.style
	}
	next, old := sl.fresh(), sl.style
	fresh := old == nil || spec.usesParent || sl.last.spec != spec || sl.last.inherited != k.inherited ||
		sl.last.root != k.root
	if fresh {
		s.compute(next, spec, parent, cq)
		sl.was, sl.last, sl.spare, sl.style = sl.last, k, old, next
		return next
	}
	// Only the room has changed: two styles take turns, so that most of next is as it should be when it was made for
	// the same.
	ready := sl.spare != nil && sl.was.spec == spec && sl.was.inherited == k.inherited && sl.was.root == k.root
	before := sl.last
	sl.last, sl.spare = k, next
	next.Inherited, next.spec = old.Inherited, spec
	if spec.fluidInherit {
		s.tried = *old.Inherited
		next.Inherited = &s.tried
	}
	s.setFluid(next, parent, cq)
	if spec.agree(next, old) {
		return old
	}
	if spec.fluidInherit {
		s.compute(next, spec, parent, cq)
	} else {
		if !ready {
			*next = *old
			s.setFluid(next, parent, cq)
		}
		s.versions++
		next.Version = s.versions
		s.adjust(next)
	}
	sl.was, sl.spare, sl.style = before, old, next
	return next
}

// stateOf tells which conditions of an element's rules hold now.
func (s *Styler) stateOf(e *Element, containers []Container, inVars *vars) stateMask {
	var mask stateMask
	var rest []byte
	for i, c := range e.conds {
		on := s.truth[c]
		if cond := s.doc.conditions[c]; cond.container {
			on = cond.evalContainer(containers, s.rootSize, inVars)
		}
		switch {
		case i >= 256:
			rest = append(rest, "01"[bit(on)])
		case on:
			mask.first[i>>6] |= 1 << (uint(i) & 63)
		}
	}
	mask.rest = string(rest)
	return mask
}

// specifiedIn gives the specified values in one state, cascaded when the state is met for the first time.
func (s *Styler) specifiedIn(sl *slot, e *Element, list []match, key specKey) *specified {
	if sl.spec != nil && sl.key == key {
		return sl.spec
	}
	spec := sl.specs[key]
	if spec == nil {
		spec = s.cascade(e, list, key)
		if sl.specs == nil {
			sl.specs = map[specKey]*specified{}
		}
		sl.specs[key] = spec
	}
	sl.key, sl.spec = key, spec
	return spec
}

// keyOf names all that a style follows from, and gives the size that container units refer to.
func (s *Styler) keyOf(spec *specified, parent *Style, containers []Container) (k styleKey, cq [2]float64) {
	cq = [2]float64{float64(s.media.Width) * s.media.zoom(), float64(s.media.Height) * s.media.zoom()}
	for _, c := range containers {
		cq[0] = c.Width
		if c.Sized {
			cq[1] = c.Height
		}
	}
	k = styleKey{spec: spec, inherited: parent.Inherited, root: s.rootSize}
	if spec.fluid&unitsOfView != 0 {
		k.vw = float64(s.media.Width)
	}
	if spec.fluid&unitsOfBox != 0 {
		k.cq = cq
	}
	if spec.usesParent {
		k.parent = parent
	}
	return k, cq
}

// ranked is a declaration in the order of the cascade.
type ranked struct {
	decl *declaration
	rule *rule
}

func (r ranked) ua() bool   { return r.rule.ua }
func (r ranked) layer() int { return r.rule.layer.order }

// ranking puts the declarations of matched rules in the order in which later ones win (CSS Cascade 5, "Cascade
// Sorting Order"). Important ones win from the first layer to the last, the browser's own over all.
func ranking(list []match) []ranked {
	var order, important []ranked
	for _, m := range list {
		for _, d := range m.rule.decls {
			if d.important {
				important = append(important, ranked{d, m.rule})
				continue
			}
			order = append(order, ranked{d, m.rule})
		}
	}
	sort.SliceStable(important, func(i, j int) bool {
		a, b := important[i], important[j]
		if a.ua() != b.ua() {
			return b.ua()
		}
		return a.layer() > b.layer()
	})
	return append(order, important...)
}

// applies reports whether the conditions of a rule hold for an element in one state of its conditions.
func (r *rule) applies(e *Element, mask stateMask) bool {
	for _, c := range r.conds {
		if !mask.has(sort.SearchInts(e.conds, c)) {
			return false
		}
	}
	return true
}

// winner is the declaration that wins a longhand, with the one that would without it.
type winner struct {
	pl    parsedLonghand
	decl  *declaration
	ua    bool
	layer int
	below *winner
}

// rollsBack reports whether revert or revert-layer takes a weaker declaration away as well (CSS Cascade 5, "Rolling
// Back Cascade Layers"; measured: an important one takes all down to its own layer's plain ones).
func (w *winner) rollsBack(weaker *winner) bool {
	switch {
	case w == weaker:
		return true
	case weaker.ua != w.ua:
		return false
	case w.pl.wide == "revert" || w.decl.important && weaker.decl.important:
		return true
	case w.decl.important:
		return weaker.layer >= w.layer
	}
	return weaker.layer == w.layer
}

// cascade picks the winning declaration of every property under one state of the conditions. Its vars are those of the
// parent.
func (s *Styler) cascade(e *Element, list []match, key specKey) *specified {
	mask, in := key.mask, key.vars
	if len(s.doc.registered) > 0 {
		in = s.doc.enter(in)
	}
	spec := &specified{vars: in, mask: mask, around: key.way, declared: map[string]*declaration{}}
	custom := map[string]*declaration{}
	var order []ranked
	for _, r := range ranking(list) {
		switch {
		case !r.rule.applies(e, mask):
		case strings.HasPrefix(r.decl.name, "--"):
			custom[r.decl.name] = r.decl
		default:
			order = append(order, r)
		}
	}
	if len(custom) > 0 {
		own := map[string]bool{}
		for name, decl := range custom {
			own[name] = true
			if decl.arbitrary {
				custom[name] = s.replaced(e, decl, in)
			}
		}
		spec.vars = resolveVars(custom, in)
		s.doc.settle(own, spec.vars, in)
	}
	winners := map[string]*winner{}
	way := s.wayOf(order, key.way, spec.vars)
	for _, r := range order {
		list, fluid, ok := s.computable(e, r.decl, spec.vars, way)
		if !ok {
			continue
		}
		spec.fluid |= fluid
		for _, pl := range list {
			spec.fluidInherit = spec.fluidInherit || fluid != 0 && pl.prop.inherited
			pl.fluid = fluid
			winners[pl.name] = &winner{pl, r.decl, r.ua(), r.layer(), winners[pl.name]}
		}
	}
	if w := winners["display"]; w != nil && w.pl.set != nil && (indivisible[e.Tag] || e.Tag == "fieldset") {
		say := w.pl.set
		w.pl.set = func(st *Style, c *computing) {
			switch say(st, c); {
			case e.Tag == "fieldset": // it is no part of a table (measured)
				if d := controlDisplay(st.Display); d != st.Display && st.Display != Inline {
					if st.Display = Block; d == InlineBlock && st.Outer == InlineTable {
						st.Display = d
					}
				}
			case st.Display == Contents:
				st.Display = None
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(winners)) {
		if w := winners[name].rolledBack(); w != nil {
			spec.take(w)
		}
	}
	sort.SliceStable(spec.setters,
		func(i, j int) bool {
			a, b := &spec.setters[i], &spec.setters[j]
			return a.prop.first < b.prop.first
		})
	return spec
}

// indivisible elements are nothing with display: contents (css-display-3, appendix B).
var indivisible = map[string]bool{"br": true, "wbr": true, "meter": true, "progress": true, "canvas": true,
	"embed": true, "object": true, "audio": true, "iframe": true, "img": true, "video": true, "frame": true,
	"frameset": true, "input": true, "textarea": true, "select": true}

// replaced gives a custom property of an element with the functions in it replaced that look at the element only; those
// of the author wait until the property is used.
func (s *Styler) replaced(e *Element, decl *declaration, in *vars) *declaration {
	if mentions(decl.value, "if(") || mentions(decl.value, "var(") {
		return decl
	}
	out := *decl
	if value, ok := (&replacing{doc: s.doc, e: e, vars: in}).replace(decl.value); ok {
		out.value = value
	}
	return &out
}

// wayOf tells how text runs in an element: logical properties look at it. around is how it does around it.
func (s *Styler) wayOf(order []ranked, around Way, in *vars) Way {
	way := around
	for _, r := range order {
		mode := r.decl.name == "writing-mode" || r.decl.name == "-webkit-writing-mode"
		if r.decl.name != "direction" && !mode {
			continue
		}
		v, _, ok := substitute(r.decl.value, in, nil)
		w := ident(trim(v))
		known, isMode := modes[w]
		switch {
		case !ok:
		case mode && isMode:
			way.Mode = known
		case mode && w == "initial":
			way.Mode = Horizontal
		case mode && wideKeywords[w]:
			way.Mode = around.Mode
		case mode:
		case w == "rtl" || w == "ltr":
			way.RTL = w == "rtl"
		case w == "initial":
			way.RTL = false
		case wideKeywords[w]:
			way.RTL = around.RTL
		}
	}
	return way
}

// computable gives the longhands of a declaration with its variables put in, and the units in them that follow the
// room. A value that variables make invalid is unset (CSS Variables, "Invalid Variables").
func (s *Styler) computable(
	e *Element,
	d *declaration,
	in *vars,
	way Way,
) (list []parsedLonghand, fluid units, ok bool) {
	if !d.variable {
		list, ok = s.longhands(d.name, d.value, way)
		return list, d.fluid, ok
	}
	value, fluid, good := substitute(d.value, in, nil)
	fluid |= d.fluid
	if good && (d.arbitrary || hasArbitrary(value) && d.name != "content") {
		value, good = (&replacing{doc: s.doc, e: e, vars: in}).replace(value)
		fluid |= unitsIn(value) & unitsOfRoom
	}
	if good {
		if list, ok = s.longhands(d.name, trim(value), way); ok {
			return list, fluid, true
		}
	}
	list = nil
	for _, l := range wideLonghands(d.name) {
		l.name = physicalName(d.name, l.name, way)
		if p := longhandOf(l.name); p != nil {
			list = append(list, parsedLonghand{name: l.name, prop: p, wide: "unset"})
		}
	}
	return list, fluid, true
}

// rolledBack gives the declaration that wins when revert and revert-layer have taken others away; nil for none.
func (w *winner) rolledBack() *winner {
	for w != nil && (w.pl.wide == "revert" && !w.ua || w.pl.wide == "revert-layer") {
		from := w
		for w != nil && from.rollsBack(w) {
			w = w.below
		}
	}
	return w
}

// take takes in the winner of a property.
func (spec *specified) take(w *winner) {
	spec.declared[w.pl.name] = w.decl
	if w.pl.prop.unused {
		spec.keep(w.pl)
		return
	}
	spec.setters = append(spec.setters, w.pl)
	if w.pl.name == "zoom" && w.pl.wide == "" {
		var st Style
		w.pl.set(&st, &computing{})
		spec.zoom = st.ownZoom
	}
	if w.pl.prop.inherited {
		spec.setsInherits = true
	} else if w.pl.wide == "inherit" {
		spec.usesParent = true
	}
}

// longhands parses a declaration once for this Styler, however many elements it reaches: what it yields may keep
// memos.
func (s *Styler) longhands(name string, value []Token, way Way) ([]parsedLonghand, bool) {
	way.RTL = way.RTL && logicalName(name)
	key := name + ":" + Text(value)
	if way != (Way{}) {
		key = fmt.Sprint(way) + key
	}
	if p, ok := s.parsed[key]; ok {
		return p.list, p.ok
	}
	list, ok := parseLonghands(name, value, way)
	s.parsed[key] = parsedValue{list, ok}
	return list, ok
}

// Declared tells where the winning declaration of a property stands: sheet and byte offset. ok is false when nothing
// but the browser's own stylesheet set it.
func (s *Style) Declared(name string) (sheet *Sheet, pos int, ok bool) {
	if s.spec == nil {
		return nil, 0, false
	}
	d := s.spec.declared[name]
	if d == nil || d.sheet.File == "" {
		return nil, 0, false
	}
	return d.sheet, d.pos, true
}
