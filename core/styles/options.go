package styles

import (
	"fmt"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Choice gives the choice in force of an option.
func Choice(b *site.Block, o *library.Option) string {
	if v := b.Options[o.Name]; v != nil && slices.Contains(o.Choices, v.Str()) {
		return v.Str()
	}
	return o.Default
}

func Modifier(section, option, value string) string {
	return Slug(section) + "--" + option + "-" + value
}

var Lanes = []string{"text", "body", "wide", "edge"}

// OptionName splits the key of an option: "ratio at phone".
func OptionName(key string) (name, at string) {
	name, at, _ = strings.Cut(key, " at ")
	return strings.TrimSpace(name), strings.TrimSpace(at)
}

// optionValues writes numbers, lengths and ratios as properties of the section's root, those for ranges after the
// others.
func (c *Writer) optionValues(w *sheetWriter, b *site.Block, sec *library.Section) {
	keys := make([]string, 0, len(b.Options))
	for k := range b.Options {
		keys = append(keys, k)
	}
	order := func(k string) int {
		_, at := OptionName(k)
		return c.Env.RangeEnd(at)
	}
	sort.Slice(keys, func(i, j int) bool {
		if a, b := order(keys[i]), order(keys[j]); a != b {
			return a > b
		}
		return keys[i] < keys[j]
	})
	sel := "." + c.ClassName(b, "") + " > ." + Slug(sec.Name)
	var list []override
	for _, key := range keys {
		v := b.Options[key]
		decls, ok := c.checkOption(c.optionFile(b, v), sec, key, v)
		if !ok || len(decls) == 0 {
			continue
		}
		o := override{sels: []string{sel}, decls: decls}
		if _, at := OptionName(key); at != "" {
			from, to, _ := c.Env.Span(at)
			o.cond = "@media " + WidthQuery(from, to)
		}
		if n := len(list); n > 0 && list[n-1].cond == o.cond {
			list[n-1].decls = append(list[n-1].decls, o.decls...)
			continue
		}
		list = append(list, o)
	}
	for _, o := range list {
		if o.cond != "" {
			w.open(o.cond)
		}
		w.rule(o.sels[0], o.decls...)
		if o.cond != "" {
			w.close()
		}
	}
}

// optionFile gives the file that an option's value stands in: the block's, or that of a default.
func (c *Writer) optionFile(b *site.Block, v *site.Value) *site.File {
	for _, f := range []*site.File{c.Page.File, c.Env.Site.File} {
		if f != nil && f.Path == v.Pos.File {
			return f
		}
	}
	return b.File
}

// checkOption reads one option and what it sets.
func (c *Writer) checkOption(file *site.File, sec *library.Section, key string, v *site.Value) ([]decl, bool) {
	name, at := OptionName(key)
	o := sec.Option(name)
	if o == nil {
		var known []string
		for _, x := range sec.Options {
			known = append(known, x.Name)
		}
		expected := sec.Name + " has no options"
		if len(known) > 0 {
			expected = "one of " + strings.Join(known, ", ")
		}
		c.AddOnce(file.Problem(v, "unknown-option", fmt.Sprintf("%s has no option %q", sec.Name, name), expected,
			diag.Nearest(name, known)))
		return nil, false
	}
	if at != "" {
		if _, _, ok := c.Env.Span(at); !ok {
			names := c.Env.RangeNames()
			c.AddOnce(file.Problem(v, "unknown-range", fmt.Sprintf("there is no range %q", at),
				strings.Join(names, ", ")+", or widths such as 480..719", diag.Nearest(at, names)))
			return nil, false
		}
		if o.Type == "choice" {
			c.AddOnce(file.Problem(v, "bad-option", fmt.Sprintf("the option %s is one choice for all widths", name),
				"an option with a number, a length or a ratio; `style ... --at` changes looks at some widths", ""))
			return nil, false
		}
	}
	typed, missing := c.tokens(v.Str())
	value, ok := optionCSS(o, typed)
	if !ok || missing != "" {
		want := "one of " + strings.Join(o.Choices, ", ")
		if o.Type != "choice" {
			want = optionForms[o.Type]
		}
		try := diag.Nearest(v.Str(), o.Choices)
		if missing != "" {
			try = "{" + diag.Nearest(missing, c.Env.Theme.Names()) + "}"
		}
		c.AddOnce(file.Problem(v, "bad-option", fmt.Sprintf("the option %s cannot be %q", name, v.Str()), want, try))
		return nil, false
	}
	if o.Type == "choice" {
		return nil, true
	}
	sets := o.Sets
	if len(sets) == 0 {
		sets = []string{"--_" + name}
	}
	values := []string{value}
	if o.Type == "ratio" && len(sets) == 2 {
		values = strings.SplitAfter(value, "fr) ")
	}
	var out []decl
	for i, p := range sets {
		if readsProperty(c.Env, sec, p) {
			out = append(out, decl{name: strings.Replace(p, "--_", "--"+Slug(sec.Name)+"_", 1),
				value: strings.TrimSpace(values[min(i, len(values)-1)]), pos: v.Pos})
		}
	}
	return out, true
}

// reads reports whether a section's stylesheet, or what all share, asks for a custom property. One that a layout
// measures is not set.
func readsProperty(e *project.Project, sec *library.Section, property string) bool {
	if name, private := strings.CutPrefix(property, "--_"); private && sec.Measure(name) != nil {
		return false
	}
	if strings.Contains(sec.CSS.Source, "var("+property) {
		return true
	}
	for line := range strings.Lines(e.Base) { // of the shared rules, those for classes that the section has
		if !strings.Contains(line, "var("+property) {
			continue
		}
		names := project.ClassNames.FindAllStringSubmatch(line, -1)
		if len(names) == 0 || slices.ContainsFunc(names, func(m []string) bool {
			return strings.Contains(sec.HTML,
				m[1])
		}) {
			return true
		}
	}
	return false
}

var optionForms = map[string]string{
	"ratio":  "two numbers such as 1:2",
	"number": "a whole number",
	"aspect": "width to height such as 4:3",
	"length": `a length such as 20rem, or a token such as "{space.far}"`,
	"scale":  "a smallest and a largest size such as 2rem..4rem",
	"place":  "one of " + strings.Join(library.Places, ", "),
}

var (
	ratioForm = regexp.MustCompile(`^\s*([0-9]*\.?[0-9]+)\s*[:/]\s*([0-9]*\.?[0-9]+)\s*$`)
	scaleForm = regexp.MustCompile(`^\s*([0-9]*\.?[0-9]+)(rem|px)\s*\.\.\s*([0-9]*\.?[0-9]+)(rem|px)\s*$`)
)

// OptionValue gives the CSS that stands for a value of an option as somebody types it; ok is false for one that the
// option does not take. The value of a choice is "": it becomes a class.
func OptionValue(o *library.Option, v string) (value string, ok bool) { return optionCSS(o, v) }

// optionCSS gives the CSS value of an option; "" for choices, which become classes.
func optionCSS(o *library.Option, v string) (string, bool) {
	switch o.Type {
	case "choice":
		return "", slices.Contains(o.Choices, v)
	case "ratio", "aspect":
		m := ratioForm.FindStringSubmatch(v)
		if m == nil {
			return "", false
		}
		if o.Type == "aspect" {
			return m[1] + " / " + m[2], true
		}
		return fmt.Sprintf("minmax(0, %sfr) minmax(0, %sfr)", m[1], m[2]), true
	case "number":
		return v, css.CheckValue("order", v)
	case "length":
		return v, css.CheckValue("width", v)
	case "scale":
		m := scaleForm.FindStringSubmatch(v)
		if m == nil || m[2] != m[4] {
			return "", false
		}
		low, _ := strconv.ParseFloat(m[1], 64)
		high, _ := strconv.ParseFloat(m[3], 64)
		return theme.Fluid(low, high, m[2]), low > 0 && high >= low
	case "place":
		return library.PlaceCSS(v)
	}
	return "", false
}
