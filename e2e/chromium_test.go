package e2e

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/build"
	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/e2e/browser"
	"ziegel/e2e/equal"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "record Chromium's boxes anew")

const goldenFile = "testdata/golden/boxes.json.gz"

// known lists pages with differences that we accept, with the reason. One that has gone fails the test.
var known = map[string]string{}

// TestBoxesEqualChromium compares every element's box with those recorded from a real browser.
func TestBoxesEqualChromium(t *testing.T) {
	t.Parallel()
	root := t.TempDir()
	pages, err := equal.Fixtures(".", root)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(pages), 200, "the suite has at least 200 pages")
	golden, err := equal.ReadGolden(goldenFile)
	require.NoError(t, err, "record them: go test ./e2e -run LiveChromium -update")
	stale, err := golden.Stale(root, pages)
	require.NoError(t, err)
	require.Empty(t, stale, "not recorded as they are now: go test ./e2e -run LiveChromium -update")
	measured := golden.Measured()
	if testing.Short() { // every fortieth page
		for i := range len(measured) / 40 {
			measured[i] = measured[i*40]
		}
		measured = measured[:len(measured)/40]
	}
	compare(t, root, measured, "recorded from "+golden.Browser)
}

// TestLiveChromium compares with the browser of this machine: the built demo pages, which are not recorded, with our
// boxes, and the fixtures with the record. Another version than the recorded one is told by how much it differs.
func TestLiveChromium(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	root := t.TempDir()
	demo, shown := builtDemo(t, root), builtLibrary(t, root)
	fixtures, err := equal.Fixtures(".", root)
	require.NoError(t, err)
	if !*update && !testsite.Thorough() { // the record holds them all
		some := fixtures[:0:0]
		for i := 0; i < len(fixtures); i += 5 {
			some = append(some, fixtures[i])
		}
		fixtures = some
	}
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Minute)
	defer cancel()
	version, live, err := browser.Measure(ctx, root, slices.Concat(demo, shown, fixtures), equal.Widths)
	require.NoError(t, err)
	require.Len(t, live, len(demo)+len(shown)+len(fixtures))
	compare(t, root, live[:len(demo)], "the demo, live in "+version)
	compare(t, root, live[len(demo):len(demo)+len(shown)], "every section, live in "+version)
	now, err := equal.NewGolden(version, root, live[len(demo)+len(shown):])
	require.NoError(t, err)
	if *update {
		require.NoError(t, equal.WriteGolden(goldenFile, now))
		return
	}
	golden, err := equal.ReadGolden(goldenFile)
	require.NoError(t, err)
	recorded := map[string]browser.Page{}
	for _, p := range golden.Measured() {
		recorded[p.Page] = p
	}
	var drift []string
	for _, p := range now.Measured() {
		if !assert.ObjectsAreEqual(recorded[p.Page], p) {
			drift = append(drift, p.Page)
		}
	}
	if len(drift) > 0 {
		fmt.Printf("drift: %s lays %d of %d pages out otherwise than the recorded %s: %s\n", version, len(drift),
			len(fixtures), golden.Browser, strings.Join(drift, ", "))
	}
}

// compare lays the pages out and fails where boxes differ that are not known to.
func compare(t *testing.T, root string, want []browser.Page, what string) {
	t.Helper()
	var total equal.Tally
	tallies, err := equal.Pages(root, want, stock.Files, equal.APixel)
	require.NoError(t, err)
	for i, page := range want {
		t.Run(page.Page, func(t *testing.T) {
			tally := tallies[i]
			total.Add(tally)
			assert.Empty(t, tally.Reported, "a page of the suite uses only what is modelled")
			if why := known[page.Page]; why != "" {
				assert.NotEmpty(t, tally.Differences,
					"listed as different (%s), but it has gone: take it off the list", why)
				return
			}
			for i, d := range tally.Differences {
				if i < 3 {
					t.Error(d)
				}
			}
		})
	}
	require.Positive(t, total.Boxes, "nothing was compared with the browser")
	fmt.Printf("%s: %d pages, %s\n", what, len(want), total)
	share := func(n, of int) float64 { return 100 * float64(n) / float64(of) }
	assert.GreaterOrEqual(t, share(total.Within, total.Boxes), 99.5, "boxes within 1 px, %%")
	assert.GreaterOrEqual(t, share(total.Sixteenth, total.Boxes), 99.0, "boxes within 1/16 px, %%")
	assert.GreaterOrEqual(t, share(total.SameLines, max(1, total.Texts)), 99.5, "texts with the same lines, %%")
	assert.Equal(t, total.Layouts, total.SameSideways, "agreement on sideways scroll")
}

// TestRandomPagesEqualChromium compares pages that the generator made up. A seed that differs is listed in
// testdata/random.txt with what is behind it, until it is mended.
func TestRandomPagesEqualChromium(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	const first, count, older = 1, 120, 60
	data, err := os.ReadFile("testdata/random.txt")
	require.NoError(t, err)
	listed := map[string]string{}
	for _, line := range strings.Split(string(data), "\n") {
		if seed, why, ok := strings.Cut(line, " "); ok && !strings.HasPrefix(line, "#") {
			listed["boxes/random/"+seed+".html"] = why
		}
	}
	root := t.TempDir()
	_, err = equal.Fixtures(".", root)
	require.NoError(t, err)
	pages, err := equal.RandomPages(root, first, count)
	require.NoError(t, err)
	more, err := equal.RandomPages(root, equal.Older, older)
	require.NoError(t, err)
	pages = append(pages, more...)
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Minute)
	defer cancel()
	version, live, err := browser.Measure(ctx, root, pages, equal.Widths)
	require.NoError(t, err)
	var total equal.Tally
	var fresh []string
	tallies, err := equal.Pages(root, live, stock.Files, equal.APixel)
	require.NoError(t, err)
	for i, page := range live {
		tally := tallies[i]
		total.Add(tally)
		switch why := listed[page.Page]; {
		case len(tally.Differences) == 0:
			assert.Empty(t, why, "%s is listed but equal now: take it off testdata/random.txt", page.Page)
		case why == "":
			fresh = append(fresh, fmt.Sprint(tally.Differences[0]))
			if *update {
				seed := strings.TrimSuffix(filepath.Base(page.Page), ".html")
				data = append(data, fmt.Sprintf("%s first %s\n", seed,
					strings.ReplaceAll(strings.SplitN(fmt.Sprint(tally.Differences[0]), "\n", 2)[0],
						page.Page+" ", ""))...)
			}
		}
	}
	fmt.Printf("%d random pages in %s: %d without a difference, %s\n", len(pages), version,
		len(pages)-len(fresh)-len(listed), total)
	if *update {
		require.NoError(t, os.WriteFile("testdata/random.txt", data, 0o666))
		return
	}
	assert.Empty(t, fresh, "shrink one with: go run ./e2e/cmd/equal -seed N -n 1 -shrink")
	require.Positive(t, total.Boxes)
}

// TestChromiumKnowsTheProperties holds our tables against the browser's own list of computed properties, and the
// reported values against what it can read.
func TestChromiumKnowsTheProperties(t *testing.T) {
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	names, sample := css.ReportedProperties()
	asked, err := json.Marshal(sample)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	text, err := browser.Text(ctx, `<!doctype html><body></body><script>
const asked = `+string(asked)+`;
const out = {all: [...getComputedStyle(document.body)], bad: Object.keys(asked).filter(n => !CSS.supports(n, asked[n]))};
document.body.textContent = JSON.stringify(out);
</script>`)
	require.NoError(t, err)
	text, _, _ = strings.Cut(text, "<script>")
	var got struct{ All, Bad []string }
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace(text)), &got), text)
	require.Greater(t, len(got.All), 300)
	for _, n := range got.All {
		assert.NotEqual(t, css.Unknown, css.SupportOf(n), "%s is in no table of core/css", n)
	}
	recorded, err := os.ReadFile("../core/css/testdata/computed.txt")
	require.NoError(t, err)
	for _, n := range got.Bad { // an older browser may not know the property yet
		assert.True(t, !slices.Contains(got.All, n) && slices.Contains(strings.Fields(string(recorded)), n),
			"%s: the browser cannot read %q, so it proves nothing", n, sample[n])
	}
	fmt.Printf("%d computed properties, each in one table; %d reported ones with a page each\n",
		len(got.All), len(names))
	if *update {
		sort.Strings(got.All)
		require.NoError(t, os.WriteFile("../core/css/testdata/computed.txt",
			[]byte(strings.Join(got.All, "\n")+"\n"), 0o666))
	}
}

// builtDemo writes the built demo site below root and returns its pages.
func builtDemo(t *testing.T, root string) []string {
	t.Helper()
	return builtSite(t, "../stock/demo", root, "demo")
}

// builtLibrary writes pages with every section, a theme each, and pictures in several files, and returns them.
func builtLibrary(t *testing.T, root string) []string {
	t.Helper()
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	var pages []string
	for _, theme := range []string{"tideline", "lamplight"} {
		text := "title: Sections\nblocks:\n"
		for i, s := range lib.All() {
			text += fmt.Sprintf("  - {name: b%d, section: %s}\n", i, s.Name)
		}
		text += "  - {name: photo, section: hero/beside, content: {media: {file: wide.jpg, alt: A beach, file at phone: tall.jpg, file at 700..900: wide.png}}}\n"
		dir := t.TempDir()
		for name, data := range map[string][]byte{"ziegel.yaml": []byte("name: Larkspan\ntheme: " + theme + "\n"),
			"pages/home.yaml": []byte(text),
			"media/wide.jpg":  photo(t, "jpg", 1801, 1203), "media/tall.jpg": photo(t, "jpg", 903,
				1349), "media/wide.png": photo(t, "png", 1300, 611)} {
			require.NoError(t, site.WriteFile(filepath.Join(dir, filepath.FromSlash(name)), data))
		}
		pages = append(pages, builtSite(t, dir, root, "library-"+theme)...)
	}
	return pages
}

// builtSite builds a site below root and returns its pages.
func builtSite(t *testing.T, dir, root, name string) []string {
	t.Helper()
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	files, problems := build.Build(env, build.Options{})
	require.NoError(t, problems.Err())
	var pages []string
	for file, built := range files {
		require.NoError(t, site.WriteFile(filepath.Join(root, name, filepath.FromSlash(file)), built.Data))
		if strings.HasSuffix(file, ".html") && file != "404.html" { // its links start at a server's root
			pages = append(pages, name+"/"+file)
		}
	}
	return pages
}

// photo makes a picture with something on every spot.
func photo(t *testing.T, format string, w, h int) []byte {
	t.Helper()
	data, err := noise(format, w, h)
	require.NoError(t, err)
	return data
}
