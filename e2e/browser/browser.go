// Package browser runs a real Chromium for tests: it opens pages in a frame at given widths and reports the box of
// every element, in the form that `ziegel measure` prints. Nothing of the program uses it.
package browser

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
)

//go:embed collect.html
var collectPage []byte

// Box is one element as the browser placed it, CSS px.
type Box struct {
	Path  string  `json:"path"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Lines int     `json:"lines"`
}

// Width is a page at one width.
type Width struct {
	Width    int     `json:"width"`
	Height   float64 `json:"height"`
	Overflow float64 `json:"overflow"`
	Boxes    []Box   `json:"boxes"`
}

// Page is what was measured of one page.
type Page struct {
	Page   string  `json:"page"`
	Widths []Width `json:"widths"`
	// InPage is the time that the browser needed to lay out and read all widths, without any transport, milliseconds.
	InPage float64 `json:"ms"`
}

type report struct {
	Version string `json:"version"`
	Pages   []Page `json:"pages"`
	Error   string `json:"error"`
}

// Path finds the browser: ZIEGEL_CHROMIUM, or chromium on the PATH. It returns "" when there is none.
func Path() string {
	if p := os.Getenv("ZIEGEL_CHROMIUM"); p != "" {
		return p
	}
	for _, n := range []string{"chromium", "chromium-browser", "google-chrome"} {
		if p, err := exec.LookPath(n); err == nil {
			return p
		}
	}
	return ""
}

// options keep the browser quiet, off the network, and its geometry the same everywhere.
var options = []string{"headless", "no-sandbox", "disable-gpu", "disable-quic", "no-first-run",
	"disable-background-networking",
	"disable-component-update", "disable-sync", "hide-scrollbars", "font-render-hinting=none",
	"force-device-scale-factor=1",
	"disable-dev-shm-usage"}

// Flags are those that boxes depend on, for records.
func Flags() []string {
	out := make([]string, len(options))
	for i, f := range options {
		out[i] = "--" + f
	}
	return out
}

// open starts a browser with one empty page, which actions of chromedp then work on. It ends with done, or with ctx.
// scrollbars lets them take their 15 px.
func open(ctx context.Context, scrollbars bool) (page context.Context, done func(), err error) {
	return openScaled(ctx, scrollbars, 1)
}

// openScaled is open on a screen that has scale device pixels a CSS px. The browser then lays out in those; a scale
// that is only emulated leaves the layout as it is (measured).
func openScaled(ctx context.Context, scrollbars bool, scale float64) (page context.Context, done func(), err error) {
	if Path() == "" {
		return nil, nil, errors.New("no Chromium on this machine: install Debian's package chromium")
	}
	opts := []chromedp.ExecAllocatorOption{chromedp.ExecPath(Path()), chromedp.WindowSize(2700, 1000),
		chromedp.WSURLReadTimeout(time.Minute)}
	for _, f := range options {
		if scrollbars && f == "hide-scrollbars" {
			continue
		}
		name, value, has := strings.Cut(f, "=")
		if name == "force-device-scale-factor" {
			value = fmt.Sprint(scale)
		}
		if has {
			opts = append(opts, chromedp.Flag(name, value))
		} else {
			opts = append(opts, chromedp.Flag(name, true))
		}
	}
	allocator, stop := chromedp.NewExecAllocator(ctx, opts...)
	page, closePage := chromedp.NewContext(allocator)
	done = func() { closePage(); stop() }
	// a page is looked at: what asks for the focus has it
	if err := chromedp.Run(page, emulation.SetFocusEmulationEnabled(true)); err != nil {
		done()
		return nil, nil, fmt.Errorf("start the browser: %w", err)
	}
	return page, done, nil
}

// after opens an address and gives the text of its body once its scripts have run.
func after(ctx context.Context, address string, scrollbars bool) (string, error) {
	page, done, err := open(ctx, scrollbars)
	if err != nil {
		return "", err
	}
	defer done()
	var body string
	if err := chromedp.Run(page, chromedp.Navigate(address),
		chromedp.Evaluate(`document.body.innerHTML`, &body)); err != nil {
		return "", fmt.Errorf("open a page: %w", err)
	}
	return strings.TrimSpace(html.UnescapeString(body)), nil
}

// Text opens a page (HTML) and returns the text of its body after its scripts have run.
func Text(ctx context.Context, page string) (string, error) {
	dir, err := os.MkdirTemp("", "ziegel-browser")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "page.html")
	if err := os.WriteFile(file, []byte(page), 0o666); err != nil {
		return "", err
	}
	return after(ctx, "file://"+file, false)
}

// Ask serves the folder root, opens a page in it (HTML) and returns the text of its body after its scripts have run.
// scrollbars lets them take their 15 px.
func Ask(ctx context.Context, root, page string, scrollbars bool) (string, error) {
	mux := http.NewServeMux()
	mux.HandleFunc("/-/ask", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write([]byte(page))
	})
	mux.Handle("/", http.FileServer(http.Dir(root)))
	srv := httptest.NewServer(mux)
	defer srv.Close()
	return after(ctx, srv.URL+"/-/ask", scrollbars)
}

// Measure opens pages (paths below root) at widths, at a viewport height of 900 px.
func Measure(ctx context.Context, root string, pages []string, widths []int) (version string, out []Page, err error) {
	return measure(ctx, root, map[string]any{"pages": pages, "widths": widths})
}

// Probe opens a page that has an empty style element with the id probe, and measures it at each width with one rule
// after another in it. What it returns is as for Measure, one Page a rule.
func Probe(ctx context.Context, root, page string, widths []int, rules []string) ([]Page, error) {
	_, got, err := measure(ctx, root, map[string]any{"pages": []string{page}, "widths": widths, "rules": rules})
	if err != nil {
		return nil, err
	}
	out := make([]Page, len(rules))
	for i := range out {
		out[i].Page = page
		for w := range widths {
			out[i].Widths = append(out[i].Widths, got[0].Widths[w*len(rules)+i])
		}
	}
	return out, nil
}

func measure(ctx context.Context, root string, job map[string]any) (version string, out []Page, err error) {
	done := make(chan report, 1)
	mux := http.NewServeMux()
	mux.HandleFunc("/-/collect", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(collectPage)
	})
	mux.HandleFunc("/-/job", func(w http.ResponseWriter, _ *http.Request) {
		_ = json.NewEncoder(w).Encode(job)
	})
	mux.HandleFunc("/-/done", func(_ http.ResponseWriter, r *http.Request) {
		var rep report
		if err := json.NewDecoder(r.Body).Decode(&rep); err != nil {
			rep.Error = err.Error()
		}
		done <- rep
	})
	mux.Handle("/", http.FileServer(http.Dir(root)))
	srv := httptest.NewServer(mux)
	defer srv.Close()
	page, end, err := open(ctx, false)
	if err != nil {
		return "", nil, err
	}
	defer end()
	if err := chromedp.Run(page, chromedp.Navigate(srv.URL+"/-/collect")); err != nil {
		return "", nil, fmt.Errorf("open the page that collects boxes: %w", err)
	}
	select {
	case rep := <-done:
		if rep.Error != "" {
			return "", nil, errors.New(rep.Error)
		}
		return rep.Version, rep.Pages, nil
	case <-page.Done(): // the browser is gone, or ctx is over
		return "", nil, fmt.Errorf("the browser ended early: %w", context.Cause(page))
	}
}
