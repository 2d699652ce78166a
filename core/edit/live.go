package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// live sets where a list comes from: items.from=data/people.csv, and what of it: items.sort=-date, items.limit=3,
// items.where.kind=news. An empty value takes it out; without from the list shows its samples. done is false for what
// is none of these.
func (s *setter) live(name, value string) (done bool, err error) {
	list, key, _ := strings.Cut(name, ".")
	key, column, _ := strings.Cut(key, ".")
	f := s.sec.Field(list)
	if f == nil || f.Type != library.ListOf || !slices.Contains(project.LiveKeys(), key) {
		return false, nil
	}
	path := site.Keys(s.content, list)
	have := s.current(path)
	to := site.Keys(path, key)
	switch {
	case key == "where" && column == "":
		return true, fmt.Errorf("%s.where is about a column: %s.where.kind=news", list, list)
	case key == "where":
		to = site.Keys(to, column)
	case column != "":
		return true, fmt.Errorf("%s.%s takes no column: %s.%s=VALUE", list, key, list, key)
	}
	if project.IsLive(have) {
		if value != "" {
			return true, s.edit(to, site.NewText(value))
		}
		if key == "from" {
			to = path
		}
		if s.current(to) == nil {
			return true, nil
		}
		e := site.Edit{Op: site.Delete, Path: to}
		s.p.edit(s.file, e)
		return true, site.Apply(s.root, e)
	}
	if key != "from" {
		return true, fmt.Errorf("%s does not come from data yet: set %s.from=data/FILE.csv first", list, list)
	}
	if value == "" {
		return true, nil
	}
	if have != nil && len(have.Items) > 0 {
		s.p.note("%s came from the page: its %s went; `ziegel undo` brings them back", list, entries(len(have.Items)))
	}
	return true, s.edit(path, site.NewMap("from", site.NewText(value)))
}
