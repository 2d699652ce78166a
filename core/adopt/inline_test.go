package adopt_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/adopt"
	"ziegel/core/compose"
	"ziegel/core/markup"
)

func same(to string) string { return to }

// paragraph reads the inside of a paragraph.
func paragraph(t testing.TB, inside string) *html.Node {
	t.Helper()
	doc, err := html.Parse(strings.NewReader("<p>" + inside + "</p>"))
	require.NoError(t, err)
	return markup.First(doc, "p")
}

func TestInline(t *testing.T) {
	tests := []struct{ name, html, want string }{
		{"text", " A  plain\n text ", "A plain text"},
		{"emphasis", "Made for <em>real</em> wind", "Made for _real_ wind"},
		{"inside a word", "un<em>believ</em>able", "un*believ*able"},
		{"strong", "a <strong>bold</strong> word", "a **bold** word"},
		{"old tags", "a <b>bold</b> and <i>slanted</i> word", "a **bold** and _slanted_ word"},
		{"spaces go outside", "a <em> b </em>c", "a _b_ c"},
		{"a link", `see <a href="courses">the courses</a>.`, "see [the courses](courses)."},
		{"a link to nowhere", `see <a href="">this</a>.`, "see this."},
		{"code", "type <code>a_b</code>", "type `a_b`"},
		{"a break", "one<br>two", "one\\\ntwo"},
		{"an empty line", "one<br><br> two", "one\n\ntwo"},
		{"no mark is escaped that is none", "3 * 4 = 12, a_b and #5", "3 * 4 = 12, a_b and #5"},
		{"a mark that would be one", "it is *so*", "it is \\*so\\*"},
		{"pictures have fields of their own", `a <img src="x.png" alt="x">b`, "a b"},
		{"scripts are no text", "a<script>alert(1)</script>b", "ab"},
		{"no-break spaces stay", "12\u00a0px", "12\u00a0px"},
		{
			"words that take turns",
			`a <span class="changing changing-2"><span>real</span><span>good</span></span> wind`,
			"a [real|good] wind",
		},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			assert.Equal(t, tt.want, adopt.Inline(paragraph(t, tt.html), same))
		})
	}
}

// FuzzInline holds that what a field says, set and read again, says the same.
func FuzzInline(f *testing.F) {
	for _, s := range []string{"a _b_ c", "**x** [y](home)", "1. x", "# y", "*", "a\\\nb", "`c`", "&amp; \\& <b>",
		"[a|b]", "_a_b", "![x](y)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if !utf8.ValidString(text) || strings.ContainsAny(text, "\ue000\ue001\u2060\ufdd0\x00\r") {
			t.Skip()
		}
		p := markup.Element("p")
		for _, k := range compose.Inline(text) {
			p.AppendChild(k)
		}
		said := letters(p)
		again := markup.Element("p")
		for _, k := range compose.Inline(adopt.Inline(p, same)) {
			again.AppendChild(k)
		}
		require.Equal(t, said, letters(again), "%q became %q", text, adopt.Inline(p, same))
	})
}

// letters gives what an element says, white space apart.
func letters(n *html.Node) string {
	var b strings.Builder
	var walk func(x *html.Node)
	walk = func(x *html.Node) {
		if x.Type == html.TextNode {
			b.WriteString(x.Data)
		}
		for k := x.FirstChild; k != nil; k = k.NextSibling {
			walk(k)
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), "")
}
