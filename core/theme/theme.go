// Package theme reads design tokens in the DTCG format (W3C Design Tokens Community Group, format module) and writes
// them as custom properties. Token names are roles: color.ink, type.display, space.section. Colors come in tones; a
// tone binds every color role.
package theme

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"unicode"

	"ziegel/core/diag"
	"ziegel/core/former"
)

// Token is one resolved token.
type Token struct {
	Name  string // dotted: type.display
	Type  string
	Value string // as CSS
	Dark  string // as CSS in the dark scheme, "" when the same
	Hex   string // of a color
}

// Theme is a set of tokens.
type Theme struct {
	Former      []string // files that call something as an earlier version did
	Name        string
	Description string
	Tokens      []Token // by name

	sources [2][]byte // theme.tokens.json, and that of dark screens
}

// Token finds a token; color.ink and its like stand for the color of whatever tone is in force.
func (t *Theme) Token(name string) (Token, bool) {
	i := sort.Search(len(t.Tokens), func(i int) bool { return t.Tokens[i].Name >= name })
	if i < len(t.Tokens) && t.Tokens[i].Name == name {
		return t.Tokens[i], true
	}
	if role, ok := strings.CutPrefix(name, "color."); ok {
		for _, r := range Roles {
			if r == role {
				return Token{Name: name, Type: "color", Value: "var(--" + r + ")"}, true
			}
		}
	}
	return Token{}, false
}

// Names lists all token names that can be written in braces.
func (t *Theme) Names() []string {
	var out []string
	for _, r := range Roles {
		out = append(out, "color."+r)
	}
	for _, k := range t.Tokens {
		out = append(out, k.Name)
	}
	return out
}

// Reference gives the CSS that stands for a token.
func (t *Theme) Reference(name string) (string, bool) {
	k, ok := t.Token(name)
	if !ok {
		return "", false
	}
	if strings.HasPrefix(k.Value, "var(") {
		return k.Value, true
	}
	return "var(" + Property(name) + ")", true
}

// Property gives the custom property that a token is written as. Whatever CSS would not read as part of a name
// becomes a hyphen.
func Property(token string) string {
	return "--" + strings.Map(func(r rune) rune {
		plain := r == '_' || r >= 0x80 && unicode.IsPrint(r) || r < 0x80 && (unicode.IsLetter(r) || unicode.IsDigit(r))
		if plain {
			return r
		}
		return '-'
	}, token)
}

// Load reads theme.tokens.json, and theme.dark.tokens.json beside it if there is one, from a folder.
func Load(name string, fsys fs.FS, dir string) (*Theme, error) {
	light, about, err := readTokens(fsys, path.Join(dir, "theme.tokens.json"))
	if err != nil {
		return nil, err
	}
	dark, _, err := readTokens(fsys, path.Join(dir, "theme.dark.tokens.json"))
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	t := &Theme{Name: name, Description: about}
	for i, file := range []string{"theme.tokens.json", "theme.dark.tokens.json"} {
		t.sources[i], _ = fs.ReadFile(fsys, path.Join(dir, file))
		if !bytes.Equal(t.sources[i], former.Tokens(t.sources[i])) {
			t.Former = append(t.Former, file)
		}
	}
	for n, k := range light {
		if d, ok := dark[n]; ok && d.Value != k.Value {
			k.Dark = d.Value
		}
		t.Tokens = append(t.Tokens, k)
	}
	sort.Slice(t.Tokens, func(i, j int) bool { return t.Tokens[i].Name < t.Tokens[j].Name })
	for _, tone := range Tones {
		for _, r := range Roles {
			if _, ok := t.Token("color." + tone + "." + r); !ok {
				return nil, fmt.Errorf("%s: the theme has no token color.%s.%s; every tone needs %s",
					path.Join(dir, "theme.tokens.json"), tone, r, strings.Join(Roles, ", "))
			}
		}
	}
	return t, nil
}

func readTokens(fsys fs.FS, file string) (map[string]Token, string, error) {
	data, err := fs.ReadFile(fsys, file)
	if err != nil {
		return nil, "", fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	data = former.Tokens(data)
	if err := checkDepth(file, data); err != nil {
		return nil, "", err
	}
	var root map[string]json.RawMessage
	if err := json.Unmarshal(data, &root); err != nil {
		return nil, "", fmt.Errorf("%s: %w", position(file, data, err), plainly(err))
	}
	raw := map[string]rawToken{}
	if err := collect(raw, "", "", root); err != nil {
		return nil, "", placed(file, data, err)
	}
	out, properties := map[string]Token{}, map[string]string{}
	for _, name := range slices.Sorted(maps.Keys(raw)) {
		k, err := resolve(raw, name, nil)
		if errors.Is(err, errUnknownType) {
			continue // it stays in the file, for other programs
		}
		if err == nil && properties[Property(name)] != "" {
			err = fmt.Errorf("the tokens %s and %s both become %s: name one of them otherwise",
				properties[Property(name)], name, Property(name))
		}
		if err != nil {
			return nil, "", fmt.Errorf("%s: %w", lineOf(file, data, name), err)
		}
		out[name], properties[Property(name)] = k, name
	}
	var about string
	_ = json.Unmarshal(root["$description"], &about)
	return out, about, nil
}

// mostDeep is how deep groups of tokens may be nested. Reading takes a multiple of the depth times the size, and
// nobody finds a token deeper.
const mostDeep = 32

// checkDepth refuses a token file that is nested deeper, before it is read.
func checkDepth(file string, data []byte) error {
	depth, quoted := 0, false
	for i := 0; i < len(data); i++ {
		switch c := data[i]; {
		case quoted && c == '\\':
			i++
		case c == '"':
			quoted = !quoted
		case quoted:
		case c == '{' || c == '[':
			if depth++; depth > mostDeep {
				before := data[:i]
				return fmt.Errorf("%s:%d:%d: tokens are nested over %d deep, which is the most", file,
					bytes.Count(before, []byte("\n"))+1, i-bytes.LastIndexByte(before, '\n'), mostDeep)
			}
		case c == '}' || c == ']':
			depth--
		}
	}
	return nil
}

// lineOf gives a token file with the line and column of a token in it.
func lineOf(file string, data []byte, name string) string {
	at := tokenOffset(data, name)
	if at < 0 {
		return file
	}
	return fmt.Sprintf("%s:%d:%d", file, bytes.Count(data[:at], []byte("\n"))+1,
		at-bytes.LastIndexByte(data[:at], '\n'))
}

// plainly words an error of JSON for people who know tokens and not the program.
func plainly(err error) error {
	var typ *json.UnmarshalTypeError
	if errors.As(err, &typ) {
		return fmt.Errorf("a token file is an object of groups and tokens, and this is a JSON %s", typ.Value)
	}
	return err
}

// position adds line and column to a JSON error.
func position(file string, data []byte, err error) string {
	var at int64 = -1
	var syn *json.SyntaxError
	var typ *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syn):
		at = syn.Offset
	case errors.As(err, &typ):
		at = typ.Offset
	}
	if at < 0 || int(at) > len(data) {
		return file
	}
	before := string(data[:at])
	line := strings.Count(before, "\n") + 1
	return fmt.Sprintf("%s:%d:%d", file, line, len(before)-strings.LastIndexByte(before, '\n'))
}

// tokenOffset finds the byte at which a token's name stands in a token file, -1 when it is not there.
func tokenOffset(source []byte, name string) int {
	d := json.NewDecoder(bytes.NewReader(source))
	at := -1
	for _, step := range strings.Split(name, ".") {
		if t, err := d.Token(); err != nil || t != json.Delim('{') {
			return -1
		}
		if at = member(d, source, step); at < 0 {
			return -1
		}
	}
	return at
}

// member reads an object up to a name in it, and gives the byte at which that stands.
func member(d *json.Decoder, source []byte, name string) int {
	for d.More() {
		t, err := d.Token()
		if err != nil {
			return -1
		}
		if t == name {
			return bytes.LastIndexByte(source[:d.InputOffset()-1], '"')
		}
		var other json.RawMessage
		if d.Decode(&other) != nil {
			return -1
		}
	}
	return -1
}

// alias gives the token that a token stands for, "" when it has a value of its own.
func (k rawToken) alias() string {
	var s string
	if !bytes.HasPrefix(bytes.TrimSpace(k.value), []byte(`"`)) || json.Unmarshal(k.value, &s) != nil ||
		!strings.HasPrefix(s, "{") || !strings.HasSuffix(s, "}") {
		return ""
	}
	return s[1 : len(s)-1]
}

// notToken is something in a token file that is none.
type notToken struct{ name, what string }

func (n *notToken) Error() string { return n.name + " " + n.what }

// placed gives an error of collect its line.
func placed(file string, data []byte, err error) error {
	var n *notToken
	if errors.As(err, &n) {
		file = lineOf(file, data, n.name)
	}
	return fmt.Errorf("%s: %w", file, err)
}

func collect(out map[string]rawToken, prefix, kind string, group map[string]json.RawMessage) error {
	if t, ok := group["$type"]; ok {
		if err := json.Unmarshal(t, &kind); err != nil {
			return &notToken{prefix, "has a $type that is not a text"}
		}
	}
	if v, ok := group["$value"]; ok {
		k := rawToken{kind: kind, value: v}
		var ext struct {
			Ziegel struct {
				Phone json.RawMessage `json:"phone"`
			} `json:"ziegel"`
		}
		if e, ok := group["$extensions"]; ok {
			_ = json.Unmarshal(e, &ext)
			k.phone = ext.Ziegel.Phone
		}
		out[prefix] = k
		return nil
	}
	for name, raw := range group {
		if strings.HasPrefix(name, "$") {
			continue
		}
		var inner map[string]json.RawMessage
		full := strings.TrimPrefix(prefix+"."+name, ".")
		if err := json.Unmarshal(raw, &inner); err != nil {
			return &notToken{full, "is neither a token nor a group of tokens"}
		}
		if err := collect(out, full, kind, inner); err != nil {
			return err
		}
	}
	return nil
}

func resolve(all map[string]rawToken, name string, trail []string) (Token, error) {
	k, ok := all[name]
	if !ok {
		return Token{}, fmt.Errorf("the token %s refers to %s, which does not exist",
			strings.Join(trail, " and "), name)
	}
	for _, t := range trail {
		if t == name {
			return Token{}, fmt.Errorf("the token %s refers to itself", name)
		}
	}
	if alias := k.alias(); alias != "" {
		t, err := resolve(all, alias, append(trail, name))
		t.Name = name
		return t, err
	}
	value, hex, err := cssValue(k)
	if errors.Is(err, errUnknownType) {
		return Token{}, err
	}
	if err != nil {
		return Token{}, fmt.Errorf("the token %s: %w", name, err)
	}
	if k.kind == "dimension" && (strings.HasPrefix(name, "type.") || strings.HasPrefix(name, "space.")) {
		value = capped(value)
	}
	return Token{Name: name, Type: k.kind, Value: value, Hex: hex}, nil
}

// Fluid writes a length that grows evenly with the screen between low and high, both in the same unit (rem or px).
func Fluid(low, high float64, unit string) string {
	if low == high {
		return dimension{low, unit}.String()
	}
	return fluid(dimension{low, unit}, dimension{high, unit})
}

// narrowest is the screen, CSS px, on which larger browser text may no longer grow sizes and spaces beyond their share
// of the screen.
const narrowest = 236

var leastOf = regexp.MustCompile(`^clamp\(([0-9.]+)rem\b`)

// capped keeps type and space that grow with the screen from pushing words off narrow screens when the browser's text
// is set larger: at most the share of the screen that they have at 236 px with text of the usual size. Reading text
// grows freely.
func capped(value string) string {
	m := leastOf.FindStringSubmatch(value)
	if m == nil {
		return value
	}
	rem, err := strconv.ParseFloat(m[1], 64)
	if err != nil || rem < 1.9 {
		return value
	}
	return fmt.Sprintf("min(%s, %svw)", value, number(float64(int(rem*16/narrowest*10000+.5))/100))
}

// CSS writes the tokens as custom properties, the tones as classes, and the dark scheme after them.
func (t *Theme) CSS() string { return t.written(t.Kept()) }

// Kept is the scheme that pages keep for everybody, dark or light; "" when readers choose.
func (t *Theme) Kept() string {
	if k, ok := t.Token(TreatmentGroup + Scheme); ok && (k.Value == "dark" || k.Value == "light") {
		return k.Value
	}
	return ""
}

// written writes them for the schemes that a site keeps: dark or light alone, else both.
func (t *Theme) written(kept string) string {
	var b strings.Builder
	dark := false
	b.WriteString("  :root {\n    color-scheme: light dark;\n")
	for _, k := range t.Tokens {
		if k.Type == Treatment {
			continue
		}
		if kept == "dark" && k.Dark != "" {
			k.Value = k.Dark
		}
		fmt.Fprintf(&b, "    %s: %s;\n", Property(k.Name), k.Value)
		dark = dark || k.Dark != ""
	}
	b.WriteString("  }\n\n")
	switch {
	case kept == "dark":
		return strings.Replace(b.String(), "light dark", "dark", 1) + t.tones()
	case dark && kept != "light":
		b.WriteString("  @media (prefers-color-scheme: dark) {\n    :root {\n")
		for _, k := range t.Tokens {
			if k.Dark != "" {
				fmt.Fprintf(&b, "      %s: %s;\n", Property(k.Name), k.Dark)
			}
		}
		b.WriteString("    }\n  }\n\n")
	default:
		return strings.Replace(b.String(), "light dark", "light", 1) + t.tones()
	}
	return b.String() + t.tones()
}

// Declarations writes the tokens as custom properties of one selector, without its tones.
func (t *Theme) Declarations(selector string) string {
	css := strings.ReplaceAll(t.CSS(), ":root", selector)
	return strings.TrimRight(strings.TrimSuffix(css, t.tones()), "\n") + "\n"
}

func (t *Theme) tones() string {
	var b strings.Builder
	for _, tone := range Tones {
		sel := ".tone-" + tone
		if tone == "plain" {
			sel = "body, " + sel
		}
		fmt.Fprintf(&b, "  %s {", sel)
		for _, r := range Roles {
			fmt.Fprintf(&b, " --%s: var(--color-%s-%s);", r, tone, r)
		}
		b.WriteString(" }\n")
	}
	return b.String()
}

// Families lists the font families that the theme's face tokens name first.
func (t *Theme) Families() []string {
	var out []string
	for _, k := range t.Tokens {
		if k.Type == "fontFamily" {
			first := strings.Trim(strings.SplitN(k.Value, ",", 2)[0], `" `)
			out = append(out, first)
		}
	}
	return out
}

// Sources gives the files that a theme was read from: theme.tokens.json, and theme.dark.tokens.json, nil when there is
// none.
func (t *Theme) Sources() [2][]byte { return t.sources }
