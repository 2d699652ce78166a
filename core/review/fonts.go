package review

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/project"
)

// genericFamilies are those that every browser has something for.
var genericFamilies = strings.Fields("serif sans-serif monospace cursive fantasy system-ui ui-serif ui-sans-serif ui-monospace ui-rounded math emoji fangsong inherit initial unset revert revert-layer")

// MissingFont is a font family that a style of the site names and no file is there for.
type MissingFont struct {
	Page, Block string // "" for shared looks and defaults
	Where       string // home/plans.card
	Family      string
	Pos         diag.Position
	Faces       []string // tokens of the faces that are there
}

// Text says it in a sentence.
func (m MissingFont) Text() string {
	return fmt.Sprintf("%s names the font %q, and the site brings no file for it: readers who have none see another",
		m.Where, m.Family)
}

// Cure tells what to write instead, or how to bring the font.
func (m MissingFont) Cure() string {
	return fmt.Sprintf("font-family: \"%s\", or `ziegel theme font FILE --for NAME` and \"{face.NAME}\"",
		strings.Join(m.Faces, `" or "`))
}

// MissingFonts lists the families that the styles of a site name and that it does not bring.
func MissingFonts(e *project.Project) []MissingFont {
	if !strings.Contains(e.Site.File.Source, "font") { // then only pages that speak of fonts themselves need be read
		e = e.Only(e.Site.Mentioning("font")...)
	}
	v := &reviewer{env: e}
	v.collect()
	var faces []string
	for _, t := range e.Theme.Tokens {
		if t.Type == "fontFamily" {
			faces = append(faces, "{"+t.Name+"}")
		}
	}
	slices.Sort(faces)
	var out []MissingFont
	for _, s := range v.spots {
		for _, family := range familiesOf(s.entry.Key, s.entry.Value.Str()) {
			if slices.ContainsFunc(e.Fonts,
				func(f project.FontFile) bool { return strings.EqualFold(f.Family, family) }) {
				break // the first that is there is the one that shows
			}
			if slices.Contains(genericFamilies, strings.ToLower(family)) || strings.Contains(family, "{") {
				break
			}
			m := MissingFont{Where: s.where, Family: family, Pos: s.entry.KeyPos, Faces: faces}
			if s.block != nil {
				m.Page, m.Block = s.page.Name, s.block.Name
			}
			out = append(out, m)
		}
	}
	return out
}

// familiesOf reads the families that a declaration names, in their order.
func familiesOf(property, value string) []string {
	if property != "font-family" && property != "font" {
		return nil
	}
	var out []string
	for i, part := range css.SplitCommas(css.Tokenize(value)) {
		text := strings.TrimSpace(css.Text(part))
		if property == "font" && i == 0 { // size and the like stand before the first family
			if at := strings.LastIndexAny(text, "\"'"); at > 0 {
				at = strings.LastIndexAny(text[:at], "\"'")
				text = text[max(at, 0):]
			} else if fields := strings.Fields(text); len(fields) > 0 {
				text = fields[len(fields)-1]
			}
		}
		if text = strings.Trim(text, `"'`); text != "" {
			out = append(out, text)
		}
	}
	return out
}
