package adopt

import (
	"cmp"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Wanted is what is to be taken.
type Wanted struct {
	Folder fs.FS    // nothing outside of it is read
	Files  []string // HTML files in it
	To     string   // name of the page, when one file is taken; "" for that of the file
	Own    fs.FS    // the site's folder, nil for a new site
}

// Take reads pages and finds a section for each of their bands. The error tells which file cannot be read, and why.
func Take(env *project.Project, w Wanted) (*Taking, error) {
	t := &Taking{Media: NewMedia(env.Stock, w.Own), Skips: map[string][]string{}, files: w.Folder}
	names, taken := map[string]string{}, map[string]bool{}
	under := commonDir(w.Files)
	for _, file := range w.Files {
		name := nameOf(strings.TrimPrefix(file, under))
		if w.To != "" && len(w.Files) == 1 {
			name = w.To
		}
		for i := 2; taken[name]; i++ {
			name = fmt.Sprintf("%s-%d", nameOf(strings.TrimPrefix(file, under)), i)
		}
		names[file], taken[name] = name, true
	}
	var readers []*namer
	for _, file := range w.Files {
		laid, err := sweep.FromFolder(w.Folder, file, env.Stock)
		if err != nil {
			return nil, err
		}
		p := &Page{Name: names[file], File: file, laid: laid}
		p.result = laid.Engine().Layout(Width)
		p.meta()
		n := &namer{
			files: w.Folder,
			dir:   path.Dir(file),
			pages: names,
			media: t.Media,
			page:  p,
			hosts: hosts(laid.Doc),
		}
		p.cut(env, n)
		if t.Address == "" {
			t.Address = addressOf(laid.Doc)
		}
		t.Pages, readers = append(t.Pages, p), append(readers, n)
	}
	if !slices.ContainsFunc(t.Pages, func(p *Page) bool { return len(p.Bands) > 0 }) {
		return nil, fmt.Errorf("%s: %w", w.Files[0], ErrNothing)
	}
	for i, p := range t.Pages {
		if err := t.makeOwn(env, p, readers[i]); err != nil {
			return nil, err
		}
	}
	t.Name = t.siteName()
	t.name()
	t.share()
	for _, p := range t.Pages {
		p.Title = strings.TrimSpace(p.Title)
		if t.Name != "" {
			for _, mark := range []string{" · ", " | ", " - ", " – ", " — ", ": "} {
				if s := strings.TrimSuffix(p.Title, mark+t.Name); s != "" {
					p.Title = s
				}
				if s := strings.TrimPrefix(p.Title, t.Name+mark); s != "" {
					p.Title = s
				}
			}
		}
	}
	t.links()
	return t, nil
}

// commonDir gives the folder that all files lie in, with a slash at its end; "" for that of the source itself.
func commonDir(files []string) string {
	dir := path.Dir(files[0])
	for _, f := range files {
		for dir != "." && !strings.HasPrefix(f, dir+"/") {
			dir = path.Dir(dir)
		}
	}
	if dir == "." {
		return ""
	}
	return dir + "/"
}

// makeOwn makes sections of the bands of a page that no section of the library shows enough of.
func (t *Taking) makeOwn(env *project.Project, p *Page, n *namer) error {
	for _, b := range p.Bands {
		if b.Exact || b.Share >= LeastShare {
			continue
		}
		own, err := p.makeOwn(env, n, b, t.ownName(env, b.kind(), p.Name+"-"+b.Name))
		if err != nil {
			return err
		}
		t.Own = append(t.Own, own)
	}
	return nil
}

// kind names what most speaks for a band to be.
func (b *Band) kind() string {
	best, most := "features", .3
	switch b.Landmark {
	case "header":
		return "nav"
	case "footer":
		return "footer"
	}
	for _, kind := range slices.Sorted(maps.Keys(b.guess)) {
		if b.guess[kind] > most && !apart[kind] && allowed(kind, b.Landmark) {
			best, most = kind, b.guess[kind]
		}
	}
	return best
}

// ownName gives a section a name that no other has.
func (t *Taking) ownName(env *project.Project, kind, name string) string {
	for i := 1; ; i++ {
		try := kind + "/" + name
		if i > 1 {
			try = fmt.Sprintf("%s-%d", try, i)
		}
		if !env.Library.Has(try) && !slices.ContainsFunc(t.Own, func(o *Own) bool { return o.Name == try }) {
			return try
		}
	}
}

// Snippet makes a section of the site's own of a piece of HTML: all that the file shows.
func Snippet(env *project.Project, w Wanted, name string) (*Taking, error) {
	t := &Taking{Media: NewMedia(env.Stock, w.Own), Skips: map[string][]string{}, files: w.Folder}
	file := w.Files[0]
	laid, err := sweep.FromFolder(w.Folder, file, env.Stock)
	if err != nil {
		return nil, err
	}
	p := &Page{Name: nameOf(file), File: file, laid: laid}
	p.result = laid.Engine().Layout(Width)
	p.meta()
	n := &namer{files: w.Folder, dir: path.Dir(file), pages: map[string]string{}, media: t.Media, page: p}
	r := newReader(p.result, n)
	var all []*css.Element
	for _, e := range laid.Doc.Body.Kids() {
		if !unseen[e.Tag] {
			all = append(all, e)
		}
	}
	b := &Band{elements: all, Landmark: "main", read: r.read(all)}
	for _, e := range all {
		b.Where = union(b.Where, r.at(e))
	}
	if len(b.read.pieces) == 0 {
		return nil, fmt.Errorf("%s: %w", file, ErrNothing)
	}
	_, b.Name, _ = strings.Cut(name, "/")
	own, err := p.makeOwn(env, n, b, name)
	if err != nil {
		return nil, err
	}
	p.Bands = []*Band{b}
	t.Pages, t.Own = []*Page{p}, []*Own{own}
	return t, nil
}

// ErrNothing tells that a file shows nothing of which a section or a block could be made.
var ErrNothing = errors.New("it shows nothing that could become a section or a block")

// share finds the bands that pages have in common above and below: they stand on every page.
func (t *Taking) share() {
	for _, landmark := range []string{"header", "footer"} {
		var all []*Band
		for _, p := range t.Pages {
			for _, b := range p.Bands {
				if b.Landmark != landmark || slices.ContainsFunc(all, func(x *Band) bool { return alike(x, b) }) {
					continue
				}
				if on := t.having(b); len(t.Pages) == 1 || on*2 > len(t.Pages) || on > 2 {
					all = append(all, b)
				}
			}
		}
		for _, p := range t.Pages {
			for _, x := range all {
				at := slices.IndexFunc(p.Bands, func(b *Band) bool { return alike(x, b) })
				if at < 0 {
					t.Skips[p.Name] = append(t.Skips[p.Name], x.Name)
					continue
				}
				if p.Bands[at] == x {
					x.from = p
				}
				p.Bands = slices.Delete(p.Bands, at, at+1)
			}
		}
		if landmark == "header" {
			t.Top = all
		} else {
			t.Bottom = all
		}
	}
}

// having counts the pages that have a band like another.
func (t *Taking) having(b *Band) int {
	n := 0
	for _, p := range t.Pages {
		if slices.ContainsFunc(p.Bands, func(x *Band) bool { return alike(x, b) }) {
			n++
		}
	}
	return n
}

// alike reports two bands of one section that say the same, but for which of their links leads to this page.
func alike(a, b *Band) bool {
	if a.Landmark != b.Landmark || a.Section != b.Section || a.Tone != b.Tone {
		return false
	}
	return plainOf(a.Content) == plainOf(b.Content)
}

// plainOf writes what a value says without where its links lead.
func plainOf(v *site.Value) string {
	if v == nil {
		return ""
	}
	var b strings.Builder
	b.WriteString(v.Text)
	for _, i := range v.Items {
		b.WriteString("\n" + plainOf(i))
	}
	for _, e := range v.Entries {
		if e.Key != "to" {
			b.WriteString("\n" + e.Key + " " + plainOf(e.Value))
		}
	}
	return b.String()
}

// cut finds the bands of a page.
func (p *Page) cut(env *project.Project, n *namer) {
	markup.Each(p.laid.Doc.Body.Raw, func(x *html.Node) {
		if x.Data == "div" && markup.HasClass(x, "page-block") {
			if b := built(env, n, p, x); b != nil {
				p.Bands = append(p.Bands, b)
			}
		}
	})
	if len(p.Bands) > 0 {
		return
	}
	p.foreign(env, n)
}

// foreign cuts a page that others made.
func (p *Page) foreign(env *project.Project, n *namer) {
	list := p.strips()
	r := newReader(p.result, n)
	facts := search.Known(env.Stock)
	for _, s := range list {
		b := &Band{elements: s.elements, Landmark: s.landmark, read: r.read(s.elements)}
		for _, e := range s.elements {
			b.Where = union(b.Where, r.at(e))
		}
		if len(b.read.pieces) > 0 {
			p.Bands = append(p.Bands, b)
		}
	}
	p.landmarks()
	first := true
	for _, b := range p.Bands {
		at := placeOf{}
		if b.Landmark == "main" {
			at.first, first = first, false
		}
		b.guess = kindsOf(b, at)
		list := choose(env, facts, n.media, b, b.guess)
		if len(list) > 0 {
			b.settle(list)
		}
		b.called()
		b.Tone = r.tone(b)
	}
	p.around()
}

// around gives ids that stand in no band to the band that begins there or is next: those of boxes around several bands,
// and of marks between them. What comes before the first band leads to the page.
func (p *Page) around() {
	begins, inside := map[*html.Node]*Band{}, map[string]bool{}
	for _, b := range p.Bands {
		begins[b.elements[0].Raw] = b
		for _, id := range b.ids {
			inside[id] = true
		}
	}
	var waiting []string
	first := true
	markup.Each(p.laid.Doc.Body.Raw, func(x *html.Node) {
		for _, id := range idsOf(x) {
			if !inside[id] {
				waiting = append(waiting, id)
			}
		}
		if b := begins[x]; b != nil {
			if !first {
				b.ids = append(b.ids, waiting...)
			}
			waiting, first = nil, false
		}
	})
	if n := len(p.Bands); n > 0 {
		p.Bands[n-1].ids = append(p.Bands[n-1].ids, waiting...)
	}
}

// idsOf lists what links can call an element.
func idsOf(x *html.Node) []string {
	var out []string
	if id := markup.Value(x, "id"); id != "" {
		out = append(out, id)
	}
	if name := markup.Value(x, "name"); x.Data == "a" && name != "" {
		out = append(out, name)
	}
	return out
}

// landmarks says of bands that do not say it themselves whether they begin or end the page.
func (p *Page) landmarks() {
	for i, b := range p.Bands {
		if b.Landmark == "header" || b.Landmark == "footer" {
			continue
		}
		b.Landmark = "main"
		links, total, heads, copyright := 0, 0, 0, false
		every := b.read.every()
		for j, x := range every {
			switch x.sort {
			case link, button:
				links++
			case heading, words:
				total += letters(x.plain)
				home := j+1 < len(every) && every[j+1].sort == link && every[j+1].value.Get("to").Str() == "home"
				if x.sort == heading && x.level == 1 && x.size > 24 && !home {
					heads++
				}
				copyright = copyright || strings.Contains(x.plain, "©") ||
					strings.Contains(strings.ToLower(x.plain), "copyright")
			}
		}
		switch {
		case i < 2 && links > 2 && total < 120 && heads == 0 && b.Where.Y < 250*64:
			b.Landmark = "header"
		case i == 0 && wordedLike(b, "header", "masthead", "navbar", "topbar", "nav", "top") && links > 1 &&
			heads == 0 && total < 160:
			b.Landmark = "header"
		case i == len(p.Bands)-1 && i > 0 && (copyright || links > 3 && total < 400 || wordedLike(b, "footer", "foot",
			"bottom", "colophon") ||
			len(b.read.pieces) < 3 && total < 200 && hasHeadings(b.read) == 0 && !b.read.quoted()):
			b.Landmark = "footer"
		}
	}
}

// wordedLike reports a band whose id or class is one of some words.
func wordedLike(b *Band, list ...string) bool {
	for _, e := range b.elements {
		if slices.Contains(list, strings.ToLower(e.ID)) || slices.ContainsFunc(e.Classes, func(c string) bool {
			return slices.Contains(list, strings.ToLower(c))
		}) {
			return true
		}
	}
	return false
}

func hasHeadings(rd *reading) int {
	n := 0
	for _, p := range rd.every() {
		if p.sort == heading {
			n++
		}
	}
	return n
}

// calledApart are kinds whose bands are called otherwise, since menu and heading mean something else on a page.
var calledApart = map[string]string{"menu": "prices", "heading": "about", "articles": "texts"}

// frames are ids that say nothing of what is in a box.
var frames = []string{"main", "content", "wrapper", "wrap", "page", "container", "section", "header", "footer", "body",
	"inner", "outer", "root", "app", "left", "right", "middle"}

// called names a band: by its id, or by its kind. Ids in it lead to it.
func (b *Band) called() {
	kind, _, _ := strings.Cut(b.Section, "/")
	b.Name = cmp.Or(calledApart[kind], library.BlockName(kind))
	for _, e := range b.elements {
		markup.Each(e.Raw, func(x *html.Node) {
			b.ids = append(b.ids, idsOf(x)...)
		})
	}
	if id := b.elements[0].ID; site.ValidName(id) && b.Landmark == "main" && !slices.Contains(frames, id) {
		b.Name = id
	}
}

// NewSite writes the site's file for a new site of these pages.
func (t *Taking) NewSite(name string) (string, error) {
	if t.Name != "" {
		name = t.Name
	}
	language := "en"
	for _, p := range t.Pages {
		if p.Language != "" {
			language = p.Language
			break
		}
	}
	out, err := site.EditSource(site.FileName, "",
		site.Edit{Op: site.Set, Path: site.Keys("name"), Value: site.NewText(name)},
		site.Edit{Op: site.Set, Path: site.Keys("language"), Value: site.NewText(language)})
	if err != nil || t.Address == "" {
		return out, err
	}
	return site.EditSource(site.FileName, out,
		site.Edit{Op: site.Set, Path: site.Keys("address"), Value: site.NewText(t.Address)})
}

// Names lists the files that come along.
func (m *Media) Names() []string { return slices.Sorted(maps.Keys(m.Files)) }
