package media

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"path"
	"slices"
	"strings"

	"github.com/disintegration/imaging"
	"github.com/rwcarlsen/goexif/exif"
)

// Copy is a smaller copy of a picture, for narrow screens.
type Copy struct {
	From          string // the picture, below media/
	Name          string // of the copy, below media/
	Width, Height int    // px
	Instead       bool   // it stands for the picture, which goes to no page itself
}

// copyWidths are about as wide as copies are, px: each has some 1.5 times the pixels of the one before.
var copyWidths = []int{480, 720, 1080, 1600, 2200, widest}

// widest is the width of the largest copy, px. A picture that is wide enough for one never goes to a page itself: it
// is what came out of a camera, many times heavier than any screen needs.
const widest = 2800

// CopyFolder is where copies lie below media/ of a built site.
const CopyFolder = "sized"

// Copies lists the smaller copies that a picture of w times h px is worth: none for drawings and animations, and none
// nearly as large as the picture. Their widths are chosen so that the ratio survives whole pixels: no box changes
// with the copy that a browser takes.
func Copies(name string, w, h float64) []Copy {
	ext := strings.ToLower(path.Ext(name))
	switch ext {
	case ".jpg", ".jpeg", ".png", ".webp":
	default:
		return nil
	}
	var out []Copy
	for _, about := range copyWidths {
		if float64(about) > w*.8 {
			break
		}
		best, off := about, math.Inf(1)
		for i := range 25 { // the nearest of those that are equally good
			x := about + (i+1)/2*(1-i%2*2)
			y := float64(x) * h / w
			if o := math.Abs(y-math.Round(y)) / y; o < off-1e-9 {
				best, off = x, o
			}
		}
		stem, kind := strings.TrimSuffix(name, path.Ext(name)), path.Ext(name)
		if ext == ".webp" { // there is no encoder for it; a name of its own, beside a JPEG of the same name
			stem, kind = stem+"-webp", ".jpg"
		}
		out = append(out, Copy{From: name, Name: fmt.Sprintf("%s/%s-%d%s", CopyFolder, stem, best, kind), Width: best, Height: max(1, int(math.Round(float64(best)*h/w))), Instead: about == widest})
	}
	return out
}

// Resize makes copies of a picture, the files in the order of list: upright, each in its size, without what cameras
// note about the place. data is the picture's file. A smaller copy is made of the next larger one.
func Resize(data []byte, list []Copy) ([][]byte, error) {
	if err := checkPixels(data); err != nil {
		return nil, err
	}
	img, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, err
	}
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return list[b].Width - list[a].Width })
	out := make([][]byte, len(list))
	for _, i := range order {
		img = imaging.Resize(img, list[i].Width, list[i].Height, imaging.Lanczos)
		if out[i], err = encode(img, list[i].Name); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func encode(img image.Image, name string) ([]byte, error) {
	var out bytes.Buffer
	var err error
	if strings.EqualFold(path.Ext(name), ".png") {
		enc := png.Encoder{CompressionLevel: png.BestCompression}
		err = enc.Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, opaque(img), &jpeg.Options{Quality: 82})
	}
	return out.Bytes(), err
}

// opaque lays a picture on white, for formats without transparency.
func opaque(img image.Image) image.Image {
	if o, ok := img.(interface{ Opaque() bool }); ok && o.Opaque() {
		return img
	}
	return imaging.OverlayCenter(imaging.New(img.Bounds().Dx(), img.Bounds().Dy(), color.White), img, 1)
}

// lying reports a JPEG that its camera held sideways: browsers turn it by a quarter.
func lying(data []byte) bool {
	x, err := exif.Decode(bytes.NewReader(data))
	if err != nil {
		return false
	}
	tag, err := x.Get(exif.Orientation)
	if err != nil {
		return false
	}
	n, err := tag.Int(0)
	return err == nil && n >= 5 && n <= 8
}
