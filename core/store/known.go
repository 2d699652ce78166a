package store

import (
	"bytes"
	"encoding/gob"
)

// Known are answers about pages, kept by the keys of what they follow from (compose.Sources).
type Known[T any] struct {
	store   Store
	kind    string
	pages   map[string]known[T]
	changed bool
}

type known[T any] struct {
	Key   string
	Value T
}

// ReadKnown reads what was kept of a kind.
func ReadKnown[T any](s Store, kind string) *Known[T] {
	k := &Known[T]{store: s, kind: kind}
	if data, ok := s.Read(k.file()); !ok || gob.NewDecoder(bytes.NewReader(data)).Decode(&k.pages) != nil ||
		k.pages == nil {
		k.pages = map[string]known[T]{}
	}
	return k
}

func (k *Known[T]) file() string { return "known-" + k.kind + ".gob" }

// Of gives what is known of a page, or works it out; what cannot be kept is worked out each time. An empty key is
// known of nothing.
func (k *Known[T]) Of(page, key string, make func() (value T, keep bool)) T {
	if was, ok := k.Get(page, key); ok {
		return was
	}
	value, keep := make()
	if keep {
		k.Put(page, key, value)
	}
	return value
}

// Get gives what is known of a page.
func (k *Known[T]) Get(page, key string) (value T, ok bool) {
	was, ok := k.pages[page]
	if !ok || key == "" || was.Key != key {
		return value, false
	}
	return was.Value, true
}

// Put takes in what is known of a page now.
func (k *Known[T]) Put(page, key string, value T) {
	if key != "" {
		k.pages[page], k.changed = known[T]{key, value}, true
	}
}

// Save keeps what is known of these pages for the next time, and forgets others.
func (k *Known[T]) Save(pages []string) {
	left := make(map[string]known[T], len(pages))
	for _, p := range pages {
		if x, ok := k.pages[p]; ok {
			left[p] = x
		}
	}
	k.changed = k.changed || len(left) < len(k.pages)
	k.pages = left
	var out bytes.Buffer
	if k.changed && gob.NewEncoder(&out).Encode(k.pages) == nil {
		k.store.Write(k.file(), out.Bytes())
	}
}
