package media

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"
)

var (
	svgInner   = regexp.MustCompile(`(?s)<svg[^>]*>(.*)</svg>`)
	iconStroke = regexp.MustCompile(` stroke(?:-[a-z]+)?="[^"]*"`)
)

// IconFolders are where icons lie: the shipped ones, and a site's own.
const (
	IconFolder    = "icons"
	OwnIconFolder = "media/icons"
)

// IconBody gives the shapes inside an icon file: one of the site's own (own may be nil), else a shipped one. Color
// and line width come from the svg element that takes them. Of a file that came with the site only shapes are taken:
// no script, style, text or link.
func IconBody(stock, own fs.FS, name string) (string, error) {
	clean := false
	data, err := []byte(nil), fs.ErrNotExist
	if own != nil {
		data, err = fs.ReadFile(own, path.Join(OwnIconFolder, name+".svg"))
		clean = err == nil
	}
	if err != nil {
		data, err = fs.ReadFile(stock, path.Join(IconFolder, name+".svg"))
	}
	if err != nil {
		return "", fmt.Errorf("no icon is called %q", name)
	}
	if len(data) > mostIcon {
		return "", fmt.Errorf("the icon %q has %d kB, and %d kB are the most: it stands in every page that shows it",
			name, len(data)>>10, mostIcon>>10)
	}
	m := svgInner.FindSubmatch(data)
	if m == nil {
		return "", fmt.Errorf("the icon %q is not an SVG picture", name)
	}
	body := string(m[1])
	if clean {
		if body, err = shapes(body); err != nil {
			return "", fmt.Errorf("the icon %q is not an SVG picture: %w", name, err)
		}
	}
	body = iconStroke.ReplaceAllString(body, "")
	return strings.Join(strings.FieldsFunc(body, func(r rune) bool { return r == '\n' || r == '\t' }), ""), nil
}

var (
	shapeTags  = []string{"path", "circle", "ellipse", "rect", "line", "polyline", "polygon", "g"}
	shapeAttrs = []string{"d", "cx", "cy", "r", "rx", "ry", "x", "y", "x1", "y1", "x2", "y2", "width", "height",
		"points", "transform", "fill", "fill-rule", "clip-rule", "stroke", "stroke-width", "stroke-linecap",
		"stroke-linejoin", "opacity"}
	safeValue = regexp.MustCompile(`^[^<>"&]*$`)
)

// shapes keeps the drawn shapes of an SVG's inside.
func shapes(body string) (string, error) {
	d := xml.NewDecoder(strings.NewReader("<g>" + body + "</g>"))
	d.Strict = false
	var out strings.Builder
	depth, skip := 0, 0
	for {
		tok, err := d.Token()
		if errors.Is(err, io.EOF) {
			return out.String(), nil
		}
		if err != nil {
			return "", err
		}
		switch t := tok.(type) {
		case xml.StartElement:
			depth++
			if depth == 1 {
				continue
			}
			if skip > 0 || !slices.Contains(shapeTags, t.Name.Local) {
				skip++
				continue
			}
			out.WriteString("<" + t.Name.Local)
			for _, a := range t.Attr {
				if slices.Contains(shapeAttrs, a.Name.Local) && safeValue.MatchString(a.Value) &&
					!strings.Contains(strings.ToLower(a.Value), "url(") {
					out.WriteString(" " + a.Name.Local + `="` + a.Value + `"`)
				}
			}
			out.WriteString(">")
		case xml.EndElement:
			depth--
			switch {
			case depth == 0:
			case skip > 0:
				skip--
			default:
				out.WriteString("</" + t.Name.Local + ">")
			}
		}
	}
}

// Icons lists the icon names, a site's own first. own may be nil.
func Icons(stock, own fs.FS) []string {
	var out []string
	add := func(from fs.FS, dir string) {
		if from == nil {
			return
		}
		for _, f := range List(from, dir) {
			if n, ok := strings.CutSuffix(f, ".svg"); ok && !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	add(own, OwnIconFolder)
	add(stock, IconFolder)
	return out
}

// FindIcons gives the icons that words speak of, by name or by everyday words (name to words), best first.
func FindIcons(names []string, everyday map[string]string, words string) []string {
	type hit struct {
		name  string
		score int
	}
	var hits []hit
	for _, n := range names {
		total, all := 0, true
		for _, w := range strings.Fields(strings.ToLower(words)) {
			score := 0
			stem := strings.TrimSuffix(w, "s")
			switch {
			case n == w || n == stem:
				score = 5
			case slices.ContainsFunc(strings.Split(n, "-"), func(p string) bool { return p == w || p == stem }):
				score = 4
			case strings.Contains(" "+everyday[n]+" ", " "+w+" ") ||
				strings.Contains(" "+everyday[n]+" ", " "+stem+" "):
				score = 3
			case len(stem) > 2 && strings.Contains(n, stem):
				score = 1
			}
			all = all && score > 0
			total += score
		}
		if all {
			hits = append(hits, hit{n, total})
		}
	}
	sort.SliceStable(hits, func(i, j int) bool { return hits[i].score > hits[j].score })
	out := make([]string, len(hits))
	for i, h := range hits {
		out[i] = h.name
	}
	return out
}
