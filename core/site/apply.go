package site

import (
	"fmt"
	"strings"
)

// EditSource changes YAML text. Only the bytes that must change do; the result is read again and must hold the old
// content plus exactly the edit, else an error is returned and nothing is lost.
func EditSource(path, source string, edits ...Edit) (string, error) {
	for len(edits) > 0 {
		e := edits[0]
		f, problems := parseFile(path, source)
		if err := problems.Err(); err != nil {
			return "", err
		}
		if first, ok := renameFirst(f.Root, e); ok {
			edits = append([]Edit{first}, edits...)
			e = first
		}
		edits = edits[1:]
		want := f.Root.Clone()
		if want.Kind == Null {
			want = &Value{Kind: Map}
		}
		if err := Apply(want, e); err != nil {
			return "", fmt.Errorf("%s: %w", path, err)
		}
		f.inLines = e.Lines
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

// edit changes the text for one edit.
func (f *File) edit(e Edit) (string, error) {
	if f.node == nil {
		v := e.Value
		if e.Op == Insert {
			v = &Value{Kind: List, Items: []*Value{e.Value}}
		}
		text := f.writing().block(wrap(e.Path, v), 0) + f.eol()
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
