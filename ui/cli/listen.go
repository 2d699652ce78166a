package cli

import (
	"fmt"
	"strings"

	"ziegel/core/check"
	"ziegel/core/explain"
	"ziegel/core/site"
)

// distances lists the space between neighbours on pages.
func (a *app) distances(list []*check.Subject, from, to int) error {
	type doc struct {
		Page      string           `json:"page"`
		Distances []check.Distance `json:"distances"`
	}
	var docs []doc
	for _, s := range list {
		ranges := site.DefaultRanges
		if s.Env != nil {
			ranges = s.Env.Site.Ranges
		}
		docs = append(docs, doc{s.Prepared.Name, check.Distances(s.Prepared, ranges, from, to)})
	}
	if a.json {
		return a.writeJSON(map[string]any{"pages": docs})
	}
	for _, d := range docs {
		title := ""
		for _, x := range d.Distances {
			if t := d.Page + " at " + x.Range; t != title {
				title = t
				a.say("%s", a.style.Bold(title))
			}
			what := fmt.Sprintf("%s, then %s", x.From, x.To)
			if x.Block != "" {
				what = x.Block + ": " + what
			}
			gap := fmt.Sprintf("%.4g px", x.Least)
			if x.Most-x.Least >= .5 {
				gap = fmt.Sprintf("%.4g to %.4g px", x.Least, x.Most)
			}
			line := fmt.Sprintf("  %-16s %-18s %s", x.Kind, gap, what)
			if x.Outlier != "" {
				line += "   " + a.style.Warning("! "+x.Outlier)
			}
			a.say("%s", line)
		}
	}
	return nil
}

// reading prints pages as they are read aloud and tabbed through.
func (a *app) reading(list []*check.Subject, at int) error {
	type doc struct {
		Page  string          `json:"page"`
		At    int             `json:"at"`
		Heard []explain.Heard `json:"heard"`
	}
	var docs []doc
	for _, s := range list {
		docs = append(docs, doc{s.Prepared.Name, at, explain.Reading(s.Prepared, s.Prepared.Engine().Layout(at))})
	}
	if a.json {
		return a.writeJSON(map[string]any{"pages": docs})
	}
	for _, d := range docs {
		a.say("%s", a.style.Bold(fmt.Sprintf("%s at %d px, as it is read; numbers are presses of the tab key",
			d.Page, d.At)))
		for _, h := range d.Heard {
			tab := "    "
			if h.Tab > 0 {
				tab = fmt.Sprintf("%3d ", h.Tab)
			}
			indent := tab + strings.Repeat("  ", h.Depth)
			a.say("%s", a.style.Wrap(indent+h.String(), len(indent)+2))
		}
	}
	return nil
}
