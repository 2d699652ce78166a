package handover

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"

	"golang.org/x/net/html"

	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/paint/vector"
	"ziegel/core/project"
)

// builtPage is a page as it is built.
type builtPage struct {
	tree   *html.Node
	styles string // its own
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

func sumOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}
