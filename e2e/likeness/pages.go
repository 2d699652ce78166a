package likeness

import (
	"context"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/rogpeppe/go-internal/txtar"

	"ziegel/core/build"
	"ziegel/core/draw"
	"ziegel/core/font"
	"ziegel/core/library"
	"ziegel/core/paint"
	"ziegel/core/paint/raster"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/internal/testfont"
)

// Features writes the pages of testdata/drawing below root and returns them.
func Features(testdata, stockDir, root string) ([]string, error) {
	data, err := os.ReadFile(filepath.Join(testdata, "drawing", "features.txtar"))
	if err != nil {
		return nil, err
	}
	var pages []string
	for _, f := range txtar.Parse(data).Files {
		if err := site.WriteFile(filepath.Join(root, "features", f.Name), f.Data); err != nil {
			return nil, err
		}
		pages = append(pages, "features/"+f.Name)
	}
	fonts, err := filepath.Glob(filepath.Join(stockDir, "fonts", "*.woff2"))
	if err != nil {
		return nil, err
	}
	for _, f := range fonts {
		if err := copyFile(f, filepath.Join(root, "features", "fonts", filepath.Base(f))); err != nil {
			return nil, err
		}
	}
	if err := copyFile(filepath.Join(stockDir, "pictures", "delta.svg"),
		filepath.Join(root, "features", "delta.svg")); err != nil {
		return nil, err
	}
	plain, err := os.ReadFile(filepath.Join(testdata, "boxes", "assets", "marlow.ttf"))
	if err != nil {
		return nil, err
	}
	f, err := font.Parse("marlow", plain)
	if err != nil {
		return nil, err
	}
	g := f.Glyphs([]rune("ABo"), font.Features{})
	colored := testfont.Colored(plain, uint16(g[0].ID), uint16(g[1].ID), uint16(g[2].ID))
	if err := site.WriteFile(filepath.Join(root, "features", "fonts", "colored.ttf"), colored); err != nil {
		return nil, err
	}
	return pages, samples(filepath.Join(root, "features"))
}

func copyFile(from, to string) error {
	data, err := os.ReadFile(from)
	if err != nil {
		return err
	}
	return site.WriteFile(to, data)
}

// samples writes a small pattern and a photograph of nothing.
func samples(dir string) error {
	pattern := image.NewRGBA(image.Rect(0, 0, 24, 16))
	for y := range 16 {
		for x := range 24 {
			c := color.RGBA{240, 230, 200, 255}
			if (x/6+y/4)%2 == 0 {
				c = color.RGBA{uint8(40 + x*8), 90, uint8(60 + y*10), 255}
			}
			pattern.Set(x, y, c)
		}
	}
	photo := image.NewRGBA(image.Rect(0, 0, 480, 320))
	for y := range 320 {
		for x := range 480 {
			photo.Set(x, y, color.RGBA{uint8(x * 255 / 480), uint8(y * 255 / 320), uint8((x + y) * 255 / 800), 255})
		}
	}
	for name, write := range map[string]func(f *os.File) error{
		"pattern.png": func(f *os.File) error { return png.Encode(f, pattern) },
		"photo.jpg":   func(f *os.File) error { return jpeg.Encode(f, photo, &jpeg.Options{Quality: 92}) }} {
		f, err := os.Create(filepath.Join(dir, name))
		if err != nil {
			return err
		}
		if err := write(f); err != nil {
			return err
		}
		if err := f.Close(); err != nil {
			return err
		}
	}
	return nil
}

// Themes are those that sections are drawn in.
var Themes = []string{"marram", "tideline", "lamplight", "driftwood"}

// Sections builds a page for every section in a theme and returns them.
func Sections(stock fs.FS, root, theme string) ([]string, error) {
	lib, problems := library.Load("sections", stock)
	if err := problems.Err(); err != nil {
		return nil, err
	}
	dir, err := os.MkdirTemp("", "ziegel-sections")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := site.WriteFile(filepath.Join(dir, "ziegel.yaml"),
		[]byte("name: Larkspan\ntheme: "+theme+"\n")); err != nil {
		return nil, err
	}
	for _, s := range lib.All() {
		page := fmt.Sprintf("title: %s\nblocks:\n  - {name: b, section: %s}\n", s.Name, s.Name)
		name := strings.ReplaceAll(s.Name, "/", "-")
		if err := site.WriteFile(filepath.Join(dir, "pages", name+".yaml"), []byte(page)); err != nil {
			return nil, err
		}
	}
	return Built(stock, dir, root, theme)
}

// Built builds a site below root and returns its pages.
func Built(stock fs.FS, dir, root, name string) ([]string, error) {
	env, problems, err := project.Open(dir, stock)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, err
	}
	files, problems := build.Build(env, build.Options{})
	if err := problems.Err(); err != nil {
		return nil, err
	}
	var pages []string
	for file, built := range files {
		if err := site.WriteFile(filepath.Join(root, name, filepath.FromSlash(file)), built.Data); err != nil {
			return nil, err
		}
		if strings.HasSuffix(file, ".html") && file != "404.html" {
			pages = append(pages, name+"/"+file)
		}
	}
	return pages, nil
}

// Seen is how a page was drawn beside how the browser shows it.
type Seen struct {
	browser.View
	Result
	Missed []string
	Err    error
}

// Name is the page with how it was looked at.
func (s Seen) Name() string {
	name := fmt.Sprintf("%s at %d x%g", s.Page, s.Width, s.Scale)
	if s.Dark {
		name += " dark"
	}
	return name
}

// Against draws pages below root and compares them with what the browser shows.
func Against(ctx context.Context, stock fs.FS, root string, views []browser.View) ([]Seen, error) {
	out := make([]Seen, 0, len(views))
	files := paint.NewFiles()
	err := browser.Shoot(ctx, root, views, func(i int, theirs *image.RGBA) error {
		ours, missed, err := Draw(stock, root, views[i], files)
		if err != nil {
			return err
		}
		s := Seen{View: views[i], Result: Compare(ours, theirs), Missed: missed}
		if ours.Rect.Dx() != theirs.Rect.Dx() || ours.Rect.Dy() != theirs.Rect.Dy() {
			s.Err = fmt.Errorf("%v here, %v in the browser", ours.Rect.Size(), theirs.Rect.Size())
		}
		if dir := os.Getenv("ZIEGEL_SHOTS"); dir != "" { // both, to look at
			name := strings.NewReplacer("/", "_", " ", "_").Replace(s.Name())
			for kind, img := range map[string]*image.RGBA{"ours": ours, "theirs": theirs} {
				f, err := os.Create(filepath.Join(dir, name+"."+kind+".png"))
				if err != nil {
					return err
				}
				if err := png.Encode(f, img); err != nil {
					return err
				}
				if err := f.Close(); err != nil {
					return err
				}
			}
		}
		out = append(out, s)
		return nil
	})
	return out, err
}

// Picture is what is compared.
type Picture = *image.RGBA

// Draw draws a page below root.
func Draw(stock fs.FS, root string, v browser.View, files *paint.Files) (*image.RGBA, []string, error) {
	l, err := sweep.FromFile(filepath.Join(root, filepath.FromSlash(v.Page)), stock)
	if err != nil {
		return nil, nil, err
	}
	shot, err := draw.Of(l, v.Width, draw.Target{}, draw.Look{Scale: v.Scale, Dark: v.Dark, Files: files})
	if err != nil {
		return nil, nil, err
	}
	var missed []string
	for _, m := range shot.List.Missed {
		missed = append(missed, m.What)
	}
	img, err := raster.Draw(shot.List, raster.Options{Scale: v.Scale})
	return img, missed, err
}
