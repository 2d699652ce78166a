package edit

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// usualWidths are screens that people have, CSS px.
var usualWidths = []int{320, 360, 390, 430, 480, 560, 600, 700, 768, 834, 960, 1024, 1280, 1440, 1920, 2560}

// common are those that people name: where a difference is as large as elsewhere, it is told of them.
var common = map[int]bool{390: true, 768: true, 1280: true}

// probes are the widths at which sizes and places are compared: those that people have, the ends of each range and of
// the spans that styles of the blocks speak of.
func probes(e *project.Project, page string, blocks []string) []int {
	widths := map[int]bool{sweep.DefaultFrom: true}
	edge := func(w int) {
		if w >= sweep.DefaultFrom && w <= sweep.DefaultTo {
			widths[w] = true
		}
	}
	// where a style begins and ends, something may be seen that is seen nowhere else
	if p := e.Site.Page(page); p != nil {
		for _, name := range blocks {
			b := e.Site.Block(p, name)
			if b == nil || b.Style == nil {
				continue
			}
			for _, en := range b.Style.Entries {
				if t, err := styles.ParseTarget(en.Key); err == nil && t.At != "" {
					from, to, _ := e.Span(t.At)
					edge(from)
					edge(to)
				}
			}
		}
	}
	for _, w := range usualWidths {
		widths[w] = true
	}
	for _, name := range e.RangeNames() {
		from, to := rangeOf(e, name)
		if from <= to {
			widths[from], widths[to] = true, true
		}
	}
	return slices.Sorted(maps.Keys(widths))
}

// rangeOf gives the ends of a range as far as pages are looked at.
func rangeOf(e *project.Project, name string) (from, to int) {
	from, to, _ = e.Span(name)
	if to == 0 {
		to = sweep.DefaultTo
	}
	return max(from, sweep.DefaultFrom), min(to, sweep.DefaultTo)
}

// shifted tells what an edit did to sizes, places and looks in the blocks that stand there before and after it.
func shifted(e *project.Project, old, now *sweep.Prepared, widths []int) []Effect {
	shifts, redrawn := sweep.Differences(old, now, widths)
	whole := Effect{Kind: Shifted, Where: now.Name}
	if blocks := now.Every(); manyMove(shifts) && len(blocks) > 0 { // what they do to the page together is told once
		for _, s := range largest(e, shifts, blocks[0].Name,
			func(s sweep.Shifts) float64 { return math.Abs(s.Longer) }) {
			if s.Longer != 0 {
				whole.Shifts = append(whole.Shifts, sweep.Shifts{At: s.At, Longer: s.Longer})
			}
		}
		for i := range shifts {
			shifts[i].Longer = 0
		}
	}
	var out []Effect
	for _, b := range now.Every() {
		where := now.Name + "/" + b.Name
		moved := Effect{Kind: Shifted, Where: where,
			Shifts: largest(e, shifts, b.Name, func(s sweep.Shifts) float64 { return s.Most() })}
		if len(moved.Shifts) > 0 {
			out = append(out, moved)
		}
		mirrored := Effect{Kind: Mirrored, Where: where}
		for _, s := range shifts {
			if s.Block == b.Name && s.Mirrored != [2]string{} {
				mirrored.Shifts = append(mirrored.Shifts, s)
			}
		}
		if len(mirrored.Shifts) > 0 {
			out = append(out, mirrored)
		}
	}
	if len(whole.Shifts) > 0 {
		out = append(out, whole)
	}
	for _, r := range redrawn {
		out = append(out, looks(now.Name+"/"+r.Block, r)...)
	}
	return out
}

var corner = regexp.MustCompile(`^border-(?:top|bottom)-(?:left|right)-radius$`)

// manyMove reports that parts of several blocks shift, or of none.
func manyMove(shifts []sweep.Shifts) bool {
	moving := map[string]bool{}
	for _, s := range shifts {
		if len(s.Parts) > 0 {
			moving[s.Block] = true
		}
	}
	return len(moving) != 1
}

// largest gives, for each range, the width at which the shifts of a block are largest.
func largest(e *project.Project, shifts []sweep.Shifts, block string, size func(sweep.Shifts) float64) []sweep.Shifts {
	var out []sweep.Shifts
	for _, name := range e.RangeNames() {
		from, to := rangeOf(e, name)
		best := sweep.Shifts{}
		for _, s := range shifts {
			outside := s.Block != block || s.At < from || s.At > to || size(s) == 0 && s.Most() == 0 &&
				len(s.Parts) == 0
			if outside {
				continue
			}
			if best.At == 0 || size(s) > size(best) || size(s) == size(best) && common[s.At] {
				best = s
			}
		}
		if best.At > 0 {
			out = append(out, best)
		}
	}
	return out
}

// looks sorts what is drawn in another way into colors and the rest.
func looks(where string, r sweep.Redraw) []Effect {
	colors, rest := Effect{Kind: Recolored, Where: where}, Effect{Kind: Restyled, Where: where}
	for _, part := range slices.Sorted(maps.Keys(r.Properties)) {
		for _, name := range r.Properties[part] {
			e := &rest
			if strings.HasSuffix(name, "color") || name == "fill" || name == "stroke" || name == "background-image" {
				e = &colors
			}
			if !slices.Contains(e.Parts, part) {
				e.Parts = append(e.Parts, part)
			}
			if corner.MatchString(name) {
				name = "border-radius"
			}
			if !slices.Contains(e.Properties, name) {
				e.Properties = append(e.Properties, name)
			}
		}
	}
	var out []Effect
	for _, e := range []Effect{colors, rest} {
		if len(e.Parts) > 0 {
			out = append(out, e)
		}
	}
	return out
}
