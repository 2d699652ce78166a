package cli

import (
	"errors"
	"fmt"
	"maps"
	"os"
	"path"
	"slices"
	"sort"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/settle"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// plan collects the edits of one command.
type plan struct {
	env     *compose.Env
	dir     string
	store   audit.Store
	edits   map[string][]site.Edit // by file
	files   []site.FileChange      // whole files: new, renamed or removed
	touched map[string][]string    // blocks to look at afterwards, by page
	done    string                 // one line that says what was done
	notes   []note
	parked  []string                          // content that the new section of a block does not show
	removes bool                              // links to what goes are told and left
	after   []func(env *compose.Env) []string // notes that need the site as it will be
	refuse  []func(env *compose.Env) error    // reasons against it that need the site as it will be
}

// note is what an edit tells beside what it did.
type note struct {
	at       diag.Position // of what it speaks of; zero for none
	severity diag.Severity // Warning, or "" for a plain line
	text     string
}

func (p *plan) note(format string, args ...any) {
	p.notes = append(p.notes, note{text: fmt.Sprintf(format, args...)})
}

func (p *plan) edit(file string, e site.Edit) {
	p.edits[file] = append(p.edits[file], e)
}

func (p *plan) touch(page string, blocks ...string) {
	p.touched[page] = append(p.touched[page], blocks...)
}

// touchAll makes all blocks of all pages be looked at.
func (p *plan) touchAll() {
	for _, page := range p.env.Site.Pages() {
		p.touch(page.Name, address.BlockNames(p.env, page)...)
	}
}

// mostTries is how often an edit is worked out anew because a file was saved meanwhile by somebody else.
const mostTries = 4

// change runs an editing command: under the site's lock, journaled, and told with what moved.
func (a *app) change(dryRun bool, prepare func(p *plan) error) error {
	dir, err := a.find()
	if err != nil {
		return err
	}
	for try := 1; ; try++ {
		p, after, err := a.commit(dir, dryRun, prepare)
		if errors.Is(err, site.ErrChanged) && try < mostTries {
			continue
		}
		if err != nil || after == nil || a.quiet { // nobody asks what moved
			return err
		}
		if p.done != "" {
			a.answer("%s", p.done)
		}
		a.tellNotes(p.notes)
		for _, f := range p.after {
			for _, n := range f(after) {
				a.answer("%s", a.style.Wrap(n, 3))
			}
		}
		done := a.pass("look what moved")
		a.moved(p.store, p.touched, p.env, after)
		done()
		return nil
	}
}

// tellNotes prints the notes of an edit.
func (a *app) tellNotes(notes []note) {
	for _, n := range notes {
		text := n.text
		if n.severity != "" {
			text = a.style.Severity(n.severity) + ": " + text
		}
		if n.at != (diag.Position{}) {
			text = n.at.String() + ": " + text
		}
		a.answer("%s", text)
	}
}

// commit works an edit out and writes it, under the site's lock. It gives the site as it is afterwards, nil when nothing changes.
func (a *app) commit(dir string, dryRun bool, prepare func(p *plan) error) (*plan, *compose.Env, error) {
	unlock, err := a.lock(dir)
	if err != nil {
		return nil, nil, err
	}
	defer unlock()
	done := a.pass("read the site")
	before, err := enter(dir)
	if done(); err != nil {
		return nil, nil, err
	}
	p := newPlan(before, storeOf(before))
	if err := prepare(p); err != nil {
		return nil, nil, err
	}
	done = a.pass("look for mistakes")
	changes, after, err := p.work()
	if done(); err != nil {
		return nil, nil, err
	}
	if len(changes) == 0 {
		a.answer("nothing to change")
		return nil, nil, nil
	}
	if dryRun {
		for _, c := range changes {
			a.say("%s", strings.TrimSuffix(diff(c), "\n"))
		}
		return p, after, nil
	}
	defer a.pass("write")()
	return p, after, site.Commit(dir, "ziegel "+strings.Join(quoteArgs(a.args), " "), time.Now(), changes)
}

func quoteArgs(args []string) []string {
	out := make([]string, len(args))
	for i, s := range args {
		out[i] = s
		if strings.ContainsAny(s, " \"'$\n") {
			out[i] = "'" + strings.ReplaceAll(s, "'", `'\''`) + "'"
		}
	}
	return out
}

// newPlan begins an edit of a site. The store keeps what was found about its pages.
func newPlan(env *compose.Env, store audit.Store) *plan {
	return &plan{env: env, dir: env.Site.Dir, store: store, edits: map[string][]site.Edit{}, touched: map[string][]string{}}
}

// work works the edits out: the files as they will be, none when nothing changes, and the site as it will be. A mistake that the edit would make is
// the error.
func (p *plan) work() ([]site.FileChange, *compose.Env, error) {
	if err := p.env.Mistakes(p.env.Site.Read()...).Err(); err != nil { // what was read has to be sound
		return nil, nil, err
	}
	changes, err := p.changes()
	if err != nil || len(changes) == 0 {
		return nil, nil, err
	}
	after, err := p.validate(changes)
	if err != nil {
		return nil, nil, err
	}
	for _, f := range p.refuse {
		if err := f(after); err != nil {
			return nil, nil, err
		}
	}
	p.touchShared(after)
	for i, name := range slices.Sorted(maps.Keys(p.touched)) { // what was is read while it is so
		if i < mostPages {
			p.env.Site.Page(name)
		}
	}
	return changes, after, nil
}

// trial gives the site as the edits would make it, for looking at.
func (p *plan) trial() (*compose.Env, error) {
	changes, err := p.changes()
	if err != nil {
		return nil, err
	}
	return p.validate(changes)
}

// changes turns the edits into new file contents.
func (p *plan) changes() ([]site.FileChange, error) {
	var out []site.FileChange
	names := make([]string, 0, len(p.edits))
	for n := range p.edits {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		data, err := site.ReadIn(p.dir, n)
		isNew := errors.Is(err, os.ErrNotExist)
		if err != nil && !isNew {
			return nil, err
		}
		if was := p.env.Site.Source(n); was != "" && was != strings.TrimPrefix(string(data), "\ufeff") {
			return nil, fmt.Errorf("%s %w", n, site.ErrChanged) // the edit was worked out on another text
		}
		text, err := site.EditSource(n, string(data), p.edits[n]...)
		if err != nil {
			return nil, err
		}
		if text != string(data) {
			out = append(out, site.FileChange{Path: n, Before: string(data), After: text, New: isNew})
		}
	}
	return append(out, p.files...), nil
}

// validate reads the site as it will be, with the pages that the change can break. Mistakes that were not there before stop the edit.
func (p *plan) validate(changes []site.FileChange) (*compose.Env, error) {
	after, problems, err := p.env.With(changes)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, err
	}
	names := p.reached(after, changes)
	found := p.mistakes(after, names)
	if found.Err() == nil {
		return after, nil
	}
	old := map[string]bool{}
	for _, x := range p.mistakes(p.env, names) {
		old[x.Rule+x.Text] = true
	}
	var fresh diag.Problems
	for _, x := range found {
		if !old[x.Rule+x.Text] && x.Severity == diag.Error && (x.Rule != "dead-link" || !p.allowDead()) {
			fresh = append(fresh, x)
		}
	}
	return after, fresh.Err()
}

// mistakes composes pages, measures the blocks that were touched, and tells what is wrong.
func (p *plan) mistakes(e *compose.Env, names []string) diag.Problems {
	var out diag.Problems
	for _, name := range names {
		page := e.Site.Page(name)
		if page == nil {
			continue
		}
		out = append(out, e.Mistakes(page)...)
		_, ps := compose.Compose(e, page, compose.Options{Marks: true})
		out = append(out, ps...)
		if blocks := p.touched[name]; len(blocks) > 0 {
			_, ps = settle.Measure(e, page, blocks, nil)
			out = append(out, ps...)
		}
	}
	return out
}

// mostPages is on how many pages an edit that reaches many is looked at: with hundreds of them an answer would take minutes.
const mostPages = 24

// reached names the pages on which a change can make a mistake: those whose files change, all that speak of what it takes away, and as many of
// those that it touches or that speak of what it changes as can be looked at quickly.
func (p *plan) reached(after *compose.Env, changes []site.FileChange) []string {
	names := map[string]bool{}
	var gone, words []string
	main := false
	for _, c := range changes {
		dir, file := path.Split(c.Path)
		name := strings.TrimSuffix(file, ".yaml")
		switch {
		case dir == "pages/":
			names[name] = true
			now := after.Site.Page(name)
			if now == nil {
				gone = append(gone, name)
				continue
			}
			if was := p.env.Site.Page(name); was != nil {
				for _, b := range p.env.Site.All(was) {
					if b.EveryPage == "" && after.Site.Block(now, b.Name) == nil {
						gone = append(gone, name+"#"+b.Name)
					}
				}
			}
		case c.Path == site.FileName:
			words, main = append(words, mainWords(p.env.Site, after.Site)...), true
		case strings.HasSuffix(file, ".tokens.json"):
			words, main = append(words, "{"), true // references to tokens
		case strings.HasPrefix(dir, "sections/"):
			words, main = append(words, path.Base(path.Dir(strings.TrimSuffix(dir, "/")))+"/"+path.Base(dir)), true
		}
	}
	if len(gone) > 0 {
		for _, page := range after.Site.Mentioning(gone...) {
			names[page.Name] = true
		}
	}
	likely := slices.Sorted(maps.Keys(p.touched))
	if len(words) > 0 {
		likely = append(likely, after.Site.NamesMentioning(words...)...)
	}
	for _, n := range likely[:min(len(likely), mostPages)] {
		names[n] = true
	}
	if all := after.Site.PageNames(); main && len(names) == 0 && len(all) > 0 {
		names[all[0]] = true // one stands for all: what is on every page is on it
	}
	return slices.Sorted(maps.Keys(names))
}

// mainWords lists what pages may speak of and a change of the site's file touches: blocks on every page, shared styles, sections with
// defaults, ranges.
func mainWords(was, now *site.Site) []string {
	var out []string
	old := map[string]*site.Value{}
	note := func(kind, name string, v *site.Value) { old[kind+name] = v }
	differs := func(kind, name string, v *site.Value) {
		if o, had := old[kind+name]; !had || !o.Equal(v) {
			out = append(out, name)
		}
		delete(old, kind+name)
	}
	each := func(s *site.Site, do func(kind, name string, v *site.Value)) {
		for _, list := range [][]*site.Block{s.Top, s.Bottom} {
			for _, b := range list {
				for _, in := range inBlock(b) {
					do("block ", in.Name, in.Node)
				}
			}
		}
		for _, x := range s.Styles {
			do("style ", x.Name, x.Value)
		}
		for _, x := range s.Defaults {
			do("default ", x.Section, x.Node)
		}
		for _, x := range s.Ranges {
			do("range ", x.Name, site.NewText(fmt.Sprint(x.From, x.To)))
		}
	}
	each(was, note)
	each(now, differs)
	for k := range old {
		_, name, _ := strings.Cut(k, " ")
		out = append(out, name)
	}
	if was.Theme != now.Theme {
		out = append(out, "{")
	}
	return out
}

// allowDead lets removals leave dead links: they are told instead.
func (p *plan) allowDead() bool { return p.removes }

// mostShared is on how many pages the effect of a change to a block on every page is looked at.
const mostShared = 6

// touchShared adds other pages that a touched block stands on: those that say something of their own about it first.
func (p *plan) touchShared(after *compose.Env) {
	var shared []string
	for name, blocks := range p.touched {
		page := after.Site.Page(name)
		if page == nil {
			continue
		}
		for _, block := range blocks {
			if b := after.Site.Block(page, block); b != nil && b.EveryPage != "" && !slices.Contains(shared, block) {
				shared = append(shared, block)
			}
		}
	}
	sort.Strings(shared)
	for _, block := range shared {
		pages := after.Site.Mentioning(block)
		names := after.Site.PageNames()
		for _, n := range names {
			if len(pages) >= mostShared {
				break
			}
			if page := after.Site.Page(n); !slices.Contains(pages, page) {
				pages = append(pages, page)
			}
		}
		here := 0
		for _, page := range pages[:min(len(pages), mostShared)] {
			b := after.Site.Block(page, block)
			if b == nil || b.EveryPage == "" {
				continue
			}
			here++
			if !slices.Contains(p.touched[page.Name], block) {
				p.touched[page.Name] = append(p.touched[page.Name], block)
			}
		}
		if here < len(names) && len(names) > mostShared {
			p.note("looked at %s on %d of %d pages; `ziegel check` looks at all", block, here, len(names))
		}
	}
}

// moved answers what an edit did to the layout: arrangements that changed, findings that came or went.
func (a *app) moved(st audit.Store, touched map[string][]string, before, after *compose.Env) {
	pages, all := effectsOf(st, touched, before, after)
	if all > len(pages) {
		a.answer("looked at %d of the %d pages that it reaches; `ziegel check` looks at all", len(pages), all)
	}
	for _, page := range pages {
		if page.still {
			where := ""
			if len(pages) > 1 {
				where = " on " + page.page
			}
			a.answer("nothing moved from one row to another%s at %d..%d px", where, sweep.DefaultFrom, sweep.DefaultTo)
		}
		for _, e := range page.effects {
			a.answer("%s", a.effect(e))
		}
	}
}

// effect words one effect of an edit.
func (a *app) effect(e effect) string {
	switch e.kind {
	case stacksNow:
		return fmt.Sprintf("%s stacks: %s", e.where, spansText(e.arrangements))
	case stacksAnew:
		return fmt.Sprintf("%s moved: %s (was %s)", e.where, spansText(e.arrangements), spansText(e.earlier))
	case takesTurn:
		return fmt.Sprintf("%s takes its turn: %s %s (was %s)", e.where, e.choice, e.now, e.was)
	case standsTwice:
		return fmt.Sprintf("new %s: %s [twice]", a.style.Severity(diag.Warning), e.now)
	case newFinding:
		return a.style.Wrap(fmt.Sprintf("new %s: %s", a.style.Severity(e.finding.Severity), findingLine(*e.finding)), 3)
	case goneFinding:
		return a.style.Wrap("gone: "+findingLine(*e.before), 3)
	}
	return a.style.Wrap(fmt.Sprintf("%s now: %s (was%s)", a.style.Severity(e.finding.Severity), findingLine(*e.finding), widthsOf(*e.before)), 3)
}

// effectKind says what an effect of an edit is.
type effectKind int

// The kinds of effects.
const (
	stacksNow   effectKind = iota // a new block, or part, stacks so
	stacksAnew                    // it stacks in another way than before
	takesTurn                     // tone or side follow from neighbours, which are others now
	standsTwice                   // there is a second navigation or footer now
	newFinding
	goneFinding
	otherFinding // the finding says something else now
)

// effect is one thing that an edit did to a page.
type effect struct {
	kind                  effectKind
	where                 string       // PAGE/BLOCK or PAGE/BLOCK.PART
	arrangements, earlier []sweep.Span // of stacksNow and stacksAnew
	choice, now, was      string       // of takesTurn: what takes another value; of standsTwice: now says what
	finding, before       *audit.Finding
}

// pageEffects is what an edit did to one page.
type pageEffects struct {
	page    string
	effects []effect
	still   bool // everything stands and is found as before
}

// effectsOf looks at the blocks that an edit touched, on mostPages pages at most, and tells how many pages there are.
func effectsOf(st audit.Store, touched map[string][]string, before, after *compose.Env) ([]pageEffects, int) {
	names := slices.Sorted(maps.Keys(touched))
	all := len(names)
	var out []pageEffects
	for _, name := range names[:min(all, mostPages)] {
		old, now := inspect(st, before, name, touched[name]), inspect(st, after, name, touched[name])
		page := pageEffects{page: name}
		if now == nil && old == nil {
			out = append(out, page)
			continue
		}
		page.effects = stacked(name, stackings(old), stackings(now))
		page.effects = append(page.effects, turned(before, after, name)...)
		page.effects = append(page.effects, doubled(before, after, name)...)
		page.effects = append(page.effects, compare(old, now)...)
		gone := slices.ContainsFunc(stackings(old), func(b sweep.Stacking) bool {
			_, still := find(stackings(now), b.Name)
			return !still
		})
		page.still = len(page.effects) == 0 && now != nil && !gone
		out = append(out, page)
	}
	return out, all
}

// stacked tells which blocks, and what in them, stand in another way than before.
func stacked(page string, old, now []sweep.Stacking) []effect {
	var out []effect
	for _, b := range now {
		was, had := find(old, b.Name)
		where := page + "/" + b.Name
		switch {
		case !had:
			out = append(out, effect{kind: stacksNow, where: where, arrangements: b.Arrangements})
		case !sameSpans(was.Arrangements, b.Arrangements):
			out = append(out, effect{kind: stacksAnew, where: where, arrangements: b.Arrangements, earlier: was.Arrangements})
		}
		for _, in := range b.Inside {
			for _, o := range was.Inside {
				if o.Part == in.Part && !sameSpans(o.Arrangements, in.Arrangements) {
					out = append(out, effect{kind: stacksAnew, where: where + "." + in.Part, arrangements: in.Arrangements, earlier: o.Arrangements})
				}
			}
		}
	}
	return out
}

func sameSpans(a, b []sweep.Span) bool {
	return slices.EqualFunc(a, b, func(x, y sweep.Span) bool { return x.As == y.As && x.From == y.From && x.To == y.To })
}

// doubled tells of a second navigation or footer that an edit brought to a page.
func doubled(before, after *compose.Env, name string) []effect {
	was, is := before.Site.Page(name), after.Site.Page(name)
	if is == nil {
		return nil
	}
	var had []string
	if was != nil {
		had = audit.Doubled(before, was)
	}
	var out []effect
	for _, t := range audit.Doubled(after, is) {
		if !slices.Contains(had, t) {
			out = append(out, effect{kind: standsTwice, now: t})
		}
	}
	return out
}

// turned tells which blocks of a page take another tone or side now, because their neighbours are others.
func turned(before, after *compose.Env, name string) []effect {
	was, is := before.Site.Page(name), after.Site.Page(name)
	if was == nil || is == nil {
		return nil
	}
	old := map[string]*site.Block{}
	for _, b := range before.All(was) {
		old[b.Name] = b
	}
	var out []effect
	for _, b := range after.All(is) {
		o := old[b.Name]
		if o == nil || !o.Node.Equal(b.Node) {
			continue // itself changed
		}
		if o.Tone != b.Tone {
			out = append(out, effect{kind: takesTurn, where: name + "/" + b.Name, choice: "tone", now: b.Tone, was: o.Tone})
		}
		for _, n := range slices.Sorted(maps.Keys(b.Options)) {
			if v, ov := b.Options[n], o.Options[n]; ov.Str() != v.Str() {
				out = append(out, effect{kind: takesTurn, where: name + "/" + b.Name, choice: n, now: v.Str(), was: ov.Str()})
			}
		}
	}
	return out
}

func stackings(r *audit.Report) []sweep.Stacking {
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

func inspect(st audit.Store, e *compose.Env, page string, blocks []string) *audit.Report {
	p := e.Site.Page(page)
	if p == nil {
		return nil
	}
	any := false
	for _, b := range blocks {
		any = any || e.Site.Block(p, b) != nil
	}
	if !any {
		return nil
	}
	s, err := audit.Lay(e, p, blocks)
	if err != nil {
		return nil
	}
	key := "part-" + st.Key(e, s.Laid, p, s.Problems, sweep.DefaultFrom, sweep.DefaultTo) // it has no findings about the page
	r := st.Load(key)
	if r == nil {
		r = audit.RunKept(st, e, s.Laid, nil, s.Problems, sweep.DefaultFrom, sweep.DefaultTo)
		st.Save(key, r)
	}
	r.Findings = slices.DeleteFunc(r.Findings, func(f audit.Finding) bool { return audit.OfWholePage(f.Rule) }) // only some blocks are here
	r.Accept(e.Site.Accepted, make([]bool, len(e.Site.Accepted)))
	return r
}

// subjectOf names what a finding is about, without its numbers.
func subjectOf(f audit.Finding) string {
	return fmt.Sprintf("%s %s %s %d", f.Rule, f.Block, f.Part, f.Item)
}

// compare lists what an edit did to the findings. Notes that go are not worth a line.
func compare(old, now *audit.Report) []effect {
	by := map[string][]*audit.Finding{}
	if old != nil {
		for i := range old.Findings {
			k := subjectOf(old.Findings[i])
			by[k] = append(by[k], &old.Findings[i])
		}
	}
	var out []effect
	if now != nil {
		for i := range now.Findings {
			f := &now.Findings[i]
			k := subjectOf(*f)
			if len(by[k]) == 0 {
				out = append(out, effect{kind: newFinding, finding: f})
				continue
			}
			if was := by[k][0]; was.Text != f.Text || was.From != f.From || was.To != f.To {
				out = append(out, effect{kind: otherFinding, finding: f, before: was})
			}
			by[k] = by[k][1:]
		}
	}
	if old != nil {
		for i := range old.Findings {
			f := &old.Findings[i]
			if slices.Contains(by[subjectOf(*f)], f) && f.Severity != diag.Note {
				out = append(out, effect{kind: goneFinding, before: f})
			}
		}
	}
	return out
}

func findingLine(f audit.Finding) string {
	if f.To == 0 {
		return f.Text + " [" + f.Rule + "]"
	}
	return f.Text + widthsOf(f) + " [" + f.Rule + "]"
}

func widthsOf(f audit.Finding) string {
	switch {
	case f.To == 0:
		return ": " + f.Text
	case f.From == f.To:
		return fmt.Sprintf(" at %d", f.From)
	}
	return fmt.Sprintf(" at %d..%d", f.From, f.To)
}

func spansText(list []sweep.Span) string {
	var parts []string
	for i, s := range list {
		switch {
		case len(list) == 1:
			return s.As + " at every width"
		case i == len(list)-1:
			parts = append(parts, fmt.Sprintf("%s from %d", s.As, s.From))
		default:
			parts = append(parts, fmt.Sprintf("%s to %d", s.As, s.To))
		}
	}
	return strings.Join(parts, ", ")
}

// diff shows the changed lines of a file.
func diff(c site.FileChange) string {
	if !utf8.ValidString(c.Before) || !utf8.ValidString(c.After) { // a font: nobody reads its lines
		return fmt.Sprintf("--- %s\n+++ %s: %d kB\n", c.Path, c.Path, (len(c.After)+999)/1000)
	}
	a, b := strings.SplitAfter(c.Before, "\n"), strings.SplitAfter(c.After, "\n")
	head := 0
	for head < len(a) && head < len(b) && a[head] == b[head] {
		head++
	}
	tail := 0
	for tail < len(a)-head && tail < len(b)-head && a[len(a)-1-tail] == b[len(b)-1-tail] {
		tail++
	}
	var out strings.Builder
	fmt.Fprintf(&out, "--- %s\n+++ %s\n@@ -%d,%d +%d,%d @@\n", c.Path, c.Path, head+1, len(a)-head-tail, head+1, len(b)-head-tail)
	for _, l := range a[head : len(a)-tail] {
		out.WriteString("-" + strings.TrimRight(l, "\r\n") + "\n")
	}
	for _, l := range b[head : len(b)-tail] {
		out.WriteString("+" + strings.TrimRight(l, "\r\n") + "\n")
	}
	return out.String()
}

func dryRunFlag(cmd *cobra.Command, v *bool) {
	cmd.Flags().BoolVar(v, "dry-run", false, "show the change and its effect, write nothing")
}
