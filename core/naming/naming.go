// Package naming says how elements of a page are called in answers, and which block and part they belong to.
package naming

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// Place names the block and part that an element belongs to.
func Place(l *sweep.Prepared, e *css.Element) (block, part string, item int) {
	b := BlockOf(l, e)
	if b == nil {
		return "", e.Path(), 0
	}
	part, item = PartOf(e, b.Element)
	return b.Name, part, item
}

// BlockOf gives the innermost block that an element stands in, nil when it stands in none.
func BlockOf(l *sweep.Prepared, e *css.Element) *sweep.Block {
	var found *sweep.Block
	for list := l.Blocks; len(list) > 0; {
		next := list[:0:0]
		for _, b := range list {
			if e == b.Element || Inside(e, b.Element) {
				found, next = b, b.Held
				break
			}
		}
		list = next
	}
	return found
}

// PartOf finds the nearest part around an element and counts it among those of its name; other pages name their
// elements by tag and class.
func PartOf(e, block *css.Element) (string, int) {
	name, at := "", (*css.Element)(nil)
	for x := e; x != block && x != nil; x = x.Parent {
		if p := x.Attr(compose.MarkPart); p != "" {
			name, at = p, x
			break
		}
	}
	if at == nil {
		if e == block || block.Attr(compose.MarkBlock) != "" {
			return "", 0
		}
		return Label(e), 0
	}
	n, total := 0, 0
	var count func(x *css.Element)
	count = func(x *css.Element) {
		if x.Attr(compose.MarkPart) == name {
			total++
			if x.Index <= at.Index {
				n = total
			}
		}
		for _, k := range x.Kids() {
			if k.Attr(compose.MarkBlock) == "" {
				count(k)
			}
		}
	}
	count(block)
	if total == 1 {
		n = 0
	}
	return name, n
}

// PartsAround lists the parts that hold an element, from the inside out, the one named left out.
func PartsAround(e *css.Element, but string) []string {
	var out []string
	for x := e; x != nil; x = x.Parent {
		if p := x.Attr(compose.MarkPart); p != "" && p != but && !slices.Contains(out, p) {
			out = append(out, p)
		}
	}
	return out
}

// Label gives the tag of an element, with its first class.
func Label(e *css.Element) string {
	if len(e.Classes) > 0 {
		return e.Tag + "." + e.Classes[0]
	}
	return e.Tag
}

// Of calls an element by its part, with the beginning of its text.
func Of(l *sweep.Prepared, e *css.Element) string {
	block, part, item := Place(l, e)
	if b := BlockOf(l, e); b != nil && b.Element == e && e.Attr(compose.MarkBlock) != "" {
		return "the block " + block
	}
	if part == "" && block != "" && l.Page != nil {
		return "the block " + block
	}
	if part == "" || part == e.Path() {
		part = Label(e)
	}
	s := "the " + part
	if item > 0 {
		s = fmt.Sprintf("%s %d", s, item)
	}
	if t := shortened(First(Words(e), wordsFor(e))); t != "" {
		s += fmt.Sprintf(" (%s)", t)
	}
	return s
}

// shortened gives the beginning of a text.
func shortened(text string) string {
	t := []rune(text)
	if len(t) > 28 {
		t = append([]rune(strings.TrimSpace(string(t[:27]))), '…')
	}
	return string(t)
}

// wordsFor calls an element without text by what stands for it: its label, its alternative text, its file, its
// placeholder.
func wordsFor(e *css.Element) string {
	if t := First(e.Attr("aria-label"), e.Attr("alt"), e.Attr("placeholder"), e.Attr("title")); t != "" {
		return t
	}
	if src := e.Attr("src"); src != "" && !strings.HasPrefix(src, "data:") {
		return path.Base(src)
	}
	if alt := altIn(e); alt != "" {
		return alt
	}
	return First(e.Attr("name"), e.ID)
}

// altIn gives the alternative text of the first picture in an element.
func altIn(e *css.Element) string {
	for _, k := range e.Kids() {
		if t := First(k.Attr("alt"), altIn(k)); t != "" {
			return t
		}
	}
	return ""
}

// Whereabouts tells where on a foreign page an element stands, in words that somebody can search for: what holds it
// and the heading there.
func Whereabouts(l *sweep.Prepared, e *css.Element) string {
	if l.Page != nil || e == nil || l.Doc.Body == nil {
		return ""
	}
	around := e
	if b := BlockOf(l, e); b != nil {
		around = b.Element
	} else {
		for around.Parent != nil && around.Parent != l.Doc.Body {
			around = around.Parent
		}
	}
	var heading func(x *css.Element) string
	heading = func(x *css.Element) string {
		if Headings[x.Tag] > 0 {
			return Words(x)
		}
		for _, k := range x.Kids() {
			if t := heading(k); t != "" {
				return t
			}
		}
		return ""
	}
	where := Label(around)
	if around.ID != "" {
		where = around.Tag + "#" + around.ID
	}
	if t := shortened(heading(around)); t != "" {
		where += fmt.Sprintf(" %q", t)
	}
	return where
}

// Phrases are the tags whose text belongs to the words around it.
var Phrases = map[string]bool{"a": true, "abbr": true, "b": true, "bdi": true, "cite": true, "code": true, "em": true,
	"i": true, "kbd": true, "mark": true, "q": true, "s": true, "small": true, "span": true, "strong": true,
	"sub": true, "sup": true, "u": true, "wbr": true}

// Words gives the text of an element; what stands in boxes of its own is set apart.
func Words(e *css.Element) string {
	var b strings.Builder
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for i := range e.Children {
			k := e.Children[i].Element
			if k == nil {
				b.WriteString(e.Children[i].Text)
				continue
			}
			if !Phrases[k.Tag] {
				b.WriteByte(' ')
			}
			walk(k)
			if !Phrases[k.Tag] {
				b.WriteByte(' ')
			}
		}
	}
	walk(e)
	return strings.Join(strings.Fields(b.String()), " ")
}

// Px writes a length for people: whole CSS px, or one decimal where that says more.
func Px(p layout.Px) string {
	v := p.Float()
	if v >= 10 || v == float64(int(v)) {
		return fmt.Sprintf("%.0f px", v)
	}
	return fmt.Sprintf("%.1f px", v)
}

// First gives the first text that is not empty.
func First(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}
