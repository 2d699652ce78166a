package build

import (
	"fmt"
	"maps"
	"os"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"sync"

	"ziegel/core/media"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/site"
)

// CopyCache is the folder of a site that keeps smaller copies of pictures; it is safe to delete.
func CopyCache(dir string) string { return filepath.Join(dir, ".ziegel", "cache", "pictures") }

// makeCopies makes the smaller copies of pictures, by name; those that were made before come from the cache. A
// picture that cannot be read has none: what is wrong with it is told where the page names it.
func makeCopies(e *project.Project, list map[string]media.Copy, opts Options) map[string]File {
	of := map[string][]media.Copy{}
	for _, c := range list {
		of[c.From] = append(of[c.From], c)
	}
	out := map[string]File{}
	var mu sync.Mutex
	names := slices.Sorted(maps.Keys(of))
	parallel.Each(runtime.NumCPU(), len(names), func(_, i int) bool {
		from := names[i]
		copies := of[from]
		slices.SortFunc(copies, func(a, b media.Copy) int { return a.Width - b.Width })
		files := make([]File, len(copies))
		lie := true
		for i, c := range copies {
			if stamp := e.MediaStamp(from); stamp != "" {
				files[i].From = fmt.Sprint(stamp, " ", c, " ", opts.Maker)
			}
			files[i].Lies = opts.Last.Lies(path.Join("media", c.Name), files[i].From)
			lie = lie && files[i].Lies
		}
		if !lie {
			made := copiesOf(e, from, copies, opts.Cache)
			files = files[:len(made)]
			for i, data := range made {
				files[i].Data, files[i].Lies = data, false
			}
		}
		mu.Lock()
		for i, f := range files {
			out[copies[i].Name] = f
		}
		mu.Unlock()
		if opts.Step != nil {
			opts.Step(len(of))
		}
		return true
	})
	return out
}

// copiesOf makes the copies of one picture, or takes them from the cache, where each lies under what it follows from.
func copiesOf(e *project.Project, from string, list []media.Copy, cache string) [][]byte {
	original, err := e.MediaFile(from)
	if err != nil {
		return nil
	}
	from = site.Hash(string(original))
	kept := func(c media.Copy) string { return filepath.Join(cache, site.Hash(from+c.Name)) }
	out := make([][]byte, len(list))
	all := cache != ""
	for i, c := range list {
		if all {
			out[i], err = os.ReadFile(kept(c))
			all = err == nil && len(out[i]) > 0
		}
	}
	if all {
		return out
	}
	if out, err = media.Resize(original, list); err != nil {
		return nil
	}
	if cache == "" {
		return out
	}
	for i, c := range list { // what cannot be kept is made again by the next build
		if site.WriteFile(kept(c), out[i]) != nil {
			return out
		}
	}
	_ = site.WriteFile(filepath.Join(cache, ".gitignore"), []byte("*\n"))
	return out
}
