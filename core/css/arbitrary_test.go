package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// widthOf gives the width that a rule gives to the second of three paragraphs, px; -1 when it is auto.
func widthOf(t *testing.T, sheet string) float64 {
	t.Helper()
	d, err := Load(Source{File: "x.html", HTML: "<!doctype html><style>" + sheet +
		"</style><body data-n=7><p>a<p id=x data-n=30 data-u=2em data-bad=wide>b<p>c"})
	require.NoError(t, err)
	st := NewStyler(d)
	st.SetMedia(Media{Width: 800, Height: 800})
	w := stylesOf(d, st, Container{})["x"].Width
	if w.Kind != LenPx || w.HasPercent() {
		return -1
	}
	return w.Px
}

func TestFunctionsThatLookAtTheElement(t *testing.T) {
	for _, c := range []struct {
		name, sheet string
		want        float64
	}{
		{"the place among siblings", "p{width:calc(10px * sibling-index())}", 20},
		{"how many there are", "p{width:calc(10px * sibling-count())}", 30},
		{"that as a custom property", "p{--i:sibling-index();width:calc(5px * var(--i))}", 10},
		{"an attribute as a length", "p{width:attr(data-n px)}", 30},
		{"an attribute as a number", "p{width:calc(2px * attr(data-n number))}", 60},
		{"an attribute of a kind", "p{width:attr(data-u type(<length>), 9px)}", 32},
		{"one of another kind", "p{width:attr(data-bad type(<length>), 9px)}", 9},
		{"one that is not there", "p{width:attr(data-none px, 44px)}", 44},
		{"not there, and nothing instead", "p{width:5px;width:attr(data-none px)}", -1},
		{"a condition on a custom property", "p{--k:1;width:if(style(--k: 1): 11px; else: 12px)}", 11},
		{"one that does not hold", "p{--k:2;width:if(style(--k: 1): 11px; else: 12px)}", 12},
		{"what is supported", "p{width:if(supports(display: grid): 13px; else: 12px)}", 13},
		{"what is not", "p{width:if(not supports(display: grid): 13px; else: 12px)}", 12},
		{"nothing holds", "p{width:7px;width:if(style(--k: 1): 11px)}", -1},
		{"the window is not asked", "p{width:if(media(width > 1px): 11px; else: 12px)}", -1},
		{"a function of the author",
			"@function --twice(--n <length>) {result: calc(var(--n) * 2)} p{width:--twice(21px)}", 42},
		{"with a fallback", "@function --w(--n: 8px, --m: 2) {result: calc(var(--n) * var(--m))} p{width:--w()}", 16},
		{"with a local value", "@function --w(--n) {--k: 3; result: calc(var(--n) * var(--k))} p{width:--w(4px)}", 12},
		{"one that calls another",
			"@function --a(--n) {result: --b(var(--n))}@function --b(--n) {result: calc(var(--n) + 1px)} p{width:--a(4px)}", 5},
		{"one that calls itself", "@function --a(--n) {result: --a(var(--n))} p{width:3px;width:--a(4px)}", -1},
		{"too much for it", "@function --a(--n) {result: 4px} p{width:3px;width:--a(1px, 2px)}", -1},
		{"one that nobody defined", "p{width:3px;width:--none(1px)}", -1},
		{"how far something is", "p{width:calc(100px * progress(50px, 0px, 200px))}", 25},
		{"a length by a length", "p{width:calc(30px * (10em / 5em))}", 60},
		{"the sign of a length", "p{width:calc(30px * sign(-3px) + 50px)}", 20},
		{"no number", "p{width:calc(NaN * 1px)}", 0},
		{"of the root", ":root{font-size:20px}p{font-size:5px;width:2ric}", 40},
		{"a range of a custom property", "body{--n:3}@container style(--n > 2){p{width:6px}}", 6},
		{"out of that range", "body{--n:3}@container style(--n < 2){p{width:6px}}", -1},
		{"a rule that is known", "@supports at-rule(@container){p{width:6px}}", 6},
		{"a rule that is not", "@supports at-rule(@nothing){p{width:6px}}", -1},
	} {
		assert.Equal(t, c.want, widthOf(t, c.sheet), c.name)
	}
}

// What the layout does not follow is told with its function, where a box would follow from it.
func TestUnfollowedFunctionsAreTold(t *testing.T) {
	for decl, told := range map[string]string{
		"width:random(1px,9px)": "random()", "height:calc-size(auto,size)": "calc-size()", "left:anchor(right)": "anchor()",
		"width:if(media(width > 1px): 1px)": "if(media())", "color:random(1,2)": "", "width:calc(1px)": "",
		"content:url(a.png)": "url(a.png)", "perspective:9px": "9px",
	} {
		d, err := Load(Source{File: "x.html", HTML: "<!doctype html><style>p{" + decl + "}</style><p>"})
		require.NoError(t, err)
		got := ""
		for _, u := range d.Unsupported {
			got = u.Value
		}
		assert.Equal(t, told, got, decl)
	}
}

// Logical sides and physical ones are one cascade, by the direction of the element.
func TestLogicalSidesInTheCascade(t *testing.T) {
	for _, c := range []struct {
		dir, sheet string
		want       [4]float64 // padding
	}{
		{"ltr", "p{padding:1px;padding-inline-start:9px}", [4]float64{1, 1, 1, 9}},
		{"rtl", "p{padding:1px;padding-inline-start:9px}", [4]float64{1, 9, 1, 1}},
		{"rtl", "p{padding-inline-start:9px;padding:1px}", [4]float64{1, 1, 1, 1}},
		{"rtl", "p{padding-inline-start:9px;padding-left:2px}", [4]float64{0, 9, 0, 2}},
		{"rtl", "p{padding-inline-start:9px;padding-right:2px}", [4]float64{0, 2, 0, 0}},
		{"rtl", "p{padding-inline-start:9px !important;padding-right:2px}", [4]float64{0, 9, 0, 0}},
		{"ltr", "p{direction:rtl;padding-inline-end:9px}", [4]float64{0, 0, 0, 9}},
		{"rtl", "p{direction:ltr;padding-inline:3px 4px}", [4]float64{0, 4, 0, 3}},
	} {
		d, err := Load(
			Source{
				File: "x.html",
				HTML: "<!doctype html><style>" + c.sheet + "</style><div dir=" + c.dir + "><p id=x>",
			},
		)
		require.NoError(t, err)
		st := NewStyler(d)
		st.SetMedia(Media{Width: 800, Height: 800})
		p := stylesOf(d, st, Container{})["x"].Padding
		assert.Equal(t, c.want, [4]float64{p[Top].Px, p[Right].Px, p[Bottom].Px, p[Left].Px}, c.dir+" "+c.sheet)
	}
}

// Alignments keep their words of overflow; two of them may be of two words each.
func TestAlignments(t *testing.T) {
	d, err := Load(
		Source{
			File: "x.html",
			HTML: "<!doctype html><p id=x style='place-self:safe end last baseline;place-content:first baseline;justify-items:legacy right'>",
		},
	)
	require.NoError(t, err)
	st := NewStyler(d)
	st.SetMedia(Media{Width: 800, Height: 800})
	s := stylesOf(d, st, Container{})["x"]
	assert.Equal(t, []Align{"safe end", "last baseline", "baseline", "start", "right"},
		[]Align{s.AlignSelf, s.JustifySelf, s.AlignContent, s.JustifyContent, s.JustifyItems})
	assert.Equal(t, Align("start"), s.AlignSelf.At(-1))
	assert.Equal(t, Align("end"), s.AlignSelf.At(0))
	assert.Equal(t, Align("center"), Align("unsafe center").At(-9))
	assert.Equal(t, Align("safe start"), Align("safe left").Physical(false))
	assert.Equal(t, Align("end"), Align("left").Physical(true))
}
