package cli

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// forceFlag lets a command write an output over a file that it has not written.
func (a *app) forceFlag(cmd *cobra.Command) {
	cmd.Flags().BoolVar(&a.overwrite, "force", false, "write over a file that is no output of this program")
}

// allFlag lets a command tell more than the first ten of something.
func (a *app) allFlag(cmd *cobra.Command, what string) {
	cmd.Flags().BoolVar(&a.all, "all", false, fmt.Sprintf("all %s, not the first ten", what))
}

// save writes an output that somebody named.
func (a *app) save(file string, data []byte) error {
	if err := a.mayWrite(file); err != nil {
		return err
	}
	if err := site.WriteFile(file, data); err != nil {
		return fmt.Errorf("write %s: %w", file, diag.Bare(err))
	}
	return nil
}

// mayWrite refuses to write an output over a source of a site, whatever is asked for, and over a file that is no
// output of this program unless
// --force is given.
func (a *app) mayWrite(file string) error {
	if file == "" {
		return nil
	}
	abs, err := filepath.Abs(file)
	if err != nil {
		return err
	}
	info, err := os.Lstat(abs)
	if err != nil {
		return nil // it is new
	}
	if dir, err := site.Find(filepath.Dir(abs)); err == nil {
		if rel, err := filepath.Rel(dir, abs); err == nil {
			rel = filepath.ToSlash(rel)
			if site.IsSource(rel) && !strings.HasPrefix(rel, ".ziegel/") || strings.HasPrefix(rel, "media/") ||
				strings.HasPrefix(rel, ".ziegel/history") {
				return fmt.Errorf("%s is a source of the site and stays as it is: name another file", file)
			}
		}
	}
	if a.overwrite || !info.Mode().IsRegular() || info.Size() == 0 {
		return nil
	}
	data, err := site.ReadRegular(abs)
	if err == nil && isOutput(strings.ToLower(filepath.Ext(file)), data) {
		return nil
	}
	return fmt.Errorf("%s is there, and no output of this program: name another file, or --force to write over it",
		file)
}

// isOutput reports whether a file looks like what this program writes in files with such an ending.
func isOutput(ext string, data []byte) bool {
	has := func(text string) bool { return bytes.Contains(data, []byte(text)) }
	switch ext {
	case ".html":
		return has(build.Generator)
	case ".sarif":
		return has(`"runs"`) && has("Ziegel")
	case ".xml":
		return has(`<testsuites name="ziegel`)
	case ".png": // the only ones that lie where pictures are written: those of a site are sources
		return bytes.HasPrefix(data, []byte("\x89PNG\r\n"))
	case ".svg":
		return bytes.HasPrefix(data, []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="`))
	case ".pdf":
		return bytes.HasPrefix(data, []byte("%PDF-")) && has("go-pdf") || has("fpdf") || has("FPDF")
	case ".css":
		return has("--color-plain-ground:")
	case ".json":
		return has(`"findings"`) || has(`"reports"`) || has(`"$value"`) && has(`"plain"`)
	}
	return false
}
