package styles

import (
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Joins reports whether two neighbours stand on the same ground, so that they share one distance.
func (c *Writer) Joins(a, b *site.Block) bool {
	sa, sb := c.Env.Library.Section(a.Section), c.Env.Library.Section(b.Section)
	if sa == nil || sb == nil {
		return false
	}
	return c.Tone(a) == c.Tone(b) && a.Ground == nil && b.Ground == nil && !c.open(a, sa, b, false) &&
		!c.open(b, sb, a, true)
}

// open reports an edge that is open on purpose.
func (c *Writer) open(b *site.Block, sec *library.Section, neighbour *site.Block, above bool) bool {
	d := c.distance(b, sec, neighbour, above)
	return strings.Trim(d, "0 ") == "" && d != ""
}

// distance gives the space that a block wants above or below, as typed; "" is the theme's. The block's own word goes
// first, then the theme's table of pairs, then what the section asks for.
func (c *Writer) distance(b *site.Block, sec *library.Section, neighbour *site.Block, above bool) string {
	v, own := b.Below, sec.Below
	if above {
		v, own = b.Above, sec.Above
	}
	if v != nil && v.Str() != "" {
		return v.Str()
	}
	if p := c.pair(sec, neighbour, above); p != "" {
		return p
	}
	return own
}

// pair looks a distance up in the theme's table of pairs: pair.KIND.KIND of two neighbours, either of them any.
func (c *Writer) pair(sec *library.Section, neighbour *site.Block, above bool) string {
	if neighbour == nil {
		return ""
	}
	other := c.Env.Library.Section(neighbour.Section)
	if other == nil {
		return ""
	}
	first, second := sec.Kind, other.Kind
	if above {
		first, second = second, first
	}
	for _, name := range []string{first + "." + second, first + ".any", "any." + second} {
		if t, ok := c.Env.Theme.Token("pair." + name); ok {
			if strings.Trim(t.Value, "0") == "" || strings.HasPrefix(t.Value, "0") &&
				strings.Trim(t.Value, "0.pxrem") == "" {
				return "0"
			}
			return "{pair." + name + "}"
		}
	}
	return ""
}

// padding is what a block keeps above and below, as CSS; "" is the theme's.
type padding struct {
	start, end       string
	startPos, endPos diag.Position
}

// paddings works out the distances of blocks that stand under each other in this order.
func (c *Writer) paddings(blocks []*site.Block) map[*site.Block]padding {
	out := map[*site.Block]padding{}
	for i, b := range blocks {
		sec := c.Env.Library.Section(b.Section)
		if sec == nil {
			continue
		}
		var before, after *site.Block
		if i > 0 {
			before = blocks[i-1]
		}
		if i+1 < len(blocks) {
			after = blocks[i+1]
		}
		var p padding
		if before != nil && c.Joins(before, b) {
			p.start = "0" // the neighbour above has the larger of both
		} else {
			p.start, p.startPos = c.cssDistance(b, sec, before, true)
		}
		p.end, p.endPos = c.cssDistance(b, sec, after, false)
		if after != nil && c.Joins(b, after) {
			next := c.Env.Library.Section(after.Section)
			if other, _ := c.cssDistance(after, next, b, true); other != p.end {
				p.end = larger(p.end, other)
			}
		}
		out[b] = p
	}
	return out
}

func larger(a, b string) string {
	for _, s := range []*string{&a, &b} {
		if *s == "" {
			*s = "var(--space-section)"
		}
	}
	return "max(" + a + ", " + b + ")"
}

// cssDistance gives a distance as CSS, "" for the theme's or for one that cannot be read.
func (c *Writer) cssDistance(b *site.Block, sec *library.Section, neighbour *site.Block,
	above bool) (string, diag.Position) {
	d := c.distance(b, sec, neighbour, above)
	if d == "" {
		return "", diag.Position{}
	}
	v, key := b.Below, "below"
	if above {
		v, key = b.Above, "above"
	}
	value, ok := c.length(b, v, d, key)
	if !ok {
		return "", diag.Position{}
	}
	if v != nil && v.Str() == d {
		return value, v.Pos
	}
	return value, diag.Position{}
}

// distances writes the padding of blocks where it differs from the theme's. Where blocks are hidden or change places
// at some widths, their neighbours there are others.
func (c *Writer) distances(w *sheetWriter, blocks []*site.Block) {
	plain := c.paddings(blocks)
	for i, b := range blocks {
		p := plain[b]
		joined := i > 0 && c.Joins(blocks[i-1], b) // the class says it
		var decls []decl
		for _, d := range []decl{{name: "padding-block-start", value: p.start, pos: p.startPos},
			{name: "padding-block-end", value: p.end, pos: p.endPos}} {
			if d.value != "" && !(joined && d.name == "padding-block-start") {
				decls = append(decls, d)
			}
		}
		if len(decls) == 2 && p.start == p.end {
			decls = []decl{{name: "padding-block", value: p.start, pos: p.startPos}}
		}
		if len(decls) > 0 {
			w.rule("."+c.ClassName(b, ""), decls...)
		}
	}
	if c.reorders(blocks) {
		w.rule("main", decl{name: "display", value: "flex"}, decl{name: "flex-direction", value: "column"})
	}
	for _, at := range c.regrouped(blocks) {
		from, to, _ := c.Env.Span(at)
		now := c.paddings(c.standing(blocks, at))
		w.open("@media " + WidthQuery(from, to))
		for _, b := range blocks {
			was, is := plain[b], now[b]
			if _, there := now[b]; !there {
				continue
			}
			for _, d := range [][3]string{{"padding-block-start", was.start, is.start},
				{"padding-block-end", was.end, is.end}} {
				if d[1] == d[2] {
					continue
				}
				value := d[2]
				if value == "" {
					value = "var(--space-section)"
				}
				w.rule("."+c.ClassName(b, ""), decl{name: d[0], value: value})
			}
		}
		w.close()
	}
}

// blockLook reads a property of the whole block at some widths: "" when nothing sets it there.
func blockLook(b *site.Block, at, property string) string {
	if b.Style == nil {
		return ""
	}
	out := ""
	for _, e := range b.Style.Entries {
		t, err := ParseTarget(e.Key)
		always := err == nil && t.State == "" && t.In == "" && t.When == ""
		reaches := always && t.Part == PartBlock && (t.At == at || t.At == "" && out == "")
		if reaches {
			if v := e.Value.Get(property); v != nil {
				out = v.Str()
			}
		}
	}
	return out
}

// regrouped lists the spans at which some block is hidden or stands elsewhere.
func (c *Writer) regrouped(blocks []*site.Block) []string {
	var out []string
	for _, b := range blocks {
		if b.Style == nil {
			continue
		}
		for _, e := range b.Style.Entries {
			t, err := ParseTarget(e.Key)
			elsewhere := err != nil || t.Part != PartBlock || t.At == "" ||
				e.Value.Get("order") == nil && e.Value.Get("display") == nil || slices.Contains(out, t.At)
			if elsewhere {
				continue
			}
			if _, _, ok := c.Env.Span(t.At); ok {
				out = append(out, t.At)
			}
		}
	}
	return out
}

// reorders reports whether some block stands elsewhere than where it was written.
func (c *Writer) reorders(blocks []*site.Block) bool {
	for _, b := range blocks {
		for _, at := range append(c.regrouped([]*site.Block{b}), "") {
			if blockLook(b, at, "order") != "" {
				return true
			}
		}
	}
	return false
}

// standing lists the blocks that show at some widths, in their order there. Only those of main change places.
func (c *Writer) standing(blocks []*site.Block, at string) []*site.Block {
	var out []*site.Block
	for _, b := range blocks {
		if blockLook(b, at, "display") != "none" {
			out = append(out, b)
		}
	}
	place := func(b *site.Block) (group, order int) {
		sec := c.Env.Library.Section(b.Section)
		if sec != nil {
			group = map[string]int{"header": 0, "main": 1, "footer": 2}[project.Landmark(sec.Kind)]
		}
		order, _ = strconv.Atoi(blockLook(b, at, "order"))
		return group, order
	}
	slices.SortStableFunc(out, func(a, b *site.Block) int {
		ga, oa := place(a)
		gb, ob := place(b)
		if ga != gb || ga != 1 {
			return ga - gb
		}
		return oa - ob
	})
	return out
}
