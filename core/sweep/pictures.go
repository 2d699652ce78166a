package sweep

import "ziegel/core/layout"

// Drawn gives where the whole of a picture of w times h px would be drawn in a box: x, y, width and height in CSS px.
// fit is a value of object-fit or a keyword of background-size, focus the position, as shares of the room.
func Drawn(box layout.Rect, w, h float64, fit string, focus [2]float64) [4]float64 {
	bw, bh := box.W.Float(), box.H.Float()
	dw, dh := bw, bh
	scale := 0.0
	switch fit {
	case "cover":
		scale = max(bw/w, bh/h)
	case "contain":
		scale = min(bw/w, bh/h)
	case "scale-down":
		scale = min(1, bw/w, bh/h)
	case "none":
		scale = 1
	}
	if scale > 0 {
		dw, dh = w*scale, h*scale
	}
	return [4]float64{box.X.Float() + (bw-dw)*focus[0], box.Y.Float() + (bh-dh)*focus[1], dw, dh}
}

// CellsUnder gives the cells of a grid over a drawn picture that an area touches: columns x0 to x1, rows y0 to y1,
// the ends left out.
func CellsUnder(area layout.Rect, drawn [4]float64, columns, rows int) (x0, y0, x1, y1 int) {
	at := func(v, from, size float64, cells int) int {
		return max(0, min(cells-1, int((v-from)/size*float64(cells))))
	}
	x0, x1 = at(area.X.Float(), drawn[0], drawn[2], columns), at(area.Right().Float(), drawn[0], drawn[2], columns)+1
	y0, y1 = at(area.Y.Float(), drawn[1], drawn[3], rows), at(area.Bottom().Float(), drawn[1], drawn[3], rows)+1
	return x0, y0, x1, y1
}
