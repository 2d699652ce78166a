// Package media finds pictures and icons and reads their natural sizes from their first bytes.
package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image"
	_ "image/gif"  // decoders for natural sizes
	_ "image/jpeg" // decoders for natural sizes
	_ "image/png"  // decoders for natural sizes
	"io/fs"
	"path"
	"sort"
	"strconv"
	"strings"

	_ "golang.org/x/image/webp" // decoders for natural sizes
)

// Size gives the natural size of a picture in CSS px, upright as browsers show it.
func Size(name string, data []byte) (w, h float64, err error) {
	if strings.EqualFold(path.Ext(name), ".svg") {
		if w, h, err = svgSize(data); err == nil {
			err = CheckSVG(data)
		}
		return w, h, err
	}
	c, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return 0, 0, errors.New("not a picture that browsers show (PNG, JPEG, GIF, WebP, SVG)")
	}
	if err := errors.Join(tooManyPixels(c.Width, c.Height), checkWhole(kind, data)); err != nil {
		return 0, 0, err
	}
	if kind == "jpeg" && lying(data) {
		c.Width, c.Height = c.Height, c.Width
	}
	return float64(c.Width), float64(c.Height), nil
}

func svgSize(data []byte) (w, h float64, err error) {
	d := xml.NewDecoder(bytes.NewReader(data))
	d.Strict = false
	for {
		tok, err := d.Token()
		if err != nil {
			return 0, 0, errors.New("not an SVG picture")
		}
		el, ok := tok.(xml.StartElement)
		if !ok {
			continue
		}
		if el.Name.Local != "svg" {
			return 0, 0, errors.New("not an SVG picture")
		}
		var box []string
		for _, a := range el.Attr {
			switch a.Name.Local {
			case "width":
				w, _ = strconv.ParseFloat(strings.TrimSuffix(a.Value, "px"), 64)
			case "height":
				h, _ = strconv.ParseFloat(strings.TrimSuffix(a.Value, "px"), 64)
			case "viewBox":
				box = strings.FieldsFunc(a.Value, func(r rune) bool { return r == ' ' || r == ',' })
			}
		}
		if (w == 0 || h == 0) && len(box) == 4 {
			w, _ = strconv.ParseFloat(box[2], 64)
			h, _ = strconv.ParseFloat(box[3], 64)
		}
		if w <= 0 || h <= 0 {
			return 300, 150, nil
		}
		return w, h, nil
	}
}

// List names all files below a folder, sorted, with slashes, relative to it.
func List(fsys fs.FS, dir string) []string {
	var out []string
	_ = fs.WalkDir(fsys, dir, func(p string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() && p != dir && strings.HasPrefix(d.Name(), ".") {
			return fs.SkipDir
		}
		if err == nil && !d.IsDir() && !strings.HasPrefix(d.Name(), ".") {
			out = append(out, strings.TrimPrefix(p, dir+"/"))
		}
		return nil
	})
	sort.Strings(out)
	return out
}

// Slug makes a file-name form of words: small letters, digits and hyphens; accents go, ligatures open.
func Slug(s string) string {
	fold := strings.NewReplacer("ä", "a", "ö", "o", "ü", "u", "ß", "ss", "é", "e", "è", "e", "ê", "e", "á", "a", "à",
		"a", "â", "a", "å", "a", "ó", "o", "ò", "o", "ô", "o",
		"ø", "o", "í", "i", "î", "i", "ï", "i", "ú", "u", "û", "u", "ñ", "n", "ç", "c", "æ", "ae", "œ", "oe", "ž",
		"z", "š", "s", "č", "c", "ł", "l")
	var b strings.Builder
	for _, r := range fold.Replace(strings.ToLower(s)) {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	return strings.Trim(b.String(), "-")
}
