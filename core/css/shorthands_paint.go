package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Shorthands of properties that draw and move nothing: the cascade decides their longhands like any others, so that
// what wins can be told.

// Longhands that a shorthand sets as a whole: each layer of them is read where it is painted.
var wholes = map[string]string{
	"mask":                          "mask-image mask-mode mask-position mask-size mask-repeat mask-origin mask-clip mask-composite",
	"mask-border":                   "-webkit-mask-box-image-source -webkit-mask-box-image-slice -webkit-mask-box-image-width -webkit-mask-box-image-outset -webkit-mask-box-image-repeat",
	"marker":                        "marker-start marker-mid marker-end",
	"corner-shape":                  "corner-top-left-shape corner-top-right-shape corner-bottom-right-shape corner-bottom-left-shape",
	"scroll-timeline":               "scroll-timeline-name scroll-timeline-axis",
	"view-timeline":                 "view-timeline-name view-timeline-axis view-timeline-inset",
	"offset":                        "offset-position offset-path offset-distance offset-rotate offset-anchor",
	"text-emphasis":                 "text-emphasis-style text-emphasis-color",
	"position-try":                  "position-try-order position-try-fallbacks",
	"font-synthesis":                "font-synthesis-weight font-synthesis-style font-synthesis-small-caps",
	"-webkit-text-stroke":           "-webkit-text-stroke-width -webkit-text-stroke-color",
	"interest-delay":                "interest-delay-start interest-delay-end",
	"timeline-trigger-active-range": "timeline-trigger-active-range-start timeline-trigger-active-range-end",
}

// aliases are names that stand for one other property, text running from left to right and from top to bottom.
var aliases = map[string]string{
	"border-start-start-radius": "border-top-left-radius", "border-start-end-radius": "border-top-right-radius",
	"border-end-start-radius": "border-bottom-left-radius", "border-end-end-radius": "border-bottom-right-radius",
	"corner-start-start-shape": "corner-top-left-shape", "corner-start-end-shape": "corner-top-right-shape",
	"corner-end-start-shape": "corner-bottom-left-shape", "corner-end-end-shape": "corner-bottom-right-shape",
	"overscroll-behavior-inline": "overscroll-behavior-x", "overscroll-behavior-block": "overscroll-behavior-y",
	"page-break-after": "break-after", "page-break-before": "break-before", "page-break-inside": "break-inside",
	"-webkit-column-break-inside": "break-inside",
	"-webkit-mask-box-image":      "mask-border", "-webkit-border-radius": "border-radius",
	"-webkit-border-image": "border-image",
}

// prefixed are properties that browsers know by an old name as well.
const prefixed = `mask mask-image mask-size mask-repeat mask-origin mask-clip mask-position mask-composite
	animation transition animation-name animation-duration animation-delay
	animation-direction animation-fill-mode animation-iteration-count animation-play-state
	animation-timing-function transition-property transition-duration transition-delay
	transition-timing-function user-select backface-visibility print-color-adjust text-size-adjust clip-path
	box-shadow background-size background-origin background-clip
	text-decoration-color text-decoration-line text-decoration-style shape-outside opacity`

func init() {
	for name, list := range wholes {
		shorthands[name] = whole(strings.Fields(list)...)
	}
	for name, to := range aliases {
		shorthands[name] = alias(to)
	}
	for _, name := range strings.Fields(prefixed) {
		shorthands["-webkit-"+name] = alias(name)
	}
	shorthands["border-radius"] = expandRadius
	shorthands["border-image"] = expandBorderImage
	shorthands["outline"] = lineShorthand("outline")
	shorthands["column-rule"] = lineShorthand("column-rule")
	shorthands["row-rule"] = lineShorthand("row-rule")
	shorthands["text-decoration"] = expandDecoration
	shorthands["transition"] = expandTransition
	shorthands["animation"] = expandAnimation
	shorthands["animation-range"] = pairOrWhole("animation-range-start", "animation-range-end")
	shorthands["overscroll-behavior"] = pair("overscroll-behavior-x", "overscroll-behavior-y")
	shorthands["background"] = expandBackground
	shorthands["background-position"] = func(v []Token) ([]longhand, bool) {
		x, y := axes(v)
		return []longhand{{"background-position-x", x}, {"background-position-y", y}}, len(v) > 0
	}
	shorthands["border"] = func(v []Token) ([]longhand, bool) {
		out, ok := borderSides(sideNames[:]...)(v)
		for _, n := range borderImages { // the shorthand resets them
			out = append(out, longhand{n, nil})
		}
		return out, ok
	}
}

// whole gives each longhand the whole value.
func whole(names ...string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		var out []longhand
		for _, n := range names {
			out = append(out, longhand{n, v})
		}
		return out, len(v) > 0
	}
}

func pairOrWhole(a, b string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		if list, ok := pair(a, b)(v); ok {
			return list, true
		}
		return whole(a, b)(v)
	}
}

// expandRadius reads up to four radii, and as many vertical ones after a slash (css-backgrounds-3, "The border-radius
// properties").
func expandRadius(v []Token) ([]longhand, bool) {
	corners := [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"}
	halves := slashed(v, 2)
	across, ok := box(corners)(halves[0])
	if !ok || halves[1] == nil {
		return across, ok
	}
	down, ok := box(corners)(halves[1])
	if !ok {
		return nil, false
	}
	for i := range across {
		across[i].value = joined(across[i].value, down[i].value)
	}
	return across, true
}

var borderImages = [...]string{"border-image-slice", "border-image-width", "border-image-outset", "border-image-source",
	"border-image-repeat"}

// expandBorderImage reads slices, widths and outsets between slashes, with the picture and how it repeats at any place
// (css-backgrounds-3, "border-image").
func expandBorderImage(v []Token) ([]longhand, bool) {
	var values [len(borderImages)][][]Token // slice, width, outset, source, repeat
	for k, part := range slashed(v, 3) {
		for _, p := range split(part) {
			at := k
			switch w := Word(p); w {
			case "stretch", "repeat", "round", "space":
				at = 4
			case "auto", "fill":
			default:
				if name, _, call := Call(p); w == "none" || call && !strings.Contains("calc min max clamp var", name) {
					at = 3
				}
			}
			values[at] = append(values[at], p)
		}
	}
	var out []longhand
	for i, n := range borderImages {
		out = append(out, longhand{n, joined(values[i]...)})
	}
	return out, len(v) > 0
}

var lineStyles = strings.Fields("none hidden dotted dashed solid double groove ridge inset outset auto")

// lineShorthand reads width, style and color in any order.
func lineShorthand(stem string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		var width, style, color []Token
		for _, p := range split(v) {
			if _, ok := borderWidth(p); ok {
				width = p
			} else if contains(lineStyles, ident(p)) {
				style = p
			} else {
				color = p
			}
		}
		return []longhand{{stem + "-width", width}, {stem + "-style", style}, {stem + "-color", color}}, len(v) > 0
	}
}

var (
	decorationLines  = strings.Fields("none underline overline line-through blink spelling-error grammar-error")
	decorationStyles = strings.Fields("solid double dotted dashed wavy")
)

func expandDecoration(v []Token) ([]longhand, bool) {
	var lines [][]Token
	var style, color, thick []Token
	for _, p := range split(v) {
		_, isLength := parseExpr(p, exprLengthPercent)
		switch w := ident(p); {
		case contains(decorationLines, w):
			lines = append(lines, p)
		case contains(decorationStyles, w):
			style = p
		case w == "auto" || w == "from-font" || isLength:
			thick = p
		default:
			color = p
		}
	}
	return []longhand{{"text-decoration-line", joined(lines...)}, {"text-decoration-style", style},
		{"text-decoration-color", color}, {"text-decoration-thickness", thick}}, len(v) > 0
}

// easing reports a timing function.
func easing(p []Token) bool {
	return strings.HasPrefix(ident(p), "ease") || contains([]string{"linear", "step-start", "step-end"}, ident(p)) ||
		p[0].Is("cubic-bezier(") || p[0].Is("steps(") || p[0].Is("linear(")
}

// layered reads comma-separated layers; sort tells for each piece which longhand it is for, given those that the
// layer has already. Longhands that no layer sets come out as nil: initial.
func layered(v []Token, names []string, initial map[string]string,
	sort func(p []Token, have map[string][]Token) string) ([]longhand, bool) {
	lists := map[string][][]Token{}
	given := map[string]bool{}
	for _, layer := range SplitCommas(v) {
		have := map[string][]Token{}
		for _, p := range split(layer) {
			name := sort(p, have)
			if name == "" || have[name] != nil {
				return nil, false
			}
			have[name], given[name] = p, true
		}
		for _, n := range names {
			value := have[n]
			if value == nil {
				value = Tokenize(initial[n])
			}
			lists[n] = append(lists[n], value)
		}
	}
	var out []longhand
	for _, n := range names {
		var value []Token
		for i, part := range lists[n] {
			if i > 0 {
				value = append(value, Token{Kind: css.CommaToken, Text: ","},
					Token{Kind: css.WhitespaceToken, Text: " "})
			}
			value = append(value, part...)
		}
		if !given[n] {
			value = nil
		}
		out = append(out, longhand{n, value})
	}
	return out, len(v) > 0
}

// timed gives the longhand of a time: the first is the duration, the second the delay.
func timed(stem string, have map[string][]Token) string {
	if have[stem+"-duration"] == nil {
		return stem + "-duration"
	}
	return stem + "-delay"
}

// isTime reports a time, such as 0.2s or calc(1s / 3).
func isTime(p []Token) bool {
	if p[0].Kind == css.DimensionToken {
		text := strings.ToLower(p[0].Text)
		return strings.HasSuffix(text, "s")
	}
	return p[0].Is("calc(")
}

func expandTransition(v []Token) ([]longhand, bool) {
	names := []string{"transition-property", "transition-duration", "transition-timing-function", "transition-delay",
		"transition-behavior"}
	initial := map[string]string{names[0]: "all", names[1]: "0s", names[2]: "ease", names[3]: "0s",
		names[4]: "normal"}
	return layered(v, names, initial, func(p []Token, have map[string][]Token) string {
		switch w := ident(p); {
		case isTime(p):
			return timed("transition", have)
		case easing(p):
			return "transition-timing-function"
		case w == "allow-discrete" || w == "normal":
			return "transition-behavior"
		case w != "" || strings.HasPrefix(p[0].Text, "--"):
			return "transition-property"
		}
		return ""
	})
}

func expandAnimation(v []Token) ([]longhand, bool) {
	names := []string{"animation-name", "animation-duration", "animation-timing-function", "animation-delay",
		"animation-iteration-count", "animation-direction", "animation-fill-mode",
		"animation-play-state"}
	initial := map[string]string{names[0]: "none", names[1]: "0s", names[2]: "ease", names[3]: "0s", names[4]: "1",
		names[5]: "normal", names[6]: "none", names[7]: "running"}
	words := map[string][]string{"animation-direction": strings.Fields("normal reverse alternate alternate-reverse"),
		"animation-fill-mode":  strings.Fields("none forwards backwards both"),
		"animation-play-state": strings.Fields("running paused"), "animation-iteration-count": {"infinite"}}
	out, ok := layered(v, names, initial, func(p []Token, have map[string][]Token) string {
		w := ident(p)
		switch {
		case isTime(p):
			return timed("animation", have)
		case easing(p) && have["animation-timing-function"] == nil:
			return "animation-timing-function"
		case p[0].Kind == css.NumberToken:
			return "animation-iteration-count"
		}
		for _, name := range names[4:] {
			if contains(words[name], w) && have[name] == nil {
				return name
			}
		}
		if w != "" || p[0].Kind == css.StringToken || strings.HasPrefix(p[0].Text, "--") {
			return "animation-name"
		}
		return ""
	})
	// the shorthand resets them
	for _, n := range []string{"animation-timeline", "animation-range-start", "animation-range-end",
		"animation-composition"} {
		out = append(out, longhand{n, nil})
	}
	return out, ok
}

var backgroundWords = map[string]string{"repeat-x": "repeat", "repeat-y": "repeat", "repeat": "repeat",
	"no-repeat": "repeat", "space": "repeat", "round": "repeat",
	"scroll": "attachment", "fixed": "attachment", "local": "attachment", "border-box": "box", "padding-box": "box",
	"content-box": "box", "text": "box", "border-area": "box",
	"left": "position", "right": "position", "top": "position", "bottom": "position", "center": "position",
	"none": "image"}

// expandBackground reads the layers of a background (css-backgrounds-3, "The background shorthand").
func expandBackground(v []Token) ([]longhand, bool) {
	lists := map[string][][]Token{}
	var color []Token
	for _, layer := range SplitCommas(v) {
		got := map[string][][]Token{}
		afterSlash := false
		for _, p := range split(layer) {
			if p[0].Text == "/" {
				afterSlash = true
				continue
			}
			kind := backgroundWords[ident(p)]
			_, isLength := parseExpr(p, exprLengthPercent)
			fn := strings.ToLower(p[0].Text)
			switch {
			case kind == "" && afterSlash && (isLength || contains([]string{"auto", "cover", "contain"}, ident(p))) &&
				len(got["size"]) < 2:
				kind = "size"
			case kind != "":
			case isLength:
				kind = "position"
			case strings.HasPrefix(fn, "url(") || strings.HasSuffix(fn, "gradient(") ||
				strings.HasPrefix(fn, "image") || strings.HasPrefix(fn, "-webkit-image") || fn == "cross-fade(" ||
				fn == "element(":
				kind = "image"
			default:
				color = p
				continue
			}
			got[kind] = append(got[kind], p)
		}
		if len(got["image"]) > 1 || len(got["box"]) > 2 {
			return nil, false
		}
		x, y := axes(joined(got["position"]...))
		origin, clip := "padding-box", "border-box"
		if b := got["box"]; len(b) > 0 {
			origin, clip = ident(b[0]), ident(b[len(b)-1])
		}
		orElse := func(list [][]Token, initial string) []Token {
			if len(list) == 0 {
				return Tokenize(initial)
			}
			return joined(list...)
		}
		for name, value := range map[string][]Token{"background-image": orElse(got["image"], "none"),
			"background-position-x": x, "background-position-y": y, "background-size": orElse(got["size"], "auto"),
			"background-repeat":     orElse(got["repeat"], "repeat"),
			"background-attachment": orElse(got["attachment"], "scroll"), "background-origin": word(origin),
			"background-clip": word(clip)} {
			lists[name] = append(lists[name], value)
		}
	}
	if color == nil {
		color = word("transparent")
	}
	out := []longhand{{"background-color", color}}
	for _, name := range strings.Fields("background-image background-position-x background-position-y background-size background-repeat background-attachment background-origin background-clip") {
		var value []Token
		for i, part := range lists[name] {
			if i > 0 {
				value = append(value, Token{Kind: css.CommaToken, Text: ","},
					Token{Kind: css.WhitespaceToken, Text: " "})
			}
			value = append(value, part...)
		}
		out = append(out, longhand{name, value})
	}
	return out, len(v) > 0
}

// axes splits a position into what it says across and down: "right 20%" is right and 20%.
func axes(v []Token) (x, y []Token) {
	center := word("center")
	for i, layer := range SplitCommas(v) {
		lx, ly := axis(split(layer))
		if i == 0 {
			x, y = lx, ly
			continue
		}
		comma := []Token{{Kind: css.CommaToken, Text: ","}}
		x, y = append(append(x, comma...), lx...), append(append(y, comma...), ly...)
	}
	if len(v) == 0 {
		return Tokenize("0%"), Tokenize("0%")
	}
	if x == nil {
		x = center
	}
	if y == nil {
		y = center
	}
	return x, y
}

func axis(p [][]Token) (x, y []Token) {
	center := word("center")
	x, y = center, center
	across := func(w string) bool { return w == "left" || w == "right" }
	down := func(w string) bool { return w == "top" || w == "bottom" }
	switch len(p) {
	case 1:
		if down(ident(p[0])) {
			y = p[0]
		} else {
			x = p[0]
		}
	case 2:
		x, y = p[0], p[1]
		if down(ident(p[0])) || across(ident(p[1])) {
			x, y = p[1], p[0]
		}
	case 3, 4:
		var side string
		var parts [2][][]Token
		for _, t := range p {
			w := ident(t)
			switch {
			case across(w) || w == "center" && side == "" && len(parts[0]) == 0:
				side = "x"
			case down(w) || w == "center":
				side = "y"
			}
			if side == "y" {
				parts[1] = append(parts[1], t)
			} else {
				parts[0] = append(parts[0], t)
			}
		}
		if len(parts[0]) > 0 {
			x = joined(parts[0]...)
		}
		if len(parts[1]) > 0 {
			y = joined(parts[1]...)
		}
	}
	return x, y
}
