package css

// modes are the values of writing-mode, with those of old drafts.
var modes = map[string]Mode{"horizontal-tb": Horizontal, "lr": Horizontal, "lr-tb": Horizontal, "rl": Horizontal,
	"rl-tb":       Horizontal,
	"vertical-rl": VerticalRL, "tb": VerticalRL, "tb-rl": VerticalRL, "sideways-rl": SidewaysRL, "vertical-lr": VerticalLR,
	"tb-lr": VerticalLR, "sideways-lr": SidewaysLR}

// Central reports lines in which text stands by the middle of its letters (section 4.2).
func (m Mode) Central() bool { return m == VerticalRL || m == VerticalLR }

// sides gives for each side of a box in its own coordinates (lines below each other) the side where it is seen.
func (m Mode) sides() [4]int {
	switch m {
	case VerticalRL, SidewaysRL:
		return [4]int{Top: Right, Right: Bottom, Bottom: Left, Left: Top}
	case VerticalLR:
		return [4]int{Top: Left, Right: Bottom, Bottom: Right, Left: Top}
	case SidewaysLR:
		return [4]int{Top: Left, Right: Top, Bottom: Right, Left: Bottom}
	}
	return [4]int{Top: Top, Right: Right, Bottom: Bottom, Left: Left}
}
