// Command race sweeps the demo's home page, or an HTML file, with the engine and with Chromium in the same run, and
// prints both ratios: against one DevTools session that sets a width and reads all rectangles, and against the bare
// layout engine inside one page.
//
//	go run ./e2e/cmd/race
//	go run ./e2e/cmd/race -every 10 some/page.html
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"time"

	"ziegel/core/build"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
)

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "race:", err)
		os.Exit(2)
	}
}

func run() error {
	debug.SetGCPercent(400) // as the program does
	every := flag.Int("every", 4, "the browser's session lays out every so many widths only; times are per width")
	flag.Parse()
	root, err := os.MkdirTemp("", "race")
	if err != nil {
		return err
	}
	defer os.RemoveAll(root)
	page := "index.html"
	if flag.NArg() > 0 {
		file, err := filepath.Abs(flag.Arg(0))
		if err != nil {
			return err
		}
		root, page = filepath.Dir(file), filepath.Base(file)
	} else {
		env, problems, err := project.Open("stock/demo", stock.Files)
		if err != nil || problems.Err() != nil {
			return fmt.Errorf("open the demo: %v %v", err, problems.Err())
		}
		files, problems := build.Build(env, build.Options{})
		if problems.Err() != nil {
			return problems.Err()
		}
		for name, file := range files {
			p := filepath.Join(root, filepath.FromSlash(name))
			if err := os.MkdirAll(filepath.Dir(p), 0o777); err != nil {
				return err
			}
			if err := os.WriteFile(p, file.Data, 0o666); err != nil {
				return err
			}
		}
	}
	laid, err := sweep.FromFile(filepath.Join(root, page), stock.Files)
	if err != nil {
		return err
	}
	widths := sweep.DefaultTo - sweep.DefaultFrom + 1
	ours := map[int]time.Duration{}
	for _, cores := range []int{1, 2} {
		runtime.GOMAXPROCS(cores)
		laid.Map(sweep.DefaultFrom, sweep.DefaultTo, nil) // once to warm up
		start := time.Now()
		laid.Map(sweep.DefaultFrom, sweep.DefaultTo, nil)
		ours[cores] = time.Since(start)
	}
	var list []int
	for w := sweep.DefaultFrom; w <= sweep.DefaultTo; w += *every {
		list = append(list, w)
	}
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Minute)
	defer cancel()
	theirs, err := browser.Race(ctx, root, page, list)
	if err != nil {
		return err
	}
	one, two := ours[1]/time.Duration(widths), ours[2]/time.Duration(widths)
	fmt.Printf("%d elements, %d widths\n", len(laid.Doc.Elements), widths)
	fmt.Printf("ours, one core    %8.3f ms a width, %6.2f s the sweep\n", ms(one), ours[1].Seconds())
	fmt.Printf("ours, two cores   %8.3f ms a width, %6.2f s the sweep\n", ms(two), ours[2].Seconds())
	fmt.Printf("DevTools session  %8.3f ms a width: %.0f times ours on two cores, %.0f on one\n", ms(theirs.Session),
		ratio(theirs.Session, two), ratio(theirs.Session, one))
	fmt.Printf("inside one page   %8.3f ms a width: %.1f times ours on two cores, %.1f on one\n", ms(theirs.InPage),
		ratio(theirs.InPage, two), ratio(theirs.InPage, one))
	return nil
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

func ratio(a, b time.Duration) float64 { return float64(a) / float64(b) }
