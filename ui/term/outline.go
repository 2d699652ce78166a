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
	c := &canvas{unit: unit, top: boxes[0].Y.Float(), w: int(float64(width)/unit) + 1}
	for _, b := range boxes {
		c.box(b)
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

// canvas is a grid of characters.
type canvas struct {
	unit, top float64
	w         int
	rows      [][]rune
}

func (c *canvas) row(y int) []rune {
	for len(c.rows) <= y {
		c.rows = append(c.rows, []rune(strings.Repeat(" ", c.w+1)))
	}
	return c.rows[y]
}

func (c *canvas) set(x, y int, r rune) {
	if x >= 0 && x <= c.w && y >= 0 && y < 4000 {
		c.row(y)[x] = r
	}
}

func (c *canvas) box(b sweep.OutlineBox) {
	x0, x1 := int(b.X.Float()/c.unit+.5), int(b.Right().Float()/c.unit+.5)-1
	y0, y1 := int((b.Y.Float()-c.top)/c.unit/2+.5), int((b.Bottom().Float()-c.top)/c.unit/2+.5)-1
	x1, y1 = min(max(x1, x0+1), c.w), max(y1, y0)
	if b.Part == "" {
		x0, x1 = 0, c.w
	}
	label := b.Part
	if label == "" {
		label = b.Block
		if b.As != "" {
			label += " " + b.As
		}
	}
	if y1 == y0 { // one row: brackets with the name between
		c.set(x0, y0, '[')
		c.set(x1, y0, ']')
		c.text(x0+1, y0, x1-x0-1, label)
		return
	}
	h, v, corner := '─', '│', []rune("┌┐└┘")
	if b.Part == "" {
		h, v, corner = '━', '┃', []rune("┏┓┗┛")
	}
	for x := x0; x <= x1; x++ {
		c.set(x, y0, h)
		c.set(x, y1, h)
	}
	for y := y0; y <= y1; y++ {
		c.set(x0, y, v)
		c.set(x1, y, v)
		if b.Part != "" && y > y0 && y < y1 {
			for x := x0 + 1; x < x1; x++ {
				c.set(x, y, ' ')
			}
		}
	}
	c.set(x0, y0, corner[0])
	c.set(x1, y0, corner[1])
	c.set(x0, y1, corner[2])
	c.set(x1, y1, corner[3])
	c.text(x0+2, y0, x1-x0-3, label)
}

func (c *canvas) text(x, y, room int, label string) {
	for i, r := range []rune(label) {
		if i >= room {
			return
		}
		c.set(x+i, y, r)
	}
}

func (c *canvas) lines() []string {
	out := make([]string, len(c.rows))
	for i, r := range c.rows {
		out[i] = strings.TrimRight(string(r), " ")
	}
	return out
}
