// Package adopt takes pages that exist into a site: a page that is laid out is cut into bands (bands.go), each is read
// as a designer would (reading.go) and held against the sections of the library (fit.go); what such a section made is
// read back exactly (built.go). Colors, type and spacing are measured (tokens.go). Pages and files to write come out
// (write.go); it writes nothing, and reads nothing but what its source gives it.
package adopt

import (
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Page is a page that was taken apart.
type Page struct {
	Name        string // of the page that is to be
	File        string // that it was read from
	Title       string
	Description string
	Language    string
	Bands       []*Band
	Left        []Left // what is not taken

	laid   *sweep.Prepared
	result *layout.Result // at Width
	site   string         // name of the site that the page gives
}

// Width is the screen width at which a page is read, CSS px.
const Width = 1280

// Band is a strip of a page: what becomes a block.
type Band struct {
	Name     string
	Landmark string // header, main or footer
	Section  string // of the library; "" when none was found
	Exact    bool   // the section made it: nothing was guessed
	Tone     string
	Lane     string
	Options  []site.Entry
	Content  *site.Value // a map, in the order of the section's fields
	Without  []string
	Meant    []string // lists that say what the section's samples say, since both are the band's
	Holds    []Held
	Style    *site.Value // of single parts, of a band that is taken as it is; nil for none
	Share    float64     // of what it says that the section shows, 0 to 1
	Near     []Near      // the next best sections
	Lost     []string
	Where    layout.Rect // on the page, CSS px, at Width

	from     *Page // whose links it has, of a band on every page
	elements []*css.Element
	read     *reading
	guess    map[string]float64 // how much speaks for each kind
	ids      []string           // of all elements in it
}

// Held is a slot of a band with the blocks that stand in it.
type Held struct {
	Slot  string
	Bands []*Band
}

// Near is a section that a band could be made of as well.
type Near struct {
	Section string
	Share   float64
}

// Left is something of a page that is not taken, and how often.
type Left struct {
	What  string
	Count int
}

// leave notes something that is not taken.
func (p *Page) leave(format string, args ...any) {
	what := fmt.Sprintf(format, args...)
	if i := slices.IndexFunc(p.Left, func(l Left) bool { return l.What == what }); i >= 0 {
		p.Left[i].Count++
		return
	}
	p.Left = append(p.Left, Left{What: what, Count: 1})
}

// Every lists the bands of a page and all that they hold.
func (p *Page) Every() []*Band {
	var out []*Band
	var add func(list []*Band)
	add = func(list []*Band) {
		for _, b := range list {
			out = append(out, b)
			for _, h := range b.Holds {
				add(h.Bands)
			}
		}
	}
	add(p.Bands)
	return out
}

// nameOf makes the name of a page of the name of its file: index.html is home, or what its folder is called.
func nameOf(file string) string {
	file = strings.ReplaceAll(file, "\\", "/")
	parts := strings.Split(strings.Trim(file, "/"), "/")
	name := parts[len(parts)-1]
	if i := strings.LastIndexByte(name, '.'); i > 0 {
		name = name[:i]
	}
	switch strings.ToLower(name) {
	case "index", "default", "home":
		if len(parts) < 2 {
			return "home"
		}
		name = parts[len(parts)-2]
	}
	return validName(name, "page")
}

// validName makes a name that pages and blocks can have.
func validName(s, otherwise string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(s) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	name := strings.Trim(b.String(), "-")
	if len(name) > 40 {
		name = strings.TrimRight(name[:40], "-")
	}
	if name != "" && (name[0] < 'a' || name[0] > 'z') {
		name = otherwise + "-" + name
	}
	if !site.ValidName(name) {
		return otherwise
	}
	return name
}

// Taking is a set of pages that were taken apart together: they share navigation, footer and files.
type Taking struct {
	Pages   []*Page
	Media   *Media
	Name    string  // of the site, as the pages give it; "" when they do not
	Top     []*Band // that every page begins with
	Bottom  []*Band
	Address string              // of the site, https://host, as the pages give it; "" when they do not
	Own     []*Own              // sections that were made of bands which no section of the library shows
	Skips   map[string][]string // names of those that a page does not have, by page

	files fs.FS
}

// Own is a section that was made of a band.
type Own struct {
	Name  string // KIND/NAME
	Files library.Kept
	Told  []string
}

// Media are the files that pages bring into the site, by their names below media/.
type Media struct {
	Files map[string][]byte
	named map[string]string // by path in the source
	stock fs.FS
	own   fs.FS             // the site's folder; nil for a new one
	icons map[string]string // names of shipped icons by their shapes; nil until one is looked for
}
