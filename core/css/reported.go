package css

import (
	"sort"
	"strings"
)

// Every property that Chromium lists in a computed style is in exactly one of three tables: modelled (propertyTable,
// with the logical twins and legacy names in shorthands), without effect on boxes (noEffect), or reported where a
// page uses it (reportedTable).

// Support says which table a property is in.
type Support string

// The tables. Shorthand means a name that stands for others.
const (
	Modelled Support = "modelled"
	NoEffect Support = "no effect on boxes"
	Reported Support = "reported"
	Unknown  Support = ""
)

// report is a property whose values, other than the harmless ones, the layout does not follow.
type report struct {
	harmless []string
	sample   string // a value that is reported
}

// reportedTable is written as "name | harmless values | a value that is reported".
var reportedTable = readReports(`
float | none | left
shape-outside | none | circle(50%)
column-count | auto 1 | 2
column-width | auto | 12em
column-height | auto | 10em
column-wrap | auto nowrap | wrap
column-fill | balance | auto
column-span | none | all
writing-mode | horizontal-tb | vertical-rl
-webkit-writing-mode | horizontal-tb | vertical-rl
direction | ltr | rtl
text-orientation | mixed | upright
-webkit-text-orientation | mixed vertical-right | upright
text-combine-upright | none | all
-webkit-text-combine | none | horizontal
zoom | 1 normal 100% | 1.5
box-decoration-break | slice | clone
-webkit-box-decoration-break | slice | clone
list-style-image | none | url(x.svg)
font-size-adjust | none | .5
font-variant-caps | normal | small-caps
font-variant-alternates | normal | historical-forms
font-variant-east-asian | normal | ruby
font-variant-position | normal | sub
font-variant-emoji | normal text | emoji
font-language-override | normal | "TRK"
text-emphasis-style | none | dot
text-autospace | no-autospace | normal
text-spacing-trim | normal space-all | trim-start
text-box-trim | none | trim-both
text-justify | auto inter-word | inter-character
text-fit | none | grow
initial-letter | normal | 2
hyphenate-character | auto | "~"
ruby-align | space-around | center
ruby-overhang | auto | none
ruby-position | over | under
-webkit-ruby-position | before | after
margin-trim | none | block
field-sizing | fixed | content
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

// partly lists values that the layout does not follow of properties that it does.
var partly = map[string]func(value string) bool{
	"display": func(v string) bool {
		return strings.HasPrefix(v, "table") || v == "inline-table" || strings.Contains(v, "ruby") || strings.Contains(v, "math")
	},
	"content-visibility": func(v string) bool { return v == "auto" }, // what is far from the window is not laid out
	"text-transform":     func(v string) bool { return strings.Contains(v, "full-") || strings.HasPrefix(v, "math") },
	"list-style-type": func(v string) bool {
		return !knownCounterStyles[v] && !strings.HasPrefix(v, `"`) && !strings.HasPrefix(v, "'")
	},
	"white-space-collapse":  func(v string) bool { return v == "preserve-spaces" },
	"grid-row-start":        manyLines,
	"grid-row-end":          manyLines,
	"grid-column-start":     manyLines,
	"grid-column-end":       manyLines,
	"grid-template-columns": func(v string) bool { return strings.Contains(v, "repeat(") && manyRepeats(v) },
	"grid-template-rows":    func(v string) bool { return strings.Contains(v, "repeat(") && manyRepeats(v) },
}

func readReports(text string) map[string]report {
	out := map[string]report{}
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		f := strings.Split(line, " | ")
		out[f[0]] = report{harmless: strings.Fields(f[1]), sample: f[2]}
	}
	return out
}

// SupportOf tells which table a longhand is in.
func SupportOf(name string) Support {
	if _, ok := reportedTable[name]; ok {
		return Reported
	}
	if p, ok := propertyTable[name]; ok && !p.unused {
		return Modelled
	}
	if noEffect[name] || propertyTable[name] != nil {
		return NoEffect
	}
	if _, ok := shorthands[name]; ok {
		for _, l := range wideLonghands(name) { // as much as the most that it sets
			if s := SupportOf(l.name); s != NoEffect {
				return Modelled
			}
		}
		return NoEffect
	}
	return Unknown
}

// ReportedProperties lists the reported properties with a value of each that is reported, by name.
func ReportedProperties() (names []string, sample map[string]string) {
	sample = map[string]string{}
	for n, r := range reportedTable {
		names = append(names, n)
		sample[n] = r.sample
	}
	sort.Strings(names)
	return names, sample
}

// notFollowed gives the longhands of a declaration that the layout does not follow, with their values. A reported property with var()
// counts: what stands behind it may be anything.
func notFollowed(name string, value []Token) (out [][2]string) {
	list, ok := expand(name, value)
	if !ok || hasVar(value) || wideKeywords[ident(value)] {
		list = []longhand{{name, value}}
	}
	for _, l := range list {
		v := strings.ToLower(Text(l.value))
		if wideKeywords[v] || v == "" {
			continue
		}
		if r, ok := reportedTable[l.name]; ok && !contains(r.harmless, v) {
			out = append(out, [2]string{l.name, v})
		} else if f := partly[l.name]; f != nil && f(v) && !hasVar(l.value) {
			out = append(out, [2]string{l.name, v})
		}
	}
	return out
}
