package compose

import (
	"fmt"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Measured is what a layout said about the blocks of a page: where measured conditions of sections hold, and at which
// widths parts sit as their styles ask. Widths are CSS px, both ends included; 0 at an end means without end.
type Measured struct {
	Thresholds map[string][]Threshold // by block
	When       map[When][]Sits
	Grounds    map[string]*Covered       // by block: what of the picture under it lies under text
	Pictures   map[PictureKey]PictureFit // of pages that are written, not of those that are measured
}

// Threshold is a value of a private property from a width of its room upwards.
type Threshold struct {
	Name  string  // of the measured condition
	Value string  // "" ends what holds elsewhere
	From  float64 // CSS px of the room
	At    string  // a range of screen widths in which options say something else, "" for all
}

// When is a condition that follows the arrangement: a part of a block, and how it sits.
type When struct{ Block, Part, Cond string }

// Sits are the widths at which a part sits as asked: its element with that position in the block, from 1, or all when
// Index is 0.
type Sits struct {
	Index int
	Spans [][2]int
}

// indexes lists the elements of a part that ever sit as asked.
func (m *Measured) indexes(block, part, cond string) []int {
	if m == nil {
		return nil
	}
	var out []int
	for _, s := range m.When[When{block, part, cond}] {
		if s.Index > 0 {
			out = append(out, s.Index)
		}
	}
	return out
}

// Arrangements that a style can follow, beside those that have rows written out, such as 2+1.
var Arrangements = []string{"stacked", "beside", "above", "below", "over", "alone in its row", "wrapped", "menu", "hidden"}

var rowsForm = regexp.MustCompile(`^\d+(\+\d+)*$`)

// CanonicalWhen gives the name of an arrangement as typed. ok is false when there is none such.
func CanonicalWhen(typed string) (string, bool) {
	typed = strings.Join(strings.Fields(typed), " ")
	if typed == "alone" {
		typed = "alone in its row"
	}
	return typed, slices.Contains(Arrangements, typed) || rowsForm.MatchString(typed)
}

// eachItsOwn reports arrangements that each element of a part has by itself.
func eachItsOwn(cond string) bool {
	cond, _ = CanonicalWhen(cond)
	return cond == "alone in its row" || cond == "wrapped"
}

// Follows lists the conditions on arrangements that the styles of a page speak of, block by block.
func Follows(e *project.Project, p *site.Page) []When {
	var out []When
	add := func(w When) {
		if !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	for _, b := range e.All(p) {
		maps := []*site.Value{b.Style}
		for _, list := range [][]site.Default{e.Site.Defaults, p.Defaults} {
			if d := site.DefaultFor(list, b.Section); d != nil {
				maps = append(maps, d.Style)
			}
		}
		for _, v := range maps {
			if v == nil {
				continue
			}
			for _, en := range v.Entries {
				t, err := ParseTarget(en.Key)
				if err != nil {
					continue
				}
				if t.When != "" {
					add(When{b.Name, t.Part, t.When})
				}
				for _, name := range usedBy(en.Value) {
					if s, _ := e.SharedStyle(name); s != nil {
						for _, x := range s.Value.Entries {
							if tail, err := parseTail(x.Key); err == nil && x.Value.Kind == site.Map && tail.When != "" {
								add(When{b.Name, t.Part, tail.When})
							}
						}
					}
				}
			}
		}
	}
	return out
}

// arranged writes the rules of a style that follows an arrangement, at the widths that were measured.
func (c *styling) arranged(s styles, t Target, e site.Entry, o override, outside bool) ([]override, bool) {
	cond, ok := CanonicalWhen(t.When)
	if !ok {
		names := append(slices.Clone(Arrangements), "2+1")
		c.addOnce(s.file.KeyProblem(e, "unknown-arrangement", fmt.Sprintf("there is no arrangement %q", t.When), "one of "+strings.Join(names, ", "), diag.Nearest(t.When, names)))
		return nil, false
	}
	if c.measured == nil || s.block == nil {
		return nil, true
	}
	var out []override
	for _, sits := range c.measured.When[When{s.block.Name, t.Part, t.When}] {
		r := o
		if eachItsOwn(cond) && sits.Index > 0 {
			base := "." + s.class(t.Part) + t.suffix()
			r.sels = slices.Clone(o.sels)
			for i := range r.sels {
				r.sels[i] = strings.Replace(r.sels[i], base, "."+s.class(t.Part)+Target{Index: sits.Index}.suffix(), 1)
			}
		}
		if r.cond = spansQuery(sits.Spans, outside); r.cond != "" {
			out = append(out, r)
		}
	}
	return out, true
}

// spansQuery writes spans of widths as one condition of the block's room, or of the screen.
func spansQuery(spans [][2]int, screen bool) string {
	var parts []string
	for _, s := range spans {
		if s[0] == 0 && s[1] == 0 {
			parts = append(parts, "(width >= 0rem)")
			continue
		}
		parts = append(parts, widthQuery(s[0], s[1]))
	}
	switch {
	case len(parts) == 0:
		return ""
	case screen:
		return "@media " + strings.Join(parts, ", ")
	}
	return "@container " + strings.Join(parts, " or ")
}

// thresholds writes the measured conditions of a block: one line for each.
func (c *styling) thresholds(w *sheetWriter, b *site.Block, sec *library.Section) {
	if c.measured == nil {
		return
	}
	list := slices.Clone(c.measured.Thresholds[b.Name])
	sort.SliceStable(list, func(i, j int) bool {
		if a, b := c.env.RangeEnd(list[i].At), c.env.RangeEnd(list[j].At); a != b {
			return a > b
		}
		return list[i].From < list[j].From
	})
	at := ""
	for _, t := range list {
		m := sec.Measure(t.Name)
		if m == nil {
			continue
		}
		if t.At != at {
			if at != "" {
				w.close()
			}
			if at = t.At; at != "" {
				from, to, _ := c.env.Span(at)
				w.open("@media " + widthQuery(from, to))
			}
		}
		d := decl{name: "--" + slug(sec.Name) + "_" + t.Name, value: t.Value}
		if t.Value == "" {
			d.value = "initial"
		}
		sel := c.measuredSelector(b, sec, m)
		if t.From <= 0 {
			w.rule(sel, d)
			continue
		}
		w.open("@container (width >= " + strconv.FormatFloat(t.From/16, 'f', -1, 64) + "rem)")
		w.rule(sel, d)
		w.close()
	}
	if at != "" {
		w.close()
	}
}

// measuredSelector selects the elements that a measured condition sets its property on: those right in the room that
// it asks for.
func (c *styling) measuredSelector(b *site.Block, sec *library.Section, m *library.Measure) string {
	sel := "." + c.className(b, "")
	if m.Room != "" {
		return sel + " ." + scopedClass(c.env, sec, m.RoomClass) + " > *"
	}
	return sel + " > ." + slug(sec.Name) + " > *"
}
