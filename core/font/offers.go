package font

import (
	"slices"

	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
)

// Offers reports whether a face has all of some features that substitute glyphs (OpenType, GSUB): smcp, c2sc, ...
func (f *Face) Offers(tags ...string) bool {
	for _, tag := range tags {
		if !slices.ContainsFunc(f.face.GSUB.Features,
			func(x gofont.Feature) bool { return x.Tag == ot.MustNewTag(tag) }) {
			return false
		}
	}
	return len(tags) > 0
}
