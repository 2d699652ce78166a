// Package handover gathers what a developer who takes a site over has to know of it: its theme as it is seen and as
// tokens, every block with its options, states, measures, code and drawings, its pages as they are read and tabbed
// through, the widths at which something changes, and what has changed since the last time. All of it is taken from the
// site as it is laid out and painted; nothing is told twice by hand.
package handover

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/paint/vector"
	"ziegel/core/project"
	"ziegel/core/sweep"
)

// Widths are the screens that pictures are taken on, CSS px.
var Widths = []int{390, 820, 1280}

// Book is what is handed over.
type Book struct {
	Site, Address, Language string
	Theme                   *Theme
	Pages                   []*Page
	Icons                   []Icon
	Pictures                []Picture
	Fonts                   []Font
	Changes                 []Change
	// Since is the day of the last time, "" when this is the first.
	Since string
	// Files are what the book names, by path: pictures, drawings, code, tokens.
	Files map[string][]byte
	// Record is what the next time is held against.
	Record Record
	Notes  []string // what is not drawn as browsers do
}

// Page is a page of the site.
type Page struct {
	Name, Title, Description, Path string
	Whole                          []Shown // at each of Widths
	States                         Shown   // what can be pressed, in its states
	Order                          Shown   // what the tab key reaches, numbered
	Stops                          int
	Outline                        []Line
	Changes                        []Width // where an arrangement changes
	Blocks                         []*Block
}

// Shown is a picture among Files.
type Shown struct {
	File  string
	Width int     // of the screen, CSS px
	W, H  float64 // of the picture, CSS px
	Alt   string
}

// Line is a heading or a landmark of a page.
type Line struct {
	Role, Text string
	Level      int // of a heading, 0 for a landmark
	Depth      int
}

// Width is a screen width at which blocks change their arrangement.
type Width struct {
	Px  int
	Who []string // plans: a column becomes 3 columns
}

// Block is one block of a page.
type Block struct {
	Name, Section, Summary, Tone string
	Everywhere                   bool // on every page
	Options                      []Option
	Fields                       []string
	Arrangements                 []sweep.Span
	Seen                         []Shown // at each of Widths
	Measured                     []Shown // with its distances, narrow and wide
	Drawings                     []Drawing
	HTML, CSS                    string
	Code                         []string // files: the markup, and all styles that it needs
}

// Option is a choice of a section.
type Option struct {
	Name, Value, Summary string
	Choices              []string
	Own                  bool // not what it would be anyway
}

// Drawing is a part as a vector drawing of its own.
type Drawing struct {
	Part, File string
	W, H       float64
}

// Subject is a page that is laid out, with how its blocks stack.
type Subject struct {
	Page   *sweep.Prepared
	Stacks []sweep.Stacking
}

// maker makes a book.
type maker struct {
	e       *project.Project
	book    *Book
	files   *paint.Files
	numbers layout.Options
	told    map[string]bool
	trees   map[string]*builtPage
}

// Make gathers everything. The pages are those of the site, in its order. last is what the last time has kept.
func Make(e *project.Project, subjects []Subject, last *Last) (*Book, error) {
	fonts, err := draw.SheetFonts(e.Stock)
	if err != nil {
		return nil, err
	}
	m := &maker{e: e, files: paint.NewFiles(), numbers: layout.Options{Fonts: fonts}, told: map[string]bool{},
		trees: map[string]*builtPage{},
		book:  &Book{Site: e.Site.Name, Address: e.Site.Address, Language: e.Site.Language, Files: map[string][]byte{}}}
	if m.book.Theme, err = themeOf(e, m.book.Files); err != nil {
		return nil, err
	}
	everywhere := map[string]bool{}
	for _, s := range subjects {
		p, err := m.page(s, everywhere)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", s.Page.Name, err)
		}
		m.book.Pages = append(m.book.Pages, p)
	}
	m.assets(subjects)
	m.record()
	m.compare(last)
	return m.book, nil
}

// page gathers one page. Blocks that stand on every page are gathered on the first one that has them.
func (m *maker) page(s Subject, everywhere map[string]bool) (*Page, error) {
	l := s.Page
	sp := m.e.Site.Page(l.Name)
	p := &Page{Name: l.Name, Title: sp.Title, Description: sp.Description, Path: project.PagePath(l.Name)}
	look := draw.Look{Files: m.files}
	shots, err := draw.AtWidths(l, Widths, draw.Target{}, look)
	if err != nil {
		return nil, err
	}
	for _, sh := range shots {
		one, err := m.picture(fmt.Sprintf("pictures/%s-%d.png", p.Name, sh.Width), sh,
			fmt.Sprintf("The page %s at %d px", p.Name, sh.Width))
		if err != nil {
			return nil, err
		}
		p.Whole = append(p.Whole, one)
	}
	wide := shots[len(shots)-1]
	tabs, stops := draw.TabOrder(l, wide, m.numbers)
	if p.Stops = stops; stops > 0 {
		if p.Order, err = m.picture("pictures/"+p.Name+"-tab-order.png", tabs, "What the tab key reaches, numbered"); err != nil {
			return nil, err
		}
	}
	if p.States, err = m.states(l, wide.Width); err != nil {
		return nil, err
	}
	p.Outline = outline(wide)
	p.Changes = widthsOf(s.Stacks)
	for _, b := range m.e.Site.All(sp) {
		sb := l.Block(b.Name)
		if sb == nil || everywhere[b.Name] {
			continue
		}
		everywhere[b.Name] = b.EveryPage != ""
		one, err := m.block(l, b, sb, s.Stacks)
		if err != nil {
			return nil, err
		}
		p.Blocks = append(p.Blocks, one)
	}
	return p, nil
}

func (m *maker) states(l *sweep.Prepared, width int) (Shown, error) {
	sheet, err := draw.States(l, width, draw.Look{Files: m.files})
	if err != nil {
		return Shown{}, err
	}
	list, err := sheet.List(m.e.Stock, m.files, 1)
	if err != nil {
		return Shown{}, err
	}
	img, err := raster.Draw(list, raster.Options{})
	if err != nil {
		return Shown{}, err
	}
	var b bytes.Buffer
	if err := raster.EncodePNG(&b, img); err != nil {
		return Shown{}, err
	}
	file := "pictures/" + l.Name + "-states.png"
	m.book.Files[file] = b.Bytes()
	return Shown{File: file, Width: width, W: list.W, H: list.H, Alt: "Actions, links and fields at rest, under the pointer, with the focus, pressed"}, nil
}

// picture draws a shot into a file.
func (m *maker) picture(file string, sh *draw.Shot, alt string) (Shown, error) {
	img, err := raster.Draw(sh.List, raster.Options{Scale: 1, Area: &sh.Area})
	if err != nil {
		return Shown{}, err
	}
	var b bytes.Buffer
	if err := raster.EncodePNG(&b, img); err != nil {
		return Shown{}, err
	}
	m.book.Files[file] = b.Bytes()
	for _, x := range sh.List.Missed {
		if !m.told[x.What] {
			m.told[x.What] = true
			m.book.Notes = append(m.book.Notes, sh.Page.Name+": not drawn: "+x.What)
		}
	}
	return Shown{File: file, Width: sh.Width, W: sh.Area.W(), H: sh.Area.H(), Alt: alt}, nil
}

// drawing writes a part as SVG, with its letters as shapes.
func (m *maker) drawing(file, part string, sh *draw.Shot) (Drawing, error) {
	var b bytes.Buffer
	if err := vector.SVG(&b, sh.List, vector.SVGOptions{Area: &sh.Area, Outlines: true, Title: part}); err != nil {
		return Drawing{}, err
	}
	m.book.Files[file] = b.Bytes()
	return Drawing{Part: part, File: file, W: sh.Area.W(), H: sh.Area.H()}, nil
}

// widthsOf lists the widths at which arrangements change, the narrowest first.
func widthsOf(stacks []sweep.Stacking) (out []Width) {
	at := map[int][]string{}
	note := func(name string, spans []sweep.Span) {
		for i := 1; i < len(spans); i++ {
			at[spans[i].From] = append(at[spans[i].From], fmt.Sprintf("%s: %s, below it %s", name, spans[i].As, spans[i-1].As))
		}
	}
	for _, st := range stacks {
		note(st.Name, st.Arrangements)
		for _, in := range st.Inside {
			note(st.Name+"."+in.Part, in.Arrangements)
		}
	}
	for px, who := range at {
		out = append(out, Width{px, who})
	}
	slices.SortFunc(out, func(a, b Width) int { return a.Px - b.Px })
	return out
}

func sumOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

func slug(s string) string { return strings.ReplaceAll(s, "/", "-") }
