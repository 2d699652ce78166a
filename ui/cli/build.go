package cli

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/store"
	"ziegel/core/sweep"
	"ziegel/core/words"
)

func (a *app) buildCmd() *cobra.Command {
	var force bool
	target := "server"
	cmd := &cobra.Command{
		Use:   "build",
		Short: "Write the site as plain HTML and CSS files to built/",
		Long: `Build writes plain files that any web server can serve, and closes with a verdict:
what is wrong, what still is a sample, links to nowhere, weight. It says of the
layout what the last check of a page found, and which pages have changed since.

For what others show of a page that is shared, ziegel.yaml has the address of the site
(address: https://larkspan.example). The picture is drawn of the page's opening, 1200 x
630 px, unless the site or the page names one: ziegel set home picture=delta.svg.

With mistakes in the content nothing is written, and the exit code is 1, unless
--force is given. Files in built/ that somebody has changed by hand stay as they
are, unless --force is given.`,
		Example: `  # write or update built/
  ziegel build

  # links that work when built/index.html is opened from disk
  ziegel build --for files

  # in spite of mistakes, and over files that were changed by hand
  ziegel build --force`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if targets := []string{"server", "files"}; !slices.Contains(targets, target) {
				return diag.Unknown("kind of build", target, targets, " for --for")
			}
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
			e, err := a.enter(dir)
			if done(); err != nil {
				return err
			}
			o, err := a.build(e, dir, build.Options{Force: force, Files: target == "files"})
			if err != nil {
				return err
			}
			return a.answerBuild(e, dir, o, force)
		},
	}
	cmd.Flags().
		BoolVar(&force, "force", false,
			"build in spite of mistakes, and over files in built/ that were changed by hand")
	a.nowFlag(cmd)
	cmd.Flags().StringVar(&target, "for", target, "server, or files: pages that are opened from disk")
	return cmd
}

// outcome is what came of a build.
type outcome struct {
	files    build.Files
	written  build.Written
	problems diag.Problems
	samples  int
	sampled  int // pages with samples
	heaviest string
	weight   int // of that page, with its styles and fonts, bytes
	weights  map[string]int
}

// answerBuild tells what was built, or why nothing was, and closes with a verdict.
func (a *app) answerBuild(e *project.Project, dir string, o *outcome, force bool) error {
	wrong := o.problems.Err()
	if wrong == nil || force {
		w := o.written
		a.answer("built %s: %d written, %d as before, %d removed in %s", diag.Plural(len(o.files), "file"),
			len(w.Changed), w.Same, len(w.Removed), filepath.Join(dir, "built"))
		a.warnOfTheme(e)
		for _, k := range w.Kept {
			a.answer("%s: built/%s was changed by hand and stays; `ziegel build --force` replaces it",
				a.style.Warning("kept"), k)
		}
	}
	if wrong != nil {
		a.tell(wrong)
	}
	a.tellRenamed(e)
	errs := a.buildVerdict(e, dir, o)
	if wrong != nil && !force {
		a.answer("nothing was written; `ziegel build --force` builds in spite of that")
	}
	if errs > 0 && !force {
		return errFindings
	}
	return nil
}

// buildVerdict closes a build, and gives how many errors there are.
func (a *app) buildVerdict(e *project.Project, dir string, o *outcome) int {
	nowhere, errs, warnings := 0, 0, 0
	for _, p := range o.problems {
		switch {
		case p.Rule == "dead-link" || p.Rule == "form-nowhere":
			nowhere++
		case p.Severity == diag.Warning:
			warnings++
		}
		if p.Severity == diag.Error {
			errs++
		}
	}
	foundErrs, foundWarnings, unknown := a.lastFound(e)
	errs, warnings = errs+foundErrs, warnings+foundWarnings
	var parts []string
	add := func(n int, text string) {
		if n > 0 {
			parts = append(parts, text)
		}
	}
	add(errs, diag.Plural(errs, "error"))
	add(warnings, diag.Plural(warnings, "warning"))
	add(nowhere, diag.Plural(nowhere, "link")+" to nowhere")
	add(o.samples, fmt.Sprintf("%s on %s (`ziegel todo`)", diag.Plural(o.samples, "sample"),
		diag.Plural(o.sampled, "page")))
	word := a.style.Good("fine")
	if len(unknown) > 0 {
		word += ", as far as is known" // the layout of some pages is not
	}
	if errs+warnings+nowhere > 0 {
		word = a.style.Error("found")
	}
	if len(parts) == 0 {
		parts = []string{"no errors, no samples, every link leads somewhere"}
	}
	weight := ""
	if bytes := sizeOf(filepath.Join(dir, "built"), o.files); bytes > 0 && o.heaviest != "" {
		weight = fmt.Sprintf("; %s in all, %s is %s with its styles and fonts", inBytes(bytes), o.heaviest,
			inBytes(o.weight))
	}
	a.answer("%s: %s%s", word, strings.Join(parts, ", "), weight)
	switch {
	case len(unknown) > 3:
		a.answer(
			"not looked at since they changed: %d pages; `ziegel check` lays them out at every width",
			len(unknown),
		)
	case len(unknown) > 0:
		a.answer(
			"not looked at since they changed: %s; `ziegel check` lays them out at every width",
			diag.And(unknown),
		)
	}
	return errs
}

// lastFound counts what the last checks found on pages that have not changed since, and names the others.
func (a *app) lastFound(e *project.Project) (errs, warnings int, unknown []string) {
	list := pagesOf(e)
	k := a.keeper(list, sweep.DefaultFrom, sweep.DefaultTo)
	reports := make([]*check.Report, len(list))
	parallel.Each(runtime.GOMAXPROCS(0), len(list), func(_, i int) bool {
		reports[i] = k.known(list[i])
		return true
	})
	used := make([]bool, len(e.Site.Accepted))
	for i, r := range reports {
		if r == nil {
			unknown = append(unknown, list[i].Name)
			continue
		}
		r.Accept(e.Site.Accepted, used)
		for _, f := range r.Findings {
			switch {
			case check.OfContent(f.Rule): // the build has told it
			case f.Severity == diag.Error:
				errs++
			case f.Severity == diag.Warning:
				warnings++
			}
		}
	}
	return errs, warnings, unknown
}

// sizeOf adds up the built files, bytes.
func sizeOf(dir string, files build.Files) int {
	sum := 0
	for name := range files {
		if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(name))); err == nil {
			sum += int(info.Size())
		}
	}
	return sum
}

func inBytes(n int) string {
	if n >= 1_000_000 {
		return fmt.Sprintf("%.1f MB", float64(n)/1_000_000)
	}
	return fmt.Sprintf("%d kB", (n+500)/1000)
}

// build makes and writes the files of a site. Mistakes in the content are part of the outcome, and then nothing is
// written unless it is forced; files that cannot be read are an error.
func (a *app) build(e *project.Project, dir string, opts build.Options) (*outcome, error) {
	if len(e.Site.PageNames()) == 0 {
		return nil, errors.New("the site has no pages yet; `ziegel add home hero/beside` makes the first")
	}
	var making *work
	var once sync.Once
	done := a.pass("what is known")
	known := lastBuild(e, dir, opts)
	done()
	done = a.pass("make the files")
	last := build.ReadLast(dir)
	o := &outcome{}
	pages := map[string]build.Made{}
	opts.Cache, opts.Known, opts.Last, opts.Maker = build.CopyCache(dir), known, last, thisBuild()
	opts.Step = func(of int) {
		once.Do(func() { making = a.working("smaller copies of pictures", of) })
		making.step()
	}
	opts.Each = func(page string, m build.Made) {
		pages[page] = m
		if !e.Site.HasPage(page) { // made for addresses that do not exist
			return
		}
		o.samples += m.Samples
		if m.Samples > 0 {
			o.sampled++
		}
	}
	o.files, o.problems = build.Build(e, opts)
	if done(); making != nil {
		making.end()
	}
	if err := o.problems.Err(); err != nil && !opts.Force {
		if len(o.files) == 0 {
			return nil, err
		}
		return o, nil
	}
	for _, p := range o.problems {
		if p.Severity == diag.Warning {
			a.answer("%s", a.talk.Problem(p))
		}
	}
	known.tellFonts(a)
	defer a.pass("write")()
	w, err := build.Write(dir, o.files, last, opts.Force)
	if o.written = w; err == nil {
		var all []string
		for _, page := range e.BuiltPages() {
			all = append(all, page)
			for _, tag := range words.Languages(e) {
				all = append(all, build.PageIn(page, tag))
			}
		}
		known.pages.Save(all)
		o.weigh(filepath.Join(dir, "built"), pages)
	}
	return o, err
}

// weigh finds the page that is heaviest, with its styles and fonts.
func (o *outcome) weigh(dir string, pages map[string]build.Made) {
	size := func(name string) int {
		info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(name)))
		if err != nil {
			return 0
		}
		return int(info.Size())
	}
	site := size("site.css")
	o.weights = map[string]int{}
	for name, m := range pages {
		sum := site
		for file := range m.Files {
			sum += size(file)
		}
		for _, f := range m.Fonts {
			sum += size("fonts/" + f.Name)
		}
		o.weights[name] = sum
		if sum > o.weight || sum == o.weight && name < o.heaviest {
			o.heaviest, o.weight = name, sum
		}
	}
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

func lastBuild(e *project.Project, dir string, opts build.Options) *buildMemory {
	sources := compose.SourcesOf(e, fmt.Sprint(thisBuild(), opts.Files))
	return &buildMemory{env: e, common: sources.Common(), keys: sources.Keys(e.Site.PageNames()),
		pages: store.ReadKnown[built](storeOf(e), "built")}
}

// key names all that a page is made from; the page for addresses that do not exist is made from the site's file
// alone.
func (b *buildMemory) key(page string) string {
	page, tag, translated := strings.Cut(page, "@")
	key := b.common
	if b.env.Site.HasPage(page) {
		key = b.keys[page]
	}
	if translated && key != "" {
		key += " " + tag
	}
	return key
}

// Made gives what the last build made of a page.
func (b *buildMemory) Made(page string) (build.Made, bool) {
	was, ok := b.pages.Get(page, b.key(page))
	b.fonts = append(b.fonts, was.Fonts...)
	return was.Made, ok
}

// Keep remembers what was made of a page.
func (b *buildMemory) Keep(page string, m build.Made) {
	name, _, _ := strings.Cut(page, "@")
	missing := review.MissingFonts(b.env.Only(b.env.BuiltPage(name)))
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
