package css

import (
	"sort"
	"strings"
)

// Every property that Chromium lists in a computed style is in exactly one of three tables: modelled (propertyTable,
// with the logical twins and legacy names in shorthands), without effect on boxes (noEffect), or reported where a
// page uses it (reportedTable).

// The tables. Shorthand means a name that stands for others.
const (
	Modelled Support = "modelled"
	NoEffect Support = "no effect on boxes"
	Reported Support = "reported"
	Unknown  Support = ""
)

// partly lists values that the layout does not follow of properties that it does.
var partly = map[string]func(value string) bool{
	"display": func(v string) bool {
		return strings.Contains(v, "ruby") || strings.Contains(v, "math") || v == "-webkit-inline-box" ||
			strings.Contains(v, "inline") && strings.Contains(v, "list-item")
	},
	"content": func(v string) bool {
		return strings.Contains(v, "gradient(") || strings.Contains(v, "image-set(")
	},
	"list-style-image": func(v string) bool {
		return strings.Contains(v, "gradient(") || strings.Contains(v, "image-set(")
	},
	"justify-self":   func(v string) bool { return v == "last baseline" },
	"justify-items":  func(v string) bool { return v == "last baseline" },
	"text-rendering": func(v string) bool { return v == "geometricprecision" },
	"unicode-bidi":   func(v string) bool { return v == "plaintext" },
	"perspective":    func(v string) bool { return v != "none" },
	"transform":      func(v string) bool { return strings.Contains(v, "perspective(") },
	"font": func(v string) bool {
		return contains([]string{"caption", "icon", "menu", "message-box", "small-caption", "status-bar"}, v)
	},
	"font-size":          func(v string) bool { return v == "math" },
	"appearance":         func(v string) bool { return v == "base-select" },
	"-webkit-appearance": func(v string) bool { return v == "base-select" },
	"shape-outside":      unmodelledShape,
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

// notFollowed gives the longhands of a declaration that the layout does not follow, with their values. A reported
// property with var() counts: what stands behind it may be anything.
func notFollowed(name string, value []Token) (out [][2]string) {
	if f := unfollowed(value); f != "" && SupportOf(name) != NoEffect {
		return [][2]string{{name, f}}
	}
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
