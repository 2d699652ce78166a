package motion

import (
	"fmt"
	"strconv"
	"strings"

	"ziegel/core/css"
)

// initial is what properties begin with that nothing declares, where something lies between that and another value.
var initial = map[string]string{
	"opacity": "1", "translate": "0px 0px", "scale": "1", "rotate": "0deg", "background-color": "rgb(0 0 0 / 0)",
	"transform": "none", "filter": "none", "clip-path": "none", "box-shadow": "none", "letter-spacing": "0px", "border-radius": "0px",
	"text-decoration-color": "currentcolor", "visibility": "visible", "outline-offset": "0px",
}

// between gives the value at a share p of the way from a to b: numbers and colors at the same place of the same
// functions are mixed (CSS Values 4, section 3); all else changes in the middle.
func between(property, a, b string, p float64) string {
	if a == "" {
		a = initial[property]
	}
	if b == "" {
		b = initial[property]
	}
	if a == b {
		return a
	}
	a, b = likened(property, a, b)
	if v, ok := mixed(css.Tokenize(a), css.Tokenize(b), p); ok {
		return v
	}
	visible := a == "visible" || b == "visible" || a == "" || b == ""
	if property == "visibility" && visible && p > 0 && p < 1 {
		return "visible" // CSS Display 3, section 4
	}
	if p < .5 {
		return a
	}
	return b
}

// likened writes two values alike that only look different: none, and one of two values where the other stands for
// both.
func likened(property, a, b string) (string, string) {
	fill := func(v, like string) string {
		if strings.ToLower(v) != "none" {
			return v
		}
		switch property {
		case "translate":
			return "0px 0px"
		case "scale":
			return "1"
		case "rotate":
			return "0deg"
		case "transform", "filter":
			return neutral(like)
		case "box-shadow":
			return faint(like)
		}
		return v
	}
	a, b = fill(a, b), fill(b, a)
	x, y := strings.Fields(a), strings.Fields(b)
	switch {
	case property == "scale" && len(x) == 1 && len(y) == 2:
		a = a + " " + a
	case property == "scale" && len(x) == 2 && len(y) == 1:
		b = b + " " + b
	case property == "translate" && len(x) == 1 && len(y) == 2:
		a += " 0px"
	case property == "translate" && len(x) == 2 && len(y) == 1:
		b += " 0px"
	}
	return a, b
}

// neutral gives functions that do nothing, in the order of those of another value (CSS Transforms 1, section 12).
func neutral(like string) string {
	var out []string
	for _, part := range css.Parts(css.Tokenize(like)) {
		name, args, ok := css.Call(part)
		if !ok {
			return "none"
		}
		switch {
		case strings.HasPrefix(name,
			"scale"), name == "brightness", name == "contrast", name == "saturate", name == "opacity":
			out = append(out, name+"(1)")
		case name == "rotate" || name == "hue-rotate" || strings.HasPrefix(name, "skew"):
			out = append(out, name+"(0deg)")
		case strings.HasPrefix(name, "translate"):
			n := 1 + strings.Count(css.Text(args), ",")
			out = append(out, name+"("+strings.TrimSuffix(strings.Repeat("0px,", n), ",")+")")
		case name == "blur":
			out = append(out, "blur(0px)")
		case name == "grayscale" || name == "sepia" || name == "invert":
			out = append(out, name+"(0)")
		default:
			return "none"
		}
	}
	return strings.Join(out, " ")
}

// faint gives shadows that are not seen, as many as those of another value.
func faint(like string) string {
	var out []string
	for _, layer := range layers(like) {
		one := "0px 0px 0px rgb(0 0 0 / 0)"
		if lengths := strings.Count(strings.ToLower(layer), "px") + strings.Count(layer, " 0 "); lengths > 3 {
			one = "0px 0px 0px 0px rgb(0 0 0 / 0)"
		}
		if strings.Contains(layer, "inset") {
			one = "inset " + one
		}
		out = append(out, one)
	}
	return strings.Join(out, ", ")
}

// layers cuts a value at the commas that stand outside of functions.
func layers(v string) []string {
	var out []string
	depth, from := 0, 0
	for i, r := range v {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
		case ',':
			if depth == 0 {
				out = append(out, strings.TrimSpace(v[from:i]))
				from = i + 1
			}
		}
	}
	return append(out, strings.TrimSpace(v[from:]))
}

// mixed mixes two values part by part. ok is false when they are made otherwise.
func mixed(a, b []css.Token, p float64) (string, bool) {
	if x, ok := css.ParseColor(a, css.ColorContext{}); ok {
		if y, ok := css.ParseColor(b, css.ColorContext{}); ok {
			return mixedColor(x, y, p), true
		}
	}
	x, y := layers(css.Text(a)), layers(css.Text(b))
	if len(x) > 1 && len(x) == len(y) {
		return mixedList(x, y, ", ", p)
	}
	s, t := css.Parts(a), css.Parts(b)
	if len(s) > 1 && len(s) == len(t) {
		return mixedList(texts(s), texts(t), " ", p)
	}
	if len(s) != 1 || len(t) != 1 {
		return "", false
	}
	name, inner, ok := css.Call(s[0])
	other, second, both := css.Call(t[0])
	sameFunction := ok && both && name == other && name != "url" && name != "var"
	if sameFunction {
		out, ok := mixed(inner, second, p)
		return name + "(" + out + ")", ok
	}
	return mixedNumber(strings.TrimSpace(css.Text(a)), strings.TrimSpace(css.Text(b)), p)
}

func texts(parts [][]css.Token) []string {
	var out []string
	for _, p := range parts {
		out = append(out, strings.TrimSpace(css.Text(p)))
	}
	return out
}

func mixedList(a, b []string, sep string, p float64) (string, bool) {
	var out []string
	for i := range a {
		if a[i] == b[i] {
			out = append(out, a[i])
			continue
		}
		v, ok := mixed(css.Tokenize(a[i]), css.Tokenize(b[i]), p)
		if !ok {
			return "", false
		}
		out = append(out, v)
	}
	return strings.Join(out, sep), true
}

// mixedNumber mixes numbers with units, which may differ.
func mixedNumber(a, b string, p float64) (string, bool) {
	x, unit, ok := number(a)
	y, other, second := number(b)
	switch {
	case !ok || !second:
		if a == b {
			return a, true
		}
		calc := func(v string) bool {
			return strings.HasPrefix(v, "calc(") || strings.HasPrefix(v, "min(") || strings.HasPrefix(v, "max(")
		}
		if (ok || calc(a)) && (second || calc(b)) {
			return fmt.Sprintf("calc((%s) * %g + (%s) * %g)", a, 1-p, b, p), true
		}
		return "", false
	case unit == other, x == 0 && unit == "", y == 0 && other == "":
		if unit == "" {
			unit = other
		}
		return strconv.FormatFloat(x+(y-x)*p, 'f', -1, 64) + unit, true
	case unit == "" || other == "":
		return "", false
	}
	return fmt.Sprintf("calc(%s * %g + %s * %g)", a, 1-p, b, p), true
}

// number reads a number and its unit.
func number(text string) (v float64, unit string, ok bool) {
	const letters = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
	end := len(strings.TrimRight(text, letters+"%"))
	v, err := strconv.ParseFloat(text[:end], 64)
	return v, strings.ToLower(text[end:]), err == nil
}

// mixedColor mixes colors with their alpha taken in (CSS Color 4, section 12.3).
func mixedColor(a, b css.Color, p float64) string {
	alpha := a.A + (b.A-a.A)*p
	if alpha == 0 {
		return "rgb(0 0 0 / 0)"
	}
	mix := func(x, y float64) float64 { return (x*a.A*(1-p) + y*b.A*p) / alpha * 255 }
	return fmt.Sprintf("rgb(%.4g %.4g %.4g / %.4g)", mix(a.R, b.R), mix(a.G, b.G), mix(a.B, b.B), alpha)
}
