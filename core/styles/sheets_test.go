package styles_test

import (
	"flag"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "write testdata/sheets.txtar anew")

// Each archive entry NAME.yaml is a home page, NAME.site.yaml what ziegel.yaml says beside; NAME.css and NAME.site.css
// are what is written for it: its own sheet, and that of the site from its layer on.
func TestWhatSheetsSay(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	const file = "testdata/sheets.txtar"
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	archive := txtar.Parse(data)
	files := map[string]string{}
	for _, f := range archive.Files {
		files[f.Name] = string(f.Data)
	}
	out := &txtar.Archive{Comment: archive.Comment}
	for _, f := range archive.Files {
		name, ok := strings.CutSuffix(f.Name, ".yaml")
		if !ok || strings.HasSuffix(name, ".site") {
			continue
		}
		t.Run(name, func(t *testing.T) {
			env := testsite.Open(t, testsite.Write(t, map[string]string{
				"ziegel.yaml":     "name: L\n" + files[name+".site.yaml"],
				"pages/home.yaml": files[f.Name],
				"media/wave.svg":  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30" width="40" height="30"><rect width="40" height="30" fill="#345"/></svg>`,
			}))
			page, problems := measure.Page(env, env.Site.Page("home"), compose.Options{})
			require.NoError(t, problems.Err())
			got := map[string]string{name + ".css": page.Own.Text, name + ".site.css": siteLayers(page.Site.Text)}
			for part, text := range got {
				if *update {
					continue
				}
				assert.Equal(t, files[part], text, part)
			}
			out.Files = append(out.Files, f)
			if more, ok := files[name+".site.yaml"]; ok {
				out.Files = append(out.Files, txtar.File{Name: name + ".site.yaml", Data: []byte(more)})
			}
			for _, part := range []string{name + ".css", name + ".site.css"} {
				out.Files = append(out.Files, txtar.File{Name: part, Data: []byte(got[part])})
			}
		})
	}
	if *update {
		require.NoError(t, os.WriteFile(file, txtar.Format(out), 0o666))
	}
}

// siteLayers gives what a site's sheet says after the shipped rules of sections: layers site and block.
func siteLayers(text string) string {
	at := strings.LastIndex(text, "@layer site {")
	if use := strings.Index(text, "@layer block.use {"); at < 0 || use >= 0 && use < at {
		at = use
	}
	if at < 0 {
		return ""
	}
	return strings.TrimSpace(text[at:]) + "\n"
}

// mistakesIn composes a home page and gives what is wrong in it: "rule: text, try X".
func mistakesIn(t *testing.T, home, main string) []string {
	t.Helper()
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n" + main, "pages/home.yaml": home})
	env, problems := opened(t, dir)
	if env.Site.HasPage("home") {
		_, more := compose.Compose(env, env.Site.Page("home"), compose.Options{})
		problems = append(problems, more...)
	}
	var out []string
	for _, p := range problems.Sorted() {
		line := p.Rule + ": " + p.Text
		if p.Try != "" {
			line += ", try " + p.Try
		}
		out = append(out, line)
	}
	return out
}

func TestMistakesInStylesAreTold(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for style, want := range map[string]string{
		"crad: {padding: 1rem}":              "try card",
		"card: {paddin: 1rem}":               "try padding",
		"card: {padding: \"{space.fra}\"}":   "try {space.far}",
		"card: {padding: nonsense}":          "padding cannot be",
		"card[0]: {padding: 1rem}":           "card[0]",
		"card[sometimes]: {padding: 1rem}":   "sometimes",
		"card at phones: {padding: 1rem}":    "try phone",
		"card:hovered: {padding: 1rem}":      "hover",
		"card when stakced: {padding: 1rem}": "try stacked",
		"card: {use: liftd}":                 "there is no shared look",
		"card: {lane: wide}":                 "lines of the page",
		"card: 3":                            "card",
		"card: {background: url(x.png)}":     "background cannot be",
		"card: {\"--x\": 3}":                 "there is no CSS property",
		"card: {color: \"{color.acent}\"}":   "try {color.accent}",
		"root: {lane: somewhere}":            "somewhere",
	} {
		list := mistakesIn(t, testsite.Plans+"      "+style+"\n", "")
		require.NotEmpty(t, list, style)
		assert.Contains(t, strings.Join(list, "\n"), want, style)
		assert.Len(t, list, 1, "one mistake is told once: %s", style)
	}
	for block, want := range map[string]string{
		"above: lots":                         `"lots" is no distance`,
		"above: 3":                            "try 3rem",
		"above: \"{space.fra}\"":              "try {space.far}",
		"tone: dep":                           "try deep",
		"options: {colums: \"2\"}":            "try columns",
		"options: {columns at phones: \"2\"}": "try",
		"options: {gap: wide}":                "gap",
		"ground: {colour: red}":               "try color",
		"ground: {picture: none.svg}":         "there is no file media/none.svg",
		"ground: {color: nonsense}":           "nonsense",
		"ground: {gradient: red}":             "red",
		"ground: {}":                          "ground",
	} {
		list := mistakesIn(t, "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n    "+block+"\n", "")
		require.NotEmpty(t, list, block)
		assert.Contains(t, strings.Join(list, "\n"), want, block)
	}
}

// opened opens a site with its mistakes.
func opened(t *testing.T, dir string) (*project.Project, diag.Problems) {
	t.Helper()
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	return env, problems
}

// A declaration of a built sheet tells where it was written, also in a rule that several places share.
func TestDeclarationsKnowTheirPlaces(t *testing.T) {
	env := testsite.With(t, testsite.Plans+"      card: {padding: 7px}\n")
	page, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
	require.NoError(t, problems.Err())
	at := strings.Index(page.Own.Text, "padding: 7px")
	require.Positive(t, at, page.Own.Text)
	pos := page.Own.Origin(at)
	assert.Equal(t, "pages/home.yaml:6:14", pos.String())
	assert.Equal(t, "home.css", page.Own.Origin(0).File, "what was made has no other place")
	at = strings.Index(page.Site.Text, ".pricing-plans")
	at += strings.Index(page.Site.Text[at:], "display: grid")
	assert.Contains(t, page.Site.Origin(at).File, "section.css")
}

// What the styles of a block say can become part of a section of its own; what follows the block's own layout stays.
func TestStylesAreKeptWithASection(t *testing.T) {
	env := testsite.With(t, testsite.Plans+`      card: {padding: 7px}
      card:hover: {color: red}
      card at phone: {padding: 5px}
      card[2]: {color: blue}
      title when stacked: {color: green}
      root: {gap: 3px}
      block: {order: 2}
      text: {use: note}
`, "looks:\n  note: {color: red}\n")
	p := env.Site.Page("home")
	b := env.All(p)[0]
	text, parts, stay := styles.KeptStyles(env, p, b, env.Library.Section(b.Section))
	assert.Equal(t, []string{"card"}, parts)
	assert.Equal(t, []string{"card[2]", "title when stacked", "block", "text"}, stay)
	for _, want := range []string{".kept-card {", "padding: 7px", ".kept-card:hover", "padding: 5px", ".root {"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "green")
}
