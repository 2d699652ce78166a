package css

import (
	_ "embed"
	"slices"
	"strings"

	"github.com/tdewolff/parse/v2/css"
	"golang.org/x/net/html"
)

// quirksSource is what browsers add to their own styles for old documents (HTML, chapter 15).
//
//go:embed quirks.css
var quirksSource string

// mode tells how a document type has a page laid out: as old browsers did in many ways (quirks), in the height of
// lines only (limited), or as the standards say (HTML, 13.2.6.4.1). nil is a page without one.
func mode(doctype *html.Node) (quirks, limited bool) {
	if doctype == nil || !strings.EqualFold(doctype.Data, "html") {
		return true, false
	}
	public, system, hasSystem := "", "", false
	for _, a := range doctype.Attr {
		switch a.Key {
		case "public":
			public = strings.ToLower(a.Val)
		case "system":
			system, hasSystem = strings.ToLower(a.Val), true
		}
	}
	old := slices.Contains(
		[]string{"-//w3o//dtd w3 html strict 3.0//en//", "-/w3c/dtd html 4.0 transitional/en", "html"},
		public,
	)
	begins := func(list string) bool {
		return slices.ContainsFunc(
			strings.Split(list, "\n"),
			func(p string) bool { return strings.HasPrefix(public, p) },
		)
	}
	in401 := begins("-//w3c//dtd html 4.01 frameset//\n-//w3c//dtd html 4.01 transitional//")
	switch {
	case old, system == "http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd", public != "" && begins(oldTypes),
		in401 && !hasSystem:
		return true, false
	case in401, begins("-//w3c//dtd xhtml 1.0 frameset//\n-//w3c//dtd xhtml 1.0 transitional//"):
		return false, true
	}
	return false, false
}

// oldTypes are how the public identifiers of old document types begin.
const oldTypes = `+//silmaril//dtd html pro v0r11 19970101//
-//as//dtd html 3.0 aswedit + extensions//
-//advasoft ltd//dtd html 3.0 aswedit + extensions//
-//ietf//dtd html 2.0 level 1//
-//ietf//dtd html 2.0 level 2//
-//ietf//dtd html 2.0 strict level 1//
-//ietf//dtd html 2.0 strict level 2//
-//ietf//dtd html 2.0 strict//
-//ietf//dtd html 2.0//
-//ietf//dtd html 2.1e//
-//ietf//dtd html 3.0//
-//ietf//dtd html 3.2 final//
-//ietf//dtd html 3.2//
-//ietf//dtd html 3//
-//ietf//dtd html level 0//
-//ietf//dtd html level 1//
-//ietf//dtd html level 2//
-//ietf//dtd html level 3//
-//ietf//dtd html strict level 0//
-//ietf//dtd html strict level 1//
-//ietf//dtd html strict level 2//
-//ietf//dtd html strict level 3//
-//ietf//dtd html strict//
-//ietf//dtd html//
-//metrius//dtd metrius presentational//
-//microsoft//dtd internet explorer 2.0 html strict//
-//microsoft//dtd internet explorer 2.0 html//
-//microsoft//dtd internet explorer 2.0 tables//
-//microsoft//dtd internet explorer 3.0 html strict//
-//microsoft//dtd internet explorer 3.0 html//
-//microsoft//dtd internet explorer 3.0 tables//
-//netscape comm. corp.//dtd html//
-//netscape comm. corp.//dtd strict html//
-//o'reilly and associates//dtd html 2.0//
-//o'reilly and associates//dtd html extended 1.0//
-//o'reilly and associates//dtd html extended relaxed 1.0//
-//sq//dtd html 2.0 hotmetal + extensions//
-//softquad software//dtd hotmetal pro 6.0::19990601::extensions to html 4.0//
-//softquad//dtd hotmetal pro 4.0::19971010::extensions to html 4.0//
-//spyglass//dtd html 2.0 extended//
-//sun microsystems corp.//dtd hotjava html//
-//sun microsystems corp.//dtd hotjava strict html//
-//w3c//dtd html 3 1995-03-24//
-//w3c//dtd html 3.2 draft//
-//w3c//dtd html 3.2 final//
-//w3c//dtd html 3.2//
-//w3c//dtd html 3.2s draft//
-//w3c//dtd html 4.0 frameset//
-//w3c//dtd html 4.0 transitional//
-//w3c//dtd html experimental 19960712//
-//w3c//dtd html experimental 970421//
-//w3c//dtd w3 html//
-//w3o//dtd w3 html 3.0//
-//webtechs//dtd mozilla html 2.0//
-//webtechs//dtd mozilla html//`

// lenient are the properties whose lengths need no unit in old documents (Quirks Mode, section 3.2).
var lenient = strings.Fields(
	`background-position border-spacing border-top-width border-right-width border-bottom-width
	border-left-width border-width bottom clip font-size height left letter-spacing margin-right margin-left margin-top
	margin-bottom margin max-height max-width min-height min-width padding-top padding-bottom padding-left padding-right
	padding right text-indent top vertical-align width word-spacing`,
)

// lenientValue reads a value as old documents mean it: numbers are px, and colors need no mark (Quirks Mode, sections
// 3.1 and 3.2).
func lenientValue(name string, value []Token) []Token {
	if !slices.Contains(lenient, name) {
		return value
	}
	out := value
	for i, t := range value {
		if t.Kind != css.NumberToken || strings.Trim(t.Text, "0.+-") == "" {
			continue
		}
		if len(out) > 0 && &out[0] == &value[0] {
			out = slices.Clone(value)
		}
		out[i].Kind, out[i].Text = css.DimensionToken, t.Text+"px"
	}
	return out
}
