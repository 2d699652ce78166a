package compose

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// changingForm finds words that take turns: [real|honest|salty].
var changingForm = regexp.MustCompile(`\[([^\[\]|]+(?:\|[^\[\]|]+)+)\]`)

// cutChanging takes words that take turns out of a text, so that Markdown leaves them alone. A mark stands in their
// place.
func cutChanging(s string) (string, [][]string) {
	var list [][]string
	var out strings.Builder
	last := 0
	for _, m := range changingForm.FindAllStringSubmatchIndex(s, -1) {
		if strings.HasPrefix(s[m[1]:], "(") { // a link
			continue
		}
		out.WriteString(s[last:m[0]] + "\ue000" + strconv.Itoa(len(list)) + "\ue001")
		list = append(list, strings.Split(s[m[2]:m[3]], "|"))
		last = m[1]
	}
	return out.String() + s[last:], list
}

var changingMark = regexp.MustCompile("\ue000(\\d+)\ue001")

// changing puts words that take turns back, all in one cell, so that the longest of them keeps the room for all.
// Without motion the first one stays; readers of the screen hear only that.
func (f *filler) changing(nodes []*html.Node, list [][]string) []*html.Node {
	if len(list) == 0 {
		return nodes
	}
	shell := markup.Element("span")
	for _, n := range nodes {
		shell.AppendChild(n)
	}
	var texts []*html.Node
	var find func(n *html.Node)
	find = func(n *html.Node) {
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			if k.Type == html.TextNode && changingMark.MatchString(k.Data) {
				texts = append(texts, k)
			}
			find(k)
		}
	}
	find(shell)
	for _, t := range texts {
		parent, last := t.Parent, 0
		for _, m := range changingMark.FindAllStringSubmatchIndex(t.Data, -1) {
			i, _ := strconv.Atoi(t.Data[m[2]:m[3]])
			if i >= len(list) {
				continue
			}
			if m[0] > last {
				parent.InsertBefore(markup.Text(t.Data[last:m[0]]), t)
			}
			f.c.Turns[len(list[i])] = true
			span := markup.Element("span", "class", fmt.Sprintf("changing changing-%d", len(list[i])))
			for j, w := range list[i] {
				word := markup.With(markup.Element("span"), markup.Text(strings.TrimSpace(w)))
				if j > 0 {
					markup.Set(word, "aria-hidden", "true")
				}
				span.AppendChild(word)
			}
			parent.InsertBefore(span, t)
			last = m[1]
		}
		if last < len(t.Data) {
			parent.InsertBefore(markup.Text(t.Data[last:]), t)
		}
		parent.RemoveChild(t)
	}
	var out []*html.Node
	for shell.FirstChild != nil {
		k := shell.FirstChild
		shell.RemoveChild(k)
		out = append(out, k)
	}
	return out
}
