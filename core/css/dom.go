package css

import (
	"strings"

	"golang.org/x/net/html"
)

// Attr returns an attribute's value, "" when missing.
func (e *Element) Attr(name string) string {
	v, _ := e.LookupAttr(name)
	return v
}

// LookupAttr returns an attribute's value and whether it is there.
func (e *Element) LookupAttr(name string) (string, bool) {
	for _, a := range e.Raw.Attr {
		if a.Key == name {
			return a.Val, true
		}
	}
	return "", false
}

// Pseudos lists the pseudo-elements that rules speak of.
func (e *Element) Pseudos() []string { return e.pseudos }

// HasPseudo reports whether a rule speaks of a pseudo-element.
func (e *Element) HasPseudo(name string) bool { return len(e.pseudo[name]) > 0 }

// Kids returns the child elements.
func (e *Element) Kids() []*Element { return e.kids }

// HasClass reports whether the element has the class.
func (e *Element) HasClass(c string) bool {
	for _, x := range e.Classes {
		if x == c {
			return true
		}
	}
	return false
}

// Text returns all text inside, white space collapsed.
func (e *Element) Text() string {
	var b strings.Builder
	var walk func(*Element)
	walk = func(e *Element) {
		for _, c := range e.Children {
			if c.Element != nil {
				walk(c.Element)
				continue
			}
			b.WriteString(c.Text)
		}
	}
	walk(e)
	return strings.Join(strings.Fields(b.String()), " ")
}

// Path names the element from body: "body > main:nth-child(2) > p:nth-child(1)".
func (e *Element) Path() string {
	var steps []string
	for x := e; x != nil && x.Tag != "html"; x = x.Parent {
		if x.Tag == "body" && (x.Parent == nil || x.Parent.Tag == "html") {
			steps = append(steps, "body")
			break
		}
		steps = append(steps, x.Tag+":nth-child("+itoa(x.Nth)+")")
	}
	for i, j := 0, len(steps)-1; i < j; i, j = i+1, j-1 {
		steps[i], steps[j] = steps[j], steps[i]
	}
	return strings.Join(steps, " > ")
}

func itoa(n int) string {
	if n < 10 {
		return string(rune('0' + n))
	}
	return itoa(n/10) + itoa(n%10)
}

// domBuilder converts x/net/html nodes to elements.
type domBuilder struct{ all []*Element }

func (b *domBuilder) element(n *html.Node, parent *Element) *Element {
	e := &Element{Tag: n.Data, Parent: parent, Index: len(b.all), Raw: n, Foreign: n.Namespace != ""}
	if !e.Foreign {
		e.Tag = strings.ToLower(n.Data)
	}
	b.all = append(b.all, e)
	e.ID = e.Attr("id")
	e.Classes = strings.Fields(e.Attr("class"))
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.ElementNode:
			k := b.element(c, e)
			e.Children = append(e.Children, Child{Element: k})
			e.kids = append(e.kids, k)
			k.Nth = len(e.kids)
		case html.TextNode:
			e.Children = append(e.Children, Child{Text: c.Data})
		}
	}
	e.Elements = len(e.kids)
	return e
}
