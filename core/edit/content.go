package edit

import (
	"errors"
	"fmt"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Set writes content of a block, or the settings of a page. pictures is a folder with a picture for each entry of a
// table; own are addresses whose sample words are meant as they are.
func Set(p *Plan, where string, args []string, pictures string, own []string) error {
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	ad, err := address.Parse(where)
	if err != nil {
		return err
	}
	if ad.Part != "" {
		return fmt.Errorf("%q names a part; content belongs to the block: ziegel set %s/%s NAME=VALUE", where,
			ad.Page, ad.Block)
	}
	if ad.Block == "" {
		return setPage(p, ad.Page, list)
	}
	page, b, err := address.FindBlock(p.Env, ad)
	if err != nil {
		return err
	}
	sec := p.Env.Library.Section(b.Section)
	if sec == nil {
		return diag.Unknown("section", b.Section, p.Env.Library.Names(), "")
	}
	// Content of a block on every page belongs to the file that holds it.
	s := &setter{p: p, page: page, b: b, sec: sec, content: site.Keys(b.Path, "content"), file: b.File.Path,
		lists: map[string]*site.Value{}}
	for _, kv := range list {
		if strings.HasPrefix(kv[1], "@") && strings.HasSuffix(strings.ToLower(kv[1]), ".csv") {
			if err := s.table(kv[0], kv[1][1:], pictures); err != nil {
				return err
			}
			continue
		}
		if err := s.one(kv[0], kv[1]); err != nil {
			return err
		}
	}
	for _, o := range own {
		path, _, err := s.resolve(o)
		if err != nil {
			return err
		}
		if s.current(path) == nil {
			return s.notWritten(path, o)
		}
		s.mark("own", o)
	}
	var said []string
	if len(list) > 0 {
		names := make([]string, len(list))
		for i, kv := range list {
			names[i] = kv[0]
		}
		said = append(said, "set "+strings.Join(names, ", "))
	}
	if len(own) > 0 {
		said = append(said, "took as your own "+strings.Join(own, ", "))
	}
	p.Done = fmt.Sprintf("%s of %s/%s", strings.Join(said, "; "), page.Name, b.Name)
	if b.EveryPage != "" {
		p.Done += fmt.Sprintf(" on every page (%s)", diag.Plural(len(p.Env.Site.PageNames()), "page"))
	}
	p.Touch(page.Name, b.Name)
	return nil
}

func setPage(p *Plan, name string, list [][2]string) error {
	page, err := address.FindPage(p.Env, name)
	if err != nil {
		return err
	}
	known := []string{"title", "description", "picture"}
	for _, kv := range list {
		if !slices.Contains(known, kv[0]) {
			return diag.Unknown("page setting", kv[0], append(known, address.BlockNames(p.Env, page)...), "")
		}
		p.edit(page.File.Path, site.Edit{Op: site.Set, Path: site.Keys(kv[0]), Value: site.NewText(kv[1])})
	}
	p.Done = "set " + list[0][0] + " of " + name
	return nil
}

// setter writes content of one block.
type setter struct {
	p       *Plan
	page    *site.Page
	b       *site.Block
	sec     *library.Section
	content site.Path
	file    string
	lists   map[string]*site.Value // lists that an earlier argument began
}

var fieldStep = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[(\d+)\])?$`)

// one sets a single value.
func (s *setter) one(name, value string) error {
	switch {
	case strings.HasPrefix(name, "options."):
		s.edit(site.Keys(s.b.Path, "options", strings.TrimPrefix(name, "options.")), site.NewText(value))
		s.askIdle(strings.TrimPrefix(name, "options."))
		return nil
	case strings.HasPrefix(name, "ground.") && s.sec.Field("ground") == nil:
		s.edit(site.Keys(s.b.Path, "ground", strings.TrimPrefix(name, "ground.")), site.NewText(value))
		return nil
	case s.sec.Field(name) == nil && slices.Contains([]string{"tone", "above", "below", "lane", "ground"}, name):
		if name == "ground" && value != "" {
			return errors.New("say what the ground is: ground.picture=FILE, ground.color=... or ground.gradient=...; ground.focus, ground.overlay and ground.inside go with it")
		}
		if value == "" {
			if s.b.Node.Get(name) != nil {
				s.p.edit(s.file, site.Edit{Op: site.Delete, Path: site.Keys(s.b.Path, name)})
			}
			return nil
		}
		s.edit(site.Keys(s.b.Path, name), site.NewText(value))
		return nil
	case s.sec.Field(name) == nil && s.sec.Option(name) != nil:
		return fmt.Errorf("%s is an option of %s: write options.%s=%s", name, s.sec.Name, name, value)
	}
	path, field, err := s.resolve(name)
	if err != nil {
		return err
	}
	v := site.NewText(value)
	last := path[len(path)-1]
	if field != nil && last.Key == field.Name || field != nil && last.Key == "" {
		switch field.Type {
		case library.Picture:
			v, err = s.picture(path, value)
		case library.Link:
			v, err = s.link(path, value)
		case library.ListOf:
			if value != "" {
				return fmt.Errorf("%s is a list: set %s[1]%s=..., or fill it from a table with %s=@FILE.csv", name,
					name, exampleOf(field), name)
			}
			v = &site.Value{Kind: site.List}
		}
		if err != nil {
			return err
		}
	}
	return s.seeded(path, v)
}

func exampleOf(f *library.Field) string {
	if len(f.Of) > 0 && f.Of[0].Name != "." {
		return "." + f.Of[0].Name
	}
	return ""
}

// askIdle refuses an option for a range that changes nothing there, and tells of one for all widths.
func (s *setter) askIdle(key string) {
	found := func(env *project.Project) bool {
		page := env.Site.Page(s.page.Name)
		if page == nil {
			return false
		}
		b := env.Site.Block(page, s.b.Name)
		return b != nil && slices.ContainsFunc(check.IdleOptions(env, page, b, true),
			func(o check.Idle) bool { return o.Key == key })
	}
	name, at, ranged := strings.Cut(key, " at ")
	if ranged {
		s.p.refuse = append(s.p.refuse, func(env *project.Project) error {
			if !found(env) {
				return nil
			}
			return fmt.Errorf("options.%s changes nothing at %s with this content, so it was not written; `ziegel stack %s/%s` shows what stands there, options.%s alone is for all widths", key, at, s.page.Name, s.b.Name, name)
		})
		return
	}
	s.p.After = append(s.p.After, func(env *project.Project) []string {
		if found(env) {
			return []string{fmt.Sprintf("note: options.%s changes nothing with this content", key)}
		}
		return nil
	})
}

// link takes a label for text; the target stays, or is asked for.
func (s *setter) link(path site.Path, value string) (*site.Value, error) {
	if value == "" {
		return site.NewText(""), nil
	}
	if old := s.current(path); old != nil && old.Kind == site.Map {
		out := &site.Value{Kind: site.Map}
		for _, e := range old.Entries {
			if e.Key == "label" {
				e.Value = site.NewText(value)
			}
			out.Entries = append(out.Entries, e)
		}
		return out, nil
	}
	return nil, fmt.Errorf("a link needs a label and a target: set %s.label=%q %s.to=PAGE", display(path), value,
		display(path))
}

func display(p site.Path) string {
	s := p.String()
	if i := strings.Index(s, "content."); i >= 0 {
		return s[i+len("content."):]
	}
	return s
}

// picture takes a file name; focus and alternative text of another file do not stay with it.
func (s *setter) picture(path site.Path, value string) (*site.Value, error) {
	if value == "" {
		return site.NewText(""), nil
	}
	name := strings.TrimPrefix(filepath.ToSlash(value), "media/")
	return site.NewMap("file", site.NewText(name)), nil
}

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
		var names []string
		var next *library.Field
		for _, f := range fields {
			names = append(names, f.Name)
			if f.Name == m[1] {
				next = f
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
			field, fields = self, nil
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
		return nil, nil, fmt.Errorf("only options and the file and focus of a picture can differ by range: write \"media.file at %s=FILE\"", at)
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

// notWritten says why a value cannot be somebody's own: a list ends before it, or nothing but the section's sample is
// there.
func (s *setter) notWritten(path site.Path, name string) error {
	for i, st := range path {
		if st.Key != "" {
			continue
		}
		if v := s.current(path[:i]); v != nil && v.Kind == site.List && st.Index >= len(v.Items) {
			return fmt.Errorf("there is no %s: the entries of its list are 1 to %d", name, len(v.Items))
		}
	}
	return fmt.Errorf("%s shows the section's own sample: set %s=... writes words of yours", name, name)
}

// current gives the value at a path in the page's file, nil when there is none.
func (s *setter) current(path site.Path) *site.Value {
	v := s.b.File.Root
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

func (s *setter) edit(path site.Path, v *site.Value) {
	if old := s.current(path); old != nil && old.Kind == site.Text && v.Kind == site.Text && old.Text == v.Text &&
		(len(s.b.Seeded) > 0 || s.p.Env.Site.Template != "") {
		s.mark("own", display(path)) // said again: it is meant so
	}
	s.p.edit(s.file, site.Edit{Op: site.Set, Path: path, Value: v})
}

// seeded sets a value. A list that shows samples so far must grow in order: entry 3 needs entries 1 and 2.
func (s *setter) seeded(path site.Path, v *site.Value) error {
	for i, st := range path {
		if st.Key != "" || i < len(s.content) {
			continue
		}
		list := s.current(path[:i])
		key := path[:i].String()
		have := 0
		if list != nil && list.Kind == site.List {
			have = len(list.Items)
		}
		if grown := s.lists[key]; grown != nil {
			have = max(have, len(grown.Items))
		}
		if have == 0 && list == nil && s.lists[key] == nil && i == len(s.content)+1 {
			have = s.seed(path[:i])
		}
		if st.Index > have {
			return fmt.Errorf("%s has %s; set %s[%d] before %s[%d]", display(path[:i]), entries(have),
				display(path[:i]), have+1, display(path[:i]), st.Index+1)
		}
		if st.Index == have {
			g := s.lists[key]
			if g == nil {
				g = &site.Value{Kind: site.List, Items: make([]*site.Value, have)}
				s.lists[key] = g
			}
			g.Items = append(g.Items, v)
		}
	}
	// file name alone becomes a map
	if old := s.current(path); old != nil && old.Kind == site.Text && len(path) > 0 && v.Kind == site.Map {
		s.edit(path, v)
		return nil
	}
	parent := path[:len(path)-1]
	if old := s.current(parent); old != nil && old.Kind == site.Text && path[len(path)-1].Key != "" &&
		len(parent) > len(s.content) {
		return s.widen(parent, old, path[len(path)-1].Key, v)
	}
	s.edit(path, v)
	return nil
}

// widen turns "media: delta.svg" into a map when a piece of it is set.
func (s *setter) widen(parent site.Path, old *site.Value, key string, v *site.Value) error {
	m := &site.Value{Kind: site.Map}
	if old.Text != "" && key != "file" {
		m.Entries = append(m.Entries, site.Entry{Key: "file", Value: site.NewText(old.Text)})
	}
	m.Entries = append(m.Entries, site.Entry{Key: key, Value: v})
	s.edit(parent, m)
	return nil
}

// seed writes a list's sample entries into the page, so that one of them can be changed while the others stay as they
// look.
func (s *setter) seed(list site.Path) int {
	f := s.sec.Field(list[len(list)-1].Key)
	if f == nil || len(f.Samples) == 0 {
		return 0
	}
	v := &site.Value{Kind: site.List, Items: f.Samples}
	s.edit(list, v)
	s.mark("sample", f.Name)
	s.lists[list.String()] = &site.Value{Kind: site.List, Items: append([]*site.Value(nil), f.Samples...)}
	s.p.note("%s: its %s now stand in the page; `ziegel todo` lists those that still are the sample's", display(list),
		entries(len(f.Samples)))
	return len(f.Samples)
}

// mark adds an address in the block to a list that the block keeps: sample or own.
func (s *setter) mark(key, address string) {
	path := site.Keys(s.b.Path, key)
	have := s.current(path)
	if have == nil {
		have = s.lists[path.String()]
	}
	list := &site.Value{Kind: site.List}
	if have != nil {
		for _, v := range have.Items {
			if v.Str() == address {
				return
			}
			list.Items = append(list.Items, v)
		}
	}
	list.Items = append(list.Items, site.NewText(address))
	s.lists[path.String()] = list
	s.edit(path, list)
}

func entries(n int) string {
	if n == 1 {
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}

// table fills a list from a CSV file; pictures are matched to entries by file name.
func (s *setter) table(name, file, pictures string) error {
	field := s.sec.Field(name)
	if field == nil || field.Type != library.ListOf {
		var lists []string
		for _, f := range s.sec.Fields {
			if f.Type == library.ListOf {
				lists = append(lists, f.Name)
			}
		}
		return diag.Unknown("list", name, lists, " in "+s.sec.Name)
	}
	read, err := readTable(s.p.dir, file)
	if err != nil {
		return err
	}
	var cols []string
	var unused []string
	for _, h := range read.Columns {
		h = strings.ToLower(h)
		if field.Find(h) == nil {
			unused = append(unused, h)
			h = ""
		}
		cols = append(cols, h)
	}
	if len(unused) == len(cols) {
		var names []string
		for _, f := range field.Of {
			names = append(names, f.Name)
		}
		return fmt.Errorf("%s: no column is a field of %s; its fields are %s", file, name, strings.Join(names, ", "))
	}
	files, err := pictureFiles(s.p.dir, pictures)
	if err != nil {
		return err
	}
	pic := ""
	for _, f := range field.Of {
		if f.Type == library.Picture {
			pic = f.Name
		}
	}
	if pictures != "" && pic == "" {
		return fmt.Errorf("the entries of %s show no pictures, so --pictures has nothing to fill", name)
	}
	used := map[string]bool{}
	list := &site.Value{Kind: site.List}
	var without []string
	for _, row := range read.Rows {
		entry := &site.Value{Kind: site.Map}
		for i, cell := range row {
			if i < len(cols) && cols[i] != "" && cell != "" {
				v := site.NewText(cell)
				switch field.Find(cols[i]).Type {
				case library.Picture:
					v = site.NewMap("file", v)
				case library.Link:
					v = site.NewMap("label", v, "to", v)
				}
				entry.Entries = append(entry.Entries, site.Entry{Key: cols[i], Value: v})
			}
		}
		if len(files) > 0 && entry.Get(pic) == nil {
			if f := matchPicture(row, files); f != "" {
				used[f] = true
				entry.Entries = append(entry.Entries, site.Entry{Key: pic,
					Value: site.NewMap("file", site.NewText(f), "alt", site.NewText(row[0]))})
			} else {
				without = append(without, row[0])
			}
		}
		list.Items = append(list.Items, entry)
	}
	s.edit(site.Keys(s.content, name), list)
	note := s.p.note
	note("%s: %s from %s", name, entries(len(list.Items)), file)
	if read.Encoding != "" {
		note("%s is not UTF-8 and was read as %s", file, read.Encoding)
	}
	if len(unused) > 0 {
		note("left over: columns that %s does not show: %s", name, strings.Join(unused, ", "))
	}
	if len(without) > 0 {
		note("left over: entries without a picture: %s", strings.Join(without, ", "))
	}
	var rest []string
	for _, f := range files {
		if !used[f] {
			rest = append(rest, f)
		}
	}
	if len(rest) > 0 {
		note("left over: pictures without an entry: %s", strings.Join(rest, ", "))
	}
	return nil
}
