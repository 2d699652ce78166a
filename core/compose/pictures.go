package compose

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// PictureKeys are what a picture says. Its file and its focus may differ by range: "file at phone".
var PictureKeys = []string{"file", "alt", "focus"}

// PictureDiffers reports what a picture may say anew for a range.
func PictureDiffers(key string) bool { return key == "file" || key == "focus" }

func (f *filler) picture(n *html.Node, v *site.Value) bool {
	file, alt := v, (*site.Value)(nil)
	if v.Kind == site.Map {
		file, alt = v.Get("file"), v.Get("alt")
	}
	if file.Empty() {
		return false
	}
	p := shown{img: n, name: pictureName(file)}
	markup.Take(n, "style") // the focus of the sample
	p.w, p.h = f.size(file, p.name)
	markup.Set(n, "src", f.c.depth+"media/"+project.URLPath(p.name))
	markup.Set(n, "width", strconv.Itoa(int(p.w+.5)))
	markup.Set(n, "height", strconv.Itoa(int(p.h+.5)))
	usual, said := markup.Attr(n, "alt")
	markup.Set(n, "alt", alt.Str())
	if alt == nil && (!said || usual != "") { // one that only adorns in the section adorns here, too
		f.c.out.NoAlt = append(f.c.out.NoAlt, Bare{f.b.Name, "media", p.name, file.Pos})
	}
	for _, e := range v.Entries {
		f.pictureAt(&p, e)
	}
	sort.SliceStable(p.variants,
		func(i, j int) bool { return widthOrder(p.variants[i].to) > widthOrder(p.variants[j].to) })
	f.pictures = append(f.pictures, p)
	return true
}

// widthOrder puts ranges without an end first.
func widthOrder(to int) int {
	if to == 0 {
		return 1 << 30
	}
	return to
}

func pictureName(v *site.Value) string {
	return strings.TrimPrefix(strings.TrimPrefix(v.Str(), "./"), "media/")
}

// size gives the natural size of a picture; one that is missing is told, and takes the room of a usual one.
func (f *filler) size(v *site.Value, name string) (w, h float64) {
	w, h, err := f.c.Env.PictureSize(name)
	if err != nil {
		f.c.AddOnce(f.c.MissingPicture(f.file(v), v, name, err))
		return 4, 3
	}
	f.c.TellMore(f.file(v), v, name)
	f.c.out.Media = styles.AppendOnce(f.c.out.Media, name)
	return w, h
}

// pictureAt reads what an entry of a picture says of its focus, or of a range.
func (f *filler) pictureAt(p *shown, e site.Entry) {
	key, at := styles.OptionName(e.Key)
	if key == "focus" && e.Value.Str() != "" && !styles.FocusForm.MatchString(e.Value.Str()) {
		f.c.AddOnce(f.file(e.Value).Problem(e.Value, "bad-value",
			fmt.Sprintf("%q is no point of a picture", e.Value.Str()),
			"two percentages, from the left and from the top", "50% 30%"))
		return
	}
	if at == "" {
		if key == "focus" {
			p.focus = strings.TrimSpace(e.Value.Str())
		}
		return
	}
	from, to, ok := f.c.Env.Span(at)
	if !ok {
		names := f.c.Env.RangeNames()
		f.c.AddOnce(f.file(e.Value).KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", at),
			"one of "+strings.Join(names, ", ")+", or widths such as ..479", diag.Nearest(at, names)))
		return
	}
	i := slices.IndexFunc(p.variants, func(v variant) bool { return v.from == from && v.to == to })
	if i < 0 {
		i, p.variants = len(p.variants), append(p.variants, variant{from: from, to: to})
	}
	v := &p.variants[i]
	switch key {
	case "file":
		v.file = pictureName(e.Value)
		v.w, v.h = f.size(e.Value, v.file)
	case "focus":
		v.focus = strings.TrimSpace(e.Value.Str())
	}
}

// fitPictures gives the pictures of the filled section what depends on the layout and on the screen: smaller
// copies, other files, other focus points, and when they are loaded. It stands after all that looks for parts, since
// it wraps elements.
func (f *filler) fitPictures(n *html.Node) {
	index := -1
	markup.Each(n, func(x *html.Node) {
		if x.Data != "img" {
			return
		}
		index++
		var fit styles.PictureFit
		if m := f.c.Measured; m != nil {
			fit = m.Pictures[styles.PictureKey{Block: f.b.Name, Index: index}]
		}
		if i := slices.IndexFunc(f.pictures, func(p shown) bool { return p.img == x }); i >= 0 {
			f.pictures[i].show(f, fit, index)
		}
		switch {
		case fit.Later:
			markup.Set(x, "loading", "lazy")
			markup.Set(x, "decoding", "async")
		case fit.First:
			markup.Set(x, "fetchpriority", "high")
		}
	})
}

func (p *shown) show(f *filler, fit styles.PictureFit, index int) {
	if p.focus != "" {
		markup.Set(p.img, "style", "object-position: "+p.focus)
	}
	f.offer(p.img, p.name, p.w, p.h, fit)
	for _, v := range p.variants {
		f.focusAt(p, v, index)
	}
	var frame *html.Node
	for i := len(p.variants) - 1; i >= 0; i-- { // the first source that fits is taken: narrow ones first
		v := p.variants[i]
		if v.file == "" {
			continue
		}
		if frame == nil {
			frame = markup.Element("picture")
		}
		s := markup.Element("source", "media", styles.WidthQuery(v.from, v.to), "srcset",
			f.c.depth+"media/"+project.URLPath(v.file), "width", strconv.Itoa(int(v.w+.5)), "height",
			strconv.Itoa(int(v.h+.5)))
		f.offer(s, v.file, v.w, v.h, fit)
		frame.AppendChild(s)
	}
	if frame != nil && p.img.Parent != nil {
		p.img.Parent.InsertBefore(frame, p.img)
		p.img.Parent.RemoveChild(p.img)
		frame.AppendChild(p.img)
	}
}

// offer lists a picture and its smaller copies in an img or source. What is only measured has none: boxes are the
// same.
func (f *filler) offer(n *html.Node, name string, w, h float64, fit styles.PictureFit) {
	copies := media.Copies(name, w, h)
	if f.c.opts.Marks || len(copies) == 0 || fit.Sizes[name] == "" {
		return
	}
	var list []string
	for _, c := range copies {
		f.c.out.Copies = append(f.c.out.Copies, c)
		list = append(list, fmt.Sprintf("%smedia/%s %dw", f.c.depth, project.URLPath(c.Name), c.Width))
	}
	if last := copies[len(copies)-1]; last.Instead {
		markup.Set(n, "width", strconv.Itoa(last.Width))
		markup.Set(n, "height", strconv.Itoa(last.Height))
		if n.Data == "img" {
			markup.Set(n, "src", f.c.depth+"media/"+project.URLPath(last.Name))
		}
	} else {
		list = append(list, fmt.Sprintf("%smedia/%s %dw", f.c.depth, project.URLPath(name), int(w+.5)))
	}
	markup.Set(n, "srcset", strings.Join(list, ", "))
	markup.Set(n, "sizes", fit.Sizes[name])
}

// focusAt keeps the focus of a picture in a range for the page's stylesheet. The focus of another file says nothing
// of this one.
func (f *filler) focusAt(p *shown, v variant, index int) {
	focus := v.focus
	if focus == "" {
		focus = "50% 50%"
	}
	if focus == p.focus || p.focus == "" && v.focus == "" {
		return
	}
	class := f.c.ClassName(f.b, fmt.Sprintf("picture-%d", index+1))
	markup.AddClass(p.img, class)
	markup.Take(p.img, "style")
	f.c.Focuses = append(f.c.Focuses, styles.FocusRule{Class: class, Focus: p.focus},
		styles.FocusRule{Class: class, Cond: "@media " + styles.WidthQuery(v.from, v.to), Focus: focus})
}

// samplePicture makes a section's sample picture travel with the built page.
func (f *filler) samplePicture(n *html.Node) {
	src, _ := markup.Attr(n, "src")
	_, name, ok := strings.Cut(src, "../"+project.SamplePictures+"/")
	if !ok {
		return
	}
	f.c.out.Media = styles.AppendOnce(f.c.out.Media, name)
	markup.Set(n, "src", f.c.depth+"media/"+name)
	if w, h, err := f.c.Env.PictureSize(name); err == nil {
		markup.Set(n, "width", strconv.Itoa(int(w+.5)))
		markup.Set(n, "height", strconv.Itoa(int(h+.5)))
	}
}

func (f *filler) icon(n *html.Node, v *site.Value) bool {
	if v.Kind != site.Text {
		return false
	}
	icon, err := media.ReadIcon(f.c.Env.Stock, f.c.Env.Dir, v.Text)
	if err != nil {
		names := media.Icons(f.c.Env.Stock, f.c.Env.Dir)
		f.c.AddOnce(f.file(v).Problem(v, "unknown-icon", err.Error(),
			"the name of an icon; `ziegel icons` finds one, own ones are files in media/icons",
			diag.Nearest(v.Text, names)))
		return false
	}
	frag, err := html.ParseFragment(strings.NewReader("<svg>"+icon.Body+"</svg>"), markup.Element("div"))
	if err != nil || len(frag) == 0 {
		return false
	}
	markup.Empty(n)
	for frag[0].FirstChild != nil {
		k := frag[0].FirstChild
		frag[0].RemoveChild(k)
		n.AppendChild(k)
	}
	if icon.ViewBox != "" {
		markup.Set(n, "viewBox", icon.ViewBox)
	}
	if len(icon.Dropped) > 0 {
		p := f.file(v).Problem(v, "icon-simplified",
			fmt.Sprintf("the icon %s loses %s: pages take its shapes and their colors",
				v.Text, diag.And(icon.Dropped)), "an icon of shapes alone, or a picture: media takes any SVG", "")
		p.Severity = diag.Warning
		f.c.AddOnce(p)
	}
	f.c.icons[inside(n)] = v.Text
	return true
}
