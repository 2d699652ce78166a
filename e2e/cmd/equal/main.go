// Command equal compares our boxes with Chromium's and lists the differences: of the fixtures whose path holds one of
// the words given, of HTML files, or of random pages.
//
//	go run ./e2e/cmd/equal flex grid/span
//	go run ./e2e/cmd/equal some/page.html
//	go run ./e2e/cmd/equal -seed 40 -n 100
//	go run ./e2e/cmd/equal -seed 42 -n 1 -shrink
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"ziegel/e2e/browser"
	"ziegel/e2e/equal"
	"ziegel/stock"
)

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "equal:", err)
		os.Exit(2)
	}
}

func run() error {
	most := flag.Int("most", 2, "show at most this many differences of a page")
	seed := flag.Int64("seed", 1, "first seed of the random pages")
	n := flag.Int("n", 0, "this many random pages")
	keep := flag.String("keep", "", "write random pages here instead of a temporary folder")
	shrink := flag.Bool("shrink", false, "of each page that differs, show the smallest one that still does")
	at := flag.Int("at", 0, "at this width only, and show the browser's boxes, CSS px")
	limit := flag.Float64("limit", equal.APixel, "show boxes that are further than this from the browser's, CSS px")
	flag.Parse()
	root, err := os.MkdirTemp("", "equal")
	if err != nil {
		return err
	}
	defer os.RemoveAll(root)
	if *keep != "" {
		root = *keep
	}
	all, err := equal.Fixtures("e2e", root)
	if err != nil {
		return err
	}
	var pages []string
	if *n > 0 {
		if pages, err = equal.RandomPages(root, *seed, *n); err != nil {
			return err
		}
	}
	for _, arg := range flag.Args() {
		if data, err := os.ReadFile(arg); err == nil {
			name := "boxes/pages/" + filepath.Base(arg)
			if err := os.WriteFile(filepath.Join(root, name), data, 0o666); err != nil {
				return err
			}
			pages = append(pages, name)
			continue
		}
		for _, p := range all {
			if strings.Contains(p, arg) {
				pages = append(pages, p)
			}
		}
	}
	if len(pages) == 0 {
		pages = all
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Hour)
	defer cancel()
	widths := equal.Widths
	if *at > 0 {
		widths = []int{*at}
	}
	version, want, err := browser.Measure(ctx, root, pages, widths)
	if err != nil {
		return err
	}
	var total equal.Tally
	tallies, err := equal.Pages(root, want, stock.Files, *limit)
	if err != nil {
		return err
	}
	for i, page := range want {
		t := tallies[i]
		if *at > 0 {
			for _, b := range page.Widths[0].Boxes {
				fmt.Printf("%-60s x %.4f y %.4f w %.4f h %.4f, %d lines\n", b.Path, b.X, b.Y, b.W, b.H, b.Lines)
			}
		}
		for _, r := range t.Reported {
			fmt.Printf("%s reports %s\n", page.Page, r)
		}
		shown := map[string]bool{}
		for _, d := range t.Differences {
			if key := d.Path; !shown[key] && len(shown) < *most {
				shown[key] = true
				fmt.Println(d)
			}
		}
		if len(t.Differences) > 0 {
			fmt.Printf("%s: %d differences\n\n", page.Page, len(t.Differences))
		}
		total.Add(t)
		if len(t.Differences) == 0 || !*shrink {
			continue
		}
		data, err := os.ReadFile(filepath.Join(root, page.Page))
		if err != nil {
			return err
		}
		few, stop := context.WithTimeout(ctx, 5*time.Minute)
		small, left, err := equal.Shrink(few, root, string(data), stock.Files)
		stop()
		if err != nil {
			return err
		}
		fmt.Printf("%s\n%v\n\n", small, left.Differences)
	}
	fmt.Printf("%d pages with %s: %s\n", len(pages), version, total)
	return nil
}
