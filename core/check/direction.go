package check

import (
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/font"
	"ziegel/core/layout"
)

// leastLetters are how many a text has that is asked for its direction: fewer are a name or a sign.
const leastLetters = 12

// wrongWay: a text in Arabic or Hebrew whose lines run from left to right, or the reverse.
var wrongWay = rule{
	name: "wrong-way", severity: diag.Warning, what: "a text runs the wrong way for its script",
	looks:   "texts of 12 letters or more, nearly all of one direction, in lines of the other",
	not:     "names, numbers and signs; texts in both scripts",
	untried: "the direction is said in the markup, with the language",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if s.own[p.Element.Index] < leastLetters || !shown(p) || p.Style.Display == css.Inline {
				continue
			}
			right, left := lettersOf(p.Element)
			switch n := right + left; {
			case n < leastLetters:
			case right*10 >= n*9 && !p.Style.RTL:
				out = append(out, hit{el: p.Element, amount: 64, value: 1, cause: "direction"})
			case left*10 >= n*9 && p.Style.RTL && s.kind[p.Element.Index] == runningKind:
				out = append(out, hit{el: p.Element, amount: 64, cause: "direction"})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		if worst.value > 0 {
			return name + " is written from right to left, and its lines run from left to right: its end marks stand at the wrong end"
		}
		return name + " is written from left to right, and its lines run from right to left: its end marks stand at the wrong end"
	},
	cure: func(_ string, h hit) string {
		if h.value > 0 {
			return `dir="rtl" on it, or on the page with its lang`
		}
		return `dir="ltr" on it, and its lang`
	},
	whole: true,
}

// lettersOf counts the letters of a text that run from right to left, and from left to right.
func lettersOf(e *css.Element) (right, left int) {
	for _, c := range e.Children {
		for _, r := range c.Text {
			if rtl, strong := font.RightToLeft(r); strong && rtl {
				right++
			} else if strong {
				left++
			}
		}
	}
	return right, left
}
