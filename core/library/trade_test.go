package library_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/stock"
)

// workshop are words of the kite workshop whose samples the sections have in their files.
var workshop = regexp.MustCompile(
	`(?i)\b(kites?|larkspan|sailcloth|spars?|bridles?|reels?|rokkaku|delta|sew[sn]?|sewing|sewed|tail|fly|flies|flown|loft|tutors?)\b`,
)

// A site of another trade shows nothing of the workshop: every sample of every section is told anew.
func TestTradesTellEverySection(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	names := library.Trades(stock.Files)
	require.GreaterOrEqual(t, len(names), 3)
	shipped, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	for _, name := range names {
		trade, err := library.OpenTrade(stock.Files, name)
		require.NoError(t, err)
		assert.NotEmpty(t, trade.Summary)
		lib := shipped.Retold(trade)
		for _, s := range lib.All() {
			text := markup.TextOf(s.Root)
			assert.NotRegexp(t, workshop, text, "%s, %s", name, s.Name)
			for _, f := range s.Fields {
				if f.Type == library.Picture && f.Name != "mark" {
					assert.NotRegexp(t, workshop, f.Sample, "%s, %s.%s", name, s.Name, f.Name)
				}
			}
		}
	}
}

// What a trade says of a section goes before what it says of its kind, and that before what it says of all.
func TestTradeWords(t *testing.T) {
	files := fstest.MapFS{
		"trades/shop.yaml": {Data: []byte(`summary: a shop
pictures: [[a.jpg, A shelf]]
any: {heading: Of all, note: Small}
kinds: {hero: {heading: Of heroes, actions: [Buy], items: [{title: One, icon: bed, raised: "yes"}, {title: Two}]}}
sections: {hero/b: {heading: Of b}}
`)},
		"icons/bed.svg": {Data: []byte(`<svg viewBox="0 0 24 24"><path d="M1 1"/></svg>`)},
	}
	var photo bytes.Buffer
	require.NoError(t, jpeg.Encode(&photo, image.NewGray(image.Rect(0, 0, 90, 60)), nil))
	files["pictures/a.jpg"] = &fstest.MapFile{Data: photo.Bytes()}
	section := `<section class="lanes root"><h2 data-field="heading">H</h2><p data-field="note">N</p><p data-field="kept">K</p>
<img src="../../../pictures/x.svg" width="1" height="1" alt="x" style="object-position: 0 0" data-field="media">
<p><a data-each="actions" data-field=".">A</a> <a data-each="actions" data-field=".">B</a></p>
<ul><li class="c" data-each="items" data-flag="raised"><svg data-field="icon" data-icon="wind"><path d="M9"/></svg><b data-field="title">T</b></li>
<li class="c raised" data-each="items" data-flag="raised"><svg data-field="icon" data-icon="wind"><path d="M9"/></svg><b data-field="title">U</b></li>
<li class="c" data-each="items" data-flag="raised"><b data-field="title">V</b></li></ul></section>`
	for _, n := range []string{"a", "b"} {
		files["sections/hero/"+n+"/section.html"] = &fstest.MapFile{Data: []byte(section)}
		files["sections/hero/"+n+"/section.css"] = &fstest.MapFile{}
		files["sections/hero/"+n+"/section.yaml"] = &fstest.MapFile{
			Data: []byte("name: hero/" + n + "\nkind: hero\nsummary: s\n"),
		}
	}
	lib, problems := library.Load("sections", files)
	require.NoError(t, problems.Err())
	trade, err := library.OpenTrade(files, "shop")
	require.NoError(t, err)
	told := lib.Retold(trade)
	a, b := told.Section("hero/a"), told.Section("hero/b")
	assert.Equal(t, "Of heroes", a.Field("heading").Sample)
	assert.Equal(t, "Of b", b.Field("heading").Sample)
	assert.Equal(t, "Small", a.Field("note").Sample)
	assert.Equal(t, "K", a.Field("kept").Sample, "what a trade has no words for stays")
	assert.Equal(t, "A shelf", a.Field("media").Sample)
	assert.Len(t, a.Field("actions").Samples, 1, "no more than the trade has")
	require.Len(t, a.Field("items").Samples, 2)
	assert.Equal(t, "yes", a.Field("items").Samples[0].Get("raised").Str())
	assert.Nil(t, a.Field("items").Samples[1].Get("raised"))
	out := &strings.Builder{}
	markup.PrintNode(out, a.Root, 0)
	assert.Contains(t, out.String(), `src="../../../pictures/a.jpg" width="90" height="60"`)
	assert.NotContains(t, out.String(), "object-position")
	assert.Contains(t, out.String(), `data-icon="bed"><path d="M1 1"`)
}
