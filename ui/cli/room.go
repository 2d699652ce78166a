package cli

import (
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/site"
	"ziegel/core/stress"
)

func (a *app) roomCmd() *cobra.Command {
	var all bool
	var at []int
	cmd := &cobra.Command{
		Use:   "room PAGE/BLOCK FIELD",
		Short: "How many letters fit before another line, and before something breaks",
		Long: `Room answers a copywriter: how many letters of typical text, in the page's
language and font, a field holds at each range of screen widths.`,
		Example: `  # the heading of the opening
  ziegel room home/opening heading

  # one entry of a list, at a width of your own
  ziegel room home/plans items[2].title --at 320

  # every text of a block, or of the page
  ziegel room home/plans --all
  ziegel room home --all`,
		Args: cobra.RangeArgs(1, 2), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			for _, w := range at {
				if err := checkSpan(w, w); err != nil {
					return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", w)
				}
			}
			ad, err := address.OfBlock(args[0])
			if err != nil {
				return err
			}
			if len(args) == 1 && !all {
				return fmt.Errorf("which field? name one, such as heading, or give --all")
			}
			return a.room(ad, args[1:], at)
		},
	}
	cmd.Flags().BoolVar(&all, "all", false, "every text of the block or page")
	cmd.Flags().IntSliceVar(&at, "at", nil, "screen widths instead of one in each range, CSS px")
	return a.jsonFlag(cmd)
}

// usualWidths gives a usual width of each range of a site.
func usualWidths(s *site.Site) []stress.AtWidth {
	var out []stress.AtWidth
	for _, r := range s.Ranges {
		out = append(out, stress.AtWidth{Range: r.Name, Width: usualWidth(r)})
	}
	return out
}

// usualWidth is the width that stands for a range: that of a common screen, else its middle.
func usualWidth(r site.Range) int {
	for _, w := range []int{390, 820, 1440} {
		if w >= r.From && (r.To == 0 || w <= r.To) {
			return w
		}
	}
	if r.To == 0 {
		return r.From + 200
	}
	return (r.From + r.To) / 2
}

func (a *app) room(ad address.Address, fields []string, at []int) error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	if ad, err = ad.In(e); err != nil {
		return err
	}
	p, err := address.FindPage(e, ad.Page)
	if err != nil {
		return err
	}
	blocks := e.Site.All(p)
	if ad.Block != "" {
		_, b, err := address.FindBlock(e, ad)
		if err != nil {
			return err
		}
		blocks = []*site.Block{b}
	} else if len(fields) > 0 {
		return fmt.Errorf("%s is a page; name a block on it, such as %s", ad.Page, address.Example(e, p))
	}
	var places []stress.AtWidth
	for _, w := range at {
		places = append(places, stress.AtWidth{Width: w})
	}
	if len(at) == 0 {
		places = usualWidths(e.Site)
	}
	type row struct {
		Block string        `json:"block"`
		Field string        `json:"field"`
		Room  []stress.Room `json:"room"`
	}
	rows := []row{}
	var todo []row
	var of []*site.Block
	for _, b := range blocks {
		known := stress.TextFields(e, b)
		ask := known
		if len(fields) > 0 {
			ask = fields
		}
		for _, f := range ask {
			if !slices.Contains(known, f) {
				return diag.Unknown("text", f, known, fmt.Sprintf(" in %s/%s", ad.Page, b.Name))
			}
			todo, of = append(todo, row{Block: b.Name, Field: f}), append(of, b)
		}
	}
	const tries = 16 // about as many texts are tried at each width
	w := a.working("measuring room", len(todo)*len(places)*tries)
	defer w.end()
	errs := make([]error, len(todo))
	parallel.Each(runtime.GOMAXPROCS(0), len(todo), func(_, i int) bool {
		todo[i].Room, errs[i] = stress.RoomFor(e, stress.TextOf{Page: p, Block: of[i], Field: todo[i].Field}, places,
			w.step)
		return !w.stopped.Load()
	})
	for i, r := range todo {
		switch {
		case errs[i] == nil && r.Room != nil:
			rows = append(rows, r)
		case len(fields) > 0 && errs[i] != nil && !errors.Is(errs[i], stress.ErrStopped):
			return errs[i]
		} // hidden at one of the widths, or not looked at before the stop
	}
	w.end()
	if a.json {
		return a.writeJSON(map[string]any{"page": ad.Page, "fields": rows})
	}
	for _, r := range rows {
		a.say("%s", a.style.Bold(fmt.Sprintf("%s/%s %s", ad.Page, r.Block, r.Field))+
			a.style.Dim(fmt.Sprintf("  %s now", diag.Plural(r.Room[0].Now, "letter"))))
		for _, x := range r.Room {
			holds := fmt.Sprintf("%d before something breaks", x.Holds)
			if x.Holds >= stress.MostLetters {
				holds = fmt.Sprintf("nothing breaks up to %d", stress.MostLetters)
			}
			line := fmt.Sprintf("  %-8s %5d px   %s now, %3d letters before another, %s", x.Range, x.Width,
				lines(x.Lines), x.Fits, holds)
			a.say("%s", line)
			if x.Then != "" && len(rows) == 1 {
				a.say("%s", a.style.Wrap(a.style.Dim("                      then "+x.Then), 27))
			}
		}
	}
	return nil
}

func lines(n int) string { return fmt.Sprintf("%-7s", strings.TrimSpace(diag.Plural(n, "line"))) }
