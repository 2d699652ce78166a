package motion_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/motion"
	"ziegel/internal/testsite"
)

func clip(t *testing.T, kind, body string) *motion.Clip {
	t.Helper()
	l, _ := testsite.HTML(t, body)
	c, err := motion.Of(l, 600, kind, nil)
	require.NoError(t, err)
	return c
}

const rise = `@keyframes rise{from{opacity:0;translate:0 40px}} `

func TestWhatMoves(t *testing.T) {
	for name, c := range map[string]struct {
		kind, body string
		from, to   float64
		scrolled   bool
		moving     int
	}{
		"in time": {motion.Enter, `<style>` + rise + `p{animation:rise 400ms both}</style><p>a<p>b`, 0,
			.4, false, 2},
		"with delay and turns": {motion.Enter, `<style>` + rise + `p{animation:rise 1s .5s 2}</style><p>a`, 0, 2.5,
			false, 1},
		"generated": {motion.Enter, `<style>` + rise +
			`p::before{content:"x";animation:rise 1s}</style><p>a`, 0, 1, false, 1},
		"for ever is no coming": {motion.Enter, `<style>` + rise + `p{animation:rise 1s infinite}</style><p>a`, 0, 0,
			false, 0},
		"for ever": {motion.Words, `<style>` + rise + `p{animation:rise 3s infinite}</style><p>a`, 0, 3,
			false, 1},
		"without keyframes": {motion.Enter, `<style>p{animation:rise 1s}</style><p>a`, 0, 0, false, 0},
		"under the pointer": {motion.Hover,
			`<style>p{transition:opacity .2s .1s}p:hover{opacity:.5}</style><p>a<div>b</div>`, 0, .3, false, 1},
		"at once": {motion.Hover, `<style>p:hover{opacity:.5}</style><p>a`, 0, 0, false, 0},
		"another property": {motion.Hover, `<style>p{transition:color .2s}p:hover{opacity:.5}</style><p>a`, 0, 0,
			false, 0},
		"seen": {motion.Enter, `<style>` + rise + `body{margin:0}div{height:1000px}p{height:100px;margin:0;animation:rise linear both;animation-timeline:view();animation-range:entry 0% entry 50%}</style>
			<div></div><p>a</p><div></div>`, 200, 250, true, 1},
		"seen all the way": {motion.Enter, `<style>` + rise + `body{margin:0}div{height:1000px}p{height:100px;margin:0;animation:rise linear both;animation-timeline:view()}</style>
			<div></div><p>a</p><div></div>`, 200, 1100, true, 1},
		"contained": {motion.Enter, `<style>` + rise + `body{margin:0}div{height:1000px}p{height:100px;margin:0;animation:rise linear both;animation-timeline:view();animation-range:contain}</style>
			<div></div><p>a</p><div></div>`, 300, 1000, true, 1},
		"scrolled": {motion.Enter, `<style>` + rise +
			`body{margin:0}div{height:2000px}div{animation:rise linear both;animation-timeline:scroll()}</style><div></div>`,
			0, 1200, true, 1},
	} {
		t.Run(name, func(t *testing.T) {
			got := clip(t, c.kind, c.body)
			if c.moving == 0 {
				assert.Nil(t, got)
				return
			}
			require.NotNil(t, got)
			assert.Equal(t, c.scrolled, got.Scrolled)
			assert.InDelta(t, c.from, got.From, 1e-6)
			assert.InDelta(t, c.to, got.To, 1e-6)
			assert.Len(t, got.Moving, c.moving)
		})
	}
}

func TestMoments(t *testing.T) {
	c := clip(t, motion.Enter, `<style>`+rise+`p{animation:rise 1s linear .5s forwards}</style><p>a`)
	assert.Equal(t, []float64{0, .75, 1.5}, c.Moments(3))
	assert.Empty(t, c.Sheet(.4), "before it begins it leaves the box alone")
	assert.Contains(t, c.Sheet(.75), "opacity:0.25!important")
	assert.Contains(t, c.Sheet(.75), "translate:0px 30px!important")
	assert.Contains(t, c.Sheet(9), "opacity:1!important")
	page, err := c.At(.75)
	require.NoError(t, err)
	f := page.Engine().Layout(600).Boxes
	for i := range f {
		if f[i].Element.Tag == "p" {
			assert.InDelta(t, .25, f[i].Style.Opacity, 1e-6)
		}
	}
	seen := clip(t, motion.Enter, `<style>`+rise+`body{margin:0}div{height:1000px}p{height:100px;margin:0;animation:rise linear both;animation-timeline:view();animation-range:entry}</style>
		<div></div><p>a</p><div></div>`)
	assert.Contains(t, seen.Sheet(250), "opacity:0.5!important", "half of it has come in")
}

// What moves the layout is measured; transforms do not.
func TestShift(t *testing.T) {
	for body, want := range map[string]float64{
		`<style>` + rise + `p{animation:rise 1s both}</style><p>a<p>b`: 0,
		// the end of the page
		`<style>@keyframes g{from{height:10px}} p{height:60px;animation:g 1s both}</style><p>a<p>b`:                     100,
		`<style>@keyframes g{to{margin-left:30px}} p{width:100px;animation:g 1s both}</style><p>a</p>`:                  30,
		`<style>@keyframes g{from{transform:translateY(90px) scale(2)}} p{animation:g 1s both}</style><p>a</p><p>b</p>`: 0,
	} {
		c := clip(t, motion.Enter, body)
		s, err := c.Shift(c.Moments(5))
		require.NoError(t, err)
		assert.InDelta(t, want, s.Px, .02, body)
		assert.Equal(t, want > 0, s.Name != "")
	}
	c := clip(t, motion.Hover, `<style>p{transition:padding .2s;padding:0}p:hover{padding:8px}</style><p>a</p>`)
	s, err := c.Shift(c.Moments(3))
	require.NoError(t, err)
	assert.InDelta(t, 16, s.Px, .02)
}

func TestUnknownEasingsAreTold(t *testing.T) {
	c := clip(t, motion.Enter,
		`<style>`+rise+`p{animation:rise 1s both;animation-timing-function:cubic-bezier(2,0,0,1)}</style><p>a`)
	require.NotNil(t, c)
	for _, m := range c.Missed {
		assert.Contains(t, m, "easing")
	}
	timeline := clip(t, motion.Enter, `<style>`+rise+`p{animation:rise 1s both;animation-timeline:--other}</style><p>a`)
	assert.Nil(t, timeline, "a timeline that is not evaluated moves nothing here")
}

func TestKeyframesAreReadInOrder(t *testing.T) {
	l, _ := testsite.HTML(t,
		`<style>@keyframes a{to{opacity:1}} @layer x{@keyframes "b"{50%,0%{opacity:0} to{opacity:1} 120%{opacity:.5}}} @keyframes a{from{opacity:.5}}</style>`)
	frames, ok := l.Doc.Keyframes("a")
	require.True(t, ok)
	require.Len(t, frames, 1, "the last of a name counts")
	assert.Zero(t, frames[0].At)
	frames, ok = l.Doc.Keyframes("b")
	require.True(t, ok)
	var at []string
	for _, f := range frames {
		at = append(at, strings.TrimSpace(f.Declarations[0].Value))
	}
	assert.Equal(t, []string{"0", "0", "1"}, at)
	_, ok = l.Doc.Keyframes("c")
	assert.False(t, ok)
	assert.Equal(t, "", css.Look{}.InForce("opacity"))
}
