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
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"
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

// Flags are those that boxes depend on, for records.
func Flags() []string {
	var out []string
	for _, f := range flags("") {
		if f != "--user-data-dir=" {
			out = append(out, f)
		}
	}
	return out
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
	out, err := exec.CommandContext(ctx, Path(), append(flags(filepath.Join(dir, "profile")), "--dump-dom", "file://"+file)...).Output()
	if err != nil {
		return "", fmt.Errorf("open a page: %w", err)
	}
	_, body, _ := strings.Cut(string(out), "<body>")
	body, _, _ = strings.Cut(body, "</body>")
	return strings.TrimSpace(html.UnescapeString(body)), nil
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
	profile, err := os.MkdirTemp("", "ziegel-browser")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(profile)
	args := append(flags(profile), "--window-size=2700,1000", "--dump-dom", srv.URL+"/-/ask")
	if scrollbars {
		args = slices.DeleteFunc(args, func(a string) bool { return a == "--hide-scrollbars" })
	}
	out, err := exec.CommandContext(ctx, Path(), args...).Output()
	if err != nil {
		return "", fmt.Errorf("open a page: %w", err)
	}
	_, body, _ := strings.Cut(string(out), "<body>")
	body, _, _ = strings.Cut(body, "</body>")
	return strings.TrimSpace(html.UnescapeString(body)), nil
}

// flags keep the browser quiet, off the network, and its geometry the same everywhere.
func flags(profile string) []string {
	return []string{"--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
		"--disable-component-update", "--disable-sync", "--hide-scrollbars", "--font-render-hinting=none", "--force-device-scale-factor=1",
		"--disable-dev-shm-usage", "--user-data-dir=" + profile}
}

// Measure opens pages (paths below root) at widths, at a viewport height of 900 px.
func Measure(ctx context.Context, root string, pages []string, widths []int) (version string, out []Page, err error) {
	bin := Path()
	if bin == "" {
		return "", nil, errors.New("no Chromium on this machine: install Debian's package chromium")
	}
	done := make(chan report, 1)
	mux := http.NewServeMux()
	mux.HandleFunc("/-/collect", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(collectPage)
	})
	mux.HandleFunc("/-/job", func(w http.ResponseWriter, _ *http.Request) {
		_ = json.NewEncoder(w).Encode(map[string]any{"pages": pages, "widths": widths})
	})
	mux.HandleFunc("/-/done", func(_ http.ResponseWriter, r *http.Request) {
		var rep report
		if err := json.NewDecoder(r.Body).Decode(&rep); err != nil {
			rep.Error = err.Error()
		}
		done <- rep
	})
	mux.Handle("/", http.FileServer(http.Dir(root)))
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", nil, err
	}
	srv := &http.Server{Handler: mux, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = srv.Serve(listener) }()
	defer srv.Close()
	profile, err := os.MkdirTemp("", "ziegel-browser")
	if err != nil {
		return "", nil, err
	}
	defer os.RemoveAll(profile)
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	cmd := exec.CommandContext(ctx, bin, append(flags(profile), "--window-size=2700,1000", "--remote-debugging-port=0", fmt.Sprintf("http://%s/-/collect", listener.Addr()))...)
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) } // its helpers, too
	if err := cmd.Start(); err != nil {
		return "", nil, err
	}
	exited := make(chan error, 1)
	go func() { exited <- cmd.Wait() }()
	defer func() { cancel(); <-exited }()
	select {
	case rep := <-done:
		if rep.Error != "" {
			return "", nil, errors.New(rep.Error)
		}
		return rep.Version, rep.Pages, nil
	case err := <-exited:
		exited <- err
		return "", nil, fmt.Errorf("the browser ended early: %v", err)
	case <-ctx.Done():
		return "", nil, ctx.Err()
	}
}
