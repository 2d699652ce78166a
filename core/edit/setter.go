package edit

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// resolve turns items[2].title into a path, checked against the section.
func (s *setter) resolve(name string) (site.Path, *library.Field, error) {
	path := s.content
	fields := s.sec.Fields
	var field *library.Field
	what := s.sec.Name
	name, at, ranged := strings.Cut(name, " at ")
	for _, step := range strings.Split(name, ".") {
		m := fieldStep.FindStringSubmatch(step)
		if m == nil {
			return nil, nil, fmt.Errorf("%q is no field: write heading, items[2].title or media.alt", name)
		}
		if field != nil && (field.Type == library.Link || field.Type == library.Picture) {
			known := map[library.FieldType][]string{library.Link: {"label", "to", "look"},
				library.Picture: compose.PictureKeys}[field.Type]
			if !slices.Contains(known, m[1]) {
				return nil, nil, diag.Unknown("piece", m[1], known, " of "+field.Name)
			}
			if ranged {
				return s.inRange(path, field, m[1], at)
			}
			path = site.Keys(path, m[1])
			return path, nil, nil
		}
		if field != nil && field.Type == library.RichText && fields == nil &&
			slices.Contains(project.CompoundKeys(), m[1]) {
			return site.Keys(path, m[1]), nil, nil // a piece of a price, of a day or of hours
		}
		if field != nil && field.Type == library.RichText && fields == nil {
			return nil, nil, diag.Unknown("piece", m[1], project.CompoundKeys(), " of "+field.Name)
		}
		var names []string
		var next *library.Field
		for _, f := range fields {
			names = append(names, f.Name)
			if f.Name == m[1] {
				next = f
			}
		}
		if field := s.sec.FieldAt(m[1]); next == nil && field != "" { // named as its part
			m[1] = field
			for _, f := range fields {
				if f.Name == field {
					next = f
				}
			}
		}
		if next == nil {
			return nil, nil, diag.Unknown("field", m[1], names, " in "+what)
		}
		field = next
		path = site.Keys(path, m[1])
		if m[2] == "" {
			fields = nil
			continue
		}
		if field.Type != library.ListOf {
			return nil, nil, fmt.Errorf("%s is not a list, so it has no entry %s", m[1], m[2])
		}
		n, _ := strconv.Atoi(m[2])
		if n == 0 {
			return nil, nil, errors.New("positions count from 1: " + m[1] + "[1] is the first")
		}
		path = site.Keys(path, n-1)
		fields, what = field.Of, "an entry of "+field.Name
		if self := field.Find("."); self != nil {
			field, fields = self, field.Whole()
		}
	}
	if ranged {
		return s.inRange(path, field, "file", at)
	}
	return path, field, nil
}

// inRange gives the place of what a picture is in a range: its file or its focus.
func (s *setter) inRange(path site.Path, field *library.Field, piece, at string) (site.Path, *library.Field, error) {
	at = strings.TrimSpace(at)
	if field == nil || field.Type != library.Picture || !compose.PictureDiffers(piece) {
		return nil, nil, fmt.Errorf(
			"only options and the file and focus of a picture can differ by range: write \"media.file at %s=FILE\"",
			at,
		)
	}
	if _, _, ok := s.p.Env.Span(at); !ok {
		return nil, nil, diag.Unknown("range", at, s.p.Env.RangeNames(), "")
	}
	if have := s.current(path); have.Get("file").Empty() {
		if have.Str() == "" {
			return nil, nil, fmt.Errorf("%s has no picture of its own yet: set %s=FILE first", display(path),
				display(path))
		}
		return nil, nil, fmt.Errorf("write the picture as {file: %s} first: set %s=%s", have.Str(),
			display(path), have.Str())
	}
	return site.Keys(path, piece+" at "+at), nil, nil
}

// current gives the value at a path in the file as it is by now, nil when there is none.
func (s *setter) current(path site.Path) *site.Value {
	v := s.root
	for _, st := range path {
		if st.Key != "" {
			v = v.Get(st.Key)
		} else if v != nil && v.Kind == site.List && st.Index < len(v.Items) {
			v = v.Items[st.Index]
		} else {
			v = nil
		}
		if v == nil {
			return nil
		}
	}
	return v
}

func (s *setter) edit(path site.Path, v *site.Value) error {
	old := s.current(path)
	asItWas := old != nil && old.Kind == site.Text && v.Kind == site.Text && old.Text == v.Text &&
		(len(s.b.Seeded) > 0 || s.p.Env.Site.Template != "")
	if asItWas {
		if err := s.mark("own", display(path)); err != nil { // said again: it is meant so
			return err
		}
	}
	content := len(path) > len(s.content) && path[len(s.content)-1].Key == "content"
	e := site.Edit{Op: site.Set, Path: path, Value: v, Lines: content}
	s.p.edit(s.file, e)
	return site.Apply(s.root, e)
}

// seeded sets a value. A list that shows samples so far must grow in order: entry 3 needs entries 1 and 2.
func (s *setter) seeded(path site.Path, v *site.Value) error {
	for i, st := range path {
		if st.Key != "" || i < len(s.content) {
			continue
		}
		list := s.current(path[:i])
		if list == nil && i == len(s.content)+1 {
			if err := s.seed(path[:i]); err != nil {
				return err
			}
			list = s.current(path[:i])
		}
		if project.IsLive(list) {
			return fmt.Errorf(
				"the entries of %s come from %s: change that file",
				display(path[:i]),
				list.Get("from").Str(),
			)
		}
		have := 0
		if list != nil && list.Kind == site.List {
			have = len(list.Items)
		}
		if st.Index > have {
			return fmt.Errorf("%s has %s; set %s[%d] before %s[%d]", display(path[:i]), entries(have),
				display(path[:i]), have+1, display(path[:i]), st.Index+1)
		}
	}
	// file name alone becomes a map
	if old := s.current(path); old != nil && old.Kind == site.Text && len(path) > 0 && v.Kind == site.Map {
		return s.edit(path, v)
	}
	parent := path[:len(path)-1]
	if old := s.current(parent); old != nil && old.Kind == site.Text && path[len(path)-1].Key != "" &&
		len(parent) > len(s.content) {
		return s.widen(parent, old, path[len(path)-1].Key, v)
	}
	return s.edit(path, v)
}

// widen turns "media: delta.svg" into a map when a piece of it is set.
func (s *setter) widen(parent site.Path, old *site.Value, key string, v *site.Value) error {
	m := &site.Value{Kind: site.Map}
	if slices.Contains(project.CompoundKeys(), key) { // the text was another way to say it
		m.Entries = append(m.Entries, site.Entry{Key: key, Value: v})
		return s.edit(parent, m)
	}
	whole := "file"
	if parent[len(parent)-1].Key == "" { // a text that is an entry
		whole = "text"
	}
	if old.Text != "" && key != whole {
		m.Entries = append(m.Entries, site.Entry{Key: whole, Value: site.NewText(old.Text)})
	}
	m.Entries = append(m.Entries, site.Entry{Key: key, Value: v})
	return s.edit(parent, m)
}

// seed writes a list's sample entries into the page, so that one of them can be changed while the others stay as they
// look.
func (s *setter) seed(list site.Path) error {
	f := s.sec.Field(list[len(list)-1].Key)
	if f == nil || len(f.Samples) == 0 {
		return nil
	}
	if err := s.edit(list, &site.Value{Kind: site.List, Items: f.Samples}); err != nil {
		return err
	}
	s.p.note("%s: its %s now stand in the page; `ziegel todo` lists those that still are the sample's", display(list),
		entries(len(f.Samples)))
	return s.mark("sample", f.Name)
}

// mark adds an address in the block to a list that the block keeps: sample or own.
func (s *setter) mark(key, address string) error {
	path := site.Keys(s.b.Path, key)
	list := &site.Value{Kind: site.List}
	if have := s.current(path); have != nil {
		for _, v := range have.Items {
			if v.Str() == address {
				return nil
			}
			list.Items = append(list.Items, v)
		}
	}
	list.Items = append(list.Items, site.NewText(address))
	return s.edit(path, list)
}

// setter writes content of one block.
type setter struct {
	p       *Plan
	page    *site.Page
	b       *site.Block
	sec     *library.Section
	content site.Path
	file    string
	root    *site.Value         // the file as the arguments so far have made it
	begun   map[string]newEntry // entries that [+] began, by their list
}

// newEntry is an entry that an argument with [+] began: arguments that give other fields of it go on with it.
type newEntry struct {
	at     int // from 1
	fields map[string]bool
}

// newSetter is about a block. Content of a block on every page belongs to the file that holds it.
func newSetter(p *Plan, page *site.Page, b *site.Block) (*setter, error) {
	sec := p.Env.Library.Section(b.Section)
	if sec == nil {
		return nil, diag.Unknown("section", b.Section, p.Env.Library.Names(), "")
	}
	return &setter{p: p, page: page, b: b, sec: sec, content: site.Keys(b.Path, "content"), file: b.File.Path,
		root: b.File.Root.Clone(), begun: map[string]newEntry{}}, nil
}

var fieldStep = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[(\d+)\])?$`)

func display(p site.Path) string {
	s := p.String()
	if i := strings.Index(s, "content."); i >= 0 {
		return s[i+len("content."):]
	}
	return s
}

func entries(n int) string {
	if n == 1 {
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}

// blockSettings are what a block says beside its content, options and styles.
var blockSettings = []string{"tone", "above", "below", "lane", "ground"}

// calledValue calls an entry by its first words, or as it is called otherwise.
func calledValue(v *site.Value, otherwise string) string {
	for _, key := range []string{"title", "text", "label"} {
		if x := v.Get(key); x.Str() != "" {
			return x.Str()
		}
	}
	if v.Str() != "" {
		return v.Str()
	}
	return otherwise
}
