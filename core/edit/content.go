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

// Set writes content of a block, or the settings of a page. own are addresses whose sample words are meant as they are.
func Set(p *Plan, where string, args []string, from Pictures, own []string) error {
	where, inside, args := joined(where, args)
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	ad, err := address.Parse(where)
	if err != nil {
		return err
	}
	if ad.Block == "" {
		return setPage(p, ad.Page, list)
	}
	page, b, err := address.FindBlock(p.Env, ad)
	if err != nil {
		return err
	}
	s, err := newSetter(p, page, b)
	if err != nil {
		return err
	}
	if inside != "" {
		for i := range list {
			list[i][0] = inside + strings.TrimSuffix("."+list[i][0], ".")
		}
	}
	for i, kv := range list {
		if kv[0], err = s.fieldOf(kv[0]); err != nil {
			return err
		}
		kv[0] = s.fresh(kv[0])
		list[i] = kv
		if file, ok := strings.CutPrefix(kv[1], "@"); ok && isTable(file) {
			if err := s.table(kv[0], file, from); err != nil {
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
		if err := s.mark("own", o); err != nil {
			return err
		}
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

// joined takes the address apart that says more than a block: in home/plans.items[2] title=X the names begin at the
// entry, in home/plans.items[2].title=X the name stands in it.
func joined(where string, args []string) (string, string, []string) {
	if at, value, ok := strings.Cut(where, "="); ok {
		block, inside := address.Inside(at)
		if inside == "" {
			return where, "", args
		}
		return block, "", append([]string{inside + "=" + value}, args...)
	}
	block, inside := address.Inside(where)
	return block, inside, args
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

// fresh puts the number of a new entry in the place of [+].
func (s *setter) fresh(name string) string {
	list, field, ok := strings.Cut(name, "[+]")
	if !ok {
		return name
	}
	path := s.content
	for _, m := range stepForm.FindAllStringSubmatch(list, -1) {
		if path = site.Keys(path, m[1]); m[2] != "" {
			n, _ := strconv.Atoi(m[2])
			path = site.Keys(path, n-1)
		}
	}
	e, have := s.begun[list]
	if !have || e.fields[field] {
		e = newEntry{s.count(path) + 1, map[string]bool{}}
	}
	e.fields[field] = true
	s.begun[list] = e
	return fmt.Sprintf("%s[%d]%s", list, e.at, field)
}

var (
	fieldStep = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[(\d+)\])?$`)
	stepForm  = regexp.MustCompile(`([a-z][a-z0-9-]*)(?:\[(\d+)\])?`)
)

// one sets a single value.
func (s *setter) one(name, value string) error {
	switch {
	case strings.HasPrefix(name, "options."):
		s.askIdle(strings.TrimPrefix(name, "options."))
		return s.edit(site.Keys(s.b.Path, "options", strings.TrimPrefix(name, "options.")), site.NewText(value))
	case strings.HasPrefix(name, "ground.") && s.sec.Field("ground") == nil:
		return s.edit(site.Keys(s.b.Path, "ground", strings.TrimPrefix(name, "ground.")), site.NewText(value))
	case s.sec.Field(name) == nil && slices.Contains(blockSettings, name):
		if name == "ground" && value != "" {
			return errors.New("say what the ground is: ground.picture=FILE, ground.color=... or ground.gradient=...; ground.focus, ground.overlay and ground.inside go with it")
		}
		if value == "" {
			if s.b.Node.Get(name) != nil {
				s.p.edit(s.file, site.Edit{Op: site.Delete, Path: site.Keys(s.b.Path, name)})
			}
			return nil
		}
		return s.edit(site.Keys(s.b.Path, name), site.NewText(value))
	case s.sec.Field(name) == nil && s.sec.Option(name) != nil:
		return fmt.Errorf("%s is an option of %s: write options.%s=%s", name, s.sec.Name, name, value)
	}
	path, field, err := s.resolve(name)
	if err != nil {
		return err
	}
	v := site.NewText(value)
	last := path[len(path)-1]
	if field == nil && last.Key == "to" {
		v = site.NewText(s.linkTo(value))
	}
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

// linkTo writes the address of a block as links have it: home#plans for home/plans, #plans on its own page.
func (s *setter) linkTo(to string) string {
	page, block, ok := strings.Cut(to, "/")
	if !ok || !s.p.Env.Site.HasPage(page) || s.p.Env.Site.Block(s.p.Env.Site.Page(page), block) == nil {
		return to
	}
	if page == s.page.Name && s.b.EveryPage == "" {
		return "#" + block
	}
	return page + "#" + block
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
	if old := s.current(path); old != nil && old.Kind == site.Text && v.Kind == site.Text && old.Text == v.Text &&
		(len(s.b.Seeded) > 0 || s.p.Env.Site.Template != "") {
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
	if old.Text != "" && key != "file" {
		m.Entries = append(m.Entries, site.Entry{Key: "file", Value: site.NewText(old.Text)})
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

func entries(n int) string {
	if n == 1 {
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}
