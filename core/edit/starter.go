package edit

import (
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/site"
)

// A site can begin as another one: it takes its theme, sections, fonts and icons, and of its file what holds for any
// page. What it took is noted, so that it can be told later what has changed there.

// StarterFile notes what a site has taken of another one, and how it was then.
const StarterFile = "starter.yaml"

// notTaken are the keys of ziegel.yaml that are one site's own.
var notTaken = []string{"address", "template", "accept", "places", "picture", "favicon"}

// shared are the keys whose values are compared with those of the starter.
var shared = []string{"theme", "ranges", "every-page", "looks", "defaults", "turns", "hosts", "tune", "budget", "host"}

// Starter gives the files of a new site that begins as another one. base is the folder of that, from how the new site
// finds it.
func Starter(base fs.FS, from, name string) (map[string]string, error) {
	text, err := fs.ReadFile(base, site.FileName)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", path.Join(filepath.ToSlash(from), site.FileName), diag.Bare(err))
	}
	f, problems := site.ReadFile(site.FileName, string(text))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	var edits []site.Edit
	for _, k := range notTaken {
		if f.Root.Get(k) != nil {
			edits = append(edits, site.Edit{Op: site.Delete, Path: site.Keys(k)})
		}
	}
	main, err := site.EditSource(site.FileName, OwnBrand(string(text), name), append(edits,
		site.Edit{Op: site.Set, Path: site.Keys("name"), Value: site.NewText(name)})...)
	if err != nil {
		return nil, err
	}
	files, err := starterFiles(base, string(text))
	if err != nil {
		return nil, err
	}
	own, problems := site.ReadFile(site.FileName, main) // under the new name, as updates will have it
	if err := problems.Err(); err != nil {
		return nil, err
	}
	note := starterNote(from, files, own.Root)
	files[site.FileName] = main
	files[StarterFile] = note
	return files, nil
}

// starterFiles reads what comes along beside the site's file.
func starterFiles(base fs.FS, main string) (map[string]string, error) {
	out := map[string]string{}
	read := func(name string) error {
		data, err := fs.ReadFile(base, name)
		if err == nil {
			out[name] = string(data)
		}
		return err
	}
	var words strings.Builder // in which pictures may be named
	words.WriteString(main)
	for _, dir := range []string{"sections", "kept", "media/fonts", "media/icons"} {
		err := fs.WalkDir(base, dir, func(p string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			if err := read(p); err != nil {
				return err
			}
			if path.Ext(p) == ".html" || path.Ext(p) == ".css" {
				words.WriteString(out[p])
			}
			return nil
		})
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, err
		}
	}
	for _, name := range []string{TokensFile, darkTokensFile} {
		if err := read(name); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, err
		}
	}
	list, err := fs.ReadDir(base, "media")
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	for _, d := range list {
		if d.Type().IsRegular() && strings.Contains(words.String(), d.Name()) {
			if err := read("media/" + d.Name()); err != nil {
				return nil, err
			}
		}
	}
	return out, nil
}

// starterNote writes what was taken: files and values of the site's file by their hashes.
func starterNote(from string, files map[string]string, root *site.Value) string {
	s := &starter{from: filepath.ToSlash(from), taken: map[string]string{}}
	for name, text := range files {
		s.taken[name] = site.Hash(text)
	}
	for _, k := range shared {
		if v := root.Get(k); v != nil {
			s.taken[keyName(k)] = site.Hash(v.String())
		}
	}
	return s.note()
}

func keyName(key string) string { return site.FileName + " " + key }

// Outdated is something of the starter that is not as it was when the site took it.
type Outdated struct {
	Name string // a file, or "ziegel.yaml KEY"
	How  string // changed, new or gone there
	Here bool   // the site has changed it, too
}

// starter is a site's note read, with both sides as they are now.
type starter struct {
	from  string
	taken map[string]string // hashes
	there map[string]string // files of the starter
	keys  map[string]*site.Value
}

var errNoStarter = errors.New(
	"the site did not begin as another one: `ziegel new DIR --from FOLDER` makes one that does",
)

// NoStarter reports that a site did not begin as another one.
func NoStarter(err error) bool { return errors.Is(err, errNoStarter) }

// readStarter reads the note of a site, and the site that it began as.
func readStarter(of *site.Site) (*starter, error) {
	dir := of.Dir
	text, err := site.ReadIn(dir, StarterFile)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, errNoStarter
	}
	if err != nil {
		return nil, err
	}
	f, problems := site.ReadFile(StarterFile, string(text))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	s := &starter{from: f.Root.Get("from").Str(), taken: map[string]string{}, keys: map[string]*site.Value{}}
	if v := f.Root.Get("taken"); v != nil {
		for _, e := range v.Entries {
			s.taken[e.Key] = e.Value.Str()
		}
	}
	base := site.Folder(filepath.Join(dir, filepath.FromSlash(s.from)))
	main, err := fs.ReadFile(base, site.FileName)
	if err != nil {
		return nil, fmt.Errorf(
			"read %s: %w; %s says where the starter is",
			path.Join(s.from, site.FileName),
			diag.Bare(err),
			StarterFile,
		)
	}
	root, problems := site.ReadFile(path.Join(s.from, site.FileName), OwnBrand(string(main), of.Name))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	if s.there, err = starterFiles(base, string(main)); err != nil {
		return nil, err
	}
	for _, k := range shared {
		if v := root.Root.Get(k); v != nil {
			s.keys[keyName(k)] = v
		}
	}
	return s, nil
}

// hash gives what something of the starter is now, "" for what is gone.
func (s *starter) hash(name string) string {
	if text, ok := s.there[name]; ok {
		return site.Hash(text)
	}
	if v := s.keys[name]; v != nil {
		return site.Hash(v.String())
	}
	return ""
}

// here gives what something of the site is now, "" for what is gone.
func here(dir string, root *site.Value, name string) string {
	if key, ok := strings.CutPrefix(name, site.FileName+" "); ok {
		if v := root.Get(key); v != nil {
			return site.Hash(v.String())
		}
		return ""
	}
	data, err := site.ReadIn(dir, name)
	if err != nil {
		return ""
	}
	return site.Hash(string(data))
}

// OutdatedOf lists what has changed in the site that a site began as.
func OutdatedOf(s *site.Site) ([]Outdated, error) {
	st, err := readStarter(s)
	if err != nil {
		return nil, err
	}
	names := map[string]bool{}
	for _, m := range []map[string]string{st.taken, st.there} {
		for n := range m {
			names[n] = true
		}
	}
	for n := range st.keys {
		names[n] = true
	}
	var out []Outdated
	for _, n := range slices.Sorted(maps.Keys(names)) {
		was, is, mine := st.taken[n], st.hash(n), here(s.Dir, s.File.Root, n)
		if was == is || mine == is {
			continue
		}
		o := Outdated{Name: n, How: "changed", Here: was != "" && mine != was}
		switch {
		case was == "":
			o.How, o.Here = "new", mine != ""
		case is == "":
			o.How = "gone"
		}
		out = append(out, o)
	}
	return out, nil
}

// Update takes what is newer: of this program, see UpdateKept, and of the site that this one began as, see Outdated;
// the named things, or all. What the site has changed as well stays unless over is said.
func Update(p *Plan, names []string, over bool) error {
	var kept, others []string
	for _, n := range names {
		if IsNewer(p.Env, n) {
			kept = append(kept, n)
		} else {
			others = append(others, n)
		}
	}
	_, err := readStarter(p.Env.Site)
	if NoStarter(err) {
		return UpdateKept(p, names)
	}
	if len(kept) > 0 || len(names) == 0 && p.Env.Keeps() {
		if err := UpdateKept(p, kept); err != nil {
			return err
		}
	}
	if len(names) > 0 && len(others) == 0 {
		return nil
	}
	return updateStarter(p, others, over)
}

// updateStarter takes what has changed in the site that this one began as.
func updateStarter(p *Plan, names []string, over bool) error {
	st, err := readStarter(p.Env.Site)
	if err != nil {
		return err
	}
	list, err := OutdatedOf(p.Env.Site)
	if err != nil {
		return err
	}
	if err := knownNames(names, list); err != nil {
		return err
	}
	taken := 0
	for _, o := range list {
		if len(names) > 0 &&
			!slices.ContainsFunc(
				names,
				func(n string) bool { return o.Name == n || strings.HasPrefix(o.Name, n+"/") },
			) {
			continue
		}
		if o.Here && !over {
			p.note("%s is changed on both sides and stays; --over takes that of the starter", o.Name)
			continue
		}
		p.takeOutdated(st, o)
		taken++
	}
	if taken == 0 {
		return nil
	}
	old, err := site.ReadIn(p.dir, StarterFile)
	if err != nil {
		return err
	}
	p.files = append(p.files, site.FileChange{Path: StarterFile, Before: string(old), After: st.note()})
	done := fmt.Sprintf("took %s of %s", diag.Plural(taken, "change"), st.from)
	if p.Done != "" {
		done = p.Done + "; " + done
	}
	p.Done = done
	return nil
}

// knownNames refuses names of what is not outdated.
func knownNames(names []string, list []Outdated) error {
	var known []string
	for _, o := range list {
		known = append(known, o.Name)
	}
	for _, n := range names {
		if !slices.ContainsFunc(known, func(k string) bool { return k == n || strings.HasPrefix(k, n+"/") }) {
			return diag.Unknown("change", n, known, "")
		}
	}
	return nil
}

// takeOutdated plans one change, and notes what is taken now.
func (p *Plan) takeOutdated(st *starter, o Outdated) {
	if key, ok := strings.CutPrefix(o.Name, site.FileName+" "); ok {
		e := site.Edit{Op: site.Set, Path: site.Keys(key), Value: st.keys[o.Name]}
		if e.Value == nil {
			e = site.Edit{Op: site.Delete, Path: site.Keys(key)}
		}
		p.edit(site.FileName, e)
	} else {
		old, err := site.ReadIn(p.dir, o.Name)
		f := site.FileChange{Path: o.Name, Before: string(old), After: st.there[o.Name], New: err != nil,
			Gone: o.How == "gone"}
		p.files = append(p.files, f)
	}
	if st.taken[o.Name] = st.hash(o.Name); o.How == "gone" {
		delete(st.taken, o.Name)
	}
}

// noteHead begins the note of a site.
const noteHead = "# What this site began as. `ziegel outdated` tells what has changed there.\n"

// note writes what is taken now.
func (s *starter) note() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%sfrom: %q\ntaken:\n", noteHead, s.from)
	for _, name := range slices.Sorted(maps.Keys(s.taken)) {
		fmt.Fprintf(&b, "  %q: %q\n", name, s.taken[name])
	}
	return b.String()
}
