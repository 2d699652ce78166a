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
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/records"
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
		if file, ok := strings.CutPrefix(kv[1], "@"); ok && records.IsTable(file) {
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
	known := []string{"title", "description", "picture", "scheme"}
	for _, kv := range list {
		if !slices.Contains(known, kv[0]) {
			return diag.Unknown("page setting", kv[0], append(known, address.BlockNames(p.Env, page)...), "")
		}
		p.edit(page.File.Path, site.Edit{Op: site.Set, Path: site.Keys(kv[0]), Value: site.NewText(kv[1])})
	}
	p.Done = "set " + list[0][0] + " of " + name
	return nil
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

var stepForm = regexp.MustCompile(`([a-z][a-z0-9-]*)(?:\[(\d+)\])?`)

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
	if done, err := s.live(name, value); done {
		return err
	}
	path, field, err := s.resolve(name)
	if err != nil {
		return err
	}
	v := site.NewText(value)
	last := path[len(path)-1]
	if last.Key == "" && value == "" {
		return fmt.Errorf("an entry goes with ziegel remove %s/%s.%s", s.page.Name, s.b.Name, name)
	}
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

// picture takes a file name; focus and alternative text of another file do not stay with it.
func (s *setter) picture(path site.Path, value string) (*site.Value, error) {
	if value == "" {
		return site.NewText(""), nil
	}
	name := strings.TrimPrefix(filepath.ToSlash(value), "media/")
	return site.NewMap("file", site.NewText(name)), nil
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
