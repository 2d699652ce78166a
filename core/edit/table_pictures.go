package edit

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
)

// Pictures says where the pictures of a table's entries are.
type Pictures struct {
	Folder string // below media/; "" for none
	Alike  bool   // take those too whose names are only like an entry's
}

// put gives the entries of a table pictures, by the names of the files. Those that are only like are proposed.
func (pictures Pictures) put(p *Plan, field *library.Field, rows []*site.Value) error {
	files, err := pictureFiles(p.dir, pictures.Folder)
	if err != nil || pictures.Folder == "" {
		return err
	}
	key := ""
	for _, x := range field.Of {
		if x.Type == library.Picture {
			key = x.Name
		}
	}
	if key == "" {
		return fmt.Errorf("the entries of %s show no pictures, so --pictures has nothing to fill", field.Name)
	}
	matches := make([]Match, len(rows))
	free := slices.Clone(files)
	words := make([][]string, len(rows))
	for i, row := range rows {
		for _, e := range row.Entries {
			if e.Value.Kind == site.Text {
				words[i] = append(words[i], e.Value.Text)
			}
		}
		matches[i].Entry = calledValue(row, fmt.Sprintf("%s[%d]", field.Name, i+1))
		if file := row.Get(key).Get("file").Str(); file != "" {
			matches[i].File, matches[i].How = file, Kept
			free = slices.DeleteFunc(free, func(x string) bool { return x == file })
			continue
		}
		if matches[i].File = matchPicture(words[i], free); matches[i].File != "" {
			matches[i].How = SameName
			free = slices.DeleteFunc(free, func(x string) bool { return x == matches[i].File })
		}
	}
	alike := AlikeLeft
	if pictures.Alike {
		alike = AlikeTaken
	}
	for i, row := range rows {
		m := &matches[i]
		if m.File == "" {
			if m.File = alikePicture(words[i], free); m.File != "" {
				m.How = alike
				free = slices.DeleteFunc(free, func(x string) bool { return x == m.File })
			}
		}
		if m.How == SameName || m.How == AlikeTaken {
			put(row, key, site.NewMap("file", site.NewText(m.File), "alt", site.NewText(m.Entry)))
		}
	}
	var without []string
	for _, m := range matches {
		if m.File == "" {
			without = append(without, m.Entry)
		}
	}
	found := func(how string) bool { return slices.ContainsFunc(matches, func(m Match) bool { return m.How == how }) }
	if found(alike) {
		p.Matches = append(p.Matches, matches...)
	}
	if found(AlikeLeft) {
		p.note("pictures that are only like a name were not taken: --alike takes them, %s.media=FILE sets one",
			field.Name+"[2]")
	}
	if len(without) > 0 {
		p.note("left over: entries without a picture: %s", strings.Join(without, ", "))
	}
	if len(free) > 0 {
		p.note("left over: pictures without an entry: %s", strings.Join(free, ", "))
	}
	return nil
}

// pictureFiles lists the pictures of a folder, as paths below media/.
func pictureFiles(dir, folder string) ([]string, error) {
	if folder == "" {
		return nil, nil
	}
	rel := strings.Trim(strings.TrimPrefix(filepath.ToSlash(folder), "media"), "/")
	var out []string
	for _, f := range media.List(site.Folder(dir), "media") {
		if rel == "" || strings.HasPrefix(f, rel+"/") {
			switch strings.ToLower(filepath.Ext(f)) {
			case ".svg", ".png", ".jpg", ".jpeg", ".webp", ".gif", ".avif":
				out = append(out, f)
			}
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("there are no pictures in media/%s", rel)
	}
	return out, nil
}

func pictureName(file string) string {
	return media.Slug(strings.TrimSuffix(filepath.Base(file), filepath.Ext(file)))
}

// matchPicture finds the picture whose name is a cell's, whole or its first word, letter case and accents aside.
func matchPicture(words, files []string) string {
	for _, whole := range []bool{true, false} {
		for _, cell := range words {
			want := media.Slug(cell)
			if !whole {
				want, _, _ = strings.Cut(want, "-")
			}
			for _, f := range files {
				if len(want) > 1 && pictureName(f) == want {
					return f
				}
			}
		}
	}
	return ""
}

// alikePicture finds the one picture whose name is like the first words of an entry or one of them: a few letters
// differ, or one begins with the other.
func alikePicture(words, files []string) string {
	if len(words) == 0 {
		return ""
	}
	slug := media.Slug(words[0])
	best, most, ties := "", 0.0, 0
	for _, f := range files {
		name := pictureName(f)
		like := 0.0
		for _, want := range append([]string{slug}, strings.Split(slug, "-")...) {
			for _, have := range append([]string{name}, strings.Split(name, "-")...) {
				like = max(like, diag.Likeness(want, have))
			}
		}
		switch {
		case like < leastLikeness:
		case like > most:
			best, most, ties = f, like, 0
		case like == most:
			ties++
		}
	}
	if ties > 0 {
		return ""
	}
	return best
}

// leastLikeness is how like a word and a file's name are at least when one may mean the other: tomas and tomasz.
const leastLikeness = 0.7
