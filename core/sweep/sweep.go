// Package sweep lays a page out at every width of a span and says how each block stacks, and at which widths that
// changes.
package sweep

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"golang.org/x/net/html/charset"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/styles"
)

// The span that is swept unless told otherwise, CSS px.
const (
	DefaultFrom = 240
	DefaultTo   = 2560
)

// missingW and missingH are the size of a picture of the site that is not there, px.
const missingW, missingH = 1200, 900

// FromPage prepares a composed page (with marks).
func FromPage(e *project.Project, p *compose.Page) (*Prepared, error) {
	sheets := map[string]*styles.Sheet{p.Site.Name: p.Site, p.Own.Name: p.Own}
	src := css.Source{File: p.Path, HTML: p.HTML, Load: func(_, href string) (string, []byte, error) {
		s := sheets[path.Base(href)]
		if s == nil {
			return "", nil, fs.ErrNotExist
		}
		return s.Name, []byte(s.Text), nil
	}}
	doc, err := css.Load(src)
	if err != nil {
		return nil, err
	}
	var entries []*font.Entry
	for _, f := range e.FontsOf(p.Blocks) {
		data, err := e.FontData(f)
		if err != nil {
			return nil, err
		}
		entry := plainFont(e, f.Family, float64(f.Weight), f.Italic, data)
		if f.To > 0 {
			all := font.Plain(f.Family, float64(f.Weight), f.Italic, data)
			all.WeightHigh = float64(f.To)
			entry = all
		}
		entries = append(entries, entry)
	}
	stock, err := StockFonts(e.Stock)
	if err != nil {
		return nil, err
	}
	l := &Prepared{
		Name:   p.Name,
		Doc:    doc,
		Page:   p,
		Looks:  e.Looks,
		fonts:  reaching(stock.With(entries), src.HTML),
		source: src,
	}
	sizes := map[string][2]float64{}
	for _, m := range p.Media {
		if data, err := e.MediaFile(m); err == nil {
			if w, h, err := media.Size(m, data); err == nil {
				sizes[m] = [2]float64{w, h}
			}
		}
	}
	l.picture = func(src string) (float64, float64, bool) {
		name, own := project.MediaName(src)
		s, ok := sizes[name]
		if own && !ok { // one that is not there yet takes the room of a usual one
			return missingW, missingH, true
		}
		return s[0], s[1], ok
	}
	l.file = func(src string) ([]byte, bool) {
		name, ok := project.MediaName(src)
		if !ok {
			return nil, false
		}
		data, err := e.MediaFile(name)
		return data, err == nil
	}
	l.shipped = func(file string) bool {
		_, err := fs.Stat(e.Dir, file)
		return err != nil
	}
	l.Blocks = marked(doc)
	for _, b := range l.Every() {
		for _, own := range p.Blocks {
			if own.Name == b.Name {
				b.Section = own.Section
			}
		}
	}
	return l, nil
}

type plainFontKey struct {
	family string
	weight float64
	italic bool
	size   int
}

// plainFont gives a font of a project. One that pages have used is read once, however often a page is laid out anew.
func plainFont(e *project.Project, family string, weight float64, italic bool, data []byte) *font.Entry {
	key := plainFontKey{family, weight, italic, len(data)}
	if known, ok := e.Measures.Load(key); ok && bytes.Equal(known.(*font.Entry).Data, data) {
		return known.(*font.Entry)
	}
	entry := font.Plain(family, weight, italic, data)
	e.Measures.Store(key, entry)
	return entry
}

// unescape gives the name of a file by its address; one that is wrongly escaped is taken as it stands.
func unescape(s string) string {
	if name, err := url.PathUnescape(s); err == nil {
		return name
	}
	return s
}

// fontFile is how shipped fonts are named: family-name-WEIGHT.woff2, with -italic for those.
var fontFile = regexp.MustCompile(`^(?:generic/)?([a-z-]+)-(\d+)(-italic)?\.woff2$`)

var stockOnce struct {
	sync.Mutex
	set *font.Set
}

// twins are the average and greatest glyph widths of the fonts that shipped ones stand in for, font units: text
// fields are sized by them (measured).
var twins = map[string][2]float64{"arimo": {1208, 2567}, "tinos": {1163, 2424}}

// StockFonts is the set of shipped fonts that stand in for families a page does not bring.
func StockFonts(stock fs.FS) (*font.Set, error) {
	stockOnce.Lock()
	defer stockOnce.Unlock()
	if stockOnce.set != nil {
		return stockOnce.set, nil
	}
	var entries []*font.Entry
	for _, f := range media.List(stock, "fonts") {
		m := fontFile.FindStringSubmatch(f)
		if m == nil {
			continue
		}
		data, err := fs.ReadFile(stock, "fonts/"+f)
		if err != nil {
			return nil, err
		}
		weight, err := strconv.ParseFloat(m[2], 64)
		if err != nil {
			return nil, err
		}
		family := strings.ReplaceAll(m[1], "-", " ")
		e := font.Plain(family, weight, m[3] != "", data)
		if twin, ok := twins[family]; ok {
			e.AvgWidth, e.MaxWidth = twin[0], twin[1]
		}
		entries = append(entries, e)
		if family == "dejavu sans" {
			only := font.Plain(rightToLeft, weight, m[3] != "", data)
			only.Ranges = [][2]rune{{0x590, 0x8ff}, {0xfb1d, 0xfdff}, {0xfe70, 0xfeff}}
			entries = append(entries, only)
		}
	}
	// The families behind the generic names in Chromium on Debian (measured), by faces of the same widths.
	serif, sans := []string{"tinos", "serif symbols"}, []string{"arimo", "sans symbols"}
	stockOnce.set = font.NewSet(entries, map[string][]string{"": {"tinos", "serif symbols", "wide symbols"},
		"serif": serif, "times": serif, "times new roman": serif, "liberation serif": serif,
		"sans-serif": sans, "arial": sans, "helvetica": sans, "liberation sans": sans, "monospace": {"dejavu mono"},
		"system-ui": {"dejavu sans"}, "ui-sans-serif": serif,
		"dejavu sans": {"dejavu sans"}, "dejavu sans mono": {"dejavu mono"}})
	return stockOnce.set, nil
}

// rightToLeft is what a shipped face is called here of which only the letters from right to left are taken.
const rightToLeft = "right to left"

// reaching adds the face that stands in for letters from right to left, as browsers on Debian find it (measured), where
// a page has any: others need not read it.
func reaching(set *font.Set, text string) *font.Set {
	for _, r := range text {
		if rtl, strong := font.RightToLeft(r); rtl && strong {
			return set.Reaching(rightToLeft)
		}
	}
	return set
}

// FromFile prepares any HTML file. Links in it are followed on disk, below the folder root that "/" stands for.
func FromFile(file string, stock fs.FS) (*Prepared, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	if strings.ContainsRune(string(data[:min(len(data), 1024)]), 0) {
		return nil, fmt.Errorf("read %s: this is not an HTML file", file)
	}
	local := func(from, href string) (string, bool) {
		href, _, _ = strings.Cut(href, "#")
		href, _, _ = strings.Cut(href, "?")
		if href == "" || strings.Contains(href, "://") || strings.HasPrefix(href, "//") ||
			strings.HasPrefix(href, "data:") {
			return "", false
		}
		if strings.HasPrefix(href, "/") {
			return filepath.Join(filepath.Dir(file), filepath.FromSlash(unescape(href))), true
		}
		return filepath.Join(filepath.Dir(from), filepath.FromSlash(unescape(href))), true
	}
	load := func(from, href string) (string, []byte, error) {
		p, ok := local(from, href)
		if !ok {
			return "", nil, errors.New("not a file beside the page; nothing is fetched")
		}
		b, err := os.ReadFile(p)
		return p, b, err
	}
	return from(file, data, load, stock)
}

// FromFolder prepares an HTML file of a folder: links are followed in it and nowhere else. The name of the file, and
// those that positions show, are paths in the folder.
func FromFolder(folder fs.FS, file string, stock fs.FS) (*Prepared, error) {
	if info, err := fs.Stat(folder, file); err == nil && info.Size() > mostPage {
		return nil, fmt.Errorf("read %s: the file has %d MB, and %d are the most of one page: cut it in two", file,
			info.Size()>>20, mostPage>>20)
	}
	data, err := fs.ReadFile(folder, file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	if wide := bytes.HasPrefix(data, []byte("\xff\xfe")) || bytes.HasPrefix(data, []byte("\xfe\xff")); wide { // UTF-16
		data = []byte(decoded(data))
	}
	if strings.ContainsRune(string(data[:min(len(data), 1024)]), 0) {
		return nil, fmt.Errorf("read %s: this is not an HTML file", file)
	}
	load := func(from, href string) (string, []byte, error) {
		href, _, _ = strings.Cut(href, "#")
		href, _, _ = strings.Cut(href, "?")
		p := path.Join(path.Dir(from), unescape(href))
		if strings.HasPrefix(href, "/") {
			p = path.Clean(strings.TrimPrefix(unescape(href), "/"))
		}
		if href == "" || strings.Contains(href, ":") || strings.HasPrefix(href, "//") || !fs.ValidPath(p) {
			return "", nil, errors.New("not a file in the page's folder; nothing else is read")
		}
		b, err := fs.ReadFile(folder, p)
		return p, b, err
	}
	return from(file, data, load, stock)
}

// from prepares an HTML file, which may be in an old encoding. load gives the files that it names.
func from(
	file string,
	data []byte,
	load func(from, href string) (string, []byte, error),
	stock fs.FS,
) (*Prepared, error) {
	src := css.Source{File: file, HTML: decoded(data), Load: load}
	doc, err := css.Load(src)
	if err != nil {
		return nil, err
	}
	set, err := StockFonts(stock)
	if err != nil {
		return nil, err
	}
	var entries []*font.Entry
	for _, f := range doc.FontFaces {
		for _, src := range f.Sources {
			if _, b, err := load(f.From, src); err == nil {
				e := &font.Entry{Family: f.Family, WeightLow: f.WeightLow,
					WeightHigh: f.WeightHigh, StretchLow: f.Stretch[0], StretchHigh: f.Stretch[1],
					Italic:   f.Italic,
					SlantLow: f.Slant[0], SlantHigh: f.Slant[1], Ranges: f.Ranges, SizeAdjust: f.SizeAdjust,
					Ascent: f.Overrides[0], Descent: f.Overrides[1], Gap: f.Overrides[2], Data: b}
				if set.Readable(e) {
					entries = append(entries, e)
					break
				}
			}
		}
	}
	l := &Prepared{
		Name:   file,
		Doc:    doc,
		Looks:  &media.Looks{},
		fonts:  reaching(set.With(entries), src.HTML),
		source: src,
	}
	var mu sync.Mutex
	known := map[string][2]float64{}
	l.picture = func(src string) (float64, float64, bool) {
		mu.Lock()
		defer mu.Unlock()
		src, _, _ = strings.Cut(src, "?")
		if s, ok := known[src]; ok {
			return s[0], s[1], s[0] > 0
		}
		var w, h float64
		if _, b, err := load(file, src); err == nil {
			w, h, _ = media.Size(src, b)
		}
		known[src] = [2]float64{w, h}
		return w, h, w > 0
	}
	l.file = func(src string) ([]byte, bool) {
		src, _, _ = strings.Cut(src, "?")
		_, b, err := load(file, src)
		return b, err == nil
	}
	l.Blocks = foreign(doc)
	return l, nil
}

// mostPage is how large a page of a folder may be, bytes.
const mostPage = 16 << 20

// decoded reads a page in the encoding that it names (HTML, 13.2.3.2), as UTF-8. Bytes that are UTF-8 already stay.
func decoded(data []byte) string {
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	if utf8.Valid(data) {
		return string(data)
	}
	enc, _, _ := charset.DetermineEncoding(data, "text/html")
	out, err := enc.NewDecoder().Bytes(data)
	if err != nil {
		return strings.ToValidUTF8(string(data), "\ufffd")
	}
	return string(out)
}

// Map sweeps a page and returns how its blocks stack. visit, if given, sees every layout as well. A sweep that was
// stopped gives the arrangements up to the first width that it did not reach.
func (l *Prepared) Map(from, to int, visit func(width int, r *layout.Result)) []Stacking {
	n := to - from + 1
	if n < 1 {
		return nil
	}
	every, columns := l.Every(), 0
	for _, b := range every {
		columns += 1 + len(b.inside)
	}
	seen := make([][]string, n)
	l.Each(from, to, func(w int, r *layout.Result) {
		row := make([]string, 0, columns)
		for _, b := range every {
			row = append(row, b.Arrangement(r))
			for _, g := range b.inside {
				row = append(row, g.arrangement(r))
			}
		}
		seen[w-from] = row
		if visit != nil {
			visit(w, r)
		}
	})
	if end := slices.IndexFunc(seen, func(row []string) bool { return row == nil }); end >= 0 { // stopped
		seen = seen[:end]
	}
	var out []Stacking
	col := 0
	spans := func() []Span {
		var list []Span
		for i, row := range seen {
			if len(list) > 0 && list[len(list)-1].As == row[col] {
				list[len(list)-1].To = from + i
				continue
			}
			list = append(list, Span{from + i, from + i, row[col]})
		}
		col++
		return list
	}
	for _, b := range every {
		s := Stacking{Name: b.Name, Section: b.Section, Arrangements: spans()}
		for _, g := range b.inside {
			s.Inside = append(s.Inside, Inside{g.part, spans()})
		}
		out = append(out, s)
	}
	return out
}
