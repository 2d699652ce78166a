package edit

import (
	"maps"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/project"
	"ziegel/core/sweep"
)

// usualWidths are screens that people have, CSS px.
var usualWidths = []int{320, 360, 390, 430, 480, 560, 600, 700, 768, 834, 960, 1024, 1280, 1440, 1920, 2560}

// common are those that people name: where a difference is as large as elsewhere, it is told of them.
var common = map[int]bool{390: true, 768: true, 1280: true}

// probes are the widths at which sizes and places are compared: those that people have, and the ends of each range.
func probes(e *project.Project) []int {
	widths := map[int]bool{sweep.DefaultFrom: true}
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
	var out []Effect
	for _, b := range now.Every() {
		where := now.Name + "/" + b.Name
		moved := Effect{Kind: Shifted, Where: where}
		for _, name := range e.RangeNames() {
			from, to := rangeOf(e, name)
			best := sweep.Shifts{}
			for _, s := range shifts {
				if s.Block == b.Name && s.At >= from && s.At <= to && (len(s.Parts) > 0 || s.Longer != 0) &&
					(best.At == 0 || s.Most() > best.Most() || s.Most() == best.Most() && common[s.At]) {
					best = s
				}
			}
			if best.At > 0 {
				moved.Shifts = append(moved.Shifts, best)
			}
		}
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
	for _, r := range redrawn {
		out = append(out, looks(now.Name+"/"+r.Block, r)...)
	}
	return out
}

var corner = regexp.MustCompile(`^border-(?:top|bottom)-(?:left|right)-radius$`)

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
