// Package vector writes display lists as SVG and PDF: shapes stay shapes, letters letters or outlines. What such a file
// cannot say is put in as a small picture.
package vector

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"html"
	"image/png"
	"io"
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
)

// SVGOptions say how an SVG is written.
type SVGOptions struct {
	Area     *geom.Rect // the part that it shows, CSS px; nil for all
	Outlines bool       // letters as shapes, which need no font
	Title    string     // what a screen reader says
}

// svg is one that is being written.
type svg struct {
	o      SVGOptions
	list   *display.List
	defs   strings.Builder
	b      strings.Builder
	ids    int
	glyphs map[*display.Shape]string
	known  map[string]string // definitions by their text
	err    error
}

// SVG writes a list as a stand-alone drawing.
func SVG(w io.Writer, l *display.List, o SVGOptions) error {
	area := geom.R(0, 0, l.W, l.H)
	if o.Area != nil {
		area = *o.Area
	}
	s := &svg{o: o, list: l, glyphs: map[*display.Shape]string{}, known: map[string]string{}}
	s.items(l.Items, "  ", area)
	if s.err != nil {
		return s.err
	}
	role := ""
	title := ""
	if o.Title != "" {
		role = ` role="img"`
		title = "  <title>" + html.EscapeString(o.Title) + "</title>\n"
	}
	defs := s.defs.String()
	if defs != "" {
		defs = "  <defs>\n" + defs + "  </defs>\n"
	}
	_, err := fmt.Fprintf(w,
		"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%s\" height=\"%s\" viewBox=\"%s %s %s %s\"%s>\n%s%s%s</svg>\n",
		num(area.W()), num(area.H()), num(area.X0), num(area.Y0), num(area.W()), num(area.H()), role, title, defs, s.b.String())
	return err
}

// num writes a number to 1/1000.
func num(v float64) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return "0"
	}
	out := strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64)
	if out == "-0" {
		return "0"
	}
	return out
}

// data writes a path.
func data(p *geom.Path) string {
	var b strings.Builder
	p.Each(func(op geom.Op, _ geom.Point, pts []geom.Point) {
		b.WriteString([5]string{"M", "L", "Q", "C", "Z"}[op])
		for i, q := range pts {
			if i > 0 {
				b.WriteByte(' ')
			}
			b.WriteString(num(q.X) + " " + num(q.Y))
		}
	})
	return b.String()
}

// alpha writes an opacity attribute, nothing for what is opaque.
func alpha(name string, a float64) string {
	if a >= 1 {
		return ""
	}
	return fmt.Sprintf(` %s="%s"`, name, num(max(0, a)))
}

// define gives the id of a definition, %s in which stands for it; equal ones are written once.
func (s *svg) define(prefix, text string) string {
	if id := s.known[text]; id != "" {
		return id
	}
	s.ids++
	id := fmt.Sprintf("%s%d", prefix, s.ids)
	s.known[text] = id
	s.defs.WriteString("    " + strings.Replace(text, "%s", id, 1) + "\n")
	return id
}

func (s *svg) items(list []display.Item, in string, area geom.Rect) {
	for _, it := range list {
		switch it := it.(type) {
		case *display.Group:
			s.group(it, in, area)
		case *display.Fill:
			s.fill(it, in, area)
		case *display.Text:
			s.text(it, in)
		case *display.Shadow:
			s.shadow(it, in)
		case *display.Picture:
			s.picture(it, in)
		}
	}
}

// clips opens a group for each clip and returns how many; what is outside needs no item at all.
func (s *svg) clips(list []*geom.Path, in string) int {
	for _, p := range list {
		rule := ""
		if p.EvenOdd {
			rule = ` clip-rule="evenodd"`
		}
		id := s.define("clip", `<clipPath id="%s"><path d="`+data(p)+`"`+rule+`/></clipPath>`)
		fmt.Fprintf(&s.b, "%s<g clip-path=\"url(#%s)\">\n", in, id)
	}
	return len(list)
}

func (s *svg) group(g *display.Group, in string, area geom.Rect) {
	if len(g.Items) == 0 {
		return
	}
	inner := area
	if inv, ok := g.Matrix.Invert(); ok {
		inner = inv.Rect(area)
	}
	n := s.clips(g.Clips, in)
	attrs := alpha("opacity", g.Opacity)
	if g.Matrix != geom.Identity {
		m := g.Matrix
		if m.A == 1 && m.D == 1 && m.B == 0 && m.C == 0 {
			attrs += fmt.Sprintf(` transform="translate(%s %s)"`, num(m.E), num(m.F))
		} else {
			attrs += fmt.Sprintf(` transform="matrix(%g %g %g %g %s %s)"`, round6(m.A), round6(m.B), round6(m.C),
				round6(m.D),
				num(m.E), num(m.F))
		}
	}
	switch {
	case g.Blend == "isolate":
		attrs += ` style="isolation:isolate"`
	case g.Blend != "" && g.Blend != "normal":
		attrs += ` style="mix-blend-mode:` + g.Blend + `"`
	}
	if len(g.Filters) > 0 {
		attrs += ` filter="url(#` + s.filter(g.Filters) + `)"`
	}
	for i, m := range g.Masks {
		kind := "alpha"
		if m.Luminance {
			kind = "luminance"
		}
		at := s.b
		s.b = strings.Builder{}
		s.fill(m.Fill, "", inner)
		body := strings.TrimSpace(s.b.String())
		s.b = at
		id := s.define("mask",
			`<mask id="%s" maskUnits="userSpaceOnUse" x="`+num(inner.X0)+`" y="`+num(inner.Y0)+`" width="`+
				num(inner.W())+`" height="`+num(inner.H())+`" style="mask-type:`+kind+`">`+body+`</mask>`)
		if i == 0 {
			attrs += ` mask="url(#` + id + `)"`
		}
	}
	if attrs == "" {
		s.items(g.Items, in, inner)
	} else {
		fmt.Fprintf(&s.b, "%s<g%s>\n", in, attrs)
		s.items(g.Items, in+"  ", inner)
		fmt.Fprintf(&s.b, "%s</g>\n", in)
	}
	for range n {
		fmt.Fprintf(&s.b, "%s</g>\n", in)
	}
}

func round6(v float64) float64 { return math.Round(v*1e6) / 1e6 }

// filter defines a list of filter functions.
func (s *svg) filter(list []display.Filter) string {
	var b strings.Builder
	b.WriteString(`<filter id="%s" x="-50%%" y="-50%%" width="200%%" height="200%%" color-interpolation-filters="sRGB">`)
	slope := func(a, z float64) {
		b.WriteString("<feComponentTransfer>")
		for _, ch := range "RGB" {
			fmt.Fprintf(&b, `<feFunc%c type="linear" slope="%s" intercept="%s"/>`, ch, num(a), num(z))
		}
		b.WriteString("</feComponentTransfer>")
	}
	for _, f := range list {
		a := f.Amount
		switch f.Name {
		case "blur":
			fmt.Fprintf(&b, `<feGaussianBlur stdDeviation="%s"/>`, num(a))
		case "brightness":
			slope(a, 0)
		case "contrast":
			slope(a, .5-.5*a)
		case "invert":
			slope(1-2*a, a)
		case "opacity":
			fmt.Fprintf(&b, `<feComponentTransfer><feFuncA type="linear" slope="%s"/></feComponentTransfer>`, num(a))
		case "drop-shadow":
			fmt.Fprintf(&b, `<feDropShadow dx="%s" dy="%s" stdDeviation="%s" flood-color="%s" flood-opacity="%s"/>`,
				num(f.DX), num(f.DY), num(a), (f.Color).Hex(), num(f.Color.A))
		case "hue-rotate":
			fmt.Fprintf(&b, `<feColorMatrix type="hueRotate" values="%s"/>`, num(a*180/math.Pi))
		case "saturate":
			fmt.Fprintf(&b, `<feColorMatrix type="saturate" values="%s"/>`, num(a))
		default:
			if t, ok := raster.ColorMatrix(f); ok {
				b.WriteString(`<feColorMatrix type="matrix" values="`)
				for _, row := range t {
					fmt.Fprintf(&b, "%s %s %s 0 0 ", num(row[0]), num(row[1]), num(row[2]))
				}
				b.WriteString(`0 0 0 1 0"/>`)
			}
		}
	}
	b.WriteString("</filter>")
	return s.define("filter", strings.ReplaceAll(b.String(), "%%", "%"))
}

func (s *svg) fill(f *display.Fill, in string, area geom.Rect) {
	paint, extra := s.brush(f, area)
	if paint == "" {
		return
	}
	if t, ok := f.Brush.(*display.Tiles); ok && t.StepX <= 0 && t.StepY <= 0 { // one tile: its items, clipped
		path := f.Path
		if f.Rect != nil {
			path = geom.RectPath(*f.Rect)
		}
		s.group(&display.Group{Items: t.Items, Clips: []*geom.Path{path, geom.RectPath(t.Cell)}, Matrix: geom.Identity,
			Opacity: 1}, in, area)
		return
	}
	if f.Rect != nil {
		fmt.Fprintf(&s.b, "%s<rect x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\" fill=\"%s\"%s/>\n", in, num(f.Rect.X0),
			num(f.Rect.Y0), num(f.Rect.W()), num(f.Rect.H()), paint, extra)
		return
	}
	if f.Path.EvenOdd {
		extra += ` fill-rule="evenodd"`
	}
	fmt.Fprintf(&s.b, "%s<path d=\"%s\" fill=\"%s\"%s/>\n", in, data(f.Path), paint, extra)
}

// brush gives the value of fill, and further attributes.
func (s *svg) brush(f *display.Fill, area geom.Rect) (value, extra string) {
	switch b := f.Brush.(type) {
	case display.Solid:
		c := css.Color(b)
		if c.A <= 0 {
			return "", ""
		}
		return (c).Hex(), alpha("fill-opacity", c.A)
	case *display.Gradient:
		if b.Kind == "conic" {
			return s.pictured(f)
		}
		return "url(#" + s.gradient(b) + ")", ""
	case *display.Tiles:
		if b.StepX <= 0 && b.StepY <= 0 {
			return "none", ""
		}
		far := func(step, size float64) float64 {
			if step > 0 {
				return step
			}
			return 1 << 16
		}
		at := s.b
		s.b = strings.Builder{}
		s.group(&display.Group{Items: b.Items, Clips: []*geom.Path{geom.RectPath(b.Cell)},
			Matrix: geom.Identity, Opacity: 1}, "", area)
		body := s.b.String()
		s.b = at
		id := s.define("tiles",
			`<pattern id="%s" patternUnits="userSpaceOnUse" x="`+num(b.Cell.X0)+`" y="`+num(b.Cell.Y0)+
				`" width="`+num(far(b.StepX, b.Cell.W()))+`" height="`+num(far(b.StepY,
				b.Cell.H()))+`" viewBox="`+num(b.Cell.X0)+` `+
				num(b.Cell.Y0)+` `+num(far(b.StepX, b.Cell.W()))+` `+num(far(b.StepY, b.Cell.H()))+`">`+body+`</pattern>`)
		return "url(#" + id + ")", ""
	}
	return "", ""
}

func (s *svg) gradient(g *display.Gradient) string {
	var b strings.Builder
	stops := g.Stops
	if g.Repeats && len(stops) > 1 { // the pattern is what lies between the first and the last stop
		first, last := stops[0].At, stops[len(stops)-1].At
		c := *g
		if last > first {
			at := func(t float64) geom.Point {
				return geom.Point{X: g.From.X + (g.To.X-g.From.X)*t, Y: g.From.Y + (g.To.Y-g.From.Y)*t}
			}
			c.Stops = nil
			for _, st := range stops {
				c.Stops = append(c.Stops, display.Stop{At: (st.At - first) / (last - first), Color: st.Color})
			}
			if g.Kind == "linear" {
				c.From, c.To = at(first), at(last)
			} else {
				c.Radius = geom.Point{X: g.Radius.X * last, Y: g.Radius.Y * last}
				c.Stops = stops
				if last != 1 {
					c.Stops = nil
					for _, st := range stops {
						c.Stops = append(c.Stops, display.Stop{At: st.At / last, Color: st.Color})
					}
				}
			}
		}
		g, stops = &c, c.Stops
	}
	m := g.Matrix
	if g.Kind == "radial" && g.Radius.X > 0 {
		m = m.Mul(geom.Translate(g.From.X, g.From.Y)).Mul(geom.Scale(1, g.Radius.Y/g.Radius.X)).Mul(
			geom.Translate(-g.From.X, -g.From.Y))
	}
	tail := ` gradientUnits="userSpaceOnUse"`
	if m != geom.Identity {
		tail += fmt.Sprintf(` gradientTransform="matrix(%g %g %g %g %s %s)"`, round6(m.A), round6(m.B), round6(m.C),
			round6(m.D), num(m.E), num(m.F))
	}
	switch {
	case g.Reflect:
		tail += ` spreadMethod="reflect"`
	case g.Repeats:
		tail += ` spreadMethod="repeat"`
	}
	if g.Kind == "linear" {
		fmt.Fprintf(&b, `<linearGradient id="%%s" x1="%s" y1="%s" x2="%s" y2="%s"%s>`, num(g.From.X), num(g.From.Y),
			num(g.To.X), num(g.To.Y), tail)
	} else {
		focus := ""
		if g.Focal {
			focus = fmt.Sprintf(` fx="%s" fy="%s"`, num(g.Focus.X), num(g.Focus.Y))
		}
		fmt.Fprintf(&b, `<radialGradient id="%%s" cx="%s" cy="%s" r="%s"%s%s>`, num(g.From.X), num(g.From.Y),
			num(g.Radius.X), focus, tail)
	}
	for _, st := range unclear(stops) {
		fmt.Fprintf(&b, `<stop offset="%s" stop-color="%s"%s/>`, num(st.At), (st.Color).Hex(),
			alpha("stop-opacity", st.Color.A))
	}
	if g.Kind == "linear" {
		b.WriteString("</linearGradient>")
	} else {
		b.WriteString("</radialGradient>")
	}
	return s.define("paint", b.String())
}

// unclear gives stops that let everything through the color of what they go to: SVG mixes colors that are not
// premultiplied.
func unclear(stops []display.Stop) []display.Stop {
	var out []display.Stop
	for i, st := range stops {
		if st.Color.A > 0 {
			out = append(out, st)
			continue
		}
		for _, k := range [2]int{i - 1, i + 1} {
			if k >= 0 && k < len(stops) && stops[k].Color.A > 0 {
				c := stops[k].Color
				c.A = 0
				out = append(out, display.Stop{At: st.At, Color: c})
			}
		}
		if n := len(out); n == 0 || out[n-1].At != st.At {
			out = append(out, st)
		}
	}
	return out
}

// bounds gives the rectangle around a fill.
func bounds(f *display.Fill) geom.Rect {
	if f.Rect != nil {
		return *f.Rect
	}
	return f.Path.Bounds()
}

// pictured gives a fill as a pattern of one picture.
func (s *svg) pictured(f *display.Fill) (value, extra string) {
	r := bounds(f)
	href, err := pixelsOf(&display.List{W: r.X1, H: r.Y1, Items: []display.Item{&display.Fill{Rect: &r,
		Brush: f.Brush}}}, r)
	if err != nil {
		s.err = err
		return "", ""
	}
	id := s.define("paint",
		fmt.Sprintf(`<pattern id="%%s" patternUnits="userSpaceOnUse" x="%s" y="%s" width="%s" height="%s">`+
			`<image width="%s" height="%s" preserveAspectRatio="none" href="%s"/></pattern>`, num(r.X0), num(r.Y0), num(r.W()),
			num(r.H()), num(r.W()), num(r.H()), href))
	return "url(#" + id + ")", ""
}

// pixelsOf draws a part of a list on clear ground, as an address.
func pixelsOf(l *display.List, area geom.Rect) (string, error) {
	img, err := raster.Draw(l, raster.Options{Scale: 2, Area: &area})
	if err != nil {
		return "", err
	}
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil {
		return "", err
	}
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes()), nil
}

// text writes a run: as letters where they stand, or as outlines.
func (s *svg) text(t *display.Text, in string) {
	if t.Color.A <= 0 || len(t.Glyphs) == 0 {
		return
	}
	words := strings.TrimRight(t.Words, " ")
	if s.o.Outlines || strings.TrimSpace(words) == "" {
		s.outlines(t, in)
		return
	}
	style := fmt.Sprintf(`font-family="%s" font-size="%s"`, html.EscapeString(family(t.Family)), num(t.Size))
	if t.Weight != 400 {
		style += fmt.Sprintf(` font-weight="%s"`, num(t.Weight))
	}
	if t.Italic {
		style += ` font-style="italic"`
	}
	last := t.Glyphs[len(t.Glyphs)-1]
	width := t.Width
	if width <= 0 {
		width = last.X - t.X
	}
	fmt.Fprintf(&s.b, "%s<text x=\"%s\" y=\"%s\" textLength=\"%s\" %s fill=\"%s\"%s xml:space=\"preserve\">%s</text>\n",
		in,
		num(t.X), num(t.Y), num(width), style, (t.Color).Hex(), alpha("fill-opacity",
			t.Color.A), html.EscapeString(words))
}

func family(name string) string {
	if strings.ContainsAny(name, " ,") {
		return "'" + strings.ReplaceAll(name, "'", "") + "', sans-serif"
	}
	return name + ", sans-serif"
}

// outlines writes a run as shapes; each kind of glyph is defined once.
func (s *svg) outlines(t *display.Text, in string) {
	fmt.Fprintf(&s.b, "%s<g fill=\"%s\"%s>\n", in, (t.Color).Hex(), alpha("fill-opacity", t.Color.A))
	for _, g := range t.Glyphs {
		if g.Shape.Path.Empty() {
			continue
		}
		id := s.glyphs[g.Shape]
		if id == "" {
			big := g.Shape.Path.Transform(geom.Scale(1000, 1000))
			id = s.define("glyph", `<path id="%s" d="`+data(big)+`"/>`)
			s.glyphs[g.Shape] = id
		}
		k := g.Size / 1000
		bold := ""
		if t.Bold > 0 {
			bold = fmt.Sprintf(` stroke="%s" stroke-width="%s"`, (t.Color).Hex(), num(t.Bold/k))
		}
		fmt.Fprintf(&s.b, "%s  <use href=\"#%s\" transform=\"matrix(%g 0 %g %g %s %s)\"%s/>\n", in, id, round6(k),
			round6(-t.Lean*k),
			round6(k), num(g.X), num(g.Y), bold)
	}
	fmt.Fprintf(&s.b, "%s</g>\n", in)
}

func (s *svg) shadow(sh *display.Shadow, in string) {
	if sh.Color.A <= 0 {
		return
	}
	pad := 3*sh.Sigma + 2
	area := sh.Shape.Rect.Grow(pad)
	path := sh.Shape.Path()
	var clip *geom.Path
	switch {
	case sh.Inside != nil:
		area = sh.Inside.Grow(pad)
		outside := geom.RectPath(area)
		outside.Add(path)
		outside.EvenOdd = true
		path, clip = outside, sh.Inside.Path()
	case sh.Around != nil:
		clip = geom.RectPath(area)
		clip.Add(sh.Around)
		clip.EvenOdd = true
	}
	attrs := ""
	if sh.Sigma > 0 {
		id := s.define("blur",
			fmt.Sprintf(`<filter id="%%s" filterUnits="userSpaceOnUse" x="%s" y="%s" width="%s" height="%s">`+
				`<feGaussianBlur stdDeviation="%s"/></filter>`, num(area.X0), num(area.Y0), num(area.W()), num(area.H()), num(sh.Sigma)))
		attrs = ` filter="url(#` + id + `)"`
	}
	rule := ""
	if path.EvenOdd {
		rule = ` fill-rule="evenodd"`
	}
	n := 0
	if clip != nil {
		n = s.clips([]*geom.Path{clip}, in)
	}
	fmt.Fprintf(&s.b, "%s<path d=\"%s\" fill=\"%s\"%s%s%s/>\n", in, data(path), (sh.Color).Hex(),
		alpha("fill-opacity", sh.Color.A),
		rule, attrs)
	for range n {
		fmt.Fprintf(&s.b, "%s</g>\n", in)
	}
}

func (s *svg) picture(p *display.Picture, in string) {
	file, kind := p.Image.Data, p.Image.Kind
	if file == nil { // a part of a picture
		var b bytes.Buffer
		if png.Encode(&b, p.Image.Image) != nil {
			return
		}
		file, kind = b.Bytes(), "image/png"
	}
	href := "data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(file)
	crisp := ""
	if p.Crisp {
		crisp = ` style="image-rendering:pixelated"`
	}
	fmt.Fprintf(&s.b, "%s<image x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\" preserveAspectRatio=\"none\"%s href=\"%s\"/>\n", in,
		num(p.Dst.X0), num(p.Dst.Y0), num(p.Dst.W()), num(p.Dst.H()), crisp, href)
}
