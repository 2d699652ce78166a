package words

import (
	"fmt"
	"regexp"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"
)

// Found is a piece of a document: a paragraph, a link or a picture in a paragraph of its own, or a list.
type Found struct {
	Name  string // the field that the comment above it names, "" without one
	Kind  Kind
	Text  string
	To    string     // of a link, or the file of a picture
	Items [][]*Found // of a list
	Line  int        // in the document, from 1
	alone bool       // the paragraph stands right below another one, with no comment between
}

// Document is what was found in a document, by page and block in its order.
type Document struct {
	Pages   []*FoundPage
	written map[string][]string // hashes of texts by those of their addresses
}

// FoundPage is what stands under the heading of a page; what stands before the first is under the name "".
type FoundPage struct {
	Name   string
	Line   int
	Blocks []*FoundBlock
}

// FoundBlock is what stands under the heading of a block, "" for the page itself.
type FoundBlock struct {
	Name  string
	Line  int
	Found []*Found
}

var (
	commentForm = regexp.MustCompile(`(?s)^<!--\s*(.*?)\s*-->$`)
	nameForm    = regexp.MustCompile(`^([.a-z][a-z0-9-]*)(?::|$)`)
	writtenForm = regexp.MustCompile(`^as written: ([0-9a-f]*)$`)
	aloneForm   = regexp.MustCompile(`^(!?)\[((?:[^\[\]\\]|\\.)*)\]\(((?:[^()\\]|\\.)*)\)$`)
)

// Read takes a document apart. known tells the names of blocks, by the names of pages: other headings are words.
func Read(document string, known map[string][]string) *Document {
	data := []byte(strings.ReplaceAll(strings.TrimPrefix(document, "\ufeff"), "\r\n", "\n"))
	r := &reader{data: data, known: known, doc: &Document{written: map[string][]string{}}}
	r.page("", 1)
	root := goldmark.DefaultParser().Parse(text.NewReader(data))
	var scope scope
	for n := root.FirstChild(); n != nil; n = n.NextSibling() {
		if h, ok := n.(*ast.Heading); ok && r.heading(h) {
			scope = scopeOf(nil)
			continue
		}
		block := r.block()
		scope.list = block.Found
		r.node(n, &scope)
		block.Found = scope.list
	}
	return r.doc
}

type reader struct {
	data  []byte
	known map[string][]string
	doc   *Document
}

// scope is where pieces are collected, with the comment that stands before the next.
type scope struct {
	list []*Found
	name string
	near bool // the last piece was a paragraph
}

// goesOn gives the list that another one goes on with: its number is the next.
func (s *scope) goesOn(x *ast.List) *Found {
	if !x.IsOrdered() || x.Start < 2 || s.name != "" {
		return nil
	}
	for i := len(s.list) - 1; i >= 0; i-- {
		if f := s.list[i]; f.Kind == List {
			if len(f.Items) == x.Start-1 {
				return f
			}
			return nil
		}
	}
	return nil
}

func scopeOf(list []*Found) scope { return scope{list: list} }

func (r *reader) page(name string, line int) {
	r.doc.Pages = append(r.doc.Pages, &FoundPage{Name: name, Line: line, Blocks: []*FoundBlock{{Line: line}}})
}

func (r *reader) block() *FoundBlock {
	p := r.doc.Pages[len(r.doc.Pages)-1]
	return p.Blocks[len(p.Blocks)-1]
}

// heading begins a page or a block; false for a heading that is neither.
func (r *reader) heading(h *ast.Heading) bool {
	name := strings.ToLower(strings.TrimSpace(r.source(h)))
	last := r.doc.Pages[len(r.doc.Pages)-1]
	if h.Level == 1 && (len(r.known) == 0 || r.known[name] != nil || !strings.Contains(name, " ")) {
		r.page(name, r.line(h))
		return true
	}
	if h.Level == 2 {
		for _, blocks := range [][]string{r.known[last.Name], anyOf(r.known, last.Name == "")} {
			for _, b := range blocks {
				if b == name {
					last.Blocks = append(last.Blocks, &FoundBlock{Name: name, Line: r.line(h)})
					return true
				}
			}
		}
	}
	return false
}

// anyOf lists the blocks of all pages, when the document has not named one.
func anyOf(known map[string][]string, want bool) []string {
	var out []string
	for _, blocks := range known {
		if want {
			out = append(out, blocks...)
		}
	}
	return out
}

// node reads a node of Markdown into a scope.
func (r *reader) node(n ast.Node, s *scope) {
	switch x := n.(type) {
	case *ast.HTMLBlock:
		raw := strings.TrimSpace(r.lines(x, "\n"))
		if x.HasClosure() {
			raw += string(x.ClosureLine.Value(r.data))
		}
		m := commentForm.FindStringSubmatch(strings.TrimSpace(raw))
		if m == nil {
			r.add(s, &Found{Kind: Text, Text: unescapeLine(strings.Join(strings.Fields(raw), " ")), Line: r.line(n)})
			return
		}
		s.near = false
		if f := writtenForm.FindStringSubmatch(m[1]); f != nil {
			for codes := f[1]; len(codes) >= 8; codes = codes[8:] {
				r.doc.written[codes[:4]] = append(r.doc.written[codes[:4]], codes[4:8])
			}
			return
		}
		if f := nameForm.FindStringSubmatch(m[1]); f != nil {
			s.name = f[1]
		}
	case *ast.List:
		list := &Found{Kind: List, Line: r.line(n)}
		for it := x.FirstChild(); it != nil; it = it.NextSibling() {
			inner := scope{}
			for c := it.FirstChild(); c != nil; c = c.NextSibling() {
				r.node(c, &inner)
			}
			list.Items = append(list.Items, inner.list)
		}
		if first := s.goesOn(x); first != nil { // a paragraph has come between its items
			first.Items = append(first.Items, list.Items...)
			return
		}
		r.add(s, list)
	case *ast.ThematicBreak:
	case *ast.Blockquote:
		for c := x.FirstChild(); c != nil; c = c.NextSibling() {
			r.node(c, s)
		}
	default:
		line := strings.Join(strings.Fields(r.source(n)), " ")
		line, comment, ok := cutComment(line)
		if f := nameForm.FindStringSubmatch(comment); ok && f != nil {
			s.name = f[1]
		}
		if line == "" {
			return
		}
		f := &Found{Kind: Text, Line: r.line(n)}
		if m := aloneForm.FindStringSubmatch(line); m != nil {
			f.Kind, f.Text, f.To = Link, labelIn.Replace(m[2]), toIn.Replace(m[3])
			if m[1] != "" {
				f.Kind = Picture
			}
		} else {
			f.Text = unescapeLine(line)
		}
		r.add(s, f)
	}
}

func (r *reader) add(s *scope, f *Found) {
	f.Name, s.name = s.name, ""
	f.alone = s.near && f.Name == ""
	s.near = f.Kind == Text
	s.list = append(s.list, f)
}

// source gives what a block says as it was written, its lines joined by spaces.
func (r *reader) source(n ast.Node) string { return strings.TrimSpace(r.lines(n, " ")) }

func (r *reader) lines(n ast.Node, by string) string {
	var out []string
	for i := range n.Lines().Len() {
		at := n.Lines().At(i)
		out = append(out, strings.TrimSpace(string(at.Value(r.data))))
	}
	return strings.Join(out, by)
}

// line tells where a node begins.
func (r *reader) line(n ast.Node) int {
	for n != nil {
		if n.Type() == ast.TypeBlock && n.Lines() != nil && n.Lines().Len() > 0 {
			return 1 + strings.Count(string(r.data[:n.Lines().At(0).Start]), "\n")
		}
		n = n.FirstChild()
	}
	return 1
}

// At names a place of a document.
func (f *Found) At(file string) string { return fmt.Sprintf("%s:%d", file, f.Line) }

// asWritten reports that a text stands in the document as it was when the document was written. known is false for a
// document that does not say how it was.
func (d *Document) asWritten(address, text string) (same, known bool) {
	list := d.written[short(address)]
	for _, h := range list {
		if h == short(strings.Join(paragraphs(text), "\n\n")) {
			return true, true
		}
	}
	return false, len(list) > 0
}
