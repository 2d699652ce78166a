package css

import "strings"

// traced are the longhands that the layout has no use for. The cascade decides them like any others, so that the
// program can tell who wins.
var traced = map[string]*property{}

// inheritedPaint are those of them that pass from parents to children.
const inheritedPaint = `accent-color border-collapse border-spacing caption-side caret-animation caret-color caret-shape clip-rule color-interpolation color-interpolation-filters color-scheme cursor
	dominant-baseline dynamic-range-limit empty-cells fill fill-opacity fill-rule font-palette font-smooth font-synthesis-small-caps font-synthesis-style font-synthesis-weight forced-color-adjust
	hyphenate-limit-chars image-rendering interactivity interpolate-size marker-end marker-mid marker-start orphans paint-order pointer-events print-color-adjust scrollbar-color shape-rendering speak
	stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor text-box-edge text-decoration-skip-ink text-emphasis-color
	text-emphasis-position text-rendering text-shadow text-size-adjust text-underline-offset text-underline-position widows -webkit-font-smoothing -webkit-tap-highlight-color
	-webkit-text-stroke-color -webkit-text-stroke-width -webkit-user-modify direction writing-mode text-orientation list-style-image font-size-adjust font-variant-alternates font-variant-caps
	font-variant-east-asian font-variant-emoji font-variant-position text-autospace text-combine-upright text-emphasis-style text-justify text-spacing-trim ruby-align ruby-overhang ruby-position
	hyphenate-character font-language-override math-depth math-shift math-style image-orientation text-align-last`

func init() {
	inherited := map[string]bool{}
	for _, n := range strings.Fields(inheritedPaint) {
		inherited[n] = true
	}
	add := func(name string) {
		if _, short := shorthands[name]; short || propertyTable[name] != nil {
			return
		}
		traced[name] = &property{inherited: inherited[name], first: 2, unused: true,
			parse: func(v []Token) (setter, bool) { return func(*Style, *computing) {}, len(v) > 0 },
			copy:  func(_, _ *Style) {}}
	}
	for n := range noEffect {
		add(n)
	}
	for n := range reportedTable {
		add(n)
	}
}

// longhandOf gives a property that the cascade decides: modelled, or only traced. nil for names that nobody knows.
func longhandOf(name string) *property {
	if p := propertyTable[name]; p != nil {
		return p
	}
	return traced[name]
}
