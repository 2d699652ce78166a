// Package proof puts every section of the library through what designers do to it: its options in pairs, lists of
// many lengths, each tone and theme, half of a page, a dialog, and hostile content. Each trial is a sweep of all
// widths with every rule of the check.
package proof

import (
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/stress"
	"ziegel/core/sweep"
	"ziegel/core/theme"
	"ziegel/stock"
)

// Trial is one thing that is done to a section.
type Trial struct {
	Group string // options, lists, half, dialog, stress
	Name  string // what is done: "options in lamplight", "9 entries"
	Theme string
	Files map[string]string // of the site beside the page: sections of its own
	page  string            // pages/home.yaml
	kind  string            // of stress, "" for none
}

// Found is what a trial raised.
type Found struct {
	Trial
	Widths   int
	Blocks   int
	Errors   []string
	Warnings []string
}

// Counts are the lengths that lists are tried with.
var Counts = []int{1, 2, 3, 4, 5, 6, 9, 12}

// Trials lists all that is done to a section. The themes after the first are tried with the section's own options
// only.
func Trials(s *library.Section, themes []string) []Trial {
	var out []Trial
	rows := pairs(s)
	var blocks []string
	for i, r := range rows {
		blocks = append(blocks, fmt.Sprintf("  - {name: b%d, section: %s, tone: %s%s}\n", i+1, s.Name,
			theme.Tones[i%len(theme.Tones)], optionsYAML(r)))
	}
	for i := len(rows); i < len(theme.Tones); i++ { // every tone, however few the options are
		blocks = append(blocks, fmt.Sprintf("  - {name: b%d, section: %s, tone: %s}\n", i+1, s.Name, theme.Tones[i]))
	}
	pages := []string{strings.Join(blocks, "")}
	single := s.Kind == "nav" // a page has one, and what stays on the screen would lie over the others
	if single {
		pages = blocks
	}
	for i, name := range themes {
		for _, p := range pages {
			t := Trial{Group: "options", Name: fmt.Sprintf("%d combinations of options, every tone, in %s", len(rows),
				name), Theme: name, page: "title: Proof\nblocks:\n" + p}
			if i > 0 {
				t.Group = "themes"
			}
			out = append(out, t)
		}
	}
	if more := offFields(s); more != "" {
		out = append(out, Trial{Group: "options", Name: "with fields that show nothing until a page gives them",
			Theme: themes[0], page: fmt.Sprintf("title: Proof\nblocks:\n  - {name: b1, section: %s, content: {%s}}\n",
				s.Name, more)})
	}
	one := fmt.Sprintf("title: Proof\nblocks:\n  - {name: b1, section: %s}\n", s.Name)
	for _, n := range Counts {
		if len(lists(s)) > 0 {
			out = append(out, Trial{Group: "lists", Name: fmt.Sprintf("%d entries", n), Theme: themes[0], page: one,
				kind: fmt.Sprintf("items-%d", n)})
		}
	}
	last := fmt.Sprintf("  - {name: b2, section: %s}\n", s.Name)
	if single {
		last = ""
	}
	out = append(out, Trial{Group: "held", Name: "first and last on a page", Theme: themes[0],
		page: fmt.Sprintf("title: Proof\nblocks:\n  - {name: b1, section: %s}\n  - {name: between, section: features/list, tone: tinted}\n", s.Name) + last})
	if len(s.Slots) == 0 {
		held := "title: Proof\nblocks:\n  - name: holder\n    section: %s\n    holds:\n      %s:\n        - {name: b1, section: %s}\n        - {name: b2, section: %[3]s, tone: deep}\n"
		out = append(out, Trial{Group: "held", Name: "in one half of a page", Theme: themes[0],
			page: fmt.Sprintf(held, "layout/columns", "left", s.Name)},
			Trial{Group: "held", Name: "in a narrow side", Theme: themes[0],
				page: fmt.Sprintf(held, "layout/side", "side", s.Name)},
			Trial{Group: "held", Name: "in a dialog", Theme: themes[0],
				page: fmt.Sprintf(held, "layout/dialog", "main", s.Name)})
	}
	names, what := stress.Strains()
	for i, n := range names {
		if !strings.HasPrefix(n, "items-") {
			out = append(out, Trial{Group: "stress", Name: what[i], Theme: themes[0], page: one, kind: n})
		}
	}
	return out
}

// offFields gives content to the fields that a section takes and does not show by itself.
func offFields(s *library.Section) string {
	var list []string
	for _, f := range s.Fields {
		switch {
		case !f.Off:
		case f.Type == library.ListOf:
			list = append(list, f.Name+`: [{label: Write to us, to: "#b1"}]`)
		default:
			list = append(list, fmt.Sprintf("%s: %q", f.Name, f.Sample))
		}
	}
	return strings.Join(list, ", ")
}

func lists(s *library.Section) []*library.Field {
	return slices.DeleteFunc(slices.Clone(s.Fields), func(f *library.Field) bool {
		return f.Type != library.ListOf ||
			f.Name == "actions"
	})
}

// values lists what an option is tried with: its choices, or values of its type that a designer may well give.
func values(o library.Option) []string {
	switch {
	case o.Type == "choice":
		return o.Choices
	case o.Type == "number":
		return []string{"1", "2", "4", "6"}
	case o.Type == "ratio":
		return []string{"1:1", "3:1", "1:3"}
	case o.Type == "aspect":
		return []string{"1:1", "21:9", "3:5"}
	case o.Type == "place":
		return []string{"top left", "center", "bottom right"}
	}
	return map[string][]string{"gap": {"0.5rem", "4rem"}, "item-min": {"9rem", "24rem"},
		"item-max": {"16rem", "40rem"}, "radius": {"0", "3rem"}, "min-height": {"20rem", "60rem"},
		"heading-size": {"1.5rem..2rem", "2.5rem..6rem"}}[o.Name]
}

// pairs gives sets of options such that every two choices of two options stand in one of them together.
func pairs(s *library.Section) []map[string]string {
	type want struct{ a, x, b, y string }
	var options []library.Option
	for _, o := range s.Options {
		if o.Choices = values(o); len(o.Choices) > 0 {
			options = append(options, o)
		}
	}
	left := map[want]bool{}
	for i, a := range options {
		for _, x := range a.Choices {
			if len(options) == 1 {
				left[want{a.Name, x, a.Name, x}] = true
			}
			for _, b := range options[i+1:] {
				for _, y := range b.Choices {
					left[want{a.Name, x, b.Name, y}] = true
				}
			}
		}
	}
	out := []map[string]string{{}} // as it comes
	for len(left) > 0 {
		row := map[string]string{}
		for _, o := range options { // the choice that meets most of what is left, beside those taken already
			best, most := o.Choices[0], -1
			for _, c := range o.Choices {
				n := 0
				for w := range left {
					switch {
					case w.a == o.Name && w.x == c && (row[w.b] == w.y || row[w.b] == ""),
						w.b == o.Name && w.y == c && (row[w.a] == w.x || row[w.a] == ""):
						n++
						if row[w.a] != "" || row[w.b] != "" {
							n += 100
						}
					}
				}
				if n > most {
					best, most = c, n
				}
			}
			row[o.Name] = best
		}
		before := len(left)
		for w := range left {
			if row[w.a] == w.x && row[w.b] == w.y {
				delete(left, w)
			}
		}
		if len(left) == before {
			for w := range left { // nothing fits beside: this pair by itself
				row[w.a], row[w.b] = w.x, w.y
				delete(left, w)
				break
			}
		}
		out = append(out, row)
	}
	return out
}

func optionsYAML(row map[string]string) string {
	if len(row) == 0 {
		return ""
	}
	var list []string
	for k, v := range row {
		list = append(list, fmt.Sprintf("%s: %q", k, v))
	}
	slices.Sort(list)
	return ", options: {" + strings.Join(list, ", ") + "}"
}

// Run does one trial, in a folder of its own below dir, at the widths from..to.
func Run(dir string, t Trial, from, to int) (Found, error) {
	dir, err := os.MkdirTemp(dir, "trial")
	if err != nil {
		return Found{}, err
	}
	files := map[string]string{"ziegel.yaml": "name: Larkspan\ntheme: " + t.Theme + "\n", "pages/home.yaml": t.page}
	maps.Copy(files, t.Files)
	for name, text := range files {
		path := filepath.Join(dir, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(path), 0o777); err != nil {
			return Found{}, err
		}
		if err := os.WriteFile(path, []byte(text), 0o666); err != nil {
			return Found{}, err
		}
	}
	e, problems, err := project.Open(dir, stock.Files)
	if err != nil {
		return Found{}, err
	}
	if err := problems.Err(); err != nil {
		return Found{}, err
	}
	page := e.Site.Page("home")
	composed, problems := measure.Page(e, page, compose.Options{Marks: true})
	if err := problems.Err(); err != nil {
		return Found{}, fmt.Errorf("%s: %w", t.Name, err)
	}
	l, err := sweep.FromPage(e, composed)
	if err != nil {
		return Found{}, err
	}
	out := Found{Trial: t, Widths: to - from + 1, Blocks: len(l.Every())}
	var rep *check.Report
	if t.kind == "" {
		rep = check.Run(l, page, problems, from, to)
		plain, _ := measure.Page(e, page, compose.Options{})
		for _, text := range Valid(plain.HTML) {
			out.Errors = append(out.Errors, "invalid HTML: "+text)
		}
	} else {
		var ok bool
		if rep, ok = stress.Under(e, page, t.kind, from, to); !ok {
			return out, nil
		}
	}
	for _, f := range rep.Findings {
		text := fmt.Sprintf("%s: %s at %s: %s", f.Block+"."+f.Part, f.Rule, widths(f), f.Text)
		switch f.Severity {
		case diag.Error:
			out.Errors = append(out.Errors, text)
		case diag.Warning:
			out.Warnings = append(out.Warnings, text)
		}
	}
	return out, nil
}

func widths(f check.Finding) string {
	if f.To == 0 {
		return "no particular width"
	}
	return fmt.Sprintf("%d..%d", f.From, f.To)
}
