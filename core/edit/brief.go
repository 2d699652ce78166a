package edit

import (
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"strings"

	"ziegel/core/areas"
	"ziegel/core/library"
	"ziegel/core/search"
	"ziegel/core/site"
)

// OwnBrand puts the name of the site where a template has its own name as the brand.
func OwnBrand(text, name string) string {
	root, _ := site.ParseValue(text)
	had := root.Get("name").Str()
	if had == "" || name == "" {
		return text
	}
	var edits []site.Edit
	for _, end := range []string{"top", "bottom"} {
		list := root.Get("every-page").Get(end)
		if list == nil {
			continue
		}
		for i, b := range list.Items {
			path := site.Keys("every-page", end, i, "content", "brand")
			brand := b.Get("content").Get("brand")
			if brand.Get("label") != nil {
				brand, path = brand.Get("label"), site.Keys(path, "label")
			}
			if strings.HasPrefix(brand.Str(), had) {
				edits = append(edits, site.Edit{Op: site.Set, Path: path, Value: site.NewText(name)})
			}
		}
	}
	out, err := site.EditSource(site.FileName, text, edits...)
	if err != nil {
		return text
	}
	return out
}

// wish is one piece of a brief with the section that answers it.
type wish struct {
	Want, Section, kind, Block string
	options                    map[string]string
	items                      *site.Value // sample entries, when another number of them was asked for
	list                       string      // the field that they fill
	missed, close              []string
}

// Outline is what a brief asks for: a section for each wish, and the wishes that none answers.
type Outline struct {
	Wishes []wish
	Open   []string
}

// Brief finds a section for each wish.
func Brief(lib *library.Library, shelf fs.FS, brief string) *Outline {
	p := &Outline{}
	used := map[string]int{}
	facts := search.Known(shelf)
	for _, want := range strings.Split(brief, ",") {
		want = strings.TrimSpace(want)
		if want == "" {
			continue
		}
		w, ok := answer(lib, facts, want)
		if !ok {
			p.Open = append(p.Open, want)
			continue
		}
		w.Block = library.BlockName(w.kind)
		if used[w.Block]++; used[w.Block] > 1 {
			w.Block = fmt.Sprintf("%s-%d", w.Block, used[w.Block])
		}
		p.Wishes = append(p.Wishes, w)
	}
	return p
}

// answer finds the section that has most of a wish, with the options and the number of entries that the words ask
// for.
func answer(lib *library.Library, facts map[string]search.Facts, want string) (wish, bool) {
	list := search.Search(lib, facts, want)
	if len(list) == 0 || list[0].Nothing() {
		return wish{}, false
	}
	kind := ""
	for _, w := range strings.Fields(strings.ToLower(want)) {
		if k := search.KindOf(strings.Trim(w, ".,;")); k != "" && kind == "" {
			kind = k
		}
	}
	best := list[0]
	if kind != "" && best.Section.Kind != kind { // what it is called goes before how it looks
		for _, m := range list {
			if m.Section.Kind == kind {
				best = m
				break
			}
		}
	}
	w := wish{Want: want, Section: best.Section.Name, kind: best.Section.Kind, options: best.Options,
		missed: best.Missed}
	for _, m := range list {
		if m.Section != best.Section && len(m.Missed) <= len(best.Missed) && m.Section.Kind == best.Section.Kind &&
			len(w.close) < 2 {
			w.close = append(w.close, m.Section.Name)
		}
	}
	for _, f := range best.Section.Fields {
		n := best.Entries
		otherCount := f.Type == library.ListOf && n > 0 && n != facts[best.Section.Name].Entries &&
			len(f.Samples) > 0 && f.Name != "actions" && f.Name != "links"
		if otherCount {
			w.list, w.items = f.Name, &site.Value{Kind: site.List}
			for i := range min(n, 24) {
				w.items.Items = append(w.items.Items, f.Samples[i%len(f.Samples)].Clone())
			}
			break
		}
	}
	return w, true
}

// Drawn is an outline of blocks that were drawn, each with its section.
func Drawn(lib *library.Library, blocks []areas.Block) *Outline {
	p := &Outline{}
	for _, b := range blocks {
		w := wish{Want: b.Name, Section: b.Section, kind: b.Kind(lib), Block: b.Name, close: b.Near}
		p.Wishes = append(p.Wishes, w)
	}
	return p
}

// blockOf writes the block that answers a wish.
func (w wish) blockOf() *site.Value {
	b := site.NewMap("name", site.NewText(w.Block), "section", site.NewText(w.Section))
	if len(w.options) > 0 {
		o := &site.Value{Kind: site.Map}
		for _, n := range slices.Sorted(maps.Keys(w.options)) {
			o.Entries = append(o.Entries, site.Entry{Key: n, Value: site.NewText(w.options[n])})
		}
		b.Entries = append(b.Entries, site.Entry{Key: "options", Value: o})
	}
	if w.items != nil {
		b.Entries = append(b.Entries, site.Entry{Key: "content", Value: site.NewMap(w.list, w.items)},
			site.Entry{Key: "sample", Value: &site.Value{Kind: site.List,
				Items: []*site.Value{site.NewText(w.list)}}})
	}
	return b
}

// Notes tells what was chosen for a wish, what it lacks, and what else was close.
func (w wish) Notes() string {
	var out []string
	for _, n := range slices.Sorted(maps.Keys(w.options)) {
		out = append(out, n+" "+w.options[n])
	}
	if w.items != nil {
		out = append(out, fmt.Sprintf("%d of them", len(w.items.Items)))
	}
	if len(w.missed) > 0 {
		out = append(out, "without: "+strings.Join(w.missed, ", "))
	}
	if len(w.close) > 0 {
		out = append(out, "or "+strings.Join(w.close, ", "))
	}
	if len(out) == 0 {
		return ""
	}
	return "; " + strings.Join(out, "; ")
}

// SiteFile writes the site's file, ziegel.yaml.
func (p *Outline) SiteFile(name, theme string) (string, error) {
	root := site.NewMap("name", site.NewText(name), "language", site.NewText("en"), "theme", site.NewText(theme))
	var top, bottom site.Value
	top.Kind, bottom.Kind = site.List, site.List
	for _, w := range p.Wishes {
		b := w.blockOf()
		switch w.kind {
		case "nav", "announcement":
			top.Items = append(top.Items, b)
		case "footer":
			bottom.Items = append(bottom.Items, b)
		}
	}
	list := func(values ...string) *site.Value {
		v := &site.Value{Kind: site.List}
		for _, s := range values {
			v.Items = append(v.Items, site.NewText(s))
		}
		return v
	}
	if len(p.Wishes) > 2 { // neighbours differ, whatever is added between them
		root.Entries = append(root.Entries, site.Entry{Key: "turns",
			Value: site.NewMap("tone", list("plain", "tinted"), "media", list("right", "left"))})
	}
	every := &site.Value{Kind: site.Map}
	if len(top.Items) > 0 {
		every.Entries = append(every.Entries, site.Entry{Key: "top", Value: &top})
	}
	if len(bottom.Items) > 0 {
		every.Entries = append(every.Entries, site.Entry{Key: "bottom", Value: &bottom})
	}
	if len(every.Entries) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "every-page", Value: every})
	}
	return write(site.FileName, root)
}

// PageFile writes the first page, the brief in it.
func (p *Outline) PageFile(name string) (string, error) {
	root := site.NewMap("title", site.NewText(name))
	brief := &site.Value{Kind: site.List}
	blocks := &site.Value{Kind: site.List}
	for _, w := range p.Wishes {
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(w.Want), "block", site.NewText(w.Block)))
		if w.kind != "nav" && w.kind != "footer" && w.kind != "announcement" {
			blocks.Items = append(blocks.Items, w.blockOf())
		}
	}
	for _, w := range p.Open {
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(w)))
	}
	if len(brief.Items) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "brief", Value: brief})
	}
	if len(blocks.Items) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "blocks", Value: blocks})
	}
	return write("pages/home.yaml", root)
}

// write renders a new file.
func write(path string, root *site.Value) (string, error) {
	out := ""
	for _, e := range root.Entries {
		next, err := site.EditSource(path, out, site.Edit{Op: site.Set, Path: site.Keys(e.Key), Value: e.Value})
		if err != nil {
			return "", fmt.Errorf("%s: %s cannot be written: %w", path, e.Key, err)
		}
		out = next
	}
	return out, nil
}
