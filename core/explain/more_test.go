package explain_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// What decides the place of one of two like boxes is what stands higher above it.
func TestWhyLikeBoxesStandApart(t *testing.T) {
	l, _ := testsite.HTML(t, `<div style="display:grid;grid-template-columns:100px 100px">
<div><h3 style="font-size:16px;margin:0">one two three four five six</h3><p id=a>a</p></div><div><h3 style="font-size:16px;margin:0">one</h3><p id=b>b</p></div>
<div><img style="display:block;width:40px;height:90px"><p id=c>c</p></div><div><img style="display:block;width:40px;height:30px"><p id=d>d</p></div></div>`)
	r := l.Engine().Layout(400)
	at := func(id string) *css.Element { return byID(l, id) }
	assert.Equal(t, "above it h3 has 3 lines, h3 has 1 line", explain.Why(l, r, explain.Apart, at("a"), at("b")))
	assert.Contains(t, explain.Why(l, r, explain.Apart, at("c"), at("d")), "has 90 px")
	assert.Empty(t, explain.Why(l, r, explain.Apart, at("a"), nil))
	assert.Empty(t, explain.Why(l, r, "", at("a"), at("b")), "no axis, no reason")
	assert.Contains(t, explain.Why(l, r, "height", at("a"), nil), "has 1 line of 24 px")
	assert.Contains(t, explain.Why(l, r, "width", at("a"), nil), "fills the div")
}

func byID(l *sweep.Prepared, id string) *css.Element {
	for _, e := range l.Doc.Elements {
		if e.ID == id {
			return e
		}
	}
	return nil
}

// A plain value ends what the section, or a wider scope, says at some widths or in a state; what had lost before is not
// told.
func TestWhatAPlainValueEnds(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	at := func(style, main, part, property string) []string {
		l := testsite.Swept(t, testsite.With(t, testsite.Plans+style, main))
		var out []string
		for _, s := range explain.Stops(l, "plans", part, 0, property) {
			out = append(out, s.Where+": "+s.Said)
		}
		return out
	}
	const site = "defaults:\n  pricing/plans:\n    style:\n      card at phone: {padding: 3px}\n      card:hover: {padding: 4px}\n      title: {color: red}\n"
	list := at("      card: {padding: 9px}\n", site, "card", "padding-top")
	require.NotEmpty(t, list)
	assert.Contains(t, list, "screen under 600 px: padding: 3px")
	assert.Equal(t, []string{"screen under 600 px: padding: 3px", "the state hover: padding: 4px"}, list,
		"no focus: the keyboard's is never on a card")
	const hovered = "defaults:\n  pricing/plans:\n    style:\n      link:hover: {padding: 4px}\n"
	assert.Contains(t, strings.Join(at("      link: {padding: 9px}\n", hovered, "link", "padding-top"), "\n"), "hover")
	assert.Empty(t, at("      title: {color: blue}\n", site, "title", "color"), "one plain value ends no other")
	assert.Empty(t, at("      card: {padding: 9px}\n", site, "none", "padding-top"))
}

// Who reads the page aloud says the label of a field, wherever it stands.
func TestFieldsAreReadWithTheirLabels(t *testing.T) {
	for body, want := range map[string]string{
		`<form><label>Your name <input id=x></label></form>`:                         "Your name",
		`<form><label for=x>Mail</label><input id=x type=email></form>`:              "Mail",
		`<form><input id=x aria-label="Search the shop"></form>`:                     "Search the shop",
		`<form><label for=other>Mail</label><input id=x placeholder="Where"></form>`: "Where",
		`<button id=x>Send it</button>`:                                              "Send it",
		`<nav aria-label="Main"><a href=x>Home</a></nav>`:                            "Main",
		`<h2>Plans</h2>`: "Plans",
		`<img alt="A kite over the bay" src=k.png>`:                "A kite over the bay",
		`<ul><li>one<li>two</ul>`:                                  "one",
		`<details open><summary>More</summary>All of it</details>`: "All of it",
	} {
		l, _ := testsite.HTML(t, body)
		var out []string
		for _, s := range explain.Reading(l, l.Engine().Layout(900)) {
			out = append(out, s.String())
		}
		assert.Contains(t, strings.Join(out, "\n"), want, body)
	}
	l, _ := testsite.HTML(t,
		`<p hidden>gone</p><p aria-hidden=true>unsaid</p><p style="display:none">off</p><p>said</p>`)
	var out []string
	for _, s := range explain.Reading(l, l.Engine().Layout(900)) {
		out = append(out, s.String())
	}
	text := strings.Join(out, "\n")
	assert.Contains(t, text, "said")
	for _, not := range []string{"gone", "unsaid", "off"} {
		assert.NotContains(t, text, not)
	}
}

// Each declaration of a chain says who wrote it, where it holds and why it does not win.
func TestChainsSayWhoAndWhy(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	l := testsite.Swept(t, testsite.With(t, testsite.Plans+`      card: {padding: 9px, use: note}
      card at phone: {padding: 2px}
      card[2]: {padding: 7px}
      card:hover: {padding: 1px}
`, "looks:\n  note: {padding: 5px}\ndefaults:\n  pricing/plans:\n    style: {card: {padding: 3px}}\n"))
	r := l.Engine().Layout(900)
	cards := explain.Find(l, "plans", "card", 0)
	require.Len(t, cards, 3)
	links, from := explain.Chain(l, r, cards[0], "padding-top")
	require.Same(t, cards[0], from)
	require.True(t, links[0].Wins)
	assert.Equal(t, []string{"this block", "9px"}, []string{links[0].Who, links[0].Value})
	said := map[string]explain.Link{}
	for _, k := range links[1:] {
		said[k.Value] = k
		assert.NotEmpty(t, k.Why, k.Value)
		assert.False(t, k.Wins)
	}
	assert.Equal(t, "screen under 600 px", said["2px"].Where)
	assert.Equal(t, explain.NotHere, said["2px"].Why)
	assert.Contains(t, said["1px"].State, "hover")
	assert.Equal(t, "a shared look", said["5px"].Who)
	assert.Contains(t, said["3px"].Who, "site")
	nav := testsite.Swept(t, testsite.With(t,
		"title: T\nblocks:\n  - name: menu\n    section: nav/bar\n    style:\n      brand in ..480: {opacity: .5}\n"))
	links, _ = explain.Chain(nav, nav.Engine().Layout(400), explain.Find(nav, "menu", "brand", 0)[0], "opacity")
	assert.Equal(t, "room under 481 px", links[0].Where, "the room of the block, not of a part in it")
	second, _ := explain.Chain(l, r, explain.Find(l, "plans", "card", 2)[0], "padding-top")
	assert.Equal(t, "7px", second[0].Value)
	inherited, from := explain.Chain(l, r, explain.Find(l, "plans", "title", 1)[0], "color")
	assert.NotEmpty(t, inherited)
	assert.NotNil(t, from)
	assert.Len(t, explain.Find(l, "plans", "", 0), 1, "the block itself")
	assert.Empty(t, explain.Find(l, "none", "card", 0))
	assert.Empty(t, explain.Find(l, "plans", "card", 9))
}
