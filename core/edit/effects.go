package edit

import (
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// Effects looks at the blocks that an edit touched, on mostPages pages at most, and tells how many pages there are.
func Effects(st store.Store, touched map[string][]string, before, after *project.Project) ([]PageEffects, int) {
	names := slices.Sorted(maps.Keys(touched))
	all := len(names)
	var out []PageEffects
	for _, name := range names[:min(all, mostPages)] {
		old, was := look(st, before, name, touched[name])
		now, is := look(st, after, name, touched[name])
		page := PageEffects{Page: name}
		if now == nil && old == nil {
			out = append(out, page)
			continue
		}
		page.Effects = stacked(name, Stackings(old), Stackings(now))
		if was != nil && is != nil {
			page.Widths = probes(after, name, touched[name])
			page.Effects = append(page.Effects, shifted(after, was, is, page.Widths)...)
		}
		page.Effects = append(page.Effects, turned(before, after, name)...)
		page.Effects = append(page.Effects, doubled(before, after, name)...)
		page.Effects = append(page.Effects, Compare(old, now)...)
		gone := slices.ContainsFunc(Stackings(old), func(b sweep.Stacking) bool {
			_, still := find(Stackings(now), b.Name)
			return !still
		})
		page.Still = len(page.Effects) == 0 && now != nil && !gone
		out = append(out, page)
	}
	return out, all
}

// stacked tells which blocks, and what in them, stand in another way than before.
func stacked(page string, old, now []sweep.Stacking) []Effect {
	var out []Effect
	for _, b := range now {
		was, had := find(old, b.Name)
		where := page + "/" + b.Name
		switch {
		case !had:
			out = append(out, Effect{Kind: StacksNow, Where: where, Arrangements: b.Arrangements})
		case !sameSpans(was.Arrangements, b.Arrangements):
			out = append(out, Effect{Kind: StacksAnew, Where: where, Arrangements: b.Arrangements,
				Earlier: was.Arrangements})
		}
		for _, in := range b.Inside {
			for _, o := range was.Inside {
				if o.Part == in.Part && !sameSpans(o.Arrangements, in.Arrangements) {
					out = append(out, Effect{Kind: StacksAnew, Where: where + "." + in.Part,
						Arrangements: in.Arrangements, Earlier: o.Arrangements})
				}
			}
		}
	}
	return out
}

func sameSpans(a, b []sweep.Span) bool {
	return slices.EqualFunc(a, b, func(x, y sweep.Span) bool {
		return x.As == y.As && x.From == y.From &&
			x.To == y.To
	})
}

// doubled tells of a second navigation or footer that an edit brought to a page.
func doubled(before, after *project.Project, name string) []Effect {
	was, is := before.Site.Page(name), after.Site.Page(name)
	if is == nil {
		return nil
	}
	var had []string
	if was != nil {
		had = check.Doubled(before, was)
	}
	var out []Effect
	for _, t := range check.Doubled(after, is) {
		if !slices.Contains(had, t) {
			out = append(out, Effect{Kind: StandsTwice, Now: t})
		}
	}
	return out
}

// turned tells which blocks of a page take another tone or side now, because their neighbours are others.
func turned(before, after *project.Project, name string) []Effect {
	was, is := before.Site.Page(name), after.Site.Page(name)
	if was == nil || is == nil {
		return nil
	}
	old := map[string]*site.Block{}
	for _, b := range before.All(was) {
		old[b.Name] = b
	}
	var out []Effect
	for _, b := range after.All(is) {
		o := old[b.Name]
		if o == nil || !o.Node.Equal(b.Node) {
			continue // itself changed
		}
		if o.Tone != b.Tone {
			out = append(out, Effect{Kind: TakesTurn, Where: name + "/" + b.Name, Choice: "tone",
				Now: b.Tone, Was: o.Tone})
		}
		for _, n := range slices.Sorted(maps.Keys(b.Options)) {
			if v, ov := b.Options[n], o.Options[n]; ov.Str() != v.Str() {
				out = append(out, Effect{Kind: TakesTurn, Where: name + "/" + b.Name, Choice: n, Now: v.Str(),
					Was: ov.Str()})
			}
		}
	}
	return out
}

// Stackings gives how blocks stack by a report, none without one.
func Stackings(r *check.Report) []sweep.Stacking {
	if r == nil {
		return nil
	}
	return r.Blocks
}

func find(list []sweep.Stacking, name string) (sweep.Stacking, bool) {
	for _, s := range list {
		if s.Name == name {
			return s, true
		}
	}
	return sweep.Stacking{}, false
}

// Inspect sweeps some blocks of a page, or takes what the store knows of them. It gives nil when the page has none of
// them, or cannot be laid out.
func Inspect(st store.Store, e *project.Project, page string, blocks []string) *check.Report {
	r, _ := look(st, e, page, blocks)
	return r
}

// look gives the report on some blocks of a page, and the page with them alone.
func look(st store.Store, e *project.Project, page string, blocks []string) (*check.Report, *sweep.Prepared) {
	p := e.Site.Page(page)
	if p == nil {
		return nil, nil
	}
	any := false
	for _, b := range blocks {
		any = any || e.Site.Block(p, b) != nil
	}
	if !any {
		return nil, nil
	}
	s, err := check.Lay(e, p, blocks)
	if err != nil {
		return nil, nil
	}
	// it has no findings about the page
	key := "part-" + st.Key(e, s.Prepared, p, s.Problems, sweep.Widths{From: sweep.DefaultFrom, To: sweep.DefaultTo})
	r := check.LoadReport(st, key)
	if r == nil {
		part := &check.Subject{Env: e, Prepared: s.Prepared, Problems: s.Problems}
		r = check.RunKept(st, part, sweep.DefaultFrom, sweep.DefaultTo)
		check.SaveReport(st, key, r)
	}
	// only some blocks are here
	r.Findings = slices.DeleteFunc(r.Findings, func(f check.Finding) bool { return check.OfWholePage(f.Rule) })
	r.Accept(e.Site.Accepted, make([]bool, len(e.Site.Accepted)))
	return r, s.Prepared
}

// SubjectOf names what a finding is about, without its numbers.
func SubjectOf(f check.Finding) string {
	return fmt.Sprintf("%s %s %s %d", f.Rule, f.Block, f.Part, f.Item)
}

// Compare lists what an edit did to the findings. Notes that go are not worth a line.
func Compare(old, now *check.Report) []Effect {
	by := map[string][]*check.Finding{}
	if old != nil {
		for i := range old.Findings {
			k := SubjectOf(old.Findings[i])
			by[k] = append(by[k], &old.Findings[i])
		}
	}
	var out []Effect
	if now != nil {
		for i := range now.Findings {
			f := &now.Findings[i]
			k := SubjectOf(*f)
			if len(by[k]) == 0 {
				out = append(out, Effect{Kind: NewFinding, Finding: f})
				continue
			}
			if was := by[k][0]; was.Text != f.Text || was.From != f.From || was.To != f.To {
				out = append(out, Effect{Kind: otherFinding, Finding: f, Before: was})
			}
			by[k] = by[k][1:]
		}
	}
	if old != nil {
		for i := range old.Findings {
			f := &old.Findings[i]
			if slices.Contains(by[SubjectOf(*f)], f) && f.Severity != diag.Note {
				out = append(out, Effect{Kind: GoneFinding, Before: f})
			}
		}
	}
	return out
}

// Reversed gives the files of a step as they were before it was taken back, or done again.
func Reversed(c site.Change) []site.FileChange {
	var out []site.FileChange
	for _, f := range c.Files {
		if c.Undone {
			out = append(out, site.FileChange{Path: f.Path, After: f.After, Gone: f.Gone})
		} else {
			out = append(out, site.FileChange{Path: f.Path, After: f.Before, Gone: f.New})
		}
	}
	return out
}

// Travelled names the pages on which blocks may not be what they were before a step.
func Travelled(before, after *project.Project, c site.Change) []string {
	names := map[string]bool{}
	for _, f := range c.Files {
		switch dir, file := path.Split(f.Path); {
		case dir == "pages/":
			names[strings.TrimSuffix(file, ".yaml")] = true
		case f.Path == site.FileName:
			if words := mainWords(before.Site, after.Site); len(words) > 0 {
				for _, page := range after.Site.Mentioning(words...) {
					names[page.Name] = true
				}
			}
			if all := after.Site.PageNames(); len(all) > 0 {
				for _, n := range all[:min(len(all), mostShared)] {
					names[n] = true
				}
			}
		}
	}
	return slices.Sorted(maps.Keys(names))
}

// ChangedBlocks names the blocks of a page that are not what they were.
func ChangedBlocks(before, after *project.Project, page *site.Page) []string {
	old := before.Site.Page(page.Name)
	var out []string
	for _, b := range after.Site.All(page) {
		var was *site.Block
		if old != nil {
			was = before.Site.Block(old, b.Name)
		}
		if was == nil || !was.Node.Equal(b.Node) {
			out = append(out, b.Name)
		}
	}
	return out
}
