package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/ui/term"
)

// triedSections is what the last `try` was about.
type triedSections struct {
	Address  string   `json:"address"`
	Sections []string `json:"sections"`
}

const (
	triedSectionsFile = ".ziegel/try-sections.json"
	trySectionsSheet  = ".ziegel/try-sections.html"
)

func (a *app) tryCmd() *cobra.Command {
	var sheet string
	var take, at int
	var dry bool
	cmd := &cobra.Command{
		Use:   "try PAGE/BLOCK SECTION...",
		Short: "Alternatives in one place, with the real content, side by side",
		Long: `Try makes the block of each section in turn, in memory, and shows outlines side by
side, what differs in numbers, and a sheet to open in a browser. The block's
present section is the first. Nothing is written to the page until --take.`,
		Example: `  # how the opening would look in other forms
  ziegel try home/opening hero/over hero/under hero/alone

  # the second one
  ziegel try --take 2`,
		ValidArgsFunction: a.complete("block", "section"),
		RunE: func(_ *cobra.Command, args []string) error {
			if take > 0 {
				return a.takeSection(dry, take)
			}
			if len(args) < 2 {
				return errors.New("name a block and at least one section: ziegel try home/opening hero/over hero/under")
			}
			if err := checkSpan(at, at); err != nil {
				return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", at)
			}
			if err := a.mayWrite(sheet); err != nil {
				return err
			}
			return a.trySections(args[0], args[1:], sheet, at)
		},
	}
	cmd.Flags().StringVar(&sheet, "sheet", "", "the file to write (default try-sections.html in the site's cache)")
	a.forceFlag(cmd)
	cmd.Flags().IntVar(&take, "take", 0, "make the block of the section with this number")
	cmd.Flags().IntVar(&at, "at", 1280, "width of the outlines, CSS px")
	dryRunFlag(cmd, &dry)
	return a.jsonFlag(cmd)
}

// candidate is one section in the place of a block.
type candidate struct {
	Section string       `json:"section"`
	Heights []int        `json:"heights"`          // at 390 and 1280, CSS px
	Lines   []int        `json:"lines,omitempty"`  // of the heading there
	Stacks  []sweep.Span `json:"stacks,omitempty"` // over all widths
	Weight  int          `json:"weight"`           // bytes of HTML and CSS
	Parked  []string     `json:"parked,omitempty"`
	boxes   []sweep.OutlineBox
	page    *sweep.Prepared
	block   string
	html    string
}

func (a *app) trySections(where string, names []string, file string, at int) error {
	env, dir, err := a.open()
	if err != nil {
		return err
	}
	ad, err := address.OfBlock(where)
	if err != nil {
		return err
	}
	page, b, err := address.FindBlock(env, ad)
	if err != nil {
		return err
	}
	list := []string{b.Section}
	for _, n := range names {
		if env.Library.Section(n) == nil {
			return diag.Unknown("section", n, env.Library.Names(), "")
		}
		if n != b.Section {
			list = append(list, n)
		}
	}
	var out []candidate
	for _, n := range list {
		c, err := a.candidate(env, page, b, env.Library.Section(n), at)
		if err != nil {
			return fmt.Errorf("%s: %w", n, err)
		}
		out = append(out, c)
	}
	if file == "" {
		file = filepath.Join(dir, filepath.FromSlash(trySectionsSheet))
	}
	var alts []alternative
	for _, c := range out {
		alts = append(alts, alternative{Value: c.Section, Heights: c.Heights, html: c.html})
	}
	if err := a.save(file, []byte(trySheetHTML(page.Name+"/"+b.Name, alts))); err != nil {
		return err
	}
	keep, err := json.Marshal(triedSections{where, list})
	if err != nil {
		return err
	}
	if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(triedSectionsFile)), keep); err != nil {
		return err
	}
	if a.json {
		return a.writeJSON(map[string]any{"block": page.Name + "/" + b.Name, "candidates": out})
	}
	if a.style.Terminal {
		a.sideBySide(out, at)
	}
	for i, c := range out {
		line := fmt.Sprintf("%d  %s  %d px high at 390, %d px at 1280", i+1, c.Section, c.Heights[0], c.Heights[1])
		if len(c.Lines) == 2 && c.Lines[1] > 0 {
			line += fmt.Sprintf("; heading in %d and %s", c.Lines[0], diag.Plural(c.Lines[1], "line"))
		}
		line += fmt.Sprintf("; %s; %.1f kB", spansText(c.Stacks), float64(c.Weight)/1000)
		if len(c.Parked) > 0 {
			line += "; would park " + strings.Join(c.Parked, ", ")
		}
		if i == 0 {
			line += "; as it is"
		}
		a.say("%s", a.style.Wrap(line, 3))
	}
	a.say("side by side in %s; `ziegel try --take N` makes the block of one", file)
	return nil
}

// candidate works one section out; nothing is written.
func (a *app) candidate(env *project.Project, page *site.Page, b *site.Block, sec *library.Section,
	at int) (candidate, error) {
	c := candidate{Section: sec.Name}
	after := env
	if sec.Name != b.Section {
		p := edit.New(env, storeOf(env))
		edit.ReplaceSection(p, page, b, sec)
		c.Parked = p.Parked
		var err error
		if after, err = p.Trial(); err != nil {
			return c, err
		}
	}
	now := after.Site.Page(page.Name)
	s, err := check.Lay(after, now, []string{b.Name})
	if err != nil {
		return c, err
	}
	engine := s.Prepared.Engine()
	for _, w := range tryWidths {
		r := engine.Layout(w)
		if box := r.Of(s.Prepared.Block(b.Name).Element); box != nil {
			c.Heights = append(c.Heights, int(box.H.Float()+.5))
		}
		c.Lines = append(c.Lines, headingLines(s.Prepared, r))
	}
	c.boxes = s.Prepared.Outline(engine.Layout(at))
	c.page, c.block = s.Prepared, b.Name
	for _, x := range s.Prepared.Map(sweep.DefaultFrom, sweep.DefaultTo, nil) {
		if x.Name == b.Name {
			c.Stacks = x.Arrangements
		}
	}
	c.Weight = len(sec.HTML) + len(sec.CSS.Source)
	c.html, err = build.Alone(after, now, []string{b.Name})
	return c, err
}

// headingLines counts the lines of the block's heading.
func headingLines(l *sweep.Prepared, r *layout.Result) int {
	for _, e := range l.Doc.Elements {
		if e.Tag == "h1" || e.Tag == "h2" {
			if p := r.Of(e); p != nil {
				return p.Lines
			}
		}
	}
	return 0
}

// sideBySide draws the outlines of the candidates beside each other, as many as the terminal is wide enough for.
func (a *app) sideBySide(list []candidate, at int) {
	each := max(28, (a.style.Width-2)/len(list)-2)
	fit := max(1, a.style.Width/(each+2))
	for start := 0; start < len(list); start += fit {
		var columns [][]string
		for i, c := range list[start:min(start+fit, len(list))] {
			lines := append([]string{fmt.Sprintf("%d %s", start+i+1, c.Section)}, a.pictured(c, at, each)...)
			columns = append(columns, lines)
		}
		for _, l := range term.Beside(columns, each+2) {
			a.say("%s", l)
		}
	}
}

// pictured draws a candidate in cells: as a picture where the terminal has the colors, else as its boxes.
func (a *app) pictured(c candidate, at, columns int) []string {
	if term.TrueColor(a.out, a.style) && c.page != nil {
		if lines := halfBlocks(c.page, at, c.block, columns); lines != nil {
			return lines
		}
	}
	return term.Lines(at, columns, c.boxes)
}

// takeSection makes the block of one of the sections that were tried last.
func (a *app) takeSection(dry bool, n int) error {
	dir, err := a.find()
	if err != nil {
		return err
	}
	data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(triedSectionsFile)))
	var t triedSections
	if err != nil || json.Unmarshal(data, &t) != nil {
		return errors.New("nothing was tried yet: `ziegel try home/opening hero/over hero/under`")
	}
	if n > len(t.Sections) {
		return fmt.Errorf("there were %s: %s", diag.Plural(len(t.Sections), "section"),
			strings.Join(t.Sections, ", "))
	}
	return a.change(dry, func(p *edit.Plan) error { return edit.Replace(p, t.Address, t.Sections[n-1]) })
}
