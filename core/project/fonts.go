package project

import (
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Weights writes the weights of a file for CSS.
func (f FontFile) Weights() string {
	if f.To > 0 {
		return fmt.Sprintf("%d %d", f.Weight, f.To)
	}
	return fmt.Sprint(f.Weight)
}

// FontFormats are the kinds of font files by extension, in the words of CSS.
var FontFormats = map[string]string{".woff2": "woff2", ".woff": "woff", ".ttf": "truetype", ".otf": "opentype"}

// FontsOf lists the font files that some blocks need.
func (e *Project) FontsOf(blocks []*site.Block) []FontFile {
	if slices.ContainsFunc(blocks, func(b *site.Block) bool { return b.Draft }) {
		return slices.Concat(e.Fonts, e.DraftFonts)
	}
	return e.Fonts
}

// filesOf finds the font files of a theme: those that ship, then those of the site.
func (e *Project) filesOf(t *theme.Theme) []FontFile {
	out := fontFiles(e.Stock, "fonts", t)
	for _, f := range fontFiles(e.Dir, "media/fonts", t) {
		if !slices.Contains(out, f) {
			out = append(out, f)
		}
	}
	return out
}

// FontData reads a font file of the theme: a shipped one, or one of the site's own in media/fonts.
func (e *Project) FontData(f FontFile) ([]byte, error) {
	data, err := fs.ReadFile(e.Stock, "fonts/"+f.Name)
	if err != nil {
		data, err = fs.ReadFile(e.Dir, "media/fonts/"+f.Name)
	}
	return data, err
}

// FontLicense gives the licence that stands beside a font's file, by the name that it is built under:
// FAMILY.LICENSE.txt for a shipped one; in media/fonts FAMILY.LICENSE.txt, LICENSE.txt or OFL.txt. ok is false when
// there is none.
func (e *Project) FontLicense(f FontFile) (name string, data []byte, ok bool) {
	family := media.Slug(f.Family)
	name = family + ".LICENSE.txt"
	if data, err := fs.ReadFile(e.Stock, "fonts/"+name); err == nil {
		if _, own := fs.Stat(e.Stock, "fonts/"+f.Name); own == nil {
			return name, data, true
		}
	}
	for _, file := range []string{name, "LICENSE.txt", "OFL.txt", "LICENSE"} {
		if data, err := fs.ReadFile(e.Dir, "media/fonts/"+file); err == nil {
			return name, data, true
		}
	}
	return "", nil, false
}

// fontFiles finds the files of a theme's families in a folder: family-name-WEIGHT.woff2, family-name-FROM-TO.woff2
// for one with all weights between the two; .ttf, .otf and .woff are taken too.
func fontFiles(from fs.FS, dir string, t *theme.Theme) []FontFile {
	var out []FontFile
	for _, family := range t.Families() {
		for _, f := range media.List(from, dir) {
			rest, ok := strings.CutPrefix(f, media.Slug(family)+"-")
			ext := path.Ext(rest)
			rest, italic := strings.CutSuffix(strings.TrimSuffix(rest, ext), "-italic")
			low, high, _ := strings.Cut(rest, "-")
			w, err := strconv.Atoi(low)
			to, _ := strconv.Atoi(high)
			better := ok && FontFormats[ext] != "" && err == nil && (high == "" || to > w)
			if better {
				out = append(out, FontFile{Family: family, Weight: w, To: to, Italic: italic, Name: f})
			}
		}
	}
	return out
}
