package cli

import (
	"maps"
	"path"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
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
			return a.travel("took back", func(dir string) (site.Change, []string, error) { return site.Undo(dir, skip) })
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
	for _, f := range c.Files {
		if slices.Contains(kept, f.Path) {
			a.answer("%s: %s was changed by hand and stays", a.style.Warning("kept"), f.Path)
			continue
		}
		a.answer("%s in %s: %s", word, f.Path, c.Label)
	}
	after, err := enter(dir)
	if err != nil || a.quiet {
		return nil
	}
	before, problems, err := after.With(reversed(c))
	if err != nil || problems.Err() != nil {
		return nil
	}
	p := newPlan(before, storeOf(before))
	for _, name := range travelled(before, after, c) {
		if page := after.Site.Page(name); page != nil {
			if blocks := changedBlocks(before, after, page); len(blocks) > 0 {
				p.touch(name, blocks...)
			}
		}
	}
	p.touchShared(after)
	a.tellNotes(p.notes)
	a.moved(p.store, p.touched, before, after)
	return nil
}

// reversed gives the files of a step as they were before it was taken back, or done again.
func reversed(c site.Change) []site.FileChange {
	var out []site.FileChange
	for _, f := range c.Files {
		if c.Undone {
			out = append(out, site.FileChange{Path: f.Path, After: f.After, Gone: f.Gone})
		} else {
			out = append(out, site.FileChange{Path: f.Path, After: f.Before, Gone: f.New})
		}
	}
	return out
}

// travelled names the pages on which blocks may not be what they were before a step.
func travelled(before, after *compose.Env, c site.Change) []string {
	names := map[string]bool{}
	for _, f := range c.Files {
		switch dir, file := path.Split(f.Path); {
		case dir == "pages/":
			names[strings.TrimSuffix(file, ".yaml")] = true
		case f.Path == site.FileName:
			if words := mainWords(before.Site, after.Site); len(words) > 0 {
				for _, page := range after.Site.Mentioning(words...) {
					names[page.Name] = true
				}
			}
			if all := after.Site.PageNames(); len(all) > 0 {
				for _, n := range all[:min(len(all), mostShared)] {
					names[n] = true
				}
			}
		}
	}
	return slices.Sorted(maps.Keys(names))
}

// changedBlocks names the blocks of a page that are not what they were.
func changedBlocks(before, after *compose.Env, page *site.Page) []string {
	old := before.Site.Page(page.Name)
	var out []string
	for _, b := range after.Site.All(page) {
		var was *site.Block
		if old != nil {
			was = before.Site.Block(old, b.Name)
		}
		if was == nil || !was.Node.Equal(b.Node) {
			out = append(out, b.Name)
		}
	}
	return out
}
