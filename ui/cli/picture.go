package cli

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
	"ziegel/core/paint/vector"
	"ziegel/core/styles"
	"ziegel/stock"
)

// drawing is what draw was asked for.
type drawing struct {
	at, to, scheme, state string
	sheet                 string // "" or which sheet
	since                 string // a commit, branch or tag
	dryRun                bool
	scale                 float64
	outlines              bool
	moments               int    // of a film strip, 0 for none
	of                    string // the motion that it shows
	widths                []int
}

// read checks what was typed.
func (o *drawing) read() (err error) {
	if o.widths, err = parseWidths(o.at); err != nil {
		return err
	}
	if o.sheet != "" && !slices.Contains(sheetNames, o.sheet) {
		return diag.Unknown("sheet", o.sheet, sheetNames, "")
	}
	if o.scheme != "light" && o.scheme != "dark" {
		return fmt.Errorf("--scheme cannot be %q: use light or dark", o.scheme)
	}
	if !(o.scale >= .1 && o.scale <= 4) {
		return fmt.Errorf("--scale %g is too far from 1: give 0.1 to 4", o.scale)
	}
	if o.state != "" {
		name, ok := styles.CanonicalState(o.state)
		if !ok || !slices.Contains([]string{":hover", ":focus-visible", ":active", currentState}, name) {
			return diag.Unknown("state", o.state, drawnStates, " that can be drawn")
		}
	}
	if o.to == "" {
		return nil
	}
	switch strings.ToLower(filepath.Ext(o.to)) {
	case ".png", ".svg", ".pdf":
	default:
		return fmt.Errorf("--to %s: a picture is a file that ends in .png, .svg or .pdf", o.to)
	}
	if o.outlines && strings.ToLower(filepath.Ext(o.to)) != ".svg" {
		return errors.New("--outlines says how letters stand in an .svg; in other pictures there is no choice")
	}
	return nil
}

// states gives the pseudo-classes that a state stands for.
func (o *drawing) states() []string {
	switch name, _ := styles.CanonicalState(o.state); name {
	case ":hover":
		return []string{"hover"}
	case ":focus-visible":
		return []string{"focus", "focus-visible", "focus-within"}
	case ":active":
		return []string{"hover", "active"}
	case currentState:
		return []string{"current"}
	}
	return nil
}

// currentState is how styles call the state of a link that leads to the page that it stands on.
const currentState = ":current"

// drawnStates are those that a picture can show.
var drawnStates = []string{"hover", "focus", "pressed", "current"}

// sheetNames are the sheets that there are.
var sheetNames = []string{"blocks", "sections", "crops", "icons", "states", "seams"}

// writeList writes a whole list as what its file ends in.
func (a *app) writeList(o *drawing, title string, list *display.List) error {
	area := geom.R(0, 0, list.W, list.H)
	if !strings.EqualFold(filepath.Ext(o.to), ".pdf") {
		return a.writePicture(o, title, list, area)
	}
	var b bytes.Buffer
	if err := vector.PDF(&b, title, []vector.PDFPage{{List: list, Area: area}}); err != nil {
		return err
	}
	if err := a.save(o.to, b.Bytes()); err != nil {
		return err
	}
	a.answer("drew %s to %s: vectors, %s", title, o.to, size(b.Len()))
	return nil
}

// writePicture writes a list as PNG or SVG.
func (a *app) writePicture(o *drawing, title string, list *display.List, area geom.Rect) error {
	var b bytes.Buffer
	kind := strings.ToLower(filepath.Ext(o.to))
	if err := o.encode(&b, title, list, area); err != nil {
		return err
	}
	if err := a.save(o.to, b.Bytes()); err != nil {
		return err
	}
	dims := fmt.Sprintf("%.0f x %.0f px", area.W()*o.scale, area.H()*o.scale)
	if kind == ".svg" {
		dims = fmt.Sprintf("%.0f x %.0f px, vectors", area.W(), area.H())
	}
	a.answer("drew %s to %s: %s, %s", title, o.to, dims, size(b.Len()))
	return nil
}

// encode writes a list as what the file ends in.
func (o *drawing) encode(w io.Writer, title string, list *display.List, area geom.Rect) error {
	if strings.EqualFold(filepath.Ext(o.to), ".svg") {
		return vector.SVG(w, list, vector.SVGOptions{Area: &area, Outlines: o.outlines, Title: title})
	}
	img, err := raster.Draw(list, raster.Options{Scale: o.scale, Area: &area})
	if err != nil {
		return err
	}
	return raster.EncodePNG(w, img)
}

// size writes bytes for people.
func size(n int) string {
	if n < 10000 {
		return fmt.Sprintf("%d bytes", n)
	}
	return fmt.Sprintf("%d kB", (n+500)/1000)
}

// writeSheet writes a sheet as what its file ends in.
func (a *app) writeSheet(o *drawing, title string, sheet *draw.Sheet, files *paint.Files) error {
	list, err := sheet.List(stock.Files, files, o.scale)
	if err != nil {
		return err
	}
	return a.writeList(o, title, list)
}

// drawn finds what is to be drawn.
func (a *app) drawn(arg string) (*check.Subject, draw.Target, error) {
	var t draw.Target
	if isFile(arg) {
		s, err := a.subject(arg)
		return s, t, err
	}
	e, _, err := a.open()
	if err != nil {
		return nil, t, err
	}
	ad, err := address.Parse(arg)
	if err != nil {
		return nil, t, err
	}
	if ad, err = ad.In(e); err != nil {
		return nil, t, err
	}
	if ad.Property != "" || ad.Place != "" && ad.Index == 0 {
		return nil, t, fmt.Errorf("%s says more than draw uses: give a page, a block such as home/plans, or a part such as home/plans.card[2]", arg)
	}
	if ad.Block == "" {
		p, err := address.FindPage(e, ad.Page)
		if err != nil {
			return nil, t, err
		}
		s, err := check.Lay(e, p, nil)
		return s, t, err
	}
	page, b, err := address.FindBlock(e, ad)
	if err != nil {
		return nil, t, err
	}
	s, err := check.Lay(e, page, nil)
	return s, draw.Target{Block: b.Name, Part: ad.Part, Item: ad.Index}, err
}
