package css

import (
	_ "embed"
	"fmt"
	"regexp"
	"sort"
	"strings"

	"github.com/tdewolff/parse/v2/css"
	"golang.org/x/net/html"

	"ziegel/core/diag"
)

//go:embed ua.css
var uaSource string

// Load reads a document. It fails only when there is no HTML to read at all.
func Load(src Source) (*Document, error) {
	if at := tooDeep(src.HTML); at >= 0 {
		return nil, fmt.Errorf(
			"%s: elements are nested deeper than %d levels: take out boxes around this one that do nothing",
			diag.At(src.File, src.HTML, at),
			deepest,
		)
	}
	node, err := html.Parse(strings.NewReader(lowerDoctype(src.HTML)))
	if err != nil {
		return nil, fmt.Errorf("%s: elements are nested deeper than %d levels: %w", src.File, deepest, err)
	}
	d := &Document{File: src.File, source: src.HTML, condIndex: map[string]int{}, layers: &layerNode{}}
	var doctype *html.Node
	for c := node.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.DoctypeNode {
			doctype = c
		}
		if c.Type == html.ElementNode {
			b := &domBuilder{}
			d.Root = b.element(c, nil)
			d.Elements = b.all
		}
	}
	d.Quirks, d.Limited = mode(doctype)
	if n := len(d.Elements); n > mostElements {
		return nil, fmt.Errorf(
			"%s: the page has %d elements, and %d are the most that can be laid out at every width: cut it in two",
			src.File,
			n,
			mostElements,
		)
	}
	d.Root.Nth = 1
	for _, k := range d.Root.kids {
		if k.Tag == "body" {
			d.Body = k
		}
	}
	d.addSheet(Parse("", uaSource), nil, nil, true)
	if d.Quirks {
		d.addSheet(Parse("", quirksSource), nil, nil, true)
	}
	d.collect(src)
	d.reportElements(src)
	if src.Still {
		d.addSheet(
			Parse(
				"",
				"*, ::before, ::after { translate: none !important; scale: none !important; rotate: none !important; transform: none !important }",
			),
			nil,
			d.layers,
			false,
		)
	}
	d.layers.number(0)
	if len(src.States) > 0 {
		states := map[string]bool{}
		for _, s := range src.States {
			states[s] = true
		}
		for _, e := range d.Elements {
			e.states = states
		}
	}
	d.matchAll()
	sort.SliceStable(d.Unsupported, func(i, j int) bool {
		a, b := d.Unsupported[i], d.Unsupported[j]
		if a.Sheet.File != b.Sheet.File {
			return a.Sheet.File < b.Sheet.File
		}
		return a.Pos < b.Pos
	})
	return d, nil
}

// mostElements is how many elements a page may have. All of them are laid out at thousands of widths; pages that
// people read have a tenth of it.
const mostElements = 60000

// deepest is how deep elements may nest: the HTML parser takes 512, and adds some of its own.
const deepest = 500

// tooDeep gives where the elements of an HTML file nest too deep, -1 when they do not. End tags that may be left out
// count as written.
func tooDeep(text string) int {
	z := html.NewTokenizer(strings.NewReader(text))
	at, depth := 0, 0
	for {
		kind := z.Next()
		raw := len(z.Raw())
		switch kind {
		case html.ErrorToken:
			return -1
		case html.EndTagToken:
			depth = max(0, depth-1)
		case html.StartTagToken:
			if name, _ := z.TagName(); !leftOpen[string(name)] {
				if depth++; depth > deepest {
					return at
				}
			}
		}
		at += raw
	}
}

// leftOpen are elements without an end tag, or whose end tag is often left out.
var leftOpen = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true,
	"img": true, "input": true, "link": true, "meta": true, "source": true, "track": true,
	"wbr": true, "p": true, "li": true, "dt": true, "dd": true, "option": true, "optgroup": true, "tr": true,
	"td": true, "th": true, "thead": true, "tbody": true, "tfoot": true}

// unmodelled are elements that browsers lay out in ways of their own, and what is said of them.
var unmodelled = map[string]string{"ruby": "ruby", "math": "math", "marquee": "marquee", "frameset": "frameset"}

// reportElements tells of elements whose layout is not modelled.
func (d *Document) reportElements(src Source) {
	sheet := &Sheet{File: src.File, Source: src.HTML}
	told := map[string]bool{}
	tell := func(name, value, find string) {
		if told[name+value] {
			return
		}
		told[name+value] = true
		d.Unsupported = append(d.Unsupported, Use{name, value, sheet,
			max(0, strings.Index(strings.ToLower(src.HTML), strings.ToLower(find)))})
	}
	for _, e := range d.Elements {
		if what := unmodelled[e.Tag]; what != "" {
			tell("display", what, "<"+e.Tag)
		}
		d.Counts = d.Counts || e.Tag == "q"
	}
}

func (d *Document) collect(src Source) {
	for _, e := range d.Elements {
		var conds []int
		if m := e.Attr("media"); m != "" && (e.Tag == "style" || e.Tag == "link") {
			conds = []int{d.condition(&condition{query: parseMediaList(Tokenize(m)).prepare(), key: "media " + m})}
		}
		switch {
		case e.Tag == "style" && styleSheet(e):
			text := ""
			for _, c := range e.Children {
				text += c.Text
			}
			offset := max(0, strings.Index(src.HTML, text))
			sheet := Parse(src.File, text)
			sheet.Source = src.HTML
			shift(sheet.Nodes, offset)
			d.addImports(loading{src: src, name: src.File, conds: conds}, sheet)
		case e.Tag == "link" && hasWord(e.Attr("rel"), "stylesheet") && !hasWord(e.Attr("rel"), "alternate"):
			d.load(loading{src: src, name: src.File, conds: conds}, e.Attr("href"))
		}
	}
}

var doctypeForm = regexp.MustCompile(`(?i)^\s*(?:<!--.*?-->\s*)*<!doctype\s+html\b`)

// lowerDoctype writes the name of a document type in small letters, which the parser asks for before it has made them
// so; browsers do not (HTML, 13.2.6.4.1).
func lowerDoctype(source string) string {
	m := doctypeForm.FindStringIndex(source)
	if m == nil {
		return source
	}
	return source[:m[1]-4] + "html" + source[m[1]:]
}

// styleSheet reports a style element whose text is CSS (HTML, 4.2.6), and that is in the document: what a template
// holds is not.
func styleSheet(e *Element) bool {
	kind := strings.ToLower(strings.TrimSpace(e.Attr("type")))
	if kind != "" && kind != "text/css" {
		return false
	}
	for p := e.Parent; p != nil; p = p.Parent {
		if p.Tag == "template" {
			return false
		}
	}
	return true
}

// loading is a style sheet on its way into a document: where it comes from and is called, under which conditions and in
// which layer it counts, and how many imports led to it.
type loading struct {
	src   Source
	name  string
	conds []int
	layer *layerNode
	depth int
}

// load adds what an address leads to from the sheet or page that l names.
func (d *Document) load(l loading, href string) {
	if l.src.Load == nil || l.depth > 8 {
		return
	}
	name, data, err := l.src.Load(l.name, href)
	if err != nil {
		d.Missing = append(d.Missing, fmt.Sprintf("%s: %v", href, err))
		return
	}
	l.name = name
	d.addImports(l, Parse(name, string(data)))
}

// addImports adds a sheet after those that it imports (css-cascade-5, section 2).
func (d *Document) addImports(l loading, sheet *Sheet) {
	for _, n := range sheet.Nodes {
		if n.Kind == AtRule && n.Name == "layer" && !n.Block {
			d.layerStatement(n, l.layer)
		}
		if n.Kind != AtRule || n.Name != "import" || len(n.Prelude) == 0 {
			continue
		}
		href := unquote(n.Prelude[0].Text)
		if n.Prelude[0].Kind == css.URLToken {
			href = urlText(n.Prelude[0].Text)
		}
		at := l
		rest := trim(n.Prelude[1:])
		if len(rest) > 0 && (rest[0].Is("layer") || rest[0].Is("layer(")) {
			end := endOfValue(rest, 0)
			if rest[0].Is("layer(") {
				at.layer = d.layerPath(l.layer, Text(inside(rest, 0, end)))
			} else {
				at.layer = d.layerPath(l.layer, fmt.Sprintf("(anonymous %d)", n.Pos))
			}
			rest = trim(rest[end:])
		}
		if len(rest) > 0 {
			at.conds = append(append([]int(nil), l.conds...),
				d.condition(&condition{query: parseMediaList(rest).prepare(),
					key: "media " + Text(rest)}))
		}
		at.depth++
		d.load(at, href)
	}
	d.addSheet(sheet, l.conds, l.layer, false)
}

func (d *Document) layerPath(at *layerNode, path string) *layerNode {
	if at == nil {
		at = d.layers
	}
	for _, p := range strings.Split(path, ".") {
		at = at.child(strings.TrimSpace(p))
	}
	return at
}

func (d *Document) layerStatement(n *Node, at *layerNode) {
	for _, part := range SplitCommas(n.Prelude) {
		d.layerPath(at, Text(part))
	}
}

func (d *Document) condition(c *condition) int {
	if i, ok := d.condIndex[c.key]; ok {
		return i
	}
	c.scheme = !c.container && strings.Contains(c.key, "prefers-color-scheme")
	d.conditions = append(d.conditions, c)
	d.condIndex[c.key] = len(d.conditions) - 1
	return len(d.conditions) - 1
}

// ruleScope is where a rule stands while a sheet is compiled.
type ruleScope struct {
	conds  []int
	layer  *layerNode
	parent []*Selector
	scope  *scope
	ua     bool
}

func (d *Document) addSheet(sheet *Sheet, conds []int, layer *layerNode, ua bool) {
	d.Sheets = append(d.Sheets, sheet)
	d.compile(sheet, sheet.Nodes, ruleScope{conds: conds, layer: layer, ua: ua})
}

func (d *Document) compile(sheet *Sheet, nodes []*Node, sc ruleScope) {
	for _, n := range nodes {
		switch n.Kind {
		case QualifiedRule:
			list, ok := ParseSelectors(n.Prelude, sc.parent)
			if !ok {
				sheet.Errors = append(sheet.Errors, ParseError{n.Pos,
					"a selector that cannot be read: " + Text(n.Prelude)})
				continue
			}
			d.addRule(sheet, list, n.Children, sc)
			inner := sc
			inner.parent = list
			d.compile(sheet, nested(n.Children), inner)
		case AtRule:
			d.compileAt(sheet, n, sc)
		}
	}
}

// nested leaves out plain declarations, which addRule has taken.
func nested(nodes []*Node) []*Node {
	var out []*Node
	for _, n := range nodes {
		if n.Kind != Declaration {
			out = append(out, n)
		}
	}
	return out
}

func (d *Document) compileAt(sheet *Sheet, n *Node, sc ruleScope) {
	with := func(c *condition) {
		inner := sc
		inner.conds = append(append([]int(nil), sc.conds...), d.condition(c))
		d.body(sheet, n, inner)
	}
	switch n.Name {
	case "media":
		for _, f := range parseMediaList(n.Prelude).strange() {
			d.Unsupported = append(d.Unsupported, Use{"@media", f, sheet, n.Pos})
		}
		with(&condition{query: parseMediaList(n.Prelude).prepare(), key: "media " + Text(n.Prelude)})
	case "container":
		name, query := "", n.Prelude
		if len(query) > 0 && query[0].Kind == css.IdentToken && !query[0].Is("not") {
			name, query = query[0].Text, trim(query[1:])
		}
		if mentions(query, "scroll-state(") {
			d.Unsupported = append(d.Unsupported, Use{"@container", "scroll-state()", sheet, n.Pos})
		}
		p := &queryParser{v: query}
		with(&condition{container: true, name: name, query: p.condition().prepare(),
			key: "container " + Text(n.Prelude)})
	case "supports":
		if supports(n.Prelude) {
			d.body(sheet, n, sc)
		}
	case "layer":
		if !n.Block {
			d.layerStatement(n, sc.layer)
			return
		}
		name := Text(n.Prelude)
		if name == "" {
			name = fmt.Sprintf("(anonymous %s %d)", sheet.File, n.Pos)
		}
		sc.layer = d.layerPath(sc.layer, name)
		d.body(sheet, n, sc)
	case "font-face":
		d.addFontFace(sheet, n)
	case "property":
		d.register(n)
	case "function":
		d.defineFunction(n)
	case "starting-style", "keyframes", "-webkit-keyframes", "import", "charset", "namespace", "page",
		"counter-style", "view-transition", "font-feature-values":
	case "scope":
		in := &scope{within: sc.scope}
		v := trim(n.Prelude)
		for _, to := range []*[]*Selector{&in.roots, &in.limits} {
			if len(v) > 0 && v[0].Is("to") {
				v = trim(v[1:])
				to = &in.limits
			}
			if len(v) == 0 || v[0].Kind != css.LeftParenthesisToken {
				break
			}
			end := endOfValue(v, 0)
			list, ok := ParseSelectors(trim(inside(v, 0, end)), nil)
			if !ok {
				sheet.Errors = append(sheet.Errors, ParseError{n.Pos,
					"a selector that cannot be read: " + Text(n.Prelude)})
				return
			}
			*to = list
			v = trim(v[end:])
		}
		sc.scope, sc.parent = in, nil
		root, _ := ParseSelectors(Tokenize(":scope"), nil)
		d.addRule(sheet, root, n.Children, sc)
		d.compile(sheet, nested(n.Children), sc)
	}
}

// body compiles what stands inside an at-rule; declarations there belong to the selector around it.
func (d *Document) body(sheet *Sheet, n *Node, sc ruleScope) {
	if sc.parent != nil {
		d.addRule(sheet, sc.parent, n.Children, sc)
	}
	d.compile(sheet, nested(n.Children), sc)
}

func (d *Document) addRule(sheet *Sheet, list []*Selector, nodes []*Node, sc ruleScope) {
	r := &rule{selectors: list, conds: sc.conds, layer: sc.layer, order: len(d.rules), ua: sc.ua, scope: sc.scope}
	if r.layer == nil {
		r.layer = d.layers
	}
	for _, n := range nodes {
		if n.Kind == Declaration && n.Name != "-invalid" {
			r.decls = append(r.decls, d.declare(sheet, n, sc.ua))
		}
	}
	if len(r.decls) > 0 {
		d.rules = append(d.rules, r)
	}
}
