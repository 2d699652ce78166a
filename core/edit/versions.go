package edit

import (
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/styles"
)

// A site keeps what it uses of the program as it was when the site took it. What a newer program has instead is told,
// and taken when somebody asks for it.

// RefusedFile notes what of the newer a site does not want, and why.
const RefusedFile = project.KeptFolder + "/refused.yaml"

// Newer is something that the site keeps and this program has in another way.
type Newer struct {
	Name    string   `json:"name,omitempty"` // a section, or a file or folder of what all pages are made from
	Was     string   `json:"was,omitempty"`  // version that the site keeps, of sections
	Is      string   `json:"is,omitempty"`   // version of the program, "" when it has none any more
	Says    []string `json:"says,omitempty"` // what changed, by what the versions say
	Fields  Change   `json:"fields"`         // of sections
	Options Change   `json:"options"`
	Parts   Change   `json:"parts"`
	Blocks  []string `json:"blocks,omitempty"`  // PAGE/BLOCK, of sections
	Lost    []string `json:"lost,omitempty"`    // what blocks say that it would not show: PAGE/BLOCK FIELD
	Refused string   `json:"refused,omitempty"` // why it is not wanted
}

// Change are names that come, go and are called otherwise.
type Change struct {
	Come    []string `json:"come,omitempty"`
	Go      []string `json:"go,omitempty"`
	Renamed []string `json:"renamed,omitempty"` // "old is new now"
}

// Section reports whether it is a section.
func (n *Newer) Section() bool { return len(n.Blocks) > 0 }

// versions compares what a site keeps with the program.
type versions struct {
	env   *project.Project
	newer *library.Library
	uses  map[string][]blockOn // blocks by section
}

// readVersions finds out what a site uses.
func readVersions(e *project.Project) (*versions, error) {
	if !e.Keeps() {
		return nil, fmt.Errorf("the site keeps no sections: it is built with those of the program, whatever it has; "+
			"`ziegel update --freeze` keeps those in use as they are now, in %s/", project.KeptFolder)
	}
	nothing, err := fs.Sub(e.Program, "sections/none")
	if err != nil {
		return nil, err
	}
	lib, problems := library.Open("sections", e.Program, nothing)
	if err := problems.Err(); err != nil {
		return nil, err
	}
	return &versions{env: e, newer: lib, uses: usesOf(e, e.Site.Pages())}, nil
}

// groupOf names what a kept file belongs to: a section, a theme, or itself.
func groupOf(file string) string {
	parts := strings.Split(file, "/")
	switch {
	case parts[0] == "sections" && len(parts) > 3:
		return strings.Join(parts[1:3], "/")
	case parts[0] == "themes" && len(parts) > 2:
		return strings.Join(parts[:2], "/")
	case parts[0] == "treatments":
		return parts[0]
	}
	return file
}

// differing gives the kept files that are not as the program has them, by group. Sections that nothing is made of any
// more are not among them.
func (v *versions) differing() map[string][]site.FileChange {
	out := map[string][]site.FileChange{}
	kept := map[string]bool{}
	add := func(name string, before, after []byte, isNew, gone bool) {
		out[groupOf(name)] = append(out[groupOf(name)], site.FileChange{Path: path.Join(project.KeptFolder, name),
			Before: string(before), After: string(after), New: isNew, Gone: gone})
	}
	_ = fs.WalkDir(v.env.Dir, project.KeptFolder, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || p == RefusedFile {
			return nil
		}
		name := strings.TrimPrefix(p, project.KeptFolder+"/")
		group := groupOf(name)
		if strings.HasPrefix(name, "sections/") && len(v.uses[group]) == 0 {
			return nil
		}
		kept[group] = true
		was, err := fs.ReadFile(v.env.Dir, p)
		if err != nil {
			return nil
		}
		is, err := fs.ReadFile(v.env.Program, name)
		if err != nil || string(is) != string(was) {
			add(name, was, is, false, err != nil)
		}
		return nil
	})
	for _, f := range v.env.Unkept(slices.Sorted(maps.Keys(v.uses))) { // a file more of what is kept
		if name := strings.TrimPrefix(f.Path, project.KeptFolder+"/"); kept[groupOf(name)] {
			add(name, nil, []byte(f.After), true, false)
		}
	}
	return out
}

// stamp tells apart the states of what is newer.
func stamp(files []site.FileChange) string {
	var b strings.Builder
	for _, f := range files {
		b.WriteString(f.Path + "\x00" + f.After + "\x00")
	}
	return site.Hash(b.String())
}

// NewerOf lists what the site keeps and this program has in another way, sections first.
func NewerOf(e *project.Project) ([]Newer, error) {
	v, err := readVersions(e)
	if err != nil {
		return nil, err
	}
	refused, err := readRefused(e)
	if err != nil {
		return nil, err
	}
	groups := v.differing()
	var out []Newer
	for _, name := range slices.Sorted(maps.Keys(groups)) {
		n := Newer{Name: name}
		if r := refused.Root.Get(name); r != nil && r.Get("state").Str() == stamp(groups[name]) {
			n.Refused = r.Get("because").Str()
		}
		if uses := v.uses[name]; len(uses) > 0 {
			v.compare(&n, uses)
		}
		out = append(out, n)
	}
	slices.SortStableFunc(out, func(a, b Newer) int {
		switch {
		case a.Section() == b.Section():
			return 0
		case a.Section():
			return -1
		}
		return 1
	})
	return out, nil
}

// compare fills in what is other in a section.
func (v *versions) compare(n *Newer, uses []blockOn) {
	for _, u := range uses {
		n.Blocks = append(n.Blocks, u.page.Name+"/"+u.block.Name)
	}
	was, is := v.env.Library.Section(n.Name), v.newer.Section(n.Name)
	if was == nil || is == nil {
		return
	}
	n.Was, n.Is = was.Version, is.Version
	for _, c := range is.Since(was.Version) {
		n.Says = append(n.Says, c.Says)
	}
	renames := renamesSince(is, was.Version)
	n.Fields = changeOf(fieldsOf(was.Fields, ""), fieldsOf(is.Fields, ""), renames["fields"])
	n.Options = changeOf(optionsOf(was), optionsOf(is), renames["options"])
	n.Parts = changeOf(was.Parts, is.Parts, renames["parts"])
	for i, u := range uses {
		for _, lost := range refit(New(v.env, store.Store{}), u.block, renamed(u.block.Node, renames), is).put {
			n.Lost = append(n.Lost, n.Blocks[i]+" "+lost)
		}
	}
}

// renamesSince gives what a section calls otherwise than a version of it did, by kind.
func renamesSince(s *library.Section, version string) map[string]map[string]string {
	out := map[string]map[string]string{}
	for _, c := range s.Since(version) {
		for kind, names := range c.Renames {
			if out[kind] == nil {
				out[kind] = map[string]string{}
			}
			maps.Copy(out[kind], names)
		}
	}
	return out
}

// fieldsOf names fields, those of entries as "price of items".
func fieldsOf(list []*library.Field, of string) []string {
	var out []string
	for _, f := range list {
		if f.Name == "." {
			continue
		}
		out = append(out, f.Name+of)
		out = append(out, fieldsOf(f.Of, " of "+f.Name+of)...)
	}
	return out
}

// optionsOf names options and what they can be.
func optionsOf(s *library.Section) []string {
	var out []string
	for _, o := range s.Options {
		out = append(out, o.Name)
		for _, c := range o.Choices {
			out = append(out, o.Name+"="+c)
		}
	}
	return out
}

// changeOf compares names.
func changeOf(was, is []string, renames map[string]string) Change {
	var c Change
	for _, n := range was {
		switch now := renames[n]; {
		case slices.Contains(is, n):
		case now != "" && slices.Contains(is, now):
			c.Renamed = append(c.Renamed, n+" is "+now+" now")
		default:
			c.Go = append(c.Go, n)
		}
	}
	for _, n := range is {
		if !slices.Contains(was, n) && !slices.ContainsFunc(was, func(w string) bool { return renames[w] == n }) {
			c.Come = append(c.Come, n)
		}
	}
	return c
}

// renamed gives what a block says under the names that a later version has for it.
func renamed(node *site.Value, renames map[string]map[string]string) *site.Value {
	now := node.Clone()
	key := func(m *site.Value, names map[string]string, rename func(string) string) {
		if m == nil || len(names) == 0 {
			return
		}
		for i := range m.Entries {
			m.Entries[i].Key = rename(m.Entries[i].Key)
		}
	}
	by := func(names map[string]string) func(string) string {
		return func(k string) string {
			first, rest, at := strings.Cut(k, " ") // columns at phone
			if now, ok := names[first]; ok {
				first = now
			}
			if at {
				return first + " " + rest
			}
			return first
		}
	}
	key(now.Get("content"), renames["fields"], by(renames["fields"]))
	key(now.Get("options"), renames["options"], by(renames["options"]))
	key(now.Get("holds"), renames["slots"], by(renames["slots"]))
	key(now.Get("style"), renames["parts"], func(k string) string {
		t, err := styles.ParseTarget(k)
		if to, ok := renames["parts"][t.Part]; err == nil && ok {
			return strings.Replace(k, t.Part, to, 1)
		}
		return k
	})
	renameFields(now.Get("content"), renames["fields"])
	if w := now.Get("without"); w != nil {
		for i, it := range w.Items {
			if to, ok := renames["fields"][it.Str()]; ok {
				w.Items[i] = site.NewText(to)
			}
		}
	}
	return now
}

// renameFields renames fields of entries, such as "cost of items" to "price of items".
func renameFields(content *site.Value, names map[string]string) {
	for from, to := range names {
		field, list, ok := strings.Cut(from, " of ")
		now, _, _ := strings.Cut(to, " of ")
		l := content.Get(list)
		if !ok || l == nil {
			continue
		}
		for _, it := range l.Items {
			for i := range it.Entries {
				if it.Entries[i].Key == field {
					it.Entries[i].Key = now
				}
			}
		}
	}
}

// readRefused reads what the site does not want.
func readRefused(e *project.Project) (*site.File, error) {
	text, err := fs.ReadFile(e.Dir, RefusedFile)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("read %s: %w", RefusedFile, diag.Bare(err))
	}
	if len(text) == 0 {
		text = []byte("{}\n")
	}
	f, problems := site.ReadFile(RefusedFile, string(text))
	return f, problems.Err()
}

// IsNewer reports whether a name of an update is something that the site keeps: a section, a block made of one, or a
// file of what all pages are made from.
func IsNewer(e *project.Project, name string) bool {
	_, ok := keptName(e, name)
	return ok
}

// keptName gives the group that a name of an update means: blocks stand for their section.
func keptName(e *project.Project, name string) (string, bool) {
	if page, block, ok := strings.Cut(name, "/"); ok {
		if p := e.Site.Page(page); p != nil {
			if b := e.Site.Block(p, block); b != nil {
				return b.Section, true
			}
		}
	}
	for _, dir := range []string{"", "sections"} {
		if _, err := fs.Stat(e.Dir, path.Join(project.KeptFolder, dir, name)); err == nil && name != "" {
			return name, true
		}
	}
	return name, false
}

// UpdateKept takes what this program has instead of what the site keeps: the named things, or all that is not refused.
func UpdateKept(p *Plan, names []string) error {
	v, groups, list, err := p.newer(names)
	if err != nil {
		return err
	}
	var done []string
	for _, n := range list {
		if n.Refused != "" && len(names) == 0 {
			p.note("%s stays, as was said: %s", n.Name, n.Refused)
			continue
		}
		if n.Section() && n.Is == "" {
			p.note("%s stays: this program has no such section any more", n.Name)
			continue
		}
		p.files = append(p.files, groups[n.Name]...)
		done = append(done, n.Name)
		is := v.newer.Section(n.Name)
		var renames map[string]map[string]string
		if is != nil && n.Section() {
			renames = renamesSince(is, n.Was)
		}
		for i, u := range v.uses[n.Name] {
			if r := refit(p, u.block, renamed(u.block.Node, renames), is); len(r.put) > 0 {
				p.note("%s: parked, because %s does not show it any more: %s", n.Blocks[i], n.Name,
					strings.Join(r.put, ", "))
			}
			p.Touch(u.page.Name, u.block.Name)
		}
		if !n.Section() {
			p.touchAll()
		}
	}
	if len(done) > 0 {
		p.Done = fmt.Sprintf("took %s as this program has %s", diag.And(done),
			map[bool]string{true: "it", false: "them"}[len(done) == 1])
	}
	return nil
}

// newer lists what an update is about.
func (p *Plan) newer(names []string) (*versions, map[string][]site.FileChange, []Newer, error) {
	v, err := readVersions(p.Env)
	if err != nil {
		return nil, nil, nil, err
	}
	list, err := NewerOf(p.Env)
	if err != nil {
		return nil, nil, nil, err
	}
	if len(names) > 0 {
		var wanted []string
		for _, n := range names {
			name, _ := keptName(p.Env, n)
			wanted = append(wanted, name)
			if !slices.ContainsFunc(list, func(x Newer) bool { return x.Name == name }) {
				if !IsNewer(p.Env, n) {
					var known []string
					for _, x := range list {
						known = append(known, x.Name)
					}
					return nil, nil, nil, diag.Unknown("change", n, known, "")
				}
				p.note("%s is as this program has it", name)
			}
		}
		list = slices.DeleteFunc(list, func(x Newer) bool { return !slices.Contains(wanted, x.Name) })
	}
	return v, v.differing(), list, nil
}

// Refuse notes that the site does not want what this program has instead of something, and why. It is asked again when
// a later program has yet another.
func Refuse(p *Plan, names []string, because string) error {
	if strings.TrimSpace(because) == "" {
		return errors.New(
			"--keep needs a reason, which others will read: --keep \"the client has signed it as it is\"",
		)
	}
	_, groups, list, err := p.newer(names)
	if err != nil {
		return err
	}
	refused, err := readRefused(p.Env)
	if err != nil {
		return err
	}
	root := refused.Root.Clone()
	var done []string
	for _, n := range list {
		put(root, n.Name, site.NewMap("because", site.NewText(because), "state", site.NewText(stamp(groups[n.Name]))))
		done = append(done, n.Name)
	}
	if len(done) == 0 {
		return nil
	}
	var b strings.Builder
	b.WriteString("# What this site keeps although a newer program has another, and why.\n")
	for _, e := range root.Entries {
		fmt.Fprintf(
			&b,
			"%q:\n  because: %q\n  state: %q\n",
			e.Key,
			e.Value.Get("because").Str(),
			e.Value.Get("state").Str(),
		)
	}
	f := site.FileChange{Path: RefusedFile, After: b.String(), New: true}
	if old, err := fs.ReadFile(p.Env.Dir, RefusedFile); err == nil {
		f.Before, f.New = string(old), false
	}
	p.files = append(p.files, f)
	p.Done = fmt.Sprintf("%s stays as it is: %s", diag.And(done), because)
	return nil
}

// Freeze has the site keep what it uses of the program as it is now.
func Freeze(p *Plan) error {
	files := Frozen(p.Env)
	p.files = append(p.files, files...)
	if len(files) > 0 {
		p.Done = fmt.Sprintf("keeps what its pages are made from, in %s/: %s", project.KeptFolder,
			diag.Plural(len(files), "file"))
	}
	return nil
}

// Frozen gives the files that a site keeps when it begins to.
func Frozen(e *project.Project) []site.FileChange {
	return e.Unkept(slices.Sorted(maps.Keys(usesOf(e, e.Site.Pages()))))
}
