package site

import (
	"fmt"
	"strings"

	"go.yaml.in/yaml/v3"
)

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
	text := f.eol() + strings.Repeat(" ", indent) + renderKey(s.Key, false) + ":" + f.writing().afterKey(v, indent)
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
		firstItem := len(n.Content) == 0 && !at.flow && at.key != nil && (v.Get("name") != nil || !f.writing().short(v))
		if firstItem {
			return f.replaceEmpty(at, v)
		}
		if i == len(n.Content) {
			return f.flowInsert(n, f.extent(n, at).to-1, renderFlow(v)), nil
		}
		from := f.offset(n.Content[i].Line, n.Content[i].Column)
		return f.splice(span{from, from}, renderFlow(v)+", "), nil
	}
	eol := f.eol()
	text := strings.Repeat(" ", n.Column-1) + "-" + f.writing().item(v, n.Column-1)
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
	return f.splice(span{f.afterColon(at.key), sp.to}, f.eol()+
		f.writing().block(&Value{Kind: List, Items: []*Value{v}}, at.indent+2)), nil
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
