package site

import (
	"strings"
	"testing"
	"unicode/utf8"

	second "github.com/goccy/go-yaml"
	"github.com/stretchr/testify/require"
)

// odd are texts that YAML readers take for something else, or that have come back changed.
var odd = []string{"+_0", "-__1", "_0x1", "+.", "-_.5", "", " ", "a ", " a", "~", "null", "Null", "yes", "No", "on",
	"true", "1", "1.0", "0x1f", "1e3",
	"1_000", "0o17", ".5", ".inf", "-.INF", ".NaN", "12:30", "1:30:00", "2026-11-29", "<<", "=", "-", "- a", "?", "? a", ":", "a: b", "a:", "a :b", "#", "a #b", "a#b",
	"'", `"`, "''", `a"b`, "a'b", "[", "[a]", "{", "{a: b}", "}", ",", "a, b", "&a", "*a", "!a", "!!str a", "|", ">", "%a", "@a", "`a", "---", "--- a", "...", "... a", "\t", "a\tb", "\ta", "a\nb", "a\n", "\na", "a\n\nb", "a\n b", "  a\nb", "a\r\nb", "a\rb", "\u0085", "a\u0085b", "a\u2028b", "a\u2029b",
	"\ufeff", "a\ufeffb", "\u00a0", "a\u00a0", "\u200b", "é", "日本", "😀", "\\", `\n`, `a\`, "a\x01b", "\x7f", "\u0080", "\ufffe", "0", "-0", "+1", "0b1", "y", "n", "Y", "OFF", "a: |", "key: 'v'", "\"a\": b", "a\\\nb", strings.Repeat("long ", 60), strings.Repeat("x", 300)}

// wroteSame sets a text in a file and reads it back with our reader and with another one.
func wroteSame(t *testing.T, source, text string) {
	t.Helper()
	out, err := EditSource("p.yaml", source, set(text, "a"))
	if err != nil {
		return // refused, and nothing was changed
	}
	file, problems := parseFile("p.yaml", out)
	require.NoError(t, problems.Err(), "%q\n%s", text, out)
	require.Equal(t, text, file.Root.Get("a").Str(), "ours: %q\n%s", text, out)
	require.NotEqual(t, Null, file.Root.Get("a").Kind, "ours: %q\n%s", text, out)
	var other struct {
		A string `yaml:"a"`
		B string `yaml:"b"`
	}
	require.NoError(t, second.Unmarshal([]byte(out), &other), "the other: %q\n%s", text, out)
	require.Equal(t, text, other.A, "the other: %q\n%s", text, out)
	require.Equal(t, "kept", other.B)
}

func TestOddTextsAreReadAlikeByOthers(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, text := range odd {
		for name, source := range map[string]string{"plain": "a: x\nb: kept\n", "quoted": "a: \"x\"\nb: kept\n",
			"single": "a: 'x'\nb: kept\n", "block": "a: |\n  x\nb: kept\n", "flow": "{a: x, b: kept}\n", "new": "b: kept\n", "last": "b: kept\na: x"} {
			t.Run(name, func(t *testing.T) { wroteSame(t, source, text) })
		}
	}
}

// FuzzSecondReader holds the law: what an edit writes, every reader of YAML reads as it was meant.
func FuzzSecondReader(f *testing.F) {
	for _, text := range odd {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if !utf8.ValidString(text) || len(text) > 2000 {
			return
		}
		wroteSame(t, "a: x\nb: kept\n", text)
		wroteSame(t, "{a: x, b: kept}\n", text)
	})
}
