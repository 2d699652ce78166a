package cli

import (
	"fmt"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/stock"
	"ziegel/ui/report"
)

// mostDrawn is how many findings are drawn.
const mostDrawn = 30

// drawFound writes a picture of what a check has found.
func (a *app) drawFound(file string, list []*check.Subject, reports []*check.Report) error {
	o := &drawing{to: file, at: "1280", scheme: "light", scale: 1}
	if err := o.read(); err != nil {
		return err
	}
	if err := a.mayWrite(file); err != nil {
		return err
	}
	fonts, err := draw.SheetFonts(stock.Files)
	if err != nil {
		return err
	}
	sheet := &draw.Sheet{}
	n, left := 0, 0
	for i, r := range reports {
		if i >= len(list) {
			break
		}
		var marks []draw.Mark
		for _, f := range r.Findings {
			if f.Path == "" || f.Severity == diag.Note {
				continue
			}
			if n >= mostDrawn {
				left++
				continue
			}
			n++
			width := f.Worst
			if width == 0 {
				width = max(f.From, 1)
			}
			if f.To == 0 {
				width = 1280
			}
			marks = append(marks, draw.Mark{Path: f.Path, Width: width, Title: report.Address(r.Page, f),
				Text: f.Text + widthsOf(f) + " [" + f.Rule + "]", Bad: f.Severity == diag.Error})
		}
		if len(marks) == 0 {
			continue
		}
		if err := list[i].Prepare(); err != nil {
			return err
		}
		if err := draw.Found(sheet, list[i].Prepared, marks, layout.Options{Fonts: fonts},
			draw.Look{Files: paint.NewFiles()}); err != nil {
			return err
		}
	}
	if n == 0 {
		a.talkf("nothing was found that could be drawn: %s is not written", file)
		return nil
	}
	if left > 0 {
		sheet.Text("p", fmt.Sprintf("%d more are not drawn.", left))
	}
	return a.writeSheet(o, diag.Plural(n, "finding"), sheet, nil)
}
