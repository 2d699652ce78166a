package layout

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/font"
)

// Every rune of a paragraph stands on exactly one line, in order: a line begins where the one before has ended, and
// only white space that collapses may lie between them.
func FuzzEveryRuneIsOnOneLine(f *testing.F) {
	for _, text := range []string{"Kites for <real> wind — well-made", "a\u00adb\u200b漢字 e\u0301 👩‍👩‍👧",
		"one\n\n  two\tthree ", "unbreakableunbreakableunbreakable", "((a)) [b]/c/d https://a.example/b?c=d", "   "} {
		for _, width := range []int{1, 30, 120, 700} {
			f.Add(text, width)
		}
	}
	data, err := os.ReadFile("../../stock/fonts/instrument-sans-400.woff2")
	require.NoError(f, err)
	fonts := font.NewSet([]*font.Entry{font.Plain("F", 400, false, data)}, map[string][]string{"": {"F"}})
	f.Fuzz(func(t *testing.T, text string, width int) {
		if len(text) > 300 || width < 1 || width > 3000 {
			return
		}
		esc := strings.NewReplacer("&", "&amp;", "<", "&lt;").Replace(text)
		d, err := css.Load(css.Source{File: "t.html", HTML: `<!doctype html><style>body{font:16px/1.5 F}
p:nth-child(2){text-wrap:balance;overflow-wrap:anywhere} p:nth-child(3){white-space:pre-wrap}
p:nth-child(4){text-wrap:pretty;white-space:pre-line} p:nth-child(5){white-space:nowrap}</style>` +
			strings.Repeat("<p>"+esc+" <b style='padding:3px'>"+esc+"</b><img width=20 height=9>"+esc+"</p>", 5)})
		require.NoError(t, err)
		e := New(d, Options{Fonts: fonts.Clone()})
		e.Layout(width)
		paragraphs := 0
		for _, b := range e.boxes {
			if b == nil || b.el == nil || b.el.Tag != "p" || b.para == nil {
				continue
			}
			paragraphs++
			requireLinesOf(t, b.para)
		}
		require.Equal(t, 5, paragraphs)
	})
}

func requireLinesOf(t *testing.T, p *para) {
	t.Helper()
	at := 0 // the rune that the next line begins with
	item := 0
	for n, ln := range p.lines {
		require.GreaterOrEqual(t, ln.start.rune, at, "line %d of %q begins before the last one ended", n,
			string(p.text))
		for r := at; r < ln.start.rune; r++ {
			require.True(t, p.text[r] == ' ' && p.owner[r].style.Collapses(),
				"%q lies between lines %d and %d of %q", p.text[r], n-1, n, string(p.text))
		}
		require.GreaterOrEqual(t, ln.end.rune, ln.start.rune)
		progress := ln.end.rune > ln.start.rune || ln.end.item > ln.start.item || n == len(p.lines)-1
		require.True(t, progress, "line %d of %q is empty", n, string(p.text))
		require.GreaterOrEqual(t, ln.start.item, item)
		at, item = ln.end.rune, ln.end.item
	}
	for r := at; r < len(p.text); r++ {
		require.True(t, p.text[r] == ' ' && p.owner[r].style.Collapses(), "%q of %q is on no line: %d lines, at %d",
			p.text[r], string(p.text), len(p.lines), at)
	}
}
