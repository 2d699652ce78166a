// Package review looks through the styles that a site has: what does nothing, is written twice, serves nobody, names
// a font that is not there.
package review

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
	"ziegel/core/theme"
)

// Remark is something that a review of a site's styles points out.
type Remark struct {
	Kind string   `json:"kind"` // no-effect, repeated, nearly-alike, same-look, unused-style
	Text string   `json:"text"`
	At   []string `json:"at"` // FILE:LINE:COLUMN
	Try  string   `json:"try,omitempty"`

	Of []Written `json:"-"` // what it is about, in the order of At
}

// Written is one property that a style writes.
type Written struct {
	Target   styles.Target
	Property string
}

// reviewWidths are the screen widths at which the effect of a style is looked for, CSS px, beside those that it
// speaks of.
var reviewWidths = []int{320, 390, 600, 768, 900, 1024, 1280, 1920}

// Review looks through the styles of a site: what does nothing, what is written by hand more than once or nearly
// alike, parts that look the same without sharing a style, and shared looks that nothing uses.
func Review(e *project.Project) []Remark {
	v := &reviewer{env: e}
	v.collect()
	v.effects()
	v.repeated()
	v.alike()
	v.sameLooks()
	v.unused()
	return v.out
}

// Effects points out the styles of one block that change nothing.
func Effects(e *project.Project, page, block string) []Remark {
	v := &reviewer{env: e}
	v.collect()
	v.spots = slices.DeleteFunc(v.spots, func(s spot) bool {
		return s.block == nil || s.page.Name != page ||
			s.block.Name != block
	})
	v.effects()
	return v.out
}

// spot is one property that a page or the site writes.
type spot struct {
	where  string // home/plans.card
	page   *site.Page
	block  *site.Block // nil for defaults and shared looks
	target styles.Target
	entry  site.Entry
}

func (s spot) at() string { return s.entry.KeyPos.String() }

type reviewer struct {
	env   *project.Project
	spots []spot
	out   []Remark

	blocks map[string]*tried // by page and block
}

func (v *reviewer) collect() {
	seen := map[*site.Value]bool{}
	add := func(where string, page *site.Page, b *site.Block, style *site.Value) {
		if style == nil || seen[style] {
			return
		}
		seen[style] = true
		for _, e := range style.Entries {
			t, err := styles.ParseTarget(e.Key)
			if err != nil {
				continue
			}
			for _, p := range e.Value.Entries {
				if p.Key != "use" {
					v.spots = append(v.spots, spot{where + "." + t.String(), page, b, t, p})
				}
			}
		}
	}
	for _, p := range v.env.Site.Pages() {
		for _, b := range v.env.Site.All(p) {
			add(p.Name+"/"+b.Name, p, b, b.Style)
		}
		for i := range p.Defaults {
			add("every "+p.Defaults[i].Section+" on "+p.Name, p, nil, p.Defaults[i].Style)
		}
	}
	for i := range v.env.Site.Defaults {
		add("every "+v.env.Site.Defaults[i].Section, nil, nil, v.env.Site.Defaults[i].Style)
	}
	for _, s := range v.env.Site.Styles {
		for _, p := range s.Value.Entries {
			if p.Value.Kind == site.Text {
				v.spots = append(v.spots, spot{where: "the shared look " + s.Name, entry: p})
				continue
			}
			for _, k := range p.Value.Entries {
				v.spots = append(v.spots, spot{where: "the shared look " + s.Name, entry: k})
			}
		}
	}
}

// tried is a block composed by itself, with its layouts at some widths, at rest and in states.
type tried struct {
	rest   *sweep.Prepared
	states map[string]*sweep.Prepared
	at     map[*sweep.Prepared]map[int]*layout.Result
}

// in gives the block with every element in some states, named with their colons; those that the markup decides are
// left to it.
func (b *tried) in(states string) *sweep.Prepared {
	if states == "" {
		return b.rest
	}
	if b.states[states] == nil {
		with, err := b.rest.In(strings.FieldsFunc(states, func(r rune) bool { return r == ':' })...)
		if err != nil {
			return b.rest
		}
		b.states[states] = with
	}
	return b.states[states]
}

func (b *tried) layout(l *sweep.Prepared, width int) *layout.Result {
	if b.at[l] == nil {
		b.at[l] = map[int]*layout.Result{}
	}
	if b.at[l][width] == nil {
		b.at[l][width] = l.Engine().Layout(width)
	}
	return b.at[l][width]
}

// look composes a block for the review, once.
func (v *reviewer) look(s spot) *tried {
	key := s.page.Name + "/" + s.block.Name
	if v.blocks[key] == nil {
		composed, _ := measure.Page(v.env, s.page, compose.Options{Marks: true, Only: []string{s.block.Name}})
		l, err := sweep.FromPage(v.env, composed)
		if err != nil {
			return nil
		}
		v.blocks[key] = &tried{rest: l, states: map[string]*sweep.Prepared{},
			at: map[*sweep.Prepared]map[int]*layout.Result{}}
	}
	return v.blocks[key]
}

// effects finds overrides of blocks that change nothing.
func (v *reviewer) effects() {
	v.blocks = map[string]*tried{}
	for _, s := range v.spots {
		if s.block == nil {
			continue
		}
		b := v.look(s)
		if b == nil {
			continue
		}
		states, pseudo, sure := readState(s.target.State)
		l := b.in(states)
		list := explain.Find(l, s.block.Name, s.target.Part, s.target.Index)
		if len(list) == 0 {
			v.add("no-effect", fmt.Sprintf("%s: there is no %s with this content, so %s does nothing", s.where,
				s.target.Element(), s.entry.Key), "", s)
			continue
		}
		widths := slices.Clone(reviewWidths)
		if from, to, ok := v.env.Span(s.target.At); s.target.At != "" && ok {
			widths = append(widths, max(from, 240), max(to, from))
		}
		if from, to, ok := site.ParseSpan(s.target.In); s.target.In != "" && ok {
			widths = append(widths, max(from, 240), max(to, from))
		}
		wins, same, below := false, true, ""
		for _, w := range widths {
			r := b.layout(l, w)
			for _, el := range list {
				found := v.effect(l, r, el, pseudo, s)
				wins = wins || found.wins
				sure = sure || found.there // its rule was seen to hold
				same = same && (!found.wins || found.twin != "")
				if found.twin != "" {
					below = found.twin
				}
			}
		}
		switch {
		case !wins && sure:
			v.add("no-effect", fmt.Sprintf("%s: %s never wins; `ziegel explain` tells what does", s.where,
				s.entry.Key), "", s)
		case wins && same && below != "":
			v.add("no-effect", fmt.Sprintf("%s: %s says what %s says anyway", s.where, s.entry.Key, below), "", s)
		}
	}
}

// readState splits the states of a style key from its pseudo-element. sure is false when the markup must be in a
// state of its own, such as checked: that no element is in it at rest says nothing.
func readState(state string) (states, pseudo string, sure bool) {
	sure = true
	for _, name := range strings.FieldsFunc(state, func(r rune) bool { return r == ':' }) {
		canonical, ok := styles.CanonicalState(name)
		switch {
		case !ok:
			sure = false
		case strings.HasPrefix(canonical, "::"):
			pseudo = canonical[2:]
		default:
			states += canonical
			sure = sure && (canonical == ":hover" || strings.HasPrefix(canonical, ":focus") || canonical == ":active")
		}
	}
	return states, pseudo, sure
}

// effect is what a style of the site does on one element.
type effect struct {
	there bool // its rule holds
	wins  bool
	twin  string // who below it says the same
}

// effect tells whether a property of the site wins on an element in a layout.
func (v *reviewer) effect(l *sweep.Prepared, r *layout.Result, el *css.Element, pseudo string, s spot) effect {
	p := r.Of(el)
	if p == nil {
		return effect{wins: s.entry.Key == "display"}
	}
	property := s.entry.Key
	if property == "lane" {
		property = "--lane"
	}
	links := explain.ChainOn(l, explain.Styled{Doc: l.Doc, Element: el, Pseudo: pseudo, Style: p.Style}, property)
	out := effect{}
	var mine *explain.Link
	for i := range links {
		if k := &links[i]; k.At == s.at() {
			out.there = out.there || k.Why != explain.NotHere
			if k.Wins && mine == nil {
				mine = k
			}
		}
	}
	if mine == nil {
		return out
	}
	out.wins = true
	for i := range links {
		if k := &links[i]; !k.Wins && k.Why != explain.NotHere {
			if resolved(k) == resolved(mine) && k.Property == mine.Property {
				out.twin = k.Who
			}
			break
		}
	}
	return out
}

func resolved(k *explain.Link) string {
	if k.Resolved != "" {
		return k.Resolved
	}
	return k.Value
}

func (v *reviewer) add(kind, text, try string, spots ...spot) {
	r := Remark{Kind: kind, Text: text, Try: try}
	for _, s := range spots {
		r.At = append(r.At, s.at())
		r.Of = append(r.Of, Written{s.target, s.entry.Key})
	}
	v.out = append(v.out, r)
}

// families are properties whose values come from one scale.
var families = map[string]string{"font-size": "type", "border-radius": "radius", "color": "color",
	"background": "color", "background-color": "color", "border-color": "color"}

func familyOf(property string) string {
	if f := families[property]; f != "" {
		return f
	}
	for _, p := range []string{"padding", "margin", "gap", "row-gap", "column-gap"} {
		if property == p || strings.HasPrefix(property, p+"-") {
			return "space"
		}
	}
	return ""
}

var handLength = regexp.MustCompile(`^(-?[0-9.]+)(px|rem)$`)

// handAmount reads a length that was written by hand, CSS px.
func handAmount(value string) (float64, bool) {
	m := handLength.FindStringSubmatch(strings.TrimSpace(value))
	if m == nil {
		return 0, false
	}
	n, err := strconv.ParseFloat(m[1], 64)
	if m[2] == "rem" {
		n *= 16
	}
	return n, err == nil && n != 0
}

// repeated finds values that are written by hand more than once.
func (v *reviewer) repeated() {
	groups := map[string][]spot{}
	for _, s := range v.spots {
		value := strings.TrimSpace(s.entry.Value.Str())
		family := familyOf(s.entry.Key)
		noToken := family == "" || strings.Contains(value, "{") || value == "0" || value == "auto" || value == "none" ||
			value == "inherit"
		if noToken {
			continue
		}
		if n, ok := handAmount(value); ok {
			value = strconv.FormatFloat(n, 'f', -1, 64) + "px"
		}
		groups[family+" "+value] = append(groups[family+" "+value], s)
	}
	for _, key := range sortedKeys(groups) {
		list := groups[key]
		if len(list) < 2 {
			continue
		}
		family, _, _ := strings.Cut(key, " ")
		value := list[0].entry.Value.Str()
		try := "a shared look"
		if t := v.token(family, value, 0, list...); t != "" {
			try = t
		}
		v.add("repeated", fmt.Sprintf("%s is written by hand %d times: %s", value, len(list),
			places(list)), try, list...)
	}
}

func places(list []spot) string {
	var out []string
	for _, s := range list {
		out = append(out, s.where+" "+s.entry.Key)
	}
	if len(out) > 4 {
		out = append(out[:4], fmt.Sprintf("and %d more", len(list)-4))
	}
	return strings.Join(out, ", ")
}

func sortedKeys[V any](m map[string]V) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

// token finds a token of a family with a value, or one that is at most slack px away. A color is that of its role in
// the tones of all spots.
func (v *reviewer) token(family, value string, slack float64, spots ...spot) string {
	want, isLength := handAmount(value)
	if family == "color" && !isLength {
		return v.role(value, spots)
	}
	best, at := "", math.Inf(1)
	for _, t := range v.env.Theme.Tokens {
		if !strings.HasPrefix(t.Name, family+".") {
			continue
		}
		if n, ok := largest(t.Value); ok && math.Abs(n-want) < at {
			best, at = t.Name, math.Abs(n-want)
		}
	}
	if best != "" && at <= slack {
		return "{" + best + "}"
	}
	return ""
}

// role finds the role that has a color in the tone of every spot.
func (v *reviewer) role(value string, spots []spot) string {
	want, ok := css.ParseColor(css.Tokenize(value), css.ColorContext{})
	if !ok {
		return ""
	}
	in := func(tone, role string) bool {
		t, _ := v.env.Theme.Token("color." + tone + "." + role)
		c, ok := css.ParseColor(css.Tokenize(t.Value), css.ColorContext{})
		return ok && c.Hex() == want.Hex() && c.A == want.A
	}
	roles := slices.Clone(theme.Roles) // those that every tone has first
	for _, t := range v.env.Theme.Tokens {
		if role, ok := strings.CutPrefix(t.Name, "color.plain."); ok && !slices.Contains(roles, role) {
			roles = append(roles, role)
		}
	}
	for _, role := range roles {
		if !slices.ContainsFunc(spots, func(s spot) bool { return !in(toneOf(s), role) }) {
			return "{color." + role + "}"
		}
	}
	return ""
}

func toneOf(s spot) string {
	if s.block == nil || s.block.Tone == "" {
		return "plain"
	}
	return s.block.Tone
}

var anyLength = regexp.MustCompile(`([0-9.]+)(px|rem)`)

// largest gives the length of a token on wide screens, CSS px.
func largest(value string) (float64, bool) {
	all := anyLength.FindAllString(value, -1)
	if len(all) == 0 {
		return 0, false
	}
	return handAmount(all[len(all)-1])
}

// alike finds lengths of one scale that differ by so little that one was meant.
func (v *reviewer) alike() {
	type seen struct {
		n    float64
		list []spot
	}
	byFamily := map[string][]seen{}
	for _, s := range v.spots {
		family := familyOf(s.entry.Key)
		n, ok := handAmount(s.entry.Value.Str())
		if family == "" || !ok {
			continue
		}
		list := byFamily[family]
		i := slices.IndexFunc(list, func(x seen) bool { return x.n == n })
		if i < 0 {
			list = append(list, seen{n, nil})
			i = len(list) - 1
		}
		list[i].list = append(list[i].list, s)
		byFamily[family] = list
	}
	for _, family := range sortedKeys(byFamily) {
		list := byFamily[family]
		sort.Slice(list, func(i, j int) bool { return list[i].n < list[j].n })
		for i := 0; i < len(list); {
			j := i
			for j+1 < len(list) && list[j+1].n-list[j].n <= max(1.01, list[j].n*.05) {
				j++
			}
			if j > i {
				var values []string
				var all []spot
				for _, x := range list[i : j+1] {
					values = append(values, strconv.FormatFloat(x.n, 'f', -1, 64))
					all = append(all, x.list...)
				}
				middle := list[(i+j)/2].n
				try := v.token(family, fmt.Sprintf("%gpx", middle), max(2, middle*.1))
				if try == "" {
					try = strconv.FormatFloat(middle, 'f', -1, 64) + "px for all, or a shared look"
				}
				v.add("nearly-alike", fmt.Sprintf("%s px are nearly alike: %s", strings.Join(values, ", "),
					places(all)), try, all...)
			}
			i = j + 1
		}
	}
}

// sameLooks finds parts that have the same styles without sharing one.
func (v *reviewer) sameLooks() {
	type look struct {
		key   site.Entry
		where string
	}
	groups := map[string][]look{}
	seen := map[*site.Value]bool{}
	for _, p := range v.env.Site.Pages() {
		for _, b := range v.env.Site.All(p) {
			if b.Style == nil || seen[b.Style] {
				continue
			}
			seen[b.Style] = true
			for _, e := range b.Style.Entries {
				if e.Value.Kind != site.Map || len(e.Value.Entries) < 2 || e.Value.Get("use") != nil {
					continue
				}
				lines := make([]string, 0, len(e.Value.Entries))
				for _, x := range e.Value.Entries {
					lines = append(lines, x.Key+":"+x.Value.Str())
				}
				sort.Strings(lines)
				k := strings.Join(lines, ";")
				groups[k] = append(groups[k], look{e, p.Name + "/" + b.Name + "." + e.Key})
			}
		}
	}
	for _, k := range sortedKeys(groups) {
		if list := groups[k]; len(list) > 1 {
			var names, at []string
			for _, x := range list {
				names = append(names, x.where)
				at = append(at, x.key.KeyPos.String())
			}
			v.out = append(v.out, Remark{Kind: "same-look", Text: "these look the same and share no style: " +
				strings.Join(names, ", "), At: at, Try: "ziegel style --from " + names[0] + " --for look NAME"})
		}
	}
}

// unused finds shared looks that nothing uses.
func (v *reviewer) unused() {
	used := map[string]bool{}
	note := func(style *site.Value) {
		if style == nil {
			return
		}
		for _, e := range style.Entries {
			for _, n := range styles.UsedBy(e.Value) {
				used[n] = true
			}
		}
	}
	for _, d := range v.env.Site.Defaults {
		note(d.Style)
	}
	for _, p := range v.env.Site.Pages() {
		for _, d := range p.Defaults {
			note(d.Style)
		}
		for _, b := range v.env.Site.All(p) {
			note(b.Style)
		}
	}
	for _, s := range v.env.Site.Styles {
		if !used[s.Name] {
			v.out = append(v.out, Remark{Kind: "unused-style",
				Text: fmt.Sprintf("nothing uses the shared look %s", s.Name), At: []string{s.KeyPos.String()},
				Try: "ziegel style --reset --for look " + s.Name})
		}
	}
}
