package sweep

import (
	"fmt"
	"runtime"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/parallel"
	"ziegel/core/styles"
)

// With gives the same page on another screen.
func (l *Prepared) With(s Screen) *Prepared {
	other := *l
	other.Screen = s
	return &other
}

// In gives the same page with every element in some states (hover, focus-visible).
func (l *Prepared) In(states ...string) (*Prepared, error) { return l.as(states, false) }

// Touched gives the same page in some states, of which only what can have the focus is in those that speak of it; only
// links are current.
func (l *Prepared) Touched(states ...string) *Prepared {
	return l.of(l.Doc.InWhere(func(e *css.Element) []string {
		return slices.DeleteFunc(slices.Clone(states), func(s string) bool {
			return (s == "focus" || s == "focus-visible") && !canFocus(e) || s == "current" && e.Tag != "a"
		})
	}))
}

// canFocus reports an element that the keyboard reaches.
func canFocus(e *css.Element) bool {
	switch e.Tag {
	case "a":
		return e.Attr("href") != ""
	case "button", "input", "select", "textarea", "summary":
		return true
	}
	_, indexed := e.LookupAttr("tabindex")
	return indexed
}

// Still gives the same page with every element in some states, and transforms taken off: what moves then moves the
// layout.
func (l *Prepared) Still(states ...string) (*Prepared, error) { return l.as(states, true) }

func (l *Prepared) as(states []string, still bool) (*Prepared, error) {
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
	return l.of(doc), nil
}

// Styled gives the same page with a style sheet more, which comes last; still takes transforms off. Elements keep their
// places.
func (l *Prepared) Styled(sheet string, still bool, states ...string) (*Prepared, error) {
	src := l.source
	src.HTML += "<style>" + sheet + "</style>"
	src.States, src.Still = states, still
	doc, err := css.Load(src)
	if err != nil {
		return nil, err
	}
	return l.of(doc), nil
}

// of gives the same page with another document of the same elements.
func (l *Prepared) of(doc *css.Document) *Prepared {
	other := *l
	other.Doc, other.Blocks = doc, nil
	if l.Page != nil {
		other.Blocks = marked(doc)
		for _, b := range other.Every() {
			b.Section = l.Block(b.Name).Section
		}
	}
	return &other
}

// Faces lists the fonts that a style is set in, those to try first before the others. It is for one goroutine at a
// time.
func (l *Prepared) Faces(s *css.Style) []*font.Face { return l.fonts.Find(layout.WantOf(s)) }

// Engine returns a layout engine of its own, for one goroutine.
func (l *Prepared) Engine() *layout.Engine {
	return layout.New(l.Doc, layout.Options{Fonts: l.fonts.Clone(), Picture: l.picture, Height: l.Height,
		Scrollbar: l.Scrollbar, Text: l.Text, Dark: l.Dark, Zoom: l.Zoom})
}

// Picture gives the size of a picture file by its address on the page, in its own pixels.
func (l *Prepared) Picture(src string) (w, h float64, ok bool) {
	if l.picture == nil {
		return 0, 0, false
	}
	return l.picture(src)
}

// File gives the bytes of a picture file by its address on the page.
func (l *Prepared) File(src string) ([]byte, bool) {
	if l.file == nil {
		return nil, false
	}
	return l.file(src)
}

// Origin tells where a declaration was written that won on an element with a style, in the designer's files if it
// comes from there.
func (l *Prepared) Origin(e *css.Element, s *css.Style, property string) (diag.Position, bool) {
	sheet, pos, ok := s.Declared(property)
	if !ok || sheet.Source == "" { // an attribute says it, whose place is not known
		return diag.Position{}, false
	}
	return l.Written(sheet, pos, e.Classes...), true
}

// Written gives the place of a sheet's text in the designer's files if it comes from there, else in the sheet. In a
// rule that several places share, classes tell which one is meant.
func (l *Prepared) Written(sheet *css.Sheet, pos int, classes ...string) diag.Position {
	if l.Page != nil {
		for _, own := range []*styles.Sheet{l.Page.Site, l.Page.Own} {
			if own.Name == sheet.File {
				return l.shown(own.Origin(pos, classes...))
			}
		}
	}
	return diag.At(sheet.File, sheet.Source, pos)
}

// shown names a place by a file that the designer can find: what ships with the program says so, and a generated
// sheet is the built one.
func (l *Prepared) shown(pos diag.Position) diag.Position {
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
	if !strings.HasPrefix(d.Property, "@") && !css.KnownProperty(d.Property) {
		text := fmt.Sprintf("no property is known here as %s, so %q says nothing", d.Property, d.Property+": "+d.Value)
		if near := diag.Nearest(d.Property, css.PropertyNames()); near != "" {
			text += "; is it " + near + "?"
		}
		return text
	}
	return fmt.Sprintf("%s: %s is not followed by the layout yet, so boxes may differ from a browser's",
		d.Property, d.Value)
}

// Doubts lists what the page uses and the layout does not follow, and the fonts that it names and does not bring.
func (l *Prepared) Doubts() []Doubt {
	e := layout.New(l.Doc, layout.Options{Fonts: l.fonts.Clone(), Picture: l.picture})
	e.Layout(1280)
	return l.DoubtsWith(e.ReplacedFonts())
}

// DoubtsWith is Doubts where it is known which families are missing, of a layout that was made anyway.
func (l *Prepared) DoubtsWith(families []string) []Doubt {
	var out []Doubt
	for _, u := range l.Doc.Unsupported {
		out = append(out, Doubt{Rule: "not-modelled", Property: u.Property, Value: u.Value,
			At: l.Written(u.Sheet, u.Pos)})
	}
	for _, family := range families {
		out = append(out, Doubt{Rule: "replaced-font", Property: "font-family", Value: family})
	}
	return out
}

// Each lays the page out at every width from..to and calls visit, from several goroutines at once, in no order. The
// result and all that it points to serve for the next width when visit returns.
func (l *Prepared) Each(from, to int, visit func(width int, r *layout.Result)) {
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
