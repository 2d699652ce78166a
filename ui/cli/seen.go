package cli

import (
	"path/filepath"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/store"
)

// seenFile is where a site keeps what was checked last.
func seenFile(dir string) string { return filepath.Join(dir, ".ziegel", "seen.json") }

// changedSince tells of pages which of their blocks have changed since they were checked, for those sites that were
// checked at all.
func changedSince(list []*check.Subject) func(page string) map[string]bool {
	none := func(string) map[string]bool { return nil }
	if len(list) == 0 || list[0].Env == nil {
		return none
	}
	env := list[0].Env
	seen := store.ReadSeen(seenFile(env.Site.Dir))
	if len(seen) == 0 {
		return none
	}
	sources := compose.SourcesOf(env, thisBuild())
	kept := map[string]map[string]bool{}
	return func(page string) map[string]bool {
		if out, ok := kept[page]; ok {
			return out
		}
		out := map[string]bool{}
		if !seen.Knows(page, sources.Key(page)) {
			if p := env.Site.Page(page); p != nil {
				for _, b := range seen.Changed(env, p) {
					out[b] = true
				}
			}
		}
		kept[page] = out
		return out
	}
}

// notSeen lists the blocks of a page that have changed since they were checked, for those sites that were checked at
// all.
func notSeen(s *check.Subject) map[string]bool { return changedSince([]*check.Subject{s})(s.Name) }
