package compose

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"io/fs"
	"iter"
	"path"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"sync"

	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Sources tells of every page of a site what it is made from, without making it: pages that were looked at once are
// known again by their key, and nothing is parsed. It may be asked by several goroutines at once.
type Sources struct {
	env     *project.Project
	mu      sync.Mutex        // of the maps that grow, anchors and text
	common  string            // hash of what every page is made from
	media   map[string]string // size and time of files below media/ that a page can name
	anchors map[string]string // hash of the names that a page has
	text    map[string]string // of the pages that were read
	once    sync.Once
	all     string // hash of the titles of all pages, made once it is asked for
	pages   map[string]bool
}

// wordForm finds what may be the name of a page or of a picture. Names that have other letters are part of what all
// pages are made from.
var (
	plainName  = regexp.MustCompile(`^[A-Za-z0-9._/-]+$`)
	anchorForm = regexp.MustCompile(`^name["']?\s*:\s*["']?([^\s,}"']+)`)
	placeLink  = regexp.MustCompile(`to["']?\s*:\s*["']#`)
	titleForm  = regexp.MustCompile(`(?m)^["']?title["']?\s*:.*$`)
)

// wordsOf gives the words of a text, in their order.
func wordsOf(text string) iter.Seq[string] {
	return func(yield func(string) bool) {
		start := -1
		for i := range len(text) + 1 {
			if i < len(text) && inWord[text[i]] {
				if start < 0 {
					start = i
				}
				continue
			}
			if start >= 0 && !yield(text[start:i]) {
				return
			}
			start = -1
		}
	}
}

// inWord are the letters of names that need no quotes.
var inWord = func() (out [256]bool) {
	for _, c := range "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789._/-" {
		out[c] = true
	}
	return out
}()

// Sources looks at the files of a site. version is that of the program: another one may make another thing of the
// same files.
func SourcesOf(e *project.Project, version string) *Sources {
	s := &Sources{env: e, media: map[string]string{}, anchors: map[string]string{}, text: map[string]string{},
		pages: map[string]bool{}}
	for _, n := range e.Site.PageNames() {
		s.pages[n] = true
	}
	h := sha256.New()
	year, _, _ := strings.Cut(e.Today, "-")
	fmt.Fprintln(h, version, e.Site.Tag, year, s.day(e.Site.File.Source))
	fmt.Fprintln(h, e.Site.File.Source)
	fmt.Fprintln(h, e.Site.PageNames())
	_, err := fs.Stat(e.Dir, "sections")
	own := err == nil // sections of the site's own may show any picture
	_ = fs.WalkDir(e.Dir, ".", func(p string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			fmt.Fprintln(h, p, err)
			return nil
		case d.IsDir() && (p == "pages" || p == "built" || strings.HasPrefix(d.Name(), ".") && p != "."):
			return fs.SkipDir
		case d.IsDir() || p == site.FileName:
			return nil
		}
		stat := "gone"
		if info, err := fs.Stat(e.Dir, p); err == nil {
			stat = project.StampOf(info)
		}
		name, ok := strings.CutPrefix(p, "media/")
		foreign := ok && !own && plainName.MatchString(name) && !strings.HasPrefix(name, "fonts/") &&
			!strings.HasPrefix(name, "icons/")
		if foreign {
			s.media[name] = stat
			return nil
		}
		fmt.Fprintln(h, p, stat)
		return nil
	})
	s.common = hex.EncodeToString(h.Sum(nil))
	words := s.mentioned(e.Site.File.Source)
	if placeLink.MatchString(e.Site.File.Source) { // on every page it leads to whatever page has the block
		for _, n := range e.Site.PageNames() {
			words = append(words, n+" "+s.anchorsOf(n))
		}
	}
	h.Reset()
	fmt.Fprintln(h, s.common, words)
	s.common = hex.EncodeToString(h.Sum(nil))
	return s
}

// day gives the day of the build to a file that speaks of days which pass, "" to others.
func (s *Sources) day(text string) string {
	if strings.Contains(text, project.UntilKey+":") {
		return s.env.Today
	}
	return ""
}

// Key names what a page is made from: two pages with the same key are the same in all that can be said of them. ""
// for a page that cannot be read.
func (s *Sources) Key(page string) string {
	text, ok := s.read(page)
	if !ok {
		return ""
	}
	h := sha256.New()
	fmt.Fprintln(h, s.common, page, len(text), s.day(text))
	_, _ = io.WriteString(h, text)
	words := s.mentioned(text)
	fmt.Fprintln(h, words)
	return hex.EncodeToString(h.Sum(nil)[:16])
}

// Keys gives the keys of several pages, made on several cores.
func (s *Sources) Keys(pages []string) map[string]string {
	keys := make([]string, len(pages))
	parallel.Each(runtime.GOMAXPROCS(0), len(pages), func(_, i int) bool {
		keys[i] = s.Key(pages[i])
		return true
	})
	out := make(map[string]string, len(pages))
	for i, p := range pages {
		out[p] = keys[i]
	}
	return out
}

// Common gives the key of what has no page file: all that every page is made from.
func (s *Sources) Common() string { return s.common }

func (s *Sources) read(page string) (string, bool) {
	s.mu.Lock()
	text, ok := s.text[page]
	s.mu.Unlock()
	if ok {
		return text, true
	}
	text, err := s.env.Site.PageSource(page)
	if err != nil {
		return "", false
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.text[page] = text
	return text, true
}

// mentioned lists what a text may mean by its words: pages, with the names of what is on them, and pictures.
func (s *Sources) mentioned(text string) []string {
	var state []string
	seen := map[string]bool{}
	for w := range wordsOf(text) {
		if seen[w] {
			continue
		}
		seen[w] = true
		if page, _, ok := strings.Cut(w, "/"); ok && s.pages[page] { // home/plans
			state = append(state, page+" "+s.anchorsOf(page))
		}
		if s.pages[w] {
			state = append(state, w+" "+s.anchorsOf(w))
		}
		for _, n := range []string{w, strings.TrimPrefix(w, "media/"), strings.TrimPrefix(path.Clean("/"+w), "/")} {
			if stat, ok := s.media[n]; ok {
				state = append(state, n+" "+stat)
				break
			}
		}
	}
	if strings.Contains(text, project.PagesList) {
		state = append(state, s.titles())
	}
	slices.Sort(state)
	return state
}

// anchorsOf hashes the names on a page, where links can lead.
func (s *Sources) anchorsOf(page string) string {
	s.mu.Lock()
	a, ok := s.anchors[page]
	s.mu.Unlock()
	if ok {
		return a
	}
	text, _ := s.read(page)
	h := sha256.New()
	for at := 0; ; {
		i := strings.Index(text[at:], "name")
		if i < 0 {
			break
		}
		line, _, _ := strings.Cut(text[at+i:], "\n")
		if m := anchorForm.FindStringSubmatch(line); m != nil {
			fmt.Fprintln(h, m[1])
		}
		at += i + len("name")
	}
	a = hex.EncodeToString(h.Sum(nil)[:8])
	s.mu.Lock()
	defer s.mu.Unlock()
	s.anchors[page] = a
	return a
}

// titles hashes what a list of all pages says.
func (s *Sources) titles() string {
	s.once.Do(func() {
		h := sha256.New()
		for _, n := range s.env.Site.PageNames() {
			text, _ := s.read(n)
			fmt.Fprintln(h, n, titleForm.FindAllString(text, -1))
		}
		s.all = hex.EncodeToString(h.Sum(nil)[:8])
	})
	return s.all
}
