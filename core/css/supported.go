package css

import (
	"strings"

	"ziegel/core/css/grammar"
)

// noEffect lists properties that never change a box.
var noEffect = map[string]bool{}

func init() {
	for _, n := range strings.Fields(`accent-color animation-composition animation-delay animation-direction
	animation-duration animation-fill-mode animation-iteration-count
	animation-name animation-play-state animation-timing-function animation-timeline animation-range-start
	animation-range-end -moz-appearance
	backface-visibility background-attachment background-origin background-repeat border-bottom-color
	border-left-color border-right-color border-top-color border-bottom-left-radius border-bottom-right-radius
	border-top-left-radius
	border-top-right-radius border-image-outset border-image-repeat border-image-slice border-image-source
	border-image-width box-shadow caret-color clip
	clip-path clip-rule color-interpolation color-scheme -webkit-tap-highlight-color -webkit-overflow-scrolling
	cursor fill fill-opacity fill-rule
	flood-color font-display font-palette font-synthesis-weight font-synthesis-style font-smooth
	-webkit-font-smoothing -moz-osx-font-smoothing
	forced-color-adjust image-rendering isolation lighting-color mask-clip mask-composite mask-image mask-mode
	mask-origin mask-position mask-repeat
	mask-size mask-type outline-color outline-offset outline-style outline-width overscroll-behavior-x
	overscroll-behavior-y paint-order pointer-events
	print-color-adjust resize scroll-behavior scroll-snap-stop scrollbar-color shape-rendering stop-color
	stop-opacity stroke stroke-dasharray
	stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor
	text-decoration-color text-decoration-line
	text-decoration-skip-ink text-decoration-style text-decoration-thickness text-rendering text-shadow
	text-underline-offset text-underline-position
	text-size-adjust touch-action transform-box transform-style transition-behavior transition-delay
	transition-duration transition-property
	transition-timing-function user-select vector-effect view-transition-name
	page
	empty-cells perspective-origin object-view-box interpolate-size speak-as timeline-scope alignment-baseline
	anchor-scope animation-trigger app-region
	baseline-shift border-shape buffered-rendering caret-animation caret-shape
	color-interpolation-filters color-rendering
	column-rule-break column-rule-color column-rule-inset-cap-end column-rule-inset-cap-start column-rule-inset-junction-end
	column-rule-inset-junction-start column-rule-style column-rule-visibility-items column-rule-width
	corner-bottom-left-shape corner-bottom-right-shape
	corner-top-left-shape corner-top-right-shape cx cy d dominant-baseline dynamic-range-limit flood-opacity

	hyphenate-limit-chars interactivity interest-delay-end interest-delay-start marker-end marker-mid
	marker-start offset-anchor
	offset-distance offset-position offset-rotate overflow-anchor overlay position-try-order position-visibility
	r reading-flow reading-order
	row-rule-break row-rule-color row-rule-inset-cap-end row-rule-inset-cap-start row-rule-inset-junction-end
	row-rule-inset-junction-start
	row-rule-style row-rule-visibility-items row-rule-width rule-overlap rx ry scroll-axis-lock
	scroll-marker-group scroll-target-group
	scroll-timeline-axis scroll-timeline-name shape-image-threshold speak
	text-emphasis-color
	text-emphasis-position timeline-trigger-activation-range-end timeline-trigger-activation-range-start timeline-trigger-active-range-end
	timeline-trigger-active-range-start timeline-trigger-name timeline-trigger-source trigger-scope
	view-timeline-axis view-timeline-inset
	view-timeline-name view-transition-class view-transition-group view-transition-scope window-drag x y
	-webkit-border-horizontal-spacing
	-webkit-border-vertical-spacing -webkit-box-reflect -webkit-mask-box-image-outset -webkit-mask-box-image-repeat -webkit-mask-box-image-slice
	-webkit-mask-box-image-source -webkit-mask-box-image-width -webkit-mask-position-x -webkit-mask-position-y -webkit-rtl-ordering
	-webkit-text-decorations-in-effect -webkit-text-stroke-color -webkit-text-stroke-width -webkit-user-modify
	-moz-user-select -ms-user-select anchor-name src unicode-range size-adjust ascent-override
	descent-override line-gap-override syntax
	inherits initial-value -webkit-user-drag -webkit-locale -webkit-text-decoration -ms-text-size-adjust
	-moz-text-size-adjust -moz-tab-size`) {
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

// traced are the longhands that the layout has no use for. The cascade decides them like any others, so that the
// program can tell who wins.
var traced = map[string]*property{}

// inheritedPaint are those of them that pass from parents to children.
const inheritedPaint = `accent-color caret-animation caret-color
	caret-shape clip-rule color-interpolation color-interpolation-filters color-scheme cursor
	dominant-baseline dynamic-range-limit empty-cells fill fill-opacity fill-rule font-palette font-smooth
	font-synthesis-style font-synthesis-weight forced-color-adjust
	hyphenate-limit-chars image-rendering interactivity interpolate-size marker-end marker-mid marker-start
	paint-order pointer-events print-color-adjust scrollbar-color shape-rendering speak
	stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity
	stroke-width text-anchor text-decoration-skip-ink text-emphasis-color
	text-emphasis-position text-rendering text-shadow text-size-adjust text-underline-offset
	text-underline-position -webkit-font-smoothing -webkit-tap-highlight-color
	-webkit-text-stroke-color -webkit-text-stroke-width -webkit-user-modify
	text-orientation font-size-adjust font-variant-alternates
	font-variant-east-asian font-variant-emoji font-variant-position text-autospace text-combine-upright
	text-emphasis-style text-justify text-spacing-trim ruby-align ruby-overhang ruby-position
	font-language-override math-depth math-shift math-style image-orientation text-align-last`

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

// reportedTable is written as "name | harmless values | a value that is reported".
var reportedTable = readReports(`
column-height | auto | 10em
column-wrap | auto nowrap | wrap
text-orientation | mixed | upright
-webkit-text-orientation | mixed vertical-right | upright
text-combine-upright | none | all
-webkit-text-combine | none | horizontal
font-variant-caps | normal small-caps all-small-caps petite-caps all-petite-caps titling-caps | unicase
font-variant-alternates | normal | historical-forms
font-variant-east-asian | normal | ruby
font-variant-position | normal | sub
font-variant-emoji | normal text | emoji
font-language-override | normal | "TRK"
text-emphasis-style | none | dot
text-autospace | no-autospace | normal
text-spacing-trim | normal space-all | trim-start
text-justify | auto inter-word | inter-character
text-fit | none | grow
initial-letter | normal | 2
ruby-align | space-around | center
ruby-overhang | auto | none
ruby-position | over | under
-webkit-ruby-position | before | after
margin-trim | none | block
image-orientation | from-image | none
overflow-clip-margin | 0px content-box padding-box | 20px
scrollbar-gutter | auto | stable
position-anchor | auto normal none | --a
position-area | none | top
position-try-fallbacks | none | flip-block
offset-path | none | circle(50px)
math-depth | 0 | 2
math-shift | normal | compact
math-style | normal | compact
-webkit-box-align | stretch | center
-webkit-box-direction | normal | reverse
-webkit-box-flex | 0 | 1
-webkit-box-ordinal-group | 1 | 2
-webkit-box-pack | start | center
-webkit-text-security | none | disc
frame-sizing | auto | content-height
flex-line-count | auto normal | 2
scroll-initial-target | none | nearest
baseline-source | auto | last
`)

// report is a property whose values, other than the harmless ones, the layout does not follow.
type report struct {
	harmless []string
	sample   string // a value that is reported
}

func readReports(text string) map[string]report {
	out := map[string]report{}
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		f := strings.Split(line, " | ")
		out[f[0]] = report{harmless: strings.Fields(f[1]), sample: f[2]}
	}
	return out
}

// Support says which table a property is in.
type Support string
