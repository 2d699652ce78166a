package site

import "go.yaml.in/yaml/v3"

// place is a node with what is needed to edit around it.
type place struct {
	node   *yaml.Node
	key    *yaml.Node // of a map value
	parent *yaml.Node
	index  int // in parent.Content
	indent int // column of the key or dash, from 0
	flow   bool
}

// span is a range of bytes.
type span struct{ from, to int }
