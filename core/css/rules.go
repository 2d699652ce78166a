package css

import "golang.org/x/net/html"

// Document is a page with its stylesheets, ready to be styled. It never changes and may be shared.
type Document struct {
	File        string
	Root        *Element
	Body        *Element
	Elements    []*Element
	Sheets      []*Sheet
	FontFaces   []FontFace
	Unsupported []Use
	Missing     []string               // stylesheets that could not be loaded, with reasons
	Quirks      bool                   // an old document: laid out as old browsers did
	Limited     bool                   // so only in the height of lines
	HasLetters  bool                   // a rule speaks of ::first-letter
	registered  map[string]*registered // custom properties with a definition
	functions   map[string]*customFunction
	darkScheme  bool // color-scheme or light-dark() allow dark colors
	Counts      bool // generated content may ask for counters or quotation marks

	source     string
	conditions []*condition
	condIndex  map[string]int
	layers     *layerNode
	rules      []*rule
}

// Source says how to load a document.
type Source struct {
	File string // shown in positions
	HTML string
	// Load gives the bytes behind a href, relative to the file that asks (from). Nil loads nothing.
	Load func(from, href string) (name string, data []byte, err error)
	// States are those that every element is in: hover, focus-visible. Still takes transforms off, so that boxes
	// stand where the layout puts them.
	States []string
	Still  bool
}

// Use is a place where a page uses what the engine does not model.
type Use struct {
	Property string
	Value    string
	Sheet    *Sheet
	Pos      int
}

// customFunction is one that @function defines.
type customFunction struct {
	parameters []parameter
	locals     [][2]any // name and []Token, in their order
	result     []Token
}

type parameter struct {
	name     string
	fallback []Token
	has      bool // a fallback
}

type layerNode struct {
	name  string
	kids  []*layerNode
	order int
}

func (l *layerNode) child(name string) *layerNode {
	for _, k := range l.kids {
		if k.name == name {
			return k
		}
	}
	k := &layerNode{name: name}
	l.kids = append(l.kids, k)
	return k
}

func (l *layerNode) number(n int) int {
	for _, k := range l.kids {
		n = k.number(n)
	}
	l.order = n
	return n + 1
}

// declaration is one property of a rule as it was written.
type declaration struct {
	name      string
	value     []Token
	important bool
	sheet     *Sheet
	pos       int
	variable  bool
	arbitrary bool  // a function in its value is replaced for each element
	fluid     units // those of the room in its value
	told      bool
	untold    [][2]string // properties and values that the layout does not follow, until an element uses them
}

var wideKeywords = map[string]bool{"inherit": true, "initial": true, "unset": true, "revert": true,
	"revert-layer": true}

type rule struct {
	selectors []*Selector
	scope     *scope
	decls     []*declaration
	conds     []int
	layer     *layerNode
	order     int
	ua        bool
}

// match is a rule that selects an element, with the specificity it does so with.
type match struct {
	rule *rule
	spec Specificity
}

// FontFace is one @font-face rule.
type FontFace struct {
	Family     string
	WeightLow  float64
	WeightHigh float64
	Stretch    [2]float64 // percent
	Italic     bool
	Slant      [2]float64 // degrees, of oblique
	Ranges     [][2]rune  // unicode-range; empty means all
	SizeAdjust float64    // a factor, 0 when not given
	Overrides  [3]float64 // of ascent, descent and line gap, factors; -1 when not given
	Sources    []string   // urls, best first
	From       string     // file that holds the rule
	Pos        int
}

// condition is a media or container condition; every distinct text exists once in a document.
type condition struct {
	container bool
	name      string // container name asked for, "" for any
	query     *query
	key       string
	scheme    bool // it asks for the color scheme
}

// query is a boolean tree of features.
type query struct {
	op   string // "and", "or", "not", "feature", "true", "false"
	kids []*query

	feature string
	name    string // of the custom property that style() asks for
	cmp     string // "=", "<", "<=", ">", ">="; "" asks whether the feature is there at all
	value   []Token
	expr    *expr // value as a length or number, nil when it is neither
}

// Element is one element of a document. Elements never change after loading.
type Element struct {
	Tag      string // lower case
	ID       string
	Classes  []string
	Parent   *Element
	Children []Child
	Index    int // document order, from 0
	Nth      int // position among the element siblings, from 1
	Elements int // number of child elements
	Foreign  bool
	Raw      *html.Node // the parsed node, for attributes and serializing

	kids    []*Element
	matched []match // rules that select this element, in cascade order
	pseudo  map[string][]match
	pseudos []string // names in pseudo, sorted
	conds   []int    // distinct condition ids of matched and pseudo
	states  map[string]bool
}

// Child is an element or a piece of text.
type Child struct {
	Element *Element
	Text    string
}

// vars is a set of custom properties in force. Equal sets are one pointer, so that it can serve as a cache key.
type vars struct {
	values map[string][]Token
	fluid  map[string]units
}

// registered is a custom property with a definition (CSS Properties and Values 1).
type registered struct {
	kinds    []string // of its values: length, color ...; nil for any
	inherits bool
	initial  []Token // nil for none
}

// scope is the prelude of @scope: elements below a root and not below a limit.
type scope struct {
	roots, limits []*Selector
	within        *scope
}
