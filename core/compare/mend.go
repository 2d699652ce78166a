package compare

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/theme"
)

// Mender says which command gives a page what the design has. Without a page it says nothing.
type Mender struct {
	Page  string // of a site, "" for any other page
	Range string // the named range of widths that the width is in; "" to speak of all widths
	Theme *theme.Theme
	Dark  bool
}

// style gives the command that sets a property of a part.
func (m Mender) style(p *piece, property, value string, here bool) []string {
	if m.Page == "" || !strings.Contains(p.address, ".") && p.kind != block {
		return nil
	}
	address := p.address
	if p.kind == block {
		address += ".block"
	}
	out := []string{"style", m.Page + "/" + address, property + "=" + value}
	if here && m.Range != "" {
		out = append(out, "--at", m.Range)
	}
	return out
}

// toneOf gives the tone that an element stands on.
func toneOf(e *css.Element) string {
	for ; e != nil; e = e.Parent {
		for _, c := range e.Classes {
			if t, ok := strings.CutPrefix(c, "tone-"); ok {
				return t
			}
		}
	}
	return ""
}

// sameColor is up to where a measured color is that of a token, ΔE; sameInk of letters, whose edges mix with the
// ground.
const sameColor, sameInk = 1.5, 4

// color gives a color as a style takes it: by the role that has it in the tone of the part, else as measured.
func (m Mender) color(p *piece, c rgb, within float64) string {
	if role := m.role(toneOf(p.element), c, within); role != "" {
		return "{color." + role + "}"
	}
	return c.hex()
}

func (m Mender) role(tone string, c rgb, within float64) string {
	if m.Theme == nil || tone == "" {
		return ""
	}
	best, out := within, ""
	for _, role := range theme.Roles {
		if d, ok := m.apart(tone, role, c); ok && d < best {
			best, out = d, role
		}
	}
	return out
}

// apart gives how far a color is from that of a role, ΔE.
func (m Mender) apart(tone, role string, c rgb) (float64, bool) {
	var v rgb
	hex := m.Theme.Color(tone, role, m.Dark)
	if _, err := fmt.Sscanf(hex, "#%02x%02x%02x", &v[0], &v[1], &v[2]); err != nil {
		return 0, false
	}
	return deltaE(v, c), true
}

// ground gives the command for the color behind a box or a block: a block takes the tone that has it.
func (m Mender) ground(p *piece, c rgb) []string {
	if m.Page == "" {
		return nil
	}
	if p.kind == block && m.Theme != nil {
		for _, tone := range theme.Tones {
			if d, ok := m.apart(tone, "ground", c); ok && d < sameColor {
				return []string{"set", m.Page + "/" + p.address, "tone=" + tone}
			}
		}
	}
	return m.style(p, "background", m.color(p, c, sameColor), false)
}

// length writes a length as a style takes it.
func length(v float64) string {
	return strconv.FormatFloat(math.Round(v*4)/4, 'f', -1, 64) + "px"
}
