package draw_test

import (
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/stock"
)

// The demo's home at 1280 px, from its styles to the bytes of a PNG.
func BenchmarkHomePNG(b *testing.B) {
	l := home(b)
	files := paint.NewFiles()
	b.ReportAllocs()
	for b.Loop() {
		shot, err := draw.Of(l, 1280, draw.Target{}, draw.Look{Files: files})
		require.NoError(b, err)
		img, err := raster.Draw(shot.List, raster.Options{})
		require.NoError(b, err)
		require.NoError(b, raster.EncodePNG(io.Discard, img))
	}
}

// Three widths of it on one sheet.
func BenchmarkThreeWidths(b *testing.B) {
	l := home(b)
	files := paint.NewFiles()
	b.ReportAllocs()
	for b.Loop() {
		shots, err := draw.AtWidths(l, []int{390, 768, 1280}, draw.Target{}, draw.Look{Files: files})
		require.NoError(b, err)
		list, err := draw.Widths("home", shots, nil).List(stock.Files, files, 1)
		require.NoError(b, err)
		img, err := raster.Draw(list, raster.Options{})
		require.NoError(b, err)
		require.NoError(b, raster.EncodePNG(io.Discard, img))
	}
}

// One block of a page that is laid out: what is drawn again after an edit.
func BenchmarkBlock(b *testing.B) {
	l := home(b)
	files := paint.NewFiles()
	b.ReportAllocs()
	for b.Loop() {
		shot, err := draw.Of(l, 1280, draw.Target{Block: "plans"}, draw.Look{Files: files})
		require.NoError(b, err)
		_, err = raster.Draw(shot.List, raster.Options{Area: &shot.Area})
		require.NoError(b, err)
	}
}
