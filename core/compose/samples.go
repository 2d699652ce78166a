package compose

import (
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Words that a page has in its own file and that are samples all the same: commands write sample entries into a page
// so that one of them can be changed, and say so under `sample`; templates begin with words of another site. Each
// leaf (a title, a price, the label of a link) keeps its mark until its text changes, or until the block says under
// `own` that it is meant so.

// corpus are sample texts by field.
type corpus map[string]map[string]bool

func (c corpus) add(key, text string) {
	if text == "" {
		return
	}
	if c[key] == nil {
		c[key] = map[string]bool{}
	}
	c[key][text] = true
}

// addAll takes in every leaf of a value.
func (c corpus) addAll(key string, v *site.Value) {
	if v == nil {
		return
	}
	switch v.Kind {
	case site.Text:
		if !unspoken[key] {
			c.add(key, v.Text)
		}
	case site.List:
		for _, it := range v.Items {
			c.addAll(key, it)
		}
	case site.Map:
		for _, e := range v.Entries {
			c.addAll(e.Key, e.Value)
		}
	}
}

// unspoken are leaves that are no words.
var unspoken = map[string]bool{"to": true, "look": true, "focus": true, "file": true, "raised": true, "tone": true}

// shelfWords gives the sample texts of all sections, which are read for it: only a block that says which of its words
// are samples asks.
func shelfWords(e *project.Project) corpus {
	return project.Once(e, shelfKey{e.Library}, func() corpus { return readShelf(e.Library) })
}

// templateWords gives the words of a site's template, which count wherever they stand.
func templateWords(e *project.Project) corpus {
	return project.Once(e, templateKey{e.Site.Template}, func() corpus { return readTemplate(e) })
}

type (
	shelfKey    struct{ library *library.Library }
	templateKey struct{ name string }
)

func readShelf(l *library.Library) corpus {
	c := corpus{}
	var fields func(list []*library.Field)
	fields = func(list []*library.Field) {
		for _, f := range list {
			if f.Type != library.Switch && f.Type != library.Icon {
				c.add(f.Name, f.Sample)
			}
			for _, s := range f.Samples {
				c.addAll(f.Name, s)
			}
			fields(f.Of)
		}
	}
	for _, s := range l.All() {
		fields(s.Fields)
	}
	return c
}

func readTemplate(e *project.Project) corpus {
	c := corpus{}
	if t := e.Site.Template; t != "" {
		_ = fs.WalkDir(e.Stock, "templates/"+t, func(p string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			data, err := fs.ReadFile(e.Stock, p)
			if err != nil {
				return err
			}
			if root, _ := site.ParseValue(string(data)); root != nil {
				for _, n := range []string{"title", "description"} {
					c.add(n, root.Get(n).Str())
				}
				blocks := append([]*site.Value{root.Get("blocks")}, root.Get("every-page").Get("top"),
					root.Get("every-page").Get("bottom"))
				for _, list := range blocks {
					c.addBlocks(list)
				}
			}
			return nil
		})
	}
	return c
}

// addBlocks takes in the content of a template's blocks, with those that they hold.
func (c corpus) addBlocks(list *site.Value) {
	if list == nil {
		return
	}
	for _, b := range list.Items {
		c.addAll("", b.Get("content"))
		for _, slot := range entriesOf(b.Get("holds")) {
			c.addBlocks(slot.Value)
		}
	}
}

func entriesOf(v *site.Value) []site.Entry {
	if v == nil {
		return nil
	}
	return v.Entries
}

// leaf is one text in the content of a block.
type leaf struct {
	path   string // items[2].link.label
	key    string
	value  *site.Value
	sample bool
}

// ownSamples notes the leaves of a field's own content that are samples all the same.
func (f *filler) ownSamples(fd *library.Field, v *site.Value) {
	if f.b.Sample || v == nil {
		return
	}
	w := &leafWalk{template: templateWords(f.c.Env), seeded: f.b.Seeded, owned: f.b.Own}
	if len(w.seeded) > 0 {
		w.shelf = shelfWords(f.c.Env)
	}
	var at []*site.Value
	if fd.Type == library.ListOf {
		at = []*site.Value{{Kind: site.List, Items: fd.Samples}}
	} else if fd.Sample != "" {
		at = []*site.Value{site.NewText(fd.Sample), site.NewMap("label", site.NewText(fd.Sample), "alt",
			site.NewText(fd.Sample))}
	}
	w.walk(v, at, fd.Name, fd.Name)
	if fd.Type == library.ListOf && v.Kind == site.List {
		w.untouched(fd, v)
	}
	for _, l := range w.leaves {
		if l.sample {
			f.note(FieldUse{Block: f.b.Name, Field: l.path, State: Sample, Text: l.value.Text, Pos: l.value.Pos})
		}
	}
}

// sampleLink reports that a link still has a sample's label, so that its target is no mistake yet.
func (f *filler) sampleLink(label string) bool {
	return templateWords(f.c.Env)["label"][label] || len(f.b.Seeded) > 0 && shelfWords(f.c.Env)["label"][label]
}

type leafWalk struct {
	shelf         corpus // read when some words are said to be samples
	template      corpus
	seeded, owned []*site.Value
	leaves        []leaf
}

// listed reports whether a list of addresses names a leaf, or what it stands in.
func listed(list []*site.Value, path string) bool {
	for _, o := range list {
		if s := o.Str(); s != "" && (path == s || strings.HasPrefix(path, s+".") || strings.HasPrefix(path, s+"[")) {
			return true
		}
	}
	return false
}

// untouched marks entries that say all that a sample says and have no link of their own, whoever wrote them.
func (w *leafWalk) untouched(fd *library.Field, v *site.Value) {
	for i, it := range v.Items {
		if !slices.ContainsFunc(fd.Samples, func(s *site.Value) bool { return sameWords(it, s) }) {
			continue
		}
		stem := fmt.Sprintf("%s[%d]", fd.Name, i+1)
		for k := range w.leaves {
			if p := w.leaves[k].path; (p == stem || strings.HasPrefix(p, stem+".")) && !listed(w.owned, p) {
				w.leaves[k].sample = true
			}
		}
	}
}

// sameWords compares entries; where links lead and how they look does not count.
func sameWords(a, b *site.Value) bool {
	unlike := a.Kind != b.Kind || a.Text != b.Text || len(a.Items) != len(b.Items) ||
		a.Kind == site.Text && len([]rune(a.Text)) < 12
	if unlike {
		return false
	}
	for i := range a.Items {
		x, y := a.Items[i], b.Items[i]
		otherWords := x.Kind == site.Text && y.Kind == site.Text && x.Text != y.Text ||
			(x.Kind != site.Text || y.Kind != site.Text) && !sameWords(x, y)
		if otherWords {
			return false
		}
	}
	if to := a.Get("to"); to != nil && to.Text != "#" { // a link with a target of its own
		return false
	}
	words := 0
	for _, e := range b.Entries {
		o := a.Get(e.Key)
		switch {
		case e.Key == "to" || e.Key == "look" || e.Key == "focus":
			continue
		case o == nil:
			return false
		case e.Value.Kind == site.Text && o.Text != e.Value.Text, e.Value.Kind != site.Text && !sameWords(o, e.Value):
			return false
		}
		words++
	}
	return b.Kind != site.Map || words > 0
}

// walk collects the leaves of a value. at are the samples that stand in the same place.
func (w *leafWalk) walk(v *site.Value, at []*site.Value, key, path string) {
	switch v.Kind {
	case site.Text:
		if v.Text == "" || unspoken[key] {
			return
		}
		l := leaf{path: path, key: key, value: v, sample: w.shelf[key][v.Text]}
		for _, s := range at {
			l.sample = l.sample || s.Kind == site.Text && s.Text == v.Text
		}
		l.sample = (l.sample && listed(w.seeded, path) || w.template[key][v.Text]) && !listed(w.owned, path)
		w.leaves = append(w.leaves, l)
	case site.List:
		for i, it := range v.Items {
			var same []*site.Value
			for _, s := range at {
				if s.Kind == site.List && len(s.Items) > 0 {
					same = append(same, s.Items[i%len(s.Items)])
				}
			}
			w.walk(it, same, key, fmt.Sprintf("%s[%d]", path, i+1))
		}
	case site.Map:
		for _, e := range v.Entries {
			var same []*site.Value
			for _, s := range at {
				if x := s.Get(e.Key); x != nil {
					same = append(same, x)
				}
			}
			w.walk(e.Value, same, e.Key, path+"."+e.Key)
		}
	}
}
