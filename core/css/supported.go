package css

import (
	"strings"

	"ziegel/core/css/grammar"
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

// CheckValue reports whether a value is one of a property, as a whole. What has var() in it passes as long as it is
// balanced, for only a page can resolve it.
func CheckValue(name, value string) bool {
	name = strings.ToLower(name)
	v := trim(Tokenize(value))
	if len(v) == 0 || !grammar.Readable(value) {
		return false
	}
	if hasVar(v) || wideKeywords[ident(v)] {
		return true
	}
	if grammar.Knows(name) {
		return grammar.Valid(name, value)
	}
	list, ok := expand(name, v)
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
	return true
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
