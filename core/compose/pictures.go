package compose

import (
	"errors"
	"fmt"
	"io/fs"
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
)

// PictureKey names an img of a block, counted from 0 in the order of the document; pictures of blocks that it holds
// are theirs.
type PictureKey struct {
	Block string
	Index int
}

// PictureFit says how a layout of the whole page shows a picture.
type PictureFit struct {
	// how wide each file that it may show is drawn at which screens, in the form of the sizes attribute
	Sizes map[string]string
	Later bool // it lies below the first screen everywhere, so that it may wait
	First bool // the largest one on the first screen
}

// shown is a picture that a page gave, with all that the markup does not say yet.
type shown struct {
	img      *html.Node
	name     string
	w, h     float64
	variants []variant // other files and focus points, for some ranges, widest first
	focus    string
}

// variant is what a picture is in some range.
type variant struct {
	from, to int
	file     string // "" for the same
	focus    string // "" for the same
	w, h     float64
}

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
	markup.Set(n, "alt", alt.Str())
	if alt == nil {
		f.c.out.NoAlt = append(f.c.out.NoAlt, Bare{f.b.Name, "media", p.name, file.Pos})
	}
	for _, e := range v.Entries {
		f.pictureAt(&p, e)
	}
	sort.SliceStable(p.variants, func(i, j int) bool { return widthOrder(p.variants[i].to) > widthOrder(p.variants[j].to) })
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
	w, h, err := f.c.env.PictureSize(name)
	if err != nil {
		f.c.addOnce(f.c.missingPicture(f.file(v), v, name, err))
		return 4, 3
	}
	f.c.tellMore(f.file(v), v, name)
	f.c.out.Media = appendOnce(f.c.out.Media, name)
	return w, h
}

// tellMore tells that a picture is shown without something that its file has.
func (c *styling) tellMore(file *site.File, v *site.Value, name string) {
	if what := c.env.MoreThanDrawn(name); len(what) > 0 {
		c.addOnce(problemAs(file.Problem(v, "unsafe-picture", fmt.Sprintf("media/%s holds %s; pages get the drawing without it", name, strings.Join(what, ", and ")), "a drawing that only draws", ""), diag.Warning))
	}
}

// pictureAt reads what an entry of a picture says of its focus, or of a range.
func (f *filler) pictureAt(p *shown, e site.Entry) {
	key, at := optionName(e.Key)
	if key == "focus" && e.Value.Str() != "" && !focusForm.MatchString(e.Value.Str()) {
		f.c.addOnce(f.file(e.Value).Problem(e.Value, "bad-value", fmt.Sprintf("%q is no point of a picture", e.Value.Str()), "two percentages, from the left and from the top", "50% 30%"))
		return
	}
	if at == "" {
		if key == "focus" {
			p.focus = strings.TrimSpace(e.Value.Str())
		}
		return
	}
	from, to, ok := f.c.env.Span(at)
	if !ok {
		names := f.c.env.RangeNames()
		f.c.addOnce(f.file(e.Value).KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", at), "one of "+strings.Join(names, ", ")+", or widths such as ..479", diag.Nearest(at, names)))
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

// dressPictures gives the pictures of the filled section what depends on the layout and on the screen: smaller
// copies, other files, other focus points, and when they are loaded. It stands after all that looks for parts, since
// it wraps elements.
func (f *filler) dressPictures(n *html.Node) {
	index := -1
	markup.Each(n, func(x *html.Node) {
		if x.Data != "img" {
			return
		}
		index++
		var fit PictureFit
		if m := f.c.measured; m != nil {
			fit = m.Pictures[PictureKey{f.b.Name, index}]
		}
		if i := slices.IndexFunc(f.pictures, func(p shown) bool { return p.img == x }); i >= 0 {
			f.pictures[i].dress(f, fit, index)
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

func (p *shown) dress(f *filler, fit PictureFit, index int) {
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
		s := markup.Element("source", "media", widthQuery(v.from, v.to), "srcset", f.c.depth+"media/"+project.URLPath(v.file), "width", strconv.Itoa(int(v.w+.5)), "height", strconv.Itoa(int(v.h+.5)))
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
func (f *filler) offer(n *html.Node, name string, w, h float64, fit PictureFit) {
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
	class := f.c.className(f.b, fmt.Sprintf("picture-%d", index+1))
	markup.AddClass(p.img, class)
	markup.Take(p.img, "style")
	f.c.focuses = append(f.c.focuses, focusRule{class, "", p.focus}, focusRule{class, "@media " + widthQuery(v.from, v.to), focus})
}

// focusRule is the focus of a picture, at some widths when cond says so.
type focusRule struct{ class, cond, focus string }

// focusRules writes the focus points of pictures that differ by range.
func (c *styling) focusRules(w *sheetWriter) {
	seen := map[focusRule]bool{}
	for _, r := range c.focuses {
		if seen[r] || r.cond == "" && r.focus == "" {
			continue
		}
		seen[r] = true
		if r.cond != "" {
			w.open(r.cond)
		}
		w.rule("."+r.class, decl{name: "object-position", value: r.focus})
		if r.cond != "" {
			w.close()
		}
	}
}

func (c *styling) missingPicture(file *site.File, v *site.Value, name string, err error) diag.Problem {
	have := media.List(c.env.Dir, "media")
	expected, try := "a file below media/", diag.Nearest(name, have)
	what := fmt.Sprintf("there is no file media/%s", name)
	for _, h := range have {
		if strings.EqualFold(h, name) && h != name {
			what, expected = fmt.Sprintf("there is no file media/%s; letter case counts", name), "the name as the file has it"
			try = h
		}
	}
	if !errors.Is(err, fs.ErrNotExist) && !errors.Is(err, fs.ErrInvalid) {
		var path *fs.PathError
		if errors.As(err, &path) {
			err = path.Err
		}
		what, try = fmt.Sprintf("media/%s cannot be shown: %v", name, err), ""
	}
	return file.Problem(v, "missing-file", what, expected, try)
}

func appendOnce(list []string, s string) []string {
	if slices.Contains(list, s) {
		return list
	}
	return append(list, s)
}

// samplePicture makes a section's sample picture travel with the built page.
func (f *filler) samplePicture(n *html.Node) {
	src, _ := markup.Attr(n, "src")
	_, name, ok := strings.Cut(src, "../"+project.SamplePictures+"/")
	if !ok {
		return
	}
	f.c.out.Media = appendOnce(f.c.out.Media, name)
	markup.Set(n, "src", f.c.depth+"media/"+name)
	if w, h, err := f.c.env.PictureSize(name); err == nil {
		markup.Set(n, "width", strconv.Itoa(int(w+.5)))
		markup.Set(n, "height", strconv.Itoa(int(h+.5)))
	}
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
	frag, err := html.ParseFragment(strings.NewReader("<svg>"+body+"</svg>"), markup.Element("div"))
	if err != nil || len(frag) == 0 {
		return false
	}
	markup.Empty(n)
	for frag[0].FirstChild != nil {
		k := frag[0].FirstChild
		frag[0].RemoveChild(k)
		n.AppendChild(k)
	}
	f.c.icons[inside(n)] = v.Text
	return true
}
