// Package preview serves a site on the loopback interface while it is worked on: pages at several widths side by side, reloaded after
// every save. A mistake shows as a message over the last good pages, which stay until it is mended.
package preview

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"mime"
	"net"
	"net/http"
	"path"
	"path/filepath"
	"strings"
	"sync"
	"time"

	"github.com/fsnotify/fsnotify"

	"ziegel/core/compose"
	"ziegel/core/emit"
)

//go:embed shell.html
var shell []byte

// Server is a running preview.
type Server struct {
	dir   string
	stock fs.FS
	host  string

	mu      sync.Mutex
	files   emit.Files
	mistake string
	version int
	waiting map[chan struct{}]bool
}

// New prepares a preview of a site.
func New(dir string, stock fs.FS) *Server {
	s := &Server{dir: dir, stock: stock, files: emit.Files{}, waiting: map[chan struct{}]bool{}}
	s.rebuild()
	return s
}

// Mistake returns the message that hides nothing: what is wrong now, "" when all is well.
func (s *Server) Mistake() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.mistake
}

// rebuild composes all pages. On a mistake the last good ones stay.
func (s *Server) rebuild() {
	files, err := build(s.dir, s.stock)
	s.mu.Lock()
	defer s.mu.Unlock()
	s.mistake = ""
	if err != nil {
		s.mistake = err.Error()
	}
	if files != nil && (err == nil || len(s.files) == 0) {
		s.files = files
	}
	s.version++
	for c := range s.waiting {
		select {
		case c <- struct{}{}:
		default:
		}
	}
}

func build(dir string, stock fs.FS) (emit.Files, error) {
	e, problems, err := compose.Open(dir, stock)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, err
	}
	files, ps := emit.Build(e, emit.Options{Cache: emit.CopyCache(dir)})
	return files, ps.Err()
}

// Serve listens on a loopback port (0 chooses one), calls ready with the address, and runs until the context ends.
func (s *Server) Serve(ctx context.Context, port int, ready func(url string)) error {
	l, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return fmt.Errorf("port %d is taken; choose another with --port, or 0 for any", port)
	}
	_, p, err := net.SplitHostPort(l.Addr().String())
	if err != nil {
		return err
	}
	s.host = p
	watch, err := s.watch(ctx)
	if err != nil {
		_ = l.Close()
		return fmt.Errorf("watch the site: %w", err)
	}
	defer watch.Close()
	srv := &http.Server{Handler: s, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute}
	stop := context.AfterFunc(ctx, func() { _ = srv.Close() })
	defer stop()
	ready("http://127.0.0.1:" + p + "/-/")
	if err := srv.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// watch rebuilds after saves. Editors write several times; a short pause gathers them.
func (s *Server) watch(ctx context.Context) (*fsnotify.Watcher, error) {
	w, err := fsnotify.NewWatcher()
	if err != nil {
		return nil, err
	}
	add := func(root string) {
		_ = filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
			if err != nil || !d.IsDir() {
				return nil
			}
			if n := d.Name(); p != s.dir && (n == "built" || strings.HasPrefix(n, ".") && n != "." && n != "..") {
				return filepath.SkipDir
			}
			return w.Add(p)
		})
	}
	add(s.dir)
	go func() {
		const pause = 30 * time.Millisecond
		timer := time.NewTimer(time.Hour)
		for {
			select {
			case <-ctx.Done():
				return
			case ev, ok := <-w.Events:
				if !ok {
					return
				}
				if strings.HasPrefix(filepath.Base(ev.Name), ".ziegel-") || ev.Op == fsnotify.Chmod {
					continue
				}
				if ev.Has(fsnotify.Create) {
					add(ev.Name)
				}
				timer.Reset(pause)
			case <-w.Errors:
			case <-timer.C:
				s.rebuild()
			}
		}
	}()
	return w, nil
}

// allowed reports hosts that a loopback request may name; anything else may be another site's page asking (DNS rebinding).
func (s *Server) allowed(host string) bool {
	for _, name := range []string{"127.0.0.1", "localhost", "[::1]"} {
		if host == name+":"+s.host || host == name && s.host == "80" {
			return true
		}
	}
	return false
}

// ServeHTTP answers the shell, its events and the built files.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !s.allowed(r.Host) {
		http.Error(w, "this preview answers only on the loopback address", http.StatusForbidden)
		return
	}
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		http.Error(w, "only reading is possible here", http.StatusMethodNotAllowed)
		return
	}
	h := w.Header()
	h.Set("Cache-Control", "no-store")
	h.Set("X-Content-Type-Options", "nosniff")
	switch r.URL.Path {
	case "/-/":
		h.Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(shell)
	case "/-/state":
		s.state(w)
	case "/-/events":
		s.events(w, r)
	default:
		s.file(w, r)
	}
}

func (s *Server) state(w http.ResponseWriter) {
	s.mu.Lock()
	var pages []string
	for _, n := range s.files.Names() {
		if strings.HasSuffix(n, "index.html") {
			pages = append(pages, strings.TrimSuffix(n, "index.html"))
		}
	}
	doc := map[string]any{"version": s.version, "mistake": s.mistake, "pages": pages}
	s.mu.Unlock()
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(doc)
}

func (s *Server) events(w http.ResponseWriter, r *http.Request) {
	flusher, ok := w.(http.Flusher)
	if !ok {
		http.Error(w, "no events here", http.StatusNotImplemented)
		return
	}
	w.Header().Set("Content-Type", "text/event-stream")
	c := make(chan struct{}, 1)
	s.mu.Lock()
	s.waiting[c] = true
	v := s.version
	s.mu.Unlock()
	defer func() {
		s.mu.Lock()
		delete(s.waiting, c)
		s.mu.Unlock()
	}()
	_, _ = fmt.Fprintf(w, "data: %d\n\n", v)
	flusher.Flush()
	for {
		select {
		case <-r.Context().Done():
			return
		case <-c:
			s.mu.Lock()
			v := s.version
			s.mu.Unlock()
			_, _ = fmt.Fprintf(w, "data: %d\n\n", v)
			flusher.Flush()
		}
	}
}

func (s *Server) file(w http.ResponseWriter, r *http.Request) {
	name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
	if r.URL.Path == "/" || strings.HasSuffix(r.URL.Path, "/") {
		name = path.Join(name, "index.html")
	}
	s.mu.Lock()
	data, ok := s.files[name]
	if !ok {
		name = "404.html"
		data = s.files[name]
	}
	s.mu.Unlock()
	kind := mime.TypeByExtension(path.Ext(name))
	switch path.Ext(name) {
	case ".woff2":
		kind = "font/woff2"
	case ".html":
		kind = "text/html; charset=utf-8"
	}
	w.Header().Set("Content-Type", kind)
	if !ok {
		w.WriteHeader(http.StatusNotFound)
	}
	_, _ = w.Write(data)
}
