// Package cli is the command line: one file a command, flags in, options out, results printed. It is the only user of
// Cobra.
package cli

import (
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"regexp"
	"runtime/debug"
	"strings"
	"syscall"
	"time"
	"unicode/utf8"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/ui/term"
)

// Run runs the program and returns its exit code: 0 fine, 1 findings of severity error, 2 the request or a file is
// wrong.
func Run(args []string, stdin io.Reader, stdout, stderr io.Writer) (code int) {
	debug.SetGCPercent(800) // runs are short: a larger heap costs less than collecting it often
	debug.SetMemoryLimit(softMemory)
	a := &app{stdin: stdin, out: stdout, err: stderr, args: args, again: Run}
	a.timing.begun = time.Now()
	defer a.sayTiming()
	stop := make(chan os.Signal, 1)
	signal.Notify(stop, os.Interrupt)
	go func() {
		for range stop {
			// it ends by itself and tells what is known
			if w := a.work.Load(); a.serving.Load() || w != nil && !w.stopped.Swap(true) {
				a.interrupted.Store(true)
				continue
			}
			fmt.Fprintln(stderr, "stopped; every file is whole, old or new")
			os.Exit(exitWrong)
		}
	}()
	// a mistake of the program's own ends as a sentence; files are whole, because each is written at once
	defer func() {
		if r := recover(); r != nil {
			fmt.Fprintf(
				stderr,
				"%s: the program has failed in `ziegel %s`: %v. Nothing is half written; ziegel undo takes back what was\n",
				a.talk.Error("error"),
				strings.Join(quoteArgs(args), " "),
				r,
			)
			if os.Getenv("ZIEGEL_TRACE") != "" {
				stack := debug.Stack()
				if p, ok := r.(*parallel.Panic); ok {
					stack = p.Stack
				}
				fmt.Fprintf(stderr, "%s", stack)
			}
			code = exitWrong
		}
	}()
	for i, arg := range args {
		if _, err := os.Lstat(arg); err != nil && !utf8.ValidString(arg) {
			fmt.Fprintf(stderr, "error: argument %d (%+q) is no text in UTF-8\n", i+1, arg)
			return exitWrong
		}
	}
	root := a.root()
	root.SetArgs(args)
	root.SetIn(stdin)
	root.SetOut(stdout)
	root.SetErr(stderr)
	a.style, a.talk = term.NewStyle(stdout, ""), term.NewStyle(stderr, "")
	err := root.Execute()
	switch {
	case err == nil && a.unsaid != nil && !errors.Is(a.unsaid, syscall.EPIPE): // who reads no further has seen enough
		a.tell(fmt.Errorf("the answer cannot be printed: %w", diag.Bare(a.unsaid)))
		return exitWrong
	case err == nil:
		return a.exit
	case errors.Is(err, errFindings):
		return exitFindings
	}
	a.tell(err)
	return exitWrong
}

func (a *app) root() *cobra.Command {
	root := &cobra.Command{
		Use:   "ziegel",
		Short: "Assemble a page from ready-made sections and know how every block stacks",
		Long: `Ziegel assembles pages from ready-made sections, makes words and looks your
own, and knows how every block stacks at every screen width, without a browser.

An address names a page, a block on it, a part of the block:
  home    home/plans    home/plans.card    home/plans.card[2]`,
		Example: `  # a finished site to look around in
  ziegel demo

  # a site of your own
  ziegel new larkspan --brief "nav, opening with picture, reasons, plans, footer"
  ziegel set home/opening heading="Made for _real_ wind"
  ziegel style home/plans.card padding=2rem --at phone
  ziegel stack home
  ziegel check home
  ziegel build`,
		SilenceUsage:  true,
		SilenceErrors: true,
		PersistentPreRunE: func(cmd *cobra.Command, _ []string) error {
			if a.color != "auto" && a.color != "always" && a.color != "never" {
				return fmt.Errorf("--color cannot be %q: use auto, always or never", a.color)
			}
			if _, err := time.Parse(time.DateOnly, a.now); a.now != "" && err != nil {
				return fmt.Errorf("--now %q is no day: write it as 2026-12-01", a.now)
			}
			a.style, a.talk = term.NewStyle(a.out, a.color), term.NewStyle(a.err, a.color)
			return nil
		},
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error { return cmd.Help() },
	}
	root.CompletionOptions.DisableDefaultCmd = true
	p := root.PersistentFlags()
	p.StringVar(&a.siteDir, "site", os.Getenv("ZIEGEL_SITE"), "folder of the site (default: found from here upwards)")
	p.StringVar(&a.language, "language", "", "look at the site in this one of its languages")
	p.BoolVar(&a.quiet, "quiet", false, "say nothing but errors")
	p.StringVar(&a.color, "color", "auto", "auto, always or never")
	p.BoolVar(&a.timing.on, "timing", false, "tell how long each pass takes")
	_ = p.MarkHidden("timing")
	root.SetFlagErrorFunc(func(cmd *cobra.Command, err error) error { return flagError(cmd, err) })
	p.BoolP("help", "h", false, "this text")
	group := func(id, title string, list ...*cobra.Command) {
		root.AddGroup(&cobra.Group{ID: id, Title: title})
		for _, c := range list {
			c.GroupID = id
			root.AddCommand(c)
		}
	}
	group("begin", "Begin", a.demoCmd(), a.newCmd(), a.importCmd(), a.pageCmd())
	group(
		"assemble",
		"Assemble",
		a.sectionsCmd(),
		a.addCmd(),
		a.replaceCmd(),
		a.tryCmd(),
		a.moveCmd(),
		a.orderCmd(),
		a.copyCmd(),
		a.renameCmd(),
		a.removeCmd(),
		a.keepCmd(),
		a.outdatedCmd(),
		a.updateCmd(),
		a.undoCmd(),
		a.redoCmd(),
	)
	group("fill", "Fill in", a.setCmd(), a.wordsCmd(), a.iconsCmd(), a.showCmd(), a.todoCmd())
	group("bend", "Bend the looks", a.styleCmd(), a.themeCmd(), a.rangesCmd())
	group(
		"know",
		"Know how it stacks",
		a.stackCmd(),
		a.checkCmd(),
		a.explainCmd(),
		a.roomCmd(),
		a.sketchCmd(),
		a.measureCmd(),
	)
	group(
		"out",
		"Look at it, hand it out",
		a.drawCmd(),
		a.compareCmd(),
		a.previewCmd(),
		a.shareCmd(),
		a.handoverCmd(),
		a.buildCmd(),
		a.publishCmd(),
	)
	group("more", "The program", a.schemaCmd(), a.versionCmd(), completionCmd(), helpCmd())
	root.SetHelpCommandGroupID("more")
	root.SetUsageTemplate(usage)
	return root
}

// flagError adds the nearest flag name.
func flagError(cmd *cobra.Command, err error) error {
	text := err.Error()
	if name, ok := strings.CutPrefix(text, "unknown flag: --"); ok {
		var names []string
		collect := func(f *pflag.Flag) { names = append(names, f.Name) }
		cmd.Flags().VisitAll(collect)
		cmd.InheritedFlags().VisitAll(collect)
		if near := diag.Nearest(name, names); near != "" {
			return fmt.Errorf("unknown flag --%s for %s; did you mean --%s? (`%s --help`)", name, cmd.CommandPath(),
				near, cmd.CommandPath())
		}
		return fmt.Errorf("unknown flag --%s for %s (`%s --help` lists them)", name, cmd.CommandPath(),
			cmd.CommandPath())
	}
	switch m := badFlag.FindStringSubmatch(text); {
	case m == nil:
	case m[1] != "":
		kind := "another value"
		for word, what := range map[string]string{"ParseInt": "a whole number", "Atoi": "a whole number",
			"ParseFloat": "a number",
			"ParseBool":  "true or false"} {
			if strings.Contains(text, word) {
				kind = what
			}
		}
		text = fmt.Sprintf("%s cannot be %q: it takes %s", m[2], m[1], kind)
	case m[3] != "":
		text = fmt.Sprintf("there is no flag -%s; flags are words, such as --help", m[3])
	default:
		text = m[4] + " needs a value"
	}
	return fmt.Errorf("%s (`%s --help`)", text, cmd.CommandPath())
}

// badFlag is how the flag parser words values that cannot be read, letters that are no flags, and missing values.
var badFlag = regexp.MustCompile(
	`^(?:invalid argument "(.*)" for "(?:-\w, )?(--[^"]+)" flag: .*|unknown shorthand flag: '(.)' in .*|flag needs an argument: (?:'.' in )?(\S+))$`,
)
