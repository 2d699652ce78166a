package site

import (
	"strings"

	"go.yaml.in/yaml/v3"
)

// start gives the first byte of a node, after its anchor and tag.
func (f *File) start(n *yaml.Node) int {
	at := f.offset(n.Line, n.Column)
	for at < len(f.Source) && (f.Source[at] == '&' || f.Source[at] == '!') {
		for at < len(f.Source) && !strings.ContainsRune(" \t\r\n,]}", rune(f.Source[at])) {
			at++
		}
		for at < len(f.Source) && (f.Source[at] == ' ' || f.Source[at] == '\t') {
			at++
		}
	}
	return at
}

// extent gives the bytes of a node.
func (f *File) extent(n *yaml.Node, at place) span {
	from := f.start(n)
	s := f.Source
	switch {
	case n.Kind == yaml.AliasNode:
		return span{from, from + 1 + len(n.Value)}
	case n.Kind == yaml.ScalarNode && n.Style&yaml.DoubleQuotedStyle != 0:
		i := from + 1
		for i < len(s) && s[i] != '"' {
			if s[i] == '\\' {
				i++
			}
			i++
		}
		return span{from, min(len(s), i+1)}
	case n.Kind == yaml.ScalarNode && n.Style&yaml.SingleQuotedStyle != 0:
		i := from + 1
		for i < len(s) {
			if s[i] == '\'' {
				if i+1 < len(s) && s[i+1] == '\'' {
					i += 2
					continue
				}
				break
			}
			i++
		}
		return span{from, min(len(s), i+1)}
	case n.Kind == yaml.ScalarNode && n.Style&(yaml.LiteralStyle|yaml.FoldedStyle) != 0:
		return span{from, f.blockScalarEnd(from, at.indent)}
	case n.Kind == yaml.ScalarNode:
		return span{from, f.plainEnd(from, n.Value)}
	case n.Style&yaml.FlowStyle != 0:
		return span{from, f.flowEnd(from)}
	}
	to := from
	for i, k := range n.Content {
		p := place{indent: k.Column - 1}
		if n.Kind == yaml.MappingNode {
			if i%2 == 1 {
				p.indent = n.Content[i-1].Column - 1
			}
			if i%2 == 1 && k.Kind == yaml.ScalarNode && k.Value == "" && k.Style == 0 { // a key without a value
				to = max(to, f.afterColon(n.Content[i-1]))
				continue
			}
		} else {
			p.indent = n.Column - 1
		}
		to = max(to, f.extent(k, p).to)
	}
	return span{from, to}
}

// plainEnd follows a plain scalar, whose line breaks and indentation were folded to spaces.
func (f *File) plainEnd(from int, value string) int {
	i := from
	for j := 0; j < len(value); {
		if i >= len(f.Source) {
			break
		}
		if c := value[j]; c == ' ' || c == '\n' {
			for j < len(value) && (value[j] == ' ' || value[j] == '\n') {
				j++
			}
			for i < len(f.Source) && strings.ContainsRune(" \t\r\n", rune(f.Source[i])) {
				i++
			}
			continue
		}
		i++
		j++
	}
	return i
}

func (f *File) blockScalarEnd(from, indent int) int {
	end := strings.IndexByte(f.Source[from:], '\n')
	if end < 0 {
		return len(f.Source)
	}
	at := from + end + 1
	last := at - 1
	for at < len(f.Source) {
		nl := strings.IndexByte(f.Source[at:], '\n')
		line, next := f.Source[at:], len(f.Source)
		if nl >= 0 {
			line, next = f.Source[at:at+nl], at+nl+1
		}
		if trimmed := strings.TrimLeft(line, " "); strings.TrimSpace(line) != "" {
			if len(line)-len(trimmed) <= indent {
				break
			}
			last = next
			if nl >= 0 {
				last = at + nl
			}
		}
		at = next
	}
	if last > from && f.Source[last-1] == '\r' {
		last--
	}
	return last
}

// flowEnd finds the bracket that closes the one at from.
func (f *File) flowEnd(from int) int {
	s, depth := f.Source, 0
	for i := from; i < len(s); i++ {
		switch s[i] {
		case '[', '{':
			depth++
		case ']', '}':
			if depth--; depth == 0 {
				return i + 1
			}
		case '"':
			for i++; i < len(s) && s[i] != '"'; i++ {
				if s[i] == '\\' {
					i++
				}
			}
		case '\'':
			if strings.ContainsRune(" ,:[{\n", rune(s[i-1])) {
				for i++; i < len(s) && s[i] != '\''; i++ {
				}
			}
		case '#':
			if i > 0 && strings.ContainsRune(" \t\n", rune(s[i-1])) {
				for i < len(s) && s[i] != '\n' {
					i++
				}
			}
		}
	}
	return len(s)
}

// afterColon gives the byte after the colon of a key.
func (f *File) afterColon(key *yaml.Node) int {
	end := f.extent(key, place{indent: key.Column - 1}).to
	if i := strings.IndexByte(f.Source[end:], ':'); i >= 0 {
		return end + i + 1
	}
	return end
}
