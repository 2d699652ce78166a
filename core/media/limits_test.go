package media

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const svgHead = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">`

// Drawings that would take gigabytes or minutes are refused by what is counted in them, and drawings of the usual
// kind are not.
func TestDrawingsAreCountedBeforeTheyArePainted(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	nested := func(levels, each int) string {
		s := `<defs><g id="a0"><rect width="1" height="1"/></g>`
		for i := 1; i < levels; i++ {
			s += fmt.Sprintf(`<g id="a%d">%s</g>`, i, strings.Repeat(fmt.Sprintf(`<use href="#a%d"/>`, i-1), each))
		}
		return svgHead + s + fmt.Sprintf(`</defs><use href="#a%d"/></svg>`, levels-1)
	}
	for name, tt := range map[string]struct{ in, told string }{
		"uses of uses": {nested(9, 10), "over 20000 elements with all that it repeats"},
		"a use of itself": {svgHead + `<g id="a"><use href="#a"/></g><use href="#a"/></svg>`,
			`"a" is in what it repeats`},
		"two that go round": {svgHead + `<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g></svg>`,
			"is in what it repeats"},
		"nested groups": {svgHead + strings.Repeat("<g>", 1_000_000), "nested over 200 deep"},
		"many elements": {svgHead + strings.Repeat(`<rect width="9" height="9"/>`, 100_000) + "</svg>",
			"over 20000 elements"},
		"a long path": {svgHead + `<path d="M0 0` + strings.Repeat("L9 9 1 1", 1_200_000) + `"/></svg>`,
			"over 2 MB of shapes"},
		"a few uses": {nested(3, 10), ""},
		"a map":      {svgHead + strings.Repeat(`<path d="M1 1L9 9Z"/>`, 15_000) + "</svg>", ""},
	} {
		t.Run(name, func(t *testing.T) {
			_, _, err := Size("x.svg", []byte(tt.in))
			if tt.told == "" {
				require.NoError(t, err)
				return
			}
			require.ErrorContains(t, err, tt.told)
			_, err = ReadDrawnColors([]byte(tt.in), false)
			require.ErrorContains(t, err, tt.told)
		})
	}
}

// header is a PNG of any size with nothing in it.
func header(w, h uint32) []byte {
	var out bytes.Buffer
	chunk := func(name string, data []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(data)))
		out.WriteString(name)
		out.Write(data)
		_ = binary.Write(&out, binary.BigEndian, crc32.ChecksumIEEE(append([]byte(name), data...)))
	}
	out.WriteString("\x89PNG\r\n\x1a\n")
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, w), h)
	chunk("IHDR", append(head, 1, 0, 0, 0, 0))
	var packed bytes.Buffer
	z := zlib.NewWriter(&packed)
	_ = z.Close()
	chunk("IDAT", packed.Bytes())
	chunk("IEND", nil)
	return out.Bytes()
}

func TestPicturesAreMeasuredBeforeTheyAreDecoded(t *testing.T) {
	_, _, err := Size("big.png", header(50000, 50000))
	require.ErrorContains(t, err, "50000 x 50000 px has 2384 megapixels, and 120 are the most")
	_, err = Resize(header(50000, 50000), []Copy{{Name: "a.png", Width: 10, Height: 10}})
	require.ErrorContains(t, err, "120 are the most")
	_, err = ReadColors(header(50000, 50000))
	require.ErrorContains(t, err, "120 are the most")
	w, h, err := Size("large.png", header(12000, 10000))
	require.NoError(t, err)
	assert.Equal(t, [2]float64{12000, 10000}, [2]float64{w, h})
}

// A file that was not copied to its end is told, at whatever byte it ends after its header.
func TestAPictureWithoutItsEnd(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 64, 64))
	for i := range img.Pix {
		img.Pix[i] = byte(i * 7)
	}
	paletted := image.NewPaletted(image.Rect(0, 0, 64, 64), color.Palette{color.Black, color.White})
	for name, enc := range map[string]func(b *bytes.Buffer) error{
		"a.png": func(b *bytes.Buffer) error { return png.Encode(b, img) },
		"a.jpg": func(b *bytes.Buffer) error { return jpeg.Encode(b, img, nil) },
		"a.gif": func(b *bytes.Buffer) error { return gif.Encode(b, paletted, nil) },
	} {
		t.Run(name, func(t *testing.T) {
			var b bytes.Buffer
			require.NoError(t, enc(&b))
			_, _, err := Size(name, b.Bytes())
			require.NoError(t, err)
			for _, part := range []float64{.6, .9, .99} {
				cut := b.Bytes()[:int(float64(b.Len())*part)]
				_, _, err := Size(name, cut)
				require.Error(t, err, "%v of it", part)
			}
			_, _, err = Size(name, append(bytes.Clone(b.Bytes()), "notes of a camera"...))
			require.NoError(t, err, "what follows the end is no harm")
		})
	}
}

func TestAnIconIsSmall(t *testing.T) {
	own := fstest.MapFS{"media/icons/big.svg": {Data: []byte(svgHead + `<path d="M0 0` +
		strings.Repeat("L9 9", 20_000) + `"/></svg>`)}}
	_, err := ReadIcon(fstest.MapFS{}, own, "big")
	require.ErrorContains(t, err, "64 kB are the most")
}
