package draw

import (
	"fmt"
	"html"
	"io/fs"
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/sweep"
)

// Sheet is a page that shows pictures with words beside them. It is written as HTML, in the fonts that ship.
type Sheet struct {
	Width    int // CSS px; 0 as wide as its content
	Dark     bool
	b        strings.Builder
	pictures []*display.List
	missed   []display.Missed
}

const sheetStyle = `
* { box-sizing: border-box; margin: 0; }
html { background: #eceeec; color: #22292b; font: 400 13px/18px "Hanken Grotesk"; }
body { padding: 28px; width: max-content; }
h1 { font-size: 20px; line-height: 28px; font-weight: 600; margin-bottom: 16px; }
h2 { font-size: 14px; line-height: 20px; font-weight: 600; margin: 20px 0 8px; }
p { color: #5b6568; max-width: 640px; }
.row { display: flex; gap: 24px; align-items: flex-start; }
.wrap { display: flex; flex-wrap: wrap; gap: 24px; align-items: flex-start; }
.cell { display: block; flex: none; }
.cell img { display: block; background: #fff; outline: 1px solid #cdd3d1; }
.cap { display: flex; gap: 10px; color: #5b6568; margin-bottom: 6px; }
.cap b { color: #22292b; font-weight: 600; }
.note { color: #a63d12; }
.side { flex: none; width: 190px; }
.group { margin-bottom: 28px; }
td, th { text-align: left; }
`

// Picture puts a picture on the sheet, w CSS px wide, and gives the tag that shows it.
func (s *Sheet) Picture(l *display.List, area geom.Rect, w float64) string {
	h := w
	if area.W() > 0 {
		h = w * area.H() / area.W()
	}
	part := &display.List{W: area.W(), H: area.H()}
	g := display.Plain(l.Items...)
	g.Matrix = geom.Translate(-area.X0, -area.Y0)
	part.Items = []display.Item{g}
	s.pictures = append(s.pictures, part)
	s.missed = append(s.missed, l.Missed...)
	return fmt.Sprintf(`<img src="drawn:%d" style="width:%gpx;height:%gpx">`, len(s.pictures)-1, w, h)
}

// Shot puts a shot on the sheet with words above it.
func (s *Sheet) Shot(sh *Shot, title, rest string, w float64) {
	s.Raw(`<div class=cell><div class=cap><b>` + html.EscapeString(title) + `</b><span>` + html.EscapeString(rest) +
		`</span></div>` + s.Picture(sh.List, sh.Area, w) + `</div>`)
}

// Raw writes HTML. What is not the program's own has to be escaped.
func (s *Sheet) Raw(text string) { s.b.WriteString(text) }

// Text writes words in an element.
func (s *Sheet) Text(tag, text string) {
	s.Raw("<" + tag + ">" + html.EscapeString(text) + "</" + strings.Fields(tag)[0] + ">")
}

// List lays the sheet out.
func (s *Sheet) List(stock fs.FS, files *paint.Files, scale float64) (*display.List, error) {
	width, own := s.Width, ""
	if width == 0 {
		width = 20000
	} else {
		own = "body { width: auto; }"
	}
	doc, err := css.Load(css.Source{File: "sheet", HTML: "<!doctype html><style>" + sheetStyle + own +
		"</style><body>" +
		s.b.String()})
	if err != nil {
		return nil, err
	}
	fonts, err := SheetFonts(stock)
	if err != nil {
		return nil, err
	}
	e := layout.New(doc, layout.Options{Fonts: fonts, Picture: func(string) (float64, float64, bool) {
		return 1, 1,
			true
	}})
	r := e.Layout(width)
	if s.Width == 0 { // as wide as what is on it
		right := css.Px(0)
		for i := range r.Boxes {
			if t := r.Boxes[i].Element.Tag; t != "html" && t != "main" {
				right = max(right, r.Boxes[i].Right())
			}
		}
		r.Width = int(right.Float() + .999)
	}
	bottom := css.Px(0)
	for i := range r.Boxes {
		bottom = max(bottom, r.Boxes[i].Bottom())
	}
	r.Height = css.Px(math.Ceil(bottom.Float()) * 64) // no row of pixels that is partly covered
	out := paint.Page(e, r, paint.Options{Scale: scale, Files: files, Drawn: func(name string) *display.List {
		i := -1
		if _, err := fmt.Sscan(name, &i); err != nil || i < 0 || i >= len(s.pictures) {
			return nil
		}
		return s.pictures[i]
	}})
	out.Missed = append(out.Missed, s.missed...)
	return out, nil
}

// SheetFonts are the faces that sheets are set in.
func SheetFonts(stock fs.FS) (*font.Set, error) {
	set, err := sweep.StockFonts(stock)
	if err != nil {
		return nil, err
	}
	var own []*font.Entry
	for weight, file := range map[float64]string{400: "hanken-grotesk-400", 600: "hanken-grotesk-600"} {
		data, err := fs.ReadFile(stock, "fonts/"+file+".woff2")
		if err != nil {
			return nil, err
		}
		own = append(own, font.Plain("Hanken Grotesk", weight, false, data))
	}
	if own[0].WeightLow > own[1].WeightLow {
		own[0], own[1] = own[1], own[0]
	}
	return set.With(own), nil
}

// Widths puts shots side by side, aligned at the top, each under its width.
func Widths(title string, shots []*Shot, note func(*Shot) string) *Sheet {
	s := &Sheet{}
	s.Text("h1", title)
	s.Raw("<div class=row>")
	for _, sh := range shots {
		rest := fmt.Sprintf("%.0f px high", sh.Area.H())
		if note != nil {
			rest = note(sh)
		}
		s.Shot(sh, fmt.Sprintf("%d", sh.Width), rest, sh.Area.W())
	}
	s.Raw("</div>")
	return s
}
