package compare

// useOf is a role of a tone that some part shows.
type useOf struct{ tone, role string }

// tokens gives differences of color the command that changes the token behind them, where all parts that show a role of
// a tone differ alike: the value stands in one place.
func (d *differ) tokens() {
	if d.mender.Theme == nil || d.mender.Page == "" {
		return
	}
	same, color := map[useOf]bool{}, map[useOf]rgb{}
	uses := map[useOf][]int{} // differences
	for _, u := range d.shown {
		use := useOf{u.tone, d.mender.role(u.tone, u.ours, u.within)}
		switch {
		case use.role == "":
		case u.difference < 0:
			same[use] = true
		default:
			if c, ok := color[use]; ok && deltaE(c, u.theirs) > u.within {
				same[use] = true
			}
			color[use] = u.theirs
			uses[use] = append(uses[use], u.difference)
		}
	}
	for use, list := range uses {
		if same[use] || len(list) < 2 {
			continue
		}
		command := []string{"theme", "color." + use.tone + "." + use.role + "=" + d.plainest(list)}
		for _, i := range list {
			d.report.Differences[i].Command = command
		}
	}
}

// plainest gives the color of several that was measured on the largest flat area: a ground before letters.
func (d *differ) plainest(list []int) string {
	best := d.report.Differences[list[0]]
	for _, i := range list {
		if x := d.report.Differences[i]; x.Kind == Ground && (best.Kind != Ground ||
			x.Where.W()*x.Where.H() > best.Where.W()*best.Where.H()) {
			best = x
		}
	}
	return best.Theirs
}

// show keeps a color for tokens.
func (d *differ) show(p *piece, ours, theirs rgb, within float64, differs bool) {
	at := -1
	if differs {
		at = len(d.report.Differences) - 1
	}
	d.shown = append(d.shown, shownColor{toneOf(p.element), ours, theirs, within, at})
}
