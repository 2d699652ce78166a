// Package former knows what earlier versions called otherwise, so that the files of a site that they have written are
// read as they were meant.
package former

import (
	"regexp"
	"slices"
	"strings"
)

// Themes are shipped themes that have other names now.
var Themes = map[string]string{"saltwind": "marram", "nightwatch": "lamplight"}

// Templates are shipped templates that have other names now.
var Templates = map[string]string{"launch": "debut", "local": "corner-shop"}

// Looks are shipped shared looks that have other names now.
var Looks = map[string]string{"typed": "spelled"}

// Icons are shipped icons that are gone, by those that stand for them now.
var Icons = map[string]string{"pocket": "bag", "component": "box-iso", "frame": "collage-frame",
	"frame-simple": "media-image"}

// Keys are keys of the site's file that have other names now.
var Keys = map[string]string{"styles": "looks"}

// parts are parts of shipped sections that have other names now.
var parts = map[string]map[string]string{
	"hero/beside":   {"split": "halves"},
	"piece/picture": {"frame": "figure"},
	"layout/side":   {"frame": "pair"},
}

// fields are fields of shipped sections that have other names now.
var fields = map[string]map[string]string{
	"pricing/plans":   {"emphasis": "raised"},
	"pricing/compare": {"emphasis": "raised"},
}

// Part gives the name that a part of a section has now.
func Part(section, part string) (string, bool) { now, ok := parts[section][part]; return now, ok }

// Field gives the name that a field of a section, or of its entries, has now.
func Field(section, field string) (string, bool) { now, ok := fields[section][field]; return now, ok }

// Before lists the names that a key of a site's files had: that of a list of looks, of a field, or of a part in a
// style, with what stands behind it (halves at phone).
func Before(key string) []string {
	var out []string
	add := func(list map[string]string) {
		for old, now := range list {
			rest, ok := strings.CutPrefix(key, now)
			if ok && (rest == "" || strings.ContainsRune(" [:", rune(rest[0]))) && !slices.Contains(out, old+rest) {
				out = append(out, old+rest)
			}
		}
	}
	add(Keys)
	for _, list := range parts {
		add(list)
	}
	for _, list := range fields {
		add(list)
	}
	slices.Sort(out)
	return out
}

// words are parts of the names of tokens and custom properties.
var words = []struct {
	find *regexp.Regexp
	put  string
	has  string // what stands in every text that find finds
}{
	{regexp.MustCompile(`\{leading\.`), "{line-height.", "{leading."},
	{regexp.MustCompile(`\{tracking\.`), "{letter-spacing.", "{tracking."},
	{regexp.MustCompile(`(\{color\.(?:[a-z]+\.)?)on-accent\}`), "${1}accent-ink}", "on-accent}"},
	{regexp.MustCompile(`--leading-`), "--line-height-", "--leading-"},
	{regexp.MustCompile(`--tracking-`), "--letter-spacing-", "--tracking-"},
	{regexp.MustCompile(`--on-accent\b`), "--accent-ink", "--on-accent"},
	{regexp.MustCompile(`--split-(left|right)\b`), "--half-$1", "--split-"},
}

// Text gives a value, or a stylesheet, with tokens and custom properties called as they are now.
func Text(s string) string {
	for _, w := range words {
		if !strings.Contains(s, w.has) {
			continue
		}
		s = w.find.ReplaceAllString(s, w.put)
	}
	return s
}

// Token gives the name that a token has now.
func Token(name string) string {
	return strings.TrimSuffix(strings.TrimPrefix(Text("{"+name+"}"), "{"), "}")
}

var tokenKeys = []struct {
	find *regexp.Regexp
	put  string
}{
	{regexp.MustCompile(`"leading"(\s*:)`), `"line-height"$1`},
	{regexp.MustCompile(`"tracking"(\s*:)`), `"letter-spacing"$1`},
	{regexp.MustCompile(`"on-accent"(\s*:)`), `"accent-ink"$1`},
}

// Tokens gives a file of design tokens with its groups called as they are now. Lines stay lines.
func Tokens(data []byte) []byte {
	for _, k := range tokenKeys {
		data = k.find.ReplaceAll(data, []byte(k.put))
	}
	return []byte(Text(string(data)))
}

var (
	classAttr    = regexp.MustCompile(`class="[^"]*"`)
	sharedClass  = regexp.MustCompile(`(^|[\s"])(split|framed)($|[\s"])`)
	sharedInCSS  = regexp.MustCompile(`\.(split|framed)\b`)
	sharedBefore = map[string]string{"split": "halves", "framed": "soft-corners"}
)

// HTML gives the HTML of a section with shared classes called as they are now.
func HTML(s string) string {
	return classAttr.ReplaceAllStringFunc(s, func(attr string) string {
		return sharedClass.ReplaceAllStringFunc(attr, func(m string) string {
			name := sharedClass.FindStringSubmatch(m)
			return name[1] + sharedBefore[name[2]] + name[3]
		})
	})
}

// CSS gives the stylesheet of a section with shared classes and custom properties called as they are now.
func CSS(s string) string {
	return Text(sharedInCSS.ReplaceAllStringFunc(s, func(m string) string { return "." + sharedBefore[m[1:]] }))
}
