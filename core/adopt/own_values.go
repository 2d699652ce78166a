package adopt

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/theme"
)

// The values of a section that was made of a band: roles for colors, tokens for lengths.

// value writes a value as a section has it; ok is false for one that it does not take.
func (m *maker) value(e *css.Element, name, value string, f *layout.Fragment) (string, bool) {
	switch {
	case strings.Contains(value, "url("):
		m.tellOnce("pictures under boxes are gone: a block's ground takes one")
		return "", false
	case name == "position" && value == "fixed":
		m.tellOnce("what was fixed to the screen stands in the section")
		return "", false
	case (name == "height" || name == "min-height") && fixed(value) && !replacedTags[e.Tag] && m.text(e):
		m.tellOnce("fixed heights of boxes with text are gone")
		return "", false
	case name == "width" && fixed(value) && !replacedTags[e.Tag]:
		return "min(100%, " + m.lengths(name, value) + ")", true
	}
	if colored(name) {
		if c, ok := css.ParseColor(css.Tokenize(value), css.ColorContext{}); ok {
			return m.color(e, name, c), true
		}
	}
	return m.lengths(name, value), true
}

var replacedTags = map[string]bool{
	"img":      true,
	"svg":      true,
	"video":    true,
	"iframe":   true,
	"input":    true,
	"textarea": true,
	"canvas":   true,
	"hr":       true,
}

var fixedForm = regexp.MustCompile(`^[\d.]+(px|rem|em|pt)$`)

func fixed(value string) bool { return fixedForm.MatchString(value) && value != "0px" }

func colored(name string) bool { return name == "color" || strings.HasSuffix(name, "-color") }

// color names the role of a color: the one that has it, or nearly, in the tone of the band; else the one that things
// of its use have, and that is told. A color by hand would stay as it is in another theme and in the dark.
func (m *maker) color(e *css.Element, name string, c css.Color) string {
	if c.A < .05 {
		return "transparent"
	}
	tone := m.band.Tone
	if tone == "" {
		tone = "plain"
	}
	best, least := "", .06
	for _, role := range theme.Roles {
		t, ok := css.ParseColor(css.Tokenize(m.env.Theme.Color(tone, role, false)), css.ColorContext{})
		if ok && fitsUse(role, name) && c.A > .95 && distance(c, t) < least {
			best, least = role, distance(c, t)
		}
	}
	if best == "" {
		best = m.roleOf(e, name, c)
		m.tellOnce(fmt.Sprintf("%s is now what the theme has for it, var(--%s)", hex(c), best))
	}
	return "var(--" + best + ")"
}

// fitsUse reports a role that a property may take: no text in the color of a ground.
func fitsUse(role, property string) bool {
	switch {
	case property == "color":
		return role == "ink" || role == "soft" || role == "accent" || role == "accent-ink"
	case property == "background-color":
		return role == "ground" || role == "surface" || role == "accent" || role == "ink"
	}
	return role == "line" || role == "accent" || role == "ink" || role == "soft"
}

// roleOf gives the role that a color has by its use.
func (m *maker) roleOf(e *css.Element, name string, c css.Color) string {
	vivid := chroma(c) > .25
	if strings.HasPrefix(name, "border") {
		vivid = chroma(c) > .45
	}
	switch {
	case name == "background-color" && vivid:
		return "accent"
	case name == "background-color":
		return "surface"
	case name == "color":
		for at := e; at != nil; at = at.Parent {
			if under, ok := m.reader.color(at, "background-color"); ok && under.A > .9 {
				if chroma(under) > .25 {
					return "accent-ink"
				}
				break
			}
		}
		if vivid {
			return "accent"
		}
		return "soft"
	case vivid:
		return "accent"
	}
	return "line"
}

var emForm = regexp.MustCompile(`(^|[^\w.-])(-?[\d.]+)em\b`)

var pxForm = regexp.MustCompile(`(^|[^\w.-])(-?[\d.]+)px\b`)

// lengths writes lengths in rem, as tokens where there is one, and shares of the screen as shares of the room.
func (m *maker) lengths(name, value string) string {
	group := ""
	switch {
	case strings.HasPrefix(name, "padding"), strings.HasPrefix(name, "margin"), strings.HasSuffix(name, "gap"):
		group = "space."
	case strings.HasSuffix(name, "radius"):
		group = "radius."
	}
	value = pxForm.ReplaceAllStringFunc(value, func(s string) string {
		parts := pxForm.FindStringSubmatch(s)
		px, err := strconv.ParseFloat(parts[2], 64)
		if err != nil || math.Abs(px) < 4 {
			return s
		}
		if token := m.tokenSize(group, px); group != "" && token != "" {
			return parts[1] + token
		}
		return parts[1] + remText(px)
	})
	return roomForm.ReplaceAllString(value, "${1}cqi")
}

var roomForm = regexp.MustCompile(`\b([\d.]+)[sld]?vw\b`)

func remText(px float64) string {
	return strconv.FormatFloat(math.Round(px/16*10000)/10000, 'f', -1, 64) + "rem"
}

var lastRem = regexp.MustCompile(`([\d.]+)rem\)?$`)

// tokenSize names the token of a group that has a length, or nearly: within a twentieth.
func (m *maker) tokenSize(group string, px float64) string {
	if group == "" {
		return ""
	}
	best, off := "", math.Max(.6, px*.05)
	for _, k := range m.env.Theme.Tokens {
		if !strings.HasPrefix(k.Name, group) {
			continue
		}
		found := lastRem.FindStringSubmatch(k.Value)
		if found == nil {
			continue
		}
		v, _ := strconv.ParseFloat(found[1], 64)
		if d := math.Abs(v*16 - px); d < off {
			best, off = k.Name, d
		}
	}
	if best == "" {
		return ""
	}
	return "var(" + theme.Property(best) + ")"
}
