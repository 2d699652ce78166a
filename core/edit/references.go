package edit

import (
	"regexp"
	"strings"

	"ziegel/core/project"
	"ziegel/core/site"
)

// reference is a text in the site's files that names a block.
type reference struct {
	file string
	path site.Path
	old  *site.Value
	text string
	key  bool // the name is a key, not a value
}

var markdownLink = regexp.MustCompile(`\]\([^)\s]+\)`)

// retargeted gives a text whose links lead elsewhere: it is the target of one itself, under the key to, or has links
// of inline Markdown in it.
func retargeted(text, key string, to func(string) (string, bool)) (string, bool) {
	if key == "to" {
		return to(text)
	}
	changed := false
	out := markdownLink.ReplaceAllStringFunc(text, func(m string) string {
		now, ok := to(m[2 : len(m)-1])
		changed = changed || ok
		return "](" + now + ")"
	})
	return out, changed
}

// references finds links, wishes, overrides and leave-outs that name a block of a page.
func references(e *project.Project, page *site.Page, b *site.Block, name string) []reference {
	var out []reference
	every := b.EveryPage != ""
	scan := func(f *site.File, on *site.Page) {
		here := every || on == page
		to := func(to string) (string, bool) {
			if to == "#"+b.Name && here {
				return "#" + name, true
			}
			p, found := strings.CutSuffix(to, "#"+b.Name)
			if !found {
				p, found = strings.CutSuffix(to, "/"+b.Name)
			}
			if !found || p != page.Name && (!every || !e.Site.HasPage(p)) {
				return to, false
			}
			return to[:len(p)+1] + name, true
		}
		eachText(f.Root, nil, "", func(v *site.Value, at site.Path, key string) {
			said, part := v.Text, ""
			if key == "at" && (at[0].Key == "accept" || at[0].Key == "tune") { // of a finding: home/plans.card
				key = "to"
				if i := strings.IndexByte(said, '.'); i >= 0 {
					said, part = said[:i], said[i:]
				}
			}
			text, linked := retargeted(said, key, to)
			switch {
			case linked:
				out = append(out, reference{f.Path, at, v, text + part, false})
			case key == "block" && v.Text == b.Name && len(at) == 3 && at[0].Key == "brief" && on != nil && here,
				len(at) == 2 && at[0].Key == "leave-out" && v.Text == b.Name && every:
				out = append(out, reference{f.Path, at, v, name, false})
			}
		})
		if over := f.Root.Get("override"); over.Get(b.Name) != nil && every && on != nil {
			out = append(out, reference{f.Path, site.Keys("override", b.Name), over.Get(b.Name), name, true})
		}
	}
	scan(e.Site.File, nil)
	for _, p := range e.Site.Mentioning(b.Name) {
		scan(p.File, p)
	}
	return out
}

// eachText calls do with every text in a value, its way and the nearest key above it.
func eachText(v *site.Value, at site.Path, key string, do func(v *site.Value, at site.Path, key string)) {
	switch v.Kind {
	case site.Text:
		do(v, at, key)
	case site.List:
		for i, it := range v.Items {
			eachText(it, site.Keys(at, i), key, do)
		}
	case site.Map:
		for _, en := range v.Entries {
			eachText(en.Value, site.Keys(at, en.Key), en.Key, do)
		}
	}
}

// pageReferences finds links, in fields and in text, and accepted and tuned findings that name a page.
func pageReferences(e *project.Project, name, now string) []reference {
	var out []reference
	to := func(to string) (string, bool) {
		rest, ok := strings.CutPrefix(to, name)
		longerName := !ok || rest != "" && rest[0] != '#' && rest[0] != '/' && rest[0] != '.'
		if longerName {
			return to, false
		}
		return now + rest, true
	}
	scan := func(f *site.File) {
		eachText(f.Root, nil, "", func(v *site.Value, at site.Path, key string) {
			if key == "at" && (at[0].Key == "accept" || at[0].Key == "tune") {
				key = "to"
			}
			if text, ok := retargeted(v.Text, key, to); ok {
				out = append(out, reference{f.Path, at, v, text, false})
			}
		})
	}
	scan(e.Site.File)
	for _, p := range e.Site.Mentioning(name) {
		scan(p.File)
	}
	return out
}
