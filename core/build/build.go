// Package build turns composed pages into the files of a built site and writes them, leaving files that somebody has
// changed by hand alone. The same site gives the same bytes.
package build

import (
	"fmt"
	"path"
	"runtime"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/media"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/words"
)

// Build makes all files of a site, in all its languages. Pages that an earlier build has made, from what they are made
// from now, are not made again.
func Build(e *project.Project, opts Options) (Files, diag.Problems) {
	out, problems := inLanguage(e, opts)
	if problems.Err() != nil && !opts.Force {
		return out, problems
	}
	problems = append(problems, words.Mistakes(e)...)
	for _, tag := range words.Languages(e) {
		files, ps := inLanguage(words.In(e, tag), opts.in(tag))
		problems = append(problems, ps...)
		for name, f := range files {
			if _, there := out[name]; !there { // pictures and fonts are those of all
				out[name] = f
			}
		}
	}
	icons(e, out)
	hostFiles(e, out)
	return out, unique(problems)
}

// PageIn names a page in one of the languages of its site, for Known and Each: home@de.
func PageIn(page, tag string) string {
	if tag == "" {
		return page
	}
	return page + "@" + tag
}

// in gives the options for another language.
func (o Options) in(tag string) Options {
	if o.Known != nil {
		o.Known = knownIn{o.Known, tag}
	}
	if each := o.Each; each != nil {
		o.Each = func(page string, m Made) { each(PageIn(page, tag), m) }
	}
	return o
}

// knownIn is what earlier builds have made of a language.
type knownIn struct {
	Known
	tag string
}

func (k knownIn) Made(page string) (Made, bool) { return k.Known.Made(PageIn(page, k.tag)) }

func (k knownIn) Keep(page string, m Made) { k.Known.Keep(PageIn(page, k.tag), m) }

// inLanguage makes the pages of a site in one language, with all that they show.
func inLanguage(e *project.Project, opts Options) (Files, diag.Problems) {
	names := e.BuiltPages()
	list, files := make([]Made, len(names)), make([]Files, len(names))
	known := make([]bool, len(names))
	if opts.Known != nil {
		for i, n := range names {
			list[i], known[i] = opts.Known.Made(n)
		}
		parallel.Each(runtime.GOMAXPROCS(0), len(names), func(_, i int) bool {
			if known[i] {
				files[i], known[i] = list[i].files(opts.Last)
			}
			return true
		})
	}
	var todo []int
	for i := range names {
		if !known[i] {
			todo = append(todo, i)
		}
	}
	var problems diag.Problems
	var pages []*site.Page
	for _, i := range todo {
		pages = append(pages, e.BuiltPage(names[i]))
	}
	if problems = e.Mistakes(pages...); problems.Err() != nil && !opts.Force {
		return Files{}, unique(problems)
	}
	parallel.Each(runtime.GOMAXPROCS(0), len(todo), func(_, n int) bool {
		list[todo[n]], files[todo[n]] = MakePage(e, pages[n], opts)
		return true
	})
	if opts.Known != nil {
		for _, i := range todo {
			if list[i].Problems.Err() == nil {
				opts.Known.Keep(names[i], list[i])
			}
		}
	}
	out := Files{}
	shown, copies, fonts := map[string]bool{}, map[string]media.Copy{}, map[string]project.FontFile{}
	var uses []*styles.Usage
	for i, m := range list {
		if opts.Each != nil {
			opts.Each(names[i], m)
		}
		problems = append(problems, m.Problems...)
		uses = append(uses, m.Usage)
		for name, data := range files[i] {
			out[name] = data
		}
		for _, f := range m.Media {
			shown[f] = true
		}
		for _, c := range m.Copies {
			copies[c.Name] = c
		}
		for _, f := range m.Fonts {
			fonts[f.Name] = f
		}
	}
	sheet, ps := styles.SheetOf(e, uses)
	problems = append(problems, ps...)
	out[e.SheetName("site")] = File{Data: []byte(sheet.Text)}
	for name, file := range makeCopies(e, copies, opts) {
		out[path.Join("media", name)] = file
	}
	for m := range shown {
		name := path.Join("media", m)
		if _, taken := out[name]; taken {
			problems = append(problems, diag.Problem{Position: diag.Position{File: name}, Severity: diag.Error,
				Rule: "name-taken",
				Text: fmt.Sprintf("built/%s is a page already, and a file that a page names would take its place",
					name),
				Expected: "another name for the page, or for the file"})
			continue
		}
		from := e.MediaStamp(m)
		if opts.Last.Lies(name, from) {
			out[name] = File{From: from, Lies: true}
		} else if data, err := e.MediaFile(m); err == nil {
			out[name] = File{Data: data, From: from}
		}
	}
	for _, f := range fonts {
		if data, err := e.FontData(f); err == nil {
			out["fonts/"+f.Name] = File{Data: data}
		}
		if name, data, ok := e.FontLicense(f); ok {
			out["fonts/"+name] = File{Data: data}
		}
	}
	return out, unique(problems)
}

// icons adds the site's icon: as it is, and drawn for browsers and home screens that show no drawing.
func icons(e *project.Project, out Files) {
	name, data := "favicon.svg", Favicon(e)
	if e.Site.Favicon == "" {
		out[name] = File{Data: data}
	} else {
		name = e.Site.Favicon
		own, err := e.MediaFile(strings.TrimPrefix(name, "media/"))
		if err != nil {
			return
		}
		data = own
	}
	accent, _ := e.Theme.Token("color.plain.accent")
	for file, size := range map[string]int{compose.FaviconPNG: 48, compose.TouchIcon: 180} {
		ground := ""
		if file == compose.TouchIcon { // home screens cut the corners themselves
			ground = accent.Value
		}
		if png, err := draw.File(e.Stock, name, data, draw.Cover{W: size, H: size, Ground: ground}); err == nil {
			out[file] = File{Data: png}
		}
	}
}

// unique drops problems that several pages share.
func unique(list diag.Problems) diag.Problems {
	seen := map[string]bool{}
	var out diag.Problems
	for _, p := range list.Sorted() {
		if k := p.String(); !seen[k] {
			seen[k] = true
			out = append(out, p)
		}
	}
	return out
}

// Favicon draws the first letter of the site's name on its accent.
func Favicon(e *project.Project) []byte {
	letter := "·"
	for _, r := range e.Site.Name {
		letter = strings.ToUpper(string(r))
		break
	}
	ground, _ := e.Theme.Token("color.plain.accent")
	ink, _ := e.Theme.Token("color.plain.accent-ink")
	esc := strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;").Replace(letter)
	return []byte(fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="6" fill="%s"/><text x="16" y="23.5" font-family="sans-serif" font-size="21" font-weight="700" text-anchor="middle" fill="%s">%s</text></svg>
`, ground.Value, ink.Value, esc))
}
