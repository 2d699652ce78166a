package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// noEffect lists properties that never change a box.
var noEffect = map[string]bool{}

func init() {
	for _, n := range strings.Fields(`accent-color animation-composition animation-delay animation-direction animation-duration animation-fill-mode animation-iteration-count
	animation-name animation-play-state animation-timing-function animation-timeline animation-range-start animation-range-end -moz-appearance
	backface-visibility background-attachment background-origin background-repeat border-bottom-color
	border-left-color border-right-color border-top-color border-bottom-left-radius border-bottom-right-radius border-top-left-radius
	border-top-right-radius border-image-outset border-image-repeat border-image-slice border-image-source border-image-width box-shadow caret-color clip
	clip-path clip-rule color-interpolation color-scheme -webkit-tap-highlight-color -webkit-overflow-scrolling cursor fill fill-opacity fill-rule
	flood-color font-display font-palette font-synthesis-weight font-synthesis-style font-smooth -webkit-font-smoothing -moz-osx-font-smoothing
	forced-color-adjust image-rendering isolation lighting-color mask-clip mask-composite mask-image mask-mode mask-origin mask-position mask-repeat
	mask-size mask-type outline-color outline-offset outline-style outline-width overscroll-behavior-x overscroll-behavior-y paint-order pointer-events
	print-color-adjust resize scroll-behavior scroll-snap-stop scrollbar-color shape-rendering stop-color stop-opacity stroke stroke-dasharray
	stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor text-decoration-color text-decoration-line
	text-decoration-skip-ink text-decoration-style text-decoration-thickness text-rendering text-shadow text-underline-offset text-underline-position
	text-size-adjust touch-action transform-box transform-style transition-behavior transition-delay transition-duration transition-property
	transition-timing-function unicode-bidi user-select vector-effect view-transition-name break-after break-before break-inside orphans widows page
	empty-cells perspective-origin object-view-box interpolate-size speak-as timeline-scope alignment-baseline anchor-scope animation-trigger app-region
	baseline-shift border-shape buffered-rendering caption-side caret-animation caret-shape clear color-interpolation-filters color-rendering
	column-rule-break column-rule-color column-rule-inset-cap-end column-rule-inset-cap-start column-rule-inset-junction-end
	column-rule-inset-junction-start column-rule-style column-rule-visibility-items column-rule-width corner-bottom-left-shape corner-bottom-right-shape
	corner-top-left-shape corner-top-right-shape cx cy d dominant-baseline dynamic-range-limit flood-opacity font-synthesis-small-caps
	hyphenate-limit-chars interactivity interest-delay-end interest-delay-start marker-end marker-mid marker-start offset-anchor
	offset-distance offset-position offset-rotate overflow-anchor overlay position-try-order position-visibility r reading-flow reading-order
	row-rule-break row-rule-color row-rule-inset-cap-end row-rule-inset-cap-start row-rule-inset-junction-end row-rule-inset-junction-start
	row-rule-style row-rule-visibility-items row-rule-width rule-overlap rx ry scroll-axis-lock scroll-marker-group scroll-target-group
	scroll-timeline-axis scroll-timeline-name scrollbar-width shape-image-threshold shape-margin speak text-box-edge text-emphasis-color
	text-emphasis-position timeline-trigger-activation-range-end timeline-trigger-activation-range-start timeline-trigger-active-range-end
	timeline-trigger-active-range-start timeline-trigger-name timeline-trigger-source trigger-scope view-timeline-axis view-timeline-inset
	view-timeline-name view-transition-class view-transition-group view-transition-scope window-drag x y -webkit-border-horizontal-spacing
	-webkit-border-vertical-spacing -webkit-box-reflect -webkit-mask-box-image-outset -webkit-mask-box-image-repeat -webkit-mask-box-image-slice
	-webkit-mask-box-image-source -webkit-mask-box-image-width -webkit-mask-position-x -webkit-mask-position-y -webkit-rtl-ordering
	-webkit-text-decorations-in-effect -webkit-text-stroke-color -webkit-text-stroke-width -webkit-user-modify border-collapse border-spacing
	table-layout -moz-user-select -ms-user-select anchor-name src unicode-range size-adjust ascent-override descent-override line-gap-override syntax
	inherits initial-value -webkit-user-drag -webkit-locale -webkit-text-decoration -ms-text-size-adjust -moz-text-size-adjust -moz-tab-size`) {
		noEffect[n] = true
	}
}

// KnownProperty reports whether a property name exists as far as Ziegel knows, shorthands included.
func KnownProperty(name string) bool {
	name = strings.ToLower(name)
	_, modelled := propertyTable[name]
	_, short := shorthands[name]
	_, told := reportedTable[name]
	return modelled || short || told || noEffect[name] || name == "all" || strings.HasPrefix(name, "--")
}

// PropertyNames lists the names that KnownProperty accepts, unsorted.
func PropertyNames() []string {
	var out []string
	for n := range propertyTable {
		out = append(out, n)
	}
	for n := range shorthands {
		out = append(out, n)
	}
	for n := range noEffect {
		out = append(out, n)
	}
	for n := range reportedTable {
		if propertyTable[n] == nil {
			out = append(out, n)
		}
	}
	return out
}

// CheckValue reports whether a value of a property can be read. Values of properties without effect on geometry pass, and so
// does everything with var(), which only a page can resolve.
func CheckValue(name, value string) bool {
	v := trim(Tokenize(value))
	if len(v) == 0 || strings.Contains(value, "/*") || strings.ContainsAny(value, "<\x00\n\r") { // a comment that stays open takes the rest of the sheet along
		return false
	}
	depth := 0
	for _, t := range v {
		if t.Kind == css.BadStringToken || t.Kind == css.BadURLToken || t.Kind == css.CommentToken {
			return false
		}
		if t.Kind == css.StringToken && (len(t.Text) < 2 || t.Text[len(t.Text)-1] != t.Text[0]) {
			return false
		}
		switch t.Text {
		case "(", "[":
			depth++
		case ")", "]":
			depth--
		case "{", "}", ";":
			return false
		default:
			if strings.HasSuffix(t.Text, "(") {
				depth++
			}
		}
	}
	if depth != 0 {
		return false
	}
	if hasVar(v) || wideKeywords[ident(v)] {
		return true
	}
	list, ok := expand(strings.ToLower(name), v)
	if !ok {
		return false
	}
	for _, l := range list {
		if p := longhandOf(l.name); p != nil && l.value != nil {
			if _, ok := p.parse(l.value); !ok {
				return false
			}
		}
	}
	return checkColors(name, v)
}

// checkColors catches a misspelt color word in the properties that hold nothing but a color.
func checkColors(name string, v []Token) bool {
	if name != "color" && !strings.HasSuffix(name, "-color") {
		return true
	}
	w := ident(v)
	return w == "" || namedColors[w]
}

// expand resolves shorthands, also those that expand to shorthands.
func expand(name string, v []Token) ([]longhand, bool) {
	f, ok := shorthands[name]
	if !ok {
		return []longhand{{name, v}}, true
	}
	list, ok := f(v)
	if !ok {
		return nil, false
	}
	var out []longhand
	for _, l := range list {
		if _, again := shorthands[l.name]; again && l.value != nil {
			more, ok := expand(l.name, l.value)
			if !ok {
				return nil, false
			}
			out = append(out, more...)
			continue
		}
		out = append(out, l)
	}
	return out, true
}

var namedColors = map[string]bool{}

func init() {
	for _, n := range strings.Fields(`aliceblue antiquewhite aqua aquamarine azure beige bisque black blanchedalmond blue blueviolet brown burlywood cadetblue chartreuse
	chocolate coral cornflowerblue cornsilk crimson cyan darkblue darkcyan darkgoldenrod darkgray darkgreen darkgrey darkkhaki darkmagenta darkolivegreen darkorange
	darkorchid darkred darksalmon darkseagreen darkslateblue darkslategray darkslategrey darkturquoise darkviolet deeppink deepskyblue dimgray dimgrey dodgerblue
	firebrick floralwhite forestgreen fuchsia gainsboro ghostwhite gold goldenrod gray green greenyellow grey honeydew hotpink indianred indigo ivory khaki lavender
	lavenderblush lawngreen lemonchiffon lightblue lightcoral lightcyan lightgoldenrodyellow lightgray lightgreen lightgrey lightpink lightsalmon lightseagreen
	lightskyblue lightslategray lightslategrey lightsteelblue lightyellow lime limegreen linen magenta maroon mediumaquamarine mediumblue mediumorchid mediumpurple
	mediumseagreen mediumslateblue mediumspringgreen mediumturquoise mediumvioletred midnightblue mintcream mistyrose moccasin navajowhite navy oldlace olive olivedrab
	orange orangered orchid palegoldenrod palegreen paleturquoise palevioletred papayawhip peachpuff peru pink plum powderblue purple rebeccapurple red rosybrown
	royalblue saddlebrown salmon sandybrown seagreen seashell sienna silver skyblue slateblue slategray slategrey snow springgreen steelblue tan teal thistle tomato
	turquoise violet wheat white whitesmoke yellow yellowgreen transparent currentcolor auto canvas canvastext linktext buttonface buttontext highlight highlighttext
	field fieldtext graytext mark marktext accentcolor accentcolortext inherit initial unset`) {
		namedColors[n] = true
	}
}
