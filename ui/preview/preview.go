// Package preview serves a site on the loopback interface while it is worked on: pages at several widths side by
// side, reloaded after every save. A mistake shows as a message over the last good pages, which stay until it is
// mended.
package preview

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"mime"
	"net"
	"net/http"
	"path"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"sync"
	"time"

	"github.com/fsnotify/fsnotify"

	"ziegel/core/build"
	"ziegel/core/compose"
	"ziegel/core/inbox"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/core/words"
)

//go:embed shell.html
var shell []byte

// Server is a running preview. A page is made when it is first asked for, and again when something has changed that
// it is made from; the others are made meanwhile, so that their mistakes show too.
type Server struct {
	dir   string
	stock fs.FS
	host  string

	making sync.Mutex // one page is made at a time

	mu       sync.Mutex
	edition  edition
	pages    map[string]page // as they were last good
	seen     map[string]bool // pages that somebody looks at
	mistakes map[string]string
	version  int
	stop     context.CancelFunc // ends the making of what nobody has asked for
	waiting  map[chan struct{}]bool
}

// edition is the site as it was saved last and can be read.
type edition struct {
	env     *project.Project
	sources *compose.Sources
}

// page is what was made of a page, and from which sources.
type page struct {
	key   string
	made  build.Made
	files build.Files
	env   *project.Project
}

// ofSite stands for the site's own files among the names of pages.
const ofSite = ""

// New prepares a preview of a site.
func New(dir string, stock fs.FS) *Server {
	s := &Server{dir: dir, stock: stock, pages: map[string]page{}, seen: map[string]bool{"home": true},
		mistakes: map[string]string{}, waiting: map[chan struct{}]bool{}}
	s.rebuild()
	return s
}

// Mistake returns the message that hides nothing: what is wrong now, "" when all is well.
func (s *Server) Mistake() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.mistake()
}

func (s *Server) mistake() string {
	var out []string
	for _, name := range slices.Sorted(maps.Keys(s.mistakes)) {
		if !slices.Contains(out, s.mistakes[name]) {
			out = append(out, s.mistakes[name])
		}
	}
	return strings.Join(out, "\n")
}

// rebuild reads the site again and makes the pages that somebody looks at; the others follow.
func (s *Server) rebuild() {
	env, problems, err := project.Enter(s.dir, s.stock)
	if env != nil {
		env.Today = time.Now().Format(time.DateOnly)
	}
	if err == nil {
		err = problems.Err()
	}
	s.mu.Lock()
	if s.stop != nil {
		s.stop()
	}
	ctx, stop := context.WithCancel(context.Background())
	s.stop = stop
	s.mistakes = map[string]string{}
	var seen []string
	if err != nil {
		s.mistakes[ofSite] = err.Error()
	} else {
		s.edition = edition{env, compose.SourcesOf(env, "preview")}
		for name := range s.seen {
			if isBuilt(env, name) {
				seen = append(seen, name)
			}
		}
		for name := range s.pages {
			if !isBuilt(env, name) {
				delete(s.pages, name)
			}
		}
	}
	now := s.edition
	s.mu.Unlock()
	for _, name := range seen {
		s.make(now, name)
	}
	s.tell()
	if err == nil {
		go s.makeRest(ctx, now)
	}
}

// makeRest makes the pages that nobody has asked for, until ctx ends.
func (s *Server) makeRest(ctx context.Context, now edition) {
	before := s.Mistake()
	for _, name := range everyPage(now.env) {
		if ctx.Err() != nil {
			return
		}
		s.make(now, name)
	}
	if ctx.Err() == nil && s.Mistake() != before {
		s.tell()
	}
}

// tell says to everybody who waits that something has changed.
func (s *Server) tell() {
	s.mu.Lock()
	s.version++
	s.mu.Unlock()
	s.notify()
}

// notify wakes everybody who waits.
func (s *Server) notify() {
	s.mu.Lock()
	defer s.mu.Unlock()
	for c := range s.waiting {
		select {
		case c <- struct{}{}:
		default:
		}
	}
}

// make makes a page from the sources of an edition, unless it has been made from them. On a mistake the last good one
// stays.
func (s *Server) make(now edition, name string) {
	s.making.Lock()
	defer s.making.Unlock()
	own, tag, _ := strings.Cut(name, "@")
	env := words.In(now.env, tag)
	key := now.sources.Common()
	if now.env.Site.HasPage(own) {
		key = now.sources.Key(own)
	}
	s.mu.Lock()
	was, known := s.pages[name]
	s.mu.Unlock()
	if known && was.key == key && key != "" {
		return
	}
	p := env.BuiltPage(own)
	if p == nil {
		return
	}
	problems := env.Mistakes(p)
	var made build.Made
	var files build.Files
	if problems.Err() == nil {
		made, files = build.MakePage(env, p, build.Options{})
		problems = made.Problems
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.edition != now {
		return
	}
	if err := problems.Err(); err != nil {
		s.mistakes[name] = err.Error()
		if known {
			return
		}
	}
	if files != nil {
		s.pages[name] = page{key, made, files, env}
	}
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
	defer func() { // what nobody has asked for need not be made any more
		s.mu.Lock()
		defer s.mu.Unlock()
		s.stop()
	}()
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
			n := d.Name()
			passed := p != s.dir && (n == "built" || strings.HasPrefix(n, ".") && n != "." && n != "..")
			if passed {
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

// allowed reports hosts that a loopback request may name; anything else may be another site's page asking (DNS
// rebinding).
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
	h := w.Header()
	h.Set("Cache-Control", "no-store")
	h.Set("X-Content-Type-Options", "nosniff")
	switch r.Method {
	case http.MethodGet, http.MethodHead:
	case http.MethodPost:
		s.letters().post(w, r)
		return
	default:
		http.Error(w, "only reading is possible here", http.StatusMethodNotAllowed)
		return
	}
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

// letters is where forms of the pages send to.
func (s *Server) letters() *letterBox {
	return &letterBox{dir: s.dir, allowed: s.allowed, told: s.notify, env: func() *project.Project {
		s.mu.Lock()
		defer s.mu.Unlock()
		return s.edition.env
	}}
}

func (s *Server) state(w http.ResponseWriter) {
	s.mu.Lock()
	var pages []string
	if s.edition.env != nil {
		for _, n := range s.edition.env.Site.PageNames() {
			pages = append(pages, strings.TrimSuffix(pathOf(n), "index.html"))
			for _, tag := range words.Languages(s.edition.env) {
				pages = append(pages, strings.TrimSuffix(s.edition.env.PathIn(tag, n), "index.html"))
			}
		}
	}
	sort.Strings(pages)
	doc := map[string]any{"version": s.version, "mistake": s.mistake(), "pages": pages}
	s.mu.Unlock()
	doc["letters"] = append([]inbox.Letter{}, inbox.List(Inbox(s.dir))...)
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
	data, ok := s.find(name)
	switch path.Ext(name) {
	case ".jpg", ".jpeg", ".png", ".webp", ".gif", ".avif", ".svg":
		if !ok { // a picture that is not there yet has something in its place
			w.Header().Set("Content-Type", "image/svg+xml")
			w.WriteHeader(http.StatusNotFound)
			_, _ = w.Write(media.Placeholder(name, 1200, 900, path.Base(name), "is not there yet"))
			return
		}
	}
	if !ok {
		name = "404.html"
		data, _ = s.find(name)
	}
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

// find gives a file of the built site. Whatever belongs to a page is made now when nobody has asked for it before.
func (s *Server) find(name string) ([]byte, bool) {
	s.mu.Lock()
	now := s.edition
	s.mu.Unlock()
	if now.env == nil {
		return nil, false
	}
	switch of := pageOf(now.env, name); {
	case of != "":
		s.mu.Lock()
		s.seen[of] = true
		s.mu.Unlock()
		s.make(now, of)
		s.mu.Lock()
		defer s.mu.Unlock()
		data, ok := s.pages[of].files.Read(name)
		if path.Ext(name) == ".html" {
			own, _, _ := strings.Cut(of, "@")
			data = inbox.Redirect(own, data, inboxPath)
		}
		return data, ok
	case sheetOf(now.env, name) != nil:
		return s.sheet(sheetOf(now.env, name)), true
	case name == "favicon.svg" && now.env.Site.Favicon == "":
		return build.Favicon(now.env), true
	}
	s.mu.Lock()
	list := slices.Collect(maps.Values(s.pages))
	s.mu.Unlock()
	for _, p := range list {
		if data, ok := p.made.Asset(p.env, name, build.CopyCache(s.dir)); ok {
			return data, true
		}
	}
	return nil, false
}

// sheet writes the styles of all pages that were made so far: of any of them it has all rules, in their order.
func (s *Server) sheet(env *project.Project) []byte {
	var uses []*styles.Usage
	s.mu.Lock()
	for _, name := range slices.Sorted(maps.Keys(s.pages)) {
		if _, tag, _ := strings.Cut(name, "@"); tag == env.Site.Tag {
			uses = append(uses, s.pages[name].made.Usage)
		}
	}
	s.mu.Unlock()
	sheet, _ := styles.SheetOf(env, uses)
	return []byte(sheet.Text)
}

// pageOf gives the page that a file belongs to, "" when it belongs to none alone.
func pageOf(e *project.Project, name string) string {
	for _, n := range []string{strings.TrimSuffix(name, "/index.html"), strings.TrimSuffix(name, ".css"),
		strings.TrimSuffix(name, ".html")} {
		if n != name && (e.Site.HasPage(n) || n == project.Lost) {
			return n
		}
	}
	if name == "index.html" && e.Site.HasPage("home") {
		return "home"
	}
	for _, tag := range words.Languages(e) {
		in := words.In(e, tag)
		for _, p := range e.BuiltPages() {
			if in.Path(p) == name || in.SheetName(p) == name {
				return build.PageIn(p, tag)
			}
		}
	}
	return ""
}

// sheetOf gives the site in the language whose styles a file has, nil when it has none.
func sheetOf(e *project.Project, name string) *project.Project {
	if name == e.SheetName("site") {
		return e
	}
	for _, tag := range words.Languages(e) {
		if in := words.In(e, tag); in.SheetName("site") == name {
			return in
		}
	}
	return nil
}

// everyPage names the pages of a site in all its languages, as build.PageIn does.
func everyPage(e *project.Project) []string {
	out := e.BuiltPages()
	for _, tag := range words.Languages(e) {
		for _, p := range e.BuiltPages() {
			out = append(out, build.PageIn(p, tag))
		}
	}
	return out
}

// isBuilt reports whether the site still has a page.
func isBuilt(e *project.Project, name string) bool {
	return name == project.Lost || slices.Contains(everyPage(e), name)
}
