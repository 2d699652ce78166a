package layout

import (
	"strings"

	"ziegel/core/css"
)

// Fields with field-sizing: content are as large as what they hold (css-ui-4, section 7.1; sizes measured in Chromium).

// fieldWidth gives the content width of a field that fits its text, and whether it is one that does. Empty fields keep
// room for the caret.
func (e *Engine) fieldWidth(b *Box) (Px, bool) {
	s := b.style
	if !s.FitsField {
		return 0, false
	}
	caret := b.style.Zoomed(1)
	text := func(list ...string) Px {
		w := caret
		for _, t := range list {
			w = max(w, e.textWidth(s, t))
		}
		return w
	}
	switch b.el.Tag {
	case "textarea":
		return text(strings.Split(heldText(b.el), "\n")...), true
	case "select":
		if e.listed(b) {
			return 0, false
		}
		chosen := ChosenOption(b.el)
		if chosen == nil {
			return 0, false
		}
		w := e.textWidth(s, transformed(s.TextTransform, chosen.Text()))
		return w + b.style.Zoomed(20), true
	case "input":
		value, hint := b.el.Attr("value"), b.el.Attr("placeholder")
		if value != "" {
			hint = ""
		}
		switch strings.ToLower(b.el.Attr("type")) {
		case "", "text", "email", "url", "tel":
			return text(value, hint), true
		case "password":
			return text(strings.Repeat("\u2022", len([]rune(value)))), true
		case "number":
			return text(value) + b.style.Zoomed(15), true // the buttons
		case "search":
			return text(value) + css.FromFloat(.75*s.FontSize) + b.style.Zoomed(3), true // the cross
		}
	}
	return 0, false
}

// fieldHeight gives the content height of a textarea that fits its text at a width.
func (e *Engine) fieldHeight(b *Box, w Px) (Px, bool) {
	if !b.style.FitsField || b.el.Tag != "textarea" {
		return 0, false
	}
	st := e.styler.Anonymous(b.style, css.Block)
	inh := *st.Inherited
	inh.Collapse, inh.NoWrap, inh.OverflowWrap = "preserve", false, "break-word"
	st.Inherited = &inh
	held := heldText(b.el)
	if held == "" || strings.HasSuffix(held, "\n") { // the line on which the caret stands
		held += "\u200b"
	}
	block := madeBox(node{kind: blockBox, style: st, display: css.Block, bfc: true})
	block.kids = []*Box{madeBox(node{kind: textBox, style: st, text: held, parent: block, ownerless: true})}
	around := e.floats
	e.layout(block, space{cbW: w})
	e.floats = around
	return block.H, true
}

// heldText is what a textarea shows: its text, else its placeholder.
func heldText(el *css.Element) string {
	text := ""
	for i := range el.Children {
		text += el.Children[i].Text
	}
	if text = strings.TrimPrefix(text, "\n"); text == "" {
		return el.Attr("placeholder")
	}
	return text
}

// ChosenOption gives the option that a select shows, nil when it has none.
func ChosenOption(el *css.Element) *css.Element {
	var first, chosen *css.Element
	var walk func(el *css.Element)
	walk = func(el *css.Element) {
		for _, k := range el.Kids() {
			if k.Tag == "option" {
				if first == nil {
					first = k
				}
				if _, ok := k.LookupAttr("selected"); ok {
					chosen = k
				}
			}
			walk(k)
		}
	}
	walk(el)
	if chosen != nil {
		return chosen
	}
	return first
}
