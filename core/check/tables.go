package check

import (
	"fmt"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
)

// Bounds of the rules over tables and columns, CSS px.
const (
	leastHidden = 8  // of a table: less is the shadow of a border
	leastShown  = 10 // of a text that is cut by the edge, on both sides: so much is seen to go on
)

// tableHint: a table scrolls sideways in its box, and the edge falls so that nobody sees it.
var tableHint = rule{
	name: "table-scrolls", severity: diag.Warning, what: "a table scrolls sideways, and nothing shows that it goes on",
	looks: "tables in boxes that scroll sideways: whether the edge cuts through a text, or a shadow or mask lies on it",
	not:   "words that say it; tables that scroll with the whole page",
	// a shadow at both edges: which of them hides something follows from the direction
	remedies: []Remedy{{Where: "around", CSS: "box-shadow=inset 0 0 1rem -0.5rem currentColor", Local: true}},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if o := p.Style.OverflowX; o != "auto" && o != "scroll" || !p.Style.Visible || p.Empty() {
				continue
			}
			t := s.tableIn(r, p)
			if t == nil {
				continue
			}
			beyond := t.Right() - p.Right()
			if p.Style.RTL {
				beyond = p.X - t.X
			}
			if beyond > leastHidden*64 && !s.seenToGoOn(r, p, t) {
				out = append(out, hit{el: t.Element, amount: beyond, value: beyond.Float(), cause: "width"})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf(
			"%s goes on for %.0f px beyond its box, and the edge falls between two columns: nothing shows that it scrolls",
			name,
			worst.value,
		)
	},
	cure: func(string, hit) string {
		return "a shadow or a mask at that edge, a column that it cuts through, or rows that become cards"
	},
}

// tableIn gives the first table in a box.
func (s *Scene) tableIn(r *layout.Result, p *layout.Fragment) *layout.Fragment {
	for _, e := range s.l.Doc.Elements[p.Element.Index:s.end[p.Element.Index]] {
		if t := r.Of(e); t != nil && (t.Style.Display == css.Table || t.Style.Display == css.InlineTable) &&
			!t.Empty() {
			return t
		}
	}
	return nil
}

// seenToGoOn reports that the edge of a box that scrolls cuts through a text of the table in it, or that something is
// painted on it.
func (s *Scene) seenToGoOn(r *layout.Result, p, t *layout.Fragment) bool {
	for _, look := range []css.Look{p.Style.Look(), t.Style.Look()} {
		for _, name := range []string{"mask-image", "-webkit-mask-image", "box-shadow"} {
			if v := look.InForce(name); v != "" && v != "none" {
				return true
			}
		}
	}
	if v := p.Style.Look().InForce("background-image"); strings.Contains(v, "gradient") {
		return true
	}
	for i := range r.Generated { // a shadow that is a box of its own
		if g := &r.Generated[i]; g.Element == p.Element || g.Element == p.Element.Parent {
			if v := g.Style.Look().InForce("background-image"); strings.Contains(v, "gradient") {
				return true
			}
		}
	}
	edge := p.Right()
	if p.Style.RTL {
		edge = p.X
	}
	for _, e := range s.l.Doc.Elements[t.Element.Index:s.end[t.Element.Index]] {
		b := r.Of(e)
		if b == nil || !b.Style.Visible {
			continue
		}
		list := b.Runs
		if e.Tag == "img" || e.Tag == "svg" {
			list = []layout.Rect{b.Rect}
		}
		for _, run := range list {
			if edge-run.X >= leastShown*64 && run.Right()-edge >= leastShown*64 {
				return true
			}
		}
	}
	return false
}

// columnStray: a column begins or ends with what belongs to the other one.
var columnStray = rule{
	name: "column-stray", severity: diag.Warning,
	what:     "a column ends with a heading, or one line of a text stands alone in a column",
	looks:    "headings and texts of three lines or more in containers of several columns",
	not:      "columns of a grid, lists of single lines",
	remedies: []Remedy{{CSS: "break-after=avoid"}, {CSS: "break-inside=avoid"}},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Style.ColumnCount < 2 && p.Style.ColumnWidth.Kind != css.LenPx {
				continue
			}
			list := s.l.Doc.Elements[p.Element.Index+1 : s.end[p.Element.Index]]
			for k, e := range list {
				b := r.Of(e)
				if b == nil || !shown(b) || s.own[e.Index] == 0 {
					continue
				}
				if n := loneLines(b.Runs); n > 0 || s.kind[e.Index] == headingKind && s.leftBehind(r, b, list[k+1:]) {
					out = append(out, hit{el: e, amount: 64, value: float64(n), cause: "break-inside"})
				}
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		if worst.value > 0 {
			return "one line of " + name + " stands alone in a column"
		}
		return name + " is the last in its column: what it heads begins in the next"
	},
	cure: func(part string, h hit) string {
		if h.value > 0 {
			return part + ": {orphans: 2, widows: 2}"
		}
		return part + ": {break-after: avoid}"
	},
}

// loneLines gives the columns in which one line alone of a text of three or more stands. Lines go down; where one
// stands higher than that before it, another column begins.
func loneLines(runs []layout.Rect) int {
	var columns []int
	last := layout.Px(0)
	total := 0
	for i, r := range runs {
		switch {
		case i == 0 || r.Bottom() <= last:
			columns = append(columns, 1)
		case r.Y >= last:
			columns[len(columns)-1]++
		default:
			continue // on the same line
		}
		last = r.Bottom()
		total++
	}
	lone := 0
	for _, n := range columns {
		if n == 1 && len(columns) > 1 && total >= 3 {
			lone++
		}
	}
	return lone
}

// leftBehind reports a heading after which the next text begins in another column.
func (s *Scene) leftBehind(r *layout.Result, h *layout.Fragment, after []*css.Element) bool {
	for _, e := range after {
		b := r.Of(e)
		if b == nil || !shown(b) || s.own[e.Index] == 0 || e.Parent == h.Element {
			continue
		}
		return len(b.Runs) > 0 && b.Runs[0].Bottom() <= h.Y
	}
	return false
}

// headersUnbound lists header cells without a scope in tables that have them in more than one row or column, so that
// nobody can tell which cells they head (WCAG 1.3.1, H63).
func headersUnbound(table *css.Element) []*css.Element {
	var unbound []*css.Element
	rows, across, down, bare := 0, false, false, false
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for _, k := range e.Kids() {
			switch k.Tag {
			case "table":
			case "tr":
				rows++
				for i, c := range k.Kids() {
					bare = bare || c.Tag == "td"
					if c.Tag != "th" {
						continue
					}
					across, down = across || rows == 1 && i > 0, down || rows > 1
					if scope, _ := c.LookupAttr("scope"); strings.TrimSpace(scope) == "" &&
						strings.TrimSpace(c.Text()) != "" &&
						c.ID == "" {
						unbound = append(unbound, c)
					}
				}
			default:
				walk(k)
			}
		}
	}
	walk(table)
	if !across || !down || !bare {
		return nil // headers on one side only head what is beside them
	}
	return unbound
}
