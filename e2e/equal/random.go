package equal

import (
	"fmt"
	"math/rand"
	"path/filepath"
	"strings"
)

// RandomPages writes n pages below root that combine flex, grid, text and positioned boxes at random, and returns
// their paths. The same seed gives the same page.
func RandomPages(root string, seed int64, n int) ([]string, error) {
	var pages []string
	for i := range n {
		name := fmt.Sprintf("boxes/random/%d.html", seed+int64(i))
		if err := write(filepath.Join(root, filepath.FromSlash(name)),
			[]byte(head+RandomPage(seed+int64(i)))); err != nil {
			return nil, err
		}
		pages = append(pages, name)
	}
	return pages, nil
}

// RandomPage gives the body of the page of a seed.
func RandomPage(seed int64) string {
	g := &generator{Rand: rand.New(rand.NewSource(seed))}
	g.older = seed >= Older
	if g.Intn(3) == 0 {
		g.line("<style>*{box-sizing:border-box}</style>")
	}
	g.deepest = 1 + int(seed)%3 // many small pages, some deep ones: small ones tell sooner what is wrong
	for range 1 + g.Intn(1+g.deepest) {
		g.box(0, "block")
	}
	return g.out.String()
}

// Older is the first seed of pages that also have what older pages are made of: tables and floats.
const Older = 1000000

type generator struct {
	*rand.Rand
	out     strings.Builder
	deepest int
	older   bool
}

func (g *generator) line(format string, args ...any) { fmt.Fprintf(&g.out, format+"\n", args...) }

// pick chooses one of the words between bars.
func (g *generator) pick(words string) string {
	list := strings.Split(words, "|")
	return list[g.Intn(len(list))]
}

// maybe gives text one time in n.
func (g *generator) maybe(n int, text string) string {
	if g.Intn(n) == 0 {
		return text
	}
	return ""
}

func (g *generator) length() string {
	return g.pick("0|4px|7.5px|12px|1em|1.3rem|3%|20px|2vw|calc(1% + 5px)|clamp(4px, 2vw, 30px)")
}

func (g *generator) size() string {
	return g.pick("50%|33.33%|120px|12.7rem|80px|auto|max-content|min-content|fit-content|70%|min(100%, 18em)|calc(50% - 13px)|25vw|15ch")
}

// box writes one element; inside says what kind of box it stands in.
func (g *generator) box(depth int, inside string) {
	kinds := "text|text|text|block|block|flex|flex|grid|grid|picture|inline|list|control|stack"
	if g.older {
		kinds = "text|text|block|block|flex|grid|inline|list|picture|table|table|table|float|float|float|float|float"
	}
	if depth > g.deepest {
		kinds = "text|text|picture|control|inline"
	}
	kind := g.pick(kinds)
	style := g.common(inside)
	kids := 1 + g.Intn(5)
	switch kind {
	case "text":
		g.line("<%s style=%q>%s</%[1]s>", g.pick("p|div|h2|h3|blockquote"), style+g.textStyle(), g.text(1+g.Intn(30)))
		return
	case "table":
		g.table(depth, style)
		return
	case "float":
		g.line("<%s style=%q>%s</%[1]s>", g.pick("div|p|span"), g.common(inside)+"float:"+g.pick("left|left|right")+";"+
			g.maybe(4, "clear:"+g.pick("left|right|both")+";")+g.maybe(2, "width:"+g.size()+";")+
			g.maybe(3, "height:"+g.pick("40px|90px|150px")+";"), g.text(1+g.Intn(14)))
		return
	case "inline":
		g.line("<div style=%q>%s</div>", style+g.textStyle(), g.inlines(2+g.Intn(5)))
		return
	case "picture":
		g.line(`<img src=../delta.svg alt=""%s style=%q>`, g.pick("| width=96 height=120| width=300 height=200"),
			style+g.pick("max-width:100%;height:auto|width:100%;height:auto|width:60px|height:70px|width:100%;aspect-ratio:3/2;object-fit:cover|max-width:100%|display:block;max-width:100%"))
		return
	case "control":
		g.line("<%s style=%q>%s</%[1]s>", g.pick("button|a|span"),
			style+g.pick("|display:inline-block;padding:8px 14px|display:inline-flex;gap:6px;padding:5px|display:block"), g.text(1+g.Intn(3)))
		return
	case "list":
		tag := g.pick("ul|ol|ul")
		g.line("<%s style=%q>", tag, style+g.pick("||list-style:none;padding:0|list-style-position:inside"))
		for range kids {
			g.line("<li>%s</li>", g.text(1+g.Intn(12)))
		}
		g.line("</%s>", tag)
		return
	case "stack":
		g.line(`<div style="position:relative;%s">`, style+g.pick("min-height:90px|padding:20px|height:120px"))
		for range 1 + g.Intn(3) {
			g.line(`<div style="position:absolute;%s">%s</div>`,
				g.pick("inset:0|top:10px;left:5%|bottom:0;right:0|left:50%;top:50%;transform:translate(-50%,-50%)|inset:auto 0 0 auto;width:40%|left:10px;right:30%;top:0|inset:0;margin:auto;width:50%;height:30px||right:-10px;top:-5px|top:100%;left:0;width:max-content"), g.text(1+g.Intn(8)))
		}
	case "block":
		g.line("<%s style=%q>", g.pick("div|section|article"),
			style+g.maybe(6, "overflow:hidden;")+g.maybe(8, "display:flow-root;")+g.maybe(8, "aspect-ratio:16/9;")+
				g.maybe(8, "container-type:inline-size;"))
		if g.Intn(3) == 0 {
			g.line("%s", g.text(1+g.Intn(10)))
		}
	case "flex":
		g.line("<div style=%q>", style+"display:"+g.pick("flex|flex|flex|inline-flex")+";"+
			g.maybe(2, "flex-wrap:wrap;")+g.maybe(4, "flex-direction:"+
			g.pick("column|row-reverse|column-reverse")+";")+
			g.maybe(2, "gap:"+g.length()+";")+g.maybe(2, "align-items:"+
			g.pick("center|flex-start|end|baseline|stretch")+";")+
			g.maybe(2, "justify-content:"+g.pick("center|space-between|space-around|space-evenly|flex-end")+";")+
			g.maybe(6, "align-content:"+g.pick("center|space-between|start|stretch")+";")+
			g.maybe(5, "min-height:160px;"))
	case "grid":
		g.line("<div style=%q>", style+"display:grid;grid-template-columns:"+
			g.pick("1fr 1fr|repeat(3, minmax(0, 1fr))|repeat(auto-fit, minmax(min(100%, 9rem), 1fr))|repeat(auto-fill, minmax(120px, 1fr))|auto 1fr|2fr 1fr|minmax(100px, 20%) auto|1fr max-content|fit-content(40%) 1fr|12ch 1fr 2fr|auto auto auto|[a] 1fr [b] 1fr [c]|none")+";"+
			g.maybe(2, "gap:"+g.length()+";")+g.maybe(3, "align-items:"+g.pick("center|start|end|baseline")+";")+
			g.maybe(4, "justify-items:"+g.pick("center|start|end")+";")+
			g.maybe(5, "align-content:"+g.pick("center|space-between|end")+";")+
			g.maybe(5, "justify-content:"+g.pick("center|space-between|end")+";")+
			g.maybe(5, "grid-auto-flow:"+g.pick("dense|column|row dense")+";")+
			g.maybe(5, "grid-template-rows:"+g.pick("auto 1fr|60px auto|1fr 1fr")+";")+
			g.maybe(6, "min-height:200px;"))
	}
	for range kids {
		into := kind
		if kind == "stack" {
			into = "block"
		}
		g.box(depth+1, into)
	}
	g.line("</div>")
}

// common gives declarations that any box may have.
func (g *generator) common(inside string) string {
	s := g.maybe(4, "margin:"+g.pick("0|10px 0|1em|0 auto|-8px 0 0|12px 5%|auto")+";") +
		g.maybe(4, "padding:"+g.length()+" "+g.length()+";") +
		g.maybe(8, "border:"+g.pick("1px|2px|1.6px")+" solid;") + g.maybe(6, "width:"+g.size()+";") +
		g.maybe(8, "max-width:"+g.size()+";") + g.maybe(9, "min-width:"+g.pick("0|60px|30%|min-content")+";") +
		g.maybe(14, "height:"+g.pick("80px|50%|auto|6em")+";") +
		g.maybe(12, "min-height:"+g.pick("60px|5em|10vh")+";") +
		g.maybe(12, "position:relative;top:"+g.length()+";") + g.maybe(20, "display:none;") +
		g.maybe(10, "font-size:"+g.pick("14px|1.25rem|.875em|calc(12px + 1vw)|clamp(1rem, 3vw, 2.5rem)")+";") +
		g.maybe(20, "line-height:"+g.pick("1.2|1.7|24px|normal")+";")
	s = strings.ReplaceAll(s, "auto;max-width:auto", "auto")
	if g.older {
		s += g.maybe(9, "clear:"+g.pick("left|right|both")+";")
	}
	switch inside {
	case "flex":
		s += g.maybe(3, "flex:"+g.pick("1|1 1 0|0 0 auto|1 1 200px|2|none|0 1 40%|1 0 30%")+";") +
			g.maybe(7, "align-self:"+g.pick("center|start|stretch|flex-end|baseline")+";") +
			g.maybe(10, "order:"+g.pick("-1|1|2")+";") + g.maybe(9, "margin-left:auto;")
	case "grid":
		s += g.maybe(5, "grid-column:"+g.pick("span 2|1 / -1|2|1 / 3")+";") +
			g.maybe(8, "grid-row:"+g.pick("span 2|1|2")+";") +
			g.maybe(7, "justify-self:"+g.pick("center|end|start|stretch")+";") +
			g.maybe(7, "align-self:"+g.pick("center|end|start")+";")
	}
	return strings.ReplaceAll(s, "max-width:auto;", "")
}

func (g *generator) textStyle() string {
	return g.maybe(5, "text-align:"+g.pick("center|right|justify")+";") +
		g.maybe(8, "white-space:"+g.pick("nowrap|pre-line|pre-wrap")+";") +
		g.maybe(8, "overflow-wrap:"+g.pick("anywhere|break-word")+";") +
		g.maybe(8, "text-wrap:"+g.pick("balance|pretty")+";") +
		g.maybe(9, "letter-spacing:"+g.pick(".02em|1px|-.3px")+";") +
		g.maybe(12, "text-transform:"+g.pick("uppercase|capitalize")+";") +
		g.maybe(12, "text-indent:"+g.pick("1em|5%")+";") + g.maybe(9, "font-weight:"+g.pick("600|700")+";") +
		g.maybe(12, "word-spacing:3px;") + g.maybe(14, "font-family:B;")
}

const vocabulary = "kite wind sail line spar ripstop a the of and over dune coast harbour we sew by hand every long-tailed delta flies in eight to twelve knots; rokkaku festival, Larkspan: carbon-fibre no. 7 €240 “steady” — half-finished keel bridle and/or windward/leeward Grüße unbeugsame"

func (g *generator) text(n int) string {
	list := strings.Fields(vocabulary)
	out := make([]string, n)
	for i := range out {
		out[i] = list[g.Intn(len(list))]
	}
	return strings.Join(out, " ")
}

func (g *generator) inlines(n int) string {
	var b strings.Builder
	for range n {
		t := g.text(1 + g.Intn(6))
		b.WriteString(g.pick(t + "|<b>" + t + "</b>|<em style=\"padding:0 6px\">" + t + "</em>|<small>" + t +
			"</small>|<span style=\"display:inline-block;padding:4px 9px\">" + t +
			"</span>|<img src=../delta.svg alt=\"\" width=24 height=30>|<br>|<span style=\"font-family:B\">" + t +
			"</span>|<sup>2</sup>|<span style=\"font-size:1.5em\">" + t +
			"</span>|<span style=\"white-space:nowrap\">" + t +
			"</span>|<span style=\"vertical-align:middle;display:inline-block;height:20px;width:20px\"></span>|<a style=\"display:inline-flex;gap:4px\"><span>" + t + "</span><span>›</span></a>"))
		b.WriteString(g.pick(" | |"))
	}
	return b.String()
}

// table writes a table with spans, widths, borders and alignments at random.
func (g *generator) table(depth int, style string) {
	cols := 1 + g.Intn(4)
	g.line("<table style=%q>", style+g.maybe(3, "border-collapse:collapse;")+g.maybe(4, "width:100%;")+
		g.maybe(5, "table-layout:fixed;")+g.maybe(6, "border:"+g.pick("1px|3px|2.4px")+" solid;")+
		g.maybe(8, "border-spacing:"+g.pick("0|5px|3px 9px")+";"))
	if g.Intn(5) == 0 {
		g.line("<caption style=%q>%s</caption>", g.maybe(2, "caption-side:bottom"), g.text(1+g.Intn(8)))
	}
	if g.Intn(6) == 0 {
		g.line("<col style=%q><col>", "width:"+g.size())
	}
	for range 1 + g.Intn(4) {
		g.line("<tr style=%q>", g.maybe(8, "height:"+g.pick("30px|60px|50%")+";"))
		for range cols {
			tag := g.pick("td|td|td|th")
			g.line("<%s%s%s style=%q>", tag, g.maybe(8, " colspan="+g.pick("2|3")),
				g.maybe(8, " rowspan="+g.pick("2|3")),
				g.maybe(5, "width:"+g.pick("50%|80px|20%|120px|33.3%|1%")+";")+
					g.maybe(5, "vertical-align:"+g.pick("top|bottom|middle|baseline")+";")+
					g.maybe(6, "border:"+g.pick("1px|2px|5px")+" "+g.pick("solid|dashed|double|hidden")+";")+
					g.maybe(6, "padding:"+g.length()+";")+g.maybe(12, "height:"+g.pick("40px|70px")+";")+
					g.maybe(14, "white-space:nowrap;")+g.maybe(14, "min-width:90px;"))
			if g.Intn(6) == 0 {
				g.box(depth+1, "block")
			} else {
				g.line("%s", g.text(1+g.Intn(9)))
			}
			g.line("</%s>", tag)
		}
		g.line("</tr>")
	}
	g.line("</table>")
}
