package explain

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// Link is one declaration in the chain behind a value, from the one that wins down.
type Link struct {
	raw      string // the value with private properties called as in the built sheet
	Who      string `json:"who"`                // this block, the section pricing/plans, the theme ...
	Property string `json:"property"`           // as declared: a shorthand may speak for the one that was asked for
	Value    string `json:"value"`              // as declared
	Resolved string `json:"resolved,omitempty"` // with tokens replaced, where that differs
	At       string `json:"at,omitempty"`       // FILE:LINE:COLUMN
	Where    string `json:"where,omitempty"`    // the widths at which it holds, when not all
	State    string `json:"state,omitempty"`    // it holds in this state only
	Wins     bool   `json:"wins"`
	Why      string `json:"why,omitempty"` // it does not win
	layer    string
}

// NotHere is why a declaration whose conditions do not hold loses.
const NotHere = "holds at other widths"

// Chain tells where the value of a property on an element comes from in a layout: the declaration that wins, then the
// others from the strongest down, then those of states. An inherited value is followed to the element that has it;
// from names that one.
func Chain(l *sweep.Prepared, r *layout.Result, e *css.Element, property string) (links []Link, from *css.Element) {
	from = e
	for x := e; x != nil; x = x.Parent {
		p := r.Of(x)
		if p == nil {
			continue
		}
		links = ChainOn(l, Styled{Doc: l.Doc, Element: x, Style: p.Style}, property)
		from = x
		if slices.ContainsFunc(links, func(k Link) bool { return k.Wins }) || !css.Inherits(property) {
			break
		}
	}
	for _, state := range []string{"hover", "focus-visible", "active"} {
		with, err := l.In(state)
		if err != nil {
			break
		}
		x := with.Doc.Elements[from.Index]
		p := with.Engine().Layout(r.Width).Of(x)
		if p == nil {
			continue
		}
		for _, k := range ChainOn(l, Styled{Doc: with.Doc, Element: x, Style: p.Style, State: state}, property) {
			known := slices.ContainsFunc(links, func(o Link) bool { return o.At == k.At && o.Value == k.Value })
			if !known {
				k.Why = "only in the state " + state
				k.Wins = false
				links = append(links, k)
			}
		}
	}
	return links, from
}

// Styled is an element, or a pseudo-element of it, with its style in one layout; State names the state that Doc is in.
type Styled struct {
	Doc     *css.Document
	Element *css.Element
	Pseudo  string
	Style   *css.Style
	State   string
}

// ChainOn is the chain on one element, or on a pseudo-element of it.
func ChainOn(l *sweep.Prepared, on Styled, property string) []Link {
	e := on.Element
	said := on.Doc.Chain(e, on.Pseudo, on.Style, property)
	var out []Link
	var winner *Link
	for _, s := range slices.Backward(said) {
		k := Link{raw: s.Value, Property: s.Name, Value: asWritten(strings.TrimSpace(s.Value)), Wins: s.Wins,
			State: on.State, layer: s.Layer,
			Who: who(l, e, s), Where: whereText(s.Conditions)}
		if s.Resolved != strings.TrimSpace(s.Value) {
			k.Resolved = asWritten(s.Resolved)
		}
		if !s.UA && s.Sheet != nil {
			k.At = l.Written(s.Sheet, s.Pos, e.Classes...).String()
		}
		switch {
		case k.Wins:
		case !s.Applies:
			k.Why = NotHere
		case winner == nil:
			k.Why = "says nothing of it here"
		case winner.layer != k.layer:
			k.Why = winner.Who + " goes before it"
		default:
			k.Why = "a rule after it, or one that says more exactly whom it means, wins"
		}
		out = append(out, k)
		if k.Wins && winner == nil {
			w := k
			winner = &w
		}
	}
	slices.SortStableFunc(out, func(a, b Link) int {
		if a.Wins != b.Wins {
			if a.Wins {
				return -1
			}
			return 1
		}
		return 0
	})
	return out
}

// who names the layer that a declaration stands in, in the words of the site.
func who(l *sweep.Prepared, e *css.Element, s css.CascadedDeclaration) string {
	section := ""
	for x := e; x != nil; x = x.Parent {
		if name := x.Attr("data-block"); name != "" && section == "" {
			section = l.Block(name).Section
		}
	}
	if s.UA {
		return "the browser"
	}
	switch layer, rest, _ := strings.Cut(s.Layer, "."); layer {
	case "reset":
		return "the reset"
	case "theme":
		return "the theme"
	case "section":
		return "the section " + section
	case "site":
		if rest == "use" {
			return "a shared look for every " + section
		}
		return "the site, for every " + section
	case "page":
		if rest == "use" {
			return "a shared look for " + section + " on this page"
		}
		return "the page"
	case "block":
		if rest == "use" {
			return "a shared look"
		}
		return "this block"
	case "still":
		return "the reset"
	}
	return "the stylesheet"
}

var remForm = regexp.MustCompile(`([0-9.]+)rem`)

// widthForms word the conditions that the build writes.
var widthForms = []struct {
	from *regexp.Regexp
	to   string
}{
	{regexp.MustCompile(`\(([0-9.]+) px <= width < ([0-9.]+) px\)`), "from $1 to under $2 px"},
	{regexp.MustCompile(`\(width >= ([0-9.]+) px\)`), "from $1 px"},
	{regexp.MustCompile(`\(width < ([0-9.]+) px\)`), "under $1 px"},
}

// whereText words conditions, with lengths in CSS px.
func whereText(conds []string) string {
	var out []string
	for _, c := range conds {
		c = remForm.ReplaceAllStringFunc(c, func(m string) string {
			n, _ := strconv.ParseFloat(strings.TrimSuffix(m, "rem"), 64)
			return strconv.FormatFloat(n*16, 'f', -1, 64) + " px"
		})
		c = strings.Replace(c, "media ", "screen ", 1)
		c = strings.Replace(strings.Replace(c, "container lanes ", "container ", 1), "container ", "room ", 1)
		for _, f := range widthForms {
			c = f.from.ReplaceAllString(c, f.to)
		}
		c = styleForm.ReplaceAllStringFunc(c, func(m string) string {
			f := styleForm.FindStringSubmatch(m)
			not, measured, name, value := f[1] != "", f[2] != "", f[3], strings.TrimSpace(f[4])
			what := " set"
			if measured {
				what = " measured"
			}
			switch {
			case not && value == "":
				return "no " + name + what
			case not:
				return name + " not " + value
			case value == "":
				return name + what
			}
			return name + " " + value
		})
		out = append(out, strings.Replace(c, "room no ", "no ", 1))
	}
	return strings.Join(out, " and ")
}

// styleForm is a question of a section about what is measured (its private properties have its name before an
// underscore) or set.
var styleForm = regexp.MustCompile(`\(?(not )?style\(--(?:([a-z0-9-]+)_)?([a-z0-9-]+)(?::([^)]*))?\)\)?`)

var privateForm = regexp.MustCompile(`--[a-z0-9-]+_([a-z])`)

// asWritten calls private properties of a section as its author does: --_columns.
func asWritten(value string) string { return privateForm.ReplaceAllString(value, "--_$1") }

// Stop is what a plain value ends: a value that something below it has at some widths or in a state.
type Stop struct {
	Who, Where, Said string
	State            bool // it is one in a state
}

// Stops lists what a plain value of a part's property ends, of the section or of a wider scope.
func Stops(l *sweep.Prepared, block, part string, index int, property string) []Stop {
	list := Find(l, block, part, index)
	if len(list) == 0 {
		return nil
	}
	r := l.Engine().Layout(1280)
	links, from := Chain(l, r, list[0], property)
	if from != list[0] || len(links) == 0 || !links[0].Wins || links[0].Where != "" {
		return nil
	}
	var out []Stop
	var plain *Link // the strongest that had won everywhere: what is weaker had lost before
	for i, k := range links[1:] {
		if k.State == "" && k.Where == "" {
			if plain == nil {
				plain = &links[1+i]
			}
			continue
		}
		if plain != nil && (k.State == "" || weaker(k.layer, plain.layer)) { // states come last in a chain
			continue
		}
		where := k.Where
		if k.State != "" {
			where = strings.TrimSpace("the state " + k.State + " " + where)
		}
		value := k.Value
		if k.Resolved != "" {
			value = k.Resolved
		}
		told := slices.ContainsFunc(out, func(s Stop) bool { return s.Where == where })
		if told || k.layer == links[0].layer || k.layer == "reset" {
			continue
		}
		if k.State != "" && !weaker(k.layer, links[0].layer) ||
			strings.Contains(k.State, "focus") && !canFocus(list[0]) {
			continue
		}
		out = append(out, Stop{k.Who, where, fmt.Sprintf("%s: %s", k.Property, value), k.State != ""})
	}
	if plain != nil {
		out = append(out, followed(l, r, list[0], *plain)...)
	}
	return out
}

// canFocus reports whether the keyboard's focus can be on an element, or in one that it stands in.
func canFocus(e *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if _, ok := e.LookupAttr("tabindex"); ok || naming.Clickable(e) {
			return true
		}
	}
	return false
}

var privateProperty = regexp.MustCompile(`var\((--[a-z0-9_-]+_[a-z0-9_-]+)`)

// followed lists what a value that no longer wins took from private properties that change with the width.
func followed(l *sweep.Prepared, r *layout.Result, e *css.Element, k Link) []Stop {
	var out []Stop
	for _, m := range privateProperty.FindAllStringSubmatch(k.raw, -1) {
		links, _ := Chain(l, r, e, m[1])
		for _, p := range links {
			if p.Where != "" && p.State == "" {
				out = append(out, Stop{k.Who, p.Where, fmt.Sprintf("%s with %s %s", k.Property, asWritten(m[1]),
					p.Value), false})
			}
		}
	}
	return out
}

var layerOrder = []string{"reset", "theme", "section", "site.use", "site", "page.use", "page", "block.use", "block"}

func weaker(a, b string) bool { return slices.Index(layerOrder, a) < slices.Index(layerOrder, b) }
