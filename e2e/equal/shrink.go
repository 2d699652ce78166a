package equal

import (
	"context"
	"fmt"
	"io/fs"
	"path/filepath"
	"sort"
	"strings"

	"golang.org/x/net/html"

	"ziegel/e2e/browser"
)

// Shrink takes away elements, text and declarations from a page, one at a time, as long as our boxes still differ
// from the browser's, and returns the smallest page it found with what differs, or "" when nothing does. Files are
// written below root.
func Shrink(ctx context.Context, root, page string, assets fs.FS) (smallest string, left Tally, err error) {
	width := 0
	try := func(pages []string) (int, error) {
		var names []string
		for i, p := range pages {
			n := fmt.Sprintf("boxes/shrink/%d.html", i)
			if err := write(filepath.Join(root, filepath.FromSlash(n)), []byte(p)); err != nil {
				return 0, err
			}
			names = append(names, n)
		}
		at := Widths
		if width > 0 {
			at = []int{width}
		}
		_, measured, err := browser.Measure(ctx, root, names, at)
		if err != nil {
			return 0, err
		}
		best := -1
		for i, m := range measured {
			t, err := Page(root, m, assets, APixel)
			if err != nil {
				return 0, err
			}
			if len(t.Differences) > 0 && (best < 0 || len(pages[i]) < len(pages[best])) {
				best, left = i, t
			}
		}
		return best, nil
	}
	best, err := try([]string{page})
	if err != nil || best < 0 {
		return "", left, err
	}
	width = left.Differences[0].Width
	for {
		pages := smaller(page)
		sort.SliceStable(pages, func(i, j int) bool { return len(pages[i]) < len(pages[j]) })
		best := -1
		for start := 0; start < len(pages) && best < 0; start += atOnce {
			if ctx.Err() != nil { // as small as the time allowed
				return page, left, nil
			}
			best, err = try(pages[start:min(start+atOnce, len(pages))])
			switch {
			case ctx.Err() != nil:
				return page, left, nil
			case err != nil:
				return page, left, err
			}
			if best >= 0 {
				page = pages[start+best]
			}
		}
		if best < 0 {
			_, err = try([]string{page})
			return page, left, err
		}
	}
}

// atOnce is how many pages a browser opens before it is asked: many cost less each, few make the next step sooner.
const atOnce = 30

// smaller gives the pages that lack one element or all beside one, one pair of tags, half of a text or one
// declaration.
func smaller(page string) []string {
	var out []string
	for step := 0; len(out) < 2000; step++ {
		root, err := html.Parse(strings.NewReader(page))
		if err != nil {
			return out
		}
		n := 0
		var cut func(e *html.Node) bool
		cut = func(e *html.Node) bool {
			for c := e.FirstChild; c != nil; c = c.NextSibling {
				most := ways(c)
				if len(page) > 2000 { // whole elements first
					most = min(most, 2)
				}
				for way := range most {
					if n == step {
						take(c, way)
						return true
					}
					n++
				}
				if cut(c) {
					return true
				}
			}
			return false
		}
		if !cut(root) {
			break
		}
		var b strings.Builder
		if html.Render(&b, root) == nil && b.Len() < len(page) {
			out = append(out, b.String())
		}
	}
	return out
}

// ways counts what can be taken from a node.
func ways(n *html.Node) int {
	switch {
	case n.Type == html.TextNode && strings.TrimSpace(n.Data) == "":
		return 1
	case n.Type == html.TextNode:
		return 3
	case n.Type != html.ElementNode || n.Data == "html" || n.Data == "body" || n.Data == "head" || n.Data == "link" ||
		n.Data == "meta":
		return 0
	}
	if n.Data == "img" {
		return 2
	}
	return 3 + len(n.Attr) + len(strings.Split(style(n), ";"))
}

func style(n *html.Node) string {
	for _, a := range n.Attr {
		if a.Key == "style" {
			return a.Val
		}
	}
	return ""
}

func take(n *html.Node, way int) {
	if n.Type == html.TextNode {
		words := strings.Fields(n.Data)
		switch {
		case way == 0 || len(words) < 2:
			n.Parent.RemoveChild(n)
		case way == 1:
			n.Data = strings.Join(words[:len(words)/2], " ")
		default:
			n.Data = strings.Join(words[1:], " ")
		}
		return
	}
	switch {
	case way == 0:
		n.Parent.RemoveChild(n)
	case way == 1: // nothing beside it stays
		for c := n.Parent.FirstChild; c != nil; {
			next := c.NextSibling
			if c != n {
				n.Parent.RemoveChild(c)
			}
			c = next
		}
	case way == 2: // the children stay
		for c := n.FirstChild; c != nil; c = n.FirstChild {
			n.RemoveChild(c)
			n.Parent.InsertBefore(c, n)
		}
		n.Parent.RemoveChild(n)
	case way-3 < len(n.Attr):
		n.Attr = append(append([]html.Attribute(nil), n.Attr[:way-3]...), n.Attr[way-2:]...)
	default:
		for i, a := range n.Attr {
			if a.Key == "style" {
				list := strings.Split(a.Val, ";")
				k := way - 3 - len(n.Attr)
				n.Attr[i].Val = strings.Join(append(append([]string(nil), list[:k]...), list[k+1:]...), ";")
			}
		}
	}
}
