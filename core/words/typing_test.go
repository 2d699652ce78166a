package words_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/words"
)

func TestTypingIsTidiedByLanguage(t *testing.T) {
	for _, c := range []struct{ tag, text, want, did string }{
		{"en", `She said "now" - and it's up...`, "She said “now” – and it’s up…", "ellipsis, dash, quotes"},
		{"de", `Er sagte "jetzt" -- und flog.`, "Er sagte „jetzt“ – und flog.", "dash, quotes"},
		{"de-CH", `"Ja"`, "„Ja“", "quotes"},
		{"fr", `Il a dit "oui" ! Et 12 000 m ?`, "Il a dit «\u00a0oui\u00a0»\u202f! Et 12\u202f000\u00a0m\u202f?",
			"space before a unit, thin space in a number, quotes, space before a mark"},
		{"en", "A kite of 90 cm, 5 kg and 20 %", "A kite of 90\u00a0cm, 5\u00a0kg and 20\u00a0%",
			"space before a unit"},
		{"en", "(c) 2026 Larkspan", "© 2026 Larkspan", "copyright sign"},
		{"en", "A 5\" spar and a 6\" one", "A 5\" spar and a 6\" one", ""},
		{"en", "one \" alone", "one \" alone", ""},
		{"en", "`a \"b\" ...` and [x](a--b) and https://a.example/--x and a--b@c.example",
			"`a \"b\" ...` and [x](a--b) and https://a.example/--x and a--b@c.example", ""},
		{"en", "well-known 3-5 Made for _real_ wind", "well-known 3-5 Made for _real_ wind", ""},
		{"tlh", `"a"`, `"a"`, ""},
		{"en", "+00 555 0142", "+00 555 0142", ""},
	} {
		got, did := words.Tidy(c.text, c.tag)
		assert.Equal(t, c.want, got)
		assert.Equal(t, c.did, strings.Join(did, ", "), c.text)
	}
}

// FuzzTidy: a tidy text stays as it is, and no letter or digit is lost.
func FuzzTidy(f *testing.F) {
	for _, s := range append(nasty, `"a" 'b' it's 5 kg 12 000 -- ...`, "((c) 2026") {
		f.Add(s, "en")
		f.Add(s, "fr")
	}
	f.Fuzz(func(t *testing.T, s, tag string) {
		if strings.ContainsAny(s, "\ue000\ue001") || strings.ToValidUTF8(s, "") != s {
			t.Skip()
		}
		once, _ := words.Tidy(s, tag)
		letters := func(s string) string {
			return strings.Map(func(r rune) rune {
				if r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' && r != 'C' {
					return r
				}
				return -1
			}, strings.NewReplacer("(c)", "", "(C)", "").Replace(s))
		}
		if letters(s) != letters(once) {
			t.Fatalf("%q became %q", s, once)
		}
	})
}
