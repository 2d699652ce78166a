package edit_test

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/edit"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// plain turns a value into what JSON writes; maps lose their order, which says nothing.
func plain(v *site.Value) any {
	switch {
	case v == nil:
		return nil
	case v.Kind == site.List:
		out := []any{}
		for _, it := range v.Items {
			out = append(out, plain(it))
		}
		return out
	case v.Kind == site.Map:
		out := map[string]any{}
		for _, e := range v.Entries {
			out[e.Key] = plain(e.Value)
		}
		return out
	}
	return v.Text
}

// own is content of a section's own making: what its sample shows.
func own(t *testing.T, s *library.Section) map[string]any {
	t.Helper()
	out := map[string]any{}
	for _, f := range s.Fields {
		switch f.Type {
		case library.ListOf:
			out[f.Name] = plain(&site.Value{Kind: site.List, Items: f.Samples})
		case library.Link:
			out[f.Name] = map[string]any{"label": f.Sample, "to": "home"}
		case library.Picture:
			out[f.Name] = map[string]any{"file": "delta.svg", "alt": "A kite"}
		default:
			out[f.Name] = f.Sample
			if f.Type == library.Address && f.Sample == "" { // a frame or a film, which samples leave empty
				out[f.Name] = "home"
			}
		}
	}
	return out
}

// A block that becomes one of another section of its kind, and comes back, has all that it had, and no page is broken
// in between.
func TestReplacedBlocksLoseNothing(t *testing.T) {
	if testing.Short() {
		t.Skip("replaces every section by another of its kind")
	}
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	pairs := [][2]string{{"features/cards", "steps/line"}, {"hero/beside", "action/card"},
		{"testimonials/row", "team/grid"}, {"articles/cards", "portfolio/cards"}}
	kinds := map[string][]string{}
	for _, s := range lib.All() {
		if len(s.Slots) == 0 {
			kinds[s.Kind] = append(kinds[s.Kind], s.Name)
		}
	}
	for _, names := range kinds {
		others := min(1, len(names)-1) // in turn, so that each is left and each is taken
		if testsite.Thorough() {
			others = len(names) - 1
		}
		for i, a := range names {
			for k := range others {
				pairs = append(pairs, [2]string{a, names[(i+k+1)%len(names)]})
			}
		}
	}
	require.Greater(t, len(pairs), 40)
	for _, pair := range pairs {
		t.Run(pair[0]+" "+pair[1], func(t *testing.T) {
			t.Parallel()
			content, err := json.Marshal(own(t, lib.Section(pair[0])))
			require.NoError(t, err)
			content = bytes.ReplaceAll(content, []byte(`"to":"#"`), []byte(`"to":"home"`))
			dir := testsite.Write(t, map[string]string{
				"ziegel.yaml": "name: Larkspan\n",
				"pages/home.yaml": "title: Home\nblocks:\n  - name: b\n    section: " + pair[0] + "\n    content: " +
					string(content) + "\n",
			})
			block := func() *site.Block {
				e := testsite.Open(t, dir)
				_, problems = compose.Compose(e, e.Site.Page("home"), compose.Options{})
				require.NoError(t, problems.Err())
				return e.Site.Page("home").Blocks[0]
			}
			before := plain(block().Content)
			for _, section := range []string{pair[1], pair[0]} {
				apply(t, dir, func(p *edit.Plan) error { return edit.Replace(p, "home/b", section) })
				require.Equal(t, section, block().Section)
			}
			assert.Equal(t, before, plain(block().Content))
			assert.Nil(t, block().Parked)
		})
	}
}
