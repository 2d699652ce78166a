package library

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/markup"
)

// marks are the attributes of section.html that mean something.
var marks = []string{
	"data-field",
	"data-each",
	"data-part",
	"data-when",
	"data-flag",
	"data-holds",
	"data-to",
	"data-word",
	"data-tone",
	"data-usual",
	"data-kin",
	"data-share",
	"data-means",
	"data-icon",
	"data-changing",
}

// MostKin is how many different texts of one field a stylesheet can tell apart by the classes kin-1, kin-2 ...
const MostKin = 9

// common are the fields that every section takes, so that blocks can be replaced by one another.
var common = []string{"eyebrow", "heading", "lead", "actions"}

// reviewing looks through one section.
type reviewing struct {
	s       *Section
	shared  map[string]bool // classes of the base stylesheet
	classes map[string]bool // of section.html
	out     diag.Problems
}

// Review tells an author what is wrong or doubtful in the files of a section: marks, fields, parts, classes, options,
// values written by hand. shared are the classes of the base stylesheet. What the layout says of it is not asked
// here.
func Review(s *Section, shared map[string]bool) diag.Problems {
	r := &reviewing{s: s, shared: shared, classes: map[string]bool{}}
	r.markup(s.Root, false)
	for _, m := range misreadIn(s.Root, "") {
		r.add("section.html", r.inHTML("data-means", m.words), diag.Problem{Severity: diag.Error, Rule: "unknown-mark",
			Text:     m.text,
			Expected: m.expected,
			Try:      diag.Nearest(m.word, m.known)})
	}
	r.root()
	for _, name := range common {
		if s.Field(name) == nil {
			r.note(
				"section.html",
				1,
				"missing-field",
				fmt.Sprintf(
					"the section takes no %s: blocks that have one lose sight of it when they are replaced by it",
					name,
				),
				fmt.Sprintf("an element with data-field=%q", name),
			)
		}
	}
	used := map[string]bool{}
	r.rules(s.CSS.Nodes, used)
	r.options()
	r.parts(used)
	return r.out.Sorted()
}

// add tells a problem at a byte of one of the section's files.
func (r *reviewing) add(file string, at int, p diag.Problem) {
	source := map[string]string{"section.html": r.s.HTML, "section.css": r.s.CSS.Source,
		"section.yaml": r.s.About}[file]
	p.Position = diag.At(r.s.Dir+"/"+file, source, max(0, at))
	p.Source, p.Width = diag.LineOf(source, p.Line), 1
	r.out = append(r.out, p)
}

func (r *reviewing) note(file string, _ int, rule, text, expected string) {
	r.add(file, 0, diag.Problem{Severity: diag.Note, Rule: rule,
		Text:     text,
		Expected: expected})
}

// inHTML finds where an attribute is written.
func (r *reviewing) inHTML(key, value string) int {
	return strings.Index(r.s.HTML, key+`="`+value+`"`)
}

// markup checks the marks below an element. entry is whether it stands in a list's pattern.
func (r *reviewing) markup(n *html.Node, entry bool) {
	if n.Type == html.ElementNode {
		fields := r.s.Fields
		for _, a := range n.Attr {
			if a.Key == "class" {
				for _, c := range strings.Fields(a.Val) {
					r.classes[c] = true
				}
			}
			ordinary := !strings.HasPrefix(a.Key, "data-") || n.Namespace == "svg" && a.Key != "data-field" &&
				a.Key != "data-part" && a.Key != "data-icon" && a.Key != "data-when"
			if ordinary {
				continue
			}
			name := strings.TrimPrefix(a.Key, "data-")
			if a.Key == "data-flag" {
				r.classes[a.Val] = true // worn by entries whose switch is on
			}
			if a.Key == "data-kin" {
				for i := range MostKin {
					r.classes["kin-"+strconv.Itoa(i+1)] = true
				}
			}
			if !slices.Contains(marks, a.Key) {
				if o := r.s.Option(name); o == nil || n != r.s.Root {
					known := append([]string{}, marks...)
					for _, o := range r.s.Options {
						known = append(known, "data-"+o.Name)
					}
					r.add("section.html", r.inHTML(a.Key, a.Val), diag.Problem{Severity: diag.Error,
						Rule:     "unknown-mark",
						Text:     fmt.Sprintf("nothing reads the mark %s", a.Key),
						Expected: "one of " + strings.Join(marks, ", ") + ", or data-OPTION on the section itself",
						Try:      diag.Nearest(a.Key, known)})
				} else if len(o.Choices) > 0 && !slices.Contains(o.Choices, a.Val) {
					r.add("section.html", r.inHTML(a.Key, a.Val), diag.Problem{Severity: diag.Error, Rule: "bad-option",
						Text:     fmt.Sprintf("the option %s has no choice %q", name, a.Val),
						Expected: "one of " + strings.Join(o.Choices, ", "),
						Try:      diag.Nearest(a.Val, o.Choices)})
				}
				continue
			}
			if a.Key == "data-when" && !entry {
				for _, f := range strings.Fields(a.Val) {
					if find(fields, f) == nil {
						r.add("section.html", r.inHTML(a.Key, a.Val), diag.Problem{Severity: diag.Error,
							Rule:     "unknown-field",
							Text:     fmt.Sprintf("data-when asks for a field %q that the section does not have", f),
							Expected: "one of " + strings.Join(r.s.FieldNames(), ", "),
							Try:      diag.Nearest(f, r.s.FieldNames())})
					}
				}
			}
			if a.Val == "" {
				r.add("section.html", strings.Index(r.s.HTML, a.Key), diag.Problem{Severity: diag.Error,
					Rule:     "unknown-mark",
					Text:     a.Key + " names nothing",
					Expected: "a name"})
			}
		}
		if _, ok := markup.Attr(n, "data-field"); ok && n.Data != "a" && n.Data != "svg" {
			for c := n.FirstChild; c != nil; c = c.NextSibling {
				if _, inner := markup.Attr(c, "data-field"); c.Type == html.ElementNode && inner {
					name, _ := markup.Attr(n, "data-field")
					r.add("section.html", r.inHTML("data-field", name), diag.Problem{Severity: diag.Error,
						Rule: "nested-field",
						Text: fmt.Sprintf("the field %s has another field inside: filling it throws that away",
							name),
						Expected: "data-field on the innermost element"})
				}
			}
		}
		if kind := markup.Value(n, "type"); n.Data == "input" && (kind == "email" || kind == "tel") &&
			!markup.Has(n, "autocomplete") {
			r.add("section.html", r.inHTML("type", kind), diag.Problem{Severity: diag.Warning, Rule: "no-autofill",
				Text: fmt.Sprintf("browsers cannot fill in an input of the type %s by themselves (WCAG 1.3.5)",
					kind),
				Expected: `autocomplete="` + kind + `", or off where it is not the reader's own`})
		}
		_, each := markup.Attr(n, "data-each")
		entry = entry || each
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		r.markup(c, entry)
	}
}

// root checks what the outermost element must be.
func (r *reviewing) root() {
	class, _ := markup.Attr(r.s.Root, "class")
	for _, c := range []string{"lanes", "root"} {
		if !slices.Contains(strings.Fields(class), c) {
			r.add("section.html", strings.Index(r.s.HTML, "<body"), diag.Problem{Severity: diag.Error, Rule: "no-root",
				Text:     fmt.Sprintf("the section itself has no class %q", c),
				Expected: `class="lanes root": lanes make it a size container with the lines of the page`})
		}
	}
}

var (
	colorForm = regexp.MustCompile(`(?i)#[0-9a-f]{3,8}\b|\b(?:rgba?|hsla?|oklch|oklab|lab|lch|hwb)\(`)
	sizeForm  = regexp.MustCompile(`(?:^|[^\w.-])(\d*\.?\d+)(px|rem|em|pt)\b`)
)

// rules checks rules, those inside conditions too.
func (r *reviewing) rules(nodes []*css.Node, used map[string]bool) {
	for _, n := range nodes {
		switch n.Kind {
		case css.AtRule:
			if n.Name == "media" && strings.Contains(css.Text(n.Prelude), "width") {
				r.add("section.css", n.Pos, diag.Problem{Severity: diag.Warning, Rule: "asks-screen",
					Text:     "a section that asks for the screen's width stacks wrong in half of a page",
					Expected: "@container, which asks for the room that the section has"})
			}
			r.rules(n.Children, used)
		case css.QualifiedRule:
			r.selector(n, used)
			for _, d := range n.Children {
				if d.Kind == css.Declaration {
					r.declaration(d)
				} else {
					r.rules([]*css.Node{d}, used)
				}
			}
		}
	}
}

func (r *reviewing) selector(n *css.Node, used map[string]bool) {
	for i, t := range n.Prelude {
		before := ""
		if i > 0 {
			before = n.Prelude[i-1].Text
		}
		switch {
		case before == ".":
			used[t.Text] = true
			if !r.classes[t.Text] && !r.shared[t.Text] {
				r.add("section.css", t.Pos, diag.Problem{Severity: diag.Warning, Rule: "unused-class",
					Text:     fmt.Sprintf("nothing in section.html has the class %s", t.Text),
					Expected: "a class that is used",
					Try:      diag.Nearest(t.Text, keys(r.classes))})
			}
		case strings.HasPrefix(t.Text, "#"):
			r.add("section.css", t.Pos, diag.Problem{Severity: diag.Error, Rule: "id-selector",
				Text:     "a rule for an id: a second block of the section would have it too",
				Expected: "a class"})
		case isTag(t.Text) && before != ":" && before != "[" && before != "(" && before != "=" && before != "-":
			r.add("section.css", t.Pos, diag.Problem{Severity: diag.Warning, Rule: "tag-selector",
				Text: fmt.Sprintf("a rule for every %s reaches blocks that the section holds, and is hard to go against",
					t.Text),
				Expected: "a class"})
		}
	}
}

var tags = []string{"a", "article", "aside", "blockquote", "button", "div", "figcaption", "figure", "footer", "form",
	"h1", "h2", "h3", "h4", "header", "img", "input", "li", "nav", "ol", "p", "section", "span",
	"strong", "svg", "ul"}

func isTag(s string) bool { return slices.Contains(tags, s) }

func (r *reviewing) declaration(d *css.Node) {
	value := strings.TrimSpace(css.Text(d.Value))
	tell := func(what, token string) {
		r.add("section.css", d.Pos, diag.Problem{Severity: diag.Warning, Rule: "by-hand",
			Text:     fmt.Sprintf("%s: %s writes a %s by hand: another theme does not reach it", d.Name, value, what),
			Expected: "a token of the theme, such as " + token})
	}
	switch {
	case d.Important:
		r.add("section.css", d.Pos, diag.Problem{Severity: diag.Error, Rule: "important",
			Text:     "!important keeps sites and blocks from changing it",
			Expected: "layers and classes say who wins"})
	case colorForm.MatchString(value):
		tell("color", "var(--ink), var(--accent), var(--line)")
	case d.Name == "font-family" && !strings.Contains(value, "var(--") && value != "inherit":
		tell("font", "var(--face-display)")
	case d.Name == "font-size" && sizeForm.MatchString(value) && !strings.Contains(value, "var(--type"):
		tell("size of text", "var(--type-small), or a class such as type-heading")
	case (strings.HasPrefix(d.Name, "padding") || strings.HasPrefix(d.Name, "margin") ||
		strings.HasSuffix(d.Name, "gap")) && !strings.Contains(value, "var(") && wideSpace(value):
		tell("distance", "var(--space-room)")
	case strings.HasSuffix(d.Name, "width") && (strings.Contains(value, "max-content") ||
		strings.Contains(value, "fit-content")) || strings.HasSuffix(d.Name, "width") &&
		strings.HasSuffix(value, "vw"):
		r.add("section.css", d.Pos, diag.Problem{Severity: diag.Warning, Rule: "own-width",
			Text: fmt.Sprintf("%s: %s takes a width that the room does not give: in half of a page it overflows",
				d.Name,
				value),
			Expected: "minmax(0, 1fr), or a width in percent"})
	}
}

// wideSpace reports a distance of more than a hairline: optical corrections stay below it.
func wideSpace(value string) bool {
	for _, m := range sizeForm.FindAllStringSubmatch(value, -1) {
		var n float64
		_, err := fmt.Sscan(m[1], &n)
		largeEnough := err == nil && (m[2] == "rem" && n >= 1 || m[2] == "px" && n >= 16)
		if largeEnough {
			return true
		}
	}
	return false
}

// options checks that choices do something.
func (r *reviewing) options() {
	for i := range r.s.Options {
		o := &r.s.Options[i]
		if o.Type != "choice" || len(o.Sets) > 0 || o.Name == "stays" {
			continue
		}
		some := false
		for _, c := range o.Choices {
			some = some || strings.Contains(r.s.CSS.Source, `[data-`+o.Name+`="`+c+`"]`)
		}
		at := strings.Index(r.s.About, o.Name+":")
		if !some {
			r.add("section.yaml", at, diag.Problem{Severity: diag.Error, Rule: "dead-option",
				Text:     fmt.Sprintf("no rule asks for the option %s: its choices change nothing", o.Name),
				Expected: fmt.Sprintf(".root[data-%s=%q]", o.Name, o.Choices[len(o.Choices)-1])})
		}
		if !slices.Contains(o.Choices, o.Default) {
			r.add("section.yaml", at, diag.Problem{Severity: diag.Error, Rule: "bad-option",
				Text:     fmt.Sprintf("the default %q of %s is none of its choices", o.Default, o.Name),
				Expected: "one of " + strings.Join(o.Choices, ", ")})
		}
	}
}

// parts checks that parts and classes are styled by somebody.
func (r *reviewing) parts(used map[string]bool) {
	var walk func(n *html.Node)
	told := map[string]bool{}
	walk = func(n *html.Node) {
		class, _ := markup.Attr(n, "class")
		part, isPart := markup.Attr(n, "data-part")
		styled := false
		for _, c := range strings.Fields(class) {
			ok := used[c] || r.shared[c] || c == "root" || strings.HasPrefix(c, "changing")
			styled = styled || ok
			if !ok && !told["."+c] {
				told["."+c] = true
				r.add("section.html", strings.Index(r.s.HTML, c), diag.Problem{Severity: diag.Note,
					Rule:     "unused-class",
					Text:     fmt.Sprintf("no rule asks for the class %s", c),
					Expected: "a rule in section.css, or no class"})
			}
		}
		if isPart && class != "" && !styled && !told[part] {
			told[part] = true
			r.add("section.html", r.inHTML("data-part", part), diag.Problem{Severity: diag.Note, Rule: "unstyled-part",
				Text:     fmt.Sprintf("no rule speaks of the part %s", part),
				Expected: "a rule for its class"})
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			if c.Type == html.ElementNode {
				walk(c)
			}
		}
	}
	walk(r.s.Root)
}

func keys(m map[string]bool) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
