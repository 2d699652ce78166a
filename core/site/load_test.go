package site

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/diag"
)

// Each mistake in the site's file or a page has its rule, its place and a way out.
func TestEveryMistakeHasItsWords(t *testing.T) {
	const ok = "title: T\nblocks:\n  - {name: a, section: hero/beside}\n"
	for _, tt := range []struct {
		name, main, page string
		at, rule, text   string
		try              string
	}{
		{"an empty site file", "\n", ok, "ziegel.yaml:1:1", "empty-file", "the site file is empty", "name: Larkspan"},
		{"a list for a site", "- a\n", ok, "ziegel.yaml:1:1", "wrong-type", "the site file is a list", ""},
		{"an address without a scheme", "name: L\naddress: larkspan.example\n", ok, "ziegel.yaml:2:10", "wrong-type",
			"the address is not a web address", "https://larkspan.example"},
		{"a language that is none", "name: L\nlanguage: english!\n", ok, "ziegel.yaml:2:11", "wrong-type",
			`"english!" is not a language tag`, ""},
		{"a range without widths", "name: L\nranges: {phone: small}\n", ok, "ziegel.yaml:2:17", "bad-range",
			`the range "phone" has no widths`, ""},
		{"a shared look's name", "name: L\nlooks: {Lifted: {padding: 1rem}}\n", ok, "ziegel.yaml:2:9", "bad-name",
			`"Lifted" cannot be the name of a shared look`, ""},
		{"a shared look that is a text", "name: L\nlooks: {lifted: high}\n", ok, "ziegel.yaml:2:17", "wrong-type",
			"the shared look lifted is a text", ""},
		{"an acceptance without a reason", "name: L\naccept: [{rule: lone-item}]\n", ok, "ziegel.yaml:2:10",
			"missing-key", "an accepted finding needs a rule and a reason", ""},
		{"a limit that is no number", "name: L\ntune: [{rule: line-too-long, limit: wide, because: so}]\n", ok,
			"ziegel.yaml:2:37", "wrong-type", `the limit "wide" is no number`, ""},
		{"a severity that is none", "name: L\ntune: [{rule: line-too-long, severity: erorr, because: so}]\n", ok,
			"ziegel.yaml:2:40", "wrong-type", `there is no severity "erorr"`, "error"},
		{"a tuning without a reason", "name: L\ntune: [{rule: line-too-long, limit: 90}]\n", ok, "ziegel.yaml:2:8",
			"missing-key", "a tuned rule needs a rule", ""},
		{"a third place on every page", "name: L\nevery-page: {middle: []}\n", ok, "ziegel.yaml:2:14", "unknown-key",
			`every-page has no "middle"`, ""},
		{"a block in two places", "name: L\nevery-page: {top: [{name: a, section: nav/bar}]}\n", ok,
			"pages/home.yaml:3:12", "duplicate-name", `a second block is called "a"`, "a-2"},
		{"a page that is a text", "name: L\n", "words\n", "pages/home.yaml:1:1", "wrong-type", "a page is a text", ""},
		{"a block that is a text", "name: L\n", "title: T\nblocks: [hero/beside]\n", "pages/home.yaml:2:10",
			"wrong-type", "a block is a text", ""},
		{"an empty block", "name: L\n", "title: T\nblocks:\n  -\n", "pages/home.yaml:3:4", "wrong-type",
			"a block without anything in it", ""},
		{"a block without a name", "name: L\n", "title: T\nblocks: [{section: hero/beside}]\n", "pages/home.yaml:2:10",
			"missing-key", "a block without a name", "name: hero"},
		{"a block without a section", "name: L\n", "title: T\nblocks: [{name: a}]\n", "pages/home.yaml:2:10",
			"missing-key", "a block without a section", ""},
		{"a switch", "name: L\n", "title: T\nblocks: [{name: a, section: hero/beside, draft: maybe}]\n",
			"pages/home.yaml:2:49", "bad-value", `draft cannot be "maybe"`, "yes"},
		{"turns that are a text", "name: L\nturns: {tone: plain}\n", ok, "ziegel.yaml:2:15", "wrong-type",
			"the turns of tone is a text", ""},
		{"a wish with another key", "name: L\n", "title: T\nbrief: [{wants: three reasons}]\n", "pages/home.yaml:2:10",
			"unknown-key", `a wish has no "wants"`, "want"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			s, problems, err := Open(write(t, map[string]string{"ziegel.yaml": tt.main, "pages/home.yaml": tt.page}))
			require.NoError(t, err)
			problems = append(problems, s.Problems()...).Sorted()
			var told []string
			for _, p := range problems {
				told = append(told, p.String())
				if p.Rule == tt.rule && strings.HasPrefix(p.Text, tt.text) {
					assert.Equal(t, tt.at, p.Position.String())
					assert.Equal(t, tt.try, p.Try)
					return
				}
			}
			assert.Fail(t, "not told", strings.Join(told, "\n"))
		})
	}
}

func TestBlocksStandInEachOtherAFewDeep(t *testing.T) {
	deep := func(n int) diag.Problems {
		yaml := "{name: b0, section: piece/text}"
		for i := range n {
			yaml = "{name: h" + strings.Repeat("i", i) + ", section: layout/side, holds: {main: [" + yaml + "]}}"
		}
		s, problems, err := Open(write(t, map[string]string{"ziegel.yaml": "name: L\n",
			"pages/home.yaml": "title: T\nblocks: [" + yaml + "]\n"}))
		require.NoError(t, err)
		problems = append(problems, s.Problems()...).Sorted()
		return problems
	}
	assert.NoError(t, deep(4).Err())
	problems := deep(5)
	require.Error(t, problems.Err())
	assert.Equal(t, "too-deep", problems[0].Rule)
}

// A page takes out blocks of every page, or gives them other content; others keep theirs.
func TestPagesChangeWhatStandsOnAllOfThem(t *testing.T) {
	s, problems, err := Open(write(t, map[string]string{
		"ziegel.yaml":        "name: L\nevery-page: {top: [{name: line, section: announcement/line}, {name: menu, section: nav/bar, content: {brand: {label: L, to: home}}}], bottom: [{name: foot, section: footer/line}]}\n",
		"pages/home.yaml":    "title: T\nleave-out: [line]\noverride: {foot: {legal: Only here}}\nblocks: [{name: a, section: hero/beside}]\n",
		"pages/courses.yaml": "title: C\nblocks: []\n",
	}))
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	names := func(page string) string {
		var out []string
		for _, b := range s.All(s.Page(page)) {
			out = append(out, b.Name)
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "menu a foot", names("home"))
	assert.Equal(t, "line menu foot", names("courses"))
	assert.Equal(t, "Only here", s.Block(s.Page("home"), "foot").Content.Get("legal").Str())
	assert.Nil(t, s.Block(s.Page("courses"), "foot").Content.Get("legal"))
	assert.Equal(t, []string{"courses", "home"}, s.PageNames())
	assert.Nil(t, s.Page("nothing"))
	for text, place := range map[string]string{"leave-out: [lines]": "2:13", "override: {mneu: {brand: L}}": "2:12"} {
		s, _, err := Open(write(t,
			map[string]string{"ziegel.yaml": "name: L\nevery-page: {top: [{name: line, section: a/b}, {name: menu, section: nav/bar}]}\n", "pages/home.yaml": "title: T\n" + text + "\nblocks: []\n"}))
		require.NoError(t, err)
		problems := s.Problems()
		require.Len(t, problems, 1, text)
		assert.Equal(t, "unknown-block", problems[0].Rule)
		assert.Equal(t, "pages/home.yaml:"+place, problems[0].Position.String())
		assert.Contains(t, []string{"line", "menu"}, problems[0].Try)
	}
}

// Files that grow when they are read are refused where they begin to: by place, with the limit.
func TestBombsOfYAMLHaveAPlace(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	bomb := "a: &a [x, x, x, x, x, x, x, x, x, x]\n"
	for i := 'b'; i < 'j'; i++ {
		bomb += fmt.Sprintf("%c: &%c [*%c, *%c, *%c, *%c, *%c, *%c, *%c, *%c, *%c, *%c]\n", i, i, i-1, i-1, i-1, i-1,
			i-1, i-1, i-1, i-1, i-1, i-1)
	}
	for text, want := range map[string]string{
		bomb:                                "too-large",
		"a: " + strings.Repeat("[", 100000): "too-deep",
		"a: " + strings.Repeat("{a: ", 300) + "x" + strings.Repeat("}", 300): "too-deep",
		"title: " + strings.Repeat("ha [", 500):                              "",
		"title: fine\nblocks: []\n":                                          "",
	} {
		f, problems := ReadFile("pages/a.yaml", text)
		if want == "" {
			assert.Empty(t, problems, "brackets in a text are letters")
			assert.Equal(t, Map, f.Root.Kind)
			continue
		}
		if assert.Len(t, problems, 1, text[:20]) {
			assert.Equal(t, want, problems[0].Rule)
			assert.Positive(t, problems[0].Line)
			assert.Greater(t, problems[0].Column, 1)
		}
	}
}
