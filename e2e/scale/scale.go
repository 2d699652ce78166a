// Package scale writes sites of any size, of the shipped sections with their samples: for measuring what grows how.
package scale

import (
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"path/filepath"
	"strings"
)

// light are sections of common pages, in the order of one.
var light = []string{"hero/beside", "features/cards", "features/rows", "testimonials/row", "steps/line",
	"statistics/large", "questions/list", "team/grid", "logos/row", "action/band"}

func write(dir, name, text string) error {
	path := filepath.Join(dir, filepath.FromSlash(name))
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return err
	}
	return os.WriteFile(path, []byte(text), 0o644)
}

const siteFile = `name: Larkspan
address: https://larkspan.example
theme: marram
every-page:
  top:
    - name: menu
      section: nav/bar
      content: {brand: {label: Larkspan, to: %s}}
  bottom:
    - name: foot
      section: footer/columns
`

// Blocks writes a site with one page of n blocks.
func Blocks(dir string, n int) error {
	if err := write(dir, "ziegel.yaml", fmt.Sprintf(siteFile, "home")); err != nil {
		return err
	}
	return write(dir, "pages/home.yaml", page("Home", n, func(int) string { return "" }))
}

func page(title string, n int, content func(i int) string) string {
	var s strings.Builder
	fmt.Fprintf(&s, "title: %s\ndescription: One of many pages of a made-up workshop.\nblocks:\n", title)
	for i := range n {
		fmt.Fprintf(&s, "  - name: b%d\n    section: %s\n    content:\n      heading: Kites for wind number %d\n%s",
			i+1, light[i%len(light)], i+1, content(i))
	}
	return s.String()
}

// Entries writes a site with one page of one price list of n entries.
func Entries(dir string, n int) error {
	if err := write(dir, "ziegel.yaml", fmt.Sprintf(siteFile, "home")); err != nil {
		return err
	}
	var s strings.Builder
	s.WriteString("title: Prices\ndescription: What every kite of a made-up workshop costs.\nblocks:\n  - name: plans\n    section: pricing/plans\n    content:\n      heading: Every kite\n      items:\n")
	for i := range n {
		fmt.Fprintf(&s, "        - title: Kite number %d\n          text: Sewn by hand for winds of %d knots and more.\n          price: €%d\n          unit: a kite\n          points:\n            - A line of %d m\n            - A bag\n          link: {label: Order it, to: home}\n", i+1, i%30, 40+i, 20+i)
	}
	return write(dir, "pages/home.yaml", s.String())
}

// picturesOf is how many pictures a site has for each of its pages, in tenths.
const picturesOf = 3

// Pages writes a site of n pages of ten blocks each, with three pictures for ten pages.
func Pages(dir string, n int) error {
	if err := write(dir, "ziegel.yaml", fmt.Sprintf(siteFile, "p1")); err != nil {
		return err
	}
	pictures := max(1, n*picturesOf/10)
	for i := range pictures {
		if err := picture(filepath.Join(dir, "media", fmt.Sprintf("kite-%d.jpg", i+1)), i); err != nil {
			return err
		}
	}
	for p := range n {
		name := fmt.Sprintf("p%d", p)
		if p == 0 {
			name = "home"
		}
		text := page(fmt.Sprintf("Page %d", p+1), 10, func(i int) string {
			switch i {
			case 0:
				return fmt.Sprintf("      media: {file: kite-%d.jpg, alt: A kite over dunes}\n      lead: What we sew on page %d, and for whom.\n", p%pictures+1, p+1)
			case 1:
				return fmt.Sprintf("      lead: See the [page after this](p%d).\n", max(1, (p+1)%n))
			}
			return ""
		})
		if err := write(dir, "pages/"+name+".yaml", text); err != nil {
			return err
		}
	}
	return nil
}

// picture writes a photo of 1600 x 1000 px that is like no other.
func picture(path string, seed int) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return err
	}
	img := image.NewRGBA(image.Rect(0, 0, 1600, 1000))
	for y := range 1000 {
		for x := range 1600 {
			img.SetRGBA(x, y, color.RGBA{uint8((x + seed*7) >> 3), uint8((y + seed*13) >> 2),
				uint8((x ^ y) >> 3), 255})
		}
	}
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	if err := jpeg.Encode(f, img, &jpeg.Options{Quality: 70}); err != nil {
		f.Close()
		return err
	}
	return f.Close()
}

// Outside writes an HTML file as others write them: about 30 elements for each of n, lists of 20 n entries, nesting
// of up to 30 levels.
func Outside(dir string, n int) error {
	var s strings.Builder
	s.WriteString("<!doctype html><html lang=en><meta charset=utf-8><title>Outside</title><style>\nbody{margin:0;font-family:sans-serif}.grid{display:grid;grid-template-columns:repeat(auto-fill,minmax(200px,1fr));gap:1rem}.card{padding:1rem;border:1px solid #ccc}.row{display:flex;flex-wrap:wrap;gap:1rem}.deep{padding:1px}li{margin:.25rem 0}\n</style><body>\n")
	for i := range n {
		fmt.Fprintf(&s, "<section><h2>Part %d</h2><div class=grid>", i)
		for j := range 6 {
			fmt.Fprintf(&s, "<div class=card><h3>Kite %d</h3><p>For winds of <b>%d</b> knots and more, sewn by hand.</p></div>", i*6+j, j)
		}
		s.WriteString("</div></section>\n")
	}
	s.WriteString("<ul>")
	for i := range n * 20 {
		fmt.Fprintf(&s, "<li>Entry %d of a long list</li>", i)
	}
	s.WriteString("</ul>" + strings.Repeat("<div class=deep>", 30) + "<p>Deep inside</p>" +
		strings.Repeat("</div>", 30))
	return write(dir, "page.html", s.String())
}
