package proof

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"
)

// Valid tells what the HTML standard does not allow in a document, as far as sections can get it wrong: tags that do
// not nest as they were written, elements where they may not stand, unknown attributes, references to ids that are
// not there, names that controls lack.
func Valid(source string) []string {
	v := &validator{ids: map[string]bool{}}
	v.nesting(source)
	doc, err := html.Parse(strings.NewReader(source))
	if err != nil {
		return append(v.out, err.Error())
	}
	v.walk(doc, nil)
	for _, r := range v.refs {
		if !v.ids[r] {
			v.tell("nothing has the id %q that is referred to", r)
		}
	}
	return v.out
}

type validator struct {
	out  []string
	ids  map[string]bool
	refs []string
}

func (v *validator) tell(format string, args ...any) {
	if text := fmt.Sprintf(format, args...); !slices.Contains(v.out, text) {
		v.out = append(v.out, text)
	}
}

var void = []string{"area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source",
	"track", "wbr"}

// nesting compares the tags as written with the tree that a browser makes of them.
func (v *validator) nesting(source string) {
	var written, made []string
	var open []string
	z := html.NewTokenizer(strings.NewReader(source))
	for {
		switch z.Next() {
		case html.ErrorToken:
			doc, err := html.Parse(strings.NewReader(source))
			if err != nil {
				return
			}
			var walk func(n *html.Node, depth int)
			walk = func(n *html.Node, depth int) {
				if n.Type == html.ElementNode {
					made = append(made, fmt.Sprintf("%d %s", depth, n.Data))
					depth++
				}
				for c := n.FirstChild; c != nil; c = c.NextSibling {
					walk(c, depth)
				}
			}
			walk(doc, 0)
			for i := range written {
				if i >= len(made) || !strings.EqualFold(written[i], made[i]) {
					v.tell("a browser puts <%s> elsewhere than it is written", strings.Fields(written[i])[1])
					return
				}
			}
			return
		case html.StartTagToken, html.SelfClosingTagToken:
			name, _ := z.TagName()
			tag := string(name)
			written = append(written, fmt.Sprintf("%d %s", len(open), tag))
			if !slices.Contains(void, tag) {
				open = append(open, tag)
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			if n := len(open); n == 0 || open[n-1] != string(name) {
				v.tell("</%s> closes what is not open", name)
				return
			}
			open = open[:len(open)-1]
		}
	}
}

// children lists what may stand directly in an element; others take anything that their own rules allow.
var children = map[string][]string{"ul": {"li"}, "ol": {"li"}, "dl": {"dt", "dd", "div"},
	"select": {"option", "optgroup"}, "table": {"caption", "thead", "tbody", "tfoot", "tr", "colgroup"},
	"tr": {"td", "th"}}

// parents lists where an element must stand.
var parents = map[string][]string{"li": {"ul", "ol", "menu"}, "dt": {"dl", "div"}, "dd": {"dl", "div"},
	"figcaption": {"figure"}, "summary": {"details"}, "source": {"picture", "video", "audio"}, "legend": {"fieldset"}}

// phrasing are the elements that take no blocks.
var phrasing = []string{"p", "h1", "h2", "h3", "h4", "h5", "h6", "span", "em", "strong", "small", "a", "button",
	"label", "cite", "time", "b", "i"}

var blocks = []string{"div", "section", "article", "aside", "p", "ul", "ol", "dl", "figure", "form", "header",
	"footer", "main", "nav", "h1", "h2", "h3", "h4", "blockquote", "details", "dialog", "table", "hr"}

var interactive = []string{"a", "button", "select", "textarea", "input", "details", "label"}

// attributes of each element beside the global ones.
var attributes = map[string]string{"a": "href target rel download hreflang",
	"img":    "src srcset sizes alt width height loading decoding fetchpriority",
	"source": "srcset sizes media type width height src",
	"button": "type popovertarget popovertargetaction command commandfor disabled name value form",
	"form":   "action method enctype novalidate autocomplete target name",
	"input":  "type name value placeholder required autocomplete pattern minlength maxlength min max step list checked disabled readonly multiple accept size", "textarea": "name rows cols required placeholder maxlength minlength autocomplete disabled readonly",
	"select": "name required multiple size autocomplete disabled", "option": "value selected disabled label",
	"label": "for", "details": "open name", "dialog": "open", "meta": "name content charset property media",
	"link": "rel href type sizes as crossorigin media", "ol": "start reversed type", "li": "value",
	"time":       "datetime",
	"blockquote": "cite", "td": "colspan rowspan headers", "th": "colspan rowspan headers scope abbr",
	"video": "src poster width height controls autoplay loop muted playsinline preload", "html": "lang",
	"iframe": "src title width height loading allow referrerpolicy"}

const global = " id class lang dir hidden title tabindex role style popover inert translate draggable contenteditable spellcheck autofocus enterkeyhint inputmode slot is itemscope itemprop itemtype "

func (v *validator) walk(n *html.Node, around []string) {
	if n.Type == html.ElementNode {
		v.element(n, around)
		around = append(slices.Clone(around), n.Data)
	}
	if n.Namespace == "svg" {
		return
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		v.walk(c, around)
	}
}

func (v *validator) element(n *html.Node, around []string) {
	parent := ""
	if len(around) > 0 {
		parent = around[len(around)-1]
	}
	if allowed := children[parent]; allowed != nil && !slices.Contains(allowed, n.Data) && n.Data != "script" &&
		n.Data != "template" {
		v.tell("<%s> stands directly in <%s>", n.Data, parent)
	}
	if must := parents[n.Data]; must != nil && !slices.Contains(must, parent) {
		v.tell("<%s> stands in <%s>", n.Data, parent)
	}
	for _, a := range around {
		if slices.Contains(phrasing, a) && slices.Contains(blocks, n.Data) && a != "a" {
			v.tell("<%s> stands in <%s>", n.Data, a)
		}
		if (a == "a" || a == "button") && slices.Contains(interactive, n.Data) {
			v.tell("<%s> stands in <%s>: one of the two cannot be reached", n.Data, a)
		}
	}
	named := false
	for _, a := range n.Attr {
		switch {
		case a.Key == "id":
			if v.ids[a.Val] {
				v.tell("the id %q is there twice", a.Val)
			}
			v.ids[a.Val] = true
		case a.Key == "for" || a.Key == "popovertarget" || a.Key == "aria-controls" || a.Key == "list" ||
			a.Key == "commandfor":
			v.refs = append(v.refs, a.Val)
		case a.Key == "aria-labelledby" || a.Key == "aria-describedby":
			v.refs = append(v.refs, strings.Fields(a.Val)...)
			named = true
		case a.Key == "aria-label":
			named = a.Val != ""
		}
		unknown := n.Namespace == "" && !strings.HasPrefix(a.Key, "aria-") && !strings.HasPrefix(a.Key, "data-") &&
			!strings.Contains(global, " "+a.Key+" ") && !slices.Contains(strings.Fields(attributes[n.Data]), a.Key)
		if unknown {
			v.tell("<%s> has no attribute %q", n.Data, a.Key)
		}
	}
	switch n.Data {
	case "img":
		if !slices.ContainsFunc(n.Attr, func(a html.Attribute) bool { return a.Key == "alt" }) {
			v.tell("an <img> has no alt")
		}
	case "button", "a", "summary":
		if !named && textOf(n) == "" {
			v.tell("a <%s> has no name", n.Data)
		}
	case "h1", "h2", "h3", "h4":
		if textOf(n) == "" {
			v.tell("an <%s> is empty", n.Data)
		}
	case "input", "textarea", "select":
		if id := attrOf(n, "id"); !named && attrOf(n, "type") != "hidden" &&
			!slices.Contains(around, "label") && id == "" {
			v.tell("an <%s> has no label", n.Data)
		}
	}
}

func attrOf(n *html.Node, key string) string {
	for _, a := range n.Attr {
		if a.Key == key {
			return a.Val
		}
	}
	return ""
}

// textOf gives the words of an element, those of pictures in it included.
func textOf(n *html.Node) string {
	var b strings.Builder
	var walk func(x *html.Node)
	walk = func(x *html.Node) {
		if x.Type == html.TextNode {
			b.WriteString(x.Data)
		}
		b.WriteString(attrOf(x, "alt") + attrOf(x, "aria-label"))
		for c := x.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(n)
	return strings.TrimSpace(b.String())
}
