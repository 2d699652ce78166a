package edit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/edit"
	"ziegel/core/sweep"
)

// wayWords are the ways as the table below writes them.
var wayWords = map[sweep.Way]string{sweep.Height: "h", sweep.Width: "w", sweep.Down: "y", sweep.Across: "x",
	sweep.Shown: "shown", sweep.Hidden: "hidden"}

// shiftsOf writes down what an edit did to sizes, places and looks.
func shiftsOf(pages []edit.PageEffects) string {
	var out []string
	for _, p := range pages {
		for _, e := range p.Effects {
			switch e.Kind {
			case edit.Shifted:
				for _, s := range e.Shifts {
					var parts []string
					for _, x := range s.Parts {
						parts = append(parts, fmt.Sprintf("%s[%d] %s%+.0f", x.Part, x.Index, wayWords[x.How], x.By))
					}
					out = append(out, fmt.Sprintf("%d: %s, page %+.0f", s.At, strings.Join(parts, " "), s.Longer))
				}
			case edit.Mirrored:
				out = append(out, "mirrored "+strings.Join(e.Shifts[0].Mirrored[:], " left of "))
			case edit.Recolored:
				out = append(out, "recolored "+strings.Join(e.Parts, " ")+": "+strings.Join(e.Properties, " "))
			case edit.Restyled:
				out = append(out, "restyled "+strings.Join(e.Parts, " ")+": "+strings.Join(e.Properties, " "))
			}
		}
	}
	return strings.Join(out, "; ")
}

// What of a block has another size, stands elsewhere or looks different, without what follows from something else: a
// card that grows makes its row grow, a heading pushes what stands below it.
func TestWhatShifts(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps blocks before and after")
	}
	styled := func(of string, values ...string) func(p *edit.Plan) error {
		return func(p *edit.Plan) error {
			return edit.Style(p, append([]string{of}, values...), edit.Scope{Scope: "block", Of: "block"})
		}
	}
	for name, c := range map[string]struct {
		do   func(p *edit.Plan) error
		want string
	}{
		"a part in every card grows": {styled("home/reasons.title", "padding-block-end=20px"),
			"390: title[0] h+20, page +60; 768: title[0] h+20, page +60; 1280: title[0] h+20, page +20"},
		"one of them": {styled("home/reasons.title[2]", "padding-block-end=20px"),
			"390: title[2] h+20, page +20; 768: title[2] h+20, page +20; 1280: title[2] h+20, page +20"},
		"a card moves what stands below in it": {styled("home/reasons.icon", "position=relative", "left=7px"),
			"390: icon[0] x+7, page +0; 768: icon[0] x+7, page +0; 1280: icon[0] x+7, page +0"},
		"a picture changes sides": {func(p *edit.Plan) error {
			return edit.Set(p, "home/opening", []string{"options.media=left"}, edit.Pictures{}, nil)
		}, "mirrored media left of words"},
		"a color": {styled("home/plans.card", "background-color=#fffffe"), "recolored card: background-color"},
		"a shadow and corners": {styled("home/plans.card", "box-shadow=0 0 2px #000", "border-radius=33px"),
			"restyled card: border-radius box-shadow"},
		"something goes": {styled("home/reasons.icon", "display=none"), "icon[0] hidden"},
	} {
		t.Run(name, func(t *testing.T) {
			pages := effects(t, c.do)
			require.Len(t, pages, 1)
			assert.NotEmpty(t, pages[0].Widths)
			assert.False(t, pages[0].Still)
			assert.Contains(t, shiftsOf(pages), c.want)
		})
	}
}
