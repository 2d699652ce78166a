// Package handover gathers what a developer who takes a site over has to know of it: its theme as it is seen and as
// tokens, every block with its options, states, measures, code and drawings, its pages as they are read and tabbed
// through, the widths at which something changes, and what has changed since the last time. All of it is taken from the
// site as it is laid out and painted; nothing is told twice by hand.
package handover

import (
	"bytes"
	"fmt"
	"slices"

	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/project"
	"ziegel/core/sweep"
)

// Make gathers everything. The pages are those of the site, in its order. last is what the last time has kept.
func Make(e *project.Project, subjects []Subject, last *Last) (*Book, error) {
	fonts, err := draw.SheetFonts(e.Stock)
	if err != nil {
		return nil, err
	}
	m := &maker{e: e, files: paint.NewFiles(), numbers: layout.Options{Fonts: fonts}, told: map[string]bool{},
		trees: map[string]*builtPage{},
		book: &Book{
			Site:     e.Site.Name,
			Address:  e.Site.Address,
			Language: e.Site.Language,
			Files:    map[string][]byte{},
		}}
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
	p := &Page{Name: l.Name, Title: sp.Title, Description: sp.Description, Path: m.e.Path(l.Name)}
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
		if p.Order, err = m.picture("pictures/"+p.Name+"-tab-order.png", tabs,
			"What the tab key reaches, numbered"); err != nil {
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
	return Shown{
		File:  file,
		Width: width,
		W:     list.W,
		H:     list.H,
		Alt:   "Actions, links and fields at rest, under the pointer, with the focus, pressed",
	}, nil
}

// widthsOf lists the widths at which arrangements change, the narrowest first.
func widthsOf(stacks []sweep.Stacking) (out []Width) {
	at := map[int][]string{}
	note := func(name string, spans []sweep.Span) {
		for i := 1; i < len(spans); i++ {
			at[spans[i].From] = append(
				at[spans[i].From],
				fmt.Sprintf("%s: %s, below it %s", name, spans[i].As, spans[i-1].As),
			)
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
