package edit

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
)

// RangeText writes the widths of a range as designers do: 480..719, ..479, 1080...
func RangeText(r site.Range) string {
	from, to := "", ""
	if r.From > 0 {
		from = strconv.Itoa(r.From)
	}
	if r.To > 0 {
		to = strconv.Itoa(r.To)
	}
	return from + ".." + to
}

// RangeUse is a place that speaks of a range.
type RangeUse struct {
	Where string
	file  string
	path  site.Path // of the map
	key   string    // in it
	page  string    // "" for all
	block string
}

// RangeUses lists the keys that speak of a range: in styles and options of blocks and defaults, and in shared looks.
func RangeUses(e *project.Project, name string) []RangeUse {
	var out []RangeUse
	speaks := func(key string) bool {
		_, at, ok := strings.Cut(" "+key, " at ")
		return ok && strings.TrimSpace(at) == name
	}
	scan := func(v *site.Value, u RangeUse) {
		if v == nil {
			return
		}
		for _, en := range v.Entries {
			if speaks(en.Key) {
				x := u
				x.key, x.Where = en.Key, u.Where+" "+en.Key
				out = append(out, x)
			}
		}
	}
	seen := map[*site.Value]bool{}
	for _, p := range e.Site.Pages() {
		for _, b := range e.Site.All(p) {
			if seen[b.Node] {
				continue
			}
			seen[b.Node] = true
			u := RangeUse{Where: p.Name + "/" + b.Name, file: b.File.Path, page: p.Name, block: b.Name}
			u.path = site.Keys(b.Path, "style")
			scan(b.Style, u)
			u.path = site.Keys(b.Path, "options")
			scan(b.Node.Get("options"), u)
			u.path = site.Keys(b.Path, "content")
			eachMap(b.Content, u.path, func(v *site.Value, at site.Path) {
				u.path = at
				scan(v, u)
			})
		}
	}
	defaults := func(list []site.Default, file, page string) {
		for _, d := range list {
			u := RangeUse{Where: "every " + d.Section, file: file, page: page}
			u.path = site.Keys("defaults", d.Section, "style")
			scan(d.Style, u)
			u.path = site.Keys("defaults", d.Section, "options")
			scan(d.Node.Get("options"), u)
		}
	}
	defaults(e.Site.Defaults, site.FileName, "")
	for _, p := range e.Site.Pages() {
		defaults(p.Defaults, p.File.Path, p.Name)
	}
	for _, s := range e.Site.Styles {
		scan(s.Value, RangeUse{Where: "the shared look " + s.Name, file: site.FileName,
			path: site.Keys("looks", s.Name)})
	}
	return out
}

// eachMap visits the maps in a value: pictures stand at any depth of the content.
func eachMap(v *site.Value, at site.Path, visit func(v *site.Value, at site.Path)) {
	switch {
	case v == nil:
	case v.Kind == site.List:
		for i, it := range v.Items {
			eachMap(it, site.Keys(at, i), visit)
		}
	case v.Kind == site.Map:
		visit(v, at)
		for _, e := range v.Entries {
			eachMap(e.Value, site.Keys(at, e.Key), visit)
		}
	}
}

// writeRanges puts the ranges into the site's file: all of them, when it names none yet.
func writeRanges(p *Plan, list []site.Range) {
	v := &site.Value{Kind: site.Map}
	for _, r := range list {
		v.Entries = append(v.Entries, site.Entry{Key: r.Name, Value: site.NewText(RangeText(r))})
	}
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("ranges"), Value: v})
}

func (p *Plan) ownRanges() bool { return p.Env.Site.File.Root.Get("ranges") != nil }

// SetRanges adds ranges and moves those that are there, by NAME=WIDTHS.
func SetRanges(p *Plan, args []string) error {
	list, err := address.Pairs(args)
	if err != nil {
		return fmt.Errorf("%w; for ranges: tablet=600..899", err)
	}
	now := slices.Clone(p.Env.Site.Ranges)
	var done []string
	for _, kv := range list {
		from, to, ok := site.ParseSpan(kv[1])
		if !ok || !strings.Contains(kv[1], "..") {
			return fmt.Errorf("%q are no widths: write ..599, 600..1023 or 1024.. in CSS px", kv[1])
		}
		if !site.ValidName(kv[0]) {
			return fmt.Errorf("%q cannot be the name of a range: use small letters, digits and hyphens", kv[0])
		}
		r := site.Range{Name: kv[0], From: from, To: to}
		i := slices.IndexFunc(now, func(x site.Range) bool { return x.Name == kv[0] })
		if i < 0 {
			now = append(now, r)
			done = append(done, "added "+kv[0]+" ("+RangeText(r)+")")
		} else {
			done = append(done, fmt.Sprintf("moved %s to %s (was %s)", kv[0], RangeText(r), RangeText(now[i])))
			now[i] = r
		}
		if p.ownRanges() {
			p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("ranges", kv[0]),
				Value: site.NewText(RangeText(r))})
		}
		p.touchRange(kv[0])
	}
	if !p.ownRanges() {
		writeRanges(p, now)
	}
	p.Done = strings.Join(done, ", ")
	for _, g := range gaps(now) {
		p.note("%s", g)
	}
	return nil
}

// gaps tells of widths that no range names, and of those that two do.
func gaps(list []site.Range) []string {
	sorted := slices.Clone(list)
	slices.SortFunc(sorted, func(a, b site.Range) int { return a.From - b.From })
	var out []string
	for i, b := range sorted {
		reach := -1 // the widest that those before name; 0 for no end
		for _, a := range sorted[:i] {
			if a.To == 0 || a.To >= b.From {
				out = append(out,
					fmt.Sprintf("%s and %s share widths; where both speak, the one with the smaller upper end wins",
						a.Name, b.Name))
			}
			if reach != 0 {
				reach = max(reach, a.To)
			}
			if a.To == 0 {
				reach = 0
			}
		}
		if reach > 0 && reach+1 < b.From {
			out = append(out, fmt.Sprintf("no range names %d..%d", reach+1, b.From-1))
		}
	}
	return out
}

// touchRange notes the blocks whose styles speak of a range.
func (p *Plan) touchRange(name string) {
	for _, u := range RangeUses(p.Env, name) {
		for _, page := range p.Env.Site.Pages() {
			for _, b := range p.Env.Site.All(page) {
				reaches := u.block == "" && (u.page == "" || u.page == page.Name) ||
					u.block == b.Name && u.page == page.Name
				if reaches {
					p.Touch(page.Name, b.Name)
				}
			}
		}
	}
}

// speak makes every use of a range speak of something else.
func speak(p *Plan, uses []RangeUse, to string) {
	for _, u := range uses {
		head, _, _ := strings.Cut(" "+u.key, " at ")
		key := strings.TrimSpace(strings.TrimSpace(head) + " at " + to)
		p.edit(u.file, site.Edit{Op: site.Rename, Path: append(slices.Clone(u.path), site.Keys(u.key)...),
			Value: site.NewText(key)})
	}
}

// RenameRange gives a range another name, by OLD=NEW, wherever it is spoken of.
func RenameRange(p *Plan, arg string) error {
	old, name, ok := strings.Cut(arg, "=")
	if !ok || !site.ValidName(name) {
		return errors.New("write --rename OLD=NEW, such as phone=handset")
	}
	now := slices.Clone(p.Env.Site.Ranges)
	i := slices.IndexFunc(now, func(r site.Range) bool { return r.Name == old })
	if i < 0 {
		return diag.Unknown("range", old, p.Env.RangeNames(), "")
	}
	if slices.Contains(p.Env.RangeNames(), name) {
		return fmt.Errorf("there is a range %s already", name)
	}
	uses := RangeUses(p.Env, old)
	p.touchRange(old)
	if p.ownRanges() {
		p.edit(site.FileName, site.Edit{Op: site.Rename, Path: site.Keys("ranges", old), Value: site.NewText(name)})
	} else {
		now[i].Name = name
		writeRanges(p, now)
	}
	speak(p, uses, name)
	p.Done = fmt.Sprintf("renamed the range %s to %s in %s", old, name, diag.Plural(len(uses), "place"))
	return nil
}

// RemoveRange takes a range away. instead is what its uses speak of then; without it a range in use is refused.
func RemoveRange(p *Plan, name, instead string) error {
	now := slices.Clone(p.Env.Site.Ranges)
	i := slices.IndexFunc(now, func(r site.Range) bool { return r.Name == name })
	if i < 0 {
		return diag.Unknown("range", name, p.Env.RangeNames(), "")
	}
	uses := RangeUses(p.Env, name)
	if len(uses) > 0 && instead == "" {
		var names []string
		for _, u := range uses {
			names = append(names, u.Where)
		}
		return fmt.Errorf("the range %s is in use: %s. --instead names a range or widths that they speak of then: --instead %s", name, strings.Join(names, ", "), RangeText(now[i]))
	}
	if instead != "" {
		if _, _, ok := p.Env.Span(instead); !ok || instead == name {
			return diag.Unknown("range", instead, p.Env.RangeNames(), "")
		}
	}
	if len(now) == 1 {
		return errors.New("the last range stays")
	}
	p.touchRange(name)
	speak(p, uses, instead)
	if p.ownRanges() {
		p.edit(site.FileName, site.Edit{Op: site.Delete, Path: site.Keys("ranges", name)})
	} else {
		writeRanges(p, slices.Delete(now, i, i+1))
	}
	p.Done = "removed the range " + name
	if len(uses) > 0 {
		p.Done += fmt.Sprintf("; what spoke of it (%s) speaks of %s now", diag.Plural(len(uses), "place"), instead)
	}
	return nil
}
