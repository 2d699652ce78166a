package site

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"ziegel/core/diag"
)

var hostForm = regexp.MustCompile(`^[A-Za-z0-9]([A-Za-z0-9.-]*[A-Za-z0-9])?$`)

// hosts reads the names of hosts that sections of the site may ask.
func (s *Site) hosts(l *loader, v *Value) {
	for _, h := range l.listOf(v, "hosts", "hosts: [player.example]") {
		name := l.text(h, "a host")
		if !hostForm.MatchString(name) {
			l.add(l.f.Problem(h, "wrong-type", fmt.Sprintf("%q is not the name of a host", name),
				"a name without https:// and without a path", "player.example"))
			continue
		}
		s.Hosts = append(s.Hosts, strings.ToLower(name))
	}
}

// places reads where the site is published, by name. What a place is made of is read by who publishes.
func (s *Site) places(l *loader, v *Value) {
	if m := l.mapOf(v, "places", "live: folder:../out"); m != nil {
		for _, e := range m.Entries {
			s.Places = append(s.Places, NamedPlace{e.Key, strings.TrimSpace(l.text(e.Value, "a place")), e.Value})
		}
	}
}

var sizeForm = regexp.MustCompile(`^(\d+(?:\.\d+)?)\s*(B|kB|MB)?$`)

// budget reads how heavy a page may be.
func (s *Site) budget(l *loader, v *Value) {
	if m := l.mapOf(v, "budget", "page: 300 kB"); m != nil {
		l.keys(m, "a budget", "page")
		if x := m.Get("page"); x != nil {
			f := sizeForm.FindStringSubmatch(x.Str())
			if f == nil {
				l.add(
					l.f.Problem(
						x,
						"wrong-type",
						fmt.Sprintf("%q is no size", x.Str()),
						"a number and B, kB or MB",
						"300 kB",
					),
				)
				return
			}
			n, _ := strconv.ParseFloat(f[1], 64)
			s.PageBudget = int(n * map[string]float64{"": 1, "B": 1, "kB": 1e3, "MB": 1e6}[f[2]])
		}
	}
}

// The keys of the files, as they are read: of ziegel.yaml, of a page, of a block.
var (
	SiteKeys = []string{"name", "address", "language", "languages", "theme", "template", "trade", "ranges",
		"every-page", "favicon",
		"picture", "looks", "defaults", "turns", "accept", "tune", "hosts", "places", "budget", "host", "pages"}
	PageKeys = []string{"title", "description", "picture", "scheme", "brief", "blocks", "leave-out", "override",
		"defaults",
		"turns"}
	BlockKeys = []string{"name", "section", "options", "tone", "above", "below", "lane", "draft", "content",
		"without", "sample", "own", "style", "ground", "holds", "parked"}
)

func (s *Site) loadMain() diag.Problems {
	l := &loader{f: s.File}
	root := s.File.Root
	if root.Kind == Null {
		l.add(diag.Problem{Position: diag.Position{File: FileName, Line: 1, Column: 1}, Severity: diag.Error,
			Rule: "empty-file", Text: "the site file is empty", Expected: "at least a name", Try: "name: Larkspan"})
		return l.problems
	}
	if l.mapOf(root, "the site file", "name: Larkspan") == nil {
		return l.problems
	}
	l.keys(root, "a site", SiteKeys...)
	s.Name = l.text(root.Get("name"), "name")
	s.Address = strings.TrimSuffix(l.text(root.Get("address"), "address"), "/")
	s.Favicon = l.text(root.Get("favicon"), "favicon")
	l.text(root.Get("picture"), "picture") // read where the head of a page is made
	if s.Address != "" && !strings.HasPrefix(s.Address, "https://") && !strings.HasPrefix(s.Address, "http://") {
		l.add(l.f.Problem(root.Get("address"), "wrong-type", "the address is not a web address",
			"https:// and a host", "https://"+s.Address))
	}
	if t := l.text(root.Get("language"), "language"); t != "" {
		s.Language = t
		if !regexp.MustCompile(`^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$`).MatchString(t) {
			l.add(l.f.Problem(root.Get("language"), "wrong-type", fmt.Sprintf("%q is not a language tag", t),
				"a BCP 47 tag such as en, de or pt-BR", ""))
			s.Language = "en"
		}
	}
	s.languages(l, root.Get("languages"))
	s.Theme = l.text(root.Get("theme"), "theme")
	s.Template = l.text(root.Get("template"), "template")
	s.Trade = l.text(root.Get("trade"), "trade")
	s.ranges(l, root.Get("ranges"))
	s.looks(l, root.Get("looks"))
	s.Defaults = l.defaults(root.Get("defaults"))
	s.Turns = l.turns(root.Get("turns"))
	s.hosts(l, root.Get("hosts"))
	s.places(l, root.Get("places"))
	s.budget(l, root.Get("budget"))
	s.host(l, root.Get("host"))
	s.accept(l, root.Get("accept"))
	s.tune(l, root.Get("tune"))
	s.everyPage(l, root.Get("every-page"))
	return l.problems
}

// ranges reads the named spans of screen widths.
func (s *Site) ranges(l *loader, v *Value) {
	if r := l.mapOf(v, "ranges", "phone: ..599"); r != nil {
		s.Ranges = nil
		for _, e := range r.Entries {
			from, to, ok := ParseSpan(e.Value.Str())
			if !ok {
				l.add(l.f.Problem(e.Value, "bad-range", fmt.Sprintf("the range %q has no widths", e.Key),
					"..599, 600..1023 or 1024.. in CSS px", ""))
				continue
			}
			s.Ranges = append(s.Ranges, Range{e.Key, from, to})
		}
	}
}

// looks reads the shared looks.
func (s *Site) looks(l *loader, v *Value) {
	if m := l.mapOf(v, "looks", "lifted: {box-shadow: \"{shadow.float}\"}"); m != nil {
		for _, e := range m.Entries {
			switch {
			case !ValidName(e.Key):
				l.add(l.f.KeyProblem(e, "bad-name", fmt.Sprintf("%q cannot be the name of a shared look", e.Key),
					"small letters, digits and hyphens, beginning with a letter", ""))
			case l.mapOf(e.Value, "the shared look "+e.Key, "{padding: 2rem}") != nil:
				s.Styles = append(s.Styles, SharedStyle{e.Key, e.Value, e.KeyPos})
			}
		}
	}
}

// accept reads the findings that are meant so.
func (s *Site) accept(l *loader, list *Value) {
	for _, v := range l.listOf(list, "accept", "- {rule: lone-item, at: home/plans, because: it is meant so}") {
		if l.mapOf(v, "an accepted finding", "{rule: lone-item, at: home/plans, because: it is meant so}") == nil {
			continue
		}
		l.keys(v, "an accepted finding", "rule", "at", "because")
		a := Accepted{l.text(v.Get("rule"), "rule"), l.text(v.Get("at"), "at"),
			l.text(v.Get("because"), "because"), v}
		if a.Rule == "" || a.Because == "" {
			l.add(l.f.Problem(v, "missing-key", "an accepted finding needs a rule and a reason",
				"rule: and because:", ""))
			continue
		}
		s.Accepted = append(s.Accepted, a)
	}
}

// tune reads other limits and severities of rules.
func (s *Site) tune(l *loader, list *Value) {
	const tuned = "{rule: line-too-long, at: courses, limit: 100, because: the terms are set small}"
	for _, v := range l.listOf(list, "tune", "- "+tuned) {
		if l.mapOf(v, "a tuned rule", tuned) == nil {
			continue
		}
		l.keys(v, "a tuned rule", "rule", "at", "limit", "severity", "because")
		t := Tuned{Rule: l.text(v.Get("rule"), "rule"), At: l.text(v.Get("at"), "at"),
			Because: l.text(v.Get("because"), "because"), Severity: l.text(v.Get("severity"), "severity"), Node: v}
		if at := v.Get("limit"); at != nil {
			n, err := strconv.ParseFloat(at.Str(), 64)
			if err != nil || n < 0 {
				l.add(l.f.Problem(at, "wrong-type", fmt.Sprintf("the limit %q is no number", at.Str()),
					"a number such as 100", ""))
				continue
			}
			t.Limit = &n
		}
		switch {
		case t.Rule == "" || t.Because == "" || t.Limit == nil && t.Severity == "":
			l.add(l.f.Problem(v, "missing-key",
				"a tuned rule needs a rule, a limit or severity, and a reason", tuned, ""))
		case t.Severity != "" && !has([]string{"error", "warning", "note"}, t.Severity):
			l.add(l.f.Problem(v.Get("severity"), "wrong-type", fmt.Sprintf("there is no severity %q", t.Severity),
				"error, warning or note", diag.Nearest(t.Severity, []string{"error", "warning", "note"})))
		default:
			s.Tuned = append(s.Tuned, t)
		}
	}
}

// everyPage reads the blocks that stand on every page.
func (s *Site) everyPage(l *loader, v *Value) {
	if ep := l.mapOf(v, "every-page", "top: [...]"); ep != nil {
		l.keys(ep, "every-page", "top", "bottom")
		seen := map[string]*Value{}
		for _, where := range []string{"top", "bottom"} {
			for i, it := range l.listOf(ep.Get(where), where, "- {name: menu, section: nav/bar}") {
				if b := l.block(it, Keys("every-page", where, i), seen); b != nil {
					b.onEveryPage(where)
					if where == "top" {
						s.Top = append(s.Top, b)
					} else {
						s.Bottom = append(s.Bottom, b)
					}
				}
			}
		}
	}
}

// ParseSpan reads 480..719, ..599, 1024.. or 720: widths in CSS px, both ends included; to is 0 without an end.
func ParseSpan(s string) (from, to int, ok bool) {
	a, z, dots := strings.Cut(strings.TrimSpace(s), "..")
	num := func(t string) (int, bool) {
		t = strings.TrimSuffix(strings.TrimSpace(t), "px")
		if t == "" {
			return 0, true
		}
		n, err := strconv.Atoi(t)
		return n, err == nil && n >= 0
	}
	from, ok1 := num(a)
	if !dots {
		return from, from, ok1 && a != ""
	}
	to, ok2 := num(z)
	return from, to, ok1 && ok2 && (a != "" || z != "") && (to == 0 || to >= from)
}

// everyNames lists the blocks on every page, those that they hold included.
func (s *Site) everyNames() []string {
	var out []string
	var add func(list []*Block)
	add = func(list []*Block) {
		for _, b := range list {
			out = append(out, b.Name)
			for _, h := range b.Holds {
				add(h.Blocks)
			}
		}
	}
	add(s.Top)
	add(s.Bottom)
	return out
}

// everywhere reports whether a name is that of a block on every page; what is not is told.
func (s *Site) everywhere(l *loader, v *Value, name string) bool {
	names := s.everyNames()
	if has(names, name) {
		return true
	}
	l.add(l.f.Problem(v, "unknown-block", fmt.Sprintf("no block on every page is called %q", name),
		"one of "+strings.Join(names, ", "), diag.Nearest(name, names)))
	return false
}

func (s *Site) loadPage(p *Page) diag.Problems {
	l := &loader{f: p.File}
	root := p.File.Root
	if !ValidName(p.Name) {
		l.add(diag.Problem{Position: diag.Position{File: p.File.Path}, Severity: diag.Error, Rule: "bad-name",
			Text: fmt.Sprintf("%q cannot be a page name", p.Name), Expected: "small letters, digits and hyphens"})
	}
	if p.Name == "site" {
		l.add(diag.Problem{Position: diag.Position{File: p.File.Path}, Severity: diag.Error, Rule: "bad-name",
			Text:     `"site" cannot be a page name: the stylesheet of all pages is called so`,
			Expected: "another name for the file"})
	}
	if root.Kind == Null {
		return append(l.problems, diag.Problem{Position: diag.Position{File: p.File.Path, Line: 1, Column: 1},
			Severity: diag.Warning, Rule: "empty-file", Text: "the page file is empty",
			Expected: "a title and a list of blocks"})
	}
	if l.mapOf(root, "a page", "title: Home") == nil {
		return l.problems
	}
	l.keys(root, "a page", PageKeys...)
	p.Title = l.text(root.Get("title"), "title")
	p.Description = l.text(root.Get("description"), "description")
	l.text(root.Get("picture"), "picture")
	p.Scheme = l.scheme(root.Get("scheme"))
	for _, v := range l.listOf(root.Get("leave-out"), "leave-out", "[banner]") {
		if name := l.text(v, "a name"); s.everywhere(l, v, name) {
			p.LeaveOut = append(p.LeaveOut, name)
		}
	}
	p.Defaults = l.defaults(root.Get("defaults"))
	p.Turns = l.turns(root.Get("turns"))
	p.Override = map[string]*Value{}
	if o := l.mapOf(root.Get("override"), "override", "menu: {brand: Larkspan}"); o != nil {
		for _, e := range o.Entries {
			if names := s.everyNames(); !has(names, e.Key) {
				l.add(l.f.KeyProblem(e, "unknown-block", fmt.Sprintf("no block on every page is called %q", e.Key),
					"one of "+strings.Join(names, ", "), diag.Nearest(e.Key, names)))
				continue
			}
			if m := l.mapOf(e.Value, "the content for "+e.Key, "heading: ..."); m != nil {
				p.Override[e.Key] = m
			}
		}
	}
	for _, v := range l.listOf(root.Get("brief"), "brief", "- {want: three reasons}") {
		if v.Kind == Text {
			p.Brief = append(p.Brief, Want{Text: v.Text, Node: v})
			continue
		}
		if l.mapOf(v, "a wish", "{want: three reasons}") != nil {
			l.keys(v, "a wish", "want", "block")
			p.Brief = append(p.Brief, Want{Text: l.text(v.Get("want"), "want"),
				Block: l.text(v.Get("block"), "block"), Node: v})
		}
	}
	seen := map[string]*Value{}
	for _, list := range [][]*Block{s.Top, s.Bottom} {
		for _, b := range list {
			b.names(seen)
		}
	}
	for i, v := range l.listOf(root.Get("blocks"), "blocks", "- {name: opening, section: hero/beside}") {
		if b := l.block(v, Keys("blocks", i), seen); b != nil {
			p.Blocks = append(p.Blocks, b)
		}
	}
	return l.problems
}

// BlockOf gives a block of a map as pages have them, nil for what is none. Where the map stands does not matter.
func BlockOf(f *File, v *Value) *Block { return (&loader{f: f}).block(v, nil, map[string]*Value{}) }

func (l *loader) block(v *Value, at Path, seen map[string]*Value) *Block {
	if l.mapOf(v, "a block", "{name: opening, section: hero/beside}") == nil {
		if v.Kind == Null {
			l.add(l.f.Problem(v, "wrong-type", "a block without anything in it", "name: and section:", ""))
		}
		return nil
	}
	l.keys(v, "a block", BlockKeys...)
	b := &Block{Node: v, Path: at, File: l.f, Options: map[string]*Value{}}
	b.Name = l.text(v.Get("name"), "name")
	b.Section = l.text(v.Get("section"), "section")
	b.Tone, b.Lane = l.text(v.Get("tone"), "tone"), l.text(v.Get("lane"), "lane")
	b.Above, b.Below = v.Get("above"), v.Get("below")
	for what, d := range map[string]*Value{"above": b.Above, "below": b.Below} {
		l.text(d, what)
	}
	b.Content = l.mapOf(v.Get("content"), "content", "heading: Made for real wind")
	b.Style = l.mapOf(v.Get("style"), "style", "card: {padding: 2rem}")
	b.Ground = l.mapOf(v.Get("ground"), "ground", "{picture: dunes.svg}")
	b.Parked = v.Get("parked")
	b.Draft = l.yes(v.Get("draft"), "draft")
	b.Without = l.listOf(v.Get("without"), "without", "[eyebrow]")
	b.Seeded = l.listOf(v.Get("sample"), "sample", "[items]")
	b.Own = l.listOf(v.Get("own"), "own", "[items[2].price]")
	b.Options = l.options(v.Get("options"))
	switch {
	case b.Section == "" && v.Get("section") == nil:
		l.add(l.f.Problem(v, "missing-key", "a block without a section",
			"section: KIND/NAME; `ziegel sections` lists them", ""))
		return nil
	case b.Name == "" && v.Get("name") == nil:
		l.add(l.f.Problem(v, "missing-key", "a block without a name", "name: and a word of your own",
			"name: "+strings.SplitN(b.Section, "/", 2)[0]))
		return nil
	case !ValidName(b.Name):
		l.add(l.f.Problem(v.Get("name"), "bad-name", fmt.Sprintf("%q cannot be a block name", b.Name),
			"small letters, digits and hyphens, beginning with a letter", ""))
		return nil
	}
	if old := seen[b.Name]; old != nil {
		l.add(l.f.Problem(v.Get("name"), "duplicate-name", fmt.Sprintf("a second block is called %q", b.Name),
			fmt.Sprintf("each name once on a page; the first is at %s", old.Pos), b.Name+"-2"))
		return nil
	}
	seen[b.Name] = v
	l.holds(b, seen)
	return b
}

// maxDepth is how deep blocks may stand in each other.
const maxDepth = 4

// holds reads the blocks that a block holds, slot by slot.
func (l *loader) holds(b *Block, seen map[string]*Value) {
	v := b.Node.Get("holds")
	m := l.mapOf(v, "holds", "{left: [{name: story, section: piece/text}]}")
	if m == nil {
		return
	}
	if l.depth++; l.depth > maxDepth {
		l.add(l.f.Problem(v, "too-deep", fmt.Sprintf("%q stands in %d others and holds more blocks", b.Name,
			maxDepth-1), "blocks in blocks a few deep", ""))
	} else {
		for _, e := range m.Entries {
			slot := Slot{Name: e.Key, KeyPos: e.KeyPos}
			for i, it := range l.listOf(e.Value, "the slot "+e.Key, "- {name: story, section: piece/text}") {
				if h := l.block(it, Keys(b.Path, "holds", e.Key, i), seen); h != nil {
					h.Within, h.Slot = b.Name, e.Key
					slot.Blocks = append(slot.Blocks, h)
				}
			}
			b.Holds = append(b.Holds, slot)
		}
	}
	l.depth--
}

// scheme reads the colors that a page has for everybody.
func (l *loader) scheme(v *Value) string {
	s := l.text(v, "scheme")
	if s != "" && s != "dark" && s != "light" {
		l.add(l.f.Problem(v, "bad-value", fmt.Sprintf("a page cannot be %q for everybody", s), "dark or light",
			diag.Nearest(s, []string{"dark", "light"})))
		return ""
	}
	return s
}

// turns reads what blocks take turns in.
func (l *loader) turns(v *Value) []Turn {
	const example = "{tone: [plain, tinted], media: [right, left]}"
	m := l.mapOf(v, "turns", example)
	if m == nil {
		return nil
	}
	var out []Turn
	for _, e := range m.Entries {
		t := Turn{Name: e.Key, KeyPos: e.KeyPos, File: l.f}
		for _, it := range l.listOf(e.Value, "the turns of "+e.Key, "[plain, tinted]") {
			if l.text(it, "a turn") != "" {
				t.Values = append(t.Values, it)
			}
		}
		out = append(out, t)
	}
	return out
}
