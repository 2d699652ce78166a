package term

import "strings"

// The directions in which a line leaves a cell.
const (
	up = iota
	right
	down
	left
)

// How strong a line is.
const (
	light uint8 = 1
	heavy uint8 = 2
)

// joints has the character for the lines that leave a cell: up, right, down and left, each none, light or heavy.
var joints = []rune(" ╴╸╷┐┑╻┒┓╶─╾┌┬┭┎┰┱╺╼━┍┮┯┏┲┳╵┘┙│┤┥╽┧┪└┴┵├┼┽┟╁╅┕┶┷┝┾┿┢╆╈╹┚┛╿┦┩┃┨┫┖┸┹┞╀╃┠╂╉┗┺┻┡╄╇┣╊╋")

// cell is a character of a drawing: lines that leave it in four directions, or a letter over them.
type cell struct {
	lines  [4]uint8
	letter rune
}

func (k cell) rune() rune {
	if k.letter != 0 {
		return k.letter
	}
	return joints[int(k.lines[up])*27+int(k.lines[right])*9+int(k.lines[down])*3+int(k.lines[left])]
}

// canvas is a grid of characters in which lines that touch are joined.
type canvas struct {
	w    int
	rows [][]cell
}

// mostRows bounds a drawing.
const mostRows = 4000

func (c *canvas) at(x, y int) *cell {
	if x < 0 || x > c.w || y < 0 || y >= mostRows {
		return &cell{}
	}
	for len(c.rows) <= y {
		c.rows = append(c.rows, make([]cell, c.w+1))
	}
	return &c.rows[y][x]
}

// clear takes away what lies inside of a frame, and the ends of lines that ran in there.
func (c *canvas) clear(x0, y0, x1, y1 int) {
	for y := y0; y <= y1; y++ {
		for x := x0; x <= x1; x++ {
			k := c.at(x, y)
			if y > y0 && y < y1 && x > x0 && x < x1 {
				*k = cell{}
				continue
			}
			if y == y0 && x > x0 && x < x1 {
				k.lines[down] = 0
			}
			if y == y1 && x > x0 && x < x1 {
				k.lines[up] = 0
			}
			if x == x0 && y > y0 && y < y1 {
				k.lines[right] = 0
			}
			if x == x1 && y > y0 && y < y1 {
				k.lines[left] = 0
			}
		}
	}
}

// frame draws a rectangle. Where it meets other lines they are joined.
func (c *canvas) frame(x0, y0, x1, y1 int, weight uint8) {
	join := func(x, y, direction int) {
		k := c.at(x, y)
		k.lines[direction] = max(k.lines[direction], weight)
	}
	for _, y := range []int{y0, y1} {
		for x := x0; x < x1; x++ {
			join(x, y, right)
			join(x+1, y, left)
		}
	}
	for _, x := range []int{x0, x1} {
		for y := y0; y < y1; y++ {
			join(x, y, down)
			join(x, y+1, up)
		}
	}
}

// bracket draws a box of one row: its name between brackets; on a line, or beside other names, its name alone.
func (c *canvas) bracket(x0, x1, y int, label string) {
	free := func(x int) bool { return *c.at(x, y) == cell{} }
	if free(x0) {
		c.at(x0, y).letter = '['
	}
	if free(x1) {
		c.at(x1, y).letter = ']'
	}
	c.text(x0+1, y, x1-x0-1, label)
}

// text writes a label over a line, beside those that are there; without room for two letters it is left out.
func (c *canvas) text(x, y, room int, label string) {
	taken := func(x int) bool { k := c.at(x, y); return k.letter != 0 || k.lines[up] != 0 || k.lines[down] != 0 }
	for room > 0 && (taken(x) || c.at(x-1, y).letter != 0 && c.at(x-1, y).letter != '[') {
		x, room = x+1, room-1
	}
	n := 0
	for n < room && n < len([]rune(label)) && !taken(x+n) {
		n++
	}
	if n < min(2, len([]rune(label))) {
		return
	}
	for i, r := range []rune(label)[:n] {
		c.at(x+i, y).letter = r
	}
}

func (c *canvas) lines() []string {
	out := make([]string, len(c.rows))
	for i, row := range c.rows {
		var b strings.Builder
		for _, k := range row {
			b.WriteRune(k.rune())
		}
		out[i] = strings.TrimRight(b.String(), " ")
	}
	return out
}
