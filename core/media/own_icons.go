package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Icon is a drawing that stands in the page itself.
type Icon struct {
	Body    string   // shapes, as markup
	ViewBox string   // "" for the usual one, 0 0 24 24
	Dropped []string // what of its file a page does not take
}

var (
	shapeTags = []string{"path", "circle", "ellipse", "rect", "line", "polyline", "polygon", "g"}
	// how shapes are drawn; they pass from groups to what is in them
	paintAttrs = []string{"fill", "fill-rule", "fill-opacity", "clip-rule", "stroke", "stroke-width", "stroke-linecap",
		"stroke-linejoin", "stroke-miterlimit", "stroke-dasharray", "stroke-opacity"}
	shapeAttrs = append([]string{"d", "cx", "cy", "r", "rx", "ry", "x", "y", "x1", "y1", "x2", "y2", "width", "height",
		"points", "transform", "opacity"}, paintAttrs...)
	safeValue = regexp.MustCompile(`^[^<>"&]*$`)
	// silent are elements that nobody sees
	silent = []string{"title", "desc", "metadata", "defs", "symbol", "namedview"}
	// told is what people call elements that are not taken
	told = map[string]string{"linearGradient": "gradients", "radialGradient": "gradients", "text": "text",
		"image": "pictures",
		"style": "a style sheet", "script": "scripts", "filter": "filters", "mask": "masks", "clipPath": "clipping",
		"foreignObject": "HTML", "animate": "motion", "animateTransform": "motion", "a": "links", "pattern": "patterns"}
)

// mostIconDepth is how deep uses in uses are followed.
const mostIconDepth = 8

// svgNode is an element of a drawing.
type svgNode struct {
	name  string
	attrs [][2]string
	kids  []*svgNode
}

func (n *svgNode) attr(name string) string {
	for _, a := range n.attrs {
		if a[0] == name {
			return a[1]
		}
	}
	return ""
}

// readSVG reads the elements of a drawing and those that have ids. Declarations in style attributes are attributes.
func readSVG(data []byte) (*svgNode, map[string]*svgNode, error) {
	d := xml.NewDecoder(bytes.NewReader(data))
	d.Strict = false
	root := &svgNode{}
	open, ids := []*svgNode{root}, map[string]*svgNode{}
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, nil, err
		}
		switch t := tok.(type) {
		case xml.StartElement:
			n := &svgNode{name: t.Name.Local}
			for _, a := range t.Attr {
				switch a.Name.Local {
				case "id":
					ids[a.Value] = n
				case "style":
					for _, decl := range strings.Split(a.Value, ";") {
						if name, value, ok := strings.Cut(decl, ":"); ok {
							n.set(strings.TrimSpace(name), strings.TrimSpace(value))
						}
					}
					continue
				}
				if n.attr(a.Name.Local) == "" {
					n.attrs = append(n.attrs, [2]string{a.Name.Local, a.Value})
				}
			}
			last := open[len(open)-1]
			last.kids = append(last.kids, n)
			open = append(open, n)
		case xml.EndElement:
			if len(open) > 1 {
				open = open[:len(open)-1]
			}
		}
	}
	for _, k := range root.kids {
		if k.name == "svg" {
			return k, ids, nil
		}
	}
	return nil, nil, errors.New("there is no svg element")
}

func (n *svgNode) set(name, value string) {
	for i := range n.attrs {
		if n.attrs[i][0] == name {
			n.attrs[i][1] = value
			return
		}
	}
	n.attrs = append(n.attrs, [2]string{name, value})
}

// ownIcon takes the shapes of a drawing that came with the site, with their colors when there are several; one color
// alone is that of the text around the icon.
func ownIcon(data []byte) (Icon, error) {
	if err := CheckSVG(data); err != nil {
		return Icon{}, err
	}
	root, ids, err := readSVG(data)
	if err != nil {
		return Icon{}, err
	}
	w := &iconWriter{ids: ids}
	w.colors(root, 0)
	out := Icon{ViewBox: viewBox(root)}
	fill, stroke := root.attr("fill"), root.attr("stroke")
	if fill == "" {
		fill = "currentColor"
	}
	if stroke == "" {
		stroke = "none"
	}
	group := &svgNode{name: "g", attrs: [][2]string{{"fill", fill}, {"stroke", stroke}}, kids: root.kids}
	for _, name := range paintAttrs {
		if v := root.attr(name); v != "" && name != "fill" && name != "stroke" {
			group.attrs = append(group.attrs, [2]string{name, v})
		}
	}
	w.write(group, 0)
	if !w.drawn {
		return Icon{}, errors.New("no shape of it can be drawn")
	}
	out.Body = w.b.String()
	slices.Sort(w.dropped)
	out.Dropped = slices.Compact(w.dropped)
	return out, nil
}

// viewBox gives the part of the drawing's plane that is seen.
func viewBox(root *svgNode) string {
	if box := strings.Join(strings.FieldsFunc(root.attr("viewBox"), func(r rune) bool { return r == ' ' || r == ',' }),
		" "); box != "" {
		for _, f := range strings.Fields(box) {
			if _, err := strconv.ParseFloat(f, 64); err != nil {
				return ""
			}
		}
		if len(strings.Fields(box)) == 4 {
			return box
		}
		return ""
	}
	w, errW := strconv.ParseFloat(strings.TrimSuffix(root.attr("width"), "px"), 64)
	h, errH := strconv.ParseFloat(strings.TrimSuffix(root.attr("height"), "px"), 64)
	if errW != nil || errH != nil || w <= 0 || h <= 0 {
		return ""
	}
	return fmt.Sprintf("0 0 %g %g", w, h)
}

// iconWriter writes the shapes of an icon.
type iconWriter struct {
	b       strings.Builder
	ids     map[string]*svgNode
	seen    []string // colors
	dropped []string
	drawn   bool
}

var noColors = map[string]bool{"": true, "none": true, "currentcolor": true, "inherit": true, "transparent": true}

// colors finds the colors of all that is drawn.
func (w *iconWriter) colors(n *svgNode, depth int) {
	if depth > mostNesting {
		return
	}
	for _, name := range []string{"fill", "stroke"} {
		c := sameColor(n.attr(name))
		if !noColors[c] && !strings.Contains(c, "url(") && !slices.Contains(w.seen, c) {
			w.seen = append(w.seen, c)
		}
	}
	for _, k := range n.kids {
		w.colors(k, depth+1)
	}
}

// sameColor writes black in one way.
func sameColor(c string) string {
	c = strings.ToLower(strings.TrimSpace(c))
	if c == "#000" || c == "#000000" {
		return "black"
	}
	return c
}

// write writes an element with what is in it.
func (w *iconWriter) write(n *svgNode, depth int) {
	if depth > mostIconDepth*4 {
		w.dropped = append(w.dropped, "uses nested too deep")
		return
	}
	switch {
	case n.name == "use":
		w.use(n, depth)
		return
	case n.name == "svg":
		n = &svgNode{name: "g", attrs: n.attrs, kids: n.kids}
	case !slices.Contains(shapeTags, n.name):
		if !slices.Contains(silent, n.name) {
			w.drop(n)
			return
		}
		for _, k := range n.kids { // what it holds is drawn where it is used
			if name := told[k.name]; name != "" {
				w.drop(k)
			}
		}
		return
	}
	w.b.WriteString("<" + n.name)
	for _, a := range n.attrs {
		value := a[1]
		switch {
		case !slices.Contains(shapeAttrs, a[0]) || !safeValue.MatchString(value):
			continue
		case strings.Contains(strings.ToLower(value), "url("):
			w.dropped = append(w.dropped, "gradients")
			continue
		case (a[0] == "fill" || a[0] == "stroke") && len(w.seen) < 2 && !noColors[sameColor(value)]:
			value = "currentColor"
		}
		w.b.WriteString(" " + a[0] + `="` + value + `"`)
	}
	w.b.WriteString(">")
	w.drawn = w.drawn || n.name != "g"
	for _, k := range n.kids {
		w.write(k, depth+1)
	}
	w.b.WriteString("</" + n.name + ">")
}

// use writes what an element repeats, in its place.
func (w *iconWriter) use(n *svgNode, depth int) {
	of := w.ids[strings.TrimPrefix(n.attr("href"), "#")]
	if of == nil {
		w.dropped = append(w.dropped, "uses of what is not in the file")
		return
	}
	group := &svgNode{name: "g", kids: []*svgNode{of}}
	move := n.attr("transform")
	x, y := n.attr("x"), n.attr("y")
	if x != "" || y != "" {
		if x == "" {
			x = "0"
		}
		if y == "" {
			y = "0"
		}
		move = strings.TrimSpace(move + " translate(" + x + " " + y + ")")
	}
	if move != "" {
		group.attrs = append(group.attrs, [2]string{"transform", move})
	}
	for _, name := range append([]string{"opacity"}, paintAttrs...) {
		if v := n.attr(name); v != "" {
			group.attrs = append(group.attrs, [2]string{name, v})
		}
	}
	if of.name == "symbol" {
		group.kids = of.kids
	}
	w.write(group, depth+1)
}

// drop notes an element that is not taken, by the word that people have for it.
func (w *iconWriter) drop(n *svgNode) {
	name := told[n.name]
	if name == "" {
		name = "<" + n.name + ">"
	}
	w.dropped = append(w.dropped, name)
}
