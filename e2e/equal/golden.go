package equal

import (
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"sort"

	"ziegel/e2e/browser"
)

// Golden is what a browser made of the fixtures, and what it was: so that its boxes can be compared without it.
type Golden struct {
	Browser string            `json:"browser"`
	Flags   []string          `json:"flags"`
	Fonts   map[string]string `json:"fonts"` // SHA-256 of each font and picture beside the pages
	Pages   []goldenPage      `json:"pages"`
}

// goldenPage keeps the boxes of one page, width after width: x, y, w, h in 1/64 px and lines, as differences to the
// width before.
type goldenPage struct {
	Page   string             `json:"page"`
	Source string             `json:"source"` // SHA-256 of the page
	Widths []int              `json:"widths"`
	Sizes  [][2]float64       `json:"sizes"` // height of the page and sideways overflow, CSS px
	Boxes  map[string][][]int `json:"boxes"` // by path; an empty entry where there is no box
}

// NewGolden turns measured pages below root into a Golden.
func NewGolden(version, root string, pages []browser.Page) (*Golden, error) {
	g := &Golden{Browser: version, Flags: browser.Flags(), Fonts: map[string]string{}}
	for _, pattern := range []string{"boxes/*.*", "boxes/fonts/*.*"} {
		names, err := filepath.Glob(filepath.Join(root, pattern))
		if err != nil {
			return nil, err
		}
		for _, n := range names {
			sum, err := hash(n)
			if err != nil {
				return nil, err
			}
			g.Fonts[filepath.Base(n)] = sum
		}
	}
	for _, p := range pages {
		sum, err := hash(filepath.Join(root, filepath.FromSlash(p.Page)))
		if err != nil {
			return nil, err
		}
		gp := goldenPage{Page: p.Page, Source: sum, Boxes: map[string][][]int{}}
		for i, w := range p.Widths {
			gp.Widths = append(gp.Widths, w.Width)
			gp.Sizes = append(gp.Sizes, [2]float64{w.Height, w.Overflow})
			for _, b := range w.Boxes {
				for len(gp.Boxes[b.Path]) < i {
					gp.Boxes[b.Path] = append(gp.Boxes[b.Path], nil)
				}
				gp.Boxes[b.Path] = append(gp.Boxes[b.Path], []int{units(b.X), units(b.Y), units(b.W),
					units(b.H), b.Lines})
			}
		}
		for path, list := range gp.Boxes {
			gp.Boxes[path] = deltas(list, -1)
		}
		g.Pages = append(g.Pages, gp)
	}
	sort.Slice(g.Pages, func(i, j int) bool { return g.Pages[i].Page < g.Pages[j].Page })
	return g, nil
}

func units(v float64) int { return int(math.Round(v * 64)) }

// deltas replaces each entry by its difference to the one before (sign -1), or the other way round (sign 1).
func deltas(list [][]int, sign int) [][]int {
	out := make([][]int, len(list))
	last := make([]int, 5)
	for i, e := range list {
		if len(e) == 0 {
			continue
		}
		d := make([]int, len(e))
		for k := range e {
			d[k] = e[k] + sign*last[k]
		}
		out[i] = d
		if sign < 0 {
			last = e
		} else {
			last = d
		}
	}
	return out
}

func hash(path string) (string, error) {
	f, err := os.Open(path)
	if err != nil {
		return "", err
	}
	defer f.Close()
	h := sha256.New()
	if _, err := io.Copy(h, f); err != nil {
		return "", err
	}
	return hex.EncodeToString(h.Sum(nil)), nil
}

// Measured gives the pages back as a browser reports them.
func (g *Golden) Measured() []browser.Page {
	var out []browser.Page
	for _, gp := range g.Pages {
		p := browser.Page{Page: gp.Page}
		plain := map[string][][]int{}
		var paths []string
		for path, list := range gp.Boxes {
			plain[path] = deltas(list, 1)
			paths = append(paths, path)
		}
		sort.Strings(paths)
		for i, w := range gp.Widths {
			bw := browser.Width{Width: w, Height: gp.Sizes[i][0], Overflow: gp.Sizes[i][1]}
			for _, path := range paths {
				if list := plain[path]; i < len(list) && list[i] != nil {
					b := list[i]
					f := func(k int) float64 { return float64(b[k]) / 64 }
					bw.Boxes = append(bw.Boxes, browser.Box{Path: path, X: f(0), Y: f(1), W: f(2),
						H: f(3), Lines: b[4]})
				}
			}
			p.Widths = append(p.Widths, bw)
		}
		out = append(out, p)
	}
	return out
}

// Stale names the pages below root that are not recorded as they are now, and files beside them that have changed.
func (g *Golden) Stale(root string, pages []string) ([]string, error) {
	known := map[string]string{}
	for _, p := range g.Pages {
		known[p.Page] = p.Source
	}
	var out []string
	for _, p := range pages {
		sum, err := hash(filepath.Join(root, filepath.FromSlash(p)))
		if err != nil {
			return nil, err
		}
		if known[p] != sum {
			out = append(out, p)
		}
	}
	for name, sum := range g.Fonts {
		at := filepath.Join(root, "boxes", name)
		if _, err := os.Stat(at); err != nil {
			at = filepath.Join(root, "boxes", "fonts", name)
		}
		if now, err := hash(at); err != nil || now != sum {
			out = append(out, name)
		}
	}
	return out, nil
}

// WriteGolden and ReadGolden keep a Golden in a compressed JSON file.
func WriteGolden(path string, g *Golden) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o777); err != nil {
		return err
	}
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	z, err := gzip.NewWriterLevel(f, gzip.BestCompression)
	if err != nil {
		return err
	}
	if err := json.NewEncoder(z).Encode(g); err != nil {
		return err
	}
	if err := z.Close(); err != nil {
		return err
	}
	return f.Close()
}

// ReadGolden reads what WriteGolden wrote.
func ReadGolden(path string) (*Golden, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	z, err := gzip.NewReader(f)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", path, err)
	}
	g := &Golden{}
	if err := json.NewDecoder(z).Decode(g); err != nil {
		return nil, fmt.Errorf("read %s: %w", path, err)
	}
	return g, nil
}
