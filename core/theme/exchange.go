package theme

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/lucasb-eyer/go-colorful"

	"ziegel/core/diag"
	"ziegel/core/former"
)

// Decode reads a token file that comes from elsewhere. A mistake is told with line and column, a value that is none
// of its type as well; tokens that speak of others may speak of those that are not in the file.
func Decode(file string, data []byte, into *map[string]any) error {
	if err := checkDepth(file, data); err != nil {
		return err
	}
	data = former.Tokens(data)
	if err := json.Unmarshal(data, into); err != nil {
		return fmt.Errorf("%s: %w", position(file, data, err), plainly(err))
	}
	var root map[string]json.RawMessage
	if err := json.Unmarshal(data, &root); err != nil {
		return fmt.Errorf("%s: %w", position(file, data, err), err)
	}
	raw := map[string]rawToken{}
	if err := collect(raw, "", "", root); err != nil {
		return placed(file, data, err)
	}
	for _, name := range slices.Sorted(maps.Keys(raw)) {
		k := raw[name]
		if k.alias() != "" || k.kind == "" {
			continue
		}
		if _, _, err := cssValue(k); err != nil && !errors.Is(err, errUnknownType) {
			return fmt.Errorf("%s: the token %s: %w", lineOf(file, data, name), name, err)
		}
	}
	return nil
}

// Taken says what a merge did with the tokens of another file.
type Taken struct {
	Changed []string // tokens of the theme that have another value now
	Same    int
	Added   []string // tokens that the theme did not have
}

// Merge puts the tokens of another DTCG file into one, both as JSON. Members that nobody knows come along and stay.
func Merge(into, from map[string]any) (Taken, error) {
	var t Taken
	return t, t.merge(into, from, "", "", "")
}

func (t *Taken) merge(into, from map[string]any, at, kindInto, kindFrom string) error {
	if k, ok := into["$type"].(string); ok {
		kindInto = k
	}
	if k, ok := from["$type"].(string); ok {
		kindFrom = k
	}
	for _, name := range sortedKeys(from) {
		v := from[name]
		if strings.HasPrefix(name, "$") {
			if _, there := into[name]; !there && name != "$type" {
				into[name] = v
			}
			continue
		}
		full := strings.TrimPrefix(at+"."+name, ".")
		group, ok := v.(map[string]any)
		if !ok {
			return fmt.Errorf("%s is neither a token nor a group of tokens", full)
		}
		old, there := into[name].(map[string]any)
		if _, token := group["$value"]; token {
			if there && old["$value"] == nil && len(old) > 0 {
				return fmt.Errorf("%s is a token there and a group of tokens here", full)
			}
			inherited := kindFrom
			if kindFrom == kindInto {
				inherited = ""
			}
			into[name] = t.token(old, group, full, inherited)
			continue
		}
		if there && old["$value"] != nil {
			return fmt.Errorf("%s is a group of tokens there and a token here", full)
		}
		if !there {
			old = map[string]any{}
			into[name] = old
		}
		if err := t.merge(old, group, full, kindInto, kindFrom); err != nil {
			return err
		}
		if len(old) == 0 {
			delete(into, name)
		}
	}
	return nil
}

// token gives one token as it is once it was taken over; old is the token that was there, nil for none, and kind the
// type that it inherits where it comes from, "" when that is the same here.
func (t *Taken) token(old, token map[string]any, full, kind string) map[string]any {
	out := map[string]any{}
	for k, v := range old {
		out[k] = v
	}
	for k, v := range token {
		out[k] = v
	}
	if ext, ok := token["$extensions"].(map[string]any); !ok || ext["ziegel"] == nil { // one value for all widths
		if mine, ok := old["$extensions"].(map[string]any); ok {
			kept := map[string]any{}
			for k, v := range mine {
				if k != "ziegel" {
					kept[k] = v
				}
			}
			for k, v := range ext {
				kept[k] = v
			}
			if delete(out, "$extensions"); len(kept) > 0 {
				out["$extensions"] = kept
			}
		}
	}
	if _, typed := out["$type"]; !typed && kind != "" {
		out["$type"] = kind
	}
	switch {
	case old == nil:
		t.Added = append(t.Added, full)
	case sameJSON(old, out):
		t.Same++
	default:
		t.Changed = append(t.Changed, full)
	}
	return out
}

func sameJSON(a, b any) bool {
	x, err1 := json.Marshal(a)
	y, err2 := json.Marshal(b)
	return err1 == nil && err2 == nil && string(x) == string(y)
}

func sortedKeys(m map[string]any) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

var (
	property   = regexp.MustCompile(`(?s)--([A-Za-z0-9_-]+)\s*:\s*([^;{}]+)[;}]`)
	darkQuery  = regexp.MustCompile(`(?s)@media[^{]*prefers-color-scheme:\s*dark[^{]*\{`)
	cssComment = regexp.MustCompile(`(?s)/\*.*?\*/`)
	fluidForm  = regexp.MustCompile(`^(?:min\()?clamp\(\s*([0-9.]+)(rem|px)\s*,.*,\s*([0-9.]+)(rem|px)\s*\)(?:,[^()]*\))?$`)
	shortHex   = regexp.MustCompile(`^#([0-9a-fA-F])([0-9a-fA-F])([0-9a-fA-F])$`)
	numberForm = regexp.MustCompile(`^-?[0-9]*\.?[0-9]+$`)
)

// FromCSS reads plain custom properties as tokens, those for dark screens apart. A property that the theme writes
// itself keeps its token; of others the hyphens stay in the name. What says what the theme says already is left out
// and counted; what no token can say is listed.
func (t *Theme) FromCSS(source string) (light, dark map[string]any, same int, left []string) {
	light, dark = map[string]any{}, map[string]any{}
	take := func(into map[string]any, source string, isDark bool) {
		n, l := t.properties(into, source, isDark)
		same, left = same+n, append(left, l...)
	}
	source = cssComment.ReplaceAllString(source, "")
	rest := source
	for {
		at := darkQuery.FindStringIndex(rest)
		if at == nil {
			take(light, rest, false)
			return light, dark, same, left
		}
		end, depth := at[1], 1
		for ; end < len(rest) && depth > 0; end++ {
			switch rest[end] {
			case '{':
				depth++
			case '}':
				depth--
			}
		}
		take(light, rest[:at[0]], false)
		take(dark, rest[at[1]:end], true)
		rest = rest[end:]
	}
}

func (t *Theme) properties(into map[string]any, source string, dark bool) (same int, left []string) {
	names := map[string]Token{}
	for _, k := range t.Tokens {
		names[strings.TrimPrefix(Property(k.Name), "--")] = k
	}
	for _, m := range property.FindAllStringSubmatch(source, -1) {
		name, value := m[1], strings.TrimSpace(m[2])
		if slices.Contains(Roles, name) && strings.HasPrefix(value, "var(") {
			continue // what a tone binds
		}
		own, known := names[name]
		unchanged := known && (!dark && value == own.Value || dark && value == own.Dark)
		if unchanged {
			same++
			continue
		}
		token, kind, err := tokenOf(value, own.Type)
		if err != nil {
			left = append(left, fmt.Sprintf("--%s: %s (%v)", name, value, err))
			continue
		}
		steps := []string{name}
		if known {
			steps = strings.Split(own.Name, ".")
		}
		at := into
		for _, s := range steps[:len(steps)-1] {
			next, ok := at[s].(map[string]any)
			if !ok {
				next = map[string]any{}
				at[s] = next
			}
			at = next
		}
		if !known {
			token["$type"] = kind
		}
		at[steps[len(steps)-1]] = token
	}
	return same, left
}

// tokenOf reads a CSS value as a token; kind is its type if that is known.
func tokenOf(value, kind string) (token map[string]any, _ string, err error) {
	give := func(kind string, v any) (map[string]any, string, error) {
		return map[string]any{"$value": v}, kind, nil
	}
	lower := strings.ToLower(value)
	if m := shortHex.FindStringSubmatch(lower); m != nil {
		lower = "#" + m[1] + m[1] + m[2] + m[2] + m[3] + m[3]
	}
	switch {
	case hexForm.MatchString(lower):
		return give("color", ColorValue(lower))
	case lengthForm.MatchString(lower):
		m := lengthForm.FindStringSubmatch(lower)
		n, _ := strconv.ParseFloat(m[1], 64)
		k := "dimension"
		if m[2] == "s" || m[2] == "ms" {
			k = "duration"
		}
		return give(k, map[string]any{"value": n, "unit": m[2]})
	case fluidForm.MatchString(lower):
		m := fluidForm.FindStringSubmatch(lower)
		low, _ := strconv.ParseFloat(m[1], 64)
		high, _ := strconv.ParseFloat(m[3], 64)
		token, _, _ := give("dimension", map[string]any{"value": high, "unit": m[4]})
		token["$extensions"] = map[string]any{"ziegel": map[string]any{"phone": map[string]any{"value": low,
			"unit": m[2]}}}
		return token, "dimension", nil
	case strings.HasPrefix(lower, "min(") && strings.Contains(lower, ","): // a space that is capped on narrow screens
		return tokenOf(strings.TrimSpace(lower[4:strings.LastIndex(lower, ",")]), kind)
	case kind == "fontFamily", kind == "" && (strings.HasSuffix(lower, "serif") ||
		strings.HasSuffix(lower, "monospace")):
		var list []string
		for _, f := range strings.Split(value, ",") {
			if f = strings.Trim(strings.TrimSpace(f), `"'`); !strings.HasSuffix(f, StandIn) {
				list = append(list, f)
			}
		}
		return give("fontFamily", list)
	case numberForm.MatchString(lower):
		n, _ := strconv.ParseFloat(lower, 64)
		if kind == "" {
			kind = "number"
		}
		return give(kind, n)
	}
	return nil, "", fmt.Errorf("not a color as #rrggbb, a length, a time, a number or a list of fonts")
}

// StandIn is what the names of fonts end with that stand in until a font file has come.
const StandIn = " stand-in"

// Stylesheet writes the theme as plain custom properties: the tokens, those for dark screens, and the tones as
// classes.
func (t *Theme) Stylesheet() string {
	lines := strings.Split(t.written(""), "\n")
	for i, l := range lines {
		lines[i] = strings.TrimPrefix(l, "  ")
	}
	return strings.TrimRight(strings.Join(lines, "\n"), "\n") + "\n"
}

// hues are words that name a color by how it looks.
var hues = []string{"red", "orange", "yellow", "green", "blue", "indigo", "violet", "purple", "pink", "brown",
	"black", "white", "grey", "gray", "teal", "cyan", "magenta", "navy", "turquoise", "lime", "olive", "maroon",
	"gold", "beige", "crimson", "amber", "coral"}

// HueNamed lists the color tokens that are named by a hue, with the role that each could be called by.
func (t *Theme) HueNamed() (names, roles []string) {
	for _, k := range t.Tokens {
		if k.Type != "color" {
			continue
		}
		words := strings.FieldsFunc(strings.ToLower(k.Name[strings.LastIndexByte(k.Name, '.')+1:]),
			func(r rune) bool { return r == '-' || r == '_' || r >= '0' && r <= '9' })
		if !slices.ContainsFunc(words, func(w string) bool { return slices.Contains(hues, w) }) {
			continue
		}
		names, roles = append(names, k.Name), append(roles, t.roleOf(k))
	}
	return names, roles
}

// roleOf finds the role whose color is nearest to a token's, in the plain tone.
func (t *Theme) roleOf(k Token) string {
	best, least := "accent", 0.0
	for _, r := range []string{"accent", "ink", "soft", "line", "surface", "ground"} {
		own, _ := t.Token("color.plain." + r)
		if d := distance(k.Value, own.Value); r == "accent" || d < least {
			best, least = r, d
		}
	}
	return best
}

// distance tells how far two colors are apart, as eyes see it (CIEDE2000); colors that are not written as #rrggbb are
// far from all.
func distance(a, b string) float64 {
	x, err1 := colorful.Hex(a)
	y, err2 := colorful.Hex(b)
	if err1 != nil || err2 != nil {
		return 10
	}
	return x.DistanceCIEDE2000(y)
}

// Notes tells what could be better in a site's own theme: texts that cannot be read, names that will not last.
func (t *Theme) Notes(file string) diag.Problems {
	out := t.pairNotes(file)
	names, roles := t.HueNamed()
	for i, n := range names {
		out = append(out, diag.Problem{Position: diag.Position{File: file}, Severity: diag.Note, Rule: "hue-name",
			Text:     fmt.Sprintf("the token %s is named by its hue: when the brand changes its color, the name is wrong", n),
			Expected: "a name that says what it is for", Try: n[:strings.LastIndexByte(n, '.')+1] + roles[i]})
	}
	return out
}
