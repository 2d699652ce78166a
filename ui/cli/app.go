package cli

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/schollz/progressbar/v3"
	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/words"
	"ziegel/stock"
	"ziegel/ui/term"
)

// app is one run of the program.
type app struct {
	fresh    bool // reports are made anew, not taken from the cache
	stdin    io.Reader
	out, err io.Writer
	style    term.Style // of standard output
	talk     term.Style // of standard error
	args     []string

	timing   timing
	missing  sync.Map // of sites: what missingFonts found, by *project.Project
	unsaid   error    // part of the answer could not be printed
	siteDir  string
	now      string // the day that a build is made, as 2026-12-01, "" for today
	alone    bool   // pages are looked at in their own language alone
	language string // to look at the site in, "" for that of the page files
	json     bool
	all      bool // --all: more than the first ten
	quiet    bool
	// again runs another command, as its own program would
	again       func(args []string, stdin io.Reader, stdout, stderr io.Writer) int
	anyway      bool // --force of theme
	overwrite   bool // --force of what writes outputs
	color       string
	exit        int
	work        atomic.Pointer[work]
	interrupted atomic.Bool // some work was ended before it was done
	serving     atomic.Bool // a server ends by itself when interrupted
}

// Exit codes.
const (
	exitFine     = 0
	exitFindings = 1
	exitWrong    = 2
)

// softMemory is from where on memory is collected as it is needed, bytes.
const softMemory = 240 << 20

// errFindings ends a command that has told its findings.
var errFindings = errors.New("findings")

// say prints part of the answer.
func (a *app) say(format string, args ...any) {
	if _, err := fmt.Fprintf(a.out, format+"\n", args...); err != nil && a.unsaid == nil {
		a.unsaid = err
	}
}

// answer prints part of the answer of an editing command, unless quiet.
func (a *app) answer(format string, args ...any) {
	if !a.quiet {
		a.say(format, args...)
	}
}

// talkf prints part of the conversation, unless quiet.
func (a *app) talkf(format string, args ...any) {
	if !a.quiet {
		fmt.Fprintf(a.err, format+"\n", args...)
	}
}

// writeJSON prints one document.
func (a *app) writeJSON(v any) error {
	enc := json.NewEncoder(a.out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	return enc.Encode(v)
}

// nowFlag adds --now to a command that makes pages.
func (a *app) nowFlag(cmd *cobra.Command) {
	cmd.Flags().StringVar(&a.now, "now", "",
		"the day of the build, such as 2026-12-01: what {year} in a text says (default today)")
}

// jsonFlag adds --json to a reading command.
func (a *app) jsonFlag(cmd *cobra.Command) *cobra.Command {
	cmd.Flags().BoolVar(&a.json, "json", false, "print one JSON document")
	return cmd
}

// find locates the site. A step that was interrupted in it is put right first.
func (a *app) find() (string, error) {
	dir, err := a.locate()
	if err == nil && site.Interrupted(dir) {
		var unlock func()
		if unlock, err = a.lock(dir); err == nil {
			unlock()
		}
	}
	return dir, err
}

// lock waits until no other process edits the site, and tells what a killed one has left.
func (a *app) lock(dir string) (func(), error) {
	unlock, told, err := site.Lock(dir)
	if told != "" {
		a.talkf("%s: %s", a.talk.Warning("note"), told)
	}
	return unlock, err
}

func (a *app) locate() (string, error) {
	if a.siteDir != "" {
		if _, err := os.Stat(filepath.Join(a.siteDir, site.FileName)); err != nil {
			return "", fmt.Errorf("%w: there is no %s in %s", site.ErrNoSite, site.FileName, a.siteDir)
		}
		return a.siteDir, nil
	}
	return site.Find(".")
}

// open reads the site, with the pages that are asked for; mistakes in its file are an error, those in a page are told
// by findPage.
func (a *app) open() (*project.Project, string, error) {
	dir, err := a.find()
	if err != nil {
		return nil, "", err
	}
	defer a.pass("read the site")()
	e, err := a.enter(dir)
	if err == nil {
		e, err = a.inLanguage(e)
	}
	return e, dir, err
}

// inLanguage gives the site in the language that was asked for.
func (a *app) inLanguage(e *project.Project) (*project.Project, error) {
	if a.language == "" || a.language == e.Site.Language && len(e.Site.Languages) == 0 {
		return e, nil
	}
	if !slices.Contains(e.Site.Languages, a.language) {
		if len(e.Site.Languages) == 0 {
			return nil, fmt.Errorf("the site speaks %s alone; languages: [%s, %s] in ziegel.yaml adds one",
				e.Site.Language,
				e.Site.Language, a.language)
		}
		return nil, diag.Unknown("language", a.language, e.Site.Languages, " of the site")
	}
	return words.In(e, a.language), nil
}

// openWhole reads the site with all its pages; mistakes in any file are an error.
func (a *app) openWhole() (*project.Project, string, error) {
	dir, err := a.find()
	if err != nil {
		return nil, "", err
	}
	defer a.pass("read the site")()
	e, err := a.openAt(dir)
	if err == nil {
		e, err = a.inLanguage(e)
	}
	return e, dir, err
}

func (a *app) enter(dir string) (*project.Project, error) {
	e, problems, err := project.Enter(dir, stock.Files)
	if err != nil {
		return nil, err
	}
	e.Memory, e.Today = storeOf(e), a.today()
	return e, problems.Err()
}

func (a *app) openAt(dir string) (*project.Project, error) {
	e, problems, err := project.Open(dir, stock.Files)
	if err != nil {
		return nil, err
	}
	e.Memory, e.Today = storeOf(e), a.today()
	return e, problems.Err()
}

// today is the day of --now, for builds that are to be the same again, else this one.
func (a *app) today() string { return cmp.Or(a.now, time.Now().Format(time.DateOnly)) }

// timing adds up how long the passes of a run take. The zero value measures nothing.
type timing struct {
	on    bool
	begun time.Time
	mu    sync.Mutex
	order []string
	took  map[string]time.Duration
	times map[string]int
}

// work is something that may take a while: it shows how far it is on a terminal, and ends early when the user
// interrupts it.
type work struct {
	a       *app
	what    string
	total   int
	done    atomic.Int64
	stopped atomic.Bool
	mu      sync.Mutex
	bar     *progressbar.ProgressBar
	begun   time.Time
	ended   bool
}

// storeOf is where a site keeps its reports.
func storeOf(e *project.Project) store.Store {
	return store.Store{Dir: filepath.Join(e.Site.Dir, ".ziegel", "cache"), Version: thisBuild()}
}

// thisBuild tells this program from any other one: what another one has kept may not be what this one would find.
var thisBuild = sync.OnceValue(func() string {
	id := version
	if file, err := os.Executable(); err == nil {
		if info, err := os.Stat(file); err == nil {
			id += fmt.Sprintf(" %d %d", info.Size(), info.ModTime().UnixNano())
		}
	}
	return id
})

const version = "0.1.0"

// pass begins one; the returned function ends it. Passes that run at the same time are added up.
func (a *app) pass(name string) func() {
	t := &a.timing
	if !t.on {
		return func() {}
	}
	start := time.Now()
	return func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		if t.took == nil {
			t.took, t.times = map[string]time.Duration{}, map[string]int{}
		}
		if t.times[name] == 0 {
			t.order = append(t.order, name)
		}
		t.took[name] += time.Since(start)
		t.times[name]++
	}
}

// sayTiming prints one line a pass.
func (a *app) sayTiming() {
	t := &a.timing
	if !t.on {
		return
	}
	for _, n := range t.order {
		fmt.Fprintf(a.err, "%-24s %9.1f ms  %d times\n", n, float64(t.took[n].Microseconds())/1000, t.times[n])
	}
	fmt.Fprintf(a.err, "%-24s %9.1f ms\n", "the whole command", float64(time.Since(t.begun).Microseconds())/1000)
}

// tell prints an error on standard error.
func (a *app) tell(err error) {
	var problems diag.Problems
	var one diag.Problem
	switch {
	case errors.As(err, &problems):
		const most = 50
		for i, p := range problems {
			if i == most {
				fmt.Fprintf(a.err, "... and %d more\n", len(problems)-most)
				break
			}
			fmt.Fprintln(a.err, a.talk.Problem(p))
		}
	case errors.As(err, &one):
		fmt.Fprintln(a.err, a.talk.Problem(one))
	default:
		text := strings.TrimSuffix(err.Error(), "\n")
		if m := howMany.FindStringSubmatch(text); m != nil {
			noun := "arguments"
			if strings.HasSuffix(m[1], "1") {
				noun = "argument"
			}
			text = fmt.Sprintf("this takes %s %s and got %s", m[1], noun, m[2])
			fmt.Fprintln(a.err, a.talk.Error("error")+": "+text+"; `ziegel "+firstWord(a.args)+" --help` shows how")
			return
		}
		if m := noArguments.FindStringSubmatch(text); m != nil {
			text = fmt.Sprintf("ziegel %s takes no arguments, and got %q first", m[2], m[1])
		}
		if m := together.FindStringSubmatch(text); m != nil {
			text = "--" + strings.Join(strings.Fields(m[1]), " and --") + " cannot be given together"
		}
		fmt.Fprintln(a.err, a.talk.Error("error")+": "+text)
		if strings.HasPrefix(text, "unknown flag") || strings.HasPrefix(text, "unknown command") ||
			strings.HasPrefix(text, "unknown shorthand") {
			fmt.Fprintln(a.err, "   see:      ziegel --help")
		}
		if errors.Is(err, site.ErrNoSite) {
			fmt.Fprintln(a.err,
				"   expected: a folder with ziegel.yaml, or --site DIR\n   try:      ziegel new DIR, or ziegel demo")
		}
	}
}

func firstWord(args []string) string {
	for _, a := range args {
		if !strings.HasPrefix(a, "-") {
			return a
		}
	}
	return ""
}

// howMany is how Cobra words a wrong number of arguments.
var howMany = regexp.MustCompile(`^(?:accepts|requires) (.*) arg\(s\), (?:only )?received (\d+)$`)

// noArguments is how Cobra words an argument of a command that takes none.
var noArguments = regexp.MustCompile(`^unknown command "(.*)" for "ziegel (\S+)"$`)

// together is how Cobra words flags that exclude each other.
var together = regexp.MustCompile(`^if any flags in the group .* are set none of the others can be; \[(.*)\] were all set$`)
