package words

import (
	"fmt"
	"hash/fnv"
	"regexp"
	"strings"
)

// The document is plain Markdown: a heading of the first level is a page, of the second a block; a paragraph is a text,
// a link or a picture alone in a paragraph is that, and entries are items of lists. The comment behind a text names its
// field and says how many letters fit; who takes them out loses nothing but that.

// Note is what stands in the comment beside a text; it may be nil.
type Note func(page *Page, b *Block, n *Node) string

// Markdown writes the words of pages as one document.
func Markdown(pages []*Page, note Note) string {
	w := &writer{note: note}
	w.line(
		"<!-- Words. A heading with # is a page, with ## a block. Change the words, leave the comments, add entries to lists. -->",
	)
	for _, p := range pages {
		w.page = p
		w.line("\n# " + p.Name)
		for _, b := range p.Blocks {
			w.block = b
			if b.Name != "" {
				w.line("\n## " + b.Name)
			}
			w.nodes(b.Nodes, "")
		}
	}
	if seen := fingerprint(pages); seen != "" {
		w.line("\n<!-- as written: " + seen + " -->")
	}
	return w.b.String()
}

type writer struct {
	b     strings.Builder
	note  Note
	page  *Page
	block *Block
}

func (w *writer) line(s string) { w.b.WriteString(s + "\n") }

// comment names a field.
func (w *writer) comment(n *Node) string {
	s := n.Field
	if w.note != nil {
		if more := w.note(w.page, w.block, n); more != "" {
			s += ": " + more
		}
	}
	return "<!-- " + strings.ReplaceAll(s, "--", "- -") + " -->"
}

func (w *writer) nodes(list []*Node, indent string) {
	other := false
	for _, n := range list {
		other = w.node(n, indent, indent, other)
	}
}

// node writes a field, its first line behind first. Of two lists in a row the second has other marks: they would be one
// list as soon as nobody's comment stood between them. It tells whether the next list is to have other marks.
func (w *writer) node(n *Node, first, indent string, other bool) bool {
	w.line("")
	if n.Kind != List {
		w.text(n, first, indent)
		return false
	}
	w.line(first + w.comment(n))
	for i, e := range n.Entries {
		w.entry(e, i, indent, other)
	}
	return !other
}

// entry writes an item of a list: a text alone as a bullet, several with a number.
func (w *writer) entry(e []*Node, i int, indent string, other bool) {
	bullet, number := "- ", fmt.Sprintf("%d. ", i+1)
	if other {
		bullet, number = "* ", fmt.Sprintf("%d) ", i+1)
	}
	if len(e) == 1 && e[0].Field == "." {
		w.text(e[0], indent+bullet, indent+"  ")
		return
	}
	inner := indent + strings.Repeat(" ", len(number))
	if len(e) == 0 { // it has no words, but its place
		w.line("\n" + indent + number + "<!-- no words -->")
		return
	}
	other = false
	for k, n := range e {
		first := inner
		if k == 0 {
			first = indent + number
		}
		other = w.node(n, first, inner, other)
	}
}

// text writes one text, its first line behind first, others behind indent.
func (w *writer) text(n *Node, first, indent string) {
	var lines []string
	switch n.Kind {
	case Link:
		lines = []string{"[" + escapeLabel(n.Text) + "](" + escapeTo(n.To) + ")"}
	case Picture:
		lines = []string{"![" + escapeLabel(n.Text) + "](" + escapeTo(n.To) + ")"}
	default:
		for i, p := range paragraphs(n.Text) {
			p = escapeLine(p)
			if i > 0 {
				lines = append(lines, "")
				if _, _, ok := cutComment(p); ok {
					p += " <!-- - -->"
				}
			}
			lines = append(lines, p)
		}
	}
	lines[0] += " " + w.comment(n)
	for i, l := range lines {
		switch {
		case i == 0:
			w.line(first + l)
		case l == "":
			w.line("")
		default:
			w.line(indent + l)
		}
	}
}

// blockStart finds what Markdown would read as more than a paragraph, or this package as more than a text (CommonMark,
// 4 and 5).
var (
	blockStart = regexp.MustCompile(
		"^(?:#|[-+*](?:\\s|$)|>|~~~|```|<|=|\\\\|!?\\[[^\\]]*\\]\\([^)]*\\)$|\\[[^\\]]*\\]:|(?:[-*_][ \\t]*){2,}$)",
	)
	numbered   = regexp.MustCompile(`^\d+\\*[.)]`)
	escaped    = regexp.MustCompile("^\\\\(?:[-#+*>~`<=\\\\\\[_!])")
	numberedIn = regexp.MustCompile(`^\d+\\+[.)]`)
)

// escapeLine has a paragraph begin as a paragraph.
func escapeLine(s string) string {
	if numbered.MatchString(s) {
		i := strings.IndexFunc(s, func(r rune) bool { return r < '0' || r > '9' })
		return s[:i] + `\` + s[i:]
	}
	if blockStart.MatchString(s) {
		return `\` + s
	}
	return s
}

func unescapeLine(s string) string {
	if numberedIn.MatchString(s) {
		i := strings.IndexByte(s, '\\')
		return s[:i] + s[i+1:]
	}
	if escaped.MatchString(s) {
		return s[1:]
	}
	return s
}

var (
	labelOut = strings.NewReplacer(`\`, `\\`, `[`, `\[`, `]`, `\]`)
	labelIn  = strings.NewReplacer(`\\`, `\`, `\[`, `[`, `\]`, `]`)
	toOut    = strings.NewReplacer(`\`, `\\`, `(`, `\(`, `)`, `\)`, ` `, `%20`)
	toIn     = strings.NewReplacer(`\\`, `\`, `\(`, `(`, `\)`, `)`, `%20`, ` `)
)

func escapeLabel(s string) string { return labelOut.Replace(strings.Join(strings.Fields(s), " ")) }

func escapeTo(s string) string { return toOut.Replace(s) }

// short names a text by a few digits.
func short(s string) string {
	h := fnv.New32a()
	_, _ = h.Write([]byte(s))
	return fmt.Sprintf("%04x", h.Sum32()&0xffff)
}

// fingerprint says how all texts were when they were written: what is as it was then has not been changed by the
// writer, whatever the page says by now.
func fingerprint(pages []*Page) string {
	var b strings.Builder
	for _, p := range pages {
		p.Each(func(block *Block, n *Node) {
			b.WriteString(short(Address(p.Name, block.Name, n.Path)) + short(strings.Join(paragraphs(n.Text), "\n\n")))
		})
	}
	return b.String()
}

// cutComment takes the comment off the end of a line.
func cutComment(line string) (before, comment string, ok bool) {
	i := strings.LastIndex(line, "<!--")
	if i < 0 || !strings.HasSuffix(line, "-->") || len(line) < i+len("<!---->") {
		return line, "", false
	}
	return strings.TrimSpace(line[:i]), strings.TrimSpace(line[i+len("<!--") : len(line)-len("-->")]), true
}
