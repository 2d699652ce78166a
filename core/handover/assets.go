package handover

import (
	"io/fs"
	"path"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/draw"
	"ziegel/core/media"
)

// assets gathers icons, pictures and fonts of all pages.
func (m *maker) assets(subjects []Subject) {
	m.icons(subjects)
	at := map[string]int{}
	for _, s := range subjects {
		for _, name := range s.Page.Page.Media {
			i, ok := at[name]
			if !ok {
				p := Picture{File: "media/" + name, Licence: "not known: it is the site's own file"}
				if data, err := m.e.MediaFile(name); err == nil {
					p.Bytes = len(data)
					p.W, p.H, _ = media.Size(name, data)
					if m.shipped(name, data) {
						p.Licence = "ships with the program as a sample"
					}
				}
				at[name] = len(m.book.Pictures)
				i = at[name]
				m.book.Pictures = append(m.book.Pictures, p)
			}
			m.book.Pictures[i].Pages = append(m.book.Pictures[i].Pages, s.Page.Name)
		}
	}
	slices.SortFunc(m.book.Pictures, func(a, b Picture) int { return strings.Compare(a.File, b.File) })
	for _, f := range m.e.Fonts {
		one := Font{
			Family:  f.Family,
			File:    f.Name,
			Weight:  f.Weight,
			To:      f.To,
			Italic:  f.Italic,
			Licence: "not known: there is no licence beside the file",
		}
		if data, err := m.e.FontData(f); err == nil {
			one.Bytes = len(data)
			m.book.Files["fonts/"+f.Name] = data
		}
		if name, data, ok := m.e.FontLicense(f); ok {
			one.Licence = firstLine(string(data))
			m.book.Files["fonts/"+name] = data
		}
		m.book.Fonts = append(m.book.Fonts, one)
	}
}

// shipped reports a picture that ships as a sample.
func (m *maker) shipped(name string, data []byte) bool {
	for _, folder := range []string{"pictures", "demo/media"} {
		if was, err := fs.ReadFile(m.e.Stock, path.Join(folder, name)); err == nil && string(was) == string(data) {
			return true
		}
	}
	return false
}

// firstLine gives the first line of a licence that says which one it is.
func firstLine(text string) string {
	for line := range strings.Lines(text) {
		if l := strings.TrimSpace(line); strings.Contains(strings.ToLower(l), "licen") {
			return strings.TrimRight(l, ":.")
		}
	}
	return strings.TrimSpace(strings.SplitN(text, "\n", 2)[0])
}

var shapeForm = regexp.MustCompile(` (?:d|points|href)="([^"]*)"`)

// icons gathers the drawings within pages that are icons, by what they draw.
func (m *maker) icons(subjects []Subject) {
	origin := ""
	if data, err := fs.ReadFile(m.e.Stock, media.IconFolder+"/ORIGIN.txt"); err == nil {
		origin = strings.TrimSpace(strings.SplitN(string(data), "\n", 2)[0])
	}
	license := ""
	if data, err := fs.ReadFile(m.e.Stock, media.IconFolder+"/LICENSE.txt"); err == nil {
		license = firstLine(string(data))
	}
	names := map[string]string{}
	own := map[string]bool{}
	for _, name := range media.Icons(m.e.Stock, m.e.Dir) {
		icon, err := media.ReadIcon(m.e.Stock, m.e.Dir, name)
		if err != nil {
			continue
		}
		key := ""
		for _, g := range shapeForm.FindAllStringSubmatch(icon.Body, -1) {
			key += g[1] + " "
		}
		if _, taken := names[key]; !taken && key != "" {
			names[key] = name
		}
		if _, err := fs.Stat(m.e.Dir, path.Join(media.OwnIconFolder, name+".svg")); err == nil {
			own[name] = true
		}
	}
	at := map[string]int{}
	for _, s := range subjects {
		sh, err := draw.Of(s.Page, Widths[len(Widths)-1], draw.Target{}, draw.Look{Files: m.files})
		if err != nil {
			continue
		}
		for i := range sh.Result.Boxes {
			box := &sh.Result.Boxes[i]
			if box.Element == nil || box.Element.Tag != "svg" || box.W == 0 {
				continue
			}
			key := drawn(box.Element)
			if key == "" {
				continue
			}
			k, ok := at[key]
			if !ok {
				one := Icon{Name: names[key], Origin: strings.TrimSuffix(origin+", "+license, ", ")}
				if one.Name == "" {
					one.Origin = "of the section"
				} else if own[one.Name] {
					one.Origin = "the site's own"
				}
				k = len(m.book.Icons)
				at[key] = k
				m.book.Icons = append(m.book.Icons, one)
				m.icon(&m.book.Icons[k])
			}
			ic := &m.book.Icons[k]
			if size := box.W.Float(); !slices.Contains(ic.Sizes, size) {
				ic.Sizes = append(ic.Sizes, size)
			}
			if block := blockOf(box.Element); block != "" && !slices.Contains(ic.Blocks, block) {
				ic.Blocks = append(ic.Blocks, block)
			}
		}
	}
}

// icon writes the file of an icon that has a name.
func (m *maker) icon(ic *Icon) {
	for _, from := range []struct {
		disk   fs.FS
		folder string
	}{{m.e.Dir, media.OwnIconFolder}, {m.e.Stock, media.IconFolder}} {
		if ic.Name == "" {
			return
		}
		if data, err := fs.ReadFile(from.disk, path.Join(from.folder, ic.Name+".svg")); err == nil {
			ic.File = "icons/" + ic.Name + ".svg"
			m.book.Files[ic.File] = data
			return
		}
	}
}

func drawn(e *css.Element) string {
	key := ""
	for _, k := range e.Kids() {
		for _, a := range []string{"d", "points", "href"} {
			if v := k.Attr(a); v != "" {
				key += v + " "
			}
		}
		key += drawn(k)
	}
	return key
}

func blockOf(e *css.Element) string {
	for ; e != nil; e = e.Parent {
		if b := e.Attr("data-block"); b != "" {
			return b
		}
	}
	return ""
}
