package edit

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// entry is one entry of a list of a block.
type entry struct {
	*setter
	list site.Path // of the list, in the file
	i    int       // from 0
	n    int       // entries of the list
}

// entryArg finds the entry that an address such as home/reasons.items[2] or home/reasons.card[2] means.
func entryArg(p *Plan, arg string) (*entry, error) {
	where, inside := address.Inside(arg)
	ad, err := address.Parse(where)
	if err != nil {
		return nil, err
	}
	page, b, err := address.FindBlock(p.Env, ad)
	if err != nil {
		return nil, err
	}
	s, err := newSetter(p, page, b)
	if err != nil {
		return nil, err
	}
	name, err := s.fieldOf(inside)
	if err != nil {
		return nil, err
	}
	path, _, err := s.resolve(name)
	if err != nil {
		return nil, err
	}
	last := path[len(path)-1]
	if last.Key != "" {
		return nil, s.noEntry(inside, name)
	}
	e := &entry{setter: s, list: path[:len(path)-1], i: last.Index}
	e.n = s.count(e.list)
	if e.i >= e.n {
		return nil, fmt.Errorf("%s/%s has %s in %s, so there is no %s", page.Name, b.Name, entries(e.n),
			display(e.list), inside)
	}
	return e, nil
}

// noEntry says why an address means no entry, and which would.
func (s *setter) noEntry(inside, name string) error {
	whole := s.page.Name + "/" + s.b.Name
	if f := s.sec.Field(name); f != nil && f.Type == library.ListOf {
		n := s.count(site.Keys(s.content, name))
		return fmt.Errorf("which entry of %s/%s.%s? it has %s; write %s.%s[1], or %s for the whole block", s.page.Name,
			s.b.Name, inside, entries(n), whole, inside, whole)
	}
	return fmt.Errorf("%s.%s is no entry of a list; that is done to entries, such as %s.%s, or to the whole block, %s",
		whole, inside, whole, s.exampleEntry(), whole)
}

func (s *setter) exampleEntry() string {
	for _, f := range s.sec.Fields {
		if f.Type == library.ListOf {
			return f.Name + "[1]"
		}
	}
	return "items[1]"
}

// fieldOf turns the part of an entry into its field: card[2] is items[2], as many points as the cards before it have
// come before point[5]. What is no such part comes back as it was.
func (s *setter) fieldOf(inside string) (string, error) {
	head, rest, deeper := strings.Cut(inside, ".")
	t, err := styles.ParseTarget(head)
	if err != nil || s.sec.Field(t.Part) != nil || !s.sec.HasPart(t.Part) {
		return inside, nil
	}
	lists := s.sec.ListsOf(t.Part)
	if len(lists) == 0 {
		return inside, nil
	}
	if t.Index == 0 {
		return "", fmt.Errorf("which %s? each entry of %s has one: write %s[1]", t.Part, lists[0], t.Part)
	}
	path, ok := s.nth(s.content, lists, t.Index-1)
	if !ok {
		_, n := s.total(s.content, lists)
		return "", fmt.Errorf("%s/%s has %s in %s, so there is no %s", s.page.Name, s.b.Name, entries(n),
			strings.Join(lists, " and "), t.Element())
	}
	name := display(path)
	if deeper {
		name += "." + rest
	}
	return name, nil
}

// nth finds the entry with a position, from 0, counted over the lists in lists.
func (s *setter) nth(at site.Path, lists []string, i int) (site.Path, bool) {
	at = site.Keys(at, lists[0])
	n := s.count(at)
	if len(lists) == 1 {
		return site.Keys(at, i), i < n
	}
	for k := range n {
		_, inner := s.total(site.Keys(at, k), lists[1:])
		if i < inner {
			return s.nth(site.Keys(at, k), lists[1:], i)
		}
		i -= inner
	}
	return nil, false
}

// total counts the entries of the innermost of lists in lists.
func (s *setter) total(at site.Path, lists []string) (site.Path, int) {
	at = site.Keys(at, lists[0])
	n := s.count(at)
	if len(lists) == 1 {
		return at, n
	}
	sum := 0
	for k := range n {
		_, inner := s.total(site.Keys(at, k), lists[1:])
		sum += inner
	}
	return at, sum
}

// count tells how many entries a list shows: those of the page, else the section's samples.
func (s *setter) count(list site.Path) int {
	v := s.current(list)
	if v == nil {
		v = s.sampleAt(list)
	}
	if v == nil || v.Kind != site.List {
		return 0
	}
	return len(v.Items)
}

// sampleAt gives the sample value that stands for a missing one.
func (s *setter) sampleAt(path site.Path) *site.Value {
	rest := path[len(s.content):]
	f := s.sec.Field(rest[0].Key)
	if f == nil || s.current(path[:len(s.content)+1]) != nil {
		return nil
	}
	v := &site.Value{Kind: site.List, Items: f.Samples}
	for _, st := range rest[1:] {
		switch {
		case st.Key != "":
			v = v.Get(st.Key)
		case v != nil && v.Kind == site.List && st.Index < len(v.Items):
			v = v.Items[st.Index]
		default:
			return nil
		}
		if v == nil {
			return nil
		}
	}
	return v
}

// own makes the list stand in the page, with the section's samples when there is none of its own yet.
func (e *entry) own() error {
	top := e.list[:len(e.content)+1]
	if e.current(top) == nil {
		if err := e.seed(top); err != nil {
			return err
		}
	}
	if e.current(e.list) == nil && e.current(top) != nil {
		return fmt.Errorf("%s shows the section's samples and cannot be taken apart; set %s[1]=... first",
			display(e.list), display(e.list))
	}
	return nil
}

// value gives the entry as it stands.
func (e *entry) value() *site.Value {
	path := site.Keys(e.list, e.i)
	if v := e.current(path); v != nil {
		return v
	}
	return e.sampleAt(path)
}

// called names the entry by its first words.
func (e *entry) called() string {
	words := calledValue(e.value(), "")
	name := fmt.Sprintf("%s/%s.%s[%d]", e.page.Name, e.b.Name, display(e.list), e.i+1)
	if words == "" {
		return name
	}
	if r := []rune(words); len(r) > 40 {
		words = strings.TrimSpace(string(r[:39])) + "…"
	}
	return name + " (" + words + ")"
}

func (e *entry) finish(format string, args ...any) {
	e.p.Done = fmt.Sprintf(format, args...)
	if e.b.EveryPage != "" {
		e.p.Done += fmt.Sprintf(" on every page (%s)", diag.Plural(len(e.p.Env.Site.PageNames()), "page"))
	}
	e.p.Touch(e.page.Name, e.b.Name)
}

func removeEntry(p *Plan, arg string) error {
	e, err := entryArg(p, arg)
	if err != nil {
		return err
	}
	if err := e.own(); err != nil {
		return err
	}
	e.p.edit(e.file, site.Edit{Op: site.Delete, Path: site.Keys(e.list, e.i)})
	e.renumber(func(i int) int {
		switch {
		case i == e.i:
			return -1
		case i > e.i:
			return i - 1
		}
		return i
	})
	e.finish("removed %s; %s left", e.called(), entries(e.n-1))
	return nil
}

func moveEntry(p *Plan, arg string, at Spot) error {
	e, err := entryArg(p, arg)
	if err != nil {
		return err
	}
	to, err := at.among(e, e.n-1)
	if err != nil {
		return err
	}
	if err := e.own(); err != nil {
		return err
	}
	e.p.edit(e.file, site.Edit{Op: site.Move, Path: site.Keys(e.list, e.i), Index: to})
	e.renumber(func(i int) int {
		switch {
		case i == e.i:
			return to
		case i > e.i && i <= to:
			return i - 1
		case i < e.i && i >= to:
			return i + 1
		}
		return i
	})
	e.finish("moved %s to place %d of %d", e.called(), to+1, e.n)
	return nil
}

func copyEntry(p *Plan, arg string, at Spot) error {
	e, err := entryArg(p, arg)
	if err != nil {
		return err
	}
	if at == (Spot{}) {
		at.After = strconv.Itoa(e.i + 1)
	}
	to, err := at.among(e, e.n)
	if err != nil {
		return err
	}
	v := e.value().Clone()
	if err := e.own(); err != nil {
		return err
	}
	e.p.edit(e.file, site.Edit{Op: site.Insert, Path: e.list, Index: to, Value: v})
	e.renumber(func(i int) int {
		if i >= to {
			return i + 1
		}
		return i
	})
	e.finish("copied %s to place %d of %d", e.called(), to+1, e.n+1)
	return nil
}

// among gives the position in a list that a spot means; n is how many entries there are without the one that goes
// there.
func (s *Spot) among(e *entry, n int) (int, error) {
	switch {
	case s.First:
		return 0, nil
	case s.Last:
		return n, nil
	case s.Before == "" && s.After == "":
		return 0, errors.New("where to? give --before NUMBER, --after NUMBER, --first or --last")
	}
	beside := s.Before + s.After
	number := strings.TrimSuffix(beside[strings.LastIndex(beside, "[")+1:], "]")
	k, err := strconv.Atoi(number)
	if err != nil || k < 1 || k > e.n {
		return 0, fmt.Errorf("%q is no entry to stand beside: %s has the entries 1 to %d, such as --before 1", beside,
			display(e.list), e.n)
	}
	if n < e.n { // it moves
		switch {
		case k == e.i+1:
			return 0, errors.New("an entry cannot stand beside itself")
		case k > e.i+1:
			k--
		}
	}
	if s.After != "" {
		return k, nil
	}
	return k - 1, nil
}

// renumber lets what speaks of entries by their position follow them: marks of samples and own words, and styles of
// the parts that each entry has once. to gives the new position of one, from 0, -1 when it goes.
func (e *entry) renumber(to func(i int) int) {
	for _, key := range []string{"sample", "own"} {
		e.renumberMarks(key, to)
	}
	if len(e.list) != len(e.content)+1 || e.b.Style == nil {
		return
	}
	parts := e.sec.PartsOf(e.list[len(e.list)-1].Key)
	var old, now []string
	for _, en := range e.b.Style.Entries {
		t, err := styles.ParseTarget(en.Key)
		if err != nil || t.Index == 0 || !slices.Contains(parts, t.Part) || to(t.Index-1) == t.Index-1 {
			continue
		}
		if to(t.Index-1) < 0 {
			e.p.edit(e.file, site.Edit{Op: site.Delete, Path: site.Keys(e.b.Path, "style", en.Key)})
			e.p.note("the style of %s went with it", en.Key)
			continue
		}
		t.Index = to(t.Index-1) + 1
		old, now = append(old, en.Key), append(now, styles.StyleKey(nil, t))
	}
	for i := range old { // two steps: one may take the place that another leaves
		e.renameStyle(old[i], now[i]+" at 1..1")
	}
	for i := range old {
		e.renameStyle(now[i]+" at 1..1", now[i])
		e.p.note("the style of %s followed and is that of %s now", old[i], now[i])
	}
}

func (e *entry) renameStyle(from, to string) {
	e.p.edit(e.file, site.Edit{Op: site.Rename, Path: site.Keys(e.b.Path, "style", from), Value: site.NewText(to)})
}

// renumberMarks lets the marks of a block follow the entries of the list.
func (e *entry) renumberMarks(key string, to func(i int) int) {
	have := e.b.Node.Get(key)
	if have == nil {
		return
	}
	prefix := display(e.list) + "["
	out := &site.Value{Kind: site.List}
	changed := false
	for _, v := range have.Items {
		rest, ok := strings.CutPrefix(v.Str(), prefix)
		number, tail, closed := strings.Cut(rest, "]")
		i, err := strconv.Atoi(number)
		if !ok || !closed || err != nil || to(i-1) == i-1 {
			out.Items = append(out.Items, v)
			continue
		}
		changed = true
		if k := to(i - 1); k >= 0 {
			out.Items = append(out.Items, site.NewText(fmt.Sprintf("%s%d]%s", prefix, k+1, tail)))
		}
	}
	path := site.Keys(e.b.Path, key)
	switch {
	case changed && len(out.Items) == 0:
		e.p.edit(e.file, site.Edit{Op: site.Delete, Path: path})
	case changed:
		e.p.edit(e.file, site.Edit{Op: site.Set, Path: path, Value: out})
	}
}
