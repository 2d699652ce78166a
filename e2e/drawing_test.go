package e2e

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/e2e/browser"
	"ziegel/e2e/equal"
	"ziegel/e2e/likeness"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// drawnOtherwise are pages that are drawn otherwise than by the browser, and why.
var drawnOtherwise = map[string]string{
	"features/borders.html":       "newer browsers set the dashes of round corners otherwise",
	"features/backgrounds.html":   "tiles of a fraction of a pixel are smoothed otherwise",
	"boxes/cascade/forms":         "fields have the browser's own frame, which is told",
	"boxes/controls":              "signs of fields of dates, colors and files are not drawn, and told",
	"marram/video-file":           "the controls of a film are the browser's own",
	"tideline/video-file":         "the controls of a film are the browser's own",
	"lamplight/testimonials-wall": "its ground differs by 3 of 255 at two device pixels a px: a mixed color over another",
	"lamplight/video-file":        "the controls of a film are the browser's own",
	"driftwood/video-file":        "the controls of a film are the browser's own",
	"tideline/hero-half":          "two breaks of a balanced heading are nearly as good at two device pixels a px, and Chromium takes the other",
}

// A picture is what Chromium shows: every feature, the demo, every other section, in four themes, light and dark in
// turns, and pages of the layout's own suite. `go run ./e2e/cmd/likeness` compares them all at every width and scale.
func TestPicturesEqualChromium(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	root := t.TempDir()
	pages, err := likeness.Features("testdata", "../stock", root)
	require.NoError(t, err)
	demo, err := likeness.Built(stock.Files, "../stock/demo", root, "demo")
	require.NoError(t, err)
	pages = append(pages, demo...)
	for i, theme := range likeness.Themes {
		list, err := likeness.Sections(stock.Files, root, theme)
		require.NoError(t, err)
		sort.Strings(list)
		for k, p := range list {
			n := len(likeness.Themes)
			if k%(2*n) == i || testsite.Thorough() && (k%n == i || k%n == (i+2)%n) {
				pages = append(pages, p)
			}
		}
	}
	fixtures, err := equal.Fixtures(".", root)
	require.NoError(t, err)
	pages = append(pages, fixtures[:min(len(fixtures), 20)]...)
	slices.Sort(pages)
	var views []browser.View
	for i, p := range pages {
		views = append(views, browser.View{Page: p, Width: []int{390, 768, 1280}[i%3], Scale: float64(1 + i/3%2),
			Dark: i%5 == 4 && !strings.HasPrefix(p, "boxes/")})
		if strings.HasPrefix(p, "features/") && (i%2 == 0 || testsite.Thorough()) {
			views = append(views, browser.View{Page: p, Width: 390, Scale: float64(2 - i/3%2)})
		}
	}
	ctx, cancel := context.WithTimeout(context.Background(), 8*time.Minute)
	defer cancel()
	begun := time.Now()
	seen, err := likeness.Against(ctx, stock.Files, root, views)
	require.NoError(t, err)
	require.Len(t, seen, len(views))
	require.Greater(t, len(pages), 90, "pages that are compared")
	sum, least, flat, flats := 0.0, 1.0, 0, 0
	for _, s := range seen {
		sum += s.SSIM
		known := ""
		for page, why := range drawnOtherwise {
			if strings.HasPrefix(s.Page, page) {
				known = why
			}
		}
		if known != "" { // looser, but no excuse for everything
			assert.GreaterOrEqual(t, s.SSIM, .8, "%s (%s)", s.Name(), known)
			continue
		}
		least = min(least, s.SSIM)
		floor := .95
		if s.Scale == 1 { // text is hinted there, which pictures leave out
			floor = .93
		}
		assert.GreaterOrEqual(t, s.SSIM, floor, "%s; it differs most at %v", s.Name(), s.Worst)
		assert.LessOrEqual(t, s.Flat, 2, "colors of flat areas of %s", s.Name())
		flat, flats = max(flat, s.Flat), flats+s.FlatN
	}
	mean := sum / float64(len(seen))
	assert.GreaterOrEqual(t, mean, .985)
	assert.Positive(t, flats, "flat areas were compared")
	assert.False(t, math.IsNaN(mean))
	fmt.Printf("pictures: %d of %d pages in %.0f s: SSIM %.4f on average, %.4f the least; %d flat squares, %d of 255 apart at most\n",
		len(seen), len(pages), time.Since(begun).Seconds(), mean, least, flats, flat)
}

// What the comparison of pictures says is true of pictures that differ.
func TestLikenessTellsPicturesApart(t *testing.T) {
	root := t.TempDir()
	write := func(name, html string) {
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(html), 0o666))
	}
	const page = "<!doctype html><style>body{margin:0}i{position:absolute;left:%dpx;top:40px;width:80px;height:60px;background:%s}</style><i></i>"
	write("a.html", fmt.Sprintf(page, 40, "#336699"))
	write("b.html", fmt.Sprintf(page, 43, "#336699"))
	write("c.html", fmt.Sprintf(page, 40, "#3a6699"))
	draw := func(name string) likeness.Picture {
		img, _, err := likeness.Draw(stock.Files, root, browser.View{Page: name, Width: 200, Scale: 1}, nil)
		require.NoError(t, err)
		return img
	}
	a := draw("a.html")
	same := likeness.Compare(a, draw("a.html"))
	assert.Equal(t, 1.0, same.SSIM)
	assert.Zero(t, same.Flat)
	moved := likeness.Compare(a, draw("b.html"))
	assert.Less(t, moved.SSIM, .999)
	assert.Positive(t, moved.Apart)
	colored := likeness.Compare(a, draw("c.html"))
	assert.Equal(t, 7, colored.Flat)
}
