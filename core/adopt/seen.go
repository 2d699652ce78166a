package adopt

import (
	"cmp"
	"image"
	"math"
	"runtime"
	"slices"

	"ziegel/core/css"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
	"ziegel/core/parallel"
	"ziegel/core/sweep"
)

// Likeness says how a band of the old page and the block that it became look at Width.
type Likeness struct {
	Band   string
	Texts  int     // texts and pictures of the band; 0 of one that is taken as it is
	Found  int     // of them in the block
	Near   int     // of those found, within 4 CSS px of where the old page has them in the band, and as large
	Was    float64 // height, CSS px
	Is     float64
	Height float64 // Is as a share of Was
	// Seen is the share of the picture that looks the same (draw.Alike), 0 to 1, at each of Looked; nil when the band
	// or the block is not shown, or too large to be drawn.
	Seen []float64
}

// Looked are the screen widths at which bands are held against blocks as pictures, CSS px.
func Looked() []int { return []int{phoneWidth, Width} }

// inPictures holds bands against blocks as pictures, and notes in the likeness of each how much of it looks the same.
func (p *Page) inPictures(bands []*Band, page *sweep.Prepared, list []Likeness) {
	was, err := draw.AtWidths(p.laid, Looked(), draw.Target{}, draw.Look{Files: paint.NewFiles()})
	if err != nil {
		return
	}
	is, err := draw.AtWidths(page, Looked(), draw.Target{}, draw.Look{Files: paint.NewFiles()})
	if err != nil {
		return
	}
	old, now := make([][]*css.Element, len(list)), make([][]*css.Element, len(list))
	for i := range list {
		at := slices.IndexFunc(bands, func(b *Band) bool { return b.Name == list[i].Band })
		old[i], now[i] = bands[at].elements, []*css.Element{page.Block(list[i].Band).Element}
	}
	for k := range was {
		before, after := strips(was[k], old), strips(is[k], now)
		for i := range list {
			if before[i] != nil && after[i] != nil && len(list[i].Seen) == k {
				list[i].Seen = append(list[i].Seen, before[i].Alike(after[i]))
			}
		}
	}
	for i := range list { // of all widths or of none
		if len(list[i].Seen) < len(was) {
			list[i].Seen = nil
		}
	}
}

// seenScale is how large bands are drawn, device pixels a CSS px; seenTile is the side of the squares that are held
// against each other, device pixels: 8 CSS px. slab is how high a part of a page is that is drawn at once, CSS px.
const (
	seenScale = .5
	seenTile  = 4
	slab      = 8192
)

// strips gives the strips of a shot that sets of elements lie in, as wide as the screen; nil for those that are not
// shown there, or too large. Several are drawn at once, as a list of what a page shows is gone through each time: those
// that begin on even pixels apart from the others, so that all fall on whole ones.
func strips(s *draw.Shot, sets [][]*css.Element) []*draw.Tiles {
	out, areas := make([]*draw.Tiles, len(sets)), make([]geom.Rect, len(sets))
	var drawn [2][]int
	for i, set := range sets {
		if area, ok := stripOf(s, set); ok {
			areas[i] = area
			odd := int(math.Abs(area.Y0)) % 2
			drawn[odd] = append(drawn[odd], i)
		}
	}
	var slabs [][]int
	for _, list := range drawn {
		slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(areas[a].Y0, areas[b].Y0) })
		for from := 0; from < len(list); {
			to := from + 1
			for to < len(list) && areas[list[to]].Y1-areas[list[from]].Y0 <= slab {
				to++
			}
			slabs, from = append(slabs, list[from:to]), to
		}
	}
	parallel.Each(runtime.GOMAXPROCS(0), len(slabs), func(_, k int) bool {
		area := areas[slabs[k][0]]
		for _, i := range slabs[k] {
			area.Y1 = max(area.Y1, areas[i].Y1)
		}
		img, err := raster.Draw(s.List, raster.Options{Area: &area, Scale: seenScale, Workers: 1})
		if err != nil {
			return true
		}
		for _, i := range slabs[k] {
			part := img.Bounds()
			part.Min.Y = int((areas[i].Y0 - area.Y0) * seenScale)
			part.Max.Y = min(part.Max.Y, int(math.Ceil((areas[i].Y1-area.Y0)*seenScale)))
			out[i] = draw.TilesOf(img.SubImage(part).(*image.RGBA), seenTile)
		}
		return true
	})
	return out
}

// stripOf gives the strip that elements lie in, false when they are not shown.
func stripOf(s *draw.Shot, set []*css.Element) (geom.Rect, bool) {
	var all layout.Rect
	for _, e := range set {
		if f := s.Result.Of(e); f != nil && !f.Empty() {
			all = union(all, f.Rect)
		}
	}
	return geom.Rect{Y0: math.Floor(all.Y.Float()), X1: float64(s.Width),
		Y1: math.Ceil(all.Bottom().Float())}, !all.Empty()
}
