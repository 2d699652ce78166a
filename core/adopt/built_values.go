package adopt

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// Options that are numbers, lengths and ratios leave custom properties on a section's root. Those that follow a range
// are read at the width at which the page is read, and stand for all; those of a measured condition leave none.

// values reads the options of a block that are no choices.
func (u *unbuild) values(root *html.Node) []site.Entry {
	st, around := u.page.styleOf(root), u.page.styleOf(root.Parent)
	if st == nil || around == nil {
		return nil
	}
	var out []site.Entry
	for i := range u.sec.Options {
		o := &u.sec.Options[i]
		if o.Type == "choice" {
			continue
		}
		in := u.inForce(st, o)
		if in == "" || in == u.inForce(around, o) { // handed down by the theme
			continue
		}
		if usual, ok := styles.OptionValue(o, o.Default); ok && spaced(usual) == spaced(in) {
			continue
		}
		for _, typed := range typedAs(o, in) {
			if value, ok := styles.OptionValue(o, typed); ok && spaced(value) == spaced(in) {
				out = append(out, site.Entry{Key: o.Name, Value: site.NewText(typed)})
				break
			}
		}
	}
	return out
}

// inForce gives what an option has set on a root, "" for nothing.
func (u *unbuild) inForce(st *css.Style, o *library.Option) string {
	sets := o.Sets
	if len(sets) == 0 {
		sets = []string{"--_" + o.Name}
	}
	var parts []string
	for _, p := range sets {
		v := st.Var(strings.Replace(p, "--_", "--"+styles.Slug(u.sec.Name)+"_", 1))
		if v == "" {
			return ""
		}
		if !slices.Contains(parts, v) || o.Type == "ratio" {
			parts = append(parts, strings.TrimSpace(v))
		}
	}
	return strings.Join(parts, " ")
}

var (
	shareForm  = regexp.MustCompile(`^minmax\(0, ?([\d.]+)fr\) minmax\(0, ?([\d.]+)fr\)$`)
	aspectForm = regexp.MustCompile(`^([\d.]+) ?/ ?([\d.]+)$`)
	fluidForm  = regexp.MustCompile(`^clamp\(([\d.]+)(rem|px),.*, ?([\d.]+)(rem|px)\)$`)
)

// typedAs lists what somebody may have typed for a value that is in force.
func typedAs(o *library.Option, in string) []string {
	switch o.Type {
	case "ratio":
		if m := shareForm.FindStringSubmatch(in); m != nil {
			return []string{m[1] + ":" + m[2]}
		}
	case "aspect":
		if m := aspectForm.FindStringSubmatch(in); m != nil {
			return []string{m[1] + ":" + m[2]}
		}
	case "scale":
		if m := fluidForm.FindStringSubmatch(in); m != nil && m[2] == m[4] {
			return []string{m[1] + m[2] + ".." + m[3] + m[4], m[1] + m[2] + " " + m[3] + m[4]}
		}
	case "place":
		return library.Places
	case "number":
		if _, err := strconv.ParseFloat(in, 64); err == nil {
			return []string{in}
		}
	case "length":
		return []string{in}
	}
	return nil
}

// spaced writes a value so that space after commas does not count.
func spaced(s string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(s), " "), ", ", ",")
}

// styleOf gives the style of an element where the page is read; nil when it has no box.
func (p *Page) styleOf(n *html.Node) *css.Style {
	if e := p.elementOf(n); e != nil {
		if f := p.result.Of(e); f != nil {
			return f.Style
		}
	}
	return nil
}

// elementOf gives the element that a node of the page is; nil when it is none.
func (p *Page) elementOf(n *html.Node) *css.Element {
	for _, e := range p.laid.Doc.Elements {
		if e.Raw == n {
			return e
		}
	}
	return nil
}
