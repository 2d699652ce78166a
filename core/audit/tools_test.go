package audit_test

import (
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"os"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/settle"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// laid lays an HTML page out; the element asked for has the id x.
func laid(t *testing.T, body string) (*sweep.Laid, *css.Element) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "page.html")
	require.NoError(t, os.WriteFile(file, []byte("<!doctype html><style>body{margin:0;font:16px/1.5 'Instrument Sans'}p{margin:0}</style><main>"+body+"</main>"), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	for _, e := range l.Doc.Elements {
		if e.ID == "x" {
			return l, e
		}
	}
	return l, nil
}

func TestExplainNamesWhatDecides(t *testing.T) {
	for _, c := range []struct{ name, axis, body, want string }{
		{"own height", "height", `<div><p id=x style="height:90px">a</p></div>`, "has a height of its own: 90 px"},
		{"least height", "height", `<div><p id=x style="min-height:90px">a</p></div>`, "the least that min-height lets it be"},
		{"most width", "width", `<div><p id=x style="max-width:90px">a long text that goes on</p></div>`, "the most that max-width lets it be"},
		{"ratio", "height", `<div><div id=x style="width:100px;aspect-ratio:2"></div></div>`, "its ratio of 2 to its width of 100 px"},
		{"lines", "height", `<div><p id=x style="width:100px">one two three four five six</p></div>`, "has 3 lines of 24 px"},
		{"one child", "height", `<div><div id=x><p style="height:80px">a</p><p>b</p></div></div>`, "for what is in it: p 80 px, p 24 px"},
		{"tallest in the row", "height", `<div><div style="display:flex"><div id=x><p>a</p></div><div class=tall><p style="height:80px">b</p></div></div></div>`, "stretched to the height of its row, 80 px; the div.tall (b) needs that much"},
		{"longest word", "width", `<div><div style="display:flex"><div id=x><p>a Donaudampfschiff</p></div></div></div>`, `the longest word is "Donaudampfschiff"`},
		{"column", "width", `<div><div style="display:grid;grid-template-columns:1fr 1fr"><p>a</p><p id=x>b</p></div></div>`, "column 2 of the"},
		{"fills", "width", `<div><p id=x>a</p></div>`, "it fills the div"},
		{"below", "y", `<div><p class=a>a</p><p id=x style="margin-top:10px">b</p></div>`, "the p.a (a) ends at 24 px, and 10 px lie between them"},
		{"padding", "x", `<div style="padding-left:30px"><p id=x>b</p></div>`, "30 px of padding in"},
		{"margin", "x", `<div><p id=x style="margin-left:30px">b</p></div>`, "30 px past the left of the div (b), its margin"},
		{"spare room", "x", `<div style="display:flex;justify-content:center"><p id=x style="width:100px">b</p></div>`, "the room that is left over"},
		{"no box", "height", `<div><p id=x style="display:none">b</p></div>`, "has no box at 400 px"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l, e := laid(t, c.body)
			var text []string
			for _, r := range audit.Explain(l, l.Engine().Layout(400), e, c.axis) {
				text = append(text, r.Text)
			}
			assert.Contains(t, strings.Join(text, "; "), c.want)
		})
	}
}

// What an explanation of a height adds up comes to that height, wherever boxes stand beside each other, overlap, are spread or stretched.
func TestExplainedHeightsAddUp(t *testing.T) {
	number := regexp.MustCompile(`[0-9.]+ px`)
	for name, body := range map[string]string{
		"beside":    `<div id=x style="display:flex;padding:10px"><p style="height:80px">a</p><p style="height:50px">b</p></div>`,
		"rows":      `<div id=x style="display:grid;grid-template-columns:1fr 1fr;gap:7px"><p>a</p><p style="height:50px">b</p><p>c</p><p>d</p></div>`,
		"centered":  `<div id=x style="display:grid;align-content:center;height:auto;min-height:0"><p>a</p></div>`,
		"spread":    `<div style="display:flex"><div style="height:200px">tall</div><div id=x style="display:flex;flex-direction:column;justify-content:center"><p>a</p><p>b</p></div></div>`,
		"overlap":   `<div id=x><p style="height:60px">a</p><p style="margin-top:-20px;height:40px">b</p></div>`,
		"own words": `<div id=x>words<p>b</p></div>`,
		"margins":   `<div id=x style="padding:1px"><p style="margin:20px 0">a</p><p style="margin:30px 0">b</p></div>`,
		"wrapped":   `<div id=x style="display:flex;flex-wrap:wrap;gap:5px"><p style="width:150px">a</p><p style="width:150px;height:40px">b</p><p style="width:150px">c</p></div>`,
	} {
		t.Run(name, func(t *testing.T) {
			l, e := laid(t, body)
			r := l.Engine().Layout(400)
			told := false
			for _, reason := range audit.Explain(l, r, e, "height") {
				_, list, ok := strings.Cut(reason.Text, "for what is in it: ")
				if !ok {
					continue
				}
				told = true
				sum := 0.0
				for _, part := range strings.Split(list, ", ") {
					most := 0.0
					for _, n := range number.FindAllString(part, -1) {
						v, _ := strconv.ParseFloat(strings.TrimSuffix(n, " px"), 64)
						most = max(most, v) // what stands beside each other counts once
					}
					if strings.HasPrefix(part, "less") || strings.HasPrefix(part, "of which") {
						most = -most
					}
					sum += most
				}
				all, _ := strconv.ParseFloat(strings.TrimSuffix(number.FindString(reason.Text), " px"), 64)
				assert.InDelta(t, all, sum, 2, reason.Text)
				break
			}
			assert.True(t, told || name == "spread" || name == "centered")
		})
	}
}

func TestExplainBlamesTheMargin(t *testing.T) {
	l, e := laid(t, `<div style="display:grid"><p id=x style="width:100px;margin-inline:auto">a</p></div>`)
	text := audit.Explain(l, l.Engine().Layout(400), e, "x")[0].Text
	assert.Contains(t, text, "its margin is auto")
	assert.NotContains(t, text, "column")
}

func TestReadingFollowsTheDocument(t *testing.T) {
	l, _ := laid(t, `<header><nav aria-label=Main><a href=a>Kites</a><button popovertarget=m>Menu</button></nav></header><section><h1>Made for <em>real</em> wind</h1>
		<p>See <a href=b>the courses</a> now.</p><img src=k.png alt="A kite"><img src=d.png alt=""><p style="display:none">hidden</p><p aria-hidden=true>mute</p>
		<p style="display:flex"><span>€85</span><span>a person</span></p><p>Made <span aria-hidden=true>not</span><b style="display:none">never</b> here<br>again</p><a href=d><span style="visibility:hidden">gone </span>Seen <i hidden>no</i></a>
		<ul><li>one<li>two</ul><div style="visibility:hidden">gone</div><input type=checkbox aria-label=Agree><h2><a href=c>Linked</a></h2></section>`)
	var got []string
	for _, h := range audit.Reading(l, l.Engine().Layout(400)) {
		got = append(got, h.String())
		if h.Role == "link" && h.Text == "the courses" {
			assert.Equal(t, 3, h.Tab)
		}
	}
	assert.Equal(t, []string{"main", "navigation: Main", "link: Kites", "button: Menu (closed)", "heading 1: Made for real wind", "text: See", "link: the courses", "text: now.",
		"picture: A kite", "text: €85", "text: a person", "text: Made here again", "link: Seen", "list of 2", "text: one", "text: two", "checkbox: Agree", "heading 2", "link: Linked"}, got)
}

func TestDistancesMarkWhatIsUnlikeTheOthers(t *testing.T) {
	block := func(pad string) string { return `<section style="padding:` + pad + ` 20px"><p>Words</p></section>` }
	l, _ := laid(t, block("20px")+block("20px")+block("20px")+block("90px")+`<section style="padding:20px"><ul style="display:grid;gap:30px;margin:0;padding:0"><li class=c><h3 style="margin:0">a</h3><p>b</p></li><li class=c><h3 style="margin:0">a</h3><p>b</p></li></ul></section>`)
	outliers, inside, apart := 0, false, false
	for _, d := range audit.Distances(l, []site.Range{{Name: "phone", To: 599}}, 320, 400) {
		if d.Outlier != "" {
			outliers++
			assert.InDelta(t, 110, d.Most, 6) // from letter to letter
		}
		inside = inside || d.Kind == "inside" && d.From == "h3" && d.To == "p" && d.Most == 0
		apart = apart || d.Kind == "apart" && d.Most == 30
	}
	assert.Equal(t, 2, outliers)
	assert.True(t, inside)
	assert.True(t, apart)
}

func demoSite(t *testing.T) (*compose.Env, *site.Page) {
	t.Helper()
	e, problems, err := compose.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return e, e.Site.Page("home")
}

func TestRoomCountsLetters(t *testing.T) {
	e, p := demoSite(t)
	b := e.Site.Block(p, "plans")
	fields := audit.TextFields(e, b)
	for _, want := range []string{"heading", "items[2].title", "items[1].points[2]", "items[3].link.label"} {
		assert.Contains(t, fields, want)
	}
	list, err := audit.RoomFor(e, p, b, "items[2].title", []string{"phone", "desktop"}, []int{390, 1440}, nil)
	require.NoError(t, err)
	for _, r := range list {
		assert.Equal(t, 13, r.Now)
		assert.Equal(t, 1, r.Lines)
		assert.Greater(t, r.Fits, r.Now, r.Range)
		assert.Less(t, r.Fits, 60, r.Range)
		assert.Greater(t, r.Holds, r.Fits)
		assert.NotEmpty(t, r.Then)
	}
	tries := 0
	_, err = audit.RoomFor(e, p, b, "items[2].title", []string{"phone"}, []int{390}, func() bool { tries++; return tries < 4 })
	assert.ErrorIs(t, err, audit.ErrStopped)
	assert.Equal(t, 4, tries, "nothing is tried after a stop")
	_, err = audit.RoomFor(e, p, b, "nothing", []string{""}, []int{390}, nil)
	assert.Error(t, err)
}

func TestStressFindsWhatOwnContentHides(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps with fifteen kinds of content")
	}
	e, p := demoSite(t)
	from, to := 300, 330
	list := audit.Stress(e, p, &audit.Report{}, from, to, nil)
	names, _ := audit.Strains()
	require.Len(t, list, len(names))
	by := map[string]audit.Strained{}
	for _, s := range list {
		by[s.Name] = s
		for _, f := range s.Findings {
			assert.GreaterOrEqual(t, f.From, from)
			assert.LessOrEqual(t, f.To, to)
		}
	}
	require.NotEmpty(t, by["long-word"].Findings)
	require.NotEmpty(t, by["text-200"].Findings)
	assert.Empty(t, by["one-letter"].Findings)
	again := audit.Stress(e, p, &audit.Report{Findings: by["long-word"].Findings}, from, to, nil)
	for _, s := range again {
		if s.Name == "long-word" {
			assert.Empty(t, s.Findings, "what the page has anyway is no news")
		}
	}
	stopped := audit.Stress(e, p, &audit.Report{}, from, to, func() bool { return false })
	assert.Empty(t, stopped, "no kind is begun after a stop")
	steps := 0
	stopped = audit.Stress(e, p, &audit.Report{}, from, to, func() bool { steps++; return steps < 5 })
	require.Len(t, stopped, 1)
	assert.True(t, stopped[0].Stopped)
}

func TestCureIsProved(t *testing.T) {
	e, p := demoSite(t)
	changed, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml", After: strings.Replace(p.File.Source, "    section: features/cards\n", "    section: features/cards\n    style: {card: {width: 500px}}\n", 1)}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	page := changed.Site.Page("home")
	c, ps := settle.Page(changed, page, compose.Options{Marks: true})
	l, err := sweep.FromPage(changed, c)
	require.NoError(t, err)
	r := audit.Run(l, page, ps, 300, 340)
	require.NotEmpty(t, r.Curable())
	f := r.Curable()[0]
	assert.Equal(t, "overflow-x", f.Rule)
	assert.Contains(t, f.Why, "has a width of its own: 500 px")
	cure, ok := audit.NewHealer(changed, 300, 340, r).Cure("home", f)
	require.True(t, ok)
	assert.Equal(t, "ziegel style home/reasons.card max-width=100%", cure.Command)
	require.Len(t, cure.Changes, 1)
	assert.Contains(t, cure.Changes[0].After, "max-width: 100%")
	_, ok = audit.NewHealer(changed, 300, 340, r).Cure("home", audit.Finding{Rule: "missing-alt", Block: "reasons"})
	assert.False(t, ok)
}
