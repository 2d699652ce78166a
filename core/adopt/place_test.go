package adopt

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/stock"
)

// said writes what fields say, short.
func said(v *site.Value) string {
	switch {
	case v == nil:
		return ""
	case v.Kind == site.List:
		var out []string
		for _, x := range v.Items {
			out = append(out, said(x))
		}
		return "[" + strings.Join(out, " | ") + "]"
	case v.Kind == site.Map && v.Get("label") != nil:
		return v.Get("label").Str() + ">" + v.Get("to").Str()
	case v.Kind == site.Map && v.Get("file") != nil:
		return v.Get("file").Str()
	case v.Kind == site.Map:
		var out []string
		for _, e := range v.Entries {
			out = append(out, e.Key+"="+said(e.Value))
		}
		return strings.Join(out, " ")
	}
	return strings.ReplaceAll(v.Text, "\n\n", "¶")
}

func shipped(t testing.TB) *project.Project {
	t.Helper()
	env, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return env
}

func TestWhatGoesIntoWhichField(t *testing.T) {
	env := shipped(t)
	card := func(s ...string) string {
		out := "<div class=g>"
		for _, x := range s {
			out += "<div class=c>" + x + "</div>"
		}
		return out + "</div>"
	}
	tests := []struct{ section, body, want string }{
		{"hero/beside", `<div><p>Over</p><h1>Title</h1><p>Lead of it.</p><p><a href="later.html">Go</a></p><img src="p.svg" width=300></div>`,
			"eyebrow=Over heading=Title lead=Lead of it. actions=[Go>later] media=p.svg"},
		{"hero/alone", `<div><div style="font-size:40px">Large words</div><div>Small words that follow them.</div></div>`, "heading=Large words lead=Small words that follow them."},
		{"features/cards", "<div><h2>T</h2>" + card("<h3>A</h3><p>a</p>", "<h3>B</h3><p>b</p><a href='l.html'>go</a>") +
			"</div>",
			"heading=T items=[title=A text=a | title=B text=b link=go>l]"},
		{"features/inline", "<div><h2>T</h2><ul><li>one</li><li>two</li></ul></div>",
			"heading=T items=[title=one | title=two]"},
		{"pricing/plans", card("<h3>A</h3><div style='font-size:30px'>€85</div><p>a person</p><ul><li>x</li><li>y</li></ul><a href='l.html'>go</a>", "<h3>B</h3><p>€240 / day</p><ul><li>z</li><li>w</li></ul>"),
			"items=[title=A price=€85 unit=a person points=[x | y] link=go>l | title=B price=€240 unit=/ day points=[z | w]]"},
		{"menu/card", "<div><h2>T</h2><ul><li>Eel broth: €9</li><li>Hake: €24</li></ul></div>",
			"heading=T groups=[entries=[title=Eel broth price=€9 | title=Hake price=€24]]"},
		{"testimonials/row", card("<blockquote>“It flew at once.”</blockquote><p>Ida Marle, letters</p>",
			"<p>It stayed up until the evening came, and then it stayed some more.</p><b style='display:block'>Jon Bekk</b><span>gold leaf</span>"),
			"items=[text=It flew at once. title=Ida Marle role=letters | text=It stayed up until the evening came, and then it stayed some more. title=Jon Bekk role=gold leaf]"},
		{"testimonials/picture",
			`<div><h2>Voices</h2><blockquote><p>It flew at once, and stayed.</p></blockquote><p>— Ida Marle, letters</p></div>`,
			"heading=Voices text=It flew at once, and stayed. name=Ida Marle role=letters"},
		{"team/grid", card(`<img src="p.svg" width=90 height=90><h3>Ida</h3><p>letters</p>`,
			`<img src="p.svg" width=90 height=90><h3>Jon</h3><p>gold</p>`),
			"items=[media=p.svg title=Ida role=letters | media=p.svg title=Jon role=gold]"},
		{"articles/list", card("<p>4 May 2024</p><h3><a href='l.html'>A title</a></h3><p>What it says.</p>",
			"<p>2 May 2024</p><h3><a href='m.html'>B title</a></h3><p>What that says.</p>"),
			"items=[meta=4 May 2024 link=A title>l text=What it says. | meta=2 May 2024 link=B title>m text=What that says.]"},
		{"schedule/day", "<table><tr><td>17:00</td><td>Gates</td><td>Main</td></tr><tr><td>18:00</td><td>Band</td><td>Pier</td></tr><tr><td>19:00</td><td>End</td><td>All</td></tr></table>",
			"items=[meta=17:00 title=Gates text=Main | meta=18:00 title=Band text=Pier | meta=19:00 title=End text=All]"},
		{"statistics/bars", card("<b style='display:block'>412</b><p>bridges</p>",
			"<b style='display:block'>93</b><p>years</p>"), "items=[text=bridges figure=412 | text=years figure=93]"},
		{"logos/row", card(`<img src="p.svg" alt="North Rail" width=60>`,
			`<img src="p.svg" alt="Elder Bank" width=60>`), "items=[title=North Rail | title=Elder Bank]"},
		{"nav/bar", `<header><a href="/index.html">Larkspan</a><nav><a href="later.html">Kites</a> <a href="way.html">Way</a></nav><a href="book.html" style="background:#000;padding:9px 20px">Book</a></header>`,
			"brand=Larkspan>home links=[Kites>later | Way>way] action=Book>book"},
		{"nav/bar", `<div><b>Orrin</b><a href="later.html">Tables</a><a href="way.html">Way</a></div>`,
			"brand=Orrin>home links=[Tables>later | Way>way]"},
		{"footer/columns", `<footer>` +
			card("<h5>Shop</h5><ul><li><a href='l.html'>a</a></li><li><a href='m.html'>b</a></li></ul>",
				"<h5>Way</h5><ul><li><a href='n.html'>c</a></li><li><a href='o.html'>d</a></li></ul>") +
			`<p>© 2024 Larkspan</p></footer>`,
			"groups=[title=Shop links=[a>l | b>m] | title=Way links=[c>n | d>o]] legal=© 2024 Larkspan"},
		{"footer/line", "<footer><p>Larkspan, Slipway Lane 3</p><p>© 2024 Larkspan</p></footer>",
			"legal=Larkspan, Slipway Lane 3 · © 2024 Larkspan"},
		{"newsletter/line", `<div><h2>T</h2><p>a</p><form action="https://x.example/in"><input type=email placeholder="Your mail"><button>Send</button></form></div>`,
			"heading=T lead=a send-to=https://x.example/in mail-label=Your mail send-label=Send"},
		{"contact/details", `<div><h2>T</h2><form action="mailto:ida@x.example"><label>Name <input name=n></label><label>Mail <input type=email></label><label>Say <textarea></textarea></label><button>Go</button></form></div>`,
			"heading=T send-to=ida@x.example name-label=Name mail-label=Mail text-label=Say send-label=Go"},
		{"questions/list", "<div><h2>T</h2><details><summary>Is it?</summary><p>It is.</p></details><details><summary>And that?</summary>That, too.</details></div>",
			"heading=T items=[title=Is it? text=It is. | title=And that? text=That, too.]"},
		{"embed/frame", `<div><h2>T</h2><iframe src="https://maps.example/x"></iframe></div>`,
			"heading=T frame=https://maps.example/x"},
		{"articles/text", "<div><h2>T</h2><p>a</p><h3>A</h3><p>b</p><p>c</p><h3>B</h3><p>d</p></div>",
			"heading=T lead=a items=[title=A text=b¶c | title=B text=d]"},
	}
	for i, tt := range tests {
		t.Run(fmt.Sprint(i, " ", tt.section), func(t *testing.T) {
			sec := env.Library.Section(tt.section)
			f := newPlacing(NewMedia(stock.Files, nil), sec.Kind)
			rd := readingOf(t, tt.body)
			f.place(sec.Fields, rd, true)
			got := strings.Fields(said(ordered(sec.Fields, f.out)))
			want := strings.Fields(tt.want)
			slices.Sort(got)
			slices.Sort(want)
			assert.Equal(t, want, got, "%s", said(ordered(sec.Fields, f.out)))
			for _, p := range rd.every() {
				if weightOf(p) > 0 {
					assert.True(t, f.used[p], "%s is not placed", p)
				}
			}
		})
	}
}

// TestWhatIsLostIsTold gives sections bands that have more than they show.
func TestWhatIsLostIsTold(t *testing.T) {
	env := shipped(t)
	b := &Band{Landmark: "main", read: readingOf(t,
		`<div><h2>T</h2><p>a</p><img src="p.svg" width=300><form><input type=email><button>Go</button></form></div>`)}
	list := choose(env, search.Known(env.Stock), NewMedia(stock.Files, nil), b, map[string]float64{})
	i := slices.IndexFunc(list, func(x fitted) bool { return x.sec.Name == "hero/alone" })
	require.GreaterOrEqual(t, i, 0)
	assert.Less(t, list[i].share, .5)
	b.settle(list[i:])
	assert.Equal(t, []string{"the picture p.svg", "a form with 1 field"}, b.Lost)
	assert.Contains(t, b.Without, "eyebrow")
	assert.NotContains(t, b.Without, "heading")
	for j := 1; j < len(list); j++ {
		assert.GreaterOrEqual(t, list[j-1].score, list[j].score, "best first")
	}
	for _, x := range list {
		assert.False(t, apart[x.sec.Kind], x.sec.Name)
		assert.True(t, allowed(x.sec.Kind, "main"), x.sec.Name)
	}
}

func TestWherePicturesStand(t *testing.T) {
	for body, want := range map[string]string{
		`<div style="display:flex"><div style="width:500px"><h2>A</h2></div><img src="p.svg" width=400></div>`: "right",
		`<div style="display:flex"><img src="p.svg" width=400><div style="width:500px"><h2>A</h2></div></div>`: "left",
		`<div><h2>A</h2><img src="p.svg" width=400 style="display:block"></div>`:                               "below",
		`<div><img src="p.svg" width=400 style="display:block"><h2>A</h2></div>`:                               "above",
		`<div><h2>A</h2></div>`: "",
	} {
		assert.Equal(t, want, pictureSide(readingOf(t, body)), body)
	}
	grid := readingOf(t, `<div class=g style="display:grid;grid-template-columns:1fr 1fr 1fr">`+strings.Repeat("<div class=c><h3>A</h3><p>a</p></div>", 5)+`</div>`)
	assert.Equal(t, 3, columns(grid))
	assert.True(t, even(grid))
	uneven := readingOf(t,
		`<div class=g style="display:grid;grid-template-columns:2fr 1fr">`+strings.Repeat("<div class=c><h3>A</h3><p>a</p></div>", 2)+`</div>`)
	assert.False(t, even(uneven))
}
