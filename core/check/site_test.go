package check_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// checkedSite lays the home page of a site out at a few widths. home and main are added to the files of one.
func checkedSite(t *testing.T, home, main string) (*project.Project, *check.Subject, *check.Report) {
	t.Helper()
	env := testsite.With(t, home, main)
	s := &check.Subject{Name: "home", Env: env}
	require.NoError(t, check.PrepareAll([]*check.Subject{s}))
	return env, s, check.Run(s.Prepared, s.Page, s.Problems, 380, 400)
}

// told gives the findings of a rule: "block.part severity: text".
func told(list []check.Finding, rule string) []string {
	var out []string
	for _, f := range list {
		if f.Rule == rule {
			out = append(out, strings.TrimSpace(fmt.Sprintf("%s %s: %s", strings.TrimSuffix(f.Block+"."+f.Part, "."),
				f.Severity, f.Text)))
		}
	}
	return out
}

const wideCard = `title: Kites
blocks:
  - name: plans
    section: pricing/plans
    style:
      card:
        min-width: 500px
`

// What a site accepts is set aside with its reason, at its page, block or part only; an entry that meets nothing is
// told.
func TestWhatASiteAcceptsIsSetAside(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	for at, want := range map[string][2]int{ // accepted, and left
		"":                    {1, 0},
		"at: home":            {1, 0},
		"at: home/plans":      {1, 0},
		"at: home/plans.card": {1, 0},
		"at: home/other":      {0, 1},
		"at: home/plans.text": {0, 1},
		"at: shop":            {0, 1},
	} {
		entry := "{rule: overflow-x, because: it is meant so, " + at + "}"
		if at == "" {
			entry = "{rule: overflow-x, because: it is meant so}"
		}
		env, _, r := checkedSite(t, wideCard, "accept:\n  - "+entry+"\n")
		require.Empty(t, check.CheckAccepted(env.Site))
		had := len(told(r.Findings, "overflow-x"))
		require.Equal(t, 1, had, at)
		used := make([]bool, len(env.Site.Accepted))
		all := len(r.Findings)
		r.Accept(env.Site.Accepted, used)
		assert.Len(t, r.Accepted, want[0], at)
		assert.Len(t, told(r.Findings, "overflow-x"), want[1], at)
		assert.Len(t, r.Findings, all-want[0], "nothing else goes")
		if want[0] > 0 {
			assert.Equal(t, "it is meant so", r.Accepted[0].Because)
			assert.Empty(t, check.Unused(env.Site, used))
		} else {
			unused := check.Unused(env.Site, used)
			require.Len(t, unused, 1, at)
			assert.Contains(t, unused[0].Cause.String(), "ziegel.yaml:")
		}
	}
}

// Bounds and severities that a site sets hold where it says; later entries win.
func TestASiteTunesRules(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const page = "title: Kites\nblocks:\n  - name: words\n    section: piece/text\n    content:\n      text: Short.\n    style:\n      text:\n        font-size: 11px\n"
	small := func(tune string) string {
		_, _, r := checkedSite(t, page, tune)
		list := told(r.Findings, "text-small")
		if len(list) == 0 {
			return ""
		}
		block, rest, _ := strings.Cut(list[0], " ")
		severity, _, _ := strings.Cut(rest, ":")
		return block + " " + severity
	}
	require.Equal(t, "words.text warning", small(""))
	for tune, want := range map[string]string{
		"{rule: text-small, limit: 10}":                                    "",
		"{rule: text-small, limit: 10, at: home/words.text}":               "",
		"{rule: text-small, limit: 10, at: home/other}":                    "words.text warning",
		"{rule: text-small, severity: error}":                              "words.text error",
		"{rule: text-small, severity: note, at: home/words}":               "words.text note",
		"{rule: text-small, limit: 10}\n  - {rule: text-small, limit: 12}": "words.text warning",
		"{rule: line-too-long, limit: 10}":                                 "words.text warning",
	} {
		tune = strings.ReplaceAll(tune, "}", ", because: so}")
		assert.Equal(t, want, small("tune:\n  - "+tune+"\n"), tune)
	}
}

func TestEntriesOfAcceptAndTuneThatCannotBeFollowedAreTold(t *testing.T) {
	for entry, want := range map[string]string{
		"accept:\n  - {rule: overflow-y, because: so}\n":          `there is no rule "overflow-y"`,
		"tune:\n  - {rule: text-smal, limit: 3, because: so}\n":   `there is no rule "text-smal"`,
		"tune:\n  - {rule: missing-alt, limit: 3, because: so}\n": "missing-alt has no limit that can be set",
		"tune:\n  - {rule: text-small, limit: 3, because: so}\n":  "",
		"accept:\n  - {rule: overflow-x, because: so}\n":          "",
	} {
		env := testsite.With(t, wideCard, entry)
		problems := check.CheckAccepted(env.Site)
		if want == "" {
			assert.Empty(t, problems, entry)
			continue
		}
		require.Len(t, problems, 1, entry)
		assert.Equal(t, want, problems[0].Text)
	}
	env := testsite.With(t, wideCard, "accept:\n  - {rule: overflow-y, because: so}\n")
	assert.Equal(t, "overflow-x", check.CheckAccepted(env.Site)[0].Try)
}

// Two checks of a page are compared by what a reader sees: arrangements, and findings by their words and widths.
func TestTwoChecksAreCompared(t *testing.T) {
	finding := func(rule, part string, from int) check.Finding {
		return check.Finding{Rule: rule, Block: "a", Part: part, From: from, To: from + 9, Text: "so"}
	}
	stack := func(as string) []sweep.Stacking {
		return []sweep.Stacking{{Name: "a", Arrangements: []sweep.Span{{From: 240, To: 900, As: as}},
			Inside: []sweep.Inside{{Part: "list", Arrangements: []sweep.Span{{From: 240, To: 900, As: "3"}}}}}}
	}
	was := &check.Report{Blocks: stack("1+1"), Findings: []check.Finding{finding("x", "p", 300), finding("y", "p",
		300)}}
	now := &check.Report{Blocks: append(stack("2"), sweep.Stacking{Name: "b", Arrangements: []sweep.Span{{From: 240,
		To: 900, As: "1"}}}),
		Findings: []check.Finding{finding("x", "p", 300), finding("y", "p", 301)}}
	d := check.Compare("home", was, now)
	require.Len(t, d.Moved, 2)
	assert.Equal(t, check.Moved{Block: "a", Was: was.Blocks[0].Arrangements, Now: now.Blocks[0].Arrangements},
		d.Moved[0])
	assert.Equal(t, "b", d.Moved[1].Block)
	assert.Empty(t, d.Moved[1].Was, "it was not there")
	assert.Equal(t, []check.Finding{finding("y", "p", 301)}, d.New)
	assert.Equal(t, []check.Finding{finding("y", "p", 300)}, d.Gone)
	same := check.Compare("home", was, was)
	assert.Empty(t, same.Moved)
	assert.Empty(t, same.New)
	assert.Empty(t, same.Gone)
	gone := check.Compare("home", was, nil)
	assert.Len(t, gone.Moved, 2, "the block and the list in it")
	assert.Len(t, gone.Gone, 2)
	assert.Len(t, check.Compare("home", nil, was).New, 2)
}

// A brief is held against the page: wishes that a block answers by its name, its section or its own heading are met.
func TestABriefIsHeldAgainstThePage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for brief, want := range map[string][]string{
		"[plans for courses, what people say]": {
			"warning: not met yet: what people say"},
		"[plans, {want: a map, block: map}]": {
			`warning: not met yet: a map (there is no block "map")`},
		"[{want: anything, block: plans}]": nil,
		"[our plans, more plans]": { // one block answers one wish
			"warning: not met yet: more plans"},
	} {
		_, _, r := checkedSite(t,
			"title: Kites\nbrief: "+brief+"\nblocks:\n  - name: plans\n    section: pricing/plans\n", "")
		var out []string
		for _, f := range r.Findings {
			if f.Rule == "brief" {
				out = append(out, string(f.Severity)+": "+f.Text)
			}
		}
		assert.Equal(t, want, out, brief)
	}
	_, _, r := checkedSite(t,
		"title: Kites\nbrief: [{want: anything, block: plans}]\nblocks:\n  - name: plans\n    section: pricing/plans\n  - name: more\n    section: piece/text\n", "")
	assert.Equal(t, []string{"more note: not in the brief"}, told(r.Findings, "brief"))
}

func TestWhatIsStillTheSamplesIsTold(t *testing.T) {
	_, s, r := checkedSite(t,
		"title: Kites\nblocks:\n  - name: words\n    section: piece/text\n    content:\n      text: Kites for wind.\n  - name: plans\n    section: pricing/plans\n", "")
	list := told(r.Findings, "sample-content")
	require.NotEmpty(t, list)
	assert.Contains(t, strings.Join(list, "\n"), "plans note: sample content: ")
	assert.NotContains(t, strings.Join(list, "\n"), "text", "what is written is no sample")
	assert.Equal(t, list, told(check.Unfinished(s.Prepared, s.Page, s.Problems), "sample-content"),
		"todo tells the same")
}

// What only the site can tell comes after the sweep: options that do nothing, and fonts that nothing brings.
func TestASiteKnowsMoreThanAPage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	env, s, r := checkedSite(t, `title: Kites
blocks:
  - name: plans
    section: pricing/plans
    options:
      columns at phone: "1"
    style:
      card:
        font-family: Nowhere Sans
`, "")
	require.Empty(t, told(r.Findings, "option-idle"))
	r.AddSite(env, review.MissingFonts(env), s.Page, s.Prepared)
	assert.Equal(t, []string{"plans warning: the option columns at phone=1 changes nothing with this content"},
		told(r.Findings, "option-idle"))
	require.Len(t, told(r.Findings, "font-missing"), 1)
	assert.Contains(t, told(r.Findings, "font-missing")[0], "Nowhere Sans")
	order := []string{}
	for _, f := range r.Findings {
		order = append(order, string(f.Severity))
	}
	assert.IsNonDecreasing(t, ranks(order), "worst first")
	idle := check.IdleOptions(env, s.Page, env.All(s.Page)[0], true)
	require.Len(t, idle, 1)
	assert.Equal(t, "columns at phone", idle[0].Key)
}

func ranks(list []string) []int {
	var out []int
	for _, s := range list {
		out = append(out, map[string]int{"error": 0, "warning": 1, "note": 2}[s])
	}
	return out
}

func TestASecondFooterIsTold(t *testing.T) {
	env, s, _ := checkedSite(t,
		"title: Kites\nblocks:\n  - name: end\n    section: footer/columns\n  - name: words\n    section: piece/text\n  - name: again\n    section: footer/columns\n", "")
	assert.Equal(t, []string{"the block again is a second footer of the page, after end"}, check.Doubled(env, s.Page))
}

// The page for addresses that do not exist is checked for what stops its build, once.
func TestPagesThatABuildAddsAreChecked(t *testing.T) {
	env := testsite.With(t, wideCard,
		"every-page:\n  bottom:\n    - name: end\n      section: footer/columns\n      content:\n        groups: [{title: More, links: [{label: Nowhere, to: nowhere}]}]\n")
	reports := check.Unwritten(env, nil)
	require.Len(t, reports, 1)
	assert.Equal(t, "404", reports[0].Page)
	require.NotEmpty(t, told(reports[0].Findings, "dead-link"))
	assert.Empty(t, check.Unwritten(env, reports), "told already")
	assert.Empty(t, check.Unwritten(testsite.With(t, wideCard), nil))
}

// One width can be looked at alone, as often as a hand drags the edge of a window.
func TestOneWidthIsLookedAt(t *testing.T) {
	_, s, _ := checkedSite(t, wideCard, "")
	scene := check.NewScene(s.Prepared)
	engine := s.Prepared.Engine()
	assert.NotEmpty(t, told(scene.At(engine.Layout(390)), "overflow-x"))
	assert.Empty(t, told(scene.At(engine.Layout(1600)), "overflow-x"))
	for _, f := range scene.At(engine.Layout(390)) {
		assert.Equal(t, []int{390, 390}, []int{f.From, f.To})
		assert.NotEqual(t, "note", string(f.Severity))
	}
}
