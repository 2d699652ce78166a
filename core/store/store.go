// Package store keeps what was found about the pages of a site, by their content. All of it may be deleted at any
// time.
package store

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"sort"
	"strings"
	"time"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Store keeps reports by the content of what was checked, in a folder that may be deleted at any time. What cannot be
// read or written is as if it were not there.
type Store struct {
	Dir     string
	Version string // of the program: another one may find other things
}

// MostKept is how much a store keeps after Trim, bytes: what a thousand pages need.
const MostKept = 512 << 20

// Key names what a report of a composed page follows from: its HTML and styles, the fonts and pictures that it shows,
// the page's own file and the span of widths.
func (s Store) Key(env *project.Project, l *sweep.Prepared, p *site.Page, problems diag.Problems,
	over sweep.Widths) string {
	h := sha256.New()
	part := func(name, text string) { fmt.Fprintf(h, "%s %d\n%s\n", name, len(text), text) }
	part("version", s.Version)
	part("span", fmt.Sprint(over.From, over.To))
	part("html", l.Page.HTML)
	for _, pr := range problems {
		part("problem", pr.String())
	}
	part("site", l.Page.Site.Text)
	part("own", l.Page.Own.Text)
	if p != nil && p.File != nil {
		part("page", p.File.Source) // places of what is found
	}
	part("main", env.Site.File.Source)
	for _, f := range env.FontsOf(l.Page.Blocks) {
		part("font", f.Name)
	}
	for _, m := range l.Page.Media {
		data, err := env.MediaFile(m)
		part(m, fmt.Sprint(err == nil)+string(data))
	}
	return hex.EncodeToString(h.Sum(nil)[:16])
}

// Read gives a file that was kept, and notes that it was asked for.
func (s Store) Read(name string) ([]byte, bool) {
	file := filepath.Join(s.Dir, name)
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, false
	}
	now := time.Now()
	_ = os.Chtimes(file, now, now)
	return data, true
}

// Write keeps a file. The folder tells version control that nothing in it is to be kept there.
func (s Store) Write(name string, data []byte) {
	if site.WriteFile(filepath.Join(s.Dir, name), data) != nil {
		return
	}
	ignore := filepath.Join(s.Dir, ".gitignore")
	if _, err := os.Stat(ignore); err != nil {
		_ = site.WriteFile(ignore, []byte("*\n"))
	}
}

// Recall gives what was kept under a key by this version of the program.
func (s Store) Recall(key string) ([]byte, bool) { return s.Read(s.memory(key)) }

// Keep keeps data under a key.
func (s Store) Keep(key string, data []byte) { s.Write(s.memory(key), data) }

func (s Store) memory(key string) string { return key + "-" + site.Hash(s.Version) + ".piece" }

// Trim removes the reports and pieces that were not asked for longest, until no more than so many bytes are left.
func (s Store) Trim(most int64) {
	list, err := os.ReadDir(s.Dir)
	if err != nil {
		return
	}
	type kept struct {
		name string
		size int64
		used time.Time
	}
	var files []kept
	all := int64(0)
	for _, e := range list {
		if info, err := e.Info(); err == nil && (strings.HasSuffix(e.Name(), ".json") ||
			strings.HasSuffix(e.Name(), ".piece")) {
			files = append(files, kept{e.Name(), info.Size(), info.ModTime()})
			all += info.Size()
		}
	}
	if all <= most {
		return
	}
	sort.Slice(files, func(i, j int) bool { return files[i].used.Before(files[j].used) })
	for _, f := range files {
		if all <= most {
			return
		}
		if os.Remove(filepath.Join(s.Dir, f.name)) == nil {
			all -= f.size
		}
	}
}

// Seen says of every block what it was when it was last checked.
type Seen map[string]string // PAGE/BLOCK to a hash

// ReadSeen reads what was kept in a file; none is an empty one.
func ReadSeen(file string) Seen {
	out := Seen{}
	if data, err := os.ReadFile(file); err == nil && json.Unmarshal(data, &out) != nil {
		return Seen{}
	}
	return out
}

// Write keeps it in a file.
func (s Seen) Write(file string) error {
	data, err := json.MarshalIndent(s, "", " ")
	if err != nil {
		return err
	}
	return site.WriteFile(file, append(data, '\n'))
}

// Mark notes all blocks of a page as checked; those that are gone are forgotten. key is that of the page's sources.
func (s Seen) Mark(env *project.Project, p *site.Page, key string) {
	for k := range s {
		if strings.HasPrefix(k, p.Name+"/") {
			delete(s, k)
		}
	}
	for _, b := range env.Site.All(p) {
		s[p.Name+"/"+b.Name] = blockHash(env, p, b)
	}
	s[p.Name] = key
}

// Knows reports a page that is made from the very sources of which it was made when it was checked: none of its
// blocks has changed.
func (s Seen) Knows(page, key string) bool { return key != "" && s[page] == key }

// Changed lists the blocks of a page that are not what they were when they were checked, or never were.
func (s Seen) Changed(env *project.Project, p *site.Page) []string {
	var out []string
	for _, b := range env.Site.All(p) {
		if s[p.Name+"/"+b.Name] != blockHash(env, p, b) {
			out = append(out, b.Name)
		}
	}
	return out
}

// blockHash names what a block looks like: its HTML and all styles that reach it. What is measured follows from
// these.
func blockHash(env *project.Project, p *site.Page, b *site.Block) string {
	page, _ := compose.Compose(env, p, compose.Options{Only: []string{b.Name}, Marks: true})
	h := sha256.New()
	for _, text := range []string{page.HTML, page.Site.Text, page.Own.Text} {
		_, _ = io.WriteString(h, text+"\x00")
	}
	return hex.EncodeToString(h.Sum(nil)[:12])
}
