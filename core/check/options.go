package check

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Idle is an option of a block that changes nothing at the widths that it is for.
type Idle struct {
	Key   string // as written: columns at phone
	Pos   diag.Position
	Value string
}

// IdleOptions finds the options of a block that change nothing with its content, those for a range only unless all
// are asked for. The block is laid out with and without each of them, at widths of the range.
func IdleOptions(env *project.Project, p *site.Page, b *site.Block, all bool) []Idle {
	own := b.Node.Get("options")
	sec := env.Library.Section(b.Section)
	if own == nil || sec == nil {
		return nil
	}
	var out []Idle
	var with *layout.Engine
	for _, e := range own.Entries {
		name, at, ranged := strings.Cut(e.Key, " at ")
		o := sec.Option(strings.TrimSpace(name))
		if o == nil || !ranged && (!all || e.Value.Str() == o.Default) {
			continue
		}
		widths := []int{390, 600, 820, 1024, 1280, 1920}
		if ranged {
			from, to, ok := env.Span(strings.TrimSpace(at))
			if !ok {
				continue
			}
			if from = max(from, sweep.DefaultFrom); to == 0 {
				to = max(from, 1920)
			}
			widths = []int{from, from + (to-from)/4, (from + to) / 2, to - (to-from)/4, to}
		}
		if with == nil {
			if with = alone(env, p, b); with == nil {
				return nil
			}
		}
		c := *b
		c.Options = map[string]*site.Value{}
		for k, v := range b.Options {
			if k != e.Key {
				c.Options[k] = v
			}
		}
		c.Node = b.Node.Clone()
		if opts := c.Node.Get("options"); opts != nil {
			opts.Entries = slices.DeleteFunc(opts.Entries, func(x site.Entry) bool { return x.Key == e.Key })
		}
		if without := alone(env, p, &c); without != nil &&
			!slices.ContainsFunc(widths, func(w int) bool { return differs(with, without, w) }) {
			out = append(out, Idle{e.Key, e.KeyPos, e.Value.Str()})
		}
	}
	return out
}

// alone lays a block out by itself, dialogs open; nil when it cannot be.
func alone(env *project.Project, p *site.Page, b *site.Block) *layout.Engine {
	e, page := env.WithBlock(p, b)
	composed, problems := measure.Page(e, page, compose.Options{Marks: true, Only: []string{b.Name}})
	if Blocking(problems).Err() != nil {
		return nil
	}
	l, err := sweep.FromPage(e, composed)
	if err != nil {
		return nil
	}
	if l, err = l.In("popover-open"); err != nil {
		return nil
	}
	return l.Engine()
}

// differs reports whether two blocks look different at a width.
func differs(a, b *layout.Engine, width int) bool {
	x, y := a.Layout(width), b.Layout(width)
	if len(x.Boxes) != len(y.Boxes) || len(x.Generated) != len(y.Generated) {
		return true
	}
	for i := range len(x.Boxes) + len(x.Generated) {
		p, _ := placedAt(x, i)
		q, _ := placedAt(y, i)
		differs := p.Element.Tag != q.Element.Tag || p.Pseudo != q.Pseudo || p.Rect != q.Rect || p.Text != q.Text ||
			p.Style.FontWeight != q.Style.FontWeight || p.Style.Position != q.Style.Position
		if differs {
			return true
		}
		look, other := p.Style.Look(), q.Style.Look()
		for _, name := range paintedBy {
			if css.Text(look.Value(name)) != css.Text(other.Value(name)) {
				return true
			}
		}
	}
	return false
}

// paintedBy are properties by which options change what is seen without moving it.
var paintedBy = strings.Fields(
	`color background-color background-image border-top-left-radius border-top-right-radius border-bottom-right-radius border-bottom-left-radius border-top-color border-bottom-color
	border-top-style object-fit object-position mask-image box-shadow text-decoration-line filter mix-blend-mode z-index clip-path`,
)

// AddSite adds to the report of a page what only its site can tell: options for a range that change nothing there,
// fonts that nothing brings, of those of the whole site.
func (rep *Report) AddSite(env *project.Project, missing []review.MissingFont, p *site.Page, l *sweep.Prepared) {
	had := len(rep.Findings)
	rep.addFonts(missing, l)
	for _, b := range env.All(p) {
		for _, o := range IdleOptions(env, p, b, false) {
			rep.Findings = append(rep.Findings, Finding{Rule: "option-idle", Severity: diag.Warning, Block: b.Name,
				Text:  fmt.Sprintf("the option %s=%s changes nothing with this content", o.Key, o.Value),
				Cause: diag.Place{Position: o.Pos},
				Cure:  "take it out, or another value"})
		}
	}
	if len(rep.Findings) > had {
		rep.sort(l)
	}
}
