package adopt

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// What a page says of the look of single parts of a block stands in the layer "block" of a built stylesheet, under
// classes that name block and part: .home-plans-card-2:hover. It is read back as the style of the block.

// blockLayer is that layer.
const blockLayer = "block"

// styleReader reads the style of one block.
type styleReader struct {
	env    *project.Project
	sec    *library.Section
	class  string // of the block, PAGE-BLOCK
	tokens map[string]string
	style  *site.Value
	lost   []string
}

// styles reads the style of a block from the stylesheets of its page, nil for none. lost names what is no style that a
// page can give.
func (u *unbuild) styles(wrapper *html.Node) (style *site.Value, lost []string) {
	id := markup.Value(wrapper, "id")
	r := &styleReader{env: u.env, sec: u.sec, style: &site.Value{Kind: site.Map}}
	for _, c := range strings.Fields(markup.Value(wrapper, "class")) {
		if strings.HasSuffix(c, "-"+id) && !strings.HasPrefix(c, "tone-") {
			r.class = c
		}
	}
	if id == "" || r.class == "" {
		return nil, nil
	}
	r.tokens = map[string]string{}
	for _, name := range u.env.Theme.Names() {
		r.tokens["--"+strings.ReplaceAll(name, ".", "-")] = name
	}
	for _, s := range u.page.laid.Doc.Sheets {
		r.rules(s.Nodes, false, "")
	}
	if len(r.style.Entries) == 0 {
		return nil, r.lost
	}
	return r.style, r.lost
}

// rules reads rules, in the layer or outside, under a condition as a key of a style has it: " at ..599".
func (r *styleReader) rules(nodes []*css.Node, inside bool, when string) {
	for _, n := range nodes {
		switch {
		case n.Kind == css.AtRule && n.Name == "layer":
			r.rules(n.Children, inside || css.Text(n.Prelude) == blockLayer, when)
		case n.Kind == css.AtRule && inside && n.Block:
			r.rules(n.Children, true, when+conditionKey(n.Name, css.Text(n.Prelude)))
		case n.Kind == css.QualifiedRule && inside:
			text := css.Text(n.Prelude)
			if part, ok := strings.CutPrefix(text, "."+r.class+"-"); ok {
				r.rule(part, when, n.Children)
			} else if state, ok := strings.CutPrefix(text, "."+r.class); ok && (state == "" || state[0] == ':') {
				r.rule(styles.PartBlock+state, when, n.Children)
			}
		}
	}
}

// unread stands for a condition that no key of a style has.
const unread = " ?"

var (
	belowForm   = regexp.MustCompile(`^\(width < ([\d.]+)rem\)$`)
	fromForm    = regexp.MustCompile(`^\(width >= ([\d.]+)rem\)$`)
	betweenForm = regexp.MustCompile(`^\(([\d.]+)rem <= width < ([\d.]+)rem\)$`)
)

// conditionKey writes a condition as a key of a style has it.
func conditionKey(rule, condition string) string {
	word := map[string]string{"media": " at ", "container": " in "}[rule]
	px := func(rem string, less float64) string {
		v, _ := strconv.ParseFloat(rem, 64)
		return strconv.FormatFloat(v*16-less, 'f', -1, 64)
	}
	switch m := belowForm.FindStringSubmatch(condition); {
	case word == "":
	case m != nil:
		return word + ".." + px(m[1], 1)
	case fromForm.MatchString(condition):
		return word + px(fromForm.FindStringSubmatch(condition)[1], 0) + ".."
	case betweenForm.MatchString(condition):
		m = betweenForm.FindStringSubmatch(condition)
		return word + px(m[1], 0) + ".." + px(m[2], 1)
	}
	return unread
}

// tailForm is what follows the name of a part in a class: a position, then states.
var tailForm = regexp.MustCompile(`^(?:-(\d+|odd|even|first|last|every-\d+))?((?::{1,2}[a-z-]+(?:\([^)]*\))?)*)$`)

// rule reads what is said of a part, named as in its class.
func (r *styleReader) rule(selector, when string, declarations []*css.Node) {
	first, rest, several := strings.Cut(selector, ",")
	if several { // a state for the pointer has a twin for the keyboard
		twin := strings.TrimPrefix(strings.TrimSpace(rest), "."+r.class+"-")
		if twin != strings.Replace(first, ":hover", ":focus-visible", 1) &&
			twin != strings.Replace(first, ":hover", ":focus-within", 1) {
			r.loses(first)
			return
		}
	}
	part, tail := "", []string(nil)
	for _, p := range append(slices.Clone(r.sec.Parts), styles.PartRoot, styles.PartBlock) {
		if after, ok := strings.CutPrefix(first, p); ok && len(p) > len(part) {
			if m := tailForm.FindStringSubmatch(after); m != nil {
				part, tail = p, m
			}
		}
	}
	if part == "" || strings.Contains(when, unread) || strings.Count(when, " ") > 2 {
		r.loses(first)
		return
	}
	key := part
	if tail[1] != "" {
		key += "[" + strings.ReplaceAll(tail[1], "every-", "every ") + "]"
	}
	key += tail[2] + when
	if _, err := styles.ParseTarget(key); err != nil {
		r.loses(first)
		return
	}
	look := r.style.Get(key)
	if look == nil {
		look = &site.Value{Kind: site.Map}
		r.style.Entries = append(r.style.Entries, site.Entry{Key: key, Value: look})
	}
	for _, d := range declarations {
		if d.Kind == css.Declaration && !d.Important && !strings.HasPrefix(d.Name, "--") {
			look.Entries = append(
				look.Entries,
				site.Entry{Key: d.Name, Value: site.NewText(r.value(css.Text(d.Value)))},
			)
		} else {
			r.loses(first + " " + d.Name)
		}
	}
}

var reference = regexp.MustCompile(`var\((--[a-z0-9-]+)\)`)

// value writes a value with tokens by their names.
func (r *styleReader) value(text string) string {
	return reference.ReplaceAllStringFunc(text, func(m string) string {
		if name := r.tokens[reference.FindStringSubmatch(m)[1]]; name != "" {
			return "{" + name + "}"
		}
		return m
	})
}

func (r *styleReader) loses(what string) {
	if told := fmt.Sprintf("the style of %s", what); !slices.Contains(r.lost, told) {
		r.lost = append(r.lost, told)
	}
}
