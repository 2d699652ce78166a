package publish

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"maps"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"
)

// Hashed gives the files of a source with the first digits of their sum in their names (kite.1f0c22ab.svg), so that
// who has read one need never ask again, and pages and styles that name them so. What is asked for by name keeps it:
// pages, icons of the site, pictures for others, downloads. address is the site's, "" for none; hashable says of a file
// whether it may be called otherwise.
func Hashed(src Source, address string, hashable func(name string) bool) (Source, error) {
	names, data := map[string]string{}, map[string][]byte{}
	read := func(name string) ([]byte, error) {
		if d, ok := data[name]; ok {
			return d, nil
		}
		return src.Read(name)
	}
	give := func(name string, d []byte) {
		sum := sha256.Sum256(d)
		ext := path.Ext(name)
		names[name] = strings.TrimSuffix(name, ext) + "." + hex.EncodeToString(sum[:4]) + ext
	}
	root := ""
	if u, err := url.Parse(address); err == nil {
		root = strings.TrimSuffix(u.Path, "/")
	}
	whole := wholeAddresses(nil, "")
	order := func(want func(name string) bool, change bool) error {
		for _, name := range src.Names {
			if !want(name) {
				continue
			}
			d, err := src.Read(name)
			if err != nil {
				return err
			}
			if change {
				d = renamed(root, name, d, names, whole)
				data[name] = d
			}
			if path.Ext(name) != ".html" {
				give(name, d)
			}
		}
		return nil
	}
	for _, step := range []struct {
		want   func(string) bool
		change bool
	}{
		{func(name string) bool { return hashable(name) && path.Ext(name) != ".css" }, false},
		{func(name string) bool { return path.Ext(name) == ".css" }, true},
		{func(name string) bool { return path.Ext(name) == ".html" }, true},
	} {
		if err := order(step.want, step.change); err != nil {
			return Source{}, err
		}
		whole = wholeAddresses(names, address)
	}
	out := Source{}
	was := map[string]string{}
	for _, name := range src.Names {
		as := name
		if n, ok := names[name]; ok {
			as = n
		}
		was[as] = name
		out.Names = append(out.Names, as)
	}
	slices.Sort(out.Names)
	out.Read = func(name string) ([]byte, error) { return read(was[name]) }
	return out, nil
}

// renamed rewrites what a page or a style sheet names by their new names; whole rewrites whole addresses.
func renamed(root, file string, doc []byte, names map[string]string, whole *strings.Replacer) []byte {
	if path.Ext(file) == ".css" {
		return renamedStyles(root, file, doc, names)
	}
	doc = []byte(whole.Replace(string(doc)))
	var out bytes.Buffer
	z := html.NewTokenizer(bytes.NewReader(doc))
	styles := false
	for {
		kind := z.Next()
		raw := bytes.Clone(z.Raw())
		switch kind {
		case html.ErrorToken:
			out.Write(raw)
			return out.Bytes()
		case html.TextToken:
			if styles {
				raw = renamedStyles(root, file, raw, names)
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			t := z.Token()
			styles = t.Data == "style"
			changed := false
			for i, a := range t.Attr {
				was := a.Val
				switch a.Key {
				case "href", "src", "poster":
					t.Attr[i].Val = reference(root, file, a.Val, names)
				case "srcset", "imagesrcset":
					list := strings.Split(a.Val, ", ")
					for n, c := range list {
						at, rest, _ := strings.Cut(c, " ")
						list[n] = strings.TrimSpace(reference(root, file, at, names) + " " + rest)
					}
					t.Attr[i].Val = strings.Join(list, ", ")
				case "style":
					t.Attr[i].Val = string(renamedStyles(root, file, []byte(a.Val), names))
				}
				changed = changed || t.Attr[i].Val != was
			}
			if changed {
				raw = []byte(t.String())
			}
		default:
			styles = false
		}
		out.Write(raw)
	}
}

// wholeAddresses replaces addresses with a host, as they stand in data and in what others show.
func wholeAddresses(names map[string]string, address string) *strings.Replacer {
	var pairs []string
	if address != "" {
		for _, from := range slices.Sorted(maps.Keys(names)) {
			pairs = append(pairs, `"`+address+"/"+escaped(from)+`"`, `"`+address+"/"+escaped(names[from])+`"`)
		}
	}
	return strings.NewReplacer(pairs...)
}

var cssURL = regexp.MustCompile(`url\((["']?)([^"')]+)(["']?)\)`)

func renamedStyles(root, file string, css []byte, names map[string]string) []byte {
	return cssURL.ReplaceAllFunc(css, func(m []byte) []byte {
		p := cssURL.FindSubmatch(m)
		return []byte("url(" + string(p[1]) + reference(root, file, string(p[2]), names) + string(p[3]) + ")")
	})
}

// reference gives what names a file from another one, by its new name; root is the path of the site on its host.
func reference(root, from, to string, names map[string]string) string {
	u, err := url.Parse(to)
	if err != nil || u.Scheme != "" || u.Host != "" || u.Path == "" {
		return to
	}
	name, whole := strings.CutPrefix(u.Path, root+"/")
	if !whole {
		name = path.Join(path.Dir(from), u.Path)
	}
	new, ok := names[name]
	if !ok {
		return to
	}
	at := strings.LastIndexByte(u.EscapedPath(), '/') + 1
	out := u.EscapedPath()[:at] + url.PathEscape(path.Base(new))
	if u.RawQuery != "" {
		out += "?" + u.RawQuery
	}
	if u.Fragment != "" {
		out += "#" + u.EscapedFragment()
	}
	return out
}

func escaped(name string) string {
	parts := strings.Split(name, "/")
	for i, p := range parts {
		parts[i] = url.PathEscape(p)
	}
	return strings.Join(parts, "/")
}
