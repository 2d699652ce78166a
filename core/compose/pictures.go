package compose

import (
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
)

func (f *filler) picture(n *html.Node, v *site.Value) bool {
	file, alt, focus := v, (*site.Value)(nil), ""
	if v.Kind == site.Map {
		file, alt, focus = v.Get("file"), v.Get("alt"), v.Get("focus").Str()
	}
	if file.Empty() {
		return false
	}
	name := strings.TrimPrefix(strings.TrimPrefix(file.Str(), "./"), "media/")
	w, h, err := f.c.env.pictureSize(name)
	if err != nil {
		f.missingPicture(file, name, err)
		w, h = 4, 3
	} else {
		f.c.out.Media = appendOnce(f.c.out.Media, name)
	}
	set(n, "src", f.c.depth+"media/"+urlPath(name))
	set(n, "width", strconv.Itoa(int(w+.5)))
	set(n, "height", strconv.Itoa(int(h+.5)))
	set(n, "alt", alt.Str())
	if alt == nil {
		f.c.out.NoAlt = append(f.c.out.NoAlt, Bare{f.b.Name, "media", name, file.Pos})
	}
	f.loading(n)
	if focus != "" {
		x, y, ok := strings.Cut(strings.TrimSpace(focus), " ")
		if !ok || !strings.HasSuffix(x, "%") || !strings.HasSuffix(strings.TrimSpace(y), "%") || strings.ContainsAny(focus, ";{}()\"'") {
			fv := v.Get("focus")
			f.c.addOnce(f.file(v).Problem(fv, "bad-value", fmt.Sprintf("%q is no point of a picture", focus), "two percentages, from the left and from the top", "50% 30%"))
		} else {
			set(n, "style", "object-position: "+focus)
		}
	}
	return true
}

func (f *filler) missingPicture(v *site.Value, name string, err error) {
	have := media.List(f.c.env.Dir, "media")
	expected, try := "a file below media/", diag.Nearest(name, have)
	what := fmt.Sprintf("there is no file media/%s", name)
	for _, h := range have {
		if strings.EqualFold(h, name) && h != name {
			what, expected = fmt.Sprintf("there is no file media/%s; letter case counts", name), "the name as the file has it"
			try = h
		}
	}
	if !errors.Is(err, fs.ErrNotExist) && !errors.Is(err, fs.ErrInvalid) {
		what, try = fmt.Sprintf("media/%s cannot be shown: %v", name, err), ""
	}
	f.c.addOnce(f.file(v).Problem(v, "missing-file", what, expected, try))
}

func appendOnce(list []string, s string) []string {
	if contains(list, s) {
		return list
	}
	return append(list, s)
}

// loading lets pictures after the first wait until they come near.
func (f *filler) loading(n *html.Node) {
	f.c.loaded++
	if f.c.loaded > 2 {
		set(n, "loading", "lazy")
		set(n, "decoding", "async")
	}
}

func urlPath(name string) string {
	var b strings.Builder
	for i := 0; i < len(name); i++ {
		c := name[i]
		if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || strings.IndexByte("-_.~/", c) >= 0 {
			b.WriteByte(c)
			continue
		}
		fmt.Fprintf(&b, "%%%02X", c)
	}
	return b.String()
}

// samplePicture makes a section's sample picture travel with the built page.
func (f *filler) samplePicture(n *html.Node) {
	src, _ := library.Attr(n, "src")
	if i := strings.Index(src, "demo/media/"); i >= 0 {
		name := src[i+len("demo/media/"):]
		f.c.out.Media = appendOnce(f.c.out.Media, name)
		set(n, "src", f.c.depth+"media/"+name)
	}
	f.loading(n)
}

func (f *filler) icon(n *html.Node, v *site.Value) bool {
	if v.Kind != site.Text {
		return false
	}
	body, err := media.IconBody(f.c.env.Stock, f.c.env.Dir, v.Text)
	if err != nil {
		names := media.Icons(f.c.env.Stock, f.c.env.Dir)
		f.c.addOnce(f.file(v).Problem(v, "unknown-icon", err.Error(), "the name of an icon; `ziegel icons` finds one, own ones are files in media/icons", diag.Nearest(v.Text, names)))
		return false
	}
	frag, err := html.ParseFragment(strings.NewReader("<svg>"+body+"</svg>"), element("div"))
	if err != nil || len(frag) == 0 {
		return false
	}
	clear(n)
	for frag[0].FirstChild != nil {
		k := frag[0].FirstChild
		frag[0].RemoveChild(k)
		n.AppendChild(k)
	}
	return true
}
