package measure

import (
	"fmt"
	"math"
	"strings"
	"sync"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// firstScreen is how far down a page a picture counts as seen at once, CSS px: the tallest usual screen that is not
// held by a phone.
const firstScreen = 1080

// screens are the widths at which it is asked what lies on the first screen, CSS px.
var screens = []int{390, 820, 1280, 1920}

// usualScreens are those at which it is asked how large a picture is shown, CSS px.
var usualScreens = []int{390, 599, 768, 1023, 1280, 1920}

// Needed gives what says how large pictures of a page have to be, px: twice what they are shown at on usual screens,
// for those with two pixels a CSS px; 0 for one that is shown nowhere. The page is laid out when it is asked for the
// first time.
func Needed(l *sweep.Prepared) func(el *css.Element) (w, h int) {
	sizes := sync.OnceValue(func() map[int][2]int {
		out := map[int][2]int{}
		engine := l.Engine()
		for _, width := range usualScreens {
			r := engine.Layout(width)
			for i := range r.Boxes {
				if f := &r.Boxes[i]; f.Element.Tag == "img" {
					s := out[f.Element.Index]
					out[f.Element.Index] = [2]int{max(s[0], int(math.Ceil(2*f.W.Float()))),
						max(s[1], int(math.Ceil(2*f.H.Float())))}
				}
			}
		}
		return out
	})
	return func(el *css.Element) (w, h int) {
		s := sizes()[el.Index]
		return s[0], s[1]
	}
}

// pictures finds how the pictures of a page are shown: how wide at which screens, for those that have smaller copies,
// and which may wait until they come near. It lays out the whole page; a page without pictures costs nothing.
func pictures(e *project.Project, p *site.Page, m *styles.Measured,
	opts compose.Options) map[styles.PictureKey]styles.PictureFit {
	opts.Marks, opts.Measured = true, m
	page, _ := compose.Compose(e, p, opts)
	if !strings.Contains(page.HTML, "<img") {
		return nil
	}
	key := "pictures-" + hashOf(compose.Faceless(e, page))
	if out, ok := recall[map[styles.PictureKey]styles.PictureFit](e, key); ok {
		return out
	}
	out := fits(e, page)
	keep(e, key, out)
	return out
}

// fits lays a page out and looks how its pictures are shown.
func fits(e *project.Project, page *compose.Page) map[styles.PictureKey]styles.PictureFit {
	l, err := sweep.FromPage(e, page)
	if err != nil {
		return nil
	}
	out := map[styles.PictureKey]styles.PictureFit{}
	keys := map[*css.Element]styles.PictureKey{}
	count := map[string]int{}
	copied := false
	for _, el := range l.Doc.Elements {
		if el.Tag != "img" {
			continue
		}
		block := blockAround(el)
		keys[el] = styles.PictureKey{Block: block, Index: count[block]}
		count[block]++
		out[keys[el]] = styles.PictureFit{Later: true}
		for _, src := range files(el) {
			if w, h, ok := l.Picture(src); ok && len(media.Copies(src, w, h)) > 0 {
				copied = true
			}
		}
	}
	engine := l.Engine()
	largest, most := styles.PictureKey{}, 0.0
	for _, w := range screens {
		r := engine.Layout(w)
		for i := range r.Boxes {
			b := &r.Boxes[i]
			key, ok := keys[b.Element]
			if !ok || b.Empty() || b.Y.Float() >= firstScreen {
				continue
			}
			fit := out[key]
			fit.Later = false
			out[key] = fit
			if area := b.W.Float() * (min(b.Bottom().Float(), 800) - b.Y.Float()) / float64(w); area > most {
				largest, most = key, area
			}
		}
	}
	if most > 120 { // of 800 px of height, as wide as the screen
		fit := out[largest]
		fit.First = true
		out[largest] = fit
	}
	if copied {
		sizes(l, engine, keys, out)
	}
	return out
}

// files lists what an img may show, as addresses.
func files(el *css.Element) []string {
	out := []string{el.Attr("src")}
	if p := el.Parent; p != nil && p.Tag == "picture" {
		for _, k := range p.Kids() {
			if src := k.Attr("srcset"); k.Tag == "source" && src != "" {
				out = append(out, src)
			}
		}
	}
	return out
}

// sizes measures how wide each picture is drawn over all screens and writes it in the form of the sizes attribute.
func sizes(l *sweep.Prepared, engine *layout.Engine, keys map[*css.Element]styles.PictureKey,
	out map[styles.PictureKey]styles.PictureFit) {
	boxes := map[*css.Element][][2]float64{}
	n := 0
	for w := sweep.DefaultFrom; w <= sweep.DefaultTo; w += sizeStep {
		r := engine.Layout(w)
		for i := range r.Boxes {
			b := &r.Boxes[i]
			if _, ok := keys[b.Element]; ok {
				for len(boxes[b.Element]) < n { // it had no box at the widths before
					boxes[b.Element] = append(boxes[b.Element], [2]float64{})
				}
				boxes[b.Element] = append(boxes[b.Element], [2]float64{b.W.Float(), b.H.Float()})
			}
		}
		n++
	}
	for el, list := range boxes {
		fit := out[keys[el]]
		fit.Sizes = map[string]string{}
		for _, src := range files(el) {
			w, h, ok := l.Picture(src)
			name, named := project.MediaName(src)
			if !ok || !named || w == 0 || h == 0 {
				continue
			}
			wide := make([]float64, len(list))
			for i, b := range list {
				wide[i] = max(b[0], min(b[1]*w/h, 3*b[0])) // wider than the box where its sides are cut off
			}
			fit.Sizes[name] = sizesText(wide)
		}
		out[keys[el]] = fit
	}
}

// slack is how much wider than it is a picture may be said to be, as a share.
const slack = .12

// sizesText writes widths, measured every sizeStep px, as a list of media conditions and lengths: in each span of
// screens a share of the screen or a number of px that is no less than the widest there and little more than each.
func sizesText(list []float64) string {
	at := func(i int) float64 { return float64(sweep.DefaultFrom + i*sizeStep) }
	var parts []string
	for i := 0; i < len(list); {
		end, length := i, ""
		for j := i; j < len(list); j++ { // as far as one length does
			text, ok := covering(list[i:j+1], at(i))
			if !ok {
				break
			}
			end, length = j, text
		}
		if end == len(list)-1 {
			return strings.Join(append(parts, length), ", ")
		}
		parts = append(parts, fmt.Sprintf("(width < %srem) %s", trim(at(end+1)/16), length))
		i = end + 1
	}
	return ""
}

// covering gives a length that does for widths from a screen on.
func covering(list []float64, from float64) (string, bool) {
	px, share := 0.0, 0.0
	for i, w := range list {
		px, share = math.Max(px, w), math.Max(share, w/(from+float64(i)*sizeStep))
	}
	vw := math.Ceil(share * 100)
	fits := func(said func(i int) float64) bool {
		for i, w := range list {
			if w > 0 && said(i) > w*(1+slack)+8 {
				return false
			}
		}
		return true
	}
	if fits(func(i int) float64 { return vw / 100 * (from + float64(i)*sizeStep) }) {
		return trim(vw) + "vw", true
	}
	if fits(func(int) float64 { return px }) {
		return trim(math.Ceil(px)) + "px", true
	}
	return "", len(list) == 1
}

func trim(v float64) string { return strings.TrimSuffix(fmt.Sprintf("%.4g", v), ".0") }
