package equal

import (
	"fmt"
	"os"
	"path/filepath"
	"sort"
	"strings"

	"github.com/rogpeppe/go-internal/txtar"
)

// head stands before a page that does not bring its own.
const head = "<!doctype html><meta charset=utf-8><link rel=stylesheet href=../fonts.css>\n"

// Fixtures writes the pages of testdata/boxes below root, with the fonts and pictures that they use, and returns
// their paths there. A .html file is a page; a .txtar file holds many small ones, by name. dir is the folder of this
// repository's e2e.
func Fixtures(dir, root string) ([]string, error) {
	boxes := filepath.Join(dir, "testdata", "boxes")
	for from, to := range map[string]string{filepath.Join(dir, "../stock/fonts/*.woff2"): "fonts",
		filepath.Join(dir, "../stock/fonts/generic/dejavu-sans-*.woff2"): "fonts",
		filepath.Join(boxes, "assets/*"):                                 ".", filepath.Join(dir,
			"../stock/pictures/delta.svg"): "."} {
		names, err := filepath.Glob(from)
		if err != nil {
			return nil, err
		}
		for _, n := range names {
			data, err := os.ReadFile(n)
			if err != nil {
				return nil, err
			}
			if err := write(filepath.Join(root, "boxes", to, filepath.Base(n)), data); err != nil {
				return nil, err
			}
		}
	}
	names, err := filepath.Glob(filepath.Join(boxes, "*.*"))
	if err != nil {
		return nil, err
	}
	var pages []string
	add := func(name string, data []byte) error {
		if strings.HasSuffix(name, ".html") {
			pages = append(pages, "boxes/"+name)
			if !strings.HasPrefix(strings.ToLower(string(data)), "<!doctype") {
				data = append([]byte(head), data...)
			}
		}
		return write(filepath.Join(root, "boxes", filepath.FromSlash(name)), data)
	}
	for _, n := range names {
		data, err := os.ReadFile(n)
		if err != nil {
			return nil, err
		}
		base := filepath.Base(n)
		if group, many := strings.CutSuffix(base, ".txtar"); many {
			for _, f := range txtar.Parse(data).Files {
				if err := add(group+"/"+f.Name, f.Data); err != nil {
					return nil, err
				}
			}
			continue
		}
		if err := add("pages/"+base, data); err != nil {
			return nil, err
		}
	}
	sort.Strings(pages)
	for i := 1; i < len(pages); i++ {
		if pages[i] == pages[i-1] {
			return nil, fmt.Errorf("%s is there twice", pages[i])
		}
	}
	return pages, nil
}

func write(path string, data []byte) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o777); err != nil {
		return err
	}
	return os.WriteFile(path, data, 0o666)
}
