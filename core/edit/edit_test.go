package edit_test

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/aymanbagabas/go-udiff"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/edit"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "write testdata/edits.txt anew")

// lines tells how a file changes: the lines that go and come.
func lines(c site.FileChange) string {
	switch {
	case c.Gone:
		return "  " + c.Path + " goes\n"
	case c.New && len(c.After) > 600:
		return fmt.Sprintf("  %s is new\n", c.Path)
	}
	out := "  " + c.Path + "\n"
	diff, err := udiff.ToUnified("", "", c.Before, udiff.Strings(c.Before, c.After), 0)
	if err != nil {
		return err.Error()
	}
	n := 0
	for _, l := range strings.Split(strings.TrimSuffix(diff, "\n"), "\n")[2:] {
		if strings.HasPrefix(l, "@@") || strings.HasPrefix(l, "\\") {
			continue
		}
		if n++; n <= 16 {
			out += strings.TrimRight("  "+l[:1]+" "+l[1:], " ") + "\n"
		}
	}
	if n > 16 {
		out += fmt.Sprintf("  and %d lines more\n", n-16)
	}
	return out
}

// outcome tells all that an edit answers.
func outcome(env *project.Project, store store.Store, do func(p *edit.Plan) error) string {
	p := edit.New(env, store)
	var changes []site.FileChange
	var after *project.Project
	err := do(p)
	if err == nil {
		changes, after, err = p.Work()
	}
	if err != nil {
		return "  refused: " + strings.ReplaceAll(err.Error(), "\n", "\n    ") + "\n"
	}
	if len(changes) == 0 {
		return "  nothing to change\n"
	}
	out := "  " + p.Done + "\n"
	for _, n := range p.Notes {
		line := n.Text
		if n.Severity != "" {
			line = n.At.String() + ": " + string(n.Severity) + ": " + line
		}
		out += "  note: " + line + "\n"
	}
	for _, f := range p.After {
		for _, n := range f(after) {
			out += "  then: " + n + "\n"
		}
	}
	for _, c := range changes {
		out += lines(c)
	}
	return out
}

type call struct {
	name string
	do   func(p *edit.Plan) error
}

func set(where string, args ...string) call {
	return call{"set " + where + " " + strings.Join(args, " "),
		func(p *edit.Plan) error { return edit.Set(p, where, args, edit.Pictures{}, nil) }}
}

// entry is an edit of an entry of a list: what is done, to which, where to.
func entry(words string, at ...edit.Spot) call {
	at = append(at, edit.Spot{})
	verb, arg, _ := strings.Cut(words, " ")
	return call{strings.TrimSuffix(fmt.Sprintf("%s %+v", words, at[:len(at)-1]), " []"), func(p *edit.Plan) error {
		switch verb {
		case "remove":
			return edit.Remove(p, arg)
		case "move":
			return edit.Move(p, arg, at[0], "")
		}
		return edit.Copy(p, arg, "", "", at[0])
	}}
}

func style(sc edit.Scope, args ...string) call {
	if sc.Scope == "" {
		sc.Scope = "block"
	}
	if sc.Of == "" {
		sc.Of = "block"
	}
	name := fmt.Sprintf("style %s %+v", strings.Join(args, " "), sc)
	return call{name, func(p *edit.Plan) error { return edit.Style(p, args, sc) }}
}

func tokens(args ...string) call {
	return call{"theme " + strings.Join(args, " "), func(p *edit.Plan) error {
		return edit.Tokens(p, func(t *edit.TokenFiles) error { return t.Set(args) }, "changed", false)
	}}
}

var calls = []call{
	{"move voices before plans", func(p *edit.Plan) error {
		return edit.Move(p, "home/voices",
			edit.Spot{Before: "plans"}, "")
	}},
	{"move voices first", func(p *edit.Plan) error { return edit.Move(p, "home/voices", edit.Spot{First: true}, "") }},
	{"move opening last", func(p *edit.Plan) error { return edit.Move(p, "home/opening", edit.Spot{Last: true}, "") }},
	{"move opening after nope", func(p *edit.Plan) error {
		return edit.Move(p, "home/opening", edit.Spot{After: "nope"},
			"")
	}},
	{"move opening nowhere", func(p *edit.Plan) error { return edit.Move(p, "home/opening", edit.Spot{}, "") }},
	{"move opening into plans", func(p *edit.Plan) error {
		return edit.Move(p, "home/opening", edit.Spot{},
			"plans.left")
	}},
	{"move menu first", func(p *edit.Plan) error { return edit.Move(p, "home/menu", edit.Spot{First: true}, "") }},
	{"move a part", func(p *edit.Plan) error { return edit.Move(p, "home/plans.card", edit.Spot{First: true}, "") }},
	{"copy plans", func(p *edit.Plan) error { return edit.Copy(p, "home/plans", "", "", edit.Spot{}) }},
	{"copy opening to courses as start, last", func(p *edit.Plan) error {
		return edit.Copy(p, "home/opening", "courses", "start", edit.Spot{Last: true})
	}},
	{"copy onto a name that is taken", func(p *edit.Plan) error {
		return edit.Copy(p, "home/opening", "courses",
			"opening", edit.Spot{})
	}},
	{"rename reasons why", func(p *edit.Plan) error { return edit.Rename(p, "home/reasons", "why") }},
	{"rename foot base", func(p *edit.Plan) error { return edit.Rename(p, "home/foot", "base") }},
	{"rename plans Plans", func(p *edit.Plan) error { return edit.Rename(p, "home/plans", "Plans") }},
	{"remove reasons", func(p *edit.Plan) error { return edit.Remove(p, "home/reasons") }},
	{"remove foot", func(p *edit.Plan) error { return edit.Remove(p, "home/foot") }},
	{"replace opening by hero/under", func(p *edit.Plan) error {
		return edit.Replace(p, "home/opening",
			"hero/under")
	}},
	{"replace plans by statistics/row", func(p *edit.Plan) error {
		return edit.Replace(p, "home/plans",
			"statistics/row")
	}},
	{"replace by itself", func(p *edit.Plan) error { return edit.Replace(p, "home/opening", "hero/beside") }},
	{"replace by none", func(p *edit.Plan) error { return edit.Replace(p, "home/opening", "hero/besides") }},
	{"keep plans", func(p *edit.Plan) error {
		return edit.Keep(p, "home/plans", "pricing/tickets", "What a weekend costs", false)
	}},
	{"keep under no name", func(p *edit.Plan) error { return edit.Keep(p, "home/plans", "Tickets", "", false) }},
	{"keep under a name that is taken", func(p *edit.Plan) error {
		return edit.Keep(p, "home/plans", "pricing/plans",
			"", false)
	}},
	{"add to home", func(p *edit.Plan) error {
		return edit.Add(p, "home", "newsletter/line", "",
			edit.Spot{After: "plans"})
	}},
	{"add to a new page", func(p *edit.Plan) error {
		return edit.Add(p, "winter-plans", "hero/beside", "",
			edit.Spot{})
	}},
	{"add one that holds others", func(p *edit.Plan) error {
		return edit.Add(p, "courses", "layout/columns", "",
			edit.Spot{First: true})
	}},
	{"add to a page without a name", func(p *edit.Plan) error {
		return edit.Add(p, "Winter", "hero/beside", "",
			edit.Spot{})
	}},

	{"page add", func(p *edit.Plan) error {
		return edit.AddPage(p, "winter", "", []string{"hero/beside", "hero/under", "pricing/plans"})
	}},
	{"page add, empty", func(p *edit.Plan) error { return edit.AddPage(p, "winter", "Kites in winter", nil) }},
	{"page add home", func(p *edit.Plan) error { return edit.AddPage(p, "home", "", nil) }},
	{"page add Winter", func(p *edit.Plan) error { return edit.AddPage(p, "Winter", "", nil) }},
	{"page add with no such section", func(p *edit.Plan) error {
		return edit.AddPage(p, "winter", "",
			[]string{"hero/besid"})
	}},
	{"page copy", func(p *edit.Plan) error { return edit.CopyPage(p, "courses", "winter", "") }},
	{"page copy onto one", func(p *edit.Plan) error { return edit.CopyPage(p, "courses", "home", "") }},
	{"page rename", func(p *edit.Plan) error { return edit.RenamePage(p, "courses", "weekends") }},
	{"page rename home", func(p *edit.Plan) error { return edit.RenamePage(p, "home", "start") }},
	{"page remove", func(p *edit.Plan) error { return edit.RemovePage(p, "courses") }},
	{"page remove none", func(p *edit.Plan) error { return edit.RemovePage(p, "course") }},
	{"order", func(p *edit.Plan) error { return edit.Order(p, "courses", []string{"menu", "prices", "opening"}) }},
	{"order, some", func(p *edit.Plan) error { return edit.Order(p, "home", []string{"voices"}) }},
	{"order, one twice", func(p *edit.Plan) error { return edit.Order(p, "home", []string{"voices", "voices"}) }},
	{"order, none such", func(p *edit.Plan) error { return edit.Order(p, "home", []string{"voice"}) }},
	{"order as it is", func(p *edit.Plan) error { return edit.Order(p, "home", []string{"opening", "reasons"}) }},
	{"add to every page", func(p *edit.Plan) error { return edit.AddToEveryPage(p, "announcement/line", "") }},
	{"add a second footer to every page", func(p *edit.Plan) error {
		return edit.AddToEveryPage(p, "footer/columns",
			"")
	}},
	{"add to every page under a name of one page", func(p *edit.Plan) error {
		return edit.AddToEveryPage(p,
			"newsletter/line", "prices")
	}},
	{"reset tone and a field", func(p *edit.Plan) error {
		return edit.Reset(p, "home/plans", []string{"tone",
			"heading"})
	}},
	{"reset an entry's field", func(p *edit.Plan) error {
		return edit.Reset(p, "home/plans.items[2]",
			[]string{"link"})
	}},
	{"reset what is not there", func(p *edit.Plan) error {
		return edit.Reset(p, "home/plans",
			[]string{"options.columns"})
	}},
	{"reset what cannot be", func(p *edit.Plan) error {
		return edit.Reset(p, "home/plans",
			[]string{"options.colums"})
	}},
	set("home/opening", "heading=Made for _gusts_"),
	set("home/opening", "heading=Made for _real_ wind"),
	set("home/opening", "headings=x"),
	set("home/opening", "media=loft.svg"),
	set("home/opening", "media.alt=A loft", "media.focus="),
	set("home/opening", "media.file at phone=loft.svg", "media.focus at phone=50% 20%"),
	set("home/opening", "media.alt at phone=x"),
	set("home/opening", "media.file at watch=loft.svg"),
	set("home/opening", "actions[1].label=Go"),
	set("home/opening", "actions[3].label=Ask", "actions[3].to=mailto:hello@larkspan.example"),
	set("home/opening", "actions[1].to=courses/prices", "actions[2].to=home/plans"),
	set("home/opening", "actions[1].to=courses/nope"),
	set("home/opening", "actions[4].label=Ask"),
	set("home/opening", "actions[0].label=Ask"),
	set("home/opening", "actions[2]=Ask us"),
	set("home/opening", "actions[3]=Ask us"),
	set("home/opening", "actions[2]="),
	set("home/opening", "actions=x"),
	set("home/opening", "options.media=left", "options.picture-ratio at phone=1:1"),
	set("home/opening", "media=left"),
	set("home/opening", "tone=deep", "above={space.far}"),
	set("home/plans", "tone="),
	set("home/opening", "ground.color=red/*"),
	set("home/opening", "ground=red"),
	set("home/plans", "items[2].title=Delta days", "items[2].points[1]=Yours"),
	set("home/plans", "items[2].points[9]=Yours"),
	set("home/plans", "items[2].price.amount=2"),
	set("home/plans", "items[2].price.amount=2", "items[2].price.currency=EUR"),
	set("home/plans", "items[2].price.sum=2"),
	set("home/reasons", "items.limit=2"),
	set("home/reasons", "items.from=data/team.csv"),
	set("home/reasons", "items.from=data/team.csv", "items.limit=2", "items.sort=-title", "items.where.role=cutter"),
	set("home/reasons", "items.from=data/team.csv", "items.limit=2", "items.limit="),
	set("home/reasons", "items.from=data/team.csv", "items.from="),
	set("home/reasons", "items.from="),
	set("home/reasons", "items.from=data/team.csv", "items.where=Ida"),
	set("home/reasons", "items.from=data/team.csv", "items.sort.name=up"),
	set("home/foot", "text=Kites"),
	set("home/voices", "items[1].media=people/tomas.svg"),
	set("home/voices", "items[1].quote=It flew.", "items[1].name=Ines"),
	set("home", "title=Kites", "description="),
	set("home", "name=Kites"),
	set("courses/prices", "lead=Long"),
	set("home/voices", "items[1].media=people/tomas.svg", "items[1].media.file at phone=loft.svg"),
	set("home/plans", "items[+].title=Loft night", "items[+].text=Tea at nine", "items[+].title=Sand day"),
	set("home/plans.items[2]", "title=Delta days", "price=€250"),
	set("home/plans.card[2]", "title=Delta days"),
	set("home/plans.card[2].title=Delta days"),
	set("home/plans.card[9]", "title=Delta days"),
	set("home/plans.card", "title=Delta days"),
	set("courses/prices.items[+].title=Loft night"),
	entry("remove home/reasons.items[2]"),
	entry("remove home/reasons.card[2]"),
	entry("remove home/plans.items[2].points[3]"),
	entry("remove home/plans.point[4]"),
	entry("remove home/reasons.card[9]"),
	entry("remove home/reasons.items"),
	entry("remove home/reasons.heading"),
	entry("remove home/reasons.items[1].title"),
	entry("remove courses/prices.items[1]"),
	entry("move home/reasons.items[3]", edit.Spot{First: true}),
	entry("move home/reasons.items[1]", edit.Spot{After: "2"}),
	entry("move home/reasons.items[1]", edit.Spot{Before: "items[3]"}),
	entry("move home/reasons.items[1]", edit.Spot{Before: "1"}),
	entry("move home/reasons.items[1]", edit.Spot{Before: "7"}),
	entry("move home/reasons.items[1]"),
	entry("copy home/reasons.items[2]"),
	entry("copy home/reasons.items[2]", edit.Spot{Last: true}),
	{"own sample words", func(p *edit.Plan) error {
		return edit.Set(p, "home/plans", nil, edit.Pictures{},
			[]string{"items[7]"})
	}},

	style(edit.Scope{}, "home/plans.card", "padding={space.4}", "border-radius=12px"),
	style(edit.Scope{At: "phone"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{At: "840"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{}, "home/voices.text", "padding=1rem"),
	style(edit.Scope{When: "stacked"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{State: "hover"}, "home/plans.card", "background-color=#fff"),
	style(edit.Scope{In: "..480"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{Scope: "page"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{Scope: "section"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{Scope: "look loud"}, "letter-spacing=.1em"),
	style(edit.Scope{}, "home/plans.card[2]", "padding=1rem"),
	style(edit.Scope{}, "home/plans.card[99]", "padding=1rem"),
	style(edit.Scope{}, "home/plans.card.padding=1rem"),
	style(edit.Scope{}, "home/plans", "card.padding=1rem", "card.gap=2px"),
	style(edit.Scope{}, "home/plans", "card", "padding=1rem"),
	style(edit.Scope{}, "home/plans.title", "font-family=Nowhere Sans"),
	style(edit.Scope{}, "home/plans.card", "use=hover-lift, enter-fade"),
	style(edit.Scope{}, "home/plans.card", "use=hover-lfit"),
	style(edit.Scope{From: "home/plans.card", Scope: "look", Name: "ticket"}),
	style(edit.Scope{}, "home/plans.card", "paddng=1rem"),
	style(edit.Scope{}, "home/plans.card", "padding=1rm"),
	style(edit.Scope{At: "watch"}, "home/plans.card", "padding=1rem"),
	style(edit.Scope{Reset: true}, "home/plans.card", "padding"),
	style(edit.Scope{From: "home/reasons.card"}, "home/plans.card"),
	style(edit.Scope{Move: true, Scope: "section"}, "home/plans.card", "padding"),

	{"ranges watch=..319", func(p *edit.Plan) error { return edit.SetRanges(p, []string{"watch=..319"}) }},
	{"ranges tablet=600..899 desktop=900..", func(p *edit.Plan) error {
		return edit.SetRanges(p,
			[]string{"tablet=600..899", "desktop=900.."})
	}},
	{"ranges tablet=900..600", func(p *edit.Plan) error { return edit.SetRanges(p, []string{"tablet=900..600"}) }},
	{"rename range phone=handset", func(p *edit.Plan) error { return edit.RenameRange(p, "phone=handset") }},
	{"rename range watch=x", func(p *edit.Plan) error { return edit.RenameRange(p, "watch=x") }},
	{"remove range phone", func(p *edit.Plan) error { return edit.RemoveRange(p, "phone", "") }},
	{"remove range watch", func(p *edit.Plan) error { return edit.RemoveRange(p, "watch", "") }},

	{"theme tideline", func(p *edit.Plan) error { return edit.SwitchTheme(p, "tideline") }},
	tokens("treatment.label=boxed", "treatment.scheme=dark"),
	tokens("treatment.label=boxd"),
	tokens("treatment.labels=boxed"),
	{"theme tidelin", func(p *edit.Plan) error { return edit.SwitchTheme(p, "tidelin") }},
	tokens("radius.card=4px"),
	tokens("radius.card=red"),
	tokens("radius.cards=4px"),
	tokens("color.plain.text=#ffffff"),
}

// Every edit on the demo: what it says, which lines it changes, why it is refused. The table is read by people:
// `-update` writes it anew.
func TestEdits(t *testing.T) {
	env := testsite.Demo(t)
	store := store.Store{Dir: t.TempDir()}
	var got strings.Builder
	for i, c := range calls {
		if testing.Short() && !*update && i%20 > 0 {
			got.WriteString("-\n\n")
			continue
		}
		fmt.Fprintf(&got, "%s\n%s\n", c.name, outcome(env, store, c.do))
	}
	file := filepath.Join("testdata", "edits.txt")
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(got.String()), 0o666))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	split := func(s string) []string { return strings.Split(strings.TrimSpace(s), "\n\n") }
	a, b := split(string(want)), split(got.String())
	require.Equal(t, len(a), len(b))
	for i := range a {
		if b[i] != "-" {
			assert.Equal(t, a[i], b[i])
		}
	}
}

// names lists the blocks of the demo's home page after an edit, in their order.
func names(t *testing.T, do func(p *edit.Plan) error) []string {
	t.Helper()
	p := edit.New(testsite.Demo(t), store.Store{Dir: t.TempDir()})
	require.NoError(t, do(p))
	_, after, err := p.Work()
	require.NoError(t, err)
	var out []string
	for _, b := range after.Site.Page("home").Blocks {
		out = append(out, b.Name)
	}
	return out
}

func TestWhereBlocksGo(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for name, c := range map[string]struct {
		to   edit.Spot
		want string
	}{
		"first":  {edit.Spot{First: true}, "plans opening reasons voices"},
		"last":   {edit.Spot{Last: true}, "opening reasons voices plans"},
		"before": {edit.Spot{Before: "reasons"}, "opening plans reasons voices"},
		"after":  {edit.Spot{After: "opening"}, "opening plans reasons voices"},
	} {
		assert.Equal(t, strings.Fields(c.want), names(t, func(p *edit.Plan) error {
			return edit.Move(p, "home/plans",
				c.to, "")
		}), name)
	}
	assert.Equal(t, strings.Fields("opening plans-2 reasons plans voices"),
		names(t, func(p *edit.Plan) error { return edit.Copy(p, "home/plans", "", "", edit.Spot{After: "opening"}) }))
	assert.Equal(t, strings.Fields("opening reasons plans again voices"),
		names(t, func(p *edit.Plan) error { return edit.Copy(p, "home/plans", "", "again", edit.Spot{}) }),
		"a copy stands behind what it is of")
	assert.Equal(t, strings.Fields("opening reasons plans voices steps"),
		names(t, func(p *edit.Plan) error { return edit.Add(p, "home", "steps/line", "", edit.Spot{}) }))
}

// apply makes an edit and writes it, as the program does.
func apply(t *testing.T, dir string, do func(p *edit.Plan) error) *edit.Plan {
	t.Helper()
	p := edit.New(testsite.Open(t, dir), store.Store{Dir: filepath.Join(dir, ".ziegel", "cache")})
	require.NoError(t, do(p))
	changes, _, err := p.Work()
	require.NoError(t, err)
	require.NoError(t, site.Commit(dir, "edit", time.Now(), changes))
	return p
}

func read(t *testing.T, dir, name string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(name)))
	require.NoError(t, err)
	return string(data)
}

// A name is followed wherever it is spoken of: links on its page and from others, wishes, overrides, pages that leave
// a block out.
func TestWhatSpeaksOfABlockFollowsItsName(t *testing.T) {
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml": "name: L\nevery-page:\n  bottom:\n    - {name: foot, section: footer/columns, content: {actions: [{label: Up, to: \"home#reasons\"}]}}\n",
		"pages/home.yaml": "title: H\nbrief: [{want: why, block: reasons}]\nblocks:\n  - {name: reasons, section: features/cards}\n" +
			"  - {name: a, section: hero/beside, content: {actions: [{label: Why, to: \"#reasons\"}, {label: Base, to: \"#foot\"}]}}\n",
		"pages/b.yaml": "title: B\nleave-out: [foot]\nblocks:\n  - {name: reasons, section: features/cards}\n  - {name: c, section: hero/beside, content: {actions: [{label: Why, to: \"#reasons\"}, {label: Home, to: \"home#reasons\"}, {label: There, to: home/reasons}], lead: \"See [why](home/reasons) and [here](#reasons).\"}}\n",
		"pages/c.yaml": "title: C\noverride: {foot: {tone: deep}}\nblocks: []\n",
	})
	p := apply(t, dir, func(p *edit.Plan) error { return edit.Rename(p, "home/reasons", "why") })
	assert.Contains(t, p.Done, "6 references followed")
	assert.Contains(t, read(t, dir, "ziegel.yaml"), `to: "home#why"`)
	home := read(t, dir, "pages/home.yaml")
	assert.Contains(t, home, "block: why")
	assert.Contains(t, home, `to: "#why"`)
	assert.NotContains(t, home, "reasons")
	b := read(t, dir, "pages/b.yaml")
	assert.Contains(t, b, `to: "home#why"`)
	assert.Contains(t, b, `to: "#reasons"`, "that is a block of its own page")
	assert.Contains(t, b, "to: home/why")
	assert.Contains(t, b, "See [why](home/why) and [here](#reasons).")

	p = apply(t, dir, func(p *edit.Plan) error { return edit.Rename(p, "home/foot", "base") })
	assert.Contains(t, p.Done, "3 references followed")
	assert.Contains(t, read(t, dir, "pages/home.yaml"), `to: "#base"`)
	assert.Contains(t, read(t, dir, "pages/b.yaml"), "leave-out: [base]")
	assert.Contains(t, read(t, dir, "pages/c.yaml"), "override: {base: {tone: deep}}")
}

// A block goes into a slot and out again; one cannot stand in itself; copies of what it holds get names of their own.
func TestBlocksInBlocks(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml":     "name: L\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: two, section: layout/columns}\n  - {name: a, section: hero/beside}\n  - {name: b, section: steps/line}\n",
	})
	move := func(what string, at edit.Spot, into string) func(p *edit.Plan) error {
		return func(p *edit.Plan) error { return edit.Move(p, what, at, into) }
	}
	assert.Equal(t, "moved home/b to home/two.left", apply(t, dir, move("home/b", edit.Spot{}, "two.left")).Done)
	env := testsite.Open(t, dir)
	assert.Equal(t, "two", env.Site.Block(env.Site.Page("home"), "b").Within)
	assert.ErrorContains(t, move("home/two", edit.Spot{}, "two.left")(edit.New(env, store.Store{})),
		"cannot stand in itself")
	assert.ErrorContains(t, move("home/a", edit.Spot{}, "two.middle")(edit.New(env, store.Store{})), "middle")
	p := apply(t, dir, func(p *edit.Plan) error { return edit.Copy(p, "home/two", "", "", edit.Spot{}) })
	require.Len(t, p.Notes, 1)
	assert.Equal(t, "b in it is called b-2 here", p.Notes[0].Text)
	assert.Equal(t, "moved home/b to home", apply(t, dir, move("home/b", edit.Spot{After: "a"}, "")).Done)
	assert.Equal(t, "removed home/two-2 (layout/columns) with the 1 block in it",
		apply(t, dir, func(p *edit.Plan) error { return edit.Remove(p, "home/two-2") }).Done)
	env = testsite.Open(t, dir)
	assert.Empty(t, env.Site.Block(env.Site.Page("home"), "b").Within)
}

// Styles go from one scope to another and come back, each time from where they were.
func TestStylesMoveBetweenScopes(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml":     "name: L\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: a, section: pricing/plans}\n  - {name: b, section: pricing/plans}\n",
	})
	style := func(sc edit.Scope, args ...string) *edit.Plan {
		if sc.Scope == "" {
			sc.Scope = "block"
		}
		if sc.Of == "" {
			sc.Of = "block"
		}
		return apply(t, dir, func(p *edit.Plan) error { return edit.Style(p, args, sc) })
	}
	style(edit.Scope{}, "home/a.card", "padding=7px", "border-radius=3px")
	assert.Contains(t, read(t, dir, "pages/home.yaml"), "card: {padding: 7px, border-radius: 3px}")
	p := style(edit.Scope{Move: true, Scope: "page"}, "home/a.card", "padding")
	assert.Contains(t, p.Done, "moved padding from")
	assert.Contains(t, read(t, dir, "pages/home.yaml"),
		"defaults:\n  pricing/plans:\n    style:\n      card: {padding: 7px}")
	assert.Contains(t, read(t, dir, "pages/home.yaml"), "card: {border-radius: 3px}")
	style(edit.Scope{Move: true, Of: "page", Scope: "section"}, "home/a.card", "padding")
	assert.Contains(t, read(t, dir, "ziegel.yaml"), "card: {padding: 7px}")
	assert.NotContains(t, read(t, dir, "pages/home.yaml"), "padding")
	style(edit.Scope{Reset: true, Of: "section"}, "home/a.card", "padding")
	assert.NotContains(t, read(t, dir, "ziegel.yaml"), "padding")
	p = style(edit.Scope{From: "home/a.card"}, "home/b.card")
	assert.Contains(t, p.Done, "as home/a.card is")
	assert.Equal(t, 2, strings.Count(read(t, dir, "pages/home.yaml"), "border-radius: 3px"))
	style(edit.Scope{Reset: true}, "home/b.card")
	assert.Equal(t, 1, strings.Count(read(t, dir, "pages/home.yaml"), "border-radius: 3px"))
}

// A brief becomes an outline: each wish a section, in its order; a wish that nothing answers stays open.
func TestBriefs(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	o := edit.Brief(lib, stock.Files, "nav, opening with picture, three reasons, plans, voices, a submarine, footer")
	var got []string
	for _, w := range o.Wishes {
		got = append(got, strings.SplitN(w.Section, "/", 2)[0])
	}
	assert.Equal(t, []string{"nav", "hero", "features", "pricing", "testimonials", "footer"}, got)
	assert.Equal(t, []string{"a submarine"}, o.Open)
	main, err := o.SiteFile("Larkspan", "marram")
	require.NoError(t, err)
	home, err := o.PageFile("Larkspan")
	require.NoError(t, err)
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": main, "pages/home.yaml": home})
	env := testsite.Open(t, dir)
	assert.Equal(t, 6, len(env.Site.All(env.Site.Page("home"))))
	assert.Contains(t, home, "want: a submarine")
}
