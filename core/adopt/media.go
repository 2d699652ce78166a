package adopt

import (
	"io/fs"
	"path"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
	"ziegel/core/media"
)

// NewMedia collects files for a site whose folder is own, nil when it has none yet.
func NewMedia(stock, own fs.FS) *Media {
	return &Media{Files: map[string][]byte{}, named: map[string]string{}, stock: stock, own: own}
}

// mostFile is how large one file may be that comes along, bytes.
const mostFile = 64 << 20

// take brings a file along and gives its name below media/; "" when it cannot be read.
func (m *Media) take(files fs.FS, file string) string {
	if name := m.named[file]; name != "" {
		return name
	}
	data, err := readWithin(files, file)
	if err != nil {
		return ""
	}
	if media.IsSVG(file) { // no script comes along
		clean, _, err := media.Clean(data)
		if err != nil || media.CheckSVG(clean) != nil {
			return ""
		}
		data = clean
	}
	name := file
	if i := strings.LastIndex("/"+file, "/media/"); i >= 0 {
		name = file[i+len("media/"):]
	} else {
		name = path.Base(file)
	}
	name = m.free(cleanPath(name), data)
	m.named[file] = name
	return name
}

// cleanPath makes a file name that addresses can have: small letters, digits, hyphens.
func cleanPath(name string) string {
	parts := strings.Split(name, "/")
	for i, p := range parts {
		ext := path.Ext(p)
		parts[i] = media.Slug(strings.TrimSuffix(p, ext)) + strings.ToLower(ext)
	}
	return strings.Join(parts, "/")
}

// free keeps data under a name that no other file has.
func (m *Media) free(name string, data []byte) string {
	ext := path.Ext(name)
	stem := strings.TrimSuffix(name, ext)
	for i := 1; ; i++ {
		try := name
		if i > 1 {
			try = stem + "-" + strconv.Itoa(i) + ext
		}
		have, taken := m.Files[try]
		if !taken && m.own != nil {
			if old, err := fs.ReadFile(m.own, "media/"+try); err == nil {
				have, taken = old, true
			}
		}
		if taken && string(have) != string(data) {
			continue
		}
		m.Files[try] = data
		return try
	}
}

// shapes gives the names of the shipped icons by their shapes.
func (m *Media) shapes() map[string]string {
	if m.icons != nil {
		return m.icons
	}
	m.icons = map[string]string{}
	for _, name := range media.Icons(m.stock, m.own) {
		icon, err := media.ReadIcon(m.stock, m.own, name)
		if err != nil {
			continue
		}
		frag, err := html.ParseFragment(strings.NewReader("<svg>"+icon.Body+"</svg>"), markup.Element("div"))
		if err == nil && len(frag) > 0 {
			if shapes := shapesOf(frag[0]); m.icons[shapes] == "" {
				m.icons[shapes] = name
			}
		}
	}
	return m.icons
}

// shapesOf writes what is drawn in an element.
func shapesOf(n *html.Node) string {
	var b strings.Builder
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		markup.PrintNode(&b, k, 0)
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

// readWithin reads a file of the source; nothing outside of it, and nothing too large.
func readWithin(files fs.FS, file string) ([]byte, error) {
	info, err := fs.Stat(files, file)
	switch {
	case err != nil:
		return nil, err
	case !info.Mode().IsRegular() || info.Size() > mostFile:
		return nil, fs.ErrInvalid
	}
	return fs.ReadFile(files, file)
}
