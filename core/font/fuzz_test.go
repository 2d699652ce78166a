package font_test

import (
	"os"
	"testing"

	"ziegel/core/font"
)

// FuzzFont reads anything as a font file and shapes with what comes out.
func FuzzFont(f *testing.F) {
	for _, name := range []string{"../../stock/fonts/instrument-sans-400.woff2", "../../e2e/testdata/boxes/assets/source.otf", "../../e2e/testdata/boxes/assets/source.ttf", "../../e2e/testdata/boxes/assets/source-bold.woff",
		"../../e2e/testdata/boxes/assets/fraunces-size.woff2"} {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		set := font.NewSet([]*font.Entry{font.Plain("F", 400, false, data)}, map[string][]string{"": {"F"}})
		for _, face := range set.Find(font.Want{Families: []string{"F"}, Weight: 600, Size: 16}) {
			text := []rune("AV fi")
			face.Shape(text, font.Features{}).Prefix(16, 0, 0, text)
			face.Metrics(16)
			face.ZeroWidth(16)
		}
	})
}
