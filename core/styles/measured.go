package styles

import (
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Arrangements that a style can follow, beside those that have rows written out, such as 2+1.
var Arrangements = []string{"stacked", "beside", "above", "below", "over", "alone in its row", "wrapped",
	"menu", "hidden"}

var rowsForm = regexp.MustCompile(`^\d+(\+\d+)*$`)

// CanonicalWhen gives the name of an arrangement as typed. ok is false when there is none such.
func CanonicalWhen(typed string) (string, bool) {
	typed = strings.Join(strings.Fields(typed), " ")
	if typed == "alone" {
		typed = "alone in its row"
	}
	return typed, slices.Contains(Arrangements, typed) || rowsForm.MatchString(typed)
}

// EachItsOwn reports arrangements that each element of a part has by itself.
func EachItsOwn(cond string) bool {
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
				for _, name := range UsedBy(en.Value) {
					if s, _ := e.SharedStyle(name); s != nil {
						for _, x := range s.Value.Entries {
							if tail, err := ParseTail(x.Key); err == nil && x.Value.Kind == site.Map &&
								tail.When != "" {
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

// thresholds writes the measured conditions of a block: one line for each.
func (c *Writer) thresholds(w *sheetWriter, b *site.Block, sec *library.Section) {
	if c.Measured == nil {
		return
	}
	list := slices.Clone(c.Measured.Thresholds[b.Name])
	sort.SliceStable(list, func(i, j int) bool {
		if a, b := c.Env.RangeEnd(list[i].At), c.Env.RangeEnd(list[j].At); a != b {
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
				from, to, _ := c.Env.Span(at)
				w.open("@media " + WidthQuery(from, to))
			}
		}
		d := decl{name: "--" + Slug(sec.Name) + "_" + t.Name, value: t.Value}
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
func (c *Writer) measuredSelector(b *site.Block, sec *library.Section, m *library.Measure) string {
	sel := "." + c.ClassName(b, "")
	if m.Room != "" {
		return sel + " ." + ScopedClass(c.Env, sec, m.RoomClass) + " > *"
	}
	return sel + " > ." + Slug(sec.Name) + " > *"
}
