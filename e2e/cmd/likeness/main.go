// Command likeness draws pages and compares them with what Chromium shows: the pages of testdata/drawing and
// testdata/boxes, the demo, and every section in four themes, light and dark, at three widths and two scales. It prints
// one line a picture, the worst last, and the figures of all.
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ziegel/e2e/browser"
	"ziegel/e2e/equal"
	"ziegel/e2e/likeness"
	"ziegel/stock"
)

func main() {
	only := flag.String("only", "", "pages whose name has this in it")
	widths := flag.String("at", "390,768,1280", "widths")
	scales := flag.String("scale", "1,2", "scales")
	sections := flag.Bool("sections", true, "every section in four themes, too")
	race := flag.Int("race", 0,
		"instead: how long a picture of the demo takes, by a fresh program and by a fresh browser, so many times")
	flag.Parse()
	if *race > 0 {
		if err := compete(*race); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	if err := run(*only, *widths, *scales, *sections); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(only, widths, scales string, sections bool) error {
	root, err := os.MkdirTemp("", "ziegel-likeness")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(root) }()
	pages, err := likeness.Features("e2e/testdata", "stock", root)
	if err != nil {
		return err
	}
	demo, err := likeness.Built(stock.Files, "stock/demo", root, "demo")
	if err != nil {
		return err
	}
	pages = append(pages, demo...)
	boxes, err := equal.Fixtures("e2e", root)
	if err != nil {
		return err
	}
	pages = append(pages, boxes...)
	if sections {
		for _, theme := range likeness.Themes {
			more, err := likeness.Sections(stock.Files, root, theme)
			if err != nil {
				return err
			}
			pages = append(pages, more...)
		}
	}
	slices.Sort(pages)
	var views []browser.View
	for _, p := range pages {
		if !strings.Contains(p, only) {
			continue
		}
		for _, w := range numbers(widths) {
			for _, s := range numbers(scales) {
				views = append(views, browser.View{Page: p, Width: int(w), Scale: s})
				if !strings.HasPrefix(p, "features/") && !strings.HasPrefix(p, "boxes/") ||
					strings.Contains(p, "tones") {
					views = append(views, browser.View{Page: p, Width: int(w), Scale: s, Dark: true})
				}
			}
		}
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Hour)
	defer cancel()
	seen, err := likeness.Against(ctx, stock.Files, root, views)
	if err != nil {
		return err
	}
	slices.SortStableFunc(seen, func(a, b likeness.Seen) int { return int(1e6*b.SSIM) - int(1e6*a.SSIM) })
	sum, low := 0.0, 1.0
	flat := 0
	for _, s := range seen {
		note := ""
		if s.Err != nil {
			note = "  " + s.Err.Error()
		}
		if len(s.Missed) > 0 {
			note += "  not drawn: " + strings.Join(s.Missed, "; ")
		}
		fmt.Printf("%.4f  flat %d  apart %.4f  %s  worst %v%s\n", s.SSIM, s.Flat, s.Apart, s.Name(), s.Worst.Min, note)
		sum += s.SSIM
		low = min(low, s.SSIM)
		flat = max(flat, s.Flat)
	}
	fmt.Printf("%d pictures of %d pages: SSIM %.4f on average, %.4f the least; flat colors differ by %d at most\n",
		len(seen),
		len(pages), sum/float64(max(1, len(seen))), low, flat)
	return nil
}

func numbers(list string) []float64 {
	var out []float64
	for _, f := range strings.Split(list, ",") {
		var v float64
		if _, err := fmt.Sscan(f, &v); err == nil {
			out = append(out, v)
		}
	}
	return out
}

// compete takes the same picture by a fresh program and by a fresh browser in turns, and prints the medians and their
// ratio.
func compete(times int) error {
	dir, err := os.MkdirTemp("", "ziegel-race")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	program := filepath.Join(dir, "ziegel")
	build := exec.Command("go", "build", "-trimpath", "-o", program, "./cmd/ziegel")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		return fmt.Errorf("build the program: %w\n%s", err, out)
	}
	site := filepath.Join(dir, "site")
	if out, err := exec.Command(program, "demo", site).CombinedOutput(); err != nil {
		return fmt.Errorf("make the demo: %w\n%s", err, out)
	}
	page := "file://" + filepath.Join(site, "built", "index.html")
	var ours, theirs []time.Duration
	for range times {
		begun := time.Now()
		if out, err := exec.Command(program, "--site", site, "draw", "home", "--at", "1280", "--to",
			filepath.Join(dir, "home.png")).CombinedOutput(); err != nil {
			return fmt.Errorf("draw: %w\n%s", err, out)
		}
		ours = append(ours, time.Since(begun))
		took, err := browser.Cold(context.Background(), page, 1280, 3396)
		if err != nil {
			return err
		}
		theirs = append(theirs, took)
	}
	slices.Sort(ours)
	slices.Sort(theirs)
	a, b := ours[len(ours)/2], theirs[len(theirs)/2]
	fmt.Printf("the demo at 1280 px, %d times: program %v, browser %v, %.1f times as fast\n", times,
		a.Round(time.Millisecond),
		b.Round(time.Millisecond), float64(b)/float64(a))
	return nil
}
