package media

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"math"
	"path"
	"slices"
	"strings"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
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
		out = append(out, Copy{From: name, Name: fmt.Sprintf("%s/%s-%d%s", CopyFolder, stem, best, kind), Width: best,
			Height: max(1, int(math.Round(float64(best)*h/w))), Instead: about == widest})
	}
	return out
}

// Resize makes copies of a picture, the files in the order of list: upright, each in its size, without what cameras
// note about the place. data is the picture's file. A smaller copy is made of the next larger one.
func Resize(data []byte, list []Copy) ([][]byte, error) {
	if err := checkPixels(data); err != nil {
		return nil, err
	}
	img, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	img = upright(img, orientation(data))
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return list[b].Width - list[a].Width })
	out := make([][]byte, len(list))
	for _, i := range order {
		small := image.NewRGBA(image.Rect(0, 0, list[i].Width, list[i].Height))
		lanczos.Scale(small, small.Bounds(), img, img.Bounds(), draw.Src, nil)
		img = small
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
	out := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(out, out.Bounds(), img, img.Bounds().Min, draw.Over)
	return out
}

// lanczos weighs three pixels to either side of a spot by a windowed sinc: sharper than a cubic, hardly any rings.
var lanczos = draw.Kernel{Support: 3, At: func(t float64) float64 {
	if t == 0 {
		return 1
	}
	return math.Sin(math.Pi*t) / (math.Pi * t) * math.Sin(math.Pi*t/3) / (math.Pi * t / 3)
}}

// Decode reads a picture as browsers show it, upright, and its type, such as image/png.
func Decode(data []byte) (img image.Image, kind string, err error) {
	if err := checkPixels(data); err != nil {
		return nil, "", err
	}
	img, kind, err = image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, "", err
	}
	if held := orientation(data); held > 1 {
		img = upright(img, held)
	}
	return img, "image/" + kind, nil
}

// orientation tells how a camera was held, as Exif counts it: 1 upright, 3 upside down, 6 and 8 on its sides, 2, 4, 5
// and 7 the same seen in a mirror. What is no JPEG, or does not say, is upright.
func orientation(data []byte) int {
	found := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R:               bytes.NewReader(data),
		ImageFormat:     imagemeta.JPEG,
		Sources:         imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if n, ok := tag.Value.(uint16); ok && tag.Namespace == "IFD0" && n >= 1 && n <= 8 {
				found = int(n)
			}
			return nil
		},
	})
	if err != nil {
		return 1
	}
	return found
}

// upright turns a picture as its camera was held (Exif 2.32, tag 274).
func upright(img image.Image, held int) image.Image {
	if held <= 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	if held >= 5 {
		out = image.NewRGBA(image.Rect(0, 0, h, w))
	}
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			from := image.Pt(x, y) // in the picture as it lies
			switch held {
			case 2:
				from = image.Pt(w-1-x, y)
			case 3:
				from = image.Pt(w-1-x, h-1-y)
			case 4:
				from = image.Pt(x, h-1-y)
			case 5:
				from = image.Pt(y, x)
			case 6:
				from = image.Pt(y, h-1-x)
			case 7:
				from = image.Pt(w-1-y, h-1-x)
			case 8:
				from = image.Pt(w-1-y, x)
			}
			out.Set(x, y, img.At(b.Min.X+from.X, b.Min.Y+from.Y))
		}
	}
	return out
}

// lying reports a JPEG that its camera held sideways: browsers turn it by a quarter.
func lying(data []byte) bool { return orientation(data) >= 5 }

// Within gives a picture that is at most so many px wide: the file as it is when it is narrower, is a drawing, or
// cannot be read.
func Within(data []byte, name string, most int) []byte {
	if IsSVG(name) {
		return data
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || size.Width <= most {
		return data
	}
	height := max(1, int(math.Round(float64(size.Height)*float64(most)/float64(size.Width))))
	if orientation(data) > 4 { // it is held on its side
		height = max(1, int(math.Round(float64(size.Width)*float64(most)/float64(size.Height))))
	}
	out, err := Resize(data, []Copy{{Name: name, Width: most, Height: height}})
	if err != nil || len(out[0]) >= len(data) {
		return data
	}
	return out[0]
}
