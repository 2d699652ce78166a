package cli

import (
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
)

func (a *app) undoCmd() *cobra.Command {
	var skip bool
	cmd := &cobra.Command{
		Use: "undo", Short: "Take the last edit back", Args: cobra.NoArgs,
		Example: `  # as often as you like
  ziegel undo

  # the last edit cannot be taken back, or shall stay: take back the one before it
  ziegel undo --skip`,
		RunE: func(*cobra.Command, []string) error {
			return a.travel("took back", func(dir string) (site.Change, []string,
				error) {
				return site.Undo(dir, skip)
			})
		},
	}
	cmd.Flags().BoolVar(&skip, "skip", false, "leave the last edit as it is and take back the one before it")
	return cmd
}

func (a *app) redoCmd() *cobra.Command {
	return &cobra.Command{
		Use: "redo", Short: "Do the edit again that was taken back", Args: cobra.NoArgs,
		Example: "  ziegel redo",
		RunE: func(*cobra.Command, []string) error {
			return a.travel("did again", func(dir string) (site.Change, []string, error) {
				c, err := site.Redo(dir)
				return c, nil, err
			})
		},
	}
}

func (a *app) travel(word string, step func(dir string) (site.Change, []string, error)) error {
	dir, err := a.find()
	if err != nil {
		return err
	}
	unlock, err := a.lock(dir)
	if err != nil {
		return err
	}
	c, kept, err := step(dir)
	unlock()
	if err != nil {
		return err
	}
	along := 0
	for _, f := range c.Files {
		if slices.Contains(kept, f.Path) {
			a.answer("%s: %s was changed by hand and stays", a.style.Warning("kept"), f.Path)
			continue
		}
		if strings.HasPrefix(f.Path, project.KeptFolder+"/") && strings.HasPrefix(c.Files[0].Path, "pages/") {
			along++ // what a page is made from goes with the page
			continue
		}
		a.answer("%s in %s: %s", word, f.Path, c.Label)
	}
	if along > 0 {
		a.answer("%s in %s/: %s", word, project.KeptFolder, diag.Plural(along, "file"))
	}
	after, err := a.enter(dir)
	if err != nil || a.quiet {
		return nil
	}
	before, problems, err := after.With(edit.Reversed(c))
	if err != nil || problems.Err() != nil {
		return nil
	}
	p := edit.New(before, storeOf(before))
	for _, name := range edit.Travelled(before, after, c) {
		if page := after.Site.Page(name); page != nil {
			if blocks := edit.ChangedBlocks(before, after, page); len(blocks) > 0 {
				p.Touch(name, blocks...)
			}
		}
	}
	p.TouchShared(after)
	a.tellNotes(p.Notes)
	a.moved(p.Store, p.Touched, before, after)
	return nil
}
