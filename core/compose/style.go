package compose

import (
	"errors"
	"fmt"
	"regexp"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
)

// Target is what a key under style: speaks of: "card[2]:hover at phone".
type Target struct {
	Part  string
	Index int    // from 1; 0 means all
	State string // with its colon
	At    string // a range or span of screen widths
	In    string // a span of the block's own width
	When  string // an arrangement
}

var targetForm = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[(\d+)\])?((?::{1,2}[a-z-]+(?:\([^)]*\))?)*)(?:\s+(at|in|when)\s+(.+))?$`)

// ParseTarget reads a style key.
func ParseTarget(key string) (Target, error) { return parseTarget(key) }

func parseTarget(key string) (Target, error) {
	m := targetForm.FindStringSubmatch(strings.TrimSpace(key))
	if m == nil {
		return Target{}, errors.New("a part, perhaps with a position or state, then at, in or when: card, card[2]:hover, card at phone, card in ..480")
	}
	t := Target{Part: m[1], State: m[3]}
	if m[2] != "" {
		t.Index, _ = strconv.Atoi(m[2])
		if t.Index == 0 {
			return t, errors.New("positions count from 1")
		}
	}
	switch m[4] {
	case "at":
		t.At = m[5]
	case "in":
		t.In = m[5]
	case "when":
		t.When = m[5]
	}
	return t, nil
}

// String writes the key back.
func (t Target) String() string {
	s := t.Element() + t.State
	switch {
	case t.At != "":
		s += " at " + t.At
	case t.In != "":
		s += " in " + t.In
	case t.When != "":
		s += " when " + t.When
	}
	return s
}

// Element gives the part, with its position if it speaks of one: card[2].
func (t Target) Element() string {
	if t.Index > 0 {
		return t.Part + "[" + strconv.Itoa(t.Index) + "]"
	}
	return t.Part
}

// StyleKey finds the entry under style: that speaks of a target, however it is spelled, else names a new one.
func StyleKey(b *site.Block, t Target) string {
	if b.Style != nil {
		for _, e := range b.Style.Entries {
			if have, err := ParseTarget(e.Key); err == nil && have == t {
				return e.Key
			}
		}
	}
	return t.String()
}

// override is one style entry, ready to be written.
type override struct {
	target Target
	sel    string
	cond   string // at-rule prelude, "" for none
	rank   int    // later wins: plain, ranges wide to narrow, room, positions, states
	width  int    // for ordering ranges: upper end
	decls  []decl
}

// overrides writes the style entries of a block, checked.
func (c *composer) overrides(w *sheetWriter, b *site.Block, sec *library.Section) {
	if b.Style == nil {
		return
	}
	var list []override
	for _, e := range b.Style.Entries {
		if o, ok := c.override(b, sec, e); ok {
			list = append(list, o)
		}
	}
	sort.SliceStable(list, func(i, j int) bool {
		if list[i].rank != list[j].rank {
			return list[i].rank < list[j].rank
		}
		return list[i].width > list[j].width
	})
	for _, o := range list {
		if o.cond != "" {
			w.open(o.cond)
			w.rule(o.sel, o.decls...)
			w.close()
			continue
		}
		w.rule(o.sel, o.decls...)
	}
}

func (c *composer) override(b *site.Block, sec *library.Section, e site.Entry) (override, bool) {
	t, err := parseTarget(e.Key)
	if err != nil {
		c.add(b.File.KeyProblem(e, "bad-style", fmt.Sprintf("%q cannot be styled", e.Key), err.Error(), ""))
		return override{}, false
	}
	if !sec.HasPart(t.Part) && t.Part != "root" {
		c.add(b.File.KeyProblem(e, "unknown-part", fmt.Sprintf("%s has no part %q", sec.Name, t.Part), "one of "+strings.Join(sec.Parts, ", "), diag.Nearest(t.Part, sec.Parts)))
		return override{}, false
	}
	if e.Value.Kind != site.Map {
		c.add(b.File.Problem(e.Value, "wrong-type", "the style of "+e.Key+" is not a map", "CSS properties with values", e.Key+": {padding: 2rem}"))
		return override{}, false
	}
	o := override{target: t, sel: "." + c.className(b, t.Part) + t.State}
	if t.Index > 0 {
		o.sel = "." + c.className(b, t.Part) + "-" + strconv.Itoa(t.Index) + t.State
		o.rank = 3
	}
	if t.State != "" {
		o.rank = 4
	}
	switch {
	case t.At != "":
		from, to, ok := c.env.Span(t.At)
		if !ok {
			var names []string
			for _, r := range c.env.Site.Ranges {
				names = append(names, r.Name)
			}
			c.add(b.File.KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", t.At), strings.Join(names, ", ")+", or widths such as 480..719", diag.Nearest(t.At, names)))
			return o, false
		}
		o.cond, o.width = "@media "+widthQuery(from, to), to
		if to == 0 {
			o.width = 1 << 30
		}
		o.rank = max(o.rank, 1)
	case t.In != "":
		from, to, ok := site.ParseSpan(t.In)
		if !ok {
			c.add(b.File.KeyProblem(e, "unknown-range", fmt.Sprintf("%q is no span of widths", t.In), "widths of the block's own room such as ..480 or 481..", ""))
			return o, false
		}
		o.cond = "@container " + widthQuery(from, to)
		o.rank = max(o.rank, 2)
	case t.When != "":
		c.add(b.File.KeyProblem(e, "not-yet", "styles tied to an arrangement are not built yet", "the same style with at RANGE or in WIDTHS", t.Element()+" in ..480"))
		return o, false
	}
	for _, p := range e.Value.Entries {
		if d, ok := c.property(b, p); ok {
			o.decls = append(o.decls, d)
		}
	}
	return o, len(o.decls) > 0
}

// property checks one property of an override.
func (c *composer) property(b *site.Block, p site.Entry) (decl, bool) {
	if p.Key == "use" {
		c.add(b.File.KeyProblem(p, "not-yet", "shared styles are not built yet", "the properties themselves", ""))
		return decl{}, false
	}
	if problem := CheckProperty(c.env, p.Key, p.Value.Str()); problem != nil {
		pos, width := p.Value.Pos, max(1, p.Value.Width)
		if problem.Rule == "unknown-property" {
			pos, width = p.KeyPos, len(p.Key)
		}
		problem.Position, problem.Width, problem.Source = pos, width, diag.LineOf(b.File.Source, pos.Line)
		c.add(*problem)
		return decl{}, false
	}
	value, _ := c.tokens(p.Value.Str())
	return decl{p.Key, value, p.KeyPos}, true
}

// CheckProperty checks a CSS property and its value, tokens in braces included. The problem has no position.
func CheckProperty(e *Env, name, value string) *diag.Problem {
	if !css.KnownProperty(name) || strings.HasPrefix(name, "--") {
		return &diag.Problem{Severity: diag.Error, Rule: "unknown-property", Text: fmt.Sprintf("there is no CSS property %q", name), Expected: "a CSS property such as padding or font-size",
			Try: diag.Nearest(name, css.PropertyNames())}
	}
	for _, m := range tokenRef.FindAllStringSubmatch(value, -1) {
		if _, ok := e.Theme.Reference(m[1]); !ok {
			p := &diag.Problem{Severity: diag.Error, Rule: "unknown-token", Text: fmt.Sprintf("the theme has no token %q", m[1]), Expected: "a token of the theme"}
			if n := diag.Nearest(m[1], e.Theme.Names()); n != "" {
				p.Try = "{" + n + "}"
			}
			return p
		}
	}
	resolved := tokenRef.ReplaceAllString(value, "var(--x)")
	if strings.ContainsAny(value, ";}") && tokenRef.ReplaceAllString(value, "") != value && strings.ContainsAny(tokenRef.ReplaceAllString(value, ""), ";}") || !css.CheckValue(name, resolved) || strings.Contains(strings.ToLower(value), "url(") {
		p := &diag.Problem{Severity: diag.Error, Rule: "bad-value", Text: fmt.Sprintf("%s cannot be %q", name, value), Expected: "a value that CSS allows for " + name}
		if regexp.MustCompile(`^-?[0-9.]+$`).MatchString(value) && css.CheckValue(name, value+"rem") {
			p.Try = value + "rem or " + value + "px"
		}
		return p
	}
	return nil
}

// Span gives the screen widths of a range, or of widths written out. to is 0 without an end.
func (e *Env) Span(s string) (from, to int, ok bool) {
	for _, r := range e.Site.Ranges {
		if r.Name == s {
			return r.From, r.To, true
		}
	}
	return site.ParseSpan(s)
}

// widthQuery writes a span of widths as a condition in rem, so that larger browser text moves it.
func widthQuery(from, to int) string {
	rem := func(px int) string { return strconv.FormatFloat(float64(px)/16, 'f', -1, 64) + "rem" }
	switch {
	case to == 0:
		return "(width >= " + rem(from) + ")"
	case from == 0:
		return "(width < " + rem(to+1) + ")"
	}
	return "(" + rem(from) + " <= width < " + rem(to+1) + ")"
}
