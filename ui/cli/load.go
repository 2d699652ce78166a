package cli

import (
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// isFile reports whether an argument means an HTML file.
func isFile(arg string) bool {
	ext := strings.ToLower(filepath.Ext(arg))
	return ext == ".html" || ext == ".htm"
}

// subject loads a page, one that a block of was asked for, or a file.
func (a *app) subject(arg string) (*check.Subject, error) {
	if isFile(arg) {
		l, err := sweep.FromFile(arg, stock.Files)
		return &check.Subject{Name: arg, Prepared: l}, err
	}
	e, dir, err := a.open()
	if err != nil {
		return nil, err
	}
	if strings.ContainsAny(arg, "/#") {
		ad, err := address.OfBlock(arg)
		if err != nil {
			return nil, err
		}
		if ad.Block != "" {
			page, b, err := address.FindBlock(e, ad)
			if err != nil {
				return nil, err
			}
			s, err := check.Lay(e, page, nil)
			if err == nil {
				s.Block = b.Name
			}
			return s, err
		}
	}
	p, err := address.FindPage(e, arg)
	if err != nil {
		if _, statErr := os.Stat(filepath.Join(dir, arg)); statErr == nil {
			return nil, errNotPage(arg)
		}
		return nil, err
	}
	return check.Lay(e, p, nil)
}

type errNotPage string

func (e errNotPage) Error() string {
	if e == "" {
		return "a page needs a name: give one such as home, or a file that ends in .html"
	}
	return string(e) + " is a file, but no HTML file: give a page name such as home, or a file that ends in .html"
}
