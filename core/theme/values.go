package theme

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/lucasb-eyer/go-colorful"

	"ziegel/core/css/grammar"
)

// dimension is a length or a time as DTCG writes it, or as earlier drafts of the format have it: "1rem".
type dimension struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

func (d dimension) String() string { return number(d.Value) + d.Unit }

// UnmarshalJSON reads both forms.
func (d *dimension) UnmarshalJSON(data []byte) error {
	if data[0] == '"' {
		var written string
		if err := json.Unmarshal(data, &written); err != nil {
			return err
		}
		m := lengthForm.FindStringSubmatch(written)
		if m == nil {
			return fmt.Errorf("%q is no number with a unit", written)
		}
		v, err := strconv.ParseFloat(m[1], 64)
		d.Value, d.Unit = v, m[2]
		return err
	}
	type plain dimension
	return json.Unmarshal(data, (*plain)(d))
}

// component is one of a color: a number, or none.
type component struct {
	value float64
	none  bool
}

// UnmarshalJSON reads a number or "none".
func (c *component) UnmarshalJSON(data []byte) error {
	if c.none = string(data) == `"none"`; c.none {
		return nil
	}
	return json.Unmarshal(data, &c.value)
}

func (c component) css(unit string) string {
	if c.none {
		return "none"
	}
	return number(c.value) + unit
}

// color is one as DTCG writes it (color module), or as CSS does.
type color struct {
	Space      string      `json:"colorSpace"`
	Components []component `json:"components"`
	Alpha      *float64    `json:"alpha"`
	Hex        string      `json:"hex"`
	written    string
}

// UnmarshalJSON reads both forms.
func (c *color) UnmarshalJSON(data []byte) error {
	if data[0] == '"' {
		return json.Unmarshal(data, &c.written)
	}
	type plain color
	return json.Unmarshal(data, (*plain)(c))
}

// css writes a color. Whatever it comes from, the result is one color and nothing more.
func (c color) css() (string, error) {
	text, err := c.text()
	if err == nil && !grammar.Is("color", text) {
		err = fmt.Errorf("%q is not a color", text)
	}
	return text, err
}

func (c color) text() (string, error) {
	if c.written != "" {
		return c.written, nil
	}
	if len(c.Components) != 3 {
		return "", errors.New("the value is not a color: a color needs three components")
	}
	list := c.Components
	opaque := c.Alpha == nil || *c.Alpha == 1
	none := slices.ContainsFunc(list, func(k component) bool { return k.none })
	part := func(i int) int { return int(list[i].value*255 + .5) }
	var body string
	switch {
	case c.Space == "srgb" && opaque && c.Hex != "":
		return c.Hex, nil
	case c.Space == "srgb" && !none && opaque:
		return fmt.Sprintf("#%02x%02x%02x", byte(part(0)), byte(part(1)), byte(part(2))), nil
	case c.Space == "srgb" && !none:
		body = fmt.Sprintf("rgb(%d %d %d", part(0), part(1), part(2))
	case slices.Contains([]string{"oklch", "oklab", "lab", "lch"}, c.Space):
		body = c.Space + "(" + list[0].css("") + " " + list[1].css("") + " " + list[2].css("")
	case c.Space == "hsl" || c.Space == "hwb":
		body = c.Space + "(" + list[0].css("") + " " + list[1].css("%") + " " + list[2].css("%")
	case slices.Contains([]string{"srgb", "srgb-linear", "display-p3", "a98-rgb", "prophoto-rgb", "rec2020",
		"xyz-d65", "xyz-d50"}, c.Space):
		body = "color(" + c.Space + " " + list[0].css("") + " " + list[1].css("") + " " + list[2].css("")
	default:
		return "", fmt.Errorf("the color space %q is not known; use srgb or oklch", c.Space)
	}
	if !opaque {
		body += " / " + number(*c.Alpha)
	}
	return body + ")", nil
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// weights are the words that DTCG has for weights of a font.
var weights = map[string]float64{"thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
	"normal": 400, "regular": 400, "book": 400, "medium": 500, "semi-bold": 600,
	"demi-bold": 600, "bold": 700, "extra-bold": 800, "ultra-bold": 800, "black": 900, "heavy": 900,
	"extra-black": 950, "ultra-black": 950}

// cssValue turns a token's value into CSS. What comes out is one value of the token's type, whole: nothing in it ends
// a declaration or names another file.
func cssValue(k rawToken) (value, hex string, err error) {
	fail := func(want string) (string, string, error) { return "", "", fmt.Errorf("the value is not %s", want) }
	switch k.kind {
	case "color":
		var c color
		if json.Unmarshal(k.value, &c) != nil {
			return fail("a color")
		}
		value, err := c.css()
		if c.written != "" {
			c.Hex = c.written
		}
		return value, c.Hex, err
	case "dimension", "duration":
		return dimensionValue(k)
	case "fontFamily":
		value, err := families(k.value)
		return value, "", err
	case "cubicBezier":
		var p [4]float64
		text := ""
		if json.Unmarshal(k.value, &p) == nil {
			text = fmt.Sprintf("cubic-bezier(%s, %s, %s, %s)", number(p[0]), number(p[1]), number(p[2]), number(p[3]))
		}
		if !grammar.Is("easing", text) {
			return fail("a curve: four numbers, the first and third from 0 to 1")
		}
		return text, "", nil
	case "fontWeight":
		var word string
		var n float64
		if json.Unmarshal(k.value, &word) == nil {
			n = weights[word]
		} else if json.Unmarshal(k.value, &n) != nil {
			n = 0
		}
		if n < 1 || n > 1000 {
			return fail("a weight: a number from 1 to 1000, or a word such as semi-bold")
		}
		return number(n), "", nil
	case "number":
		var n float64
		if json.Unmarshal(k.value, &n) != nil {
			return fail("a number")
		}
		return number(n), "", nil
	case "shadow":
		value, err := shadows(k.value)
		return value, "", err
	case Treatment:
		var word string
		if json.Unmarshal(k.value, &word) != nil || !wordForm.MatchString(word) {
			return fail("a treatment: a word such as plain")
		}
		return word, "", nil
	}
	return "", "", errUnknownType
}

func dimensionValue(k rawToken) (value, hex string, err error) {
	kind, want := "length", `a length such as {"value": 1, "unit": "rem"}`
	if k.kind == "duration" {
		kind, want = "time", `a time such as {"value": 160, "unit": "ms"}`
	}
	var d, low dimension
	if json.Unmarshal(k.value, &d) != nil || d.Unit == "" || !grammar.Is(kind, d.String()) {
		return "", "", fmt.Errorf("the value is not %s", want)
	}
	if len(k.phone) == 0 {
		return d.String(), "", nil
	}
	if json.Unmarshal(k.phone, &low) != nil || low.Unit != d.Unit || d.Unit != "rem" && d.Unit != "px" {
		return "", "", errors.New("the value on phones is not a length of the same unit, rem or px")
	}
	return fluid(low, d), "", nil
}

// families writes a list of families: the first ones as strings, generic ones as words.
func families(raw json.RawMessage) (string, error) {
	var list []string
	var one string
	if json.Unmarshal(raw, &one) == nil {
		list = []string{one}
	} else if json.Unmarshal(raw, &list) != nil {
		return "", errors.New("the value is not a list of families")
	}
	for i, f := range list {
		if strings.ContainsAny(f, "\"'\\<>{};\n\r\x00") || strings.TrimSpace(f) == "" {
			return "", fmt.Errorf("%q is not the name of a family", f)
		}
		if strings.Contains(f, " ") || !grammar.Valid("font-family", f) {
			list[i] = `"` + f + `"`
		}
	}
	if len(list) == 0 {
		return "", errors.New("the value is not the name of a family, and no list of them")
	}
	return strings.Join(list, ", "), nil
}

// shadows writes one shadow or several.
func shadows(raw json.RawMessage) (string, error) {
	type shadow struct {
		Color                          color
		OffsetX, OffsetY, Blur, Spread dimension
		Inset                          bool
	}
	var list []shadow
	var one shadow
	if json.Unmarshal(raw, &list) != nil {
		if json.Unmarshal(raw, &one) != nil {
			return "", errors.New("the value is not a shadow")
		}
		list = []shadow{one}
	}
	var out []string
	for _, s := range list {
		c, err := s.Color.css()
		if err != nil {
			return "", fmt.Errorf("the value is not a shadow: %w", err)
		}
		text := fmt.Sprintf("%s %s %s %s %s", s.OffsetX, s.OffsetY, s.Blur, s.Spread, c)
		if s.Inset {
			text = "inset " + text
		}
		if !grammar.Is("shadow", text) {
			return "", fmt.Errorf("the value is not a shadow: %q", text)
		}
		out = append(out, text)
	}
	if len(out) == 0 {
		return "none", nil
	}
	return strings.Join(out, ", "), nil
}

// Treatment is the type of tokens that choose a treatment, and TreatmentGroup what their names begin with. The format
// has no type for a word.
const (
	Treatment      = "treatment"
	TreatmentGroup = "treatment."
	Scheme         = "scheme" // the treatment that keeps a page dark, or light, for everybody
)

// errUnknownType is told of tokens of types that CSS has no single value for, such as typography, and of those without
// a type.
var errUnknownType = errors.New("the type is not known; use color, dimension, fontFamily, fontWeight, number, duration, cubicBezier or shadow")

// fluid writes a length that grows evenly with the screen. Half of it stays in rem, so that larger browser text still
// counts.
func fluid(low, high dimension) string {
	unit := 16.0
	if high.Unit == "px" {
		unit = 1
	}
	slope := (high.Value - low.Value) * unit / (fluidTo - fluidFrom)
	base := low.Value - slope*fluidFrom/unit
	round := func(v float64) string { return number(float64(int(v*10000+sign(v)*.5)) / 10000) }
	return fmt.Sprintf("clamp(%s, %s%s + %svw, %s)", low, round(base), high.Unit, round(slope*100), high)
}

type rawToken struct {
	kind  string
	value json.RawMessage
	phone json.RawMessage // fluid: the value on a small screen
}

// Fluid tokens grow between these screen widths, CSS px.
const (
	fluidFrom = 360
	fluidTo   = 1280
)

func sign(v float64) float64 {
	if v < 0 {
		return -1
	}
	return 1
}

// Roles are the colors that every tone binds.
var Roles = []string{"ground", "ink", "soft", "line", "surface", "accent", "accent-ink"}

// Tones are the grounds that a block can stand on.
var Tones = []string{"plain", "tinted", "deep", "accent"}

// ColorValue gives a color, #rrggbb, as a DTCG value.
func ColorValue(hex string) map[string]any {
	c, _ := colorful.Hex(hex)
	round := func(v float64) float64 { return math.Round(v*10000) / 10000 }
	return map[string]any{"colorSpace": "srgb", "components": []float64{round(c.R), round(c.G),
		round(c.B)}, "hex": hex}
}

var (
	wordForm   = regexp.MustCompile(`^[a-z]+(-[a-z]+)*$`)
	hexForm    = regexp.MustCompile(`^#[0-9a-fA-F]{6}$`)
	lengthForm = regexp.MustCompile(`^(-?[0-9]*\.?[0-9]+)(rem|px|em|ms|s)$`)
)
