package adopt

import (
	"math"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// Laid gives the old page, laid out.
func (p *Page) Laid() *sweep.Prepared { return p.laid }

// nearPx is how far apart boxes may be that count as the same, CSS px.
const nearPx = 4

// Against holds the bands of a page, and those that every page has from it, against the blocks that they became: box by
// box at Width (texts by what they say, pictures by their files), and as pictures at Looked.
func (t *Taking) Against(p *Page, now *sweep.Prepared) []Likeness {
	bands := slices.Clone(t.Top)
	bands = append(append(bands, p.Bands...), t.Bottom...)
	bands = slices.DeleteFunc(bands, func(b *Band) bool { return b.from != nil && b.from != p })
	out := inBoxes(bands, now)
	p.inPictures(bands, now, out)
	return out
}

// inBoxes holds bands against blocks box by box.
func inBoxes(bands []*Band, now *sweep.Prepared) []Likeness {
	r := now.Engine().Layout(Width)
	var out []Likeness
	for _, b := range bands {
		block := now.Block(b.Name)
		if block == nil {
			continue
		}
		at := r.Of(block.Element)
		if at == nil {
			continue
		}
		one := Likeness{Band: b.Name, Was: b.Where.H.Float(), Is: at.H.Float()}
		if one.Was > 0 {
			one.Height = one.Is / one.Was
		}
		if b.read == nil { // the section made it: nothing was read
			out = append(out, one)
			continue
		}
		texts, all := textBoxes(block.Element, r), squeezed(textOf(block.Element.Raw))
		for _, x := range b.read.every() {
			key := x.plain
			if x.sort == picture {
				key = "picture " + x.value.Get("file").Str()
			}
			if key == "" || x.sort == list || x.sort == form {
				continue
			}
			one.Texts++
			boxes := texts[squeezed(key)]
			if len(boxes) == 0 { // a part of a longer text, or what is closed until somebody opens it
				if has := strings.Contains(all, squeezed(key)); has || splitIn(all, key) {
					one.Found++
				}
				continue
			}
			one.Found++
			texts[squeezed(key)] = boxes[1:]
			if sameBox(shifted(x.box, b.Where), shifted(boxes[0], at.Rect)) {
				one.Near++
			}
		}
		out = append(out, one)
	}
	return out
}

// splitIn reports a text that two fields share, such as a name and what somebody does.
func splitIn(all, key string) bool {
	a, b, two := strings.Cut(strings.TrimLeft(key, "—–- "), ", ")
	return two && strings.Contains(all, squeezed(a)) && strings.Contains(all, squeezed(b))
}

// shifted gives a box seen from the corner of another.
func shifted(r, from layout.Rect) layout.Rect {
	return layout.Rect{X: r.X, Y: r.Y - from.Y, W: r.W, H: r.H}
}

func sameBox(a, b layout.Rect) bool {
	near := func(x, y layout.Px) bool { return math.Abs((x - y).Float()) <= nearPx }
	return near(a.X, b.X) && near(a.Y, b.Y) && near(a.W, b.W) && near(a.H, b.H)
}

// textBoxes lists the boxes of a block by what they say, the innermost first.
func textBoxes(e *css.Element, r *layout.Result) map[string][]layout.Rect {
	out := map[string][]layout.Rect{}
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		if f := r.Of(e); f != nil {
			switch {
			case e.Tag == "img":
				file := e.Attr("src")
				if i := strings.LastIndex(file, "media/"); i >= 0 {
					file = file[i+len("media/"):]
				}
				key := squeezed("picture " + file)
				out[key] = append(out[key], f.Rect)
			case hasText(e) || isHeading(e.Tag):
				key := squeezed(textOf(e.Raw))
				out[key] = append(out[key], f.Rect)
			}
		}
		for _, k := range e.Kids() {
			walk(k)
		}
	}
	walk(e)
	return out
}

// squeezed writes a text so that quotation marks and spaces count on neither side.
func squeezed(s string) string {
	return strings.Join(strings.Fields(strings.Trim(s, "“”„\"«» ")), " ")
}
