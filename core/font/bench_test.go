package font_test

import (
	"os"
	"testing"

	"ziegel/core/font"
)

// BenchmarkShape shapes a line of 60 letters anew, and measures it at another size.
func BenchmarkShape(b *testing.B) {
	data, err := os.ReadFile("../../stock/fonts/instrument-sans-400.woff2")
	if err != nil {
		b.Fatal(err)
	}
	f, err := font.Parse("I", data)
	if err != nil {
		b.Fatal(err)
	}
	text := []rune("Kites sewn by hand for the wind on the coast, since 1987 ...")
	b.Run("shape", func(b *testing.B) {
		b.ReportAllocs()
		for i := 0; b.Loop(); i++ {
			text[len(text)-1] = rune('a' + i%26)
			text[len(text)-2] = rune('a' + i/26%26)
			text[len(text)-3] = rune('a' + i/676%26)
			f.Shape(text, font.Features{})
		}
	})
	s := f.Shape(text, font.Features{})
	b.Run("scale", func(b *testing.B) {
		b.ReportAllocs()
		for i := 0; b.Loop(); i++ {
			s.Prefix(16+float64(i%4096)/100, 0, 0, text)
		}
	})
}
