package emit

import (
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"sync"

	"ziegel/core/compose"
	"ziegel/core/media"
	"ziegel/core/site"
)

// CopyCache is the folder of a site that keeps smaller copies of pictures; it is safe to delete.
func CopyCache(dir string) string { return filepath.Join(dir, ".ziegel", "cache", "pictures") }

// makeCopies makes the smaller copies of pictures, by name; those that were made before come from the cache. A picture that cannot be
// read has none: what is wrong with it is told where the page names it.
func makeCopies(e *compose.Env, list map[string]media.Copy, opts Options) map[string][]byte {
	names := make([]string, 0, len(list))
	for n := range list {
		names = append(names, n)
	}
	slices.Sort(names)
	out := map[string][]byte{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	todo := make(chan string)
	done := 0
	for range min(runtime.NumCPU(), len(names)) {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for name := range todo {
				data, ok := copyOf(e, list[name], opts.Cache)
				mu.Lock()
				done++
				if ok {
					out[name] = data
				}
				if opts.Step != nil {
					opts.Step(done, len(names))
				}
				mu.Unlock()
			}
		}()
	}
	for _, n := range names {
		todo <- n
	}
	close(todo)
	wg.Wait()
	return out
}

// copyOf makes one copy, or takes it from the cache, where it lies under what it follows from.
func copyOf(e *compose.Env, c media.Copy, cache string) ([]byte, bool) {
	original, err := e.MediaFile(c.From)
	if err != nil {
		return nil, false
	}
	kept := ""
	if cache != "" {
		kept = filepath.Join(cache, site.Hash(string(original)+c.Name))
		if data, err := os.ReadFile(kept); err == nil && len(data) > 0 {
			return data, true
		}
	}
	data, err := media.Resize(original, c)
	if err != nil {
		return nil, false
	}
	if kept != "" && site.WriteFile(kept, data) == nil { // else the next build makes it again
		_ = site.WriteFile(filepath.Join(cache, ".gitignore"), []byte("*\n"))
	}
	return data, true
}
