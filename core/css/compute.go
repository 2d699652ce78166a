package css

import "strings"

// agree reports whether two styles have the same values of all properties that change with the room.
func (spec *specified) agree(a, b *Style) bool {
	for i := range spec.setters {
		if pl := &spec.setters[i]; pl.fluid != 0 && (pl.prop.same == nil || !pl.prop.same(a, b)) {
			return false
		}
	}
	return true
}

// units gives the memory for computing a style, with the font of that style to ask.
func (s *Styler) units(st, parent *Style) *computing {
	c := &s.computing
	c.parent, s.measured = parent, st
	if c.face == nil && s.Face != nil {
		c.face = func() FaceUnits { return s.Face(s.measured) }
		c.rootFace = func() FaceUnits { return s.Face(&s.root) }
	}
	return c
}

// unitsAt gives what relative units come to for a size and a height of lines; cq is that of the nearest containers.
func (s *Styler) unitsAt(c *computing, st, font *Style, cq [2]float64) unitContext {
	zoom := st.ZoomFactor()
	own := zoom / s.media.zoom() // of the elements, beside that of the device
	return unitContext{face: c.face, rootFace: c.rootFace, fontSize: font.FontSize, lineHeight: s.lineHeight(font),
		rootSize: s.rootSize * own, rootLine: s.rootLine * own, vw: float64(s.media.Width) * zoom,
		vh: float64(s.media.Height) * zoom, cqw: cq[0], cqh: cq[1], zoom: st.Zoom}
}

// grown gives the parent of a zoomed element as it would be if it were zoomed, too, for values that follow from its
// font.
func (spec *specified) grown(parent *Style) *Style {
	if spec.zoom == 0 {
		return parent
	}
	out := *parent
	out.Inherited = parent.zoomed(spec.zoom)
	return &out
}

// compute turns specified values into computed ones.
func (s *Styler) compute(st *Style, spec *specified, parent *Style, cq [2]float64) {
	s.versions++
	*st = s.initial
	st.Version = s.versions
	st.spec = spec
	st.Inherited = parent.Inherited
	if spec.setsInherits {
		inh := *parent.Inherited
		st.Inherited = &inh
	}
	if spec.zoom != 0 {
		st.ownZoom = spec.zoom
		st.Inherited = parent.zoomed(spec.zoom)
	}
	if own := st.ZoomFactor() / s.initial.ZoomFactor(); own != 1 {
		for i := range st.BorderWidth {
			st.BorderWidth[i] *= own
		}
	}
	base := parent == &s.base
	parent = st.spec.grown(parent)
	c := s.units(st, parent)
	c.unitContext = s.unitsAt(c, st, parent, cq)
	phase := 0
	for i := range spec.setters {
		pl := &spec.setters[i]
		if pl.prop.first > phase {
			if phase == 0 {
				s.settleSize(st, parent, spec)
				c.fontSize = st.FontSize
			}
			phase = pl.prop.first
			if phase == 2 {
				s.adjustFrom(st)
				c.fontSize, c.lineHeight = st.FontSize, s.lineHeight(st)
			}
		}
		s.set(st, parent, pl, c)
	}
	if phase == 0 {
		s.settleSize(st, parent, spec)
	}
	if phase < 2 {
		s.adjustFrom(st)
	}
	s.adjust(st)
	if base && st.Mode != Horizontal { // told where it is matched
		inh := *st.Inherited
		inh.Mode = Horizontal
		st.Inherited = &inh
	}
	st.turn(parent.Mode.sides())
}

// adjustFrom asks the font of an element for the share that font-size-adjust: from-font keeps. What is inherited is the
// number (css-fonts-4, section 2.6).
func (s *Styler) adjustFrom(st *Style) {
	a := &st.Inherited.SizeAdjust
	if !a.FromFont || s.Face == nil {
		return
	}
	of := a.Of
	if *a = (SizeAdjust{}); st.FontSize == 0 {
		return
	}
	face := s.Face(st)
	shares := map[string]float64{"ex-height": face.X / st.FontSize, "cap-height": face.Cap / st.FontSize,
		"ch-width": face.ZeroShare, "ic-width": face.IdeographShare, "ic-height": face.IdeographShare}
	*a = SizeAdjust{Of: of, To: shares[of]}
}

// turn gives a style in which lines stand side by side as if they stood below each other, which is how such boxes are
// laid out: side i takes what sides[i] says.
func (st *Style) turn(sides [4]int) {
	if sides == Horizontal.sides() {
		return
	}
	w, margin, padding, width, line, inset := st, st.Margin, st.Padding, st.BorderWidth, st.BorderStyle, st.Inset
	for i, from := range sides {
		w.Margin[i], w.Padding[i], w.BorderWidth[i] = margin[from], padding[from], width[from]
		w.BorderStyle[i], w.Inset[i] = line[from], inset[from]
	}
	st.Width, st.Height = st.Height, st.Width
	st.MinW, st.MinH = st.MinH, st.MinW
	st.MaxW, st.MaxH = st.MaxH, st.MaxW
	st.ContainW, st.ContainH = st.ContainH, st.ContainW
	st.OverflowX, st.OverflowY = st.OverflowY, st.OverflowX
	if st.AspectRatio > 0 {
		st.AspectRatio = 1 / st.AspectRatio
	}
}

// back gives the sides that undo a turn.
func back(sides [4]int) (out [4]int) {
	for i, from := range sides {
		out[from] = i
	}
	return out
}

// setFluid computes the fluid values of a style for another width, those of the font first.
func (s *Styler) setFluid(st, parent *Style, cq [2]float64) {
	parent = st.spec.grown(parent)
	c := s.units(st, parent)
	c.unitContext = s.unitsAt(c, st, st, cq)
	sides := parent.Mode.sides()
	st.turn(back(sides))
	defer st.turn(sides)
	phase := 2
	if st.spec.fluidInherit {
		c.fontSize, c.lineHeight, phase = parent.FontSize, s.lineHeight(parent), 0
	}
	for i := range st.spec.setters {
		pl := &st.spec.setters[i]
		if pl.fluid == 0 {
			continue
		}
		if pl.prop.first > phase {
			if phase = pl.prop.first; phase == 2 {
				c.lineHeight = s.lineHeight(st)
			}
			c.fontSize = st.FontSize
		}
		s.set(st, parent, pl, c)
	}
}

func (s *Styler) set(st, parent *Style, pl *parsedLonghand, c *computing) {
	wide := pl.wide
	if wide == "unset" || wide == "revert" || wide == "revert-layer" {
		wide = "initial"
		if pl.prop.inherited {
			wide = "inherit"
		}
	}
	switch wide {
	case "":
		pl.set(st, c)
	case "inherit":
		pl.prop.copy(st, parent)
	case "initial":
		pl.prop.copy(st, &s.initial)
	}
}

// keywordSizes are the sizes of the keywords xx-small to xxx-large, px, and those in a lone monospace family
// (measured).
var keywordSizes = [2][8]float64{{9, 10, 13, 16, 18, 24, 32, 48}, {9, 10, 12, 13, 16, 20, 26, 39}}

func monospaced(s *Style) bool {
	return len(s.FontFamily) == 1 && strings.EqualFold(s.FontFamily[0], "monospace")
}

// settleSize gives a size that does not come from an absolute length another scale where a lone monospace family begins
// or ends: 13 of 16, and the keywords sizes of their own (measured).
func (s *Styler) settleSize(st, parent *Style, spec *specified) {
	if !spec.setsInherits {
		return
	}
	mono, was := monospaced(st), monospaced(parent)
	switch from := st.sizeFrom; {
	case from >= fromKeyword && (mono || was):
		table := 0
		if mono {
			table = 1
		}
		st.Inherited.FontSize = keywordSizes[table][from-fromKeyword] * st.ZoomFactor()
	case from == fromShare && mono != was && mono:
		st.Inherited.FontSize *= 13.0 / 16
	case from == fromShare && mono != was:
		st.Inherited.FontSize *= 16.0 / 13
	}
}

func (sr *Styler) lineHeight(s *Style) float64 {
	switch {
	case s.LineHeight.Normal && sr.Face != nil:
		return sr.Face(s).Line
	case s.LineHeight.Length:
		return s.LineHeight.Px
	case s.LineHeight.Normal:
		return s.FontSize * 1.2
	}
	return s.LineHeight.Number * s.FontSize
}

// adjust applies what CSS says of values that depend on each other.
func (s *Styler) adjust(st *Style) {
	scrolls := func(v string) bool { return v != "visible" && v != "clip" }
	if scrolls(st.OverflowX) != scrolls(st.OverflowY) {
		for _, o := range []*string{&st.OverflowX, &st.OverflowY} {
			switch *o {
			case "visible":
				*o = "auto"
			case "clip":
				*o = "hidden"
				st.Unscrolled = st.Unscrolled || o == &st.OverflowY
			}
		}
	}
	if st.Control && (st.Display == Table || st.Display == InlineTable) && st.OverflowY != "hidden" {
		st.Unscrolled = true // tables do not scroll (CSS 2, section 11.1.1)
	}
	for i, l := range []*Len{&st.Width, &st.MinW, &st.MaxW, &st.FlexBasis, &st.Height, &st.MinH, &st.MaxH} {
		if l.Fill {
			st.fill(l, i >= 4)
		}
	}
	if st.Display == ClampBox && (st.LineClamp == 0 || !st.BoxVertical) { // the first draft of flexbox
		st.OldBox = true
		st.Display, st.FlexWrap, st.FlexDirection = Flex, "nowrap", "row"
		if st.BoxVertical {
			st.FlexDirection = "column"
		}
	}
	if st.Control {
		st.Display = controlDisplay(st.Display)
	}
	if st.Outer == 0 || st.Display != Blockify(st.Outer) {
		st.Outer = st.Display
	}
	for i := range 4 {
		st.FluidEdges = st.FluidEdges || st.Margin[i].HasPercent() || st.Padding[i].HasPercent()
	}
	if st.Position == Absolute || st.Position == Fixed {
		st.Display, st.Float = Blockify(st.Display), 0
	}
	if st.Float != 0 {
		st.Display = Blockify(st.Display)
	}
	moved := !st.Translate[0].IsZero() || !st.Translate[1].IsZero() || st.Rotate != 0
	holdsFixed := moved || len(st.Transform) > 0 || st.Scale != [2]float64{1, 1} || st.Contains("layout") ||
		st.Contains("paint")
	if holdsFixed {
		st.MakesContaining = true
	}
}

// fill makes stretch to what it comes to: 100 % without the margins, and without borders and padding where the size is
// that of the content (css-sizing-4, section 6.1). Where a percentage cannot be resolved it is auto, too.
func (st *Style) fill(l *Len, block bool) {
	l.Pct, l.Px, l.Tree = 100, 0, nil
	sides := [2]int{Left, Right}
	if block {
		sides = [2]int{Top, Bottom}
	}
	for _, i := range sides {
		parts := []Len{st.Margin[i]}
		if !st.BorderBox {
			parts = append(parts, st.Padding[i])
			l.Px -= st.BorderPx(i).Float()
		}
		for _, p := range parts {
			if p.Kind == LenPx {
				l.Px, l.Pct = l.Px-p.Px, l.Pct-p.Pct
			}
		}
	}
}

// controlDisplay gives the display of what an author made look like a control: lines and parts of tables become a box
// in a line (measured).
func controlDisplay(d Display) Display {
	switch d {
	case Inline, InlineTable, TableRow, TableGroup, TableHeader, TableFooter, TableCell, TableCaption, TableColumn,
		TableColumnGroup:
		return InlineBlock
	case Table, ListItem:
		return Block
	}
	return d
}

// Blockify gives the block-level twin of a display value.
func Blockify(d Display) Display {
	switch d {
	case Inline, InlineBlock:
		return Block
	case InlineFlex:
		return Flex
	case InlineGrid:
		return Grid
	case InlineTable:
		return Table
	case TableRow, TableGroup, TableHeader, TableFooter, TableCell, TableCaption, TableColumn, TableColumnGroup:
		return Block
	}
	return d
}
