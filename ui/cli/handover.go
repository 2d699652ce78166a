package cli

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/handover"
	"ziegel/core/sweep"
	"ziegel/ui/report"
)

func (a *app) handoverCmd() *cobra.Command {
	var to string
	var one bool
	cmd := &cobra.Command{
		Use:   "handover",
		Short: "Write down the site for those who take it over",
		Long: `Handover writes a folder with a page to read and print: the theme as it is seen and
as tokens, every block in use with its options, states, measures, code and drawings,
the outline and the tab order of every page, the widths at which something changes,
icons, pictures and fonts with their licences, and what has changed since the last
time, with pictures. With --one all of it is in one file.`,
		Example: `  # the folder handover/ beside the site
  ziegel handover

  # elsewhere
  ziegel handover --to ../for-tomas

  # one file, to send
  ziegel handover --one --to larkspan.html`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if one && to == "" {
				return errors.New("--one writes one file: say --to handover.html")
			}
			if one && !strings.EqualFold(filepath.Ext(to), ".html") {
				return fmt.Errorf("%s: the one file is a page, such as handover.html", to)
			}
			return a.handover(to, one)
		},
	}
	cmd.Flags().StringVar(&to, "to", "", "folder to write (default handover, beside the site's); with --one the file")
	cmd.Flags().BoolVar(&one, "one", false, "all of it in one file")
	a.forceFlag(cmd)
	return cmd
}

// handoverMark is a file of each folder that a handover has written.
const handoverMark = "handover.json"

func (a *app) handover(to string, one bool) error {
	e, dir, err := a.open()
	if err != nil {
		return err
	}
	if to == "" {
		to = filepath.Join(filepath.Dir(dir), "handover")
	}
	if one {
		err = a.mayWrite(to)
	} else {
		err = mayFill(to, dir, a.overwrite)
	}
	if err != nil {
		return err
	}
	unlock, err := a.lock(dir)
	if err != nil {
		return err
	}
	defer unlock()
	var subjects []handover.Subject
	pages := pagesOf(e)
	if i := slices.IndexFunc(pages, func(s *check.Subject) bool { return s.Name == "home" }); i > 0 {
		pages = slices.Concat(pages[i:i+1], pages[:i], pages[i+1:]) // the one that opens the site first
	}
	for _, s := range pages {
		if err := s.Prepare(); err != nil {
			return err
		}
		subjects = append(subjects, handover.Subject{Page: s.Prepared,
			Stacks: check.StackKept(storeOf(e), s, sweep.DefaultFrom, sweep.DefaultTo)})
	}
	kept := filepath.Join(dir, ".ziegel", "handover")
	last, err := lastHandover(kept)
	if err != nil {
		return err
	}
	book, err := handover.Make(e, subjects, last)
	if err != nil {
		return err
	}
	now := time.Now()
	book.Record.Day = now.Format("2 January 2006")
	var page bytes.Buffer
	if err := report.Handover(&page, book, book.Record.Day, one); err != nil {
		return err
	}
	if one {
		if err := a.save(to, page.Bytes()); err != nil {
			return err
		}
		a.answer("handed over to %s: %s, %s", to, diag.Plural(len(book.Pages), "page"), size(page.Len()))
	} else {
		book.Files["index.html"] = page.Bytes()
		n, err := fill(to, book)
		if err != nil {
			return err
		}
		a.answer("handed over to %s: %s, %s, %s", to, diag.Plural(len(book.Pages), "page"),
			diag.Plural(len(book.Files), "file"), size(n))
	}
	if book.Since != "" {
		a.answer("since %s: %s", book.Since, diag.Plural(len(book.Changes), "change"))
	}
	return keepHandover(kept, book)
}

// mayFill reports whether a folder may be filled: one of an earlier handover, an empty one, or none.
func mayFill(to, site string, force bool) error {
	abs, err := filepath.Abs(to)
	if err != nil {
		return err
	}
	home, err := filepath.Abs(site)
	if err != nil {
		return err
	}
	for _, part := range []string{"pages", "media", "built", "sections", "themes", ".ziegel"} {
		if rel, err := filepath.Rel(filepath.Join(home, part), abs); err == nil && !strings.HasPrefix(rel, "..") ||
			abs == home {
			return fmt.Errorf("%s belongs to the site: name another folder with --to", to)
		}
	}
	list, err := os.ReadDir(to)
	switch {
	case errors.Is(err, fs.ErrNotExist) || err == nil && len(list) == 0:
		return nil
	case err != nil:
		return fmt.Errorf("%s cannot be written: %w", to, diag.Bare(err))
	}
	if _, err := os.Stat(filepath.Join(to, handoverMark)); err != nil && !force {
		return fmt.Errorf(
			"%s has files that are not of a handover: name another folder, or --force to write beside them",
			to,
		)
	}
	return nil
}

// fill writes the files of a book into a folder, takes away those of the last one that are not in it, and gives their
// bytes.
func fill(to string, book *handover.Book) (bytes int, err error) {
	was := handoverList(to)
	names := make([]string, 0, len(book.Files))
	for name := range book.Files {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		file := filepath.Join(to, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(file), 0o777); err != nil {
			return 0, fmt.Errorf("%s cannot be written: %w", to, diag.Bare(err))
		}
		if err := os.WriteFile(file, book.Files[name], 0o666); err != nil {
			return 0, fmt.Errorf("%s cannot be written: %w", file, diag.Bare(err))
		}
		bytes += len(book.Files[name])
	}
	for _, name := range was {
		if _, stays := book.Files[name]; !stays && filepath.IsLocal(filepath.FromSlash(name)) {
			_ = os.Remove(filepath.Join(to, filepath.FromSlash(name)))
		}
	}
	data, err := json.MarshalIndent(map[string]any{"files": names, "record": book.Record}, "", "  ")
	if err != nil {
		return 0, err
	}
	return bytes, os.WriteFile(filepath.Join(to, handoverMark), append(data, '\n'), 0o666)
}

// handoverList gives the files that an earlier handover wrote into a folder.
func handoverList(to string) []string {
	var doc struct{ Files []string }
	if data, err := os.ReadFile(filepath.Join(to, handoverMark)); err == nil {
		_ = json.Unmarshal(data, &doc) // a list that somebody has changed removes nothing
	}
	return doc.Files
}

// lastHandover reads what the last handover has kept, nil when there was none.
func lastHandover(dir string) (*handover.Last, error) {
	data, err := os.ReadFile(filepath.Join(dir, handoverMark))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	last := &handover.Last{Picture: func(file string) ([]byte, bool) {
		data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(file)))
		return data, err == nil
	}}
	if err := json.Unmarshal(data, &last.Record); err != nil {
		return nil, fmt.Errorf("%s cannot be read (%w): remove it, and the next handover is the first",
			filepath.Join(dir, handoverMark), err)
	}
	return last, nil
}

// keepHandover keeps what the next one is held against.
func keepHandover(dir string, book *handover.Book) error {
	if err := os.RemoveAll(dir); err != nil {
		return err
	}
	for name, data := range book.Files {
		if !strings.HasPrefix(name, "pictures/") {
			continue
		}
		file := filepath.Join(dir, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(file), 0o777); err != nil {
			return err
		}
		if err := os.WriteFile(file, data, 0o666); err != nil {
			return err
		}
	}
	data, err := json.MarshalIndent(book.Record, "", "  ")
	if err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o777); err != nil {
		return err
	}
	return os.WriteFile(filepath.Join(dir, handoverMark), append(data, '\n'), 0o666)
}
