package e2e

import (
	"context"
	"image"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	against "ziegel/core/compare"
	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/project"
	"ziegel/e2e/browser"
	"ziegel/e2e/likeness"
	"ziegel/stock"
)

// A design need not come from our own pencil: every piece of the demo is found in Chromium's picture of it, and nothing
// differs.
func TestThePictureOfABrowserIsADesign(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	root := t.TempDir()
	_, err := likeness.Built(stock.Files, "../stock/demo", root, "demo")
	require.NoError(t, err)
	env, problems, err := project.Open("../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	s, err := check.Lay(env, env.Site.Page("home"), nil)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), 3*time.Minute)
	defer cancel()
	views := []browser.View{{Page: "demo/index.html", Width: 1280, Scale: 1},
		{Page: "demo/index.html", Width: 390, Scale: 1}}
	seen := 0
	require.NoError(t, browser.Shoot(ctx, root, views, func(i int, img *image.RGBA) error {
		shot, err := draw.Of(s.Prepared, views[i].Width, draw.Target{}, draw.Look{Files: paint.NewFiles()})
		if err != nil {
			return err
		}
		r, err := against.WithPicture(shot, img, against.Options{Against: "browser.png",
			Tolerance: against.DefaultTolerance, Mender: against.Mender{Page: "home"}})
		if err != nil {
			return err
		}
		for _, d := range r.Differences {
			t.Errorf("%d: %s: %s", views[i].Width, d.Kind, d.Text)
		}
		assert.Equal(t, r.Pieces, r.Found)
		assert.Greater(t, r.Pieces, 90)
		seen++
		return nil
	}))
	assert.Equal(t, 2, seen)
}
