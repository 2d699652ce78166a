package layout

import (
	"slices"
	"strings"
)

// isolate is an inline box whose text is put in order by itself: what is around it sees a thing without a direction
// (UAX #9, section 3.3.2; CSS Writing Modes 4, section 2.4.5). unicode-bidi: embed is taken for isolate.
type isolate struct {
	from, to int // runes of the paragraph
	rtl      bool
	override bool // all letters run the same way
	kids     []*isolate
}

// isolates lists the outermost ones of a paragraph, with those in them.
func (p *para) isolates() []*isolate {
	root := &isolate{}
	open, boxes := []*isolate{root}, []*Box{nil}
	for i := range p.items {
		it := &p.items[i]
		top := len(open) - 1
		switch {
		case it.kind == openItem && it.box.style.UnicodeBidi != "normal":
			s := it.box.style
			in := &isolate{
				from:     it.start,
				to:       len(p.text),
				rtl:      s.RTL,
				override: strings.HasSuffix(s.UnicodeBidi, "override"),
			}
			if s.UnicodeBidi == "plaintext" {
				in.rtl = against(p.text[it.start:])
			}
			open[top].kids = append(open[top].kids, in)
			open, boxes = append(open, in), append(boxes, it.box)
		case it.kind == closeItem && boxes[top] == it.box:
			open[top].to = it.start
			open, boxes = open[:top], boxes[:top]
		}
	}
	return root.kids
}

// runsOf gives the runs of a line, in the order in which they stand from where the line begins. What has no direction
// of its own takes that of what is around it in the whole text, not on the line (UAX #9, sections 3.3 and 3.4).
func (p *para) runsOf(from, to int, rtl bool) []bidiRun {
	all := p.levelsAs(rtl)
	var out []bidiRun
	var levels []int8
	highest := int8(0)
	for i := from; i < to; i++ {
		level := all[i]
		if n := len(out); n > 0 && levels[n-1] == level {
			out[n-1].to = i + 1
			continue
		}
		out = append(out, bidiRun{i, i + 1, (level%2 == 1) != rtl})
		levels, highest = append(levels, level), max(highest, level)
	}
	for level := highest; level >= 1; level-- { // rule L2
		for i := 0; i < len(out); i++ {
			j := i
			for j < len(out) && levels[j] >= level {
				j++
			}
			slices.Reverse(out[i:j])
			slices.Reverse(levels[i:j])
			i = max(i, j)
		}
	}
	if rtl {
		slices.Reverse(out)
	}
	return out
}

// levelsAs gives the levels of a paragraph whose lines run to one side, found once for it.
func (p *para) levelsAs(rtl bool) []int8 {
	if p.levels == nil || p.levelsRTL != rtl {
		p.levels, p.levelsRTL = p.levelsOf(rtl), rtl
	}
	return p.levels
}

// levelsOf gives the embedding level of each rune of a paragraph; forced breaks end what rules look at.
func (p *para) levelsOf(rtl bool) []int8 {
	p.levels = make([]int8, len(p.text))
	base, start, kids := int8(bit(rtl)), 0, p.isolates()
	if p.overridden() {
		fill(p.levels, base)
		return p.levels
	}
	for i := range p.items {
		if it := &p.items[i]; it.kind == breakItem && it.start > start {
			p.embed(start, it.start, base, kids)
			start = it.start
		}
	}
	p.embed(start, len(p.text), base, kids)
	return p.levels
}

// overridden reports text all of which runs as the block that it stands in says.
func (p *para) overridden() bool {
	if len(p.owner) == 0 {
		return false
	}
	b := p.owner[0].parent
	for b != nil && b.kind == inlineBox {
		b = b.parent
	}
	return b != nil && strings.HasSuffix(b.style.UnicodeBidi, "override")
}

// embed gives levels to a part of the text whose own level is base.
func (p *para) embed(from, to int, base int8, kids []*isolate) {
	var seq []rune
	var at []int // where each rune of seq stands in the text
	next := 0
	for i := from; i < to; i++ {
		for next < len(kids) && kids[next].to <= i {
			next++
		}
		if next < len(kids) && kids[next].from <= i {
			seq, at = append(seq, objectChar), append(at, i)
			i = min(to, kids[next].to) - 1
			continue
		}
		seq, at = append(seq, p.text[i]), append(at, i)
	}
	for i, l := range resolveLevels(seq, base) {
		p.levels[at[i]] = l
	}
	for _, k := range kids {
		a, z := max(from, k.from), min(to, k.to)
		if a >= z || base >= mostEmbedded {
			continue
		}
		inner := base + 1
		if (inner%2 == 1) != k.rtl {
			inner++
		}
		if !k.override {
			p.embed(a, z, inner, k.kids)
			continue
		}
		for i := a; i < z; i++ {
			p.levels[i] = inner
		}
	}
}
