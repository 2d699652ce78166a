package compose_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/stock"
)

// page composes a site of one page from its YAML.
func page(t *testing.T, yaml string) (*compose.Page, diag.Problems) {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "media"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "media", "Kite one.svg"),
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"/>`), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"),
		[]byte("name: L\naddress: https://l.example\n"), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", "home.yaml"), []byte(yaml), 0o666))
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return compose.Compose(env, env.Site.Page("home"), compose.Options{})
}

func hero(content string) string {
	return "title: T\nblocks:\n  - name: opening\n    section: hero/beside\n    content:\n" + content
}

func TestContentNeverBecomesMarkup(t *testing.T) {
	for _, text := range []string{`<script>alert(1)</script>`, `"><img src=x onerror=alert(1)>`,
		`[x](javascript:alert(1))`, "<b onclick=x>", "&lt;script&gt;", `![p](data:text/html,x)`, "` <i> `", `<!-- x -->`} {
		p, _ := page(t, hero("      heading: "+quote(text)+"\n      actions: [{label: "+quote(text)+", to: home}]\n"))
		doc, err := html.Parse(strings.NewReader(p.HTML))
		require.NoError(t, err)
		var walk func(n *html.Node)
		walk = func(n *html.Node) {
			if n.Type == html.ElementNode {
				kind := markup.Value(n, "type")
				assert.True(t, n.Data != "script" || kind == "application/ld+json", text)
				for _, a := range n.Attr {
					assert.False(t, strings.HasPrefix(a.Key, "on"), text)
					assert.NotContains(t, strings.ToLower(a.Val), "javascript:", text)
				}
			}
			for c := n.FirstChild; c != nil; c = c.NextSibling {
				walk(c)
			}
		}
		walk(doc)
	}
}

func quote(s string) string { return "'" + strings.ReplaceAll(s, "'", "''") + "'" }

func TestMissingEmptyAndSample(t *testing.T) {
	p, problems := page(t, hero("      heading: Mine _now_\n      eyebrow: ''\n      actions: []\n")+
		"    without: [media]\n")
	require.NoError(t, problems.Err())
	assert.Contains(t, p.HTML, "Mine <em>now</em>")
	assert.NotContains(t, p.HTML, "eyebrow")
	assert.NotContains(t, p.HTML, "action-main")
	assert.NotContains(t, p.HTML, "<img")
	assert.Contains(t, p.HTML, "Every kite is cut", "the lead is missing, so the sample shows")
	states := map[string]compose.FieldState{}
	for _, f := range p.Fields {
		states[f.Field] = f.State
	}
	assert.Equal(t, map[string]compose.FieldState{"heading": compose.Own, "eyebrow": compose.Empty,
		"actions": compose.Empty, "lead": compose.Sample}, states)
}

func TestMistakesInContentAreToldWithTheNearestName(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	tests := []struct{ name, yaml, rule, try string }{
		{"a field", hero("      headin: x\n"), "unknown-field", "heading"},
		{"a type", hero("      actions: text\n"), "wrong-type", ""},
		{"a link", hero("      actions: [{label: x, to: hom}]\n"), "dead-link", "home"},
		{"a place on the page", hero("      actions: [{label: x, to: '#openin'}]\n"), "dead-link", "#opening"},
		{"a picture", hero("      media: {file: kite one.svg}\n"), "missing-file", "Kite one.svg"},
		{"a language of a site that speaks one", hero("      actions: [{label: x, to: '@de'}]\n"), "dead-link", ""},
		{"a scheme", hero("      actions: [{label: x, to: 'javascript:1'}]\n"), "dead-link", ""},
		{"an option", hero("      lead: x\n") + "    options: {medai: left}\n", "unknown-option", "media"},
		{"a choice", hero("      lead: x\n") + "    options: {media: lift}\n", "bad-option", "left"},
		{"a tone", hero("      lead: x\n") + "    tone: depp\n", "unknown-tone", "deep"},
		{"a part", hero("      lead: x\n") + "    style: {word: {color: red}}\n", "unknown-part", "words"},
		{"a property", hero("      lead: x\n") + "    style: {words: {colr: red}}\n", "unknown-property", "color"},
		{"a value", hero("      lead: x\n") + "    style: {words: {padding: 3}}\n", "bad-value", "3rem or 3px"},
		{"a token", hero("      lead: x\n") + "    style: {words: {padding: '{space.fra}'}}\n", "unknown-token",
			"{space.far}"},
		{"a range", hero("      lead: x\n") + "    style: {words at fone: {padding: 0}}\n", "unknown-range", "phone"},
		{"a distance", hero("      lead: x\n") + "    above: 3\n", "bad-value", "3rem"},
		{"a section", "blocks: [{name: a, section: hero/besid}]\n", "unknown-section", "hero/beside"},
		{"a picture for other sites", "picture: kite one.svg\n" + hero("      lead: x\n"), "missing-file",
			"Kite one.svg"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			_, problems := page(t, tt.yaml)
			require.NotEmpty(t, problems)
			assert.Equal(t, tt.rule, problems[0].Rule, problems[0].Text)
			assert.Equal(t, tt.try, problems[0].Try, problems[0].Text)
			assert.Equal(t, "pages/home.yaml", problems[0].File)
			assert.Positive(t, problems[0].Line)
		})
	}
}

// Markup that somebody writes about stays what it is, in code too.
func TestCodeIsShownAsItIsWritten(t *testing.T) {
	for text, want := range map[string]string{
		"A `<b>` here":                    "A <code>&lt;b&gt;</code> here",
		"`a < b && c` <i>x</i>":           "<code>a &lt; b &amp;&amp; c</code> &lt;i&gt;x&lt;/i&gt;",
		"1 < 2 and **2 < 3**":             "1 &lt; 2 and <strong>2 &lt; 3</strong>",
		"[a < b](https://x.example/?a<b)": `<a href="https://x.example/?a%3Cb">a &lt; b</a>`,
		"&lt;b&gt; stays":                 "&lt;b&gt; stays",
	} {
		p, problems := page(t, hero("      lead: '"+text+"'\n"))
		require.NoError(t, problems.Err(), text)
		assert.Contains(t, p.HTML, want, text)
	}
}

func TestThePageIsWhole(t *testing.T) {
	p, problems := page(t, hero("      media: {file: Kite one.svg, alt: A kite, focus: 10% 20%}\n")+
		"  - {name: reasons, section: features/cards}\n")
	require.NoError(t, problems.Err())
	for _, want := range []string{`<html lang="en">`, "<title>T · L</title>",
		`<link rel="canonical" href="https://l.example/">`, `<main id="main">`, `src="media/Kite%20one.svg" width="40" height="30" alt="A kite"`,
		`style="object-position: 10% 20%"`, `rel="preload"`, `property="og:title"`, `aria-labelledby="opening-heading"`} {
		assert.Contains(t, p.HTML, want)
	}
	assert.Equal(t, 1, strings.Count(p.HTML, "<h1"))
	assert.Equal(t, 1, strings.Count(p.HTML, "<h2"))
	assert.NotContains(t, p.HTML, "data-", "marks are gone")
	assert.Equal(t, strings.Count(p.HTML, "<script"), strings.Count(p.HTML, `<script type="application/ld+json">`))
	assert.NotContains(t, p.Site.Text, "pricing", "only the sections in use")
	assert.NotContains(t, p.Site.Text, `data-media`, "options are resolved")
	assert.NotContains(t, p.Site.Text, "columns-4", "rules of unused choices are dropped")
	again, _ := page(t, hero("      media: {file: Kite one.svg, alt: A kite, focus: 10% 20%}\n")+
		"  - {name: reasons, section: features/cards}\n")
	assert.Equal(t, p.HTML, again.HTML)
	assert.Equal(t, p.Site.Text, again.Site.Text)
}

func TestStylesLandWhereTheyWereMeant(t *testing.T) {
	p, problems := page(t, `blocks:
  - name: plans
    section: pricing/plans
    above: 0
    style:
      card: {padding: "{space.far}"}
      card at phone: {padding: 1rem}
      card[2]:hover: {color: "{color.accent}"}
      card in ..480: {gap: 0}
`)
	require.NoError(t, problems.Err())
	css := p.Own.Text
	plain, phone, state := strings.Index(css, ".home-plans-card { padding: var(--space-far); }"),
		strings.Index(css, "@media (width < 37.5rem)"), strings.Index(css,
			".home-plans-card-2:hover, .home-plans-card-2:focus-within { color: var(--accent); }")
	assert.Positive(t, plain, css)
	assert.Greater(t, phone, plain, css)
	assert.Greater(t, state, phone, css)
	assert.Contains(t, css, "@container (width < 30.0625rem)")
	assert.Equal(t, 3, strings.Count(p.HTML, "home-plans-card\"")+strings.Count(p.HTML, "home-plans-card "))
	at := strings.Index(css, "padding: 1rem")
	assert.Equal(t, "pages/home.yaml:7:23", p.Own.Origin(at).String())
}

// A section that styles a shared class styles it inside itself only.
func TestSharedClassesAreStyledInsideTheirSection(t *testing.T) {
	p, problems := page(t,
		"blocks:\n  - {name: letter, section: newsletter/line}\n  - {name: stats, section: statistics/large}\n")
	require.NoError(t, problems.Err())
	assert.Contains(t, p.Site.Text, ".newsletter-line .actions { grid-column: 1; }")
	assert.NotRegexp(t, `(?m)^\s+\.actions \{ grid-column`, p.Site.Text)
}

// Icons that stand on a page several times are written once; others stay where they are.
func TestIconsAreWrittenOnce(t *testing.T) {
	p, _ := page(t, "title: Home\nblocks:\n  - {name: plans, section: pricing/plans}\n  - {name: reasons, section: features/cards}\n")
	assert.Equal(t, 7, strings.Count(p.HTML, `<use href="#icon-check">`))
	assert.Equal(t, 1, strings.Count(p.HTML, `<symbol id="icon-check" viewBox="0 0 24 24">`))
	assert.NotContains(t, p.HTML, "#icon-wind", "it stands there once")
}

// The class of a part is never that of another block or of a part of one, whatever blocks are called.
func TestClassesOfBlocksAndPartsDoNotMeet(t *testing.T) {
	page := home(t, compose.Options{}, map[string]string{"pages/home.yaml": `title: T
blocks:
  - name: opening
    section: hero/beside
    style: {words: {padding: 1px}, block: {padding: 2px}}
  - name: opening-words
    section: hero/beside
    style: {block: {padding: 3px}, words: {padding: 4px}}
  - name: opening-words-words
    section: hero/beside
    style: {block: {padding: 5px}}
`})
	for _, want := range []string{"1px", "2px", "3px", "4px", "5px"} {
		i := strings.Index(page.Own.Text, "padding: "+want)
		require.Positive(t, i, want)
		selector := page.Own.Text[strings.LastIndexByte(page.Own.Text[:i], '.')+
			1 : strings.LastIndex(page.Own.Text[:i], " {")]
		assert.Equal(t, 1, strings.Count(page.HTML, " "+selector+`"`)+strings.Count(page.HTML, " "+selector+" ")+
			strings.Count(page.HTML, `"`+selector+" "), "%s: %s", want, selector)
	}
}

func TestHowATextBegins(t *testing.T) {
	for text, want := range map[string]string{
		"_Real_ wind": "<em>Real</em> wind", "**Now**": "<strong>Now</strong>", "# one": "# one", "1. May": "1. May",
		"- a dash": "- a dash", "> more": "&gt; more", "___": "___", "*so*": "<em>so</em>", "* star": "* star",
		"[a](https://x.example) b": `<a href="https://x.example">a</a> b`, "```": "```", "+1": "+1",
	} {
		var b strings.Builder
		for _, n := range compose.Inline(text) {
			markup.PrintNode(&b, n, 0)
		}
		assert.Equal(t, want, strings.TrimSpace(b.String()), text)
	}
}
