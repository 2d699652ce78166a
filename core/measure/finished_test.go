package measure

import (
	"bytes"
	"io"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// one gives the work on a block of a page.
func one(env *project.Project, page, block string) *measuring {
	p := env.Site.Page(page)
	for _, b := range env.All(p) {
		if b.Name == block {
			return &measuring{env: env, page: p, block: b, sec: env.Library.Section(b.Section)}
		}
	}
	return nil
}

// Answering a finished page changes nothing: with its thresholds in force, a block has the same ones. Whatever is kept
// from the first time is left out here.
func TestAFinishedBlockHasTheSameThresholds(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	env, _, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	asked := 0
	check := func(m *measuring) {
		if m == nil || m.sec == nil || len(m.sec.Measured) == 0 {
			return
		}
		asked++
		first := m.measure(m.compose(nil))
		again := m.measure(m.compose(first.whole(m.block.Name)))
		assert.Equal(t, first.Thresholds, again.Thresholds, m.sec.Name)
	}
	for _, name := range env.Site.PageNames() {
		for _, b := range env.All(env.Site.Page(name)) {
			check(one(env, name, b.Name))
		}
	}
	for i, name := range env.Library.Names() {
		if len(env.Library.Section(name).Measured) == 0 || i%5 > 0 && os.Getenv("ZIEGEL_THOROUGH") == "" {
			continue
		}
		alone, _, _ := measured(t, "{name: it, section: "+name+"}")
		check(one(alone, "home", "it"))
	}
	assert.GreaterOrEqual(t, asked, 4)
}

// The tree that is measured is read from the text that is written: what printing gives up or a parser moves is seen by
// the layout, too.
func TestWhatIsMeasuredIsWhatIsWritten(t *testing.T) {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	page, problems := Page(env, env.Site.Page("home"), compose.Options{Marks: true})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(env, page)
	require.NoError(t, err)
	doc, err := html.Parse(strings.NewReader(page.HTML))
	require.NoError(t, err)
	var want, got []string
	markup.Each(markup.First(doc, "html"), func(n *html.Node) {
		want = append(want, n.Data+" "+markup.Value(n,
			"class"))
	})
	for _, e := range l.Doc.Elements {
		got = append(got, e.Tag+" "+e.Attr("class"))
	}
	assert.Equal(t, want, got)
}

// BenchmarkText says what share of a built page goes into printing it, and into reading the print again: the price of
// measuring the text that is written.
func BenchmarkText(b *testing.B) {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	page, _ := Page(env, env.Site.Page("home"), compose.Options{})
	doc, err := html.Parse(strings.NewReader(page.HTML))
	require.NoError(b, err)
	b.Run("page", func(b *testing.B) {
		for b.Loop() {
			fresh, _, _ := project.Open("../../stock/demo", stock.Files)
			Page(fresh, fresh.Site.Page("home"), compose.Options{})
		}
	})
	b.Run("print", func(b *testing.B) {
		for b.Loop() {
			io.WriteString(io.Discard, markup.Print(doc))
		}
	})
	b.Run("read", func(b *testing.B) {
		text := []byte(page.HTML)
		for b.Loop() {
			html.Parse(bytes.NewReader(text))
		}
	})
}
