package e2e

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/emit"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
	"ziegel/ui/report"
)

// widths are where our boxes are compared with the browser's, CSS px.
var widths = []int{280, 320, 360, 390, 414, 480, 540, 599, 600, 700, 768, 820, 900, 1024, 1152, 1280, 1440, 1680, 1920, 2560}

// known lists differences that we accept, by page and path, with the reason. One that has gone fails the test.
var known = map[string]string{}

// TestBoxesEqualChromium compares every element's box with a real browser's: the built demo pages, and small pages of single features.
func TestBoxesEqualChromium(t *testing.T) {
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	root := t.TempDir()
	pages := builtDemo(t, root)
	pages = append(pages, fixtures(t, root)...)
	ctx, cancel := context.WithTimeout(context.Background(), 4*time.Minute)
	defer cancel()
	version, want, err := browser.Measure(ctx, root, pages, widths)
	require.NoError(t, err)
	require.Len(t, want, len(pages))
	var total, exact int
	seen := map[string]bool{}
	for _, page := range want {
		t.Run(page.Page, func(t *testing.T) {
			laid, err := sweep.FromFile(filepath.Join(root, page.Page), stock.Files)
			require.NoError(t, err)
			for _, u := range laid.Doc.Unsupported {
				t.Errorf("%s: %s is not modelled", u.Property, u.Value)
			}
			engine := laid.Engine()
			for _, w := range page.Widths {
				ours := report.Measure(engine.Layout(w.Width))
				if t.Failed() { // one width tells enough
					continue
				}
				n, e := compare(t, page.Page, ours, w, seen)
				total += n
				exact += e
			}
		})
	}
	for k, why := range known {
		assert.True(t, seen[k], "%s is listed as a known difference (%s) but has gone: take it off the list", k, why)
	}
	require.Positive(t, total, "nothing was compared with the browser")
	fmt.Printf("compared %d boxes of %d pages at %d widths with %s: %.2f %% equal to 1/64 px\n", total, len(pages), len(widths), version, 100*float64(exact)/float64(total))
}

// compare checks one layout and returns how many boxes were compared and how many were exactly equal.
func compare(t *testing.T, page string, ours report.MeasureWidth, want browser.Width, seen map[string]bool) (n, exact int) {
	t.Helper()
	got := map[string]report.MeasureBox{}
	for _, b := range ours.Boxes {
		got[b.Path] = b
	}
	bad := 0
	for _, b := range want.Boxes {
		n++
		o, ok := got[b.Path]
		d := math.Max(math.Max(math.Abs(o.X-b.X), math.Abs(o.Y-b.Y)), math.Max(math.Abs(o.W-b.W), math.Abs(o.H-b.H)))
		if ok && d < 1.0/128 && o.Lines == b.Lines {
			exact++
		}
		if ok && d <= 1 && o.Lines == b.Lines {
			continue
		}
		if key := page + " " + b.Path; known[key] != "" {
			seen[key] = true
			continue
		}
		if bad++; bad <= 3 {
			t.Errorf("%d px, %s\n  ours    x %.3f y %.3f w %.3f h %.3f, %d lines\n  browser x %.3f y %.3f w %.3f h %.3f, %d lines", want.Width, b.Path, o.X, o.Y, o.W, o.H, o.Lines, b.X, b.Y, b.W, b.H, b.Lines)
		}
	}
	assert.Equal(t, len(want.Boxes), len(ours.Boxes), "%d px: number of boxes", want.Width)
	assert.InDelta(t, want.Overflow, ours.Overflow, 1, "%d px: sideways overflow", want.Width)
	assert.InDelta(t, want.Height, ours.Height, 1, "%d px: height", want.Width)
	return n, exact
}

// builtDemo writes the built demo site below root and returns its pages.
func builtDemo(t *testing.T, root string) []string {
	t.Helper()
	env, problems, err := compose.Open("../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	files, problems := emit.Build(env)
	require.NoError(t, problems.Err())
	var pages []string
	for name, data := range files {
		p := filepath.Join(root, "demo", filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o777))
		require.NoError(t, os.WriteFile(p, data, 0o666))
		if strings.HasSuffix(name, ".html") && name != "404.html" { // its links start at a server's root
			pages = append(pages, "demo/"+name)
		}
	}
	return pages
}

// fixtures copies the small pages with the shipped fonts beside them.
func fixtures(t *testing.T, root string) []string {
	t.Helper()
	names, err := filepath.Glob("testdata/boxes/*.html")
	require.NoError(t, err)
	require.NotEmpty(t, names)
	var pages []string
	copyTo := func(from, to string) {
		data, err := os.ReadFile(from)
		require.NoError(t, err)
		require.NoError(t, os.MkdirAll(filepath.Dir(to), 0o777))
		require.NoError(t, os.WriteFile(to, data, 0o666))
	}
	fonts, err := filepath.Glob("../stock/fonts/*.woff2")
	require.NoError(t, err)
	for _, f := range fonts {
		copyTo(f, filepath.Join(root, "boxes", "fonts", filepath.Base(f)))
	}
	copyTo("testdata/boxes/fonts.css", filepath.Join(root, "boxes", "fonts.css"))
	copyTo("../stock/demo/media/delta.svg", filepath.Join(root, "boxes", "delta.svg"))
	for _, n := range names {
		copyTo(n, filepath.Join(root, "boxes", filepath.Base(n)))
		pages = append(pages, "boxes/"+filepath.Base(n))
	}
	return pages
}
