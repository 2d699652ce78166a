package naming_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// byPart gives the n-th element of a part, from 1.
func byPart(t *testing.T, l *sweep.Prepared, part string, n int) *css.Element {
	t.Helper()
	for _, e := range l.Doc.Elements {
		if e.Attr("data-part") == part {
			if n--; n == 0 {
				return e
			}
		}
	}
	require.Fail(t, "no part "+part)
	return nil
}

// Elements of a site's pages are called by their block and part, counted where there are several.
func TestElementsOfAPageAreCalledByTheirParts(t *testing.T) {
	l := testsite.Swept(t, testsite.With(t, `title: T
blocks:
  - name: plans
    section: pricing/plans
    content:
      heading: Which one is yours
  - name: frame
    section: layout/columns
    holds:
      left:
        - name: words
          section: piece/text
          content:
            text: A text in a block that another block holds, longer than a name can be
`))
	card := byPart(t, l, "card", 2)
	block, part, item := naming.Place(l, card)
	assert.Equal(t, []any{"plans", "card", 2}, []any{block, part, item})
	heading := byPart(t, l, "heading", 1)
	_, part, item = naming.Place(l, heading)
	assert.Equal(t, []any{"heading", 0}, []any{part, item}, "what stands once needs no number")
	assert.Equal(t, "the heading (Which one is yours)", naming.Of(l, heading))
	assert.True(t, strings.HasPrefix(naming.Of(l, card), "the card 2 ("), naming.Of(l, card))
	inner := card.Kids()[0]
	_, part, item = naming.Place(l, inner)
	assert.Equal(t, []any{"title", 2}, []any{part, item}, "the nearest part counts")
	text := byPart(t, l, "text", 1)
	for _, e := range l.Doc.Elements {
		if e.Attr("data-part") == "text" && naming.BlockOf(l, e).Name == "words" {
			text = e
		}
	}
	block, _, _ = naming.Place(l, text)
	assert.Equal(t, "words", block, "the innermost block")
	assert.Equal(t, "the text (A text in a block that anot…)", naming.Of(l, text), "28 letters at most")
	assert.Equal(t, "the block plans", naming.Of(l, l.Block("plans").Element))
	assert.Equal(t, "title", naming.PartsAround(card.Kids()[0], "card")[0], "from the inside out")
	assert.NotContains(t, naming.PartsAround(card, "card"), "card")
	assert.Empty(t, naming.Whereabouts(l, card), "a block is enough")
	assert.Nil(t, naming.BlockOf(l, l.Doc.Root))
}

// On pages by other hands they are called by tag and class, their words or what stands for them.
func TestElementsOfForeignPages(t *testing.T) {
	for body, want := range map[string]string{
		`<p id=x class="lead big">Some words</p>`:       "the p.lead (Some words)",
		`<img id=x alt="A kite" src="k.png">`:           "the img (A kite)",
		`<img id=x src="pictures/k.png">`:               "the img (k.png)",
		`<img id=x src="data:image/png;base64,AAAA">`:   "the img (x)",
		`<input id=x placeholder="Your name">`:          "the input (Your name)",
		`<a id=x href=y aria-label="Menu"></a>`:         "the a (Menu)",
		`<a id=x href=y><img alt="Home" src=h.png></a>`: "the a (Home)",
		`<div id=x><p>One</p><p>two</p></div>`:          "the div (One · two)",
		`<p id=x>un<b>brea</b>kable</p>`:                "the p (unbreakable)",
		`<button id=x name=send></button>`:              "the button (send)",
	} {
		l, x := testsite.HTML(t, body)
		got := naming.Of(l, x)
		if body == `<div id=x><p>One</p><p>two</p></div>` { // set apart, whatever stands between
			assert.Regexp(t, `^the div \(One.+two\)$`, got)
			continue
		}
		assert.Equal(t, want, got, body)
	}
	l, x := testsite.HTML(t, `<section class=plans><h2>Our plans</h2><div><p id=x>a</p></div></section>`)
	assert.Contains(t, naming.Whereabouts(l, x), "Our plans", "words that somebody can search for")
}

func TestWhatElementsAre(t *testing.T) {
	for body, want := range map[string][2]bool{ // clicked, shows something
		`<a id=x href=y>`:          {true, false},
		`<a id=x>`:                 {false, false},
		`<input id=x type=hidden>`: {false, false},
		`<input id=x>`:             {true, false},
		`<summary id=x>`:           {true, false},
		`<img id=x>`:               {false, true},
		`<svg id=x></svg>`:         {false, true},
		`<p id=x>`:                 {false, false},
	} {
		_, x := testsite.HTML(t, body)
		assert.Equal(t, want, [2]bool{naming.Clickable(x), naming.IsPicture(x)}, body)
	}
	_, x := testsite.HTML(t, `<p id=x> own <b>other</b> words </p>`)
	assert.Equal(t, "own words", naming.OwnText(x))
	assert.True(t, naming.Inside(x.Kids()[0], x))
	assert.False(t, naming.Inside(x, x))
	assert.False(t, naming.Inside(x, x.Kids()[0]))
	assert.Equal(t, layout.Px(3), naming.Abs(-3))
	assert.Equal(t, []string{"12 px", "2.5 px"}, []string{naming.Px(12 * 64), naming.Px(2*64 + 32)})
	assert.Equal(t, "b", naming.First("", "b", "c"))
}
