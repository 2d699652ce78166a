package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reader gives the reader of the element with the class x.
func reader(t *testing.T, page string, m Media) *Reader {
	t.Helper()
	doc, err := Load(Source{File: "t.html", HTML: "<!doctype html>" + page})
	require.NoError(t, err)
	s := NewStyler(doc)
	s.SetMedia(m)
	var out *Reader
	var walk func(e *Element, parent *Style, read *Reader)
	walk = func(e *Element, parent *Style, read *Reader) {
		st := *s.Style(e, parent, nil)
		r := s.Reader(&st, read, [2]float64{}, m.Dark)
		if e.HasClass("x") {
			out = r
		}
		for _, k := range e.Kids() {
			walk(k, &st, r)
		}
	}
	walk(doc.Root, s.Root(), nil)
	require.NotNil(t, out)
	return out
}

func TestReaderKnowsWhatIsInForce(t *testing.T) {
	r := reader(t, `<style>:root{--k:#0f0}.p{color:#f00;text-shadow:1px 1px;box-shadow:2px 2px}.x{border-top-color:currentcolor;outline-color:var(--k);filter:blur(var(--b,2em));box-shadow:initial}</style><div class=p><i class=x></i></div>`,
		Media{Width: 800, Height: 600})
	c, ok := r.Color("border-top-color")
	assert.True(t, ok)
	assert.Equal(t, Color{R: 1, A: 1}, c, "the color that it inherits")
	c, ok = r.Color("outline-color")
	assert.True(t, ok)
	assert.Equal(t, Color{G: 1, A: 1}, c)
	assert.Equal(t, "1px 1px", Text(r.Value("text-shadow")), "inherited")
	assert.Nil(t, r.Value("box-shadow"), "initial, and not inherited")
	_, ok = r.Color("border-left-color")
	assert.False(t, ok)
	name, args, ok := Call(r.Value("filter"))
	require.True(t, ok)
	assert.Equal(t, "blur", name)
	px, ok := r.Px(args)
	assert.True(t, ok)
	assert.Equal(t, 32.0, px, "em of the element")
}

func TestReaderCountsInDevicePixels(t *testing.T) {
	const page = `<style>.x{font-size:10px;outline-width:3px}</style><i class=x></i>`
	length := func(r *Reader, text string) float64 {
		l, ok := r.Length(Tokenize(text))
		require.True(t, ok, text)
		return l.At(200)
	}
	one, two := reader(t, page, Media{Width: 800, Height: 600}), reader(t, page,
		Media{Width: 800, Height: 600, Zoom: 2})
	for text, want := range map[string]float64{"3px": 3, "2em": 20, "1rem": 16, "10vw": 80, "calc(1px + 1em)": 11,
		"10vh": 60} {
		assert.InDelta(t, want, length(one, text), 1e-4, text)
		assert.InDelta(t, 2*want, length(two, text), 1e-4, text)
		assert.InDelta(t, want, length(two.Unzoomed(), text), 1e-4, text)
	}
	assert.InDelta(t, 100, length(two, "50%"), 1e-4)
	assert.Same(t, one, one.Unzoomed())
	assert.Equal(t, 20.0, two.Style.FontSize)
	assert.Equal(t, 10.0, two.Style.CSSSize())
}

func TestSchemeOfReaders(t *testing.T) {
	for _, c := range []struct {
		scheme string
		dark   bool
		want   Color
	}{{"", true, Color{R: 1, A: 1}}, {"color-scheme:light dark", true, Color{B: 1, A: 1}}, {"color-scheme:light dark",
		false, Color{R: 1, A: 1}}} {
		r := reader(t, `<style>.x{border-top-color:light-dark(#f00,#00f)}</style><body style="`+c.scheme+`"><i class=x></i>`,
			Media{Width: 800, Height: 600, Dark: c.dark})
		got, ok := r.Color("border-top-color")
		assert.True(t, ok)
		assert.Equal(t, c.want, got, "%+v", c)
	}
}

func TestPartsOfValues(t *testing.T) {
	assert.Len(t, Parts(Tokenize("1px solid rgb(0 0 0 / 50%)")), 3)
	name, args, ok := Call(Tokenize("url(a b.png)"))
	assert.True(t, ok)
	assert.Equal(t, "url", name)
	assert.Equal(t, "a b.png", Unquote(Text(args)))
	_, _, ok = Call(Tokenize("blur(2px) sepia(1)"))
	assert.False(t, ok, "two functions are no function")
	assert.Equal(t, "none", Word(Tokenize(" NONE ")))
	assert.Empty(t, Word(Tokenize("a b")))
}
