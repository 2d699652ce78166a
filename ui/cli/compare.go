package cli

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/compare"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/stock"
	"ziegel/ui/report"
)

// comparing is what compare was asked for.
type comparing struct {
	at        int
	to, since string
	tolerance string
	scheme    string
}

func (a *app) compareCmd() *cobra.Command {
	o := &comparing{}
	cmd := &cobra.Command{
		Use:   "compare PAGE DESIGN.png|OTHER.html",
		Short: "Hold a page against a design, another page, or an earlier state",
		Long: `Compare lays a page out at one width and finds its parts in the picture of a
design: texts and pictures by what they look like, boxes by their edges. It lists
what differs in the order in which one would mend it: what is missing, colors,
sizes of type, sizes, distances between neighbours, positions; each with the
command that gives the page the design's value, where one does.

Against an HTML file it compares box by box, matched by text and structure.
--since compares with the page as git has it at a commit.

It ends with 1 when something differs by more than --tolerance.`,
		Example: `  # the page and its design, drawn at 1440 px (or at twice that)
  ziegel compare home design.png --at 1440

  # both pictures, one over the other, with a slider; what differs, marked
  ziegel compare home design.png --at 1440 --to overlay.html
  ziegel compare home design.png --at 1440 --to marked.png

  # up to 4 px and a ΔE of 5 count as the same
  ziegel compare home design.png --tolerance 4,5

  # another page; yesterday's state
  ziegel compare home old/index.html --at 1280
  ziegel compare home --since HEAD~1 --at 390`,
		Args: cobra.RangeArgs(1, 2), ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error { return a.compare(o, args) },
	}
	cmd.Flags().IntVar(&o.at, "at", 0, "screen width, CSS px (default: the design's, or 1280)")
	cmd.Flags().StringVar(&o.to, "to", "",
		"also write the comparison: .html (slider, blink, difference) or .png (marked)")
	cmd.Flags().StringVar(&o.since, "since", "", "compare with the page as git has it at a commit")
	cmd.Flags().StringVar(&o.tolerance, "tolerance", "1,2",
		"what counts as the same: CSS px, or CSS px and ΔE with a comma")
	cmd.Flags().StringVar(&o.scheme, "scheme", "light", "light or dark")
	a.forceFlag(cmd)
	return a.jsonFlag(cmd)
}

func (a *app) compare(o *comparing, args []string) error {
	t, err := parseTolerance(o.tolerance)
	if err != nil {
		return err
	}
	kind := strings.ToLower(filepath.Ext(o.to))
	switch {
	case o.to != "" && kind != ".html" && kind != ".png":
		return fmt.Errorf("--to %s: a comparison is a file that ends in .html or .png", o.to)
	case o.scheme != "light" && o.scheme != "dark":
		return fmt.Errorf("--scheme cannot be %q: use light or dark", o.scheme)
	case o.at < 0 || o.at > 20000:
		return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", o.at)
	case (o.since == "") == (len(args) == 1):
		return errors.New("compare a page with a design (ziegel compare home design.png), another page, or an earlier state (--since HEAD)")
	}
	if err := a.mayWrite(o.to); err != nil {
		return err
	}
	s, err := a.subject(args[0])
	if err != nil {
		return err
	}
	if s.Block != "" {
		return fmt.Errorf("compare holds whole pages against something: ziegel compare %s %s", s.Name,
			strings.Join(args[1:], ""))
	}
	r, err := a.compared(o, s, args[1:], t)
	if err != nil {
		return err
	}
	if err := a.writeCompared(o, kind, r); err != nil {
		return err
	}
	if a.json {
		if err := a.writeJSON(r); err != nil {
			return err
		}
	} else {
		a.sayCompared(r)
	}
	if len(r.Differences) > 0 {
		return errFindings
	}
	return nil
}

// compared holds the page against what was named.
func (a *app) compared(o *comparing, s *check.Subject, args []string, t compare.Tolerance) (*compare.Report, error) {
	look := draw.Look{Dark: o.scheme == "dark", Files: paint.NewFiles()}
	shot := func(s *check.Subject, width int) (*draw.Shot, error) {
		return draw.Of(s.Prepared, width, draw.Target{}, look)
	}
	width := o.at
	if len(args) == 1 && !htmlNamed(args[0]) {
		data, err := os.ReadFile(args[0])
		if err != nil {
			return nil, fmt.Errorf("read %s: %w", args[0], diag.Bare(err))
		}
		design, width, err := compare.Design(data, o.at)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", args[0], err)
		}
		ours, err := shot(s, width)
		if err != nil {
			return nil, err
		}
		return compare.WithPicture(ours, design, compare.Options{Against: filepath.Base(args[0]), Tolerance: t,
			Mender: a.mender(s, width, look.Dark)})
	}
	if width == 0 {
		width = 1280
	}
	var other *check.Subject
	against := "at " + o.since
	if o.since != "" {
		then, err := pagesAt(o.since, []*check.Subject{s})
		if err != nil {
			return nil, err
		}
		if len(then) == 0 {
			return nil, fmt.Errorf("--since %s: there was no page %s then", o.since, s.Name)
		}
		other = then[0]
	} else {
		var err error
		if other, err = a.subject(args[0]); err != nil {
			return nil, err
		}
		against = filepath.Base(args[0])
	}
	ours, err := shot(s, width)
	if err != nil {
		return nil, err
	}
	theirs, err := shot(other, width)
	if err != nil {
		return nil, err
	}
	return compare.WithPage(ours, theirs, compare.Options{Against: against, Tolerance: t,
		Mender: a.mender(s, width, look.Dark), ByAddress: o.since != ""})
}

// mender says what the commands of a comparison can speak of.
func (a *app) mender(s *check.Subject, width int, dark bool) compare.Mender {
	m := compare.Mender{Dark: dark}
	if s.Env == nil {
		return m
	}
	m.Page, m.Theme = s.Name, s.Env.Theme
	for _, r := range s.Env.Site.Ranges {
		if width >= r.From && (r.To == 0 || width <= r.To) {
			m.Range = r.Name
			break
		}
	}
	return m
}

// htmlNamed reports the name of an HTML file.
func htmlNamed(name string) bool {
	return slices.Contains([]string{".html", ".htm", ".xhtml"}, strings.ToLower(filepath.Ext(name)))
}

// parseTolerance reads CSS px, or CSS px and ΔE.
func parseTolerance(text string) (t compare.Tolerance, err error) {
	t = compare.DefaultTolerance
	length, color, both := strings.Cut(text, ",")
	if t.Px, err = strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(length), "px"), 64); err == nil && both {
		t.DeltaE, err = strconv.ParseFloat(strings.TrimSpace(color), 64)
	}
	outside := err != nil || !(t.Px >= 0 && t.Px <= 1000 && t.DeltaE >= 0 && t.DeltaE <= 100)
	if outside {
		return t, fmt.Errorf("--tolerance cannot be %q: give CSS px, or CSS px and ΔE, such as 2 or 2,3", text)
	}
	return t, nil
}

// sayCompared prints a comparison.
func (a *app) sayCompared(r *compare.Report) {
	var before []string
	for i, d := range r.Differences {
		name := d.Name
		if d.Address != "" {
			name = d.Address
		}
		if i == 0 || r.Differences[i-1].Kind != d.Kind {
			a.say("%s", a.style.Bold(string(d.Kind)))
		}
		a.say("%s", a.style.Wrap(fmt.Sprintf("  %s: %s", name, d.Text), 4))
		if len(d.Command) > 0 && !slices.Equal(before, d.Command) {
			a.say("%s", a.style.Dim("    ziegel "+strings.Join(quoteArgs(d.Command), " ")))
		}
		before = d.Command
	}
	for _, d := range r.Doubts {
		a.talkf("%s: %s", a.talk.Warning("note"), d)
	}
	a.say("%s and %s at %d px: %s", r.Page, r.Against, r.Width, report.Compared(r))
}

// writeCompared writes the overlay or the marked picture.
func (a *app) writeCompared(o *comparing, kind string, r *compare.Report) error {
	switch kind {
	case ".html":
		var b bytes.Buffer
		command := func(words []string) string { return "ziegel " + strings.Join(quoteArgs(words), " ") }
		if err := report.CompareHTML(&b, r, command); err != nil {
			return err
		}
		return a.save(o.to, b.Bytes())
	case ".png":
		fonts, err := draw.SheetFonts(stock.Files)
		if err != nil {
			return err
		}
		look := &drawing{to: o.to, at: "1280", scheme: "light", scale: 1}
		return a.writeSheet(look, "what differs", r.Sheet(layout.Options{Fonts: fonts}), paint.NewFiles())
	}
	return nil
}
