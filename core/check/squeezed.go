package check

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
)

// leastOfDrawing is how much of its width a drawing is to keep: 2 px of an icon are not seen.
const leastOfDrawing = .9

// squeezed: a drawing in a row gives way, down to nothing. Browsers let it, since what is in a drawing asks for no room
// (css-flexbox-1, section 4.5: overflow is hidden there).
var squeezed = rule{
	name: "drawing-squeezed", severity: diag.Warning,
	what:  "a drawing in a row gives way to what is beside it, and is narrower than it is to be",
	looks: "drawings in the page (svg) with a width of their own, in rows",
	not:   "drawings as wide as a share of the room, and those that may not shrink",
	limit: bound{leastOfDrawing, "of its width"},
	remedies: []Remedy{
		{CSS: "flex-shrink=0"},
	},
	look: boxes("flex-shrink", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		asked := askedOfRow(r, p)
		if asked == 0 {
			return 0, 0
		}
		shown := p.W.Float()
		return shown / asked, asked*s.limit("drawing-squeezed", p.Element) - shown
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s has %.0f %% of its width left: what is beside it takes the rest", name, worst.value*100)
	},
	cure: func(part string, _ hit) string { return part + ": {flex-shrink: 0}" },
}

// askedOfRow gives the width that a drawing asks for in a row in which it may shrink, CSS px; 0 for all else.
func askedOfRow(r *layout.Result, p *layout.Fragment) float64 {
	st := p.Style
	noIcon := p.Element.Tag != "svg" || !st.Visible || st.FlexShrink == 0 || !st.FlexBasis.IsAuto() ||
		p.Element.Parent == nil
	if noIcon {
		return 0
	}
	row := r.Of(p.Element.Parent)
	noRow := row == nil || row.Style.Display != css.Flex && row.Style.Display != css.InlineFlex ||
		row.Style.FlexDirection != "row" && row.Style.FlexDirection != "row-reverse"
	if noRow {
		return 0
	}
	if st.Position == css.Absolute || st.Position == css.Fixed || st.Width.Kind != css.LenPx || st.Width.HasPercent() {
		return 0
	}
	asked := st.Width.Resolve(0)
	if m := st.MaxW; m.Kind == css.LenPx {
		asked = min(asked, m.Resolve(row.Content.W))
	}
	return asked.Float()
}
