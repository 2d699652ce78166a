package compose

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Parts that every block has beside those of its section: the whole block with its ground and distances, and the
// section in it.
const (
	PartBlock = "block"
	PartRoot  = "root"
)

// HasPart reports whether a part of a block can be styled.
func HasPart(sec *library.Section, part string) bool {
	return part == PartBlock || part == PartRoot || sec.HasPart(part)
}

// styles is one map of styles, with what it reaches.
type styles struct {
	value *site.Value
	file  *site.File
	sec   *library.Section
	block *site.Block // nil for the defaults of a section
	class func(part string) string
	pick  func(t Target) bool // nil takes all
}

// following picks the styles that follow an arrangement, which is each block's own; steady picks the others.
func following(t Target) bool { return t.When != "" }
func steady(t Target) bool    { return t.When == "" }

// blockStyles are the styles of one block.
func (c *styling) blockStyles(b *site.Block, sec *library.Section) styles {
	return styles{b.Style, b.File, sec, b, func(part string) string { return c.className(b, part) }, nil}
}

// defaultStyles are those that a site or a page gives to a section.
func defaultStyles(d *site.Default, sec *library.Section) styles {
	return styles{d.Style, d.File, sec, nil, func(part string) string { return slug(sec.Name) + "_" + part }, steady}
}

// override is one rule of styles, ready to be written.
type override struct {
	sels  []string
	cond  string // at-rule prelude, "" for none
	rank  int    // later wins: plain, ranges, room, arrangements, positions, states
	state int    // among states
	width int    // for ordering ranges: upper end
	decls []decl
}

// The order of rules inside one layer.
const (
	rankPlain = iota
	rankAt
	rankIn
	rankWhen
	rankPlace
	rankState
)

// overrides writes styles, checked: those of shared styles in a layer below the others.
func (c *styling) overrides(w *sheetWriter, list ...styles) {
	var own, used []override
	for _, s := range list {
		if s.value == nil {
			continue
		}
		for _, e := range s.value.Entries {
			o, u := c.entry(s, e)
			own, used = append(own, o...), append(used, u...)
		}
	}
	w.open("@layer use")
	writeOverrides(w, used)
	w.close()
	writeOverrides(w, own)
}

func writeOverrides(w *sheetWriter, list []override) {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		switch {
		case a.rank != b.rank:
			return a.rank < b.rank
		case a.state != b.state:
			return a.state < b.state
		case (a.cond != "") != (b.cond != ""):
			return a.cond == ""
		}
		return a.width > b.width
	})
	list = merged(list)
	for i := 0; i < len(list); i++ {
		o := list[i]
		if o.cond == "" {
			w.rule(strings.Join(o.sels, ", "), o.decls...)
			continue
		}
		w.open(o.cond)
		for ; i < len(list) && list[i].cond == o.cond; i++ {
			w.rule(strings.Join(list[i].sels, ", "), list[i].decls...)
		}
		i--
		w.close()
	}
}

// merged joins rules that say the same for several parts under one condition. No two of them speak of one element.
func merged(list []override) []override {
	var out []override
	for _, o := range list {
		i := slices.IndexFunc(out, func(x override) bool {
			return x.cond == o.cond && x.rank == o.rank && x.state == o.state && sameDecls(x.decls, o.decls)
		})
		if i < 0 || slices.ContainsFunc(out[i:], func(x override) bool { return slices.Equal(x.sels, o.sels) }) {
			out = append(out, o)
			continue
		}
		out[i].decls = writtenTwice(out[i], o)
		out[i].sels = append(slices.Clone(out[i].sels), o.sels...)
	}
	return out
}

// writtenTwice gives the declarations of a rule with the places where another one says the same.
func writtenTwice(first, again override) []decl {
	out := slices.Clone(first.decls)
	for i := range out {
		of := maps.Clone(out[i].of)
		if of == nil {
			of = map[string]diag.Position{}
		}
		for _, sel := range again.sels {
			if m := project.ClassNames.FindStringSubmatch(sel); m != nil {
				of[m[1]] = again.decls[i].pos
			}
		}
		out[i].of = of
	}
	return out
}

func sameDecls(a, b []decl) bool {
	return slices.EqualFunc(a, b, func(x, y decl) bool { return x.name == y.name && x.value == y.value })
}

// entry reads one key of a style map: the rules of its own, and those of the shared styles that it uses.
func (c *styling) entry(s styles, e site.Entry) (own, used []override) {
	t, ok := c.target(s, e)
	if !ok {
		return nil, nil
	}
	if e.Value.Kind != site.Map {
		c.addOnce(s.file.Problem(e.Value, "wrong-type", "the style of "+e.Key+" is not a map", "CSS properties with values", e.Key+": {padding: 2rem}"))
		return nil, nil
	}
	var rules []override
	if s.takes(t) {
		if rules, ok = c.rules(s, t, e); !ok {
			return nil, nil
		}
	}
	var decls []decl
	for _, p := range e.Value.Entries {
		if p.Key == "use" {
			used = c.uses(s, t, e, p)
			continue
		}
		decls = append(decls, c.property(s.file, s.sec, t, p)...)
	}
	if len(decls) > 0 {
		for _, o := range rules {
			o.decls = decls
			own = append(own, o)
		}
	}
	return own, used
}

func (s styles) takes(t Target) bool { return s.pick == nil || s.pick(t) }

// target reads and checks a style key.
func (c *styling) target(s styles, e site.Entry) (Target, bool) {
	t, err := ParseTarget(e.Key)
	if err != nil {
		c.addOnce(s.file.KeyProblem(e, "bad-style", fmt.Sprintf("%q cannot be styled", e.Key), err.Error(), ""))
		return t, false
	}
	if !HasPart(s.sec, t.Part) {
		c.addOnce(s.file.KeyProblem(e, "unknown-part", fmt.Sprintf("%s has no part %q", s.sec.Name, t.Part), "one of "+strings.Join(s.sec.Parts, ", ")+", root, block", diag.Nearest(t.Part, s.sec.Parts)))
		return t, false
	}
	if s.block == nil && t.Part == PartBlock {
		c.addOnce(s.file.KeyProblem(e, "unknown-part", "the ground and the distances belong to the block", "a part of the section; `set` gives tone, above and below to a block", ""))
		return t, false
	}
	return t, true
}

// rules makes the selectors and conditions of a target, without declarations. Arrangements may need several.
func (c *styling) rules(s styles, t Target, e site.Entry) ([]override, bool) {
	o := override{sels: []string{"." + s.class(t.Part) + t.suffix()}}
	if t.suffix() != "" {
		o.rank = rankPlace
	}
	if t.State != "" {
		var ok bool
		if o.sels, o.state, ok = c.stateSelectors(s, t, e, o.sels[0]); !ok {
			return nil, false
		}
		o.rank = rankState
	}
	outside := t.Part == PartBlock || t.Part == PartRoot
	switch {
	case t.At != "":
		from, to, ok := c.env.Span(t.At)
		if !ok {
			names := c.env.RangeNames()
			c.addOnce(s.file.KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", t.At), strings.Join(names, ", ")+", or widths such as 480..719", diag.Nearest(t.At, names)))
			return nil, false
		}
		o.cond, o.width, o.rank = "@media "+widthQuery(from, to), to, max(o.rank, rankAt)
		if to == 0 {
			o.width = 1 << 30
		}
	case t.In != "":
		from, to, ok := site.ParseSpan(t.In)
		if !ok {
			c.addOnce(s.file.KeyProblem(e, "unknown-range", fmt.Sprintf("%q is no span of widths", t.In), "widths of the block's own room such as ..480 or 481..", ""))
			return nil, false
		}
		if outside {
			c.addOnce(s.file.KeyProblem(e, "bad-style", fmt.Sprintf("%s is the room itself, so it cannot ask for it", t.Part), "a part inside it, or at with screen widths", t.Part+" at "+t.In))
			return nil, false
		}
		o.cond, o.width, o.rank = "@container "+widthQuery(from, to), to, max(o.rank, rankIn)
	case t.When != "":
		o.rank = max(o.rank, rankWhen)
		return c.arranged(s, t, e, o, outside)
	}
	return []override{o}, true
}

// stateSelectors writes the selectors of a state. What shows under the pointer shows for the keyboard as well.
func (c *styling) stateSelectors(s styles, t Target, e site.Entry, sel string) ([]string, int, bool) {
	out, order, twin := sel, 0, ""
	for _, name := range strings.FieldsFunc(t.State, func(r rune) bool { return r == ':' }) {
		canonical, ok := CanonicalState(name)
		if !ok {
			names := stateNames()
			c.addOnce(s.file.KeyProblem(e, "unknown-state", fmt.Sprintf("there is no state %q", name), "one of "+strings.Join(names, ", "), strings.Replace(e.Key, name, diag.Nearest(name, names), 1)))
			return nil, 0, false
		}
		if strings.HasPrefix(canonical, "::") {
			out += canonical
			continue
		}
		for _, st := range States {
			if ":"+st.Name == canonical {
				out += st.sel
				order = max(order, st.order)
			}
		}
		if canonical == ":hover" {
			twin = focusTwin(s.sec, t.Part)
		}
	}
	if twin != "" {
		return []string{out, strings.Replace(out, ":hover", twin, 1)}, order, true
	}
	return []string{out}, order, true
}

// focusTwin tells how a part shows that the keyboard is on it: "" when nothing in it can have the focus.
func focusTwin(sec *library.Section, part string) string {
	if sec == nil { // a class for any part
		return ":focus-within"
	}
	twin := ""
	can := map[string]bool{"a": true, "button": true, "input": true, "select": true, "textarea": true, "summary": true}
	markup.Each(sec.Root, func(n *html.Node) {
		if p, _ := markup.Attr(n, "data-part"); p != part && !(n == sec.Root && (part == PartRoot || part == PartBlock)) {
			return
		}
		if can[n.Data] {
			twin = ":focus-visible"
			return
		}
		markup.Each(n, func(k *html.Node) {
			if can[k.Data] && twin == "" {
				twin = ":focus-within"
			}
		})
	})
	return twin
}

// property checks one property of an override and writes it.
func (c *styling) property(file *site.File, sec *library.Section, t Target, p site.Entry) []decl {
	if p.Key == "lane" {
		return c.partLane(file, sec, t, p)
	}
	if problem := project.CheckProperty(c.env, p.Key, p.Value.Str()); problem != nil {
		pos, width := p.Value.Pos, max(1, p.Value.Width)
		if problem.Rule == "unknown-property" {
			pos, width = p.KeyPos, len(p.Key)
		}
		problem.Position, problem.Width, problem.Source = pos, width, diag.LineOf(file.Source, pos.Line)
		c.addOnce(*problem)
		return nil
	}
	value, _ := c.tokens(p.Value.Str())
	return []decl{{name: p.Key, value: value, pos: p.KeyPos}}
}

var laneLines = []string{"edge", "wide", "body", "text", "middle"}

// LaneLines reads where a part runs to: a lane such as wide, or from one line to another, such as middle..edge. It
// gives the start and the end line of the grid.
func LaneLines(s string) (start, end string, ok bool) {
	from, to, both := strings.Cut(strings.TrimSpace(s), "..")
	if !both {
		return from + "-start", from + "-end", slices.Contains(laneLines[:4], from)
	}
	if !slices.Contains(laneLines, from) || !slices.Contains(laneLines, to) || from == "middle" && to == "middle" {
		return "", "", false
	}
	return from + "-start", to + "-end", true
}

// partLane writes from which line of the page to which one a part runs.
func (c *styling) partLane(file *site.File, sec *library.Section, t Target, p site.Entry) []decl {
	start, end, ok := LaneLines(p.Value.Str())
	if !ok {
		c.addOnce(file.Problem(p.Value, "unknown-lane", fmt.Sprintf("%q is no lane and no two lines", p.Value.Str()), "one of text, body, wide, edge, or two of edge, wide, body, text, middle such as middle..edge", ""))
		return nil
	}
	on := map[string]string{t.Part: "split"} // a shared style may go anywhere
	if sec != nil {
		on = onLines(sec)
	}
	where, ok := on[t.Part]
	if !ok {
		var names []string
		for n := range on {
			names = append(names, n)
		}
		sort.Strings(names)
		c.addOnce(file.KeyProblem(p, "unknown-lane", fmt.Sprintf("the part %s of %s does not stand on the lines of the page", t.Part, sec.Name), "a part that does: "+strings.Join(names, ", "), ""))
		return nil
	}
	if strings.Contains(start+end, "middle") && where != "split" {
		c.addOnce(file.Problem(p.Value, "unknown-lane", fmt.Sprintf("%s has no line in the middle for the part %s", sec.Name, t.Part), "edge, wide, body or text", ""))
		return nil
	}
	out := []decl{{name: "--lane", value: start + " / " + end, pos: p.KeyPos}}
	if where != "split" {
		return out
	}
	corner := func(line string) string {
		if strings.HasPrefix(line, "edge") {
			return "0px"
		}
		return "initial"
	}
	return append(out, decl{name: "--lane-flipped", value: strings.Replace(end, "-end", "-start", 1) + " / " + strings.Replace(start, "-start", "-end", 1)},
		decl{name: "--reach-start", value: corner(start)}, decl{name: "--reach-end", value: corner(end)})
}

// onLines lists the parts that stand on the lines of the page, with the class of the grid that gives them: lanes or
// split.
func onLines(sec *library.Section) map[string]string {
	out := map[string]string{}
	markup.Each(sec.Root, func(n *html.Node) {
		class, _ := markup.Attr(n, "class")
		for _, grid := range []string{"lanes", "split"} {
			if !slices.Contains(strings.Fields(class), grid) {
				continue
			}
			for k := n.FirstChild; k != nil; k = k.NextSibling {
				if part, ok := markup.Attr(k, "data-part"); ok && k.Type == html.ElementNode {
					out[part] = grid
				}
			}
		}
	})
	return out
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
