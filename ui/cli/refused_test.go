package cli

import (
	"bytes"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write testdata/refused.txt anew")

// wrongArguments are tried with every command.
var wrongArguments = [][]string{{"--nope"}, {"one", "two", "three", "four", "five", "six"}, {""}, {"home/nope"},
	{"nope/opening"}, {"home/opening.nope"}, {"home/plans.card[99]"}, {"home/plans.items[99]"}, {"../x"}, {"\xff"},
	{"home/opening", "="}, {"home", "--site", "nowhere"}}

// wrongFiles are files of a site with a mistake in each, by path.
var wrongFiles = []struct{ name, text string }{
	{"pages/home.yaml", ""}, {"pages/home.yaml", "title: [a\n"}, {"pages/home.yaml",
		"title: a\n\ttitle: b\n"}, {"pages/home.yaml", "- a\n"}, {"pages/home.yaml", "title: a\ntitle: b\n"}, {"pages/home.yaml", "titel: a\n"},
	{"pages/home.yaml", "blocks: a\n"}, {"pages/home.yaml", "blocks: [a]\n"}, {"pages/home.yaml",
		"blocks: [{}]\n"}, {"pages/home.yaml", "blocks: [{section: hero/beside}]\n"}, {"pages/home.yaml", "blocks: [{name: a}]\n"},
	{"pages/home.yaml", "blocks: [{name: A, section: hero/beside}]\n"}, {"pages/home.yaml",
		"blocks: [{name: a, section: hero/besid}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside}, {name: a, section: hero/alone}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, content: {headin: x}}]\n"}, {"pages/home.yaml",
		"blocks: [{name: a, section: hero/beside, content: []}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, options: {nope: 1}}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, options: {media: up}}]\n"}, {"pages/home.yaml",
		"blocks: [{name: a, section: hero/beside, tone: pink}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, above: 3}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, lane: huge}]\n"}, {"pages/home.yaml",
		"blocks: [{name: a, section: hero/beside, without: [nope]}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, style: {nope: {color: red}}}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, style: {words: {colr: red}}}]\n"}, {"pages/home.yaml",
		"blocks: [{name: a, section: hero/beside, style: {words: {color: '#zzz'}}}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, style: {words: {color: '{color.nope}'}}}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, style: {'words at fone': {color: red}}}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, ground: {picture: nope.svg}}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, ground: red}]\n"},
	{"pages/home.yaml", "blocks: [{name: a, section: hero/beside, content: {media: {file: nope.svg}}}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, content: {actions: [{label: x, to: nowhere}]}}]\n"}, {"pages/home.yaml", "blocks: [{name: a, section: hero/beside, content: {actions: [{label: x, to: 'javascript:1'}]}}]\n"},
	{"pages/home.yaml", "a: &a [*a]\n"}, {"pages/home.yaml", "a: *b\n"}, {"pages/home.yaml",
		"title: caf\xe9\n"}, {"pages/home.yaml", "title: a\x00b\n"}, {"pages/home.yaml", "a: {b: {c: {d\n"}, {"pages/home.yaml", "title: a\n---\ntitle: b\n"}, {"pages/home.yaml", "leave-out: [nope]\nblocks: []\n"},
	{"pages/home.yaml", "override: {nope: {brand: x}}\nblocks: []\n"}, {"pages/home.yaml",
		"picture: nope.jpg\nblocks: []\n"}, {"pages/Bad Name.yaml", "title: a\n"}, {"pages/site.yaml", "title: a\n"},
	{"ziegel.yaml", ""}, {"ziegel.yaml", "[]\n"}, {"ziegel.yaml", "name: L\nnope: 1\n"}, {"ziegel.yaml",
		"name: L\ntheme: nope\n"}, {"ziegel.yaml", "name: L\naddress: x\n"}, {"ziegel.yaml", "name: L\nlanguage: 12\n"}, {"ziegel.yaml", "name: L\nranges: [a]\n"},
	{"ziegel.yaml", "name: L\nhosts: ['https://x.example']\n"}, {"ziegel.yaml",
		"name: L\nlooks: {a: {color: '#zzz'}}\n"}, {"ziegel.yaml", "name: L\ndefaults: {hero/nope: {tone: deep}}\n"}, {"ziegel.yaml", "name: L\nfavicon: nope.svg\n"}, {"ziegel.yaml", "name: L\nevery-page: {middle: []}\n"},
	{"theme.tokens.json", ""}, {"theme.tokens.json", "{"}, {"theme.tokens.json", "[]"}, {"theme.tokens.json",
		"{}"}, {"theme.tokens.json", `{"a": 1}`}, {"theme.tokens.json", `{"a": {"$type": "color", "$value": "nope"}}`}, {"theme.tokens.json", `{"a": {"$type": "dimension", "$value": "{b}"}}`},
	{"sections/own/x/section.html", "<p>x"}, {"sections/x/section.html", ""},
}

// TestWhatIsRefused tries every command with arguments that it cannot take, and sites with mistakes, and compares
// what comes back with a table: exit code, first line of the message. Nothing panics, and every message is a
// sentence.
func TestWhatIsRefused(t *testing.T) {
	if testing.Short() {
		t.Skip("runs every command many times")
	}
	root := t.TempDir()
	demo := filepath.Join(root, "demo")
	require.NoError(t, writeDemo(demo, "demo"))
	paths := regexp.MustCompile(regexp.QuoteMeta(root) + `[^ :]*/`)
	var lines []string
	run := func(n int, label string, args []string, change func(dir string)) {
		dir := filepath.Join(root, fmt.Sprint(n), "larkspan")
		require.NoError(t, os.CopyFS(dir, os.DirFS(demo)))
		if change != nil {
			change(dir)
		}
		t.Chdir(dir)
		var out, err bytes.Buffer
		code := Run(args, strings.NewReader(""), &out, &err)
		first, _, _ := strings.Cut(strings.TrimSpace(err.String()), "\n")
		first = paths.ReplaceAllString(strings.ToValidUTF8(first, "?"), "DIR/")
		assert.NotContains(t, err.String(), "the program has failed", label)
		if code != 0 {
			assert.NotEmpty(t, first, "%s: refused without a word", label)
		}
		lines = append(lines, fmt.Sprintf("%d | %s | %s", code, label, first))
		t.Chdir(root)
		_ = os.RemoveAll(filepath.Dir(dir))
	}
	n := 0
	for _, c := range (&app{}).root().Commands() {
		if c.Name() == "preview" || c.Name() == "help" || c.Name() == "completion" || c.Hidden {
			continue
		}
		for _, args := range wrongArguments {
			n++
			run(n, fmt.Sprintf("%s %+q", c.Name(), args), append([]string{c.Name()}, args...), nil)
		}
	}
	for _, f := range wrongFiles {
		n++
		label := fmt.Sprintf("%s with %+q", f.name, f.text)
		run(n, label, []string{"build"}, func(dir string) {
			at := filepath.Join(dir, filepath.FromSlash(f.name))
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o777))
			require.NoError(t, os.WriteFile(at, []byte(f.text), 0o666))
		})
	}
	text := strings.Join(lines, "\n") + "\n"
	if *update {
		require.NoError(t, os.MkdirAll(filepath.Dir(tableAt), 0o777))
		require.NoError(t, os.WriteFile(tableAt, []byte(text), 0o666))
		return
	}
	want, err := os.ReadFile(tableAt)
	require.NoError(t, err)
	assert.Equal(t, strings.Split(string(want), "\n"), strings.Split(text, "\n"))
	require.Greater(t, len(lines), 250)
}

// tableAt is the table, wherever a test has gone meanwhile.
var tableAt = func() string { at, _ := filepath.Abs("testdata/refused.txt"); return at }()
