package layout

import (
	"strings"
	"unicode"

	"github.com/go-text/typesetting/segmenter"
)

// breakBefore finds where lines may break.
func breakBefore(p *para) []bool {
	n := len(p.text)
	out := make([]bool, n+1)
	ascii := true
	for _, r := range p.text {
		if r > 126 && r != objectChar {
			ascii = false
		}
	}
	var uax []bool
	if !ascii {
		uax = make([]bool, n+1)
		var seg segmenter.Segmenter
		seg.Init(p.text)
		for it := seg.LineIterator(); it.Next(); {
			l := it.Line()
			uax[l.Offset+len(l.Text)] = true
		}
	}
	for i := 1; i < n; i++ {
		a, b := p.text[i-1], p.text[i]
		st := p.owner[i-1].style
		if p.owner[i-1].kind != textBox {
			st = p.owner[i-1].parent.style
		}
		if b == objectChar && !p.owner[i].parent.style.NoWrap { // before a box what holds the box decides (measured)
			out[i] = a == ' ' || a != '(' && a != '"' && a != '\u00a0'
			continue
		}
		ended := st.NoWrap && a != objectChar && a != ' ' && wrapsBetween(p.owner[i-1], p.owner[i])
		if st.NoWrap && !ended && (a != objectChar || p.owner[i].style.NoWrap) {
			continue
		}
		switch {
		case a == '\t' && b != ' ' && b != '\t':
			out[i] = true
		case b == ' ':
			out[i] = p.owner[i].style.Collapse == "break-spaces" && a == ' '
		case a == ' ' || a == '\u200b':
			out[i] = true
		case a == objectChar:
			out[i] = true
		case b == objectChar:
			out[i] = a != '(' && a != '"' && a != '\u00a0'
		case st.LineBreak == "anywhere":
			out[i] = true
		case st.WordBreak == "break-all" && (unicode.IsLetter(a) || unicode.IsDigit(a)) &&
			(unicode.IsLetter(b) || unicode.IsDigit(b)):
			out[i] = true
		case a < 127 && b < 127:
			before := rune(' ')
			if i > 1 {
				before = p.text[i-2]
			}
			out[i] = asciiBreak(before, a, b)
		case a == '\u00ad':
			out[i] = st.Hyphens != "none"
		case st.WordBreak == "keep-all" && unicode.IsLetter(a) && unicode.IsLetter(b):
		default:
			out[i] = uax[i]
		}
	}
	for _, it := range p.items {
		if it.kind == wbrItem && it.start > 0 && it.start < n {
			out[it.start] = true
		}
	}
	return out
}

// asciiBreak is the table of break opportunities between two non-space ASCII characters (measured, all 94 x 94
// pairs).
func asciiBreak(before, a, b rune) bool {
	switch a {
	case '-':
		if b >= '0' && b <= '9' {
			return before < 127 && (unicode.IsLetter(before) || unicode.IsDigit(before))
		}
		return !strings.ContainsRune("!$),./:;?]}", b)
	case '?':
		return !strings.ContainsRune("!\"'),./:;?]}", b)
	}
	if strings.ContainsRune("!\"#%&)*+,.:;=>\\]|}~", a) {
		return strings.ContainsRune("(<[{", b)
	}
	return false
}

// wrapsBetween reports that an inline box that does not wrap ends between two texts, in one that does: lines may break
// there as they may anywhere, but for spaces at its end (measured).
func wrapsBetween(before, after *Box) bool {
	for p := before.parent; p != nil && p.kind == inlineBox && !within(after, p); p = p.parent {
		if p.style.NoWrap && !p.parent.style.NoWrap {
			return true
		}
	}
	return false
}
