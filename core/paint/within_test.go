package paint_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/internal/testsite"
)

// What lies far outside of what is looked at is left out, and not told of; what a transform may bring there is not.
func TestWhatIsNotLookedAt(t *testing.T) {
	l, _ := testsite.HTML(t, `<style>body{margin:0}div{height:2000px}p{margin:0}</style><p>near</p><div></div><p>far</p><video width=20 height=20></video>
		<p style="transform:translateY(-2000px)">moved</p>`)
	words := func(within *geom.Rect) (out []string, missed int) {
		e := l.Engine()
		list := paint.Page(e, e.Layout(600), paint.Options{Within: within})
		var walk func(items []display.Item)
		walk = func(items []display.Item) {
			for _, i := range items {
				switch x := i.(type) {
				case *display.Group:
					walk(x.Items)
				case *display.Text:
					out = append(out, x.Words)
				}
			}
		}
		walk(list.Items)
		return out, len(list.Missed)
	}
	all, missed := words(nil)
	assert.Equal(t, []string{"near", "far", "moved"}, all)
	assert.Equal(t, 1, missed)
	part := geom.R(0, 0, 600, 100)
	near, missed := words(&part)
	assert.Equal(t, []string{"near", "moved"}, near)
	assert.Zero(t, missed)
}
