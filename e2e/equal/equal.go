// Package equal compares our boxes with a browser's, page by page and width by width, and counts how often they
// agree.
package equal

import (
	"errors"
	"fmt"
	"io/fs"
	"math"
	"path/filepath"
	"runtime"

	"ziegel/core/parallel"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/ui/report"
)

// Widths are where our boxes are compared with the browser's, CSS px.
var Widths = []int{280, 320, 360, 390, 414, 480, 540, 599, 600, 700, 768, 820, 900, 1024, 1152, 1280, 1440,
	1680, 1920, 2560}

// APixel is how far a box may be from the browser's before it counts as a Difference, CSS px, where nothing else is
// said.
const APixel = 1.0

// Difference is one element that we place more than 1 px away from the browser, or with other lines. Path is "" for
// the page itself.
type Difference struct {
	Page, Path   string
	Width        int
	Ours, Theirs browser.Box
	What         string
}

func (d Difference) String() string {
	at := fmt.Sprintf("%s at %d px: %s", d.Page, d.Width, d.What)
	if d.Path == "" {
		return at
	}
	o, b := d.Ours, d.Theirs
	return fmt.Sprintf(
		"%s %s\n  ours    x %.3f y %.3f w %.3f h %.3f, %d lines\n  browser x %.3f y %.3f w %.3f h %.3f, %d lines",
		at,
		d.Path,
		o.X,
		o.Y,
		o.W,
		o.H,
		o.Lines,
		b.X,
		b.Y,
		b.W,
		b.H,
		b.Lines,
	)
}

// Tally counts boxes (one element at one width) and layouts (one page at one width).
type Tally struct {
	Boxes, Within, Sixteenth, Exact int // within 1 px, within 1/16 px, equal to 1/64 px
	Texts, SameLines                int // elements with text, and those with the same number of lines
	Layouts, SameSideways           int // and those that scroll sideways in both or in neither
	Reported                        []string
	Families                        []string // that the page does not bring, which is told as well
	Differences                     []Difference
}

// Add counts the other's boxes, too.
func (t *Tally) Add(o Tally) {
	t.Boxes, t.Within, t.Sixteenth, t.Exact = t.Boxes+o.Boxes, t.Within+o.Within, t.Sixteenth+o.Sixteenth,
		t.Exact+o.Exact
	t.Texts, t.SameLines = t.Texts+o.Texts, t.SameLines+o.SameLines
	t.Layouts, t.SameSideways = t.Layouts+o.Layouts, t.SameSideways+o.SameSideways
	t.Differences = append(t.Differences, o.Differences...)
}

func (t Tally) String() string {
	share := func(n, of int) float64 { return 100 * float64(n) / float64(max(1, of)) }
	return fmt.Sprintf(
		"compared %d boxes: %.3f %% within 1 px, %.3f %% within 1/16 px, %.2f %% equal to 1/64 px; %.3f %% of %d texts with the same lines; %d of %d layouts agree on sideways scroll",
		t.Boxes,
		share(t.Within, t.Boxes),
		share(t.Sixteenth, t.Boxes),
		share(t.Exact, t.Boxes),
		share(t.SameLines, t.Texts),
		t.Texts,
		t.SameSideways,
		t.Layouts,
	)
}

// Pages compares pages as Page does, several at a time, and gives the tallies in their order.
func Pages(root string, want []browser.Page, assets fs.FS, limit float64) ([]Tally, error) {
	out, errs := make([]Tally, len(want)), make([]error, len(want))
	parallel.Each(runtime.GOMAXPROCS(0), len(want), func(_, i int) bool {
		out[i], errs[i] = Page(root, want[i], assets, limit)
		return true
	})
	return out, errors.Join(errs...)
}

// Page lays out one page below root at the widths that the browser measured, and compares: what is further than limit
// from the browser's counts as a Difference, CSS px.
func Page(root string, want browser.Page, assets fs.FS, limit float64) (Tally, error) {
	var t Tally
	laid, err := sweep.FromFile(filepath.Join(root, filepath.FromSlash(want.Page)), assets)
	if err != nil {
		return t, err
	}
	for _, u := range laid.Doc.Unsupported {
		t.Reported = append(t.Reported, u.Property+": "+u.Value)
	}
	engine := laid.Engine()
	for _, w := range want.Widths {
		t.compare(want.Page, report.Measure(nil, engine.Layout(w.Width)), w, limit)
	}
	t.Families = engine.ReplacedFonts()
	return t, nil
}

func (t *Tally) compare(page string, ours report.MeasureWidth, want browser.Width, limit float64) {
	got := make(map[string]report.MeasureBox, len(ours.Boxes))
	for _, b := range ours.Boxes {
		got[b.Path] = b
	}
	differ := func(d Difference) {
		d.Page, d.Width = page, want.Width
		t.Differences = append(t.Differences, d)
	}
	for _, b := range want.Boxes {
		t.Boxes++
		o, ok := got[b.Path]
		delete(got, b.Path)
		d := math.Max(math.Max(math.Abs(o.X-b.X), math.Abs(o.Y-b.Y)), math.Max(math.Abs(o.W-b.W), math.Abs(o.H-b.H)))
		if !ok && b == (browser.Box{Path: b.Path}) { // nothing of it is shown
			ok, d = true, 0
		}
		if ok && d <= 1 {
			t.Within++
		}
		if ok && d <= 1.0/16 {
			t.Sixteenth++
		}
		if ok && d < 1.0/128 {
			t.Exact++
		}
		if b.Lines > 0 || o.Lines > 0 {
			t.Texts++
			if ok && o.Lines == b.Lines {
				t.SameLines++
			}
		}
		switch ours := (browser.Box{Path: o.Path, X: o.X, Y: o.Y, W: o.W, H: o.H, Lines: o.Lines}); {
		case !ok:
			differ(Difference{Path: b.Path, Theirs: b, What: "no box here, but in the browser"})
		case d > limit || o.Lines != b.Lines:
			differ(Difference{Path: b.Path, Ours: ours, Theirs: b, What: "another box"})
		}
	}
	for path, o := range got {
		differ(Difference{Path: path, Ours: browser.Box{Path: path, X: o.X, Y: o.Y, W: o.W, H: o.H},
			What: "a box here, none in the browser"})
	}
	t.Layouts++
	if (want.Overflow > 0) == (ours.Overflow > 0) {
		t.SameSideways++
	}
	if math.Abs(want.Overflow-ours.Overflow) > 1 || (want.Overflow > 0) != (ours.Overflow > 0) {
		differ(Difference{What: fmt.Sprintf("scrolls sideways by %g px, in the browser by %g px", ours.Overflow,
			want.Overflow)})
	}
	if math.Abs(want.Height-ours.Height) > 1 {
		differ(Difference{What: fmt.Sprintf("%g px high, in the browser %g px", ours.Height, want.Height)})
	}
}
