package styles

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
)

// HasPart reports whether a part of a block can be styled.
func HasPart(sec *library.Section, part string) bool {
	return part == PartBlock || part == PartRoot || sec.HasPart(part)
}

// following picks the styles that follow an arrangement, which is each block's own; steady picks the others.
func following(t Target) bool { return t.When != "" }

func steady(t Target) bool { return t.When == "" }

// blockStyles are the styles of one block.
func (c *Writer) blockStyles(b *site.Block, sec *library.Section) styleMap {
	return styleMap{b.Style, b.File, sec, b, func(part string) string { return c.ClassName(b, part) }, nil}
}

// defaultStyles are those that a site or a page gives to a section.
func defaultStyles(d *site.Default, sec *library.Section) styleMap {
	return styleMap{d.Style, d.File, sec, nil, func(part string) string {
		return Slug(sec.Name) + "_" +
			part
	}, steady}
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

func (s styleMap) takes(t Target) bool { return s.pick == nil || s.pick(t) }

// target reads and checks a style key.
func (c *Writer) target(s styleMap, e site.Entry) (Target, bool) {
	t, err := ParseTarget(e.Key)
	if err != nil {
		c.AddOnce(s.file.KeyProblem(e, "bad-style", fmt.Sprintf("%q cannot be styled", e.Key), err.Error(), ""))
		return t, false
	}
	if !HasPart(s.sec, t.Part) {
		c.AddOnce(s.file.KeyProblem(e, "unknown-part", fmt.Sprintf("%s has no part %q", s.sec.Name, t.Part),
			"one of "+strings.Join(s.sec.Parts, ", ")+", root, block", diag.Nearest(t.Part, s.sec.Parts)))
		return t, false
	}
	if s.block == nil && t.Part == PartBlock {
		c.AddOnce(s.file.KeyProblem(e, "unknown-part", "the ground and the distances belong to the block",
			"a part of the section; `set` gives tone, above and below to a block", ""))
		return t, false
	}
	return t, true
}

// rules makes the selectors and conditions of a target, without declarations. Arrangements may need several.
func (c *Writer) rules(s styleMap, t Target, e site.Entry) ([]override, bool) {
	o := override{sels: []string{"." + s.class(t.Part) + t.Suffix()}}
	if t.Suffix() != "" {
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
		from, to, ok := c.Env.Span(t.At)
		if !ok {
			names := c.Env.RangeNames()
			c.AddOnce(s.file.KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", t.At),
				strings.Join(names, ", ")+", or widths such as 480..719", diag.Nearest(t.At, names)))
			return nil, false
		}
		o.cond, o.width, o.rank = "@media "+WidthQuery(from, to), to, max(o.rank, rankAt)
		if to == 0 {
			o.width = 1 << 30
		}
	case t.In != "":
		from, to, ok := site.ParseSpan(t.In)
		if !ok {
			c.AddOnce(s.file.KeyProblem(e, "unknown-range", fmt.Sprintf("%q is no span of widths", t.In),
				"widths of the block's own room such as ..480 or 481..", ""))
			return nil, false
		}
		if outside {
			c.AddOnce(s.file.KeyProblem(e, "bad-style", fmt.Sprintf("%s is the room itself, so it cannot ask for it",
				t.Part), "a part inside it, or at with screen widths", t.Part+" at "+t.In))
			return nil, false
		}
		o.cond, o.width, o.rank = roomOf(s.sec)+WidthQuery(from, to), to, max(o.rank, rankIn)
	case t.When != "":
		o.rank = max(o.rank, rankWhen)
		return c.arranged(s, t, e, o, outside)
	}
	return []override{o}, true
}

// stateSelectors writes the selectors of a state. What shows under the pointer shows for the keyboard as well.
func (c *Writer) stateSelectors(s styleMap, t Target, e site.Entry, sel string) ([]string, int, bool) {
	out, order, twin := sel, 0, ""
	for _, name := range strings.FieldsFunc(t.State, func(r rune) bool { return r == ':' }) {
		canonical, ok := CanonicalState(name)
		if !ok {
			names := stateNames()
			c.AddOnce(s.file.KeyProblem(e, "unknown-state", fmt.Sprintf("there is no state %q", name),
				"one of "+strings.Join(names, ", "), strings.Replace(e.Key, name, diag.Nearest(name, names), 1)))
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
	can := map[string]bool{"a": true, "button": true, "input": true, "select": true, "textarea": true,
		"summary": true}
	markup.Each(sec.Root, func(n *html.Node) {
		if p, _ := markup.Attr(n, "data-part"); p != part &&
			!(n == sec.Root && (part == PartRoot || part == PartBlock)) {
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
func (c *Writer) property(file *site.File, sec *library.Section, t Target, p site.Entry) []decl {
	if p.Key == "lane" {
		return c.partLane(file, sec, t, p)
	}
	if problem := project.CheckProperty(c.Env, p.Key, p.Value.Str()); problem != nil {
		pos, width := p.Value.Pos, max(1, p.Value.Width)
		if problem.Rule == "unknown-property" {
			pos, width = p.KeyPos, len(p.Key)
		}
		problem.Position, problem.Width, problem.Source = pos, width, diag.LineOf(file.Source, pos.Line)
		c.AddOnce(*problem)
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
func (c *Writer) partLane(file *site.File, sec *library.Section, t Target, p site.Entry) []decl {
	start, end, ok := LaneLines(p.Value.Str())
	if !ok {
		c.AddOnce(file.Problem(p.Value, "unknown-lane", fmt.Sprintf("%q is no lane and no two lines", p.Value.Str()),
			"one of text, body, wide, edge, or two of edge, wide, body, text, middle such as middle..edge", ""))
		return nil
	}
	on := map[string]string{t.Part: "halves"} // a shared look may go anywhere
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
		c.AddOnce(file.KeyProblem(p, "unknown-lane",
			fmt.Sprintf("the part %s of %s does not stand on the lines of the page", t.Part, sec.Name),
			"a part that does: "+strings.Join(names, ", "), ""))
		return nil
	}
	if strings.Contains(start+end, "middle") && where != "halves" {
		c.AddOnce(file.Problem(p.Value, "unknown-lane", fmt.Sprintf("%s has no line in the middle for the part %s",
			sec.Name, t.Part), "edge, wide, body or text", ""))
		return nil
	}
	out := []decl{{name: "--lane", value: start + " / " + end, pos: p.KeyPos}}
	if where != "halves" {
		return out
	}
	corner := func(line string) string {
		if strings.HasPrefix(line, "edge") {
			return "0px"
		}
		return "initial"
	}
	return append(out, decl{name: "--lane-flipped", value: strings.Replace(end, "-end", "-start", 1) + " / " +
		strings.Replace(start, "-start", "-end", 1)},
		decl{name: "--reach-start", value: corner(start)}, decl{name: "--reach-end", value: corner(end)})
}

// onLines lists the parts that stand on the lines of the page, with the class of the grid that gives them: lanes or
// halves.
func onLines(sec *library.Section) map[string]string {
	out := map[string]string{}
	markup.Each(sec.Root, func(n *html.Node) {
		class, _ := markup.Attr(n, "class")
		for _, grid := range []string{"lanes", "halves"} {
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

// arranged writes the rules of a style that follows an arrangement, at the widths that were measured.
func (c *Writer) arranged(s styleMap, t Target, e site.Entry, o override, outside bool) ([]override, bool) {
	cond, ok := CanonicalWhen(t.When)
	if !ok {
		names := append(slices.Clone(Arrangements), "2+1")
		c.AddOnce(s.file.KeyProblem(e, "unknown-arrangement", fmt.Sprintf("there is no arrangement %q", t.When),
			"one of "+strings.Join(names, ", "), diag.Nearest(t.When, names)))
		return nil, false
	}
	if c.Measured == nil || s.block == nil {
		return nil, true
	}
	var out []override
	for _, sits := range c.Measured.When[When{s.block.Name, t.Part, t.When}] {
		r := o
		if EachItsOwn(cond) && sits.Index > 0 {
			base := "." + s.class(t.Part) + t.Suffix()
			r.sels = slices.Clone(o.sels)
			for i := range r.sels {
				r.sels[i] = strings.Replace(r.sels[i], base,
					"."+s.class(t.Part)+Target{Index: sits.Index}.Suffix(), 1)
			}
		}
		if r.cond = spansQuery(s.sec, sits.Spans, outside); r.cond != "" {
			out = append(out, r)
		}
	}
	return out, true
}

// spansQuery writes spans of widths as one condition of the block's room, or of the screen.
func spansQuery(sec *library.Section, spans [][2]int, screen bool) string {
	var parts []string
	for _, s := range spans {
		if s[0] == 0 && s[1] == 0 {
			parts = append(parts, "(width >= 0rem)")
			continue
		}
		parts = append(parts, WidthQuery(s[0], s[1]))
	}
	switch {
	case len(parts) == 0:
		return ""
	case screen:
		return "@media " + strings.Join(parts, ", ")
	}
	return roomOf(sec) + strings.Join(parts, " or ")
}

// roomOf begins a condition on the room of a block. The nearest container is that room, unless the section has
// containers of its own inside: then the room is asked by its name.
func roomOf(sec *library.Section) string {
	if sec != nil && sec.OwnContainers() && markup.HasClass(sec.Root, "lanes") {
		return "@container lanes "
	}
	return "@container "
}
