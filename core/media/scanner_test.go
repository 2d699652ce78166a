package media

import (
	"bytes"
	"fmt"
	"image"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
	"github.com/stretchr/testify/require"
)

// paint draws a picture with a scanner.
func paint(t testing.TB, data []byte, with func(img *image.RGBA) rasterx.Scanner) *image.RGBA {
	t.Helper()
	icon, err := oksvg.ReadIconStream(bytes.NewReader(plainColors(data, false)), oksvg.IgnoreErrorMode)
	require.NoError(t, err)
	img := image.NewRGBA(image.Rect(0, 0, 200, 150))
	icon.SetTarget(0, 0, 200, 150)
	icon.Draw(rasterx.NewDasher(200, 150, with(img)), 1)
	return img
}

func overAll(img *image.RGBA) rasterx.Scanner {
	return rasterx.NewScannerGV(200, 150, img, img.Bounds())
}
func boxed(img *image.RGBA) rasterx.Scanner { return newScanner(img) }

// Every shipped drawing, and shapes at random places, partly outside, are painted the same as over the whole picture.
func TestScannerFillsTheSamePixels(t *testing.T) {
	if testing.Short() {
		t.Skip("paints many drawings twice")
	}
	files, err := filepath.Glob("../../stock/pictures/*.svg")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	var drawings [][]byte
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		drawings = append(drawings, data)
	}
	r := rand.New(rand.NewPCG(1, 1))
	var s strings.Builder
	s.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 150"><defs><linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient></defs>`)
	for range 300 {
		fmt.Fprintf(&s, `<path d="M%d %dL%d %dQ%d %d %d %dz" fill="%s" fill-opacity=".7"/>`, r.IntN(300)-50,
			r.IntN(250)-50, r.IntN(300)-50, r.IntN(250)-50, r.IntN(300)-50, r.IntN(250)-50, r.IntN(300)-50,
			r.IntN(250)-50, []string{"#123456", "url(#g)"}[r.IntN(2)])
	}
	drawings = append(drawings, []byte(s.String()+"</svg>"))
	for i, data := range drawings {
		a, b := paint(t, data, overAll), paint(t, data, boxed)
		worst := 0
		for p := range a.Pix {
			worst = max(worst, int(a.Pix[p])-int(b.Pix[p]), int(b.Pix[p])-int(a.Pix[p]))
		}
		require.LessOrEqual(t, worst, 2, "drawing %d", i)
	}
}

// BenchmarkScanner paints a thousand small shapes over the whole picture each, and within what they cover.
func BenchmarkScanner(b *testing.B) {
	data := []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 150">` +
		strings.Repeat(`<path d="M10 10h2v2z" fill="#123"/>`, 1000) + "</svg>")
	for name, with := range map[string]func(*image.RGBA) rasterx.Scanner{"whole": overAll, "boxed": boxed} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				paint(b, data, with)
			}
		})
	}
}
