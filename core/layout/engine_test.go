package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/layout"
)

// at gives "x y w h" of #x in CSS px.
func at(t testing.TB, html string, width int) string {
	t.Helper()
	d, e := engine(t, html)
	return place(d, e.Layout(width))
}

func place(d *css.Document, r *layout.Result) string {
	for _, el := range d.Elements {
		if p := r.Of(el); el.ID == "x" && p != nil {
			return fmt.Sprintf("%g %g %g %g", p.X.Float(), p.Y.Float(), p.W.Float(), p.H.Float())
		}
	}
	return "none"
}

func TestBoxesOfTheEngine(t *testing.T) {
	const img = "<img src=p.png "
	for name, c := range map[string]struct{ html, want string }{
		"subgrid columns":           {"<div style='display:grid;grid-template-columns:100px 200px'><div style='display:grid;grid-column:1/3;grid-template-columns:subgrid;padding-left:10px'><i>a</i><i id=x>b</i></div></div>", "100 0 200 24"},
		"subgrid rows line up":      {"<div style='display:grid;grid-template-columns:1fr 1fr'><div style='display:grid;grid-row:span 2;grid-template-rows:subgrid'><p style='margin:0;height:50px'></p><p>a</p></div><div style='display:grid;grid-row:span 2;grid-template-rows:subgrid'><b></b><b id=x>c</b></div></div>", "400 50 400 56"},
		"outside marker makes room": {"<ul style='margin:0'><li><p id=x style='font-size:10px;line-height:1;margin:0'>a</p></ul>", "40 10 760 10"},
		"empty item has a line":     {"<ul style='margin:0'><li id=x></ul>", "40 0 760 24"},
		"legend replaces border":    {"<fieldset style='border:2px solid;padding:0;margin:0'><legend style='padding:0'>l</legend><div id=x style='height:5px'></div></fieldset>", "2 24 796 5"},
		"relative holds absolute":   {"<div style='position:relative;top:30px;height:50px'><b id=x style='position:absolute;inset:0'></b></div>", "0 30 800 50"},
		"last baseline":             {"<div style='display:flex;align-items:last baseline'><p style='margin:0;width:9px'>a<br>b</p><b id=x style='width:5px'>c</b></div>", "9 24 5 24"},
		"justify-self of a block": {"<div id=x style='justify-self:center;width:100px;height:5px'></div>",
			"350 0 100 5"},
		"align-content of a block":  {"<div style='align-content:end;height:100px'><div id=x style='height:10px'></div></div>", "0 90 800 10"},
		"size containment":          {"<div id=x style='contain:size;contain-intrinsic-height:33px'>a<br>b<br>c</div>", "0 0 800 33"},
		"auto visibility keeps in":  {"<div style='content-visibility:auto'><p id=x style='margin:10px 0;height:5px'></p></div>", "0 10 800 5"},
		"and holds what is placed":  {"<div style='content-visibility:auto;margin:9px;height:50px'><b id=x style='position:fixed;inset:0'></b></div>", "9 9 782 50"},
		"hidden content is nothing": {"<div id=x style='content-visibility:hidden'>a<br>b<br>c</div>", "0 0 800 0"},
		"width is contained alone":  {"<div style='display:flex'><div id=x style='contain:inline-size'>word<br>word</div></div>", "0 0 0 48"},
		"own height without a ratio": {"<iframe id=x style='height:50px;border:0;vertical-align:top'></iframe>",
			"0 0 300 50"},
		"its attribute":               {"<video id=x height=40></video>", "0 0 300 40"},
		"floated legend of a row":     {"<fieldset style='display:flex;border:0;padding:0;margin:0'><legend style='float:left;padding:0;width:50px'>l</legend><b id=x style='width:9px'></b></fieldset>", "50 0 9 24"},
		"placed in a grid's padding":  {"<div style='display:grid;position:relative;padding:10px 30px 0 20px;height:50px;place-items:center'><b id=x style='position:absolute;width:10px;height:10px'></b></div>", "395 25 10 10"},
		"placed in its grid area":     {"<div style='display:grid;position:relative;grid-template-columns:200px 1fr;place-items:end'><b id=x style='position:absolute;grid-column:1/2;width:10px;height:10px'></b><i>x</i></div>", "190 14 10 10"},
		"placed in a reversed row":    {"<div style='display:flex;flex-direction:row-reverse;position:relative;height:20px'><b id=x style='position:absolute;width:10px;height:10px'></b></div>", "790 0 10 10"},
		"at the end of one":           {"<div style='display:flex;flex-direction:row-reverse;justify-content:flex-end;position:relative;height:20px'><b id=x style='position:absolute;width:10px;height:10px'></b></div>", "0 0 10 10"},
		"placed in a reversed column": {"<div style='display:flex;flex-direction:column-reverse;position:relative;height:20px'><b id=x style='position:absolute;width:10px;height:5px'></b></div>", "0 15 10 5"},
		"wrapped in reverse":          {"<div style='display:flex;flex-wrap:wrap-reverse;position:relative;height:20px'><b id=x style='position:absolute;width:10px;height:5px'></b></div>", "0 15 10 5"},
		"placed in a column":          {"<div style='columns:2;column-gap:0'><p style='margin:0'>a<p style='position:relative;margin:0'>b<b id=x style='position:absolute;right:0;top:0;width:10px;height:5px'></b></div>", "790 0 10 5"},
		"breaks before a box":         {"<p style='margin:0;width:30px'><b style='white-space:nowrap'>aaaa</b><b style='white-space:nowrap'><i id=x style='display:inline-block;width:20px;height:4px;vertical-align:top'></i></b>", "0 24 20 4"},
		"no break after its space":    {"<p style='margin:0;width:40px'><b style='white-space:nowrap'>aaaa </b><b style='white-space:nowrap' >bbbb</b><i id=x style='display:inline-block;width:1px;height:4px;vertical-align:top'></i>", "0 24 1 4"},
		"adjusted in em, not ex":      {"<p id=x style='font-size-adjust:.25;font-size:20px;width:2em;height:4ex;margin:0'></p>", "0 0 40 19.984375"},
		"ratio limited by height":     {"<div id=x style='aspect-ratio:2;max-height:100px'></div>", "0 0 200 100"},
		"ratio of the border box": {img +
			"id=x style='display:block;box-sizing:border-box;width:100px;padding:20px;aspect-ratio:2'>", "0 0 100 50"},
		"percent rounds its base":  {"<div id=x style='width:round(33.3%,50px);height:1px'></div>", "0 0 250 1"},
		"snapped strip":            {"<div style='display:flex;overflow-x:auto;scroll-snap-type:x mandatory;padding:0 20px'><p id=x style='flex:none;width:100%;height:9px;margin:0;scroll-snap-align:start'></p><p style='flex:none;width:100%'></p></div>", "0 0 760 9"},
		"grid area of an absolute": {"<div style='display:grid;grid-template-columns:100px 1fr;position:relative;height:40px;padding:10px'><b id=x style='position:absolute;grid-column:2;inset:0'></b></div>", "110 0 690 60"},
		"tab stops":                {"<p style='white-space:pre;tab-size:40px;width:max-content;margin:0' id=x>a\t\t</p>", "0 0 80 24"},
		"picture by width":         {"<picture><source media='(min-width:700px)' srcset='p.png'><img id=x src=none.png style='display:block'></picture>", "0 0 300 200"},
		"density of a candidate": {"<img id=x style='display:block' srcset='p.png 600w' sizes=300px>",
			"0 0 150 100"},
		"gap in percent and px": {"<div style='display:grid;gap:calc(10% + 5px)'><b>a</b><b id=x>b</b></div>",
			"0 34.296875 800 24"},
	} {
		t.Run(name, func(t *testing.T) { assert.Equal(t, c.want, at(t, c.html, 800)) })
	}
}

// A container of the same width in another viewport: what is in it must still be styled anew.
func TestKeptContainersSeeTheViewport(t *testing.T) {
	const html = "<style>@media (min-width:600px){#x{height:20px}}</style><div style='width:200px;container-type:inline-size'><div id=x style='width:10vw'></div></div>"
	d, e := engine(t, html)
	for _, w := range []int{400, 800, 400, 900} {
		want := fmt.Sprintf("0 0 %d 0", w/10)
		if w >= 600 {
			want = fmt.Sprintf("0 0 %d 20", w/10)
		}
		assert.Equal(t, want, place(d, e.Layout(w)), w)
	}
}

// Whatever an engine laid out before, a width has the same boxes as in a new one.
func TestKeptBoxesEqualNewOnes(t *testing.T) {
	const html = `<style>:root{font-size:calc(14px + .3vw)}.g{display:grid;gap:2%;grid-template-columns:repeat(auto-fit,minmax(9em,1fr))}.c{container-type:inline-size}@container (width>20em){p{padding:1em}}
@media (min-width:700px){li{display:inline-flex}.h{display:none}}li::before{counter-increment:n;content:counter(n) " "}ul{list-style-position:inside}</style>
<div class=g><div class=c><p>A card that knows its room</p></div><div class=c><p>Another one with <b>bold words</b></p></div></div><ul><li>One<li class=h>Two<li>Three and some words</ul>
<div style="display:flex;flex-wrap:wrap"><p style="flex:1 1 12em;text-wrap:balance">Balanced words that go on for a while</p><img src=p.png style="max-width:40%;height:auto"></div>`
	d, kept := engine(t, html)
	for _, w := range []int{320, 1280, 321, 699, 700, 320, 2000, 240} {
		_, fresh := engine(t, html)
		got, want := kept.Layout(w), fresh.Layout(w)
		require.Equal(t, len(want.Boxes), len(got.Boxes), w)
		for i := range want.Boxes {
			assert.Equal(t, want.Boxes[i].Rect, got.Boxes[i].Rect, "%d px, %s", w,
				d.Elements[want.Boxes[i].Element.Index].Path())
		}
	}
}

func TestGeneratedContentCountsInOrder(t *testing.T) {
	for html, want := range map[string]string{
		"<style>b{counter-increment:c}b::before{content:counter(c)}</style><b></b><b style='display:none'></b><b id=x style='display:inline-block'></b>":                            "2",
		"<style>ol{counter-reset:i;list-style:none}li::before{counter-increment:i;content:counters(i,'.')}</style><ol><li><ol><li><li id=x style='display:inline-block'></ol></ol>": "1.2",
		"<ol style='list-style-position:inside' start=7><li>a<li value=40><li id=x style='list-style-type:upper-roman;width:max-content'></ol>":                                     "XLI. ",
		"<q><q id=x style='display:inline-block'></q></q>":                                                                        "‘’",
		"<style>b::before{content:attr(data-k) ' / ' counter(none)}</style><b id=x style='display:inline-block' data-k=Kite></b>": "Kite / 0",
	} {
		figures := "normal"
		if strings.Contains(html, "inside") { // markers have figures of one width
			figures = "tabular-nums"
		}
		plain := at(t, "<span style='display:inline-block;white-space:pre;font-variant-numeric:"+figures+"' id=x>"+
			want+"</span>", 800)
		var x, y, w, h, wanted float64
		_, _ = fmt.Sscan(plain, &x, &y, &wanted, &h)
		_, _ = fmt.Sscan(at(t, html, 800), &x, &y, &w, &h)
		require.Positive(t, w, html)
		assert.InDelta(t, wanted, w, .02, "%s is as wide as %q", html, want)
	}
}

// How far sub and super stand from the baseline is a share of their parent's size and one pixel more (measured; CSS
// leaves it open); other values are lengths, shares of the line's height, or edges of the parent's letters.
func TestWhereInlineBoxesStand(t *testing.T) {
	for align, down := range map[string]float64{"sub": 40.0/5 + 1, "super": -(40.0/3 + 1), "3px": -3, "25%": -15,
		"baseline": 0} {
		d, e := engine(t, `<p style="margin:0;font-size:40px;line-height:60px">a<span id=base>b</span><span id=x style="vertical-align:`+align+`">c</span><img id=img style="width:9px;height:9px;vertical-align:`+align+`"><img id=plain style="width:9px;height:9px"></p>`)
		r := e.Layout(800)
		y := map[string]layout.Px{}
		for _, el := range d.Elements {
			if el.ID != "" {
				y[el.ID] = r.Of(el).Y
			}
		}
		assert.InDelta(t, down, (y["x"] - y["base"]).Float(), 1.0/64, align)
		if align != "25%" { // of its own line height, which a picture takes from its parent
			assert.InDelta(t, down, (y["img"] - y["plain"]).Float(), 1.0/64, "a picture at "+align)
		}
	}
}
