package project

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"ziegel/core/font"
	"ziegel/core/theme"
)

// Until a font file has come, its texts are set in a font of the reader's machine that is scaled to the same widths
// and heights, so that nothing jumps. Families that a page brings have such a stand-in beside them.

// fallbacksFile holds the matches of the shipped fonts, made by `go test ./core/compose -update`.
const fallbacksFile = "fallbacks.json"

// stands are the fonts that nearly every machine has, by what the generic family at the end of a token says, and the
// shipped faces of the same widths.
var stands = map[string]struct{ names, file string }{
	"sans-serif":      {"Arial,Liberation Sans,Arimo", "generic/arimo-400.woff2"},
	"sans-serif bold": {"Arial Bold,Liberation Sans Bold,Arimo Bold", "generic/arimo-700.woff2"},
	"serif":           {"Times New Roman,Liberation Serif,Tinos", "generic/tinos-400.woff2"},
	"serif bold":      {"Times New Roman Bold,Liberation Serif Bold,Tinos Bold", "generic/tinos-700.woff2"},
}

// standIns puts the stand-in of each family that has files into its tokens.
func (e *Project) standIns() {
	t := *e.Theme
	t.Tokens = slices.Clone(t.Tokens)
	for i, k := range t.Tokens {
		first, rest, ok := strings.Cut(k.Value, ",")
		family := strings.Trim(first, `" `)
		if k.Type != "fontFamily" || strings.Contains(k.Value, theme.StandIn) ||
			!slices.ContainsFunc(e.Fonts, func(f FontFile) bool { return f.Family == family }) {
			continue
		}
		t.Tokens[i].Value = fmt.Sprintf("%s, %q", first, family+theme.StandIn)
		if ok {
			t.Tokens[i].Value += "," + rest
		}
	}
	e.Theme = &t
}

// generic tells which generic family the tokens of a theme name after a family.
func generic(t *theme.Theme, family string) string {
	for _, k := range t.Tokens {
		if list := strings.Split(k.Value, ","); k.Type == "fontFamily" && strings.Trim(list[0], `" `) == family {
			if last := strings.TrimSpace(list[len(list)-1]); last == "serif" {
				return last
			}
		}
	}
	return "sans-serif"
}

// StandIn tells how a font of the reader's machine stands in for a file until it has come: what such fonts are called
// where, and how they are scaled. ok is false for a file that cannot be read, which the layout tells.
func (e *Project) StandIn(f FontFile) (names []string, m font.Match, ok bool) {
	kind := generic(e.Theme, f.Family)
	if f.Weight >= 600 {
		kind += " bold"
	}
	m, err := e.match(f, kind)
	return strings.Split(stands[kind].names, ","), m, err == nil
}

// matchKey names a match by file, stand-in and bytes.
type matchKey struct {
	name, kind string
	bytes      int
}

// match tells how the stand-in of a file is scaled: read for shipped files, worked out for others.
func (e *Project) match(f FontFile, kind string) (m font.Match, err error) {
	if m, ok := e.shippedMatches()[f.Name+" "+kind]; ok {
		return m, nil
	}
	data, err := e.FontData(f)
	if err != nil {
		return m, err
	}
	key := matchKey{f.Name, kind, len(data)}
	if e.Measures != nil {
		if m, ok := e.Measures.Load(key); ok {
			return m.(font.Match), nil
		}
		defer func() {
			if err == nil {
				e.Measures.Store(key, m)
			}
		}()
	}
	own, err := font.Parse(f.Family, data)
	if err != nil {
		return m, err
	}
	stand, err := fs.ReadFile(e.Stock, "fonts/"+stands[kind].file)
	if err != nil {
		return m, err
	}
	face, err := font.Parse(kind, stand)
	if err != nil {
		return m, err
	}
	return font.MatchTo(own, face), nil
}

func (e *Project) shippedMatches() map[string]font.Match {
	if e.standing == nil {
		e.standing = map[string]font.Match{}
		if data, err := fs.ReadFile(e.Stock, fallbacksFile); err == nil {
			_ = json.Unmarshal(data, &e.standing)
		}
	}
	return e.standing
}
