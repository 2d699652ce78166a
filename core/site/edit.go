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
}

// EditSource changes YAML text. Only the bytes that must change do; the result is read again and must hold the old content plus
// exactly the edit, else an error is returned and nothing is lost.
func EditSource(path, source string, edits ...Edit) (string, error) {
	for _, e := range edits {
		f, problems := parseFile(path, source)
		if err := problems.Err(); err != nil {
			return "", err
		}
		want := clone(f.Root)
		if want.Kind == Null {
			want = &Value{Kind: Map}
		}
		if err := applyValue(want, e); err != nil {
			return "", fmt.Errorf("%s: %w", path, err)
		}
		out, err := f.edit(e)
		if err != nil {
			return "", fmt.Errorf("%s: %w", path, err)
		}
		g, problems := parseFile(path, out)
		if problems.Err() != nil || !normal(g.Root).Equal(normal(want)) {
			return "", fmt.Errorf("%s: %s cannot be changed without touching something else (an anchor or an unusual layout nearby); nothing was written: change it by hand", path, e.Path)
		}
		source = out
	}
	return source, nil
}

// normal makes a file without content equal to an empty map.
func normal(v *Value) *Value {
	if v.Kind == Null {
		return &Value{Kind: Map}
	}
	return v
}

func clone(v *Value) *Value {
	c := *v
	c.Items, c.Entries = nil, nil
	for _, it := range v.Items {
		c.Items = append(c.Items, clone(it))
	}
	for _, e := range v.Entries {
		e.Value = clone(e.Value)
		c.Entries = append(c.Entries, e)
	}
	return &c
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

// applyValue does an edit on values alone: what the text must say afterwards.
func applyValue(root *Value, e Edit) error {
	at := root
	for i, s := range e.Path {
		last := i == len(e.Path)-1
		if s.Key == "" {
			if at.Kind != List || s.Index > len(at.Items) || s.Index < 0 || s.Index == len(at.Items) && (e.Op != Set) {
				return fmt.Errorf("there is no %s", e.Path[:i+1])
			}
			if s.Index == len(at.Items) {
				at.Items = append(at.Items, clone(wrap(e.Path[i+1:], e.Value)))
				return nil
			}
			if last {
				switch e.Op {
				case Set:
					at.Items[s.Index] = clone(e.Value)
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
			at.Entries = append(at.Entries, Entry{Key: s.Key, Value: clone(wrap(e.Path[i+1:], v))})
			return nil
		}
		if last {
			switch e.Op {
			case Set:
				at.Entries[k].Value = clone(e.Value)
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
		at.Items = append(append(append([]*Value(nil), at.Items[:e.Index]...), clone(e.Value)), at.Items[e.Index:]...)
	}
	return nil
}

// span is a range of bytes.
type span struct{ from, to int }

// place is a node with what is needed to edit around it.
type place struct {
	node   *yaml.Node
	key    *yaml.Node // of a map value
	parent *yaml.Node
	index  int // in parent.Content
	indent int // column of the key or dash, from 0
	flow   bool
}

func (f *File) eol() string {
	if i := strings.IndexByte(f.Source, '\n'); i > 0 && f.Source[i-1] == '\r' {
		return "\r\n"
	}
	return "\n"
}

// edit changes the text for one edit.
func (f *File) edit(e Edit) (string, error) {
	if f.node == nil {
		v := e.Value
		if e.Op == Insert {
			v = &Value{Kind: List, Items: []*Value{e.Value}}
		}
		text := renderBlock(wrap(e.Path, v), 0, f.eol()) + f.eol()
		if f.Source != "" && !strings.HasSuffix(f.Source, "\n") {
			text = f.eol() + text
		}
		return f.Source + text, nil
	}
	at := place{node: f.node}
	for i, s := range e.Path {
		next, ok := f.step(at, s)
		if !ok {
			v := e.Value
			if e.Op == Insert {
				v = &Value{Kind: List, Items: []*Value{e.Value}}
			}
			return f.insertMissing(at, s, wrap(e.Path[i+1:], v))
		}
		at = next
	}
	switch e.Op {
	case Set:
		return f.replace(at, e.Value)
	case Delete:
		return f.remove(at)
	case Rename:
		sp := f.extent(at.key, at)
		return f.splice(sp, renderScalar(e.Value.Text, at.key.Style, at.flow)), nil
	case Insert:
		return f.insertItem(at, e.Index, e.Value)
	case Move:
		return f.moveItem(at, e.Index)
	}
	return "", fmt.Errorf("unknown edit %d", e.Op)
}

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
				return place{node: n.Content[i+1], key: n.Content[i], parent: n, index: i, flow: flow, indent: n.Content[i].Column - 1}, true
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
		text := renderAfterKey(v, at.indent, f.eol())
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
			if strings.Contains(v.Text, "\n") && !strings.Contains(v.Text, "\r") && at.key != nil && !strings.HasPrefix(v.Text, " ") {
				return f.splice(sp, literal(v.Text, at.indent+2, f.eol())), nil
			}
		}
		return f.splice(sp, renderScalar(v.Text, style, at.flow)), nil
	}
	if at.flow || v.Kind == Text || v.Empty() {
		if v.Kind != Text && !at.flow || v.Kind == Text || at.flow {
			text := renderFlow(v)
			if v.Kind == Text {
				text = renderScalar(v.Text, 0, at.flow)
			}
			if !at.flow && at.key != nil && n.Style&yaml.FlowStyle == 0 && n.Kind != yaml.ScalarNode { // block collection to one line
				after := f.afterColon(at.key)
				return f.splice(span{after, sp.to}, " "+text), nil
			}
			return f.splice(sp, text), nil
		}
	}
	if at.key != nil {
		return f.splice(span{f.afterColon(at.key), sp.to}, renderAfterKey(v, at.indent, f.eol())), nil
	}
	if at.parent == nil {
		return f.splice(sp, renderBlock(v, 0, f.eol())), nil
	}
	return f.splice(sp, strings.TrimLeft(renderItem(v, at.indent, f.eol()), " ")), nil
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

// insertMissing adds a key to a map, or an item at the end of a list.
func (f *File) insertMissing(at place, s Step, v *Value) (string, error) {
	n := at.node
	if n.Kind == yaml.ScalarNode && n.Value == "" && n.Style == 0 && at.key != nil {
		return f.replace(at, wrap(Path{s}, v))
	}
	if s.Key == "" {
		return f.insertItem(at, len(n.Content), v)
	}
	if n.Kind != yaml.MappingNode {
		return "", fmt.Errorf("%q cannot be added here: this is not a map", s.Key)
	}
	if n.Style&yaml.FlowStyle != 0 || at.flow {
		end := f.extent(n, at).to - 1
		text := renderKey(s.Key, true) + ": " + renderFlow(v)
		return f.flowInsert(n, end, text), nil
	}
	if len(n.Content) == 0 {
		return f.replace(at, wrap(Path{s}, v))
	}
	indent := n.Content[0].Column - 1
	end := f.lineEnd(f.extent(n, at).to)
	text := f.eol() + strings.Repeat(" ", indent) + renderKey(s.Key, false) + ":" + renderAfterKey(v, indent, f.eol())
	return f.splice(span{end, end}, text), nil
}

func (f *File) flowInsert(n *yaml.Node, end int, text string) string {
	before := strings.TrimRight(f.Source[:end], " \t\r\n")
	if len(n.Content) > 0 && !strings.HasSuffix(before, ",") {
		text = ", " + text
	} else if len(n.Content) > 0 {
		text = " " + text
	}
	at := len(before)
	return f.splice(span{at, at}, text)
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

// itemStart gives where a block list item begins: its dash, or the comments directly above.
func (f *File) itemStart(seq *yaml.Node, i int) int {
	at := f.lineStart(f.offset(seq.Content[i].Line, seq.Content[i].Column))
	if i == 0 {
		if dash := f.offset(seq.Line, seq.Column); dash < at || true {
			at = f.lineStart(dash)
		}
	}
	dash := strings.Repeat(" ", seq.Column-1) + "-"
	for !strings.HasPrefix(f.Source[at:], dash) && at > 0 { // the dash may stand on a line of its own
		at = f.lineStart(at - 1)
	}
	low := f.offset(seq.Line, 1)
	for at > low {
		above := f.lineStart(at - 1)
		line := strings.TrimSpace(f.Source[above:at])
		if !strings.HasPrefix(line, "#") || i == 0 && above < low {
			break
		}
		at = above
	}
	return at
}

// itemSpan gives the lines of a block list item with its comments; blank lines after it stay.
func (f *File) itemSpan(seq *yaml.Node, i int) span {
	from := f.itemStart(seq, i)
	if i+1 < len(seq.Content) {
		return span{from, f.itemStart(seq, i+1)}
	}
	end := f.lineEnd(f.extent(seq.Content[i], place{indent: seq.Column - 1}).to)
	if end < len(f.Source) {
		end = strings.IndexByte(f.Source[end:], '\n') + end + 1
	}
	return span{from, end}
}

func (f *File) insertItem(at place, i int, v *Value) (string, error) {
	n := at.node
	if n.Kind == yaml.ScalarNode && n.Value == "" && n.Style == 0 && at.key != nil {
		return f.replace(at, &Value{Kind: List, Items: []*Value{v}})
	}
	if n.Kind != yaml.SequenceNode {
		return "", fmt.Errorf("an item cannot be added here: this is not a list")
	}
	i = min(i, len(n.Content))
	if n.Style&yaml.FlowStyle != 0 || at.flow {
		if len(n.Content) == 0 && !at.flow && at.key != nil && (v.Get("name") != nil || !shortFlow(v)) {
			return f.replaceEmpty(at, v)
		}
		if i == len(n.Content) {
			return f.flowInsert(n, f.extent(n, at).to-1, renderFlow(v)), nil
		}
		from := f.offset(n.Content[i].Line, n.Content[i].Column)
		return f.splice(span{from, from}, renderFlow(v)+", "), nil
	}
	eol := f.eol()
	text := strings.Repeat(" ", n.Column-1) + "-" + renderItem(v, n.Column-1, eol)
	if i < len(n.Content) {
		from := f.itemStart(n, i)
		return f.splice(span{from, from}, text+eol), nil
	}
	end := f.itemSpan(n, len(n.Content)-1).to
	if end > 0 && f.Source[end-1] != '\n' {
		return f.splice(span{end, end}, eol+text), nil
	}
	return f.splice(span{end, end}, text+eol), nil
}

// replaceEmpty turns "key: []" into a block list.
func (f *File) replaceEmpty(at place, v *Value) (string, error) {
	sp := f.extent(at.node, at)
	return f.splice(span{f.afterColon(at.key), sp.to}, f.eol()+renderBlock(&Value{Kind: List, Items: []*Value{v}}, at.indent+2, f.eol())), nil
}

func (f *File) moveItem(at place, to int) (string, error) {
	seq := at.parent
	if seq == nil || seq.Kind != yaml.SequenceNode {
		return "", fmt.Errorf("only list items can be moved")
	}
	if to == at.index {
		return f.Source, nil
	}
	if at.flow {
		sp := f.extent(at.node, at)
		text := f.Source[sp.from:sp.to]
		out, err := f.remove(at)
		if err != nil {
			return "", err
		}
		g, _ := parseFile(f.Path, out)
		n := g.find(seq.Line, seq.Column)
		if n == nil {
			return "", fmt.Errorf("the list cannot be read after the move")
		}
		if to == len(n.Content) {
			return g.flowInsert(n, g.extent(n, place{}).to-1, text), nil
		}
		from := g.offset(n.Content[to].Line, n.Content[to].Column)
		return g.splice(span{from, from}, text+", "), nil
	}
	sp := f.itemSpan(seq, at.index)
	text := f.Source[sp.from:sp.to]
	if !strings.HasSuffix(text, "\n") {
		text += f.eol()
	}
	dest := 0
	if to < at.index {
		dest = f.itemStart(seq, to)
	} else {
		dest = f.itemSpan(seq, to).to
	}
	if dest <= sp.from {
		out := f.Source[:dest] + text + f.Source[dest:sp.from] + f.Source[sp.to:]
		return f.keepEnd(out), nil
	}
	mid := f.Source[sp.to:dest]
	if !strings.HasSuffix(mid, "\n") {
		mid += f.eol()
	}
	return f.keepEnd(f.Source[:sp.from] + mid + text + f.Source[dest:]), nil
}

// keepEnd keeps a file without a final line break without one.
func (f *File) keepEnd(out string) string {
	if !strings.HasSuffix(f.Source, "\n") {
		return strings.TrimSuffix(strings.TrimSuffix(out, "\n"), "\r")
	}
	return out
}

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

func (f *File) remove(at place) (string, error) {
	n := at.node
	if at.parent == nil {
		return "", fmt.Errorf("the whole file cannot be removed")
	}
	first := n
	if at.key != nil {
		first = at.key
	}
	if at.flow {
		from := f.offset(first.Line, first.Column)
		to := f.extent(n, at).to
		if at.key != nil && n.Kind == yaml.ScalarNode && n.Value == "" && n.Style == 0 {
			to = f.extent(at.key, at).to
			if i := f.afterColon(at.key); strings.TrimSpace(f.Source[to:i]) == ":" {
				to = i
			}
		}
		rest := strings.TrimLeft(f.Source[to:], " \t\r\n")
		if strings.HasPrefix(rest, ",") {
			to = len(f.Source) - len(rest) + 1
			for to < len(f.Source) && f.Source[to] == ' ' {
				to++
			}
		} else if before := strings.TrimRight(f.Source[:from], " \t\r\n"); strings.HasSuffix(before, ",") {
			from = len(before) - 1
		}
		return f.splice(span{from, to}, ""), nil
	}
	single := at.key != nil && len(at.parent.Content) == 2 || at.key == nil && len(at.parent.Content) == 1
	if single {
		return f.removeLast(at)
	}
	if at.key == nil {
		sp := f.itemSpan(at.parent, at.index)
		return f.keepEnd(f.splice(sp, "")), nil
	}
	from := f.offset(first.Line, first.Column)
	var to int
	if at.index+2 < len(at.parent.Content) {
		next := at.parent.Content[at.index+2]
		to = f.offset(next.Line, next.Column)
	} else {
		end := f.extent(n, at).to
		if n.Kind == yaml.ScalarNode && n.Value == "" && n.Style == 0 {
			end = f.afterColon(at.key)
		}
		end = f.lineEnd(end)
		from = f.lineStart(from)
		if from > 0 {
			from-- // take the line break before
			if from > 0 && f.Source[from-1] == '\r' {
				from--
			}
		}
		return f.splice(span{from, end}, ""), nil
	}
	// Comment lines directly above the next key stay with it.
	start := f.lineStart(to)
	for start > f.lineEnd(from) {
		above := f.lineStart(start - 1)
		if above <= from || !strings.HasPrefix(strings.TrimSpace(f.Source[above:start]), "#") {
			break
		}
		start = above
	}
	if strings.TrimSpace(f.Source[f.lineStart(from):from]) == "" { // the key begins its line
		return f.splice(span{f.lineStart(from), start}, ""), nil
	}
	return f.splice(span{from, to}, ""), nil // "- key: ..." keeps its dash
}

// removeLast empties the map or list that holds nothing else: it becomes {} or [].
func (f *File) removeLast(at place) (string, error) {
	empty := "{}"
	if at.key == nil {
		empty = "[]"
	}
	if f.node == at.parent {
		sp := f.extent(at.parent, place{})
		return f.splice(sp, empty), nil
	}
	sp := f.extent(at.parent, place{indent: at.parent.Column - 1})
	from := sp.from
	before := strings.TrimRight(f.Source[:from], " \t\r\n")
	if strings.HasSuffix(before, ":") {
		return f.splice(span{len(before), sp.to}, " "+empty), nil
	}
	return f.splice(sp, empty), nil
}
