package site

import (
	"fmt"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v3"
)

// Op is a kind of edit.
type Op uint8

// The edits.
const (
	Set    Op = iota // set the value at a path, making what is missing on the way
	Delete           // remove a key or list item
	Insert           // put an item into a list, before position Index
	Move             // move the list item at the path to position Index
	Rename           // give a key another name (Value is the name)
)

// Step is a map key, or a list position from 0 when Key is "".
type Step struct {
	Key   string
	Index int
}

// Path leads to a value.
type Path []Step

// Keys builds a path from keys (strings) and positions (ints).
func Keys(steps ...any) Path {
	var p Path
	for _, s := range steps {
		switch x := s.(type) {
		case string:
			p = append(p, Step{Key: x})
		case int:
			p = append(p, Step{Index: x})
		case Path:
			p = append(p, x...)
		}
	}
	return p
}

// String writes the path as people do, positions from 1.
func (p Path) String() string {
	out := ""
	for _, s := range p {
		switch {
		case s.Key == "":
			out += "[" + strconv.Itoa(s.Index+1) + "]"
		case out == "":
			out = s.Key
		default:
			out += "." + s.Key
		}
	}
	return out
}

// Edit is one change of one value.
type Edit struct {
	Op    Op
	Path  Path
	Value *Value
	Index int
	Lines bool // maps that are new stand in lines of their own, a field in each, however short
}

// normal makes a file without content equal to an empty map.
func normal(v *Value) *Value {
	if v.Kind == Null {
		return &Value{Kind: Map}
	}
	return v
}

// wrap builds the value that a missing path needs.
func wrap(p Path, v *Value) *Value {
	for i := len(p) - 1; i >= 0; i-- {
		if p[i].Key != "" {
			v = &Value{Kind: Map, Entries: []Entry{{Key: p[i].Key, Value: v}}}
		} else {
			v = &Value{Kind: List, Items: []*Value{v}}
		}
	}
	return v
}

// Apply does an edit on values alone: what the text must say afterwards.
func Apply(root *Value, e Edit) error {
	at := root
	for i, s := range e.Path {
		last := i == len(e.Path)-1
		if s.Key == "" {
			outside := at.Kind != List || s.Index > len(at.Items) || s.Index < 0 ||
				s.Index == len(at.Items) && (e.Op != Set)
			if outside {
				return fmt.Errorf("there is no %s", e.Path[:i+1])
			}
			if s.Index == len(at.Items) {
				at.Items = append(at.Items, wrap(e.Path[i+1:], e.Value).Clone())
				return nil
			}
			if last {
				switch e.Op {
				case Set:
					at.Items[s.Index] = e.Value.Clone()
					return nil
				case Delete:
					at.Items = append(at.Items[:s.Index], at.Items[s.Index+1:]...)
					return nil
				case Move:
					it := at.Items[s.Index]
					rest := append(append([]*Value(nil), at.Items[:s.Index]...), at.Items[s.Index+1:]...)
					at.Items = append(append(append([]*Value(nil), rest[:e.Index]...), it), rest[e.Index:]...)
					return nil
				}
			}
			at = at.Items[s.Index]
			continue
		}
		if at.Kind == Null {
			at.Kind = Map
		}
		if at.Kind != Map {
			return fmt.Errorf("%s is not a map, so it has no %q", e.Path[:i], s.Key)
		}
		k := -1
		for j := range at.Entries {
			if at.Entries[j].Key == s.Key {
				k = j
			}
		}
		if k < 0 {
			if e.Op != Set && e.Op != Insert {
				return fmt.Errorf("there is no %s", e.Path[:i+1])
			}
			v := e.Value
			if e.Op == Insert {
				v = &Value{Kind: List, Items: []*Value{e.Value}}
			}
			at.Entries = append(at.Entries, Entry{Key: s.Key, Value: wrap(e.Path[i+1:], v).Clone()})
			return nil
		}
		if last {
			switch e.Op {
			case Set:
				at.Entries[k].Value = e.Value.Clone()
				return nil
			case Delete:
				at.Entries = append(at.Entries[:k], at.Entries[k+1:]...)
				return nil
			case Rename:
				at.Entries[k].Key = e.Value.Text
				return nil
			}
		}
		at = at.Entries[k].Value
	}
	if e.Op == Insert {
		if at.Kind == Null {
			at.Kind = List
		}
		if at.Kind != List {
			return fmt.Errorf("%s is not a list", e.Path)
		}
		at.Items = append(append(append([]*Value(nil), at.Items[:e.Index]...), e.Value.Clone()),
			at.Items[e.Index:]...)
	}
	return nil
}

func (f *File) eol() string {
	if i := strings.IndexByte(f.Source, '\n'); i > 0 && f.Source[i-1] == '\r' {
		return "\r\n"
	}
	return "\n"
}

// writing is how values are written into the file.
func (f *File) writing() writing { return writing{f.eol(), f.inLines} }

func (f *File) splice(sp span, text string) string {
	return f.Source[:sp.from] + text + f.Source[sp.to:]
}

func (f *File) step(at place, s Step) (place, bool) {
	n := at.node
	flow := at.flow || n.Style&yaml.FlowStyle != 0
	if n.Kind == yaml.AliasNode {
		n = n.Alias // an edit inside changes the anchor too; the check afterwards refuses it
	}
	if s.Key == "" {
		if n.Kind != yaml.SequenceNode || s.Index >= len(n.Content) {
			return place{node: n, flow: flow, key: at.key, indent: at.indent}, false
		}
		k := n.Content[s.Index]
		return place{node: k, parent: n, index: s.Index, flow: flow, indent: f.dashColumn(n)}, true
	}
	if n.Kind == yaml.MappingNode {
		for i := 0; i+1 < len(n.Content); i += 2 {
			if n.Content[i].Value == s.Key {
				return place{node: n.Content[i+1], key: n.Content[i], parent: n, index: i, flow: flow,
					indent: n.Content[i].Column - 1}, true
			}
		}
	}
	return place{}, false
}

// dashColumn gives the column of the dashes of a block sequence, from 0.
func (f *File) dashColumn(seq *yaml.Node) int { return seq.Column - 1 }

func (f *File) replace(at place, v *Value) (string, error) {
	n := at.node
	if n.Kind == yaml.ScalarNode && n.Value == "" && n.Style == 0 && at.key != nil { // a key without a value
		after := f.afterColon(at.key)
		text := f.writing().afterKey(v, at.indent)
		if at.flow {
			text = " " + renderFlow(v)
		}
		return f.splice(span{after, after}, text), nil
	}
	sp := f.extent(n, at)
	if v.Kind == Text && n.Kind == yaml.ScalarNode {
		style := n.Style
		if style&(yaml.LiteralStyle|yaml.FoldedStyle) != 0 {
			style = 0
			if at.key != nil && fitsLiteral(v.Text) {
				return f.splice(sp, literal(v.Text, at.indent+2, f.eol())), nil
			}
		}
		return f.splice(sp, renderScalar(v.Text, style, at.flow)), nil
	}
	inFlow := n.Kind == yaml.MappingNode && n.Style&yaml.FlowStyle != 0 && v.Kind == Map && !v.Empty()
	if inFlow && len(renderFlow(v)) <= 90 { // a map that its writer had on one line stays there
		return f.splice(sp, renderFlow(v)), nil
	}
	if at.flow || v.Kind == Text || v.Empty() {
		if v.Kind != Text && !at.flow || v.Kind == Text || at.flow {
			text := renderFlow(v)
			if v.Kind == Text {
				text = renderScalar(v.Text, 0, at.flow)
			}
			// block collection to one line
			if !at.flow && at.key != nil && n.Style&yaml.FlowStyle == 0 && n.Kind != yaml.ScalarNode {
				after := f.afterColon(at.key)
				return f.splice(span{after, sp.to}, " "+text), nil
			}
			return f.splice(sp, text), nil
		}
	}
	if at.key != nil {
		return f.splice(span{f.afterColon(at.key), sp.to}, f.writing().afterKey(v, at.indent)), nil
	}
	if at.parent == nil {
		return f.splice(sp, f.writing().block(v, 0)), nil
	}
	return f.splice(sp, strings.TrimLeft(f.writing().item(v, at.indent), " ")), nil
}

// fitsLiteral reports a text of several lines that a literal block gives back as it is: its first line shows how far
// the block is set in, and no more than one line ends it (YAML 1.2, section 8.1.1).
func fitsLiteral(text string) bool {
	starts := strings.HasPrefix(text, " ") || strings.HasPrefix(text, "\n")
	return strings.Contains(text, "\n") && !strings.Contains(text, "\r") && !starts &&
		!strings.HasSuffix(text, "\n\n")
}

func literal(text string, indent int, eol string) string {
	pad := strings.Repeat(" ", indent)
	head := "|-"
	if strings.HasSuffix(text, "\n") {
		head, text = "|", strings.TrimSuffix(text, "\n")
	}
	out := head
	for _, l := range strings.Split(text, "\n") {
		out += eol
		if l != "" {
			out += pad + l
		}
	}
	return out
}

// lineEnd gives the end of the line that holds byte i, before the line break, comments included.
func (f *File) lineEnd(i int) int {
	if nl := strings.IndexByte(f.Source[i:], '\n'); nl >= 0 {
		end := i + nl
		if end > i && f.Source[end-1] == '\r' {
			end--
		}
		return end
	}
	return len(f.Source)
}

func (f *File) lineStart(i int) int { return strings.LastIndexByte(f.Source[:i], '\n') + 1 }

// find returns the node at a place.
func (f *File) find(line, col int) *yaml.Node {
	var walk func(n *yaml.Node) *yaml.Node
	walk = func(n *yaml.Node) *yaml.Node {
		if n.Line == line && n.Column == col && n.Kind == yaml.SequenceNode {
			return n
		}
		for _, k := range n.Content {
			if m := walk(k); m != nil {
				return m
			}
		}
		return nil
	}
	if f.node == nil {
		return nil
	}
	return walk(f.node)
}
