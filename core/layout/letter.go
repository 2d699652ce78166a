package layout

import (
	"unicode"

	"github.com/go-text/typesetting/segmenter"

	"ziegel/core/css"
)

// splitLetter gives the first letter of a block a box of its own where a style speaks of it: that of the block, or of
// one around it whose first line is the same (css-pseudo-4, section 2.2).
func (e *Engine) splitLetter(b *Box, stack []css.Container) {
	owner := letterOwner(b)
	if owner == nil {
		return
	}
	key := pseudoKey{owner.el, firstLetter}
	delete(e.pseudos, key)
	t, more := firstText(b)
	if t == nil {
		return
	}
	space, n := letterIn([]rune(t.text), t.style.Collapses(), more)
	if n == 0 {
		return
	}
	st := e.styler.Pseudo(owner.el, firstLetter, t.style, stack)
	f := madeBox(node{pseudo: firstLetter, style: st, display: st.Display, key: key, parent: t.parent})
	f.version = st.Version
	e.floating = e.floating || st.Float != 0
	f.setKind()
	runes := []rune(t.text)
	f.kids = []*Box{madeBox(node{kind: textBox, style: st, text: string(runes[space : space+n]), parent: f,
		key: pseudoKey{owner.el, firstLetter + " text"}})}
	t.text = string(runes[space+n:])
	kids := t.parent.kids
	for i, k := range kids {
		if k == t {
			t.parent.kids = append(append(append([]*Box(nil), kids[:i]...), f), kids[i:]...)
			break
		}
	}
	e.pseudos[key], f.letterOf = f, t
}

// letterOwner gives the nearest block, from b outwards, that has a style for its first letter and whose first line
// begins in b.
func letterOwner(b *Box) *Box {
	for b.kind == blockBox {
		if b.el != nil && b.el.HasPseudo(firstLetter) {
			return b
		}
		p := b.parent
		stops := p == nil || p.kind != blockBox || b.item || b.aside() || b.inlineLevel()
		if stops {
			return nil
		}
		for _, k := range p.kids {
			if k == b {
				break
			}
			if !k.aside() {
				return nil
			}
		}
		b = p
	}
	return nil
}

// firstText gives the text that a block's first line begins with, nil when something else does; more tells that other
// text follows.
func firstText(b *Box) (first *Box, more bool) {
	done := false
	var walk func(kids []*Box)
	walk = func(kids []*Box) {
		for _, k := range kids {
			switch {
			case done || k.aside() || k.pseudo == "marker":
			case k.kind == textBox && first == nil && blank(k.text) && k.style.Collapses():
			case k.kind == textBox && first == nil:
				first = k
			case k.kind == textBox:
				more, done = more || !blank(k.text), true
			case k.kind == inlineBox:
				walk(k.kids) // they stand already: what surrounds them has looked for blocks in them
			case k.kind == blockBox && k.el == nil && k.pseudo == "" && first == nil:
				walk(k.kids)
				done = true
			default:
				done = true
			}
		}
	}
	walk(b.kids)
	return first, more
}

// letterIn finds the first letter of a text: how many runes of white space come before it, and how many it has with the
// punctuation around it. Opening brackets and dashes behind it do not belong to it; punctuation alone is a letter when
// other text follows (measured).
func letterIn(text []rune, collapses, more bool) (space, n int) {
	i := 0
	for i < len(text) && unicode.IsSpace(text[i]) && text[i] != 0xa0 {
		i++
	}
	begin := i
	if collapses { // else it belongs to the letter
		space = i
	}
	for i < len(text) && (unicode.IsPunct(text[i]) || i > begin && unicode.IsSpace(text[i])) {
		i++
	}
	if i == len(text) {
		if more {
			return space, i - space
		}
		return space, 0
	}
	if unicode.IsSpace(text[i]) {
		return space, 0
	}
	var seg segmenter.Segmenter
	seg.Init(text[i:])
	if it := seg.GraphemeIterator(); it.Next() {
		i += len(it.Grapheme().Text)
	}
	for i < len(text) && unicode.IsPunct(text[i]) && !unicode.In(text[i], unicode.Ps, unicode.Pd) {
		i++
	}
	return space, i - space
}
