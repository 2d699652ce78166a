package site

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func set(v string, steps ...any) Edit { return Edit{Op: Set, Path: Keys(steps...), Value: NewText(v)} }

func TestEditsChangeOnlyTheirBytes(t *testing.T) {
	tests := []struct {
		name, in string
		edit     Edit
		want     string
	}{
		{"a plain value", "a: 1.50 # price\nb: x\n", set("1.75", "a"), "a: 1.75 # price\nb: x\n"},
		{"quotes stay as they were", "a: 'it''s'\nb: \"x\\ty\"\n", set("that's", "a"), "a: 'that''s'\nb: \"x\\ty\"\n"},
		{"a value that needs quotes gets them", "a: x\n", set("#how: now", "a"), "a: \"#how: now\"\n"},
		{"flow style", "a: {b: 1, c: [x, y]}\n", set("z, w", "a", "c", 1), "a: {b: 1, c: [x, \"z, w\"]}\n"},
		{"a key in flow style", "a: {b: 1} # end\n", set("2", "a", "c"), "a: {b: 1, c: 2} # end\n"},
		{"CRLF", "a: 1\r\nb:\r\n  c: 2\r\n", set("3", "b", "d"), "a: 1\r\nb:\r\n  c: 2\r\n  d: 3\r\n"},
		{"no final newline", "a: 1\nb: 2", set("3", "c"), "a: 1\nb: 2\nc: 3"},
		{"Unicode before the value", "größe: \"é\"\nnäme: äöü # ü\n", set("ñ", "näme"), "größe: \"é\"\nnäme: ñ # ü\n"},
		{"comments everywhere", "# top\na: # why\n  # inner\n  b: 1 # one\n  # tail\nc: 2\n", set("9", "a", "b"),
			"# top\na: # why\n  # inner\n  b: 9 # one\n  # tail\nc: 2\n"},
		{"a literal block", "a: |\n  one\n  two\nb: x\n", set("three", "a"), "a: three\nb: x\n"},
		{"a literal block in a list", "l:\n  - t: >-\n      folded\n      text\n    u: 1\n  - t: b\n",
			set("now", "l", 0, "t"), "l:\n  - t: now\n    u: 1\n  - t: b\n"},
		{"a text over several lines", "a: one\n  two\n  three\nb: 2\n", set("short", "a"), "a: short\nb: 2\n"},
		{"a key without a value", "a:\nb: 2\n", set("1", "a"), "a: 1\nb: 2\n"},
		{"a path that is not there", "a: 1\n", set("x", "b", "c", "d"), "a: 1\nb:\n  c: {d: x}\n"},
		{"a list that is not indented", "l:\n- a\n- b\nz: 1\n", set("c", "l", 2), "l:\n- a\n- b\n- c\nz: 1\n"},
		{"an anchored value nobody uses", "a: &x 1\nb: 2\n", set("3", "a"), "a: &x 3\nb: 2\n"},
		{"an alias takes a value of its own", "a: &x 1\nb: *x\n", set("2", "b"), "a: &x 1\nb: 2\n"},
		{"an empty file", "", set("x", "title"), "title: x\n"},
		{"only a comment", "# nothing yet\n", set("x", "title"), "# nothing yet\ntitle: x\n"},
		{"a value with a backslash and quotes", "a: x\n", set(`say "\n"`, "a"), "a: say \"\\n\"\n"},
		{"an empty text", "a: x\n", set("", "a"), "a: \"\"\n"},
		{"words that YAML reads as something else", "a: x\n", set("null", "a"), "a: \"null\"\n"},
		{"delete a key", "a: 1\nb: 2 # gone\nc: 3\n", Edit{Op: Delete, Path: Keys("b")}, "a: 1\nc: 3\n"},
		{"delete the first key of a list entry", "l:\n  - a: 1\n    b: 2\n", Edit{Op: Delete, Path: Keys("l", 0, "a")},
			"l:\n  - b: 2\n"},
		{"delete the only key", "a:\n  b: 1\nc: 2\n", Edit{Op: Delete, Path: Keys("a", "b")}, "a: {}\nc: 2\n"},
		{"delete in flow style", "a: {b: 1, c: 2}\n", Edit{Op: Delete, Path: Keys("a", "b")}, "a: {c: 2}\n"},
		{"delete a list item with its comment", "l:\n  # first\n  - a\n  # second\n  - b\n  - c\n",
			Edit{Op: Delete, Path: Keys("l", 1)}, "l:\n  # first\n  - a\n  - c\n"},
		{"move a list item with its comment", "l:\n  - a: 1\n    x: 1\n  # about b\n  - b: 2\n  - c: 3\n",
			Edit{Op: Move, Path: Keys("l", 1), Index: 2}, "l:\n  - a: 1\n    x: 1\n  - c: 3\n  # about b\n  - b: 2\n"},
		{"move to the front", "l:\n  - a\n  - b\n", Edit{Op: Move, Path: Keys("l", 1), Index: 0}, "l:\n  - b\n  - a\n"},
		{"move without a final newline", "l:\n  - a\n  - b", Edit{Op: Move, Path: Keys("l", 0), Index: 1},
			"l:\n  - b\n  - a"},
		{"insert before", "l:\n  - a\n  - b\n", Edit{Op: Insert, Path: Keys("l"), Index: 1, Value: NewText("x")},
			"l:\n  - a\n  - x\n  - b\n"},
		{"insert in flow style", "l: [a, b]\n", Edit{Op: Insert, Path: Keys("l"), Index: 2, Value: NewText("x")},
			"l: [a, b, x]\n"},
		{"rename a key", "a:\n  old name: 1 # n\n", Edit{Op: Rename, Path: Keys("a", "old name"),
			Value: NewText("new")}, "a:\n  new: 1 # n\n"},
		{"a merge key stays", "d: &d {x: 1}\na:\n  <<: *d\n  y: 2\n", set("3", "a", "y"),
			"d: &d {x: 1}\na:\n  <<: *d\n  y: 3\n"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			got, err := EditSource("p.yaml", tt.in, tt.edit)
			require.NoError(t, err)
			assert.Equal(t, tt.want, got)
		})
	}
}

func TestAnEditThatWouldTouchMoreIsRefused(t *testing.T) {
	for _, in := range []string{"a: &x {k: 1}\nb: *x\n", "a: &x 1\nb: *x\n"} {
		path := Keys("a")
		if strings.Contains(in, "k") {
			path = Keys("b", "k")
		}
		_, err := EditSource("p.yaml", in, Edit{Op: Set, Path: path, Value: NewText("2")})
		assert.ErrorContains(t, err, "nothing was written", in)
	}
}

// FuzzEdit holds the law: an edit either fails and says so, or the file holds the old content plus exactly that
// change.
func FuzzEdit(f *testing.F) {
	for _, s := range []string{"a: 1\nb: [x, {y: z}]\n", "a: |\n  t\n\nb: 'x'\n", "- a\n- b: c\n  d: >\n    e\n",
		"a: &b c\nd: *b\n", "{a: \"\\u00e9\", b: [1,2]}", "a:\r\n  - b # c\r\n"} {
		f.Add(s, "new: value", uint8(3))
	}
	f.Fuzz(func(t *testing.T, source, value string, pick uint8) {
		file, problems := parseFile("f.yaml", source)
		if problems.Err() != nil || len(source) > 4096 || strings.ContainsAny(value, "\x00\r\ufeff") {
			return
		}
		var paths []Path
		var walk func(v *Value, at Path)
		walk = func(v *Value, at Path) {
			for _, e := range v.Entries {
				paths = append(paths, Keys(at, e.Key))
				walk(e.Value, Keys(at, e.Key))
			}
			for i, it := range v.Items {
				paths = append(paths, Keys(at, i))
				walk(it, Keys(at, i))
			}
		}
		walk(file.Root, nil)
		if len(paths) == 0 {
			return
		}
		e := Edit{Op: Set, Path: paths[int(pick)%len(paths)], Value: NewText(value)}
		if pick%3 == 0 {
			e = Edit{Op: Delete, Path: e.Path}
		}
		out, err := EditSource("f.yaml", source, e)
		if err != nil {
			return
		}
		g, problems := parseFile("f.yaml", out)
		require.NoError(t, problems.Err(), out)
		want := file.Root.Clone()
		require.NoError(t, Apply(want, e))
		require.True(t, normal(want).Equal(normal(g.Root)), "%q\n%q\n%s", source, out, e.Path)
	})
}

// FuzzParse holds the law: positions lie in the file, and nothing panics.
func FuzzParse(f *testing.F) {
	f.Add("a: b\n c: [")
	f.Add("\xff\xfe")
	f.Add("a: *b")
	f.Add("\r\r00")
	f.Add("a: b\u2028c\nd: [\u0085e]")
	f.Add("a: 1\n---\n\rb: 2")
	f.Fuzz(func(t *testing.T, source string) {
		file, problems := parseFile("f.yaml", source)
		lines := strings.Count(source, "\n") + 2
		for _, p := range problems {
			assert.LessOrEqual(t, p.Line, lines)
		}
		var walk func(v *Value)
		walk = func(v *Value) {
			assert.LessOrEqual(t, v.Pos.Line, lines)
			for _, e := range v.Entries {
				walk(e.Value)
			}
			for _, it := range v.Items {
				walk(it)
			}
		}
		if file.Root != nil {
			walk(file.Root)
		}
	})
}

// A text of several lines comes back as it was, whatever it ends with, in a block and in a list, with either end of
// line.
func TestTextsOfSeveralLines(t *testing.T) {
	for _, text := range []string{"a\nb", "a\nb\n", "a\n\nb\n", "a\n\n", "\na", "  a\nb", "a\n  b",
		"a: b\n# c\n- d\n", "---\na\n"} {
		for i, from := range []string{"a: x # old\nl:\n  - y\nz: 1\n", "a: x # old\nl:\n  - y\nz: 1\n",
			"a: |\n  one\n  two\nl:\n  - |-\n    y\n    z\nz: 1\n", "a: >\n  one\n\n  two\nl:\n  - >+\n    y\n\nz: 1\n"} {
			eol := []string{"\n", "\r\n"}[i%2]
			in := strings.ReplaceAll(from, "\n", eol)
			out, err := EditSource("pages/home.yaml", in, set(text, "a"), set(text, "l", 0), set(text, "new"),
				set(text, "deep", "in"))
			require.NoError(t, err, "%q", text)
			f, problems := ReadFile("pages/home.yaml", out)
			require.NoError(t, problems.Err(), out)
			assert.Equal(t, text, f.Root.Get("a").Text, "%q in %q", text, out)
			assert.Equal(t, text, f.Root.Get("l").Items[0].Text, "%q in %q", text, out)
			assert.Equal(t, text, f.Root.Get("new").Text, "%q in %q", text, out)
			assert.Equal(t, text, f.Root.Get("deep").Get("in").Text, "%q in %q", text, out)
			assert.Equal(t, "1", f.Root.Get("z").Text)
		}
	}
}
