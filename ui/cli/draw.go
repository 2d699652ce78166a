package cli

import (
	"bytes"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/motion"
	"ziegel/core/naming"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/vector"
	"ziegel/core/sweep"
	"ziegel/stock"
	"ziegel/ui/term"
)

func (a *app) drawCmd() *cobra.Command {
	o := &drawing{}
	cmd := &cobra.Command{
		Use:   "draw PAGE|PAGE/BLOCK|PAGE/BLOCK.PART|FILE",
		Short: "Draw a page, a block or a part: PNG, SVG or PDF",
		Long: `Draw makes a picture of a page, a block or a part as a browser would show it,
without one. What the file ends in says its kind: .png, .svg, .pdf. Several
widths stand on one sheet, or on one page each in a PDF. Without --to the
picture is shown in the terminal.

What is not drawn as browsers do is told.`,
		Example: `  # the page on a phone, a tablet and a laptop, on one sheet
  ziegel draw home --at 390,768,1280 --to home.png

  # one block, sharper; one card under the pointer
  ziegel draw home/plans --at 1280 --scale 2 --to plans.png
  ziegel draw home/plans.card[2] --state hover --to card.png

  # a part as a drawing for other programs, letters as shapes
  ziegel draw home/plans.card[2] --to card.svg --outlines

  # a page as PDF, in dark colors
  ziegel draw home --scheme dark --to home.pdf

  # every block at two widths; the library in this theme; how pictures are cut
  ziegel draw home --sheet blocks --at 390,1280 --to blocks.png
  ziegel draw hero --sheet sections --to heroes.png
  ziegel draw home --sheet crops --to crops.png

  # what has changed since a commit; what a command would change
  ziegel draw home --since HEAD --to changes.png
  ziegel draw home --dry-run --to plan.png -- style home/plans.card padding=3rem

  # a motion at eight moments: coming in, under the pointer, words that take turns
  ziegel draw home/reasons --moments 8 --of enter --to enter.png
  ziegel draw home/plans.card[2] --moments 5 --of hover --to hover.png

  # any HTML file
  ziegel draw some/page.html --at 1280 --to page.png`,
		Args: func(cmd *cobra.Command, args []string) error {
			if o.dryRun {
				return nil
			}
			return cobra.MaximumNArgs(1)(cmd, args)
		},
		ValidArgsFunction: a.complete("part"),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := o.read(); err != nil {
				return err
			}
			switch {
			case o.since != "" || o.dryRun:
				if o.to == "" {
					return errors.New("before and after stand on a sheet: --to FILE.png")
				}
				if err := a.mayWrite(o.to); err != nil {
					return err
				}
				if o.dryRun {
					return a.drawTrial(o, args)
				}
				return a.drawSince(o, args)
			case o.moments != 0 || o.of != "":
				return a.drawMoments(o, args)
			case o.sheet != "":
				return a.drawSheet(o, args, cmd.Flags().Changed("at"))
			}
			if len(args) == 0 {
				return errors.New("draw needs to know what: a page such as home, a block such as home/plans, a part such as home/plans.card[2], or an HTML file")
			}
			return a.draw(o, args[0])
		},
	}
	cmd.Flags().StringVar(&o.sheet, "sheet", "",
		"what a sheet shows: "+strings.Join(sheetNames, ", "))
	cmd.Flags().StringVar(&o.since, "since", "", "before and after: the site as git has it at a commit, and as it is")
	cmd.Flags().BoolVar(&o.dryRun, "dry-run", false,
		"before and after a command that stands after --, which is not carried out")
	cmd.Flags().IntVar(&o.moments, "moments", 0, "a film strip: a motion at so many moments, 2 to 60")
	cmd.Flags().StringVar(&o.of, "of", "", "the motion of --moments: "+strings.Join(motion.Kinds, ", "))
	cmd.MarkFlagsMutuallyExclusive("since", "dry-run", "sheet", "moments")
	cmd.Flags().StringVar(&o.at, "at", "1280", "screen widths, CSS px, with commas between")
	cmd.Flags().StringVar(&o.to, "to", "", "file to write: .png, .svg or .pdf")
	cmd.Flags().Float64Var(&o.scale, "scale", 1, "device pixels a CSS px takes, 0.1 to 4")
	cmd.Flags().StringVar(&o.scheme, "scheme", "light", "light or dark")
	cmd.Flags().StringVar(&o.state, "state", "", "draw everything in a state: "+strings.Join(drawnStates, ", "))
	cmd.Flags().BoolVar(&o.outlines, "outlines", false, "letters as shapes in an SVG, which then needs no font")
	a.forceFlag(cmd)
	return cmd
}

// drawSheet draws a sheet of a page, or of the library.
func (a *app) drawSheet(o *drawing, args []string, at bool) error {
	if o.to == "" {
		return errors.New("--sheet needs a file: --to sheet.png, .svg or .pdf")
	}
	if err := a.mayWrite(o.to); err != nil {
		return err
	}
	if !at {
		o.widths = []int{390, 768, 1280}
	}
	look := draw.Look{Scale: o.scale, Dark: o.scheme == "dark", State: o.states(), Files: paint.NewFiles()}
	title := o.sheet
	if len(args) > 0 {
		title += " of " + args[0]
	}
	var sheet *draw.Sheet
	var s *check.Subject
	if o.sheet == "sections" {
		e, _, err := a.open()
		if err != nil {
			return err
		}
		if !at {
			o.widths = []int{390, 1280}
		}
		if sheet, err = draw.Sections(e, strings.Join(args, ""), o.widths, look); err != nil {
			return err
		}
	} else {
		if len(args) == 0 {
			return fmt.Errorf("--sheet %s shows a page: ziegel draw home --sheet %s --to %s", o.sheet, o.sheet, o.to)
		}
		var err error
		if s, err = a.subject(args[0]); err != nil {
			return err
		}
		if s.Block != "" && o.sheet != "blocks" {
			return fmt.Errorf("--sheet %s shows a whole page: ziegel draw %s --sheet %s --to %s", o.sheet, s.Name,
				o.sheet, o.to)
		}
		widest := slices.Max(o.widths)
		switch o.sheet {
		case "blocks":
			stacks := stackOf(s, false, sweep.DefaultFrom, sweep.DefaultTo)
			stacks = slices.DeleteFunc(stacks, func(st sweep.Stacking) bool {
				return s.Block != "" &&
					st.Name != s.Block
			})
			sheet, err = draw.Blocks(s.Prepared, stacks, o.widths, look)
		case "crops":
			sheet, err = draw.Crops(s.Prepared, o.widths, look)
		case "icons":
			sheet, err = draw.Icons(s.Prepared, widest, look)
		case "states":
			sheet, err = draw.States(s.Prepared, widest, look)
		case "seams":
			sheet, err = draw.Seams(s.Prepared, o.widths, look)
		}
		if err != nil {
			return err
		}
	}
	list, err := sheet.List(stock.Files, look.Files, o.scale)
	if err != nil {
		return err
	}
	if err := a.writeList(o, title, list); err != nil {
		return err
	}
	if s != nil {
		a.tellMissed(s, s.Prepared.Doubts(), list.Missed)
	}
	return nil
}

func (a *app) draw(o *drawing, arg string) error {
	if err := a.mayWrite(o.to); err != nil {
		return err
	}
	s, target, err := a.drawn(arg)
	if err != nil {
		return err
	}
	look := draw.Look{Scale: o.scale, Dark: o.scheme == "dark", State: o.states(), Files: paint.NewFiles()}
	look.Alone = strings.EqualFold(filepath.Ext(o.to), ".svg") && target.Block != ""
	shots, err := draw.AtWidths(s.Prepared, o.widths, target, look)
	if err != nil {
		return err
	}
	if o.to == "" {
		return a.showShots(s, shots)
	}
	if strings.EqualFold(filepath.Ext(o.to), ".pdf") {
		return a.drawPDF(o, arg, s, shots)
	}
	list, area := shots[0].List, shots[0].Area
	if len(shots) > 1 {
		if list, err = draw.Widths(arg, shots, nil).List(stock.Files, look.Files, o.scale); err != nil {
			return err
		}
		area = geom.R(0, 0, list.W, list.H)
	}
	if err := a.writePicture(o, arg, list, area); err != nil {
		return err
	}
	a.tellMissedIn(s, shots)
	return nil
}

// drawPDF writes one page for each width.
func (a *app) drawPDF(o *drawing, title string, s *check.Subject, shots []*draw.Shot) error {
	var pages []vector.PDFPage
	for _, sh := range shots {
		pages = append(pages, vector.PDFPage{List: sh.List, Area: sh.Area, Links: func(to string) string {
			if strings.Contains(to, ":") {
				return to
			}
			if s.Env != nil && s.Env.Site.Address != "" && !strings.HasPrefix(to, "#") {
				return strings.TrimSuffix(s.Env.Site.Address, "/") + "/" + strings.TrimLeft(to, "./")
			}
			return ""
		}})
	}
	var b bytes.Buffer
	if err := vector.PDF(&b, title, pages); err != nil {
		return err
	}
	if err := a.save(o.to, b.Bytes()); err != nil {
		return err
	}
	a.answer("drew %s to %s: %s, vectors, %s", title, o.to, diag.Plural(len(pages), "page"), size(b.Len()))
	a.tellMissedIn(s, shots)
	return nil
}

// tellMissedIn says of pictures what they do not show as a browser does.
func (a *app) tellMissedIn(s *check.Subject, shots []*draw.Shot) {
	var missed []display.Missed
	var families []string
	for _, sh := range shots {
		missed, families = append(missed, sh.List.Missed...), append(families, sh.Replaced...)
	}
	slices.Sort(families)
	a.tellMissed(s, s.Prepared.DoubtsWith(slices.Compact(families)), missed)
}

// tellMissed says what a picture does not show as a browser does, each once: what is not drawn, and what is not laid
// out.
func (a *app) tellMissed(s *check.Subject, doubts []sweep.Doubt, missed []display.Missed) {
	for _, d := range doubts {
		a.talkf("%s: %s", a.talk.Warning("note"), d.Text())
	}
	told := map[string]bool{}
	for _, m := range missed {
		text := "not drawn: " + m.What
		if m.Element != nil {
			text += ", in " + called(s, m.Element)
		}
		if !told[text] {
			told[text] = true
			a.talkf("%s: %s", a.talk.Warning("note"), text)
		}
	}
}

// showShots shows pictures in the terminal, each under its width: as the terminal can, else as lines.
func (a *app) showShots(s *check.Subject, shots []*draw.Shot) error {
	how := term.PicturesOf(a.stdin, a.out, a.style)
	for _, sh := range shots {
		if how == term.PicturesNone {
			var boxes []sweep.OutlineBox
			for _, b := range s.Prepared.Outline(sh.Result) {
				r := geom.R(b.X.Float(), b.Y.Float(), b.W.Float(), b.H.Float())
				if !r.Intersect(sh.Area.Grow(-1)).Empty() {
					boxes = append(boxes, b)
				}
			}
			term.Outline(a.out, a.style, sh.Width, boxes)
			continue
		}
		if err := a.showShot(how, sh); err != nil {
			return err
		}
	}
	return nil
}

// called names an element as the next command would take it, else by what it is.
func called(s *check.Subject, el *css.Element) string {
	if block, part, item := naming.Place(s.Prepared, el); block != "" {
		return s.Name + "/" + draw.Target{Block: block, Part: part, Item: item}.String()
	}
	return naming.Of(s.Prepared, el)
}
