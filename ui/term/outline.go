package term

import (
	"fmt"
	"io"
	"strings"

	"github.com/charmbracelet/x/ansi"

	"ziegel/core/sweep"
)

// Outline draws boxes to scale with their names. On anything but a terminal it writes one box a line, CSS px.
func Outline(w io.Writer, s Style, width int, boxes []sweep.OutlineBox) {
	if !s.Terminal {
		for _, b := range boxes {
			name := b.Block
			if b.Part != "" {
				name += "." + b.Part
			}
			fmt.Fprintf(w, "%s\tx %.0f\ty %.0f\tw %.0f\th %.0f\t%s\n", name, b.X.Float(), b.Y.Float(), b.W.Float(),
				b.H.Float(), b.As)
		}
		return
	}
	if len(boxes) == 0 {
		return
	}
	unit := unitFor(width, min(s.Width-2, 120))
	fmt.Fprintln(w, s.Dim(fmt.Sprintf("%d px wide; one column is %.0f px, one row %.0f px", width, unit, unit*2)))
	for _, line := range Lines(width, min(s.Width-2, 120), boxes) {
		fmt.Fprintln(w, line)
	}
}

// unitFor gives the CSS px that one column of a drawing stands for; a row is twice as high.
func unitFor(width, cols int) float64 { return max(6, float64(width)/float64(cols)) }

// Lines draws boxes to scale in a number of columns.
func Lines(width, cols int, boxes []sweep.OutlineBox) []string {
	if len(boxes) == 0 {
		return nil
	}
	unit := unitFor(width, cols)
	c := &canvas{w: max(1, int(float64(width)/unit+.5)-1)}
	for _, b := range boxes {
		drawBox(c, b, unit, boxes[0].Y.Float())
	}
	return c.lines()
}

// Beside joins drawings line by line, each in a column of its own, width cells wide.
func Beside(columns [][]string, width int) []string {
	var out []string
	for i := 0; ; i++ {
		line, any := "", false
		for k, c := range columns {
			text := ""
			if i < len(c) {
				text, any = c[i], true
			}
			if k < len(columns)-1 {
				text += strings.Repeat(" ", max(0, width-ansi.StringWidth(text)))
			}
			line += text
		}
		if !any {
			return out
		}
		out = append(out, strings.TrimRight(line, " "))
	}
}

// drawBox draws a box in its cells; unit is what a column stands for, top where the drawing begins, CSS px.
func drawBox(c *canvas, b sweep.OutlineBox, unit, top float64) {
	x0, x1 := int(b.X.Float()/unit+.5), int(b.Right().Float()/unit+.5)-1
	y0, y1 := int((b.Y.Float()-top)/unit/2+.5), int((b.Bottom().Float()-top)/unit/2+.5)-1
	x0, y0 = min(max(0, x0), c.w-1), max(0, y0)
	x1, y1 = min(max(x1, x0+1), c.w), max(y1, y0)
	label, weight := b.Part, light
	if b.Part == "" {
		label, weight, x0, x1 = b.Block, heavy, 0, c.w
		if b.As != "" {
			label += " " + b.As
		}
	}
	if y1 == y0 {
		c.bracket(x0, x1, y0, label)
		return
	}
	if weight == light { // what lies under it is not seen through it
		c.clear(x0, y0, x1, y1)
	}
	c.frame(x0, y0, x1, y1, weight)
	c.text(x0+2, y0, x1-x0-3, label)
}
