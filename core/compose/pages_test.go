package compose_test

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/stock"
)

// open writes a site and opens it. ziegel.yaml is made when it is not among the files.
func open(t *testing.T, files map[string]string) (*project.Project, diag.Problems) {
	t.Helper()
	dir := t.TempDir()
	if files["ziegel.yaml"] == "" {
		files["ziegel.yaml"] = "name: Larkspan\n"
	}
	for name, text := range files {
		path := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o777))
		require.NoError(t, os.WriteFile(path, []byte(text), 0o666))
	}
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	return env, problems
}

// home composes the page home of a site that has no mistakes.
func home(t *testing.T, opts compose.Options, files map[string]string) *compose.Page {
	t.Helper()
	env, problems := open(t, files)
	require.NoError(t, problems.Err())
	p, problems := compose.Compose(env, env.Site.Page("home"), opts)
	require.NoError(t, problems.Err())
	return p
}

func TestBlocksHoldOthers(t *testing.T) {
	p := home(t, compose.Options{}, map[string]string{"pages/home.yaml": `title: T
blocks:
  - {name: opening, section: hero/alone}
  - name: two
    section: layout/columns
    holds:
      left: [{name: words, section: piece/text, content: {heading: About the cloth}}]
      right:
        - {name: list, section: features/list}
        - name: deeper
          section: layout/side
          holds: {side: [{name: note, section: piece/text}]}
`})
	for _, id := range []string{"two", "words", "list", "deeper", "note"} {
		assert.Equal(t, 1, strings.Count(p.HTML, `id="`+id+`"`), id)
	}
	level := func(text string) string {
		m := regexp.MustCompile(`<(h[1-6])[^>]*>(?:<[^>]*>)*` + text).FindStringSubmatch(p.HTML)
		require.NotNil(t, m, text)
		return m[1]
	}
	assert.Equal(t, "h1", level("The wind does"))
	assert.Equal(t, "h2", level("What you bring"))
	assert.Equal(t, "h3", level("About the cloth"), "what is held stands a level deeper")
	assert.Equal(t, "h3", level("Four promises"))
	names := []string{}
	for _, b := range p.Blocks {
		names = append(names, b.Name)
	}
	assert.Equal(t, []string{"opening", "two", "words", "list", "deeper", "deeper-main-1", "deeper-main-2", "note"},
		names, "an empty slot shows its sample")
}

func TestMistakesInHoldersAreTold(t *testing.T) {
	for _, tt := range []struct{ name, block, rule, text string }{
		{"a slot that is not there",
			"{name: a, section: layout/columns, holds: {top: [{name: b, section: piece/text}]}}", "unknown-slot", "top"},
		{"a section that holds nothing",
			"{name: a, section: hero/alone, holds: {left: [{name: b, section: piece/text}]}}", "unknown-slot", "hero/alone"},
		{"a name twice", "{name: a, section: layout/columns, holds: {left: [{name: a, section: piece/text}]}}",
			"duplicate-name", "a"},
		{"a section that is not there",
			"{name: a, section: layout/columns, holds: {left: [{name: b, section: piece/txt}]}}", "unknown-section", "piece/txt"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			env, problems := open(t, map[string]string{"pages/home.yaml": "title: T\nblocks: [" + tt.block + "]\n"})
			if problems.Err() == nil {
				_, problems = compose.Compose(env, env.Site.Page("home"), compose.Options{})
			}
			require.Error(t, problems.Err())
			assert.Contains(t, problems[0].Text, tt.text)
			assert.Equal(t, "pages/home.yaml", problems[0].File)
			assert.Positive(t, problems[0].Column)
		})
	}
}

// photo is a JPEG of some size.
func photo(t *testing.T, w, h int) string {
	t.Helper()
	var buf bytes.Buffer
	require.NoError(t, jpeg.Encode(&buf, image.NewGray(image.Rect(0, 0, w, h)), nil))
	return buf.String()
}

func TestPicturesDifferByRange(t *testing.T) {
	files := map[string]string{"media/wide.jpg": photo(t, 1800, 1200), "media/tall.jpg": photo(t, 800, 1200), "pages/home.yaml": `title: T
blocks:
  - name: opening
    section: hero/beside
    content: {media: {file: wide.jpg, alt: A beach, focus: 30% 60%, file at phone: tall.jpg, focus at phone: 50% 10%, focus at 600..899: 80% 50%}}
`}
	key := styles.PictureKey{Block: "opening", Index: 0}
	fit := styles.PictureFit{Sizes: map[string]string{"wide.jpg": "50vw", "tall.jpg": "92vw"}, First: true}
	p := home(t, compose.Options{Measured: &styles.Measured{Pictures: map[styles.PictureKey]styles.PictureFit{key: fit}}}, files)
	assert.Contains(t, p.HTML,
		`<source media="(width &lt; 37.5rem)" srcset="media/sized/tall-480.jpg 480w, media/tall.jpg 800w" width="800" height="1200" sizes="92vw">`)
	assert.Regexp(t, `<img [^>]*src="media/wide.jpg" width="1800" height="1200" alt="A beach" srcset="[^"]* 480w, [^"]* 720w, [^"]* 1080w, media/wide.jpg 1800w" sizes="50vw" fetchpriority="high">`, p.HTML)
	assert.Regexp(t, `(?s)home-opening-picture-1 \{ object-position: 30% 60%; \}.*37.5rem <= width < 56.25rem\) \{\s*\.home-opening-picture-1 \{ object-position: 80% 50%; \}.*\(width < 37.5rem\) \{\s*\.home-opening-picture-1 \{ object-position: 50% 10%; \}`, p.Own.Text)
	assert.Equal(t, []string{"tall.jpg", "wide.jpg"}, p.Media)
	assert.Len(t, p.Copies, 4)
	measured := home(t, compose.Options{Marks: true}, files)
	assert.NotContains(t, measured.HTML, "sizes=", "what is only measured has no copies")
	assert.Contains(t, measured.HTML, `srcset="media/tall.jpg"`, "but the file of each range")
}

func TestMistakesInPicturesAreTold(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, tt := range []struct{ media, rule, try string }{
		{"{file: kite.svg, focus: left}", "bad-value", "50% 30%"},
		{"{file: kite.svg, focus at phone: 10px 10px}", "bad-value", "50% 30%"},
		{"{file: kite.svg, file at fone: kite.svg}", "unknown-range", "phone"},
		{"{file: kite.svg, file at phone: kit.svg}", "missing-file", "kite.svg"},
		{"{file: kite.svg, alt at phone: A}", "unknown-key", ""},
		{"{file: kite.svg, fokus: 10% 10%}", "unknown-key", "focus"},
		{"{file: words.jpg}", "missing-file", ""},
	} {
		env, problems := open(t, map[string]string{"media/kite.svg": `<svg viewBox="0 0 4 3"/>`,
			"media/words.jpg": "words", "pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/beside, content: {media: " + tt.media + "}}]\n"})
		require.NoError(t, problems.Err())
		_, problems = compose.Compose(env, env.Site.Page("home"), compose.Options{})
		require.Error(t, problems.Err(), tt.media)
		assert.Equal(t, tt.rule, problems[0].Rule, tt.media)
		assert.Equal(t, tt.try, problems[0].Try, tt.media)
	}
}

// The sample of a section keeps what it is about in sight; a picture of the page's own has no such focus.
func TestTheFocusOfASampleGoesWithIt(t *testing.T) {
	p := home(t, compose.Options{}, map[string]string{"media/kite.svg": `<svg viewBox="0 0 4 3"/>`,
		"pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/beside}, {name: b, section: hero/beside, content: {media: kite.svg}}]\n"})
	assert.Equal(t, 1, strings.Count(p.HTML, "object-position"))
	assert.Contains(t, p.HTML, `src="media/delta.svg" width="960" height="1200"`, "a sample has its real size")
}

func TestGroundsLieUnderBlocks(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, tt := range []struct{ ground, want, rule string }{
		{"{color: '{color.surface}'}", "background-color: var(--surface);", ""},
		{"{gradient: 'linear-gradient(to top, {color.ground}, {color.surface})'}",
			"background-image: linear-gradient(to top, var(--ground), var(--surface));", ""},
		{"{picture: kite.svg, focus: 10% 20%, overlay: 100%}", `url("media/kite.svg");`, ""},
		{"{color: blu}", "", "bad-value"},
		{"{gradient: '#123456'}", "", "bad-value"},
		{"{picture: kit.svg}", "", "missing-picture"},
		{"{picture: self.svg}", "", "missing-picture"},
		{"{picture: ../ziegel.yaml}", "", "missing-picture"},
		{"{picture: kite.svg, overlay: much}", "", "bad-value"},
		{"{picture: kite.svg, focus: top}", "", "bad-value"},
		{"{colour: '#123456'}", "", "unknown-key"},
		{"{color: '#123456', inside: text}", "", "unknown-lane"},
	} {
		env, problems := open(t,
			map[string]string{"media/kite.svg": `<svg viewBox="0 0 4 3"><path fill="#fff"/></svg>`,
				"media/self.svg":  `<svg viewBox="0 0 4 3"><g id="a"><use href="#a"/></g></svg>`,
				"pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/alone, ground: " + tt.ground + "}]\n"})
		require.NoError(t, problems.Err())
		p, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
		if tt.rule != "" {
			require.NotEmpty(t, problems, tt.ground)
			assert.Equal(t, tt.rule, problems[0].Rule, tt.ground)
			continue
		}
		require.NoError(t, problems.Err(), tt.ground)
		assert.Contains(t, p.Own.Text, tt.want, tt.ground)
	}
}

// The least overlay is as thin as the texts of a tone allow, and thinner on a quiet picture than on a loud one.
func TestTheLeastOverlayFollowsThePicture(t *testing.T) {
	share := func(tone, svg string) int {
		p := home(t, compose.Options{}, map[string]string{"media/a.svg": svg,
			"pages/home.yaml": fmt.Sprintf("title: T\nblocks: [{name: a, section: hero/alone, tone: %s, ground: {picture: a.svg}}]\n", tone)})
		m := regexp.MustCompile(`var\(--ground\) (\d+)%`).FindStringSubmatch(p.Own.Text)
		require.NotNil(t, m, p.Own.Text)
		n := 0
		_, err := fmt.Sscan(m[1], &n)
		require.NoError(t, err)
		return n
	}
	quiet := share("deep", `<svg viewBox="0 0 4 3"><path fill="#0f2126" d="M0 0h4v3H0z"/></svg>`)
	loud := share("deep",
		`<svg viewBox="0 0 4 3"><path fill="#0f2126" d="M0 0h4v3H0z"/><path fill="#fff" d="M0 0h4v1H0z"/></svg>`)
	assert.Less(t, quiet, 20)
	assert.Greater(t, loud, 60)
}

func TestDraftsShowInTheWireframeTheme(t *testing.T) {
	p := home(t, compose.Options{},
		map[string]string{"pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/alone, draft: yes}, {name: b, section: steps/line}]\n"})
	assert.Equal(t, 1, strings.Count(p.HTML, " draft\""))
	assert.Contains(t, p.Site.Text, ".draft {")
	assert.NotContains(t, home(t, compose.Options{},
		map[string]string{"pages/home.yaml": "title: T\nblocks: [{name: b, section: steps/line}]\n"}).Site.Text, ".draft")
}

// levels lists the heading levels of a page in their order.
func levels(html string) string {
	var out []string
	for _, m := range regexp.MustCompile(`<h([1-6])[ >]`).FindAllStringSubmatch(html, -1) {
		out = append(out, m[1])
	}
	return strings.Join(out, "")
}

// Heading levels follow from the page: one h1, and never a gap below it, wherever cards stand.
func TestHeadingsLeaveNoGap(t *testing.T) {
	items := "items: [{title: A}, {title: B}]"
	for _, c := range []struct{ name, blocks, want string }{
		{"an opening, then cards", "[{name: a, section: hero/beside}, {name: b, section: features/cards, content: {" +
			items + "}}]", "1233"},
		{"cards stand first", "[{name: b, section: features/cards, content: {" + items +
			"}}, {name: c, section: features/cards, content: {" + items + "}}]", "122233"},
		{"cards without a heading",
			"[{name: a, section: hero/beside}, {name: b, section: features/cards, content: {heading: '', " + items +
				"}}]", "122"},
		{"in a holder", "[{name: a, section: hero/beside}, {name: h, section: layout/columns, content: {heading: Two}, holds: {left: [{name: b, section: features/list, content: {" + items + "}}], right: []}}]", "12344"},
	} {
		p := home(t, compose.Options{}, map[string]string{"ziegel.yaml": "name: L\n",
			"pages/home.yaml": "title: T\nblocks: " + c.blocks + "\n"})
		got := levels(p.HTML)
		assert.Equal(t, c.want, got, c.name)
		for i := 1; i < len(got); i++ {
			assert.LessOrEqual(t, got[i], got[i-1]+1, c.name)
		}
	}
}

// Paper is not scrolled: the last layer of every page ends motion there, too.
func TestPaperStandsStill(t *testing.T) {
	p := home(t, compose.Options{}, map[string]string{"ziegel.yaml": "name: L\n",
		"pages/home.yaml": "title: T\nblocks: [{name: a, section: hero/beside, style: {heading: {use: scroll-fade}}}]\n"})
	_, still, ok := strings.Cut(p.Site.Text, "@layer still {")
	require.True(t, ok)
	_, print, ok := strings.Cut(still, "@media print {")
	require.True(t, ok)
	assert.Contains(t, print[:strings.Index(print, "\n  }")], "animation: none;")
}
