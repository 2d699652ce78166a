// Package emit turns composed pages into the files of a built site and writes them, leaving files that somebody has changed by hand
// alone. The same site gives the same bytes.
package emit

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"sort"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/parallel"
	"ziegel/core/site"
)

// Files are built files by path, with slashes.
type Files map[string][]byte

// Names lists the paths, sorted.
func (f Files) Names() []string {
	out := make([]string, 0, len(f))
	for n := range f {
		out = append(out, n)
	}
	sort.Strings(out)
	return out
}

// Options change how a site is built. The zero value is the usual choice.
type Options struct {
	Cache string       // folder that keeps smaller copies of pictures; none when empty
	Known Known        // what earlier builds have made; all pages are made when it is nil
	Step  func(of int) // is told of every picture of which copies were made, by several goroutines at once; may be nil
}

// Build makes all files of a site. Pages that an earlier build has made, from what they are made from now, are not made again.
func Build(e *compose.Env, opts Options) (Files, diag.Problems) {
	names := e.BuiltPages()
	list, files := make([]Made, len(names)), make([]Files, len(names))
	known := make([]bool, len(names))
	if opts.Known != nil {
		for i, n := range names {
			list[i], known[i] = opts.Known.Made(n)
		}
		parallel.Each(runtime.GOMAXPROCS(0), len(names), func(_, i int) bool {
			if known[i] {
				files[i], known[i] = list[i].files(opts.Known)
			}
			return true
		})
	}
	var todo []int
	for i := range names {
		if !known[i] {
			todo = append(todo, i)
		}
	}
	var problems diag.Problems
	var pages []*site.Page
	for _, i := range todo {
		pages = append(pages, e.BuiltPage(names[i]))
	}
	if problems = e.Mistakes(pages...); problems.Err() != nil {
		return Files{}, unique(problems)
	}
	parallel.Each(runtime.GOMAXPROCS(0), len(todo), func(_, n int) bool {
		list[todo[n]], files[todo[n]] = MakePage(e, pages[n])
		return true
	})
	if opts.Known != nil {
		for _, i := range todo {
			if list[i].Problems.Err() == nil {
				opts.Known.Keep(names[i], list[i])
			}
		}
	}
	out := Files{}
	shown, copies, fonts := map[string]bool{}, map[string]media.Copy{}, map[string]compose.FontFile{}
	var uses []*compose.Usage
	for i, m := range list {
		problems = append(problems, m.Problems...)
		uses = append(uses, m.Usage)
		for name, data := range files[i] {
			out[name] = data
		}
		for _, f := range m.Media {
			shown[f] = true
		}
		for _, c := range m.Copies {
			copies[c.Name] = c
		}
		for _, f := range m.Fonts {
			fonts[f.Name] = f
		}
	}
	sheet, ps := e.SheetOf(uses)
	problems = append(problems, ps...)
	out["site.css"] = []byte(sheet.Text)
	for name, data := range makeCopies(e, copies, opts) {
		out[path.Join("media", name)] = data
	}
	for m := range shown {
		name := path.Join("media", m)
		if _, taken := out[name]; taken {
			problems = append(problems, diag.Problem{Position: diag.Position{File: name}, Severity: diag.Error, Rule: "name-taken", Text: fmt.Sprintf("built/%s is a page already, and a file that a page names would take its place", name),
				Expected: "another name for the page, or for the file"})
			continue
		}
		if data, err := e.MediaFile(m); err == nil {
			out[name] = data
		}
	}
	for _, f := range fonts {
		if data, err := e.FontData(f); err == nil {
			out["fonts/"+f.Name] = data
		}
	}
	if e.Site.Favicon == "" {
		out["favicon.svg"] = Favicon(e)
	}
	return out, unique(problems)
}

// unique drops problems that several pages share.
func unique(list diag.Problems) diag.Problems {
	seen := map[string]bool{}
	var out diag.Problems
	for _, p := range list.Sorted() {
		if k := p.String(); !seen[k] {
			seen[k] = true
			out = append(out, p)
		}
	}
	return out
}

// Favicon draws the first letter of the site's name on its accent.
func Favicon(e *compose.Env) []byte {
	letter := "·"
	for _, r := range e.Site.Name {
		letter = strings.ToUpper(string(r))
		break
	}
	ground, _ := e.Theme.Token("color.plain.accent")
	ink, _ := e.Theme.Token("color.plain.on-accent")
	esc := strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;").Replace(letter)
	return []byte(fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="6" fill="%s"/><text x="16" y="23.5" font-family="sans-serif" font-size="21" font-weight="700" text-anchor="middle" fill="%s">%s</text></svg>
`, ground.Value, ink.Value, esc))
}

// Written says what Write did.
type Written struct {
	Changed []string
	Same    int
	Removed []string
	Kept    []string // changed by hand, left alone
}

// The manifest keeps a hash of every file that a build has written. A build first notes what it is about to write, so that files of one that was
// killed are known as ours.
const (
	manifest = ".ziegel/built.json"
	coming   = ".ziegel/building.json"
)

// onDisk says how a file below built/ stands to what it is to be.
type onDisk struct {
	same      bool
	now, next string // hashes; now is "" when it is not there
	err       error
}

func lookAt(dir, name string, data []byte) onDisk {
	next := site.Hash(string(data))
	target, err := site.Place(dir, "built/"+name)
	if err != nil {
		return onDisk{err: err}
	}
	old, err := os.ReadFile(target)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return onDisk{next: next}
	case err != nil:
		return onDisk{err: err}
	case bytes.Equal(old, data):
		return onDisk{same: true, now: next, next: next}
	}
	return onDisk{now: site.Hash(string(old)), next: next}
}

// Write brings dir/built up to date. Files changed by hand since the last build, and files that we did not make, stay unless force.
func Write(dir string, files Files, force bool) (Written, error) {
	var w Written
	last, half := readHashes(dir, manifest), readHashes(dir, coming)
	if len(half) > 0 { // the last build was killed
		cleanUp(filepath.Join(dir, "built"))
	}
	next := map[string]string{}
	now := maps.Clone(last)
	var changed []string
	names := files.Names()
	there := make([]onDisk, len(names))
	parallel.Each(runtime.GOMAXPROCS(0), len(names), func(_, i int) bool {
		there[i] = lookAt(dir, names[i], files[names[i]])
		return true
	})
	for i, n := range names {
		t := there[i]
		switch {
		case t.err != nil:
			return w, fmt.Errorf("read built/%s: %w", n, bare(t.err))
		case t.same:
			w.Same++
			now[n] = t.next
			continue
		case t.now != "" && !force && !ours(t.now, n, last, half):
			w.Kept = append(w.Kept, n)
			continue
		}
		next[n] = t.next
		changed = append(changed, n)
	}
	var gone []string
	for _, list := range []map[string]string{last, half} {
		for n := range list {
			if _, still := files[n]; !still && !slices.Contains(gone, n) {
				gone = append(gone, n)
			}
		}
	}
	sort.Strings(gone)
	if len(changed) > 0 {
		for n, h := range half { // what that one has written may still be there
			if next[n] == "" {
				next[n] = h
			}
		}
		if err := save(dir, coming, next); err != nil {
			return w, fmt.Errorf("write %s: %w", coming, bare(err))
		}
	}
	for _, n := range changed {
		target, err := site.Place(dir, "built/"+n)
		if err == nil {
			err = site.WriteFile(target, files[n])
		}
		if err != nil {
			_ = save(dir, manifest, now)
			return w, fmt.Errorf("write built/%s: %w", n, bare(err))
		}
		now[n] = next[n]
		w.Changed = append(w.Changed, n)
	}
	for _, n := range gone {
		target, err := site.Place(dir, "built/"+n)
		if err != nil {
			return w, fmt.Errorf("remove built/%s: %w", n, bare(err))
		}
		old, err := os.ReadFile(target)
		if err == nil && !force && !ours(site.Hash(string(old)), n, last, half) {
			w.Kept = append(w.Kept, n)
			continue
		}
		if err == nil {
			if err := os.Remove(target); err != nil {
				return w, fmt.Errorf("remove built/%s: %w", n, bare(err))
			}
			w.Removed = append(w.Removed, n)
		}
		delete(now, n)
	}
	if err := save(dir, manifest, now); err != nil {
		return w, err
	}
	if err := os.Remove(filepath.Join(dir, filepath.FromSlash(coming))); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return w, err
	}
	return w, nil
}

// ours reports a content that a build has written, be it the last whole one or one that was killed.
func ours(hash, name string, manifests ...map[string]string) bool {
	return slices.ContainsFunc(manifests, func(m map[string]string) bool { return m[name] == hash })
}

// readHashes reads a manifest. Names that would lead out of built/ are none that we have written.
func readHashes(dir, name string) map[string]string {
	out := map[string]string{}
	if data, err := site.ReadIn(dir, name); err == nil && json.Unmarshal(data, &out) != nil {
		return map[string]string{}
	}
	maps.DeleteFunc(out, func(n, _ string) bool { return !fs.ValidPath(n) })
	return out
}

// cleanUp removes what a build that was killed has left half written.
func cleanUp(built string) {
	_ = filepath.WalkDir(built, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && site.IsTemp(d.Name()) {
			_ = os.Remove(p)
		}
		return nil
	})
}

func save(dir, name string, hashes map[string]string) error {
	data, err := json.MarshalIndent(hashes, "", " ")
	if err != nil {
		return err
	}
	return site.WriteFile(filepath.Join(dir, filepath.FromSlash(name)), data)
}

func bare(err error) error {
	var pe *fs.PathError
	if errors.As(err, &pe) {
		return pe.Err
	}
	return err
}
