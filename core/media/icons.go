package media

import (
	"fmt"
	"io/fs"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"

	"ziegel/core/former"
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

// ReadIcon gives an icon: one of the site's own (own may be nil), else a shipped one. A shipped one takes color and
// line width from the svg element that it stands in. Of a file that came with the site shapes and their colors are
// taken: no script, style, text or link.
func ReadIcon(stock, own fs.FS, name string) (Icon, error) {
	mine := false
	data, err := []byte(nil), fs.ErrNotExist
	if own != nil {
		data, err = fs.ReadFile(own, path.Join(OwnIconFolder, name+".svg"))
		mine = err == nil
	}
	if err != nil {
		data, err = fs.ReadFile(stock, path.Join(IconFolder, name+".svg"))
	}
	if now := former.Icons[name]; err != nil && now != "" {
		data, err = fs.ReadFile(stock, path.Join(IconFolder, now+".svg"))
	}
	if err != nil {
		return Icon{}, fmt.Errorf("no icon is called %q", name)
	}
	if len(data) > mostIcon {
		return Icon{}, fmt.Errorf("the icon %q has %d kB, and %d kB are the most: it stands in every page that shows it",
			name, len(data)>>10, mostIcon>>10)
	}
	if mine {
		icon, err := ownIcon(data)
		if err != nil {
			return Icon{}, fmt.Errorf("the icon %q is not an SVG picture: %w", name, err)
		}
		return icon, nil
	}
	m := svgInner.FindSubmatch(data)
	if m == nil {
		return Icon{}, fmt.Errorf("the icon %q is not an SVG picture", name)
	}
	body := iconStroke.ReplaceAllString(string(m[1]), "")
	lines := strings.FieldsFunc(body, func(r rune) bool { return r == '\n' || r == '\t' })
	return Icon{Body: strings.Join(lines, "")}, nil
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
