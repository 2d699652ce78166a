package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Shorthands of text, faces and lists.

func init() {
	for name, f := range map[string]func(v []Token) ([]longhand, bool){
		"font":         expandFont,
		"font-variant": expandFontVariant,
		"list-style":   expandListStyle,
		"text-box":     expandTextBox,
		"white-space":  expandWhiteSpace,
	} {
		shorthands[name] = f
	}
}

// expandTextBox takes text-box apart: normal, or where to trim and which edges to trim to; edges alone trim both sides
// (css-inline-3, section 6.3).
func expandTextBox(v []Token) ([]longhand, bool) {
	var trim, edges []Token
	for _, p := range split(v) {
		if _, ok := propertyTable["text-box-trim"].parse(p); ok && trim == nil {
			trim = p
		} else {
			if edges != nil {
				edges = append(edges, Token{Kind: css.WhitespaceToken, Text: " "})
			}
			edges = append(edges, p...)
		}
	}
	if ident(v) == "normal" {
		return []longhand{{"text-box-trim", nil}, {"text-box-edge", nil}}, true
	}
	if edges != nil {
		if _, ok := propertyTable["text-box-edge"].parse(edges); !ok {
			return nil, false
		}
		if trim == nil {
			trim = []Token{{Kind: css.IdentToken, Text: "trim-both"}}
		}
	}
	return []longhand{{"text-box-trim", trim}, {"text-box-edge", edges}}, true
}

func expandWhiteSpace(v []Token) ([]longhand, bool) {
	w, ok := map[string][2]string{"normal": {"collapse", "wrap"}, "nowrap": {"collapse", "nowrap"},
		"pre": {"preserve", "nowrap"}, "pre-wrap": {"preserve", "wrap"},
		"pre-line": {"preserve-breaks", "wrap"}, "break-spaces": {"break-spaces", "wrap"}}[ident(v)]
	if !ok {
		return byParse("white-space-collapse", "text-wrap-mode")(v)
	}
	return []longhand{{"white-space-collapse", word(w[0])}, {"text-wrap-mode", word(w[1])}}, true
}

// expandFontVariant sorts the words of font-variant into its longhands.
func expandFontVariant(v []Token) ([]longhand, bool) {
	groups := map[string][]string{}
	for _, p := range split(v) {
		w := strings.ToLower(Text(p))
		name := "font-variant-alternates"
		switch w {
		case "normal":
			continue
		case "none":
			name = "font-variant-ligatures"
		case "small-caps", "all-small-caps", "petite-caps", "all-petite-caps", "unicase", "titling-caps":
			name = "font-variant-caps"
		case "sub", "super":
			name = "font-variant-position"
		case "text", "emoji", "unicode":
			name = "font-variant-emoji"
		case "ruby", "jis78", "jis83", "jis90", "jis04", "simplified", "traditional", "full-width",
			"proportional-width":
			name = "font-variant-east-asian"
		}
		if strings.Contains(w, "ligatures") || strings.Contains(w, "contextual") {
			name = "font-variant-ligatures"
		}
		if strings.HasSuffix(w, "-nums") || strings.HasSuffix(w, "fractions") || w == "ordinal" ||
			w == "slashed-zero" {
			name = "font-variant-numeric"
		}
		groups[name] = append(groups[name], w)
	}
	var out []longhand
	for _, n := range []string{"caps", "numeric", "ligatures", "position", "emoji", "east-asian", "alternates"} {
		name := "font-variant-" + n
		value := word("normal")
		if g := groups[name]; len(g) > 0 {
			value = Tokenize(strings.Join(g, " "))
		}
		out = append(out, longhand{name, value})
	}
	return out, len(v) > 0
}

func expandListStyle(v []Token) ([]longhand, bool) {
	kind, place, image, typed := word("disc"), word("outside"), word("none"), false
	for _, p := range split(v) {
		switch w := ident(p); {
		case w == "inside" || w == "outside":
			place = p
		case w == "" && p[0].Kind != css.StringToken:
			image = p
		case w == "none" && typed: // of the picture
		case w == "none":
			kind = p
		default:
			kind, typed = p, true
		}
	}
	return []longhand{{"list-style-type", kind}, {"list-style-position", place}, {"list-style-image", image}}, true
}

// fontResets are what the font shorthand puts back (css-fonts-4, "Shorthand font property").
var fontResets = strings.Fields(`font-variant-caps font-variant-numeric font-variant-ligatures
	font-variant-position font-variant-emoji font-variant-east-asian font-variant-alternates font-kerning
	font-feature-settings font-variation-settings font-optical-sizing font-size-adjust font-language-override`)

func expandFont(v []Token) ([]longhand, bool) {
	pieces := split(v)
	out := map[string][]Token{}
	i := 0
	for ; i < len(pieces); i++ {
		p := pieces[i]
		if ident(p) == "normal" {
			continue
		}
		if ident(p) == "small-caps" {
			out["font-variant-caps"] = p
			continue
		}
		found := false
		for _, n := range []string{"font-style", "font-weight", "font-stretch"} {
			if _, ok := propertyTable[n].parse(p); ok && (n != "font-stretch" || p[0].Kind == css.IdentToken) {
				out[n], found = p, true
				break
			}
		}
		if !found {
			break
		}
	}
	if i >= len(pieces)-1 {
		return nil, false
	}
	out["font-size"] = pieces[i]
	i++
	if i+1 < len(pieces) && pieces[i][0].Text == "/" {
		out["line-height"] = pieces[i+1]
		i += 2
	}
	var family []Token
	for _, p := range pieces[i:] {
		family = append(append(family, p...), Token{Kind: css.WhitespaceToken, Text: " "})
	}
	out["font-family"] = trim(family)
	var list []longhand
	for _, n := range append([]string{"font-style", "font-weight", "font-stretch", "font-size", "line-height",
		"font-family"}, fontResets...) {
		list = append(list, longhand{n, out[n]})
	}
	return list, len(out["font-family"]) > 0
}
