// Package cure looks for the smallest change that removes a finding, and proves it by another sweep.
package cure

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// Cure is a change of a site that removes a finding and raises none: both were seen in a sweep of every page that it
// touches.
type Cure struct {
	Finding check.Finding     `json:"finding"`
	Command string            `json:"command"` // what makes the change, for a shell
	Changes []site.FileChange `json:"-"`
}

// trial is one change to try.
type trial struct {
	command string
	edit    func() (string, []site.Edit) // file and what is changed in it
}

// Healer looks for cures on the pages of a site.
type Healer struct {
	env      *project.Project
	pieces   store.Store // of blocks that a trial leaves as they were
	from, to int
	before   map[string]*check.Report // by page
	alone    map[string]*check.Report // of single blocks, by address
}

// NewHealer prepares the search. reports are those of the whole span from..to of the pages that may be touched;
// missing ones are made when a trial asks for them. What is known of single blocks is taken from pieces and kept there.
func NewHealer(env *project.Project, pieces store.Store, from, to int, reports ...*check.Report) *Healer {
	h := &Healer{env: env, pieces: pieces, from: from, to: to,
		before: map[string]*check.Report{}, alone: map[string]*check.Report{}}
	for _, r := range reports {
		h.before[r.Page] = r
	}
	return h
}

// Cure looks for the smallest change that removes a finding on a page. ok is false when nothing that was tried does.
func (h *Healer) Cure(page string, f check.Finding) (c Cure, ok bool) {
	p := h.env.Site.Page(page)
	if p == nil || f.Block == "" {
		return Cure{}, false
	}
	b := h.env.Site.Block(p, f.Block)
	if b == nil {
		return Cure{}, false
	}
	sec := h.env.Library.Section(b.Section)
	if sec == nil {
		return Cure{}, false
	}
	proofs := 0
	for _, t := range h.trials(p, b, f) {
		file, edits := t.edit()
		text, err := site.EditSource(file, b.File.Source, edits...)
		if err != nil || text == b.File.Source {
			continue
		}
		changes := []site.FileChange{{Path: file, Before: b.File.Source, After: text}}
		after, problems, err := h.env.With(changes)
		if err != nil || problems.Err() != nil || !h.quick(after, p, b, f) {
			continue
		}
		if proofs++; proofs > mostProofs {
			break
		}
		if h.proves(after, p, b, f) {
			return Cure{Finding: f, Command: t.command, Changes: changes}, true
		}
	}
	return Cure{}, false
}

// mostProofs bounds how often a whole page is swept for one finding.
const mostProofs = 12

// whole are the rules that look at several blocks, so that what a block alone tells of them means nothing.
var whole = map[string]bool{"space-missing": true, "space-doubled": true, "seam": true, "off-lanes": true,
	"sticky-covers": true, "heading-adrift": true}

// quick sweeps the block alone, first at the widths of the finding, then at all: most trials end here.
func (h *Healer) quick(env *project.Project, p *site.Page, b *site.Block, f check.Finding) bool {
	if whole[f.Rule] || f.To == 0 {
		return true
	}
	r := h.sweep(env, env.Site.Page(p.Name), f.From, f.To, b.Name)
	if r == nil || tells(r, f) {
		return false
	}
	key := p.Name + "/" + b.Name
	before := h.alone[key]
	if before == nil {
		if before = h.sweep(h.env, p, h.from, h.to, b.Name); before == nil {
			return false
		}
		h.alone[key] = before
	}
	after := h.sweep(env, env.Site.Page(p.Name), h.from, h.to, b.Name)
	return after != nil && !raised(before, after)
}

// proves sweeps all pages that a change touches, before and after: the finding must be gone, and nothing new or
// wider.
func (h *Healer) proves(env *project.Project, p *site.Page, b *site.Block, f check.Finding) bool {
	pages := []*site.Page{p}
	if b.EveryPage != "" {
		pages = h.env.Site.Pages()
	}
	for _, page := range pages {
		before := h.before[page.Name]
		if before == nil {
			if before = h.sweep(h.env, page, h.from, h.to); before == nil {
				return false
			}
			h.before[page.Name] = before
		}
		after := h.sweep(env, env.Site.Page(page.Name), h.from, h.to)
		if after == nil || tells(after, f) || raised(before, after) {
			return false
		}
	}
	return true
}

func (h *Healer) sweep(env *project.Project, p *site.Page, from, to int, only ...string) *check.Report {
	page, problems := measure.Page(env, p, compose.Options{Marks: true, Only: only})
	if check.Blocking(problems).Err() != nil {
		return nil
	}
	l, err := sweep.FromPage(env, page)
	if err != nil {
		return nil
	}
	var r *check.Report
	if len(only) == 0 {
		r = check.RunKept(h.pieces, &check.Subject{Name: p.Name, Prepared: l, Page: p, Env: env, Problems: problems},
			from, to)
	} else {
		r = check.Run(l, nil, problems, from, to)
	}
	r.Accept(env.Site.Accepted, make([]bool, len(env.Site.Accepted)))
	return r
}

// tells reports whether a report has a finding of the same rule about the same thing at some of the same widths.
func tells(r *check.Report, f check.Finding) bool {
	for _, x := range r.Findings {
		same := x.Rule == f.Rule && x.Block == f.Block && x.Part == f.Part &&
			(f.To == 0 || x.From <= f.To && x.To >= f.From)
		if same {
			return true
		}
	}
	return false
}

// raised reports whether after has a finding that r has not, or has one at more widths.
func raised(r *check.Report, after *check.Report) bool {
	type subject struct {
		rule, block, part string
		item              int
	}
	widths := map[subject]int{}
	for _, f := range r.Findings {
		widths[subject{f.Rule, f.Block, f.Part, f.Item}] += f.To - f.From + 1
	}
	for _, f := range after.Findings {
		s := subject{f.Rule, f.Block, f.Part, f.Item}
		if widths[s] -= f.To - f.From + 1; widths[s] < 0 {
			return true
		}
	}
	return false
}

// trials lists the changes to try against a finding, the smallest first.
func (h *Healer) trials(p *site.Page, b *site.Block, f check.Finding) []trial {
	sec := h.env.Library.Section(b.Section)
	address := p.Name + "/" + b.Name
	rule := check.RuleNamed(f.Rule)
	var out []trial
	add := func(part string, r check.Remedy) {
		at := ""
		if r.Local && f.To > 0 {
			at = h.rangeFor(f)
		}
		out = append(out, h.styleTrial(b, address, part, r.CSS, at)...)
	}
	for _, key := range strings.Fields(rule.Distances) {
		for _, value := range []string{"{space.section}", "{space.far}"} {
			out = append(out, trial{fmt.Sprintf("ziegel set %s %s=%s", address, key, quoted(value)),
				func() (string, []site.Edit) {
					return b.File.Path, []site.Edit{{Op: site.Set, Path: site.Keys(b.Path, key),
						Value: site.NewText(value)}}
				}})
		}
		if b.Node.Get(key) != nil {
			out = append(out, trial{fmt.Sprintf("ziegel set %s %s=", address, key), func() (string, []site.Edit) {
				return b.File.Path, []site.Edit{{Op: site.Delete, Path: site.Keys(b.Path, key)}}
			}})
		}
	}
	around := f.Around
	for _, r := range rule.Remedies {
		switch r.Where {
		case "":
			for _, part := range []string{f.Part, f.OtherPart} {
				if part != "" {
					add(part, r)
				}
			}
		case "around":
			for _, part := range around {
				add(part, r)
			}
		case "root":
			add("root", r)
		}
	}
	if rule.Remedies == nil {
		return out
	}
	resets := resetTrials(b, address, append([]string{f.Part, f.OtherPart, "root"}, around...))
	if rule.OwnFirst { // what the page itself says of these distances is the likely slip
		out = append(resets, out...)
	} else {
		out = append(out, resets...)
	}
	for _, o := range sec.Options {
		now := o.Default
		if v := b.Options[o.Name]; v != nil {
			now = v.Str()
		}
		for _, choice := range o.Choices {
			if choice != now {
				out = append(out, trial{fmt.Sprintf("ziegel set %s options.%s=%s", address, o.Name, quoted(choice)),
					func() (string, []site.Edit) {
						return b.File.Path, []site.Edit{{Op: site.Set, Path: site.Keys(b.Path, "options", o.Name),
							Value: site.NewText(choice)}}
					}})
			}
		}
	}
	return out
}

// rangeFor names the widths of a finding: a range of the site that holds exactly them or a little more, else the
// widths themselves.
func (h *Healer) rangeFor(f check.Finding) string {
	best, size := "", 1<<30
	for _, r := range h.env.Site.Ranges {
		to := r.To
		if to == 0 {
			to = h.to
		}
		if max(r.From, h.from) <= f.From && to >= f.To && to-r.From < size {
			best, size = r.Name, to-r.From
		}
	}
	switch {
	case best != "" && size <= 2*(f.To-f.From+1):
		return best
	case f.From <= h.from && f.To >= h.to:
		return ""
	case f.From <= h.from:
		return fmt.Sprintf("..%d", f.To)
	case f.To >= h.to:
		return fmt.Sprintf("%d..", f.From)
	}
	return fmt.Sprintf("%d..%d", f.From, f.To)
}

func (h *Healer) styleTrial(b *site.Block, address, part, text, at string) []trial {
	var decls [][2]string
	for _, d := range splitDecls(text) {
		name, value, _ := strings.Cut(d, "=")
		if project.CheckProperty(h.env, name, value) != nil {
			return nil
		}
		decls = append(decls, [2]string{name, value})
	}
	key := styles.StyleKey(b.Style, styles.Target{Part: part, At: at})
	command := "ziegel style " + address + "." + part
	for _, d := range decls {
		command += " " + quoted(d[0]+"="+d[1])
	}
	if at != "" {
		command += " --at " + at
	}
	return []trial{{command, func() (string, []site.Edit) {
		var edits []site.Edit
		for _, d := range decls {
			edits = append(edits, site.Edit{Op: site.Set, Path: site.Keys(b.Path, "style", key, d[0]),
				Value: site.NewText(d[1])})
		}
		return b.File.Path, edits
	}}}
}

// splitDecls cuts "min-width=0 overflow-wrap=anywhere" at the spaces before a property.
func splitDecls(text string) []string {
	var out []string
	for _, w := range strings.Fields(text) {
		if name, _, ok := strings.Cut(w, "="); ok && css.KnownProperty(name) || len(out) == 0 {
			out = append(out, w)
			continue
		}
		out[len(out)-1] += " " + w
	}
	return out
}

// resetTrials takes back what the page itself says of the parts, one property after the other.
func resetTrials(b *site.Block, address string, parts []string) []trial {
	if b.Style == nil {
		return nil
	}
	var out []trial
	for _, e := range b.Style.Entries {
		t, err := styles.ParseTarget(e.Key)
		if err != nil || e.Value.Kind != site.Map || !slices.Contains(parts, t.Part) || t.State != "" {
			continue
		}
		for _, prop := range e.Value.Entries {
			path := site.Keys(b.Path, "style", e.Key, prop.Key)
			switch {
			case len(e.Value.Entries) > 1:
			case len(b.Style.Entries) > 1:
				path = site.Keys(b.Path, "style", e.Key)
			default:
				path = site.Keys(b.Path, "style")
			}
			command := fmt.Sprintf("ziegel style %s.%s %s --reset", address, t.Element(), prop.Key)
			if t.At != "" {
				command += " --at " + t.At
			}
			if t.In != "" {
				command += " --in " + t.In
			}
			out = append(out, trial{command, func() (string, []site.Edit) {
				return b.File.Path, []site.Edit{{Op: site.Delete, Path: path}}
			}})
		}
	}
	return out
}

// quoted writes an argument for a shell.
func quoted(s string) string {
	if strings.ContainsAny(s, " \"'$(){}*;&|<>#") {
		return "'" + strings.ReplaceAll(s, "'", `'\''`) + "'"
	}
	return s
}

// Curable lists what a cure may be looked for, the worst first: one finding for each rule and part, over all the
// widths at which the rule tells of the part.
func Curable(r *check.Report) []check.Finding {
	at := map[string]int{}
	var out []check.Finding
	for _, f := range r.Findings {
		if check.RuleNamed(f.Rule).Remedies == nil || f.Block == "" {
			continue
		}
		key := f.Rule + " " + f.Block + "." + f.Part
		i, seen := at[key]
		if !seen {
			at[key] = len(out)
			out = append(out, f)
			continue
		}
		out[i].From, out[i].To = min(out[i].From, f.From), max(out[i].To, f.To)
	}
	return out
}
