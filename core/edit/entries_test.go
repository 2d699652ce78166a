package edit_test

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/edit"
	"ziegel/internal/testsite"
)

const entriesPage = `title: H
blocks:
  - name: why
    section: features/cards
    sample: ["items[2].text"]
    own: ["items[3].title", heading]
    content:
      items:
        - title: One
        - title: Two # the second
        - title: Three
    style:
      card[1]: {padding: 1px}
      card[3]:hover: {padding: 3px}
      card[odd]: {gap: 9px}
`

// What speaks of an entry by its position goes with it: marks and styles; what speaks of a place stays.
func TestWhatSpeaksOfAnEntryFollowsIt(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for _, tt := range []struct {
		name          string
		do            func(p *edit.Plan) error
		titles, marks string
		styles        string
	}{
		{"remove the first", func(p *edit.Plan) error { return edit.Remove(p, "home/why.items[1]") },
			"Two Three", "items[1].text; items[2].title heading", "card[2]:hover 3px, card[odd] 9px"},
		{"remove the second", func(p *edit.Plan) error { return edit.Remove(p, "home/why.card[2]") },
			"One Three", "; items[2].title heading", "card[1] 1px, card[2]:hover 3px, card[odd] 9px"},
		{"move the third first", func(p *edit.Plan) error {
			return edit.Move(p, "home/why.items[3]", edit.Spot{First: true}, "")
		}, "Three One Two", "items[3].text; items[1].title heading", "card[2] 1px, card[1]:hover 3px, card[odd] 9px"},
		{"copy the first", func(p *edit.Plan) error { return edit.Copy(p, "home/why.items[1]", "", "", edit.Spot{}) },
			"One One Two Three", "items[3].text; items[4].title heading",
			"card[1] 1px, card[4]:hover 3px, card[odd] 9px"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": entriesPage})
			apply(t, dir, tt.do)
			b := testsite.Open(t, dir).Site.Page("home").Blocks[0]
			var titles, styles []string
			for _, it := range b.Node.Get("content").Get("items").Items {
				titles = append(titles, it.Get("title").Str())
			}
			for _, e := range b.Style.Entries {
				styles = append(styles, e.Key+" "+e.Value.Entries[0].Value.Str())
			}
			marks := func(key string) string {
				var out []string
				if v := b.Node.Get(key); v != nil {
					for _, it := range v.Items {
						out = append(out, it.Str())
					}
				}
				return strings.Join(out, " ")
			}
			assert.Equal(t, tt.titles, strings.Join(titles, " "))
			assert.Equal(t, tt.marks, marks("sample")+"; "+marks("own"))
			assert.Equal(t, tt.styles, strings.Join(styles, ", "))
		})
	}
}

// A block that shows its samples takes them into the page before one of them goes.
func TestSamplesOfABlockStandInThePageBeforeOneGoes(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: why, section: features/cards}\n"})
	p := apply(t, dir, func(p *edit.Plan) error { return edit.Remove(p, "home/why.items[2]") })
	items := testsite.Open(t, dir).Site.Page("home").Blocks[0].Node.Get("content").Get("items").Items
	assert.Contains(t, p.Done, "removed home/why.items[2]")
	assert.Contains(t, read(t, dir, "pages/home.yaml"), "sample: [items]")
	full := testsite.Demo(t).Library.Section("features/cards").Field("items").Samples
	assert.Len(t, items, len(full)-1)
	assert.Equal(t, full[2].Get("title").Str(), items[1].Get("title").Str())
}

// The blocks of a page stand as they were named; the others follow.
func TestBlocksInOrder(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for want, by := range map[string][]string{
		"voices plans reasons opening": {"voices", "plans", "reasons", "opening"},
		"plans opening reasons voices": {"menu", "plans"},
		"reasons voices opening plans": {"reasons", "voices", "foot"},
	} {
		assert.Equal(t, strings.Fields(want), names(t, func(p *edit.Plan) error { return edit.Order(p, "home", by) }))
	}
}

// A name of a page is followed wherever it is spoken of, in the page itself, too; findings that are accepted stay so.
func TestWhatSpeaksOfAPageFollowsItsName(t *testing.T) {
	dir := testsite.Write(t, map[string]string{
		"ziegel.yaml":     "name: L\naccept:\n  - {rule: seam, at: b/c.words, because: meant}\n  - {rule: seam, at: b, because: meant}\n  - {rule: seam, at: bb, because: meant}\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: a, section: hero/beside, content: {lead: \"See [b](b#c) and [bb](bb).\", actions: [{label: B, to: b}, {label: C, to: b/c}, {label: D, to: bb}]}}\n",
		"pages/b.yaml":    "title: B\nblocks: # ours\n  - {name: c, section: hero/beside, content: {actions: [{label: Up, to: \"b#c\"}, {label: Here, to: \"#c\"}]}}\n",
		"pages/bb.yaml":   "title: BB\nblocks: []\n",
	})
	p := apply(t, dir, func(p *edit.Plan) error { return edit.RenamePage(p, "b", "shop") })
	assert.Contains(t, p.Done, "6 references followed")
	home := read(t, dir, "pages/home.yaml")
	assert.Contains(t, home, "See [b](shop#c) and [bb](bb).")
	assert.Contains(t, home, "to: shop}, {label: C, to: shop/c}, {label: D, to: bb}")
	assert.Contains(t, read(t, dir, "pages/shop.yaml"), `blocks: # ours`)
	assert.Contains(t, read(t, dir, "pages/shop.yaml"), `to: "shop#c"}, {label: Here, to: "#c"}`)
	assert.NoFileExists(t, filepath.Join(dir, "pages", "b.yaml"))
	assert.Contains(t, read(t, dir, "ziegel.yaml"), "at: shop/c.words")
	p = apply(t, dir, func(p *edit.Plan) error { return edit.Rename(p, "shop/c", "door") })
	assert.Contains(t, p.Done, "5 references followed")
	assert.Contains(t, read(t, dir, "ziegel.yaml"), "at: shop/door.words")
	assert.Contains(t, read(t, dir, "pages/shop.yaml"), `to: "shop#door"}, {label: Here, to: "#door"}`)
}
