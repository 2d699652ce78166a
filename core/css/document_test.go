package css

import (
	"fmt"
	"path"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func loaded(t testing.TB, style, body string) *Document {
	t.Helper()
	d, err := Load(Source{File: "t.html", HTML: "<!doctype html><style>" + style + "</style>" + body})
	require.NoError(t, err)
	return d
}

// stylesOf computes the styles of all elements by id. Elements with a container type are containers of a size that
// contained gives.
func stylesOf(d *Document, s *Styler, contained Container) map[string]*Style {
	out := map[string]*Style{}
	var walk func(e *Element, parent *Style, stack []Container)
	walk = func(e *Element, parent *Style, stack []Container) {
		st := s.Style(e, parent, stack)
		if e.ID != "" {
			out[e.ID] = st
		}
		if st.ContainerType != "normal" || len(st.ContainerName) > 0 {
			c := contained
			c.Names, c.FontSize, c.Style, c.Sized = st.ContainerName, st.FontSize, st, st.ContainerType == "size"
			stack = append(slices.Clip(stack), c)
		}
		for _, k := range e.Kids() {
			walk(k, st, stack)
		}
	}
	walk(d.Root, s.Root(), nil)
	return out
}

// Media conditions ask the window (Media Queries 4).
func TestMediaConditions(t *testing.T) {
	tests := []struct {
		query string
		media Media
		holds bool
	}{
		{"(min-width: 600px)", Media{Width: 600}, true},
		{"(min-width: 600px)", Media{Width: 599}, false},
		{"(width < 40em)", Media{Width: 639}, true},
		{"(width < 40em)", Media{Width: 640}, false},
		{"(width < 40em)", Media{Width: 700, Text: 20}, true}, // em of conditions follow the text that nothing sets
		{"(300px <= width <= 500px)", Media{Width: 500}, true},
		{"(300px <= width <= 500px)", Media{Width: 501}, false},
		{"(300px < width < 500px)", Media{Width: 300}, false},
		{"(min-height: 900px)", Media{Width: 9, Height: 900}, true},
		{"(max-height: 899px)", Media{Width: 9, Height: 900}, false},
		{"(orientation: portrait)", Media{Width: 900, Height: 900}, true},
		{"(orientation: landscape)", Media{Width: 901, Height: 900}, true},
		{"(aspect-ratio >= 16/9)", Media{Width: 1600, Height: 900}, true},
		{"(aspect-ratio >= 16/9)", Media{Width: 1599, Height: 900}, false},
		{"(max-aspect-ratio: 1)", Media{Width: 800, Height: 900}, true},
		{"(prefers-color-scheme: dark)", Media{Width: 9, Dark: true}, true},
		{"(prefers-color-scheme: dark)", Media{Width: 9}, false},
		{"(prefers-color-scheme: light)", Media{Width: 9}, true},
		{"print", Media{Width: 9, Print: true}, true},
		{"print", Media{Width: 9}, false},
		{"screen", Media{Width: 9}, true},
		{"not print", Media{Width: 9}, true},
		{"screen and (min-width: 10px)", Media{Width: 9}, false},
		{"only screen and (min-width: 9px)", Media{Width: 9}, true},
		{"not all and (min-width: 9px)", Media{Width: 9}, false},
		{"print, (min-width: 9px)", Media{Width: 9}, true},
		{"not (min-width: 10px)", Media{Width: 9}, true},
		{"(min-width: 10px) or (max-width: 9px)", Media{Width: 9}, true},
		{"(min-width: 9px) and (not (max-width: 8px))", Media{Width: 9}, true},
		{"(nonsense: 3)", Media{Width: 9}, false},
		{"not (nonsense: 3)", Media{Width: 9}, false}, // unknown stays unknown
		{"not (width < 3)", Media{Width: 9}, false},
		{"not (min-width: nonsense)", Media{Width: 9}, false},
		{"not ((nonsense: 3) and (min-width: 1px))", Media{Width: 9}, false},
		{"(nonsense: 3) or (min-width: 1px)", Media{Width: 9}, true},
		{"not (hover: often)", Media{Width: 9}, false},
		{"(hover)", Media{Width: 9}, false}, // a browser without a mouse
		{"(hover: none) and (pointer: none)", Media{Width: 9}, true},
		{"(prefers-reduced-motion: reduce)", Media{Width: 9}, false},
	}
	for _, tt := range tests {
		d := loaded(t, "@media "+tt.query+" { #x { width: 7px } }", "<p id=x>")
		s := NewStyler(d)
		if tt.media.Height == 0 {
			tt.media.Height = 900
		}
		s.SetMedia(tt.media)
		assert.Equal(t, tt.holds, stylesOf(d, s, Container{})["x"].Width.Px == 7, "%s in %+v", tt.query, tt.media)
		assert.Equal(t, tt.holds, s.MatchesMedia(tt.query), tt.query)
	}
}

// Container conditions ask the nearest container that can answer (CSS Containment 3).
func TestContainerConditions(t *testing.T) {
	const body = `<div id=o class=outer><div id=i class=inner><p id=x></p></div></div>`
	const types = `.outer{container:far/inline-size;--tone:deep}.inner{container:near/size}`
	tests := []struct {
		style, query string
		holds        bool
	}{
		{types, "(width >= 400px)", true},
		{types, "(width > 400px)", false},
		{types, "(min-width: 400px) and (max-height: 200px)", true},
		{types, "(height > 200px)", false},
		{types, "near (width = 400px)", true},
		{types, "far (width = 400px)", true},
		{types, "nobody (width = 400px)", false},
		{types, "not (width > 400px)", true},
		{types, "(orientation: landscape)", true},
		{types, "(aspect-ratio > 1)", true},
		{types, "(width >= 20em)", true},
		{types, "(width >= 26em)", false},
		{types, "style(--tone: deep)", true}, // it inherits
		{types, "style(--tone: pale)", false},
		{types, "far style(--tone: deep)", true},
		{types, "style(--tone)", true},
		{types, "not style(--none)", true},
		{`.outer{container-type:inline-size}`, "(height > 0px)", false}, // nobody knows a height
		{``, "(width > 0px)", false},
	}
	for _, tt := range tests {
		d := loaded(t, tt.style+"@container "+tt.query+" { #x { width: 7px } }", body)
		s := NewStyler(d)
		s.SetMedia(Media{Width: 900, Height: 900})
		st := stylesOf(d, s, Container{Width: 400, Height: 200})["x"]
		assert.Equal(t, tt.holds, st.Width.Px == 7, "%s with %s", tt.query, tt.style)
	}
}

// A style that is asked for again in another room is that of a fresh Styler, whatever rooms came before.
func TestStylesFollowTheRoom(t *testing.T) {
	const style = `html{font-size:clamp(14px,1vw + 10px,20px)} .c{container-type:inline-size;padding:2vw}
#x{width:50vw;margin:1rem 10cqi;font-size:calc(1em + 2cqw);line-height:1.4;--gap:3vw;column-gap:var(--gap)}
#y{border:max(1px,.2vw) solid;inset:1vmin} @media (min-width:600px){#y{padding:3vw}} #z{width:inherit;height:40px}`
	d := loaded(t, style, `<div class=c><p id=x>a<b id=y>b</b></p></div><div style="width:20vw"><i id=z></i></div>`)
	kept := NewStyler(d)
	for _, w := range []int{320, 900, 900, 321, 599, 600, 2000, 320, 900, 601} {
		fresh := NewStyler(d)
		for _, s := range []*Styler{kept, fresh} {
			s.SetMedia(Media{Width: w, Height: 900})
		}
		in := Container{Width: float64(w) * .9, Height: 100}
		a, b := stylesOf(d, kept, in), stylesOf(d, fresh, in)
		for id, st := range a {
			assert.Equal(t, shownOf(b[id]), shownOf(st), "%s at %d", id, w)
		}
	}
	kept.SetMedia(Media{Width: 1000, Height: 900})
	x := stylesOf(d, kept, Container{Width: 500})["x"]
	assert.Equal(t, 500.0, x.Width.Px)
	assert.Equal(t, 20.0+10, x.FontSize, "1em and 2cqw")
	assert.Equal(t, 50.0, x.Margin[Left].Px)
	assert.Equal(t, 30.0, x.ColGap.Px)
	assert.Equal(t, 200.0, stylesOf(d, kept, Container{})["z"].Width.Px)
}

// shownOf writes down what layout reads of a style.
func shownOf(s *Style) string {
	c, inherited := *s, *s.Inherited
	c.Inherited, c.spec, c.Version, c.Counters = nil, nil, 0, nil
	return fmt.Sprintf("%+v %+v", c, inherited)
}

// revert takes a declaration of the page away, revert-layer one of its layer (CSS Cascade 5).
func TestDeclarationsAreRolledBack(t *testing.T) {
	for style, want := range map[string]float64{
		"#x{width:1px;width:revert}":                                                     0, // auto
		"p{width:1px} #x{width:revert}":                                                  0,
		"@layer a,b;@layer a{p{width:1px}}@layer b{#x{width:revert-layer}}":              1,
		"@layer a{p{width:1px}} p{width:2px} #x{width:revert-layer}":                     1,
		"@layer a,b;@layer a{p{width:1px}}@layer b{p{width:2px}#x{width:revert-layer}}":  1,
		"@layer a,b;@layer a{p{width:1px !important}}@layer b{#x{width:2px !important}}": 1,
		"p{width:1px} #x{width:unset}":                                                   0,
		// invalid when computed: unset
		"p{width:1px} #x{width:var(--none)}": 0,
		// invalid when read: not there
		"p{width:1px} #x{width:nonsense}":                  1,
		"#x{--w:3px;width:var(--w)}":                       3,
		"#x{width:var(--none,4px)}":                        4,
		"#x{--a:var(--b);--b:var(--a);width:var(--a,5px)}": 5, // a circle is no value
	} {
		d := loaded(t, style, "<p id=x>")
		s := NewStyler(d)
		s.SetMedia(Media{Width: 900, Height: 900})
		// what positions and z-index make is told apart
		assert.Equal(t, want, stylesOf(d, s, Container{})["x"].Width.Px, style)
	}
}

// The chain of a property lists all that speaks of it, weakest first, and says who wins and under what conditions.
func TestTheChainOfAProperty(t *testing.T) {
	d := loaded(t, `@layer base{p{padding:1px}} .a{padding-left:2px} @media (min-width:600px){#x{padding-left:3px}}
@media print{#x{padding-left:9px}} p{padding-left:var(--p) !important;--p:4px} #x:hover{padding-left:8px}`,
		`<p id=x class=a style="padding-left:5px"><b id=y></b></p>`)
	s := NewStyler(d)
	s.SetMedia(Media{Width: 900, Height: 900})
	styles := stylesOf(d, s, Container{})
	var out []string
	for _, c := range d.Chain(elementOf(d, "x"), "", styles["x"], "padding-left") {
		if c.UA {
			continue
		}
		out = append(out, strings.Join(strings.Fields(fmt.Sprint(c.Name, ": ", c.Resolved, " ", c.Layer, " ",
			c.Selector, " ", c.Conditions,
			map[bool]string{true: " wins"}[c.Wins], map[bool]string{false: " off"}[c.Applies])), " "))
	}
	assert.Equal(t, []string{
		"padding: 1px base p []",
		"padding-left: 2px .a []",
		"padding-left: 3px #x [media (min-width:600px)]",
		"padding-left: 9px #x [media print] off",
		"padding-left: 5px []",
		"padding-left: 4px p [] wins",
	}, out)
	sheet, pos, ok := styles["x"].Declared("padding-left")
	require.True(t, ok)
	assert.Equal(t, "padding-left:var(--p) !important", sheet.Source[pos:pos+len("padding-left:var(--p) !important")])
	_, _, ok = styles["x"].Declared("width")
	assert.False(t, ok, "nobody has")
	assert.Equal(t, []string{"padding-top", "padding-right", "padding-bottom", "padding-left"}, Longhands("padding"))
	for property, want := range map[string]bool{"color": true, "font": true, "--x": true, "padding": false,
		"width": false, "visibility": true} {
		assert.Equal(t, want, Inherits(property), property)
	}
}

func elementOf(d *Document, id string) *Element {
	for _, e := range d.Elements {
		if e.ID == id {
			return e
		}
	}
	return nil
}

// States are told by what their rules change, animations by the properties of keyframes that are played.
func TestWhatStatesAndAnimationsChange(t *testing.T) {
	d := loaded(t, `a:hover{color:red} a:focus-visible{padding:2px} a:active{transform:none} b:not(:hover){background:red}
@keyframes grow{to{width:9px}} @keyframes idle{to{height:1px}} p{animation:grow 1s}`, "<a href=x>a</a><b>b</b><p>p")
	moving, painting := d.Moving(), d.Painting()
	assert.Contains(t, moving, "focus-visible")
	assert.NotContains(t, moving, "hover", "a color moves nothing")
	assert.Contains(t, painting, "hover")
	assert.NotContains(t, painting, "focus-visible")
	var played []string
	for _, c := range d.Animated() {
		played = append(played, c.Selector+" "+c.Name)
	}
	assert.Equal(t, []string{"grow width"}, played)
}

// A document in a state is another document: the rules of the state hold there, and nowhere else.
func TestDocumentsInStates(t *testing.T) {
	d := loaded(t, "a{width:1px} a:hover{width:2px} a:focus-visible{width:3px}", "<a href=x id=x>a</a>")
	width := func(d *Document) float64 {
		s := NewStyler(d)
		s.SetMedia(Media{Width: 900, Height: 900})
		return stylesOf(d, s, Container{})["x"].Width.Px
	}
	assert.Equal(t, 2.0, width(d.In("hover")))
	assert.Equal(t, 3.0, width(d.In("hover", "focus-visible")))
	assert.Equal(t, 1.0, width(d), "the page itself stays as it is")
}

func TestWhatAPageDeclares(t *testing.T) {
	d := loaded(t, `p{position:sticky} @media print{i{float:left}} b{width:50vw;height:calc(100svh - 3px)} u{--w:2vmin} q{margin:1vw}`,
		`<p style="top:0">a<b>b</b><i>i</i><u>u</u><q>q</q>`)
	assert.True(t, d.Declares("position", "fixed", "sticky"))
	assert.False(t, d.Declares("position", "fixed"))
	assert.True(t, d.Declares("top", "0"), "style attributes count")
	assert.True(t, d.DeclaresIn("vw", 50, "width"))
	assert.False(t, d.DeclaresIn("vw", 51, "width"))
	assert.True(t, d.DeclaresIn("vh", 100, "height"))
	assert.False(t, d.DeclaresIn("vh", 3, "width"), "custom properties count")
	assert.True(t, d.DeclaresEver("float"))
	assert.False(t, d.DeclaresEver("clear"))
	counted := loaded(t, "i{counter-increment:a}",
		"<main><ul id=l><li>a</ul><p id=p>b</p><div id=d><i>c</i></div></main>")
	of := counted.Counting()
	assert.True(t, of[elementOf(counted, "l").Index])
	assert.True(t, of[elementOf(counted, "d").Index])
	assert.False(t, of[elementOf(counted, "p").Index])
}

// Paint is what contrast is judged by: the color of text and all that may lie behind it.
func TestPaint(t *testing.T) {
	tests := []struct {
		style string
		want  func(p *Paint) any
		is    any
	}{
		{"color:#f00", func(p *Paint) any { return p.Color.Hex() }, "#ff0000"},
		{"color:rgb(0 0 0/50%)", func(p *Paint) any { return p.Color.A }, .5},
		{"background:#0f0", func(p *Paint) any { return p.Ground.Hex() }, "#00ff00"},
		{"color:#00f;background:currentcolor", func(p *Paint) any { return p.Ground.Hex() }, "#0000ff"},
		{"background:linear-gradient(#000,#fff)", func(p *Paint) any { return len(p.Stops) }, 2},
		{"background:url(a.png)", func(p *Paint) any { return p.Pictures }, []string{"a.png"}},
		{"background:url('a b.png') center/cover,url(c.png)", func(p *Paint) any { return p.Pictures },
			[]string{"a b.png", "c.png"}},
		{"background:url(a.png) 30% 60%", func(p *Paint) any { return p.Spot }, [2]float64{.3, .6}},
		{"background:url(a.png) center/cover", func(p *Paint) any { return p.Size }, "cover"},
		{"mix-blend-mode:multiply", func(p *Paint) any { return p.Blended }, true},
		{"mix-blend-mode:normal", func(p *Paint) any { return p.Blended }, false},
		{"filter:blur(2px)", func(p *Paint) any { return p.Blended }, true},
		{"object-fit:cover", func(p *Paint) any { return p.Fit }, "cover"},
		{"object-position:left 25%", func(p *Paint) any { return p.Focus }, [2]float64{0, .25}},
		{"z-index:3", func(p *Paint) any { return p.Order }, 3},
		{"", func(p *Paint) any { return p.Color.Hex() }, "#123456"}, // inherited
	}
	for _, tt := range tests {
		d := loaded(t, "#x{"+tt.style+"}", "<p id=x>a")
		s := NewStyler(d)
		s.SetMedia(Media{Width: 900, Height: 900})
		var painter Painter
		look := stylesOf(d, s, Container{})["x"].Look()
		parent, _ := ParseColor(Tokenize("#123456"), ColorContext{})
		p := painter.Of(look, parent)
		assert.Equal(t, tt.is, tt.want(p), tt.style)
		assert.Same(t, p, painter.Of(look, parent), "it is worked out once")
	}
}

// In the dark, rules for dark colors hold and light-dark() gives its second color; the boxes stay those of the light.
func TestDarkLooks(t *testing.T) {
	d := loaded(t, `:root{color-scheme:light dark} p{color:light-dark(#111,#eee);background:#fff}
@media (prefers-color-scheme:dark){p{background:#000}}`, "<p id=x>a")
	s := NewStyler(d)
	s.SetMedia(Media{Width: 900, Height: 900})
	x := elementOf(d, "x")
	light := stylesOf(d, s, Container{})["x"]
	dark := s.DarkLook(x, "", light, Look{})
	inDark := Painter{Dark: true}
	var inLight Painter
	assert.Equal(t, []string{"#111111", "#ffffff"}, []string{inLight.Of(light.Look(), Color{}).Color.Hex(),
		inLight.Of(light.Look(), Color{}).Ground.Hex()})
	assert.Equal(t, []string{"#eeeeee", "#000000"}, []string{inDark.Of(dark, Color{}).Color.Hex(), inDark.Of(dark,
		Color{}).Ground.Hex()})
	assert.True(t, d.DarkCanvas())
	assert.False(t, loaded(t, "p{color:red}", "<p>").DarkCanvas())
}

func TestStackingContexts(t *testing.T) {
	for style, want := range map[string]bool{"": false, "position:relative": false,
		"position:relative;z-index:1": false,
		"opacity:.5":                  true, "transform:scale(2)": true, "filter:blur(1px)": true, "isolation:isolate": true, "position:fixed": true, "position:sticky": true,
		"mix-blend-mode:screen": true, "will-change:transform": true, "clip-path:circle()": true, "z-index:4": false, "contain:paint": true} {
		d := loaded(t, "#x{"+style+"}", "<p id=x>a")
		s := NewStyler(d)
		s.SetMedia(Media{Width: 900, Height: 900})
		// what positions and z-index make is told apart
		assert.Equal(t, want, stylesOf(d, s, Container{})["x"].Stacking().Makes, style)
	}
}

func TestStylesheetsThatAreImported(t *testing.T) {
	files := map[string]string{"css/a.css": "@import 'b.css' layer(low); @import url(none.css); #x{width:1px}",
		"css/b.css": "#x{width:2px;height:3px}"}
	d, err := Load(Source{File: "t.html",
		HTML: `<link rel=stylesheet href=css/a.css><link rel=stylesheet href=gone.css><p id=x>`,
		Load: func(from, href string) (string, []byte, error) {
			name := path.Join(path.Dir(from), href)
			if text, ok := files[name]; ok {
				return name, []byte(text), nil
			}
			return "", nil, fmt.Errorf("no %s", name)
		}})
	require.NoError(t, err)
	s := NewStyler(d)
	s.SetMedia(Media{Width: 900, Height: 900})
	x := stylesOf(d, s, Container{})["x"]
	assert.Equal(t, []float64{1, 3}, []float64{x.Width.Px, x.Height.Px}, "what stands in no layer wins")
	assert.Len(t, d.Missing, 2)
}
