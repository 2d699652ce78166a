package explain_test

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/explain"
	"ziegel/internal/testsite"
)

func TestExplainNamesWhatDecides(t *testing.T) {
	for _, c := range []struct{ name, axis, body, want string }{
		{"own height", "height", `<div><p id=x style="height:90px">a</p></div>`, "has a height of its own: 90 px"},
		{"least height", "height", `<div><p id=x style="min-height:90px">a</p></div>`,
			"the least that min-height lets it be"},
		{"most width", "width", `<div><p id=x style="max-width:90px">a long text that goes on</p></div>`,
			"the most that max-width lets it be"},
		{"ratio", "height", `<div><div id=x style="width:100px;aspect-ratio:2"></div></div>`,
			"its ratio of 2 to its width of 100 px"},
		{"lines", "height", `<div><p id=x style="width:100px">one two three four five six</p></div>`,
			"has 3 lines of 24 px"},
		{"one child", "height", `<div><div id=x><p style="height:80px">a</p><p>b</p></div></div>`,
			"for what is in it: p 80 px, p 24 px"},
		{"tallest in the row", "height",
			`<div><div style="display:flex"><div id=x><p>a</p></div><div class=tall><p style="height:80px">b</p></div></div></div>`, "stretched to the height of its row, 80 px; the div.tall (b) needs that much"},
		{"longest word", "width",
			`<div><div style="display:flex"><div id=x><p>a Donaudampfschiff</p></div></div></div>`, `the longest word is "Donaudampfschiff"`},
		{"column", "width", `<div><div style="display:grid;grid-template-columns:1fr 1fr"><p>a</p><p id=x>b</p></div></div>`, "column 2 of the"},
		{"fills", "width", `<div><p id=x>a</p></div>`, "it fills the div"},
		{"below", "y", `<div><p class=a>a</p><p id=x style="margin-top:10px">b</p></div>`,
			"the p.a (a) ends at 24 px, and 10 px lie between them"},
		{"padding", "x", `<div style="padding-left:30px"><p id=x>b</p></div>`, "30 px of padding in"},
		{"margin", "x", `<div><p id=x style="margin-left:30px">b</p></div>`,
			"30 px past the left of the div (b), its margin"},
		{"spare room", "x", `<div style="display:flex;justify-content:center"><p id=x style="width:100px">b</p></div>`,
			"the room that is left over"},
		{"no box", "height", `<div><p id=x style="display:none">b</p></div>`, "has no box at 400 px"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l, e := testsite.HTML(t, c.body)
			var text []string
			for _, r := range explain.Explain(l, l.Engine().Layout(400), e, c.axis) {
				text = append(text, r.Text)
			}
			assert.Contains(t, strings.Join(text, "; "), c.want)
		})
	}
}

// What an explanation of a height adds up comes to that height, wherever boxes stand beside each other, overlap, are
// spread or stretched.
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
			l, e := testsite.HTML(t, body)
			r := l.Engine().Layout(400)
			told := false
			for _, reason := range explain.Explain(l, r, e, "height") {
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

func TestAPictureIsAsHighAsItsRatioSays(t *testing.T) {
	l, e := testsite.HTML(t,
		`<img id=x style="width:100px;height:auto" width=200 height=50 src="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='200' height='50'/%3E" alt="">`)
	r := l.Engine().Layout(400)
	list := explain.Explain(l, r, e, "height")
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Text, "high: its own ratio to its width of 100 px")
}

func TestExplainBlamesTheMargin(t *testing.T) {
	l, e := testsite.HTML(t, `<div style="display:grid"><p id=x style="width:100px;margin-inline:auto">a</p></div>`)
	text := explain.Explain(l, l.Engine().Layout(400), e, "x")[0].Text
	assert.Contains(t, text, "its margin is auto")
	assert.NotContains(t, text, "column")
}

func TestReadingFollowsTheDocument(t *testing.T) {
	l, _ := testsite.HTML(t, `<header><nav aria-label=Main><a href=a>Kites</a><button popovertarget=m>Menu</button></nav></header><section><h1>Made for <em>real</em> wind</h1>
		<p>See <a href=b>the courses</a> now.</p><img src=k.png alt="A kite"><img src=d.png alt=""><p style="display:none">hidden</p><p aria-hidden=true>mute</p>
		<p style="display:flex"><span>€85</span><span>a person</span></p><p>Made <span aria-hidden=true>not</span><b style="display:none">never</b> here<br>again</p><a href=d><span style="visibility:hidden">gone </span>Seen <i hidden>no</i></a>
		<ul><li>one<li>two</ul><div style="visibility:hidden">gone</div><input type=checkbox aria-label=Agree><h2><a href=c>Linked</a></h2></section>`)
	var got []string
	for _, h := range explain.Reading(l, l.Engine().Layout(400)) {
		got = append(got, h.String())
		if h.Role == "link" && h.Text == "the courses" {
			assert.Equal(t, 3, h.Tab)
		}
	}
	assert.Equal(t, []string{"main", "navigation: Main", "link: Kites", "button: Menu (closed)",
		"heading 1: Made for real wind", "text: See", "link: the courses", "text: now.",
		"picture: A kite", "text: €85", "text: a person", "text: Made here again", "link: Seen", "list of 2", "text: one", "text: two", "checkbox: Agree", "heading 2", "link: Linked"}, got)
}

// Rules that say the same are built once and keep the place where each was written.
func TestSharedRulesKeepTheirPlaces(t *testing.T) {
	env := testsite.With(t, testsite.Plans+"      root: {font-family: serif}\n      heading: {font-family: serif}\n")
	l := testsite.Swept(t, env)
	r := l.Engine().Layout(800)
	for part, line := range map[string]string{"root": "pages/home.yaml:6:14", "heading": "pages/home.yaml:7:17"} {
		links, _ := explain.Chain(l, r, explain.Find(l, "plans", part, 0)[0], "font-family")
		assert.Equal(t, line, links[0].At, part)
		assert.True(t, links[0].Wins, part)
	}
}
