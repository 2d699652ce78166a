package edit

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/table"
)

func readTable(dir, file string) (*table.Table, error) {
	path := file
	if _, err := os.Stat(path); err != nil && !filepath.IsAbs(file) {
		path = filepath.Join(dir, filepath.FromSlash(file))
	}
	data, err := site.ReadRegular(path)
	if errors.Is(err, fs.ErrNotExist) {
		near := diag.Nearest(filepath.Base(file), media.List(site.Folder(dir), "data"))
		if near != "" {
			return nil, fmt.Errorf("there is no file %s; did you mean data/%s?", file, near)
		}
		return nil, fmt.Errorf("there is no file %s", file)
	}
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	return table.Read(file, data)
}

// pictureFiles lists the pictures of a folder, as paths below media/.
func pictureFiles(dir, folder string) ([]string, error) {
	if folder == "" {
		return nil, nil
	}
	rel := strings.Trim(strings.TrimPrefix(filepath.ToSlash(folder), "media"), "/")
	var out []string
	for _, f := range media.List(site.Folder(dir), "media") {
		if rel == "" || strings.HasPrefix(f, rel+"/") {
			switch strings.ToLower(filepath.Ext(f)) {
			case ".svg", ".png", ".jpg", ".jpeg", ".webp", ".gif", ".avif":
				out = append(out, f)
			}
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("there are no pictures in media/%s", rel)
	}
	return out, nil
}

// matchPicture finds the picture whose name is a cell's, whole or its first word, letter case and accents aside.
func matchPicture(row, files []string) string {
	for _, whole := range []bool{true, false} {
		for _, cell := range row {
			want := media.Slug(cell)
			if !whole {
				want, _, _ = strings.Cut(want, "-")
			}
			for _, f := range files {
				base := media.Slug(strings.TrimSuffix(filepath.Base(f), filepath.Ext(f)))
				if want != "" && len(want) > 1 && base == want {
					return f
				}
			}
		}
	}
	return ""
}
