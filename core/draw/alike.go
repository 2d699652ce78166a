package draw

import "image"

// tileAlike is how far the mean colors of squares that look the same may be apart, of 255.
const tileAlike = 16

// Tiles are the mean colors of the squares of a picture, line by line: what is left of it to those who look from afar.
type Tiles struct {
	cols, rows int
	mean       [][3]int
}

// Alike gives the share of two pictures that looks the same, 0 to 1: squares are sought where they are and one square
// around, so that words a few pixels away count as the same. What one picture has beyond the other differs; two empty
// pictures are the same.
func (t *Tiles) Alike(o *Tiles) float64 {
	cols, rows := max(t.cols, o.cols), max(t.rows, o.rows)
	if cols*rows == 0 {
		return 1
	}
	same := 0
	for row := range rows {
		for col := range cols {
			if t.in(col, row) && o.in(col, row) && t.foundIn(o, col, row) && o.foundIn(t, col, row) {
				same++
			}
		}
	}
	return float64(same) / float64(cols*rows)
}

// TilesOf cuts a picture into squares of so many pixels.
func TilesOf(m *image.RGBA, tile int) *Tiles {
	w, h := m.Rect.Dx(), m.Rect.Dy()
	t := &Tiles{cols: (w + tile - 1) / tile, rows: (h + tile - 1) / tile}
	t.mean = make([][3]int, t.cols*t.rows)
	for row := range t.rows {
		for col := range t.cols {
			var sum [3]int
			x1, y1 := min(w, (col+1)*tile), min(h, (row+1)*tile)
			for y := row * tile; y < y1; y++ {
				line := m.Pix[m.PixOffset(m.Rect.Min.X+col*tile, m.Rect.Min.Y+y):]
				for x := 0; x < x1-col*tile; x++ {
					sum[0], sum[1], sum[2] = sum[0]+int(line[4*x]), sum[1]+int(line[4*x+1]), sum[2]+int(line[4*x+2])
				}
			}
			n := (x1 - col*tile) * (y1 - row*tile)
			t.mean[row*t.cols+col] = [3]int{sum[0] / n, sum[1] / n, sum[2] / n}
		}
	}
	return t
}

func (t *Tiles) in(col, row int) bool { return col >= 0 && row >= 0 && col < t.cols && row < t.rows }

// foundIn reports whether a square has one like it in another picture, at its place or beside it.
func (t *Tiles) foundIn(o *Tiles, col, row int) bool {
	p := t.mean[row*t.cols+col]
	for dy := -1; dy <= 1; dy++ {
		for dx := -1; dx <= 1; dx++ {
			if !o.in(col+dx, row+dy) {
				continue
			}
			q := o.mean[(row+dy)*o.cols+col+dx]
			if max(p[0]-q[0], q[0]-p[0], p[1]-q[1], q[1]-p[1], p[2]-q[2], q[2]-p[2]) <= tileAlike {
				return true
			}
		}
	}
	return false
}
