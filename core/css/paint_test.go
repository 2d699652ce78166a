package css_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/css"
	"ziegel/internal/testsite"
)

// What is drawn: the color that text is filled with goes before its color, and follows from it when it says so.
func TestWhatAStyleDraws(t *testing.T) {
	for style, want := range map[string]string{
		"color:#102030": "#102030",
		"color:#102030;-webkit-text-fill-color:#405060":      "#405060",
		"color:#102030;-webkit-text-fill-color:currentcolor": "#102030",
		"color:initial": "#000000",
	} {
		l, e := testsite.HTML(t, `<p id=x style="`+style+`">a</p>`)
		var painter css.Painter
		f := l.Engine().Layout(400).Of(e)
		assert.Equal(t, want, painter.Of(f.Style.Look(), css.Color{A: 1}).Color.Hex(), style)
	}
	l, e := testsite.HTML(t, `<p id=x style="--c:red;color:var(--c);opacity:.5;width:3px">a</p>`)
	drawn := l.Engine().Layout(400).Of(e).Style.Look().Drawn()
	assert.Equal(t, "red", drawn["color"])
	assert.Equal(t, ".5", drawn["opacity"])
	assert.NotContains(t, drawn, "width")
}
