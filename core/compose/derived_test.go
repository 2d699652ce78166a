package compose_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/internal/testsite"
)

func built(t *testing.T, page, more string) (string, []string) {
	t.Helper()
	env := testsite.With(t, page, more)
	out, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
	var rules []string
	for _, p := range problems {
		rules = append(rules, p.Rule+": "+p.Text+" | "+p.Try)
	}
	return out.HTML, rules
}

// Entries whose field says the same have one class, in the order in which the texts come; letters' case does not count.
func TestKin(t *testing.T) {
	html, problems := built(t, `title: H
blocks:
  - name: works
    section: portfolio/filter
    content:
      kinds: [Boats, Houses]
      items:
        - {link: {label: a, to: home}, meta: houses}
        - {link: {label: b, to: home}, meta: Boats}
        - {link: {label: c, to: home}, meta: Bridges}
        - {link: {label: d, to: home}}
`, "")
	require.Empty(t, problems)
	got := regexp.MustCompile(`<(?:label|li) class="[^"]*__(?:kind|work)([^"]*)"`).FindAllStringSubmatch(html, -1)
	var kin []string
	for _, m := range got {
		kin = append(kin, regexp.MustCompile(`kin-\d`).FindString(m[1]))
	}
	assert.Equal(t, []string{"", "kin-1", "kin-2", "kin-2", "kin-1", "kin-3", ""}, kin)
}

// Bars are as long as their numbers: of the largest, or of a hundred where every number is a percentage.
func TestShares(t *testing.T) {
	for _, x := range []struct {
		figures string
		want    []string
	}{
		{"{figure: 50 t}, {figure: 200 t}, {figure: none}", []string{"25.0", "100.0", "0.0"}},
		{"{figure: 50 %}, {figure: 20%}", []string{"50.0", "20.0"}},
		{"{figure: \"1,500 m\"}, {figure: \"3 000 m\"}, {figure: \"€1.500,50\"}", []string{"50.0", "100.0", "50.0"}},
		{"{figure: \"0.125\"}, {figure: \"0,5\"}", []string{"25.0", "100.0"}},
		{"{figure: 150 %}, {figure: 10 %}", []string{"100.0", "10.0"}},
	} {
		html, problems := built(
			t,
			"title: H\nblocks:\n  - {name: b, section: statistics/bars, content: {items: ["+x.figures+"]}}\n",
			"",
		)
		require.Empty(t, problems)
		var got []string
		for _, m := range regexp.MustCompile(`--share: ([\d.]+)`).FindAllStringSubmatch(html, -1) {
			got = append(got, m[1])
		}
		assert.Equal(t, x.want, got, x.figures)
	}
}

// Two blocks of one section have choices of their own; in a form a choice keeps its name, by which it is sent.
func TestChoicesOfTwoBlocks(t *testing.T) {
	html, _ := built(
		t,
		"title: H\nblocks:\n  - {name: a, section: features/tabs}\n  - {name: b, section: features/tabs}\n"+
			"  - {name: c, section: features/fold}\n  - {name: d, section: gallery/zoom}\n",
		"",
	)
	assert.Contains(t, html, `name="a-tab"`)
	assert.Contains(t, html, `name="b-tab"`)
	assert.Contains(t, html, `<details class="features-fold__fold" name="c-folds"`)
	ids := map[string]int{}
	for _, m := range regexp.MustCompile(` id="([^"]*)"`).FindAllStringSubmatch(html, -1) {
		ids[m[1]]++
	}
	for id, n := range ids {
		assert.Equal(t, 1, n, id)
	}
	for _, m := range regexp.MustCompile(`popovertarget="([^"]*)"`).FindAllStringSubmatch(html, -1) {
		assert.Contains(t, ids, m[1])
	}
	assert.Contains(t, ids, "d-large-3", "the third picture has a dialog of its own")
}

// A frame or a film shows what the page names, from hosts that the site lists, and nothing of a sample.
func TestFrames(t *testing.T) {
	for _, x := range []struct{ section, field, value, more, attr, problem string }{
		{"video/frame", "frame", "https://player.example/4", "hosts: [player.example]\n",
			`src="https://player.example/4"`, ""},
		{"video/frame", "frame", "https://player.example/4", "", "",
			"foreign-address: the page would ask player.example for https://player.example/4, and the site does not list that host | hosts: [player.example]"},
		{"video/frame", "frame", "http://player.example/4", "hosts: [player.example]\n", "",
			"foreign-address: the page would ask player.example for http://player.example/4, and the site does not list that host | hosts: [player.example]"},
		{"video/frame", "frame", `""`, "", "", "frame-nowhere: the frame has no address to show | "},
		{"video/frame", "frame", "javascript:alert(1)", "", "",
			"dead-link: \"javascript:alert(1)\" is no address that a page may link to | "},
		{"video/file", "film", "media/none.mp4", "", "", "dead-link: there is no file media/none.mp4 | "},
	} {
		html, problems := built(
			t,
			"title: H\nblocks:\n  - {name: a, section: "+x.section+", content: {"+x.field+": "+x.value+"}}\n",
			x.more,
		)
		if x.problem == "" {
			assert.Empty(t, problems)
			assert.Contains(t, html, x.attr)
			continue
		}
		assert.Equal(t, []string{x.problem}, problems)
		assert.NotContains(t, html, "src=\"h")
	}
	html, _ := built(t, "title: H\nblocks:\n  - {name: a, section: video/frame}\n", "language: de\n")
	assert.NotContains(t, html, " src=\"h")
	assert.Contains(t, html, `title="Film"`)
}
