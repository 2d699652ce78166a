package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/stock"
)

func (a *app) buildCmd() *cobra.Command {
	var force bool
	cmd := &cobra.Command{
		Use:   "build",
		Short: "Write the site as plain HTML and CSS files to built/",
		Long: `Build writes plain files that any web server can serve. Files in built/ that
somebody has changed by hand stay as they are, unless --force is given.`,
		Example: `  # write or update built/
  ziegel build

  # also replace files that were changed by hand
  ziegel build --force`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			dir, err := a.find()
			if err != nil {
				return err
			}
			unlock, err := a.lock(dir) // before the site is read: what is built is the newest
			if err != nil {
				return err
			}
			defer unlock()
			done := a.pass("read the site")
			e, err := enter(dir)
			if done(); err != nil {
				return err
			}
			w, n, err := a.build(e, dir, force)
			if err != nil {
				return err
			}
			a.answer("built %s: %d written, %d as before, %d removed in %s", diag.Plural(n, "file"), len(w.Changed),
				w.Same, len(w.Removed), filepath.Join(dir, "built"))
			a.warnOfTheme(e)
			for _, k := range w.Kept {
				a.answer("%s: built/%s was changed by hand and stays; `ziegel build --force` replaces it",
					a.style.Warning("kept"), k)
			}
			return nil
		},
	}
	cmd.Flags().BoolVar(&force, "force", false, "replace files in built/ that were changed by hand")
	return cmd
}

func (a *app) build(e *project.Project, dir string, force bool) (build.Written, int, error) {
	if len(e.Site.PageNames()) == 0 {
		return build.Written{}, 0,
			errors.New("the site has no pages yet; `ziegel add home hero/beside` makes the first")
	}
	var making *work
	var once sync.Once
	done := a.pass("what is known")
	known := lastBuild(e, dir)
	done()
	done = a.pass("make the files")
	last := build.ReadLast(dir)
	files, problems := build.Build(e, build.Options{Cache: build.CopyCache(dir), Known: known, Last: last,
		Maker: thisBuild(), Step: func(of int) {
			once.Do(func() { making = a.working("smaller copies of pictures", of) })
			making.step()
		}})
	if done(); making != nil {
		making.end()
	}
	if err := problems.Err(); err != nil {
		return build.Written{}, 0, err
	}
	for _, p := range problems {
		if p.Severity == diag.Warning {
			a.answer("%s", a.talk.Problem(p))
		}
	}
	known.tellFonts(a)
	defer a.pass("write")()
	w, err := build.Write(dir, files, last, force)
	if err == nil {
		known.pages.Save(e.BuiltPages())
	}
	return w, len(files), err
}

// built is what is kept of a page that was built.
type built struct {
	Made  build.Made
	Fonts []review.MissingFont
}

// buildMemory knows what the last build has made of which sources.
type buildMemory struct {
	env    *project.Project
	common string            // key of what is made from the site's file alone
	keys   map[string]string // of the pages
	pages  *store.Known[built]
	fonts  []review.MissingFont
}

func lastBuild(e *project.Project, dir string) *buildMemory {
	sources := compose.SourcesOf(e, thisBuild())
	return &buildMemory{env: e, common: sources.Common(), keys: sources.Keys(e.Site.PageNames()),
		pages: store.ReadKnown[built](storeOf(e), "built")}
}

// key names all that a page is made from; the page for addresses that do not exist is made from the site's file
// alone.
func (b *buildMemory) key(page string) string {
	if !b.env.Site.HasPage(page) {
		return b.common
	}
	return b.keys[page]
}

// Made gives what the last build made of a page.
func (b *buildMemory) Made(page string) (build.Made, bool) {
	was, ok := b.pages.Get(page, b.key(page))
	b.fonts = append(b.fonts, was.Fonts...)
	return was.Made, ok
}

// Keep remembers what was made of a page.
func (b *buildMemory) Keep(page string, m build.Made) {
	missing := review.MissingFonts(b.env.Only(b.env.BuiltPage(page)))
	b.fonts = append(b.fonts, missing...)
	b.pages.Put(page, b.key(page), built{m, missing})
}

// tellFonts tells of fonts that a style names and nothing brings, each once.
func (b *buildMemory) tellFonts(a *app) {
	told := map[string]bool{}
	for _, m := range b.fonts {
		if text := fmt.Sprintf("note: %s: %s", m.Pos, m.Text()); !told[text] {
			told[text] = true
			a.answer("%s", a.style.Wrap(text, 3))
		}
	}
}

func (a *app) demoCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "demo [DIR]",
		Short: "Write and build a finished site to look around in",
		Example: `  # writes ./larkspan, builds and checks it
  ziegel demo

  # somewhere else
  ziegel demo ~/sites/kites`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := "larkspan"
			if len(args) == 1 {
				dir = args[0]
			}
			if err := emptyDir(dir); err != nil {
				return err
			}
			if err := writeDemo(dir); err != nil {
				return err
			}
			e, err := openAt(dir)
			if err != nil {
				return err
			}
			if _, _, err := a.build(e, dir, false); err != nil {
				return err
			}
			list := pagesOf(e)
			a.answer("wrote and built %s", filepath.Join(dir, "built", "index.html"))
			reports, err := a.auditAll(list, 240, 2560)
			if err != nil {
				return err
			}
			for _, r := range reports {
				a.findings(r.Page, r.Findings)
			}
			a.verdict(reports)
			a.say("look at:  ziegel preview --site %s     the pages at three widths, live", dir)
			a.say("          ziegel stack home --site %s  how every block stacks", dir)
			a.say("          %s", filepath.Join(dir, "pages", "home.yaml"))
			return nil
		},
	}
}

// emptyDir refuses a folder that already holds something, and a name that is none.
func emptyDir(dir string) error {
	switch {
	case strings.TrimSpace(dir) == "":
		return errors.New("a folder needs a name: name one that is not there yet, such as larkspan")
	case !utf8.ValidString(dir) || strings.ContainsFunc(dir, unicode.IsControl):
		return fmt.Errorf("%q cannot be the name of a folder: use letters, digits and hyphens", dir)
	}
	list, err := os.ReadDir(filepath.Clean(dir)) // nope/.. is this folder
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return fmt.Errorf("write %s: %w", dir, diag.Bare(err))
	case len(list) > 0:
		return fmt.Errorf("the folder %s is not empty; nothing was written: name another one", dir)
	}
	return nil
}

// writeDemo writes the demo site, and of the shipped pictures those that it names, portraits all together.
func writeDemo(dir string) error {
	var named strings.Builder
	write := func(from, to string) error {
		data, err := fs.ReadFile(stock.Files, from)
		if err != nil {
			return err
		}
		if !strings.HasSuffix(from, ".svg") {
			named.Write(data)
		}
		if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(to)), data); err != nil {
			return fmt.Errorf("write %s: %w", dir, err)
		}
		return nil
	}
	err := fs.WalkDir(stock.Files, "demo", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		return write(p, p[len("demo/"):])
	})
	if err != nil {
		return err
	}
	for _, name := range media.List(stock.Files, project.SamplePictures) {
		if folder := path.Dir(name); !strings.Contains(named.String(), name) &&
			(folder == "." || !strings.Contains(named.String(), folder+"/")) {
			continue
		}
		if err := write(path.Join(project.SamplePictures, name), path.Join("media", name)); err != nil {
			return err
		}
	}
	return nil
}
