package compare

import (
	"fmt"
	"image"

	"golang.org/x/image/draw"

	"ziegel/core/media"
)

// Design reads the picture of a design as one that has a pixel a CSS px of a screen of the given width; 0 takes the
// picture's own width, half of it when it is too wide for a screen. The error says which widths would do.
func Design(data []byte, width int) (*image.RGBA, int, error) {
	img, _, err := media.Decode(data)
	if err != nil {
		return nil, 0, err
	}
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	if width == 0 {
		if width = w; w > 2000 && w%2 == 0 {
			width = w / 2
		}
	}
	k := w / width
	if k < 1 || k > 4 || k*width != w {
		return nil, 0, fmt.Errorf("the design is %d px wide, which is not once, twice, three or four times %d: give --at with the width of the screen that it shows",
			w, width)
	}
	out := image.NewRGBA(image.Rect(0, 0, width, h/k))
	if k == 1 {
		draw.Copy(out, image.Point{}, img, img.Bounds(), draw.Src, nil)
	} else {
		draw.ApproxBiLinear.Scale(out, out.Rect, img, image.Rect(0, 0, width*k, h/k*k).Add(img.Bounds().Min), draw.Src,
			nil)
	}
	for i := 3; i < len(out.Pix); i += 4 { // what is clear shows the white below
		if a := out.Pix[i]; a != 255 {
			for c := i - 3; c < i; c++ {
				out.Pix[c] += 255 - a
			}
			out.Pix[i] = 255
		}
	}
	return out, width, nil
}
