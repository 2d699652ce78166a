package publish

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// Open gives the target of a place. dir is the site's folder, cache one that may be written. over publishes over what
// somebody else has changed at a place that can tell.
func Open(p Place, dir, cache string, over bool) (Target, error) {
	where := p.Where
	if p.Kind == "sftp" {
		u, err := parseServer("sftp:" + where)
		if err != nil {
			return nil, err
		}
		home, err := os.UserHomeDir()
		if err != nil {
			return nil, err
		}
		return &server{url: u, home: home}, nil
	}
	if p.Kind == "webdav" {
		u, err := parseWeb(where)
		if err != nil {
			return nil, err
		}
		variable := passwordOf(p.Name)
		return &web{url: u, password: os.Getenv(variable), variable: variable}, nil
	}
	if p.Kind == "git" {
		if !strings.Contains(where, "://") && !strings.Contains(where, "@") && !filepath.IsAbs(where) {
			where = filepath.Join(dir, filepath.FromSlash(where))
		}
		return &repository{
			place:   p,
			address: where,
			cache:   filepath.Join(cache, "publish", p.Name+".git"),
			over:    over,
		}, nil
	}
	if !filepath.IsAbs(where) {
		where = filepath.Join(dir, filepath.FromSlash(where))
	}
	if err := outside(where, dir); err != nil {
		return nil, fmt.Errorf("place %s: %w", p.Name, err)
	}
	if p.Kind == "archive" {
		return &archive{file: where}, nil
	}
	return &folder{disk: here{}, root: where}, nil
}

// outside refuses a place in the site's folder, or one that holds it.
func outside(where, dir string) error {
	abs, err := filepath.Abs(where)
	if err != nil {
		return err
	}
	home, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if real, err := filepath.EvalSymlinks(home); err == nil {
		home = real
	}
	if real, err := filepath.EvalSymlinks(filepath.Dir(abs)); err == nil {
		abs = filepath.Join(real, filepath.Base(abs))
	}
	within := func(a, b string) bool {
		rel, err := filepath.Rel(b, a)
		return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
	}
	switch {
	case within(abs, home):
		return fmt.Errorf("%s lies in the site's own folder: publish beside it, such as folder:../out", where)
	case within(home, abs):
		return fmt.Errorf("the site lies in %s: it would be replaced", where)
	}
	return nil
}
