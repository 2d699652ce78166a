package library

import (
	"bytes"
	"fmt"
	"image"
	_ "image/jpeg" // the pictures of trades
	"io/fs"
	"path"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// TradeDir is the folder of the shipped trades.
const TradeDir = "trades"

// Trade is the samples of one line of business: what the shipped sections show until a page says it.
type Trade struct {
	Name    string
	Summary string
	words   *site.Value // kinds, sections and any: fields by name
	shown   map[string][]picture
	shipped fs.FS
}

type picture struct {
	file, alt     string
	width, height int // px
}

// Trades lists the trades that ship.
func Trades(shipped fs.FS) []string {
	var out []string
	list, _ := fs.ReadDir(shipped, TradeDir)
	for _, d := range list {
		if name, ok := strings.CutSuffix(d.Name(), ".yaml"); ok {
			out = append(out, name)
		}
	}
	return out
}

// OpenTrade reads a shipped trade. The error names what is wrong with its file.
func OpenTrade(shipped fs.FS, name string) (*Trade, error) {
	file := path.Join(TradeDir, name+".yaml")
	data, err := fs.ReadFile(shipped, file)
	if err != nil {
		return nil, err
	}
	f, problems := site.ReadFile(file, string(data))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	t := &Trade{
		Name:    name,
		Summary: f.Root.Get("summary").Str(),
		words:   f.Root,
		shown:   map[string][]picture{},
		shipped: shipped,
	}
	for _, list := range []string{"pictures", "people"} {
		if v := f.Root.Get(list); v != nil {
			for _, x := range v.Items {
				p, err := t.picture(x)
				if err != nil {
					return nil, fmt.Errorf("%s: %w", file, err)
				}
				t.shown[list] = append(t.shown[list], p)
			}
		}
	}
	return t, nil
}

// picture reads a file and its text, written as a list of both.
func (t *Trade) picture(v *site.Value) (picture, error) {
	if v.Kind != site.List || len(v.Items) != 2 {
		return picture{}, fmt.Errorf("line %d: a picture is its file and its text", v.Pos.Line)
	}
	p := picture{file: v.Items[0].Str(), alt: v.Items[1].Str()}
	data, err := fs.ReadFile(t.shipped, path.Join("pictures", p.file))
	if err != nil {
		return p, err
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(data))
	p.width, p.height = size.Width, size.Height
	return p, err
}

// telling puts the words of a trade into one section.
type telling struct {
	t       *Trade
	s       *Section
	used    int // pictures
	persons int
}

// Tell gives a section the samples of the trade in place of its own. What the trade has no words for stays.
func (t *Trade) Tell(s *Section) {
	w := &telling{t: t, s: s, used: len(s.Name) + int(s.Name[len(s.Name)-1])} // not all begin with the same picture
	w.inside(s.Root, w.top)
	s.Fields = infer(s.Root)
}

// top finds what the trade says of a field of the section itself.
func (w *telling) top(name string) *site.Value {
	for _, words := range []*site.Value{w.t.words.Get("sections").Get(w.s.Name), w.t.words.Get("kinds").Get(w.s.Kind),
		w.t.words.Get("any")} {
		if v := words.Get(name); v != nil {
			return v
		}
	}
	return nil
}

// inside fills what stands below an element; say gives what the trade has for a field there.
func (w *telling) inside(n *html.Node, say func(name string) *site.Value) {
	for k := n.FirstChild; k != nil; {
		next := k.NextSibling
		if k.Type == html.ElementNode {
			if list, ok := markup.Attr(k, "data-each"); ok {
				group := []*html.Node{k}
				for x := next; x != nil; x = x.NextSibling {
					if name, ok := markup.Attr(x, "data-each"); ok && name == list {
						group, next = append(group, x), x.NextSibling
					}
				}
				w.list(n, group, say(list))
			} else if name, ok := markup.Attr(k, "data-field"); ok {
				w.field(k, name, say(name))
			} else {
				w.inside(k, say)
			}
		}
		k = next
	}
}

// list shows as many entries as the section has, or fewer when the trade has fewer.
func (w *telling) list(parent *html.Node, group []*html.Node, v *site.Value) {
	if v == nil || v.Kind != site.List || len(v.Items) == 0 {
		for _, n := range group { // a list of pictures alone
			w.inside(n, func(string) *site.Value { return nil })
		}
		return
	}
	for i, n := range group {
		if i >= len(v.Items) {
			parent.RemoveChild(n)
			continue
		}
		entry := v.Items[i]
		if name, ok := markup.Attr(n, "data-field"); ok {
			w.field(n, name, entry)
			continue
		}
		w.inside(n, func(name string) *site.Value {
			if entry.Kind != site.Map {
				if name == "." || name == "title" {
					return entry
				}
				return nil
			}
			if x := entry.Get(name); x != nil || name != "." {
				return x
			}
			return entry.Get("text")
		})
		if flag, ok := markup.Attr(n, "data-flag"); ok {
			markup.RemoveClass(n, flag)
			if entry.Get(flag).Str() == "yes" {
				markup.AddClass(n, flag)
			}
		}
		w.bars(n)
	}
}

// bars makes elements that are as long as a number half as long as they can be: pages give them their length.
func (w *telling) bars(n *html.Node) {
	markup.Each(n, func(x *html.Node) {
		if markup.Has(x, "data-share") {
			markup.Set(x, "style", "--share: 50")
		}
	})
}

func (w *telling) field(n *html.Node, name string, v *site.Value) {
	switch TypeOf(n) {
	case Picture:
		w.show(n, name, v)
	case Icon:
		if v.Str() != "" {
			w.draw(n, v.Str())
		}
	case Link:
		if text := markup.FirstText(n); v.Str() != "" && text != nil {
			text.Data = v.Str()
		}
	default:
		if v.Str() != "" {
			markup.Empty(n)
			n.AppendChild(markup.Text(v.Str()))
		}
	}
}

// show puts the trade's next picture in the place of a sample's: somebody's portrait where people are shown.
func (w *telling) show(n *html.Node, name string, v *site.Value) {
	list, at := "pictures", &w.used
	if w.s.Kind == "team" || w.s.Kind == "testimonials" {
		list, at = "people", &w.persons
	}
	all := w.t.shown[list]
	if name == "mark" || len(all) == 0 {
		return
	}
	p := all[*at%len(all)]
	if v != nil && v.Kind == site.List {
		if own, err := w.t.picture(v); err == nil {
			p = own
		}
	}
	*at++
	src := markup.Value(n, "src")
	markup.Set(n, "src", src[:max(0, strings.LastIndex(src, "pictures/"))]+"pictures/"+p.file)
	markup.Set(n, "width", fmt.Sprint(p.width))
	markup.Set(n, "height", fmt.Sprint(p.height))
	if markup.Value(n, "alt") != "" {
		markup.Set(n, "alt", p.alt)
	}
	markup.Take(n, "style")
}

// draw puts another icon in the place of a sample's.
func (w *telling) draw(n *html.Node, name string) {
	data, err := fs.ReadFile(w.t.shipped, path.Join("icons", name+".svg"))
	if err != nil {
		return
	}
	nodes, err := html.ParseFragment(
		bytes.NewReader(data),
		&html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div},
	)
	if err != nil || len(nodes) == 0 {
		return
	}
	markup.Set(n, "data-icon", name)
	markup.Empty(n)
	for _, x := range nodes {
		if x.Data == "svg" {
			for k := x.FirstChild; k != nil; k = x.FirstChild {
				x.RemoveChild(k)
				n.AppendChild(k)
			}
		}
	}
}

// Retold gives a library whose shipped sections show the samples of a trade.
func (l *Library) Retold(t *Trade) *Library {
	out := &Library{}
	for _, e := range l.entries {
		if e.own {
			out.entries = append(out.entries, e)
			continue
		}
		out.entries = append(out.entries, &entry{name: e.name, read: func() (*Section, diag.Problems) {
			s, problems := e.read()
			if s != nil {
				t.Tell(s)
			}
			return s, problems
		}})
	}
	return out
}
