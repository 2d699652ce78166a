// Package sweep lays a page out at every width of a span and says how each block stacks, and at which widths that
// changes.
package sweep

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/parallel"
)

// The span that is swept unless told otherwise, CSS px.
const (
	DefaultFrom = 240
	DefaultTo   = 2560
)

// Laid is a document with what is needed to lay it out.
type Laid struct {
	Name    string
	Doc     *css.Document
	Page    *compose.Page // nil for a foreign file
	Blocks  []*Block
	Looks   *media.Looks // what pictures show
	fonts   *font.Set
	source  css.Source
	picture func(src string) (w, h float64, ok bool)
	file    func(src string) ([]byte, bool)
	shipped func(file string) bool // a section's file that is not in the site's folder
	Screen
	Dark bool
	// Step, if given, is called after every layout, by several goroutines at once. A sweep ends early when it answers
	// false.
	Step func() bool
	// Workers is how many goroutines lay widths out; 0 means as many as there are cores for. Each works out styles
	// anew, so that several pages at once, one goroutine each, cost less than one page after the other.
	Workers int
}

// Screen is what a page is shown on, beside its width. The zero value is a screen 900 px high whose scrollbars take
// no room.
type Screen struct {
	Height    int     // CSS px; 0 means 900
	Scrollbar int     // CSS px that a scrollbar at the side takes
	Text      float64 // size of text that the page does not set, CSS px; 0 means 16
}

// With gives the same page on another screen.
func (l *Laid) With(s Screen) *Laid {
	other := *l
	other.Screen = s
	return &other
}

// In gives the same page with every element in some states (hover, focus-visible).
func (l *Laid) In(states ...string) (*Laid, error) { return l.as(states, false) }

// Still gives the same page with every element in some states, and transforms taken off: what moves then moves the
// layout.
func (l *Laid) Still(states ...string) (*Laid, error) { return l.as(states, true) }

func (l *Laid) as(states []string, still bool) (*Laid, error) {
	var doc *css.Document
	if still {
		src := l.source
		src.States, src.Still = states, true
		var err error
		if doc, err = css.Load(src); err != nil {
			return nil, err
		}
	} else {
		doc = l.Doc.In(states...)
	}
	other := *l
	other.Doc, other.Blocks = doc, nil
	if l.Page != nil {
		other.Blocks = marked(doc)
		for _, b := range other.Every() {
			b.Section = l.Block(b.Name).Section
		}
	}
	return &other, nil
}

// Faces lists the fonts that a style is set in, those to try first before the others. It is for one goroutine at a
// time.
func (l *Laid) Faces(s *css.Style) []*font.Face { return l.fonts.Find(layout.WantOf(s)) }

// FromPage prepares a composed page (with marks).
func FromPage(e *compose.Env, p *compose.Page) (*Laid, error) {
	sheets := map[string]*compose.Sheet{p.Site.Name: p.Site, p.Own.Name: p.Own}
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
		entry := plainFont(f.Family, float64(f.Weight), f.Italic, data)
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
	l := &Laid{Name: p.Name, Doc: doc, Page: p, Looks: e.Looks, fonts: stock.With(entries), source: src}
	sizes := map[string][2]float64{}
	for _, m := range p.Media {
		if data, err := e.MediaFile(m); err == nil {
			if w, h, err := media.Size(m, data); err == nil {
				sizes[m] = [2]float64{w, h}
			}
		}
	}
	l.picture = func(src string) (float64, float64, bool) {
		name, _ := compose.MediaName(src)
		s, ok := sizes[name]
		return s[0], s[1], ok
	}
	l.file = func(src string) ([]byte, bool) {
		name, ok := compose.MediaName(src)
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

// plainFonts keeps the shipped fonts that pages have used, so that they are read once, however often a page is laid
// out anew.
var plainFonts sync.Map

type plainFontKey struct {
	family string
	weight float64
	italic bool
	size   int
}

func plainFont(family string, weight float64, italic bool, data []byte) *font.Entry {
	key := plainFontKey{family, weight, italic, len(data)}
	if e, ok := plainFonts.Load(key); ok && bytes.Equal(e.(*font.Entry).Data, data) {
		return e.(*font.Entry)
	}
	e := font.Plain(family, weight, italic, data)
	plainFonts.Store(key, e)
	return e
}

func unescape(s string) string {
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] == '%' && i+2 < len(s) {
			var v int
			if _, err := fmt.Sscanf(s[i+1:i+3], "%02X", &v); err == nil {
				b.WriteByte(byte(v))
				i += 2
				continue
			}
		}
		b.WriteByte(s[i])
	}
	return b.String()
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
	}
	// The families behind the generic names in Chromium on Debian (measured), by faces of the same widths.
	serif, sans := []string{"tinos", "serif symbols"}, []string{"arimo", "sans symbols"}
	stockOnce.set = font.NewSet(entries, map[string][]string{"": {"tinos", "serif symbols", "wide symbols"}, "serif": serif, "times": serif, "times new roman": serif, "liberation serif": serif,
		"sans-serif": sans, "arial": sans, "helvetica": sans, "liberation sans": sans, "monospace": {"dejavu mono"}, "system-ui": {"dejavu sans"}, "ui-sans-serif": serif,
		"dejavu sans": {"dejavu sans"}, "dejavu sans mono": {"dejavu mono"}})
	return stockOnce.set, nil
}

// FromFile prepares any HTML file. Links in it are followed on disk, below the folder root that "/" stands for.
func FromFile(file string, stock fs.FS) (*Laid, error) {
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
		if href == "" || strings.Contains(href, "://") || strings.HasPrefix(href, "//") || strings.HasPrefix(href, "data:") {
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
	src := css.Source{File: file, HTML: string(data), Load: load}
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
				if _, err := font.Parse(f.Family, b); err == nil {
					entries = append(entries, &font.Entry{Family: f.Family, WeightLow: f.WeightLow, WeightHigh: f.WeightHigh, StretchLow: f.Stretch[0], StretchHigh: f.Stretch[1], Italic: f.Italic,
						SlantLow: f.Slant[0], SlantHigh: f.Slant[1], Ranges: f.Ranges, SizeAdjust: f.SizeAdjust, Ascent: f.Overrides[0], Descent: f.Overrides[1], Gap: f.Overrides[2], Data: b})
					break
				}
			}
		}
	}
	l := &Laid{Name: file, Doc: doc, Looks: &media.Looks{}, fonts: set.With(entries), source: src}
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

// Engine returns a layout engine of its own, for one goroutine.
func (l *Laid) Engine() *layout.Engine {
	return layout.New(l.Doc, layout.Options{Fonts: l.fonts.Clone(), Picture: l.picture, Height: l.Height, Scrollbar: l.Scrollbar, Text: l.Text, Dark: l.Dark})
}

// Picture gives the size of a picture file by its address on the page, in its own pixels.
func (l *Laid) Picture(src string) (w, h float64, ok bool) {
	if l.picture == nil {
		return 0, 0, false
	}
	return l.picture(src)
}

// File gives the bytes of a picture file by its address on the page.
func (l *Laid) File(src string) ([]byte, bool) {
	if l.file == nil {
		return nil, false
	}
	return l.file(src)
}

// Origin tells where a declaration was written that won on an element with a style, in the designer's files if it
// comes from there.
func (l *Laid) Origin(e *css.Element, s *css.Style, property string) (diag.Position, bool) {
	sheet, pos, ok := s.Declared(property)
	if !ok {
		return diag.Position{}, false
	}
	return l.Written(sheet, pos, e.Classes...), true
}

// Written gives the place of a sheet's text in the designer's files if it comes from there, else in the sheet. In a
// rule that several places share, classes tell which one is meant.
func (l *Laid) Written(sheet *css.Sheet, pos int, classes ...string) diag.Position {
	if l.Page != nil {
		for _, own := range []*compose.Sheet{l.Page.Site, l.Page.Own} {
			if own.Name == sheet.File {
				return l.shown(own.Origin(pos, classes...))
			}
		}
	}
	return diag.At(sheet.File, sheet.Source, pos)
}

// shown names a place by a file that the designer can find: what ships with the program says so, and a generated
// sheet is the built one.
func (l *Laid) shown(pos diag.Position) diag.Position {
	switch {
	case pos.File == l.Page.Site.Name || pos.File == l.Page.Own.Name:
		pos.File = "built/" + pos.File
	case strings.HasPrefix(pos.File, "sections/") && l.shipped != nil && l.shipped(pos.File):
		pos.File = "shipped:" + pos.File
	}
	return pos
}

// Doubt is a reason why boxes may differ from a browser's.
type Doubt struct {
	Rule            string // not-modelled or replaced-font
	Property, Value string
	At              diag.Position // of a declaration that the layout does not follow
}

// Text says the doubt in a sentence.
func (d Doubt) Text() string {
	if d.Rule == "replaced-font" {
		return fmt.Sprintf("the page does not bring the font %q; its text was measured in another face", d.Value)
	}
	return fmt.Sprintf("%s: %s is not followed by the layout yet, so boxes may differ from a browser's", d.Property, d.Value)
}

// Doubts lists what the page uses and the layout does not follow, and the fonts that it names and does not bring.
func (l *Laid) Doubts() []Doubt {
	var out []Doubt
	for _, u := range l.Doc.Unsupported {
		out = append(out, Doubt{Rule: "not-modelled", Property: u.Property, Value: u.Value, At: l.Written(u.Sheet, u.Pos)})
	}
	set := l.fonts.Clone()
	layout.New(l.Doc, layout.Options{Fonts: set, Picture: l.picture}).Layout(1280)
	for _, family := range slices.Sorted(maps.Keys(set.Replaced())) {
		out = append(out, Doubt{Rule: "replaced-font", Property: "font-family", Value: family})
	}
	return out
}

// Each lays the page out at every width from..to and calls visit, from several goroutines at once, in no order. The
// result and all that it points to serve for the next width when visit returns.
func (l *Laid) Each(from, to int, visit func(width int, r *layout.Result)) {
	workers := min(runtime.GOMAXPROCS(0), 8, max(1, (to-from+1)/24))
	if l.Workers > 0 {
		workers = min(workers, l.Workers)
	}
	const chunk = 32
	engines := make([]*layout.Engine, workers)
	parallel.Each(workers, (to-from+chunk)/chunk, func(worker, i int) bool {
		if engines[worker] == nil {
			engines[worker] = l.Engine()
		}
		e, start := engines[worker], from+i*chunk
		for w := start; w < start+chunk && w <= to; w++ {
			r := e.Layout(w)
			visit(w, r)
			e.Recycle(r)
			if l.Step != nil && !l.Step() {
				return false
			}
		}
		return true
	})
}
