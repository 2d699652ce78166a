// Package draw makes pictures of pages, blocks and parts, and sheets that show several of them: it lays pages out, has
// them painted, and sets what belongs together on one sheet, which is a page itself.
package draw

import (
	"fmt"
	"math"
	"path"
	"runtime"
	"slices"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/measure"
	"ziegel/core/media"
	"ziegel/core/naming"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/parallel"
	"ziegel/core/sweep"
)

// Look is how something is looked at.
type Look struct {
	Scale float64  // device pixels a CSS px; 0 means 1
	Dark  bool     // in dark colors
	State []string // what can be is in these states: hover, focus-visible, active
	// Alone draws a block or a part without what lies behind and over it.
	Alone bool
	Files *paint.Files
}

// Target is what is looked at: a page, a block of it, a part of that, the Item-th of its kind (0 for the first).
type Target struct {
	Block, Part string
	Item        int
}

// Shot is a picture of a target at one width.
type Shot struct {
	Name   string // as it was asked for
	Width  int    // of the screen, CSS px
	List   *display.List
	Area   geom.Rect // the part of the page that it shows, CSS px
	Result *layout.Result
	Page   *sweep.Prepared
	// Replaced are families of fonts that are not there, others having taken their place.
	Replaced []string
}

// Of takes a page at a width.
func Of(l *sweep.Prepared, width int, t Target, how Look) (*Shot, error) {
	page := *l
	page.Dark = how.Dark
	l = &page
	if len(how.State) > 0 {
		l = l.Touched(how.State...)
	}
	zoom := 1.0
	if how.Scale > 1 && !how.Alone { // laid out in device pixels, as on a screen that has more of them
		zoom = how.Scale
		l.Zoom = zoom
	}
	engine := l.Engine()
	r := engine.Layout(width)
	shot := &Shot{Name: l.Name, Width: width, Result: r, Page: l, Replaced: engine.ReplacedFonts()}
	o := paint.Options{File: l.File, Source: r.Source, Scale: how.Scale / zoom, Dark: how.Dark, Files: how.Files}
	if l.Page != nil {
		o.Stand = standFor(l)
	}
	shot.Area = geom.R(0, 0, float64(width), r.Height.Float()/zoom)
	if t.Block != "" {
		el, err := find(l, r, t)
		if err != nil {
			return nil, err
		}
		i := r.ByIndex[el.Index]
		if i < 0 || r.Boxes[i].W == 0 && r.Boxes[i].H == 0 {
			return nil, fmt.Errorf("%s has no box at %d px: it is not shown there", t, width)
		}
		b := r.Boxes[i].Rect
		shot.Area = geom.Rect{X0: math.Floor(b.X.Float() / zoom), Y0: math.Floor(b.Y.Float() / zoom),
			X1: math.Ceil(b.Right().Float() / zoom), Y1: math.Ceil(b.Bottom().Float() / zoom)}
		if how.Alone {
			o.Only = el
		} else {
			within := geom.Rect{X0: shot.Area.X0 * zoom, Y0: shot.Area.Y0 * zoom, X1: shot.Area.X1 * zoom,
				Y1: shot.Area.Y1 * zoom}
			o.Within = &within
		}
		shot.Name = t.String()
	}
	shot.List = inPx(paint.Page(engine, r, o), zoom)
	return shot, nil
}

// AtWidths takes a target at several widths, several at a time.
func AtWidths(l *sweep.Prepared, widths []int, t Target, how Look) ([]*Shot, error) {
	if how.Files == nil {
		how.Files = paint.NewFiles()
	}
	out, errs := make([]*Shot, len(widths)), make([]error, len(widths))
	parallel.Each(runtime.GOMAXPROCS(0), len(widths), func(_, i int) bool {
		out[i], errs[i] = Of(l, widths[i], t, how)
		return true
	})
	for _, err := range errs {
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// standFor gives what draws a place holder for a picture of a site that is not there yet: its name, how large it has to
// be, what it is for.
func standFor(l *sweep.Prepared) func(el *css.Element, src string, w, h float64) []byte {
	page := *l
	page.Zoom = 0
	needed := measure.Needed(&page)
	return func(el *css.Element, src string, w, h float64) []byte {
		nw, nh := needed(el)
		lines := []string{path.Base(src), fmt.Sprintf("at least %d x %d px", nw, nh)}
		if alt := el.Attr("alt"); alt != "" {
			lines = append(lines, alt)
		}
		return media.Placeholder(src, w, h, lines...)
	}
}

// String names a target as an address does, without its page.
func (t Target) String() string {
	out := t.Block
	if t.Part != "" {
		out += "." + t.Part
	}
	if t.Item > 0 {
		out += fmt.Sprintf("[%d]", t.Item)
	}
	return out
}

// find gives the element of a block or a part.
func find(l *sweep.Prepared, r *layout.Result, t Target) (*css.Element, error) {
	b := l.Block(t.Block)
	if b == nil {
		return nil, fmt.Errorf("there is no block %s on the page", t.Block)
	}
	if t.Part == "" || t.Part == "block" {
		return b.Element, nil
	}
	n := 0
	var names []string
	for i := range r.Boxes {
		el := r.Boxes[i].Element
		block, part, item := naming.Place(l, el)
		if block != t.Block || part == "" {
			continue
		}
		if !slices.Contains(names, part) {
			names = append(names, part)
		}
		if part != t.Part {
			continue
		}
		if n++; t.Item == 0 || t.Item == item || item == 0 && t.Item == n {
			return el, nil
		}
	}
	if n > 0 {
		return nil, fmt.Errorf("%s has %s of %s, and not number %d", t.Block, diag.Plural(n, "part"), t.Part, t.Item)
	}
	return nil, diag.Unknown("part of "+t.Block, t.Part, names, "")
}

// inPx gives a list in device pixels as one in CSS px.
func inPx(l *display.List, zoom float64) *display.List {
	if zoom == 1 {
		return l
	}
	g := display.Plain(l.Items...)
	g.Matrix = geom.Scale(1/zoom, 1/zoom)
	out := &display.List{W: l.W / zoom, H: l.H / zoom, Items: []display.Item{g}, Missed: l.Missed}
	for _, link := range l.Links {
		out.Links = append(out.Links, display.Link{Rect: g.Matrix.Rect(link.Rect), To: link.To})
	}
	return out
}
