package adopt_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/adopt"
	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// leaves lists what fields say, by address.
func leaves(out map[string]string, at string, v *site.Value) {
	switch {
	case v == nil:
	case v.Kind == site.Text:
		out[at] = v.Text
	case v.Kind == site.List:
		for i, x := range v.Items {
			leaves(out, fmt.Sprintf("%s[%d]", at, i+1), x)
		}
	default:
		for _, e := range v.Entries {
			leaves(out, strings.TrimPrefix(at+"."+e.Key, "."), e.Value)
		}
	}
}

// taken builds a site and takes its pages.
func taken(t testing.TB, env *project.Project) *adopt.Taking {
	files, problems := build.Build(env, build.Options{})
	require.NoError(t, problems.Err())
	folder, pages := fstest.MapFS{}, []string{}
	for name, f := range files {
		folder[name] = &fstest.MapFile{Data: f.Data}
		if strings.HasSuffix(name, ".html") && name != "404.html" {
			pages = append(pages, name)
		}
	}
	slices.Sort(pages)
	shelf, _, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	out, err := adopt.Take(shelf, adopt.Wanted{Folder: folder, Files: pages})
	require.NoError(t, err)
	return out
}

// TestOwnPagesComeBack builds the demo sites and all templates and takes them again: every block is found under its
// name, made of the same section, on the same ground, with what its fields say. The look of a button that it has anyway
// is no loss.
func TestOwnPagesComeBack(t *testing.T) {
	for _, dir := range testsite.ShippedSites(t) {
		t.Run(dir, func(t *testing.T) {
			t.Parallel()
			env := testsite.Open(t, testsite.Write(t, testsite.Shipped(t, dir)))
			got := taken(t, env)
			right, all := 0, 0
			for _, page := range env.Site.Pages() {
				at := slices.IndexFunc(got.Pages, func(p *adopt.Page) bool { return p.Name == page.Name })
				if page.Name == project.Lost {
					continue
				}
				require.GreaterOrEqual(t, at, 0, "the page %s", page.Name)
				require.Equal(t, page.Title, got.Pages[at].Title)
				require.Equal(t, page.Description, got.Pages[at].Description)
				every := append(append(got.Pages[at].Every(), got.Top...), got.Bottom...)
				for _, b := range env.Site.All(page) {
					r, n := sameBlock(t, page.Name, b, every)
					right, all = right+r, all+n
				}
			}
			require.Greater(t, all, 40)
			require.GreaterOrEqual(t, float64(right), .995*float64(all), "%d of %d fields came back", right, all)
		})
	}
}

// sameBlock counts the fields of a block that came back as they were.
func sameBlock(t *testing.T, page string, b *site.Block, every []*adopt.Band) (right, all int) {
	at := slices.IndexFunc(every, func(x *adopt.Band) bool { return x.Name == b.Name })
	if at < 0 {
		t.Errorf("%s/%s is not found", page, b.Name)
		return 0, 1
	}
	x := every[at]
	require.Equal(t, b.Section, x.Section, "%s/%s", page, b.Name)
	require.True(t, x.Exact)
	if b.Tone != "plain" {
		require.Equal(t, b.Tone, x.Tone, "%s/%s", page, b.Name)
	}
	want, have := map[string]string{}, map[string]string{}
	leaves(want, "", b.Content)
	leaves(have, "", x.Content)
	for k, v := range want {
		if strings.HasSuffix(k, ".look") && have[k] == "" {
			continue
		}
		all++
		if have[k] == v {
			right++
		} else {
			t.Logf("%s/%s.%s: %q, not %q", page, b.Name, k, have[k], v)
		}
	}
	return right, all
}

// TestEverySectionIsReadBack composes each shipped section alone, with each choice of its options, and reads it back:
// the section, the choice, and every field that it shows.
func TestEverySectionIsReadBack(t *testing.T) {
	env := shelf(t)
	names := env.Library.Names()
	require.Greater(t, len(names), 100)
	for _, name := range names {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			sec := env.Library.Section(name)
			readBack(t, env, sec, "", "")
			for _, o := range sec.Options {
				if v := typed[o.Type]; v != "" && len(o.Sets) == 0 && sec.Measure(o.Name) == nil && v != o.Default {
					readBack(t, env, sec, o.Name, v)
				}
				if o.Type != "choice" || testing.Short() {
					continue
				}
				for _, c := range o.Choices {
					readBack(t, env, sec, o.Name, c)
				}
			}
		})
	}
}

// typed are values of options that are no choices.
var typed = map[string]string{"ratio": "3:5", "number": "7", "length": "13rem", "aspect": "7:3"}

func readBack(t *testing.T, env *project.Project, sec *library.Section, option, choice string) {
	t.Helper()
	alone, page := search.Alone(env, sec)
	page.Blocks[0].Name = "block"
	if option != "" {
		page.Blocks[0].Options[option] = site.NewText(choice)
	}
	made, problems := compose.Compose(alone, page, compose.Options{})
	for _, p := range problems {
		if p.Rule == "unknown-option" {
			t.Fatal(p.Text)
		}
	}
	got, err := adopt.Take(env, adopt.Wanted{Folder: fstest.MapFS{"index.html": {Data: []byte(made.HTML)},
		"site.css": {Data: []byte(made.Site.Text)}, "home.css": {Data: []byte(made.Own.Text)}}, Files: []string{"index.html"}})
	require.NoError(t, err)
	every := append(append(got.Pages[0].Bands, got.Top...), got.Bottom...)
	require.Len(t, every, 1)
	b := every[0]
	require.Equal(t, sec.Name, b.Section)
	require.True(t, b.Exact)
	said := map[string]string{}
	for _, e := range b.Options {
		said[e.Key] = e.Value.Str()
	}
	if o := sec.Option(option); o != nil && o.Type != "choice" {
		if strings.Contains(sec.CSS.Source, "var(--_"+option) {
			assert.Equal(t, choice, said[option], option)
		}
	} else if o != nil && choice != o.Default && told(sec, option, choice) {
		assert.Equal(t, choice, said[option], option)
	}
	for _, f := range sec.Fields {
		if f.Off || f.Type == library.Address || f.Type == library.Picture || f.Type == library.Switch ||
			slices.Contains(b.Without, f.Name) && f.Sample == "" {
			continue
		}
		if f.Type == library.ListOf && len(f.Samples) > 0 {
			list := b.Content.Get(f.Name)
			if assert.NotNil(t, list, "the list %s", f.Name) {
				assert.Len(t, list.Items, len(f.Samples), "the list %s", f.Name)
			}
		}
		if f.Type == library.RichText && f.Sample != "" && !wordField(sec, f.Name) {
			assert.Equal(t, f.Sample, b.Content.Get(f.Name).Str(), "the field %s", f.Name)
		}
	}
}

// told reports a choice that leaves a trace in what is built: a class, or none where all others leave one.
func told(sec *library.Section, option, choice string) bool {
	o := sec.Option(option)
	silent := 0
	for _, c := range o.Choices {
		if !styles.Ruled(sec, option, c) {
			silent++
		}
	}
	return styles.Ruled(sec, option, choice) || silent == 1
}

// wordField reports a field that says a word of the page's language.
func wordField(sec *library.Section, name string) bool {
	is := false
	markup.Each(sec.Root, func(n *html.Node) {
		is = is || markup.Value(n, "data-field") == name && markup.Has(n, "data-word")
	})
	return is
}

// TestStylesOfPartsComeBack builds a block with styles and takes it again: they are the block's, with tokens by their
// names and ranges and measured conditions as widths. What a page cannot say is told.
func TestStylesOfPartsComeBack(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	page := func(style string) *project.Project {
		return testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n",
			"pages/home.yaml": "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n    content: {heading: Prices, items: [{title: One, price: €1}, {title: Two, price: €2}]}\n" + style}))
	}
	for written, want := range map[string]string{
		`card: {padding: 2rem, border-radius: "{radius.card}"}`: `card: {padding: 2rem, border-radius: "{radius.card}"}`,
		`"card[2]": {background: red}`:                          `card[2]: {background: red}`,
		`"card[every 2]": {opacity: .9}`:                        `card[every 2]: {opacity: ".9"}`,
		`"card:hover": {opacity: .8}`:                           `card:hover: {opacity: ".8"}`,
		`"price at phone": {font-size: 3rem}`:                   `price at ..599: {font-size: 3rem}`,
		`"price at 700..900": {font-size: 3rem}`:                `price at 700..900: {font-size: 3rem}`,
		`"price at desktop": {font-size: 3rem}`:                 `price at 1024..: {font-size: 3rem}`,
		`"title in ..480": {color: red}`:                        `title in ..480: {color: red}`,
		`root: {gap: 3px}`:                                      `root: {gap: 3px}`,
		`"words when stacked": {color: red}`:                    `words in ..555: {color: red}`,
		`block: {outline: 1px solid}`:                           `block: {outline: 1px solid}`,
		"":                                                      "",
	} {
		style := ""
		if written != "" {
			style = "    style: {" + written + "}\n"
		}
		env := page(style)
		got := taken(t, env)
		require.Len(t, got.Pages[0].Bands, 1)
		b := got.Pages[0].Bands[0]
		is := ""
		if b.Style != nil {
			require.Len(t, b.Style.Entries, 1, written)
			is = b.Style.Entries[0].Key + ": " + b.Style.Entries[0].Value.String()
		}
		assert.Equal(t, want, is, written)
		assert.Empty(t, b.Lost, written)
		if want != "" { // and it can be said so
			again := page("    style: {\"" + b.Style.Entries[0].Key + "\": " + b.Style.Entries[0].Value.String() +
				"}\n")
			for _, l := range got.Against(got.Pages[0], laid(t, again)) {
				assert.Equal(t, []float64{1, 1}, l.Seen, written)
			}
		}
	}
	built, problems := build.Build(page(""), build.Options{})
	require.NoError(t, problems.Err())
	folder := fstest.MapFS{}
	for name, f := range built {
		folder[name] = &fstest.MapFile{Data: f.Data}
	}
	folder["home.css"].Data = append(folder["home.css"].Data, `@layer block{.home-plans-price{color:red;--x:1;top:1px!important}
@supports (top:0){.home-plans-card{color:red}} .home-plans-none{color:red} .home-plans-card,.x{color:red} .other{color:red}}`...)
	shelf, _, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	got, err := adopt.Take(shelf, adopt.Wanted{Folder: folder, Files: []string{"index.html"}})
	require.NoError(t, err)
	b := got.Pages[0].Bands[0]
	assert.Equal(t, `{price: {color: red}}`, b.Style.String())
	assert.Equal(t, []string{"the style of price --x", "the style of price top", "the style of card",
		"the style of none"}, b.Lost)
}

func laid(t testing.TB, env *project.Project) *sweep.Prepared {
	s, err := check.Lay(env, env.Site.Page("home"), nil)
	require.NoError(t, err)
	return s.Prepared
}
