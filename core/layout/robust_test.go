package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/layout"
)

// lay lays a page out at a phone's and a desktop's width.
func lay(t testing.TB, html string) *layout.Result {
	t.Helper()
	d, err := css.Load(css.Source{File: "p.html", HTML: html})
	if err != nil { // elements nested deeper than 512 are an error of the HTML parser
		require.ErrorContains(t, err, "nested deeper")
		return nil
	}
	e := layout.New(d, layout.Options{Fonts: face(t).Clone()})
	e.Layout(390)
	r := e.Layout(1280)
	requireWhole(t, d, r)
	return r
}

// requireWhole holds what is true of every page: what is shown has a box, unless it has none by its style, no box is
// smaller than nothing, and each stands in the list once.
func requireWhole(t testing.TB, d *css.Document, r *layout.Result) {
	t.Helper()
	seen := map[*css.Element]bool{}
	for i := range r.Boxes {
		p := &r.Boxes[i]
		require.False(t, seen[p.Element], "%s stands twice", p.Element.Path())
		seen[p.Element] = true
		require.GreaterOrEqual(t, p.W, layout.Px(0), p.Element.Path())
		require.GreaterOrEqual(t, p.H, layout.Px(0), p.Element.Path())
	}
	for _, e := range d.Elements {
		if p := r.Of(e); p != nil {
			require.Same(t, e, p.Element)
		}
	}
	if d.Body != nil && !d.Declares("display", "none", "contents") && !d.Declares("content-visibility", "hidden") {
		require.True(t, seen[d.Body], "nothing is laid out")
	}
	require.GreaterOrEqual(t, r.Height, layout.Px(0))
}

// TestHostilePages lays out pages that are made to break an engine: none may panic or take more than time and memory
// in proportion.
func TestHostilePages(t *testing.T) {
	if testing.Short() {
		t.Skip("lays hostile pages out at every width")
	}
	many := func(n int, f func(i int) string) string {
		var b strings.Builder
		for i := range n {
			b.WriteString(f(i))
		}
		return b.String()
	}
	pages := map[string]string{
		"deep blocks":  strings.Repeat("<div>", 10000) + "x",
		"deep inlines": strings.Repeat("<span>", 5000) + "x",
		"deep flex":    "<style>div{display:flex}</style>" + strings.Repeat("<div>", 500) + "x",
		"deep grid":    "<style>div{display:grid}</style>" + strings.Repeat("<div>", 500) + "x",
		"deep inline-flex": "<style>div{display:inline-flex;flex-direction:column}</style>" +
			strings.Repeat("<div>", 200) + "x",
		"deep lists": strings.Repeat("<ol><li>", 200) + "x",
		"many rules": "<style>" + many(100000, func(i int) string {
			return fmt.Sprintf(".c%d{width:%dpx}", i,
				i)
		}) + "</style><p class=c7>x",
		"many selectors": "<style>" + many(20000,
			func(i int) string { return fmt.Sprintf("div:has(.c%d) > p:not(.d),", i) }) + "b{color:red}</style>" +
			strings.Repeat("<div><p>x</div>", 20),
		"many conditions": "<style>" + many(500,
			func(i int) string { return fmt.Sprintf("@media (min-width:%dpx){p{width:%dpx}}", i, i) }) + "</style><p>x",
		"many boxes":       strings.Repeat("<p>x", 20000),
		"long word":        "<p>" + strings.Repeat("x", 1<<20),
		"long broken word": "<p style='overflow-wrap:anywhere;width:300px'>" + strings.Repeat("x", 200000),
		"long text":        "<p style='text-wrap:pretty'>" + strings.Repeat("wind ", 50000),
		"balanced":         "<p style='text-wrap:balance;width:90%'>" + strings.Repeat("wind ", 300),
		"cyclic variables": "<style>:root{--a:var(--b);--b:var(--c);--c:var(--a)}p{width:var(--a,10px)}</style><p>x",
		"doubling": "<style>:root{--a0:x x;" + many(60,
			func(i int) string { return fmt.Sprintf("--a%d:var(--a%d) var(--a%d);", i+1, i, i) }) +
			"}p{width:var(--a60)}</style><p>x",
		"huge sizes":  "<style>p{width:1e30px;height:1e30px;margin:-1e30px;padding:1e30px;font-size:1e30px;line-height:1e30;gap:1e30px}</style><p>x<p style='display:grid;grid-template-columns:1e30px 1e30fr'>x",
		"not numbers": "<style>p{width:calc(0px/0);height:calc(1px*infinity);flex:calc(0/0);margin:calc(-1px*infinity);font-size:calc(1px*NaN);aspect-ratio:0/0;line-height:calc(infinity)}</style><div style='display:flex'><p>x</div>",
		"tiny repeat": "<div style='display:grid;grid-template-columns:repeat(auto-fill,.001px);width:1e7px'><p>x</div>",
		"huge spans":  "<div style='display:grid;grid-template-columns:repeat(1000,1px)'><p style='grid-column:span 100000;grid-row:2000000000'>x<p style='grid-column:-2000000000'>y</div>",
		"huge repeat": "<div style='display:grid;grid-template-columns:repeat(1000000000,1px)'><p>x</div>",
		"nested calc": "<p style='width:" + strings.Repeat("calc(", 5000) + "1px" + strings.Repeat(")", 5000) +
			"'>x",
		"nested brackets": "<style>" + strings.Repeat("@media (", 5000) + "</style><p>x",
		"nested rules":    "<style>" + strings.Repeat("p{&:is(p,", 2000) + "</style><p>x",
		"nesting bomb": "<style>" + strings.Repeat(".a,.b,.c,.d{& &{", 30) + "width:1px" +
			strings.Repeat("}}", 30) + "</style><p class=a>x",
		"counters": "<style>p::before{counter-increment:c 2147483647;content:counters(c,'.')}</style>" +
			strings.Repeat("<p>", 2000),
		"subgrids": "<style>div{display:grid;grid:subgrid/subgrid}</style><div style='grid:auto/1fr'>" +
			strings.Repeat("<div>", 60) + "x",
		"quotes": strings.Repeat("<q>", 2000),
		"percent loops": strings.Repeat("<div style='display:flex;height:100%'><img style='height:100%;width:100%'>",
			40),
		"deep tables": strings.Repeat("<table><tr><td>", 120) + "x",
		"deep parts":  strings.Repeat("<div style='display:table-row'>", 200) + "x",
		"huge cells": "<table>" +
			strings.Repeat("<tr><td colspan=1000 rowspan=65534>x<td colspan=9999999999 rowspan=0>y", 8),
		"many cells": "<table style='border-collapse:collapse'>" +
			strings.Repeat("<tr><td>a<td colspan=2>b<td rowspan=3>c", 2000),
		"many columns":     "<table><colgroup span=1000><col span=1000><tr>" + strings.Repeat("<td>x", 1000),
		"many floats":      strings.Repeat("<div style='float:left;width:30px;height:9px'></div>x ", 3000),
		"deep floats":      strings.Repeat("<div style='float:left'>", 300) + "x",
		"floats in blocks": strings.Repeat("<div><div style='float:right'>a</div>", 150) + "x",
		"narrow columns":   "<div style='columns:2;height:1px'><div style='height:1e7px'></div></div>",
		"columns of lines": "<div style='columns:1px;column-fill:auto;height:9px'>" + strings.Repeat("x ", 5000) +
			"</div>",
		"deep columns": strings.Repeat("<div style='columns:2'>", 60) + "x",
		"kept columns": "<div style='columns:3;height:20px'><p style='break-inside:avoid'>" +
			strings.Repeat("x<br>", 5000) + "</div>",
		"two directions": "<p dir=rtl>" + strings.Repeat("<b>x</b> &#x5d0; ", 5000),
		"cleared":        strings.Repeat("<p style='float:left;clear:left;margin:-1e30px 1e30px'>x</p><hr>", 300),
		"nothing":        "",
		"zero bytes":     "\x00<p>\x00</p>",
	}
	for name, html := range pages {
		t.Run(name, func(t *testing.T) {
			r := lay(t, "<!doctype html>"+html)
			if strings.Contains(html, "display:none") || r == nil { // told as an error: nested too deep
				return
			}
			require.NotEmpty(t, r.Boxes)
		})
	}
}

// FuzzLayout lays anything out, as HTML with its style.
func FuzzLayout(f *testing.F) {
	for _, s := range [][2]string{{"<p>a <b>b</b><ul><li>c</ul>", "p{display:flex}b{position:absolute;inset:0}"},
		{"<div><p>a<p>b</div>",
			"div{display:grid;grid-template-columns:repeat(auto-fit,minmax(3em,1fr))}p{grid-column:span 2}"},
		{"<img width=3><svg viewBox='0 0 1 1'></svg><input><select><option>a</select>",
			"*{width:50%;aspect-ratio:2}"}, {"<q>a</q>", "q{container-type:size;height:3em}q::before{float:left}"}, {"a&shy;b<br><wbr>c", "*{text-wrap:balance;white-space:pre-wrap;width:min-content}"},
		{"<table><caption>a<tr><td rowspan=2>b<td>c<tr><td colspan=2>d</table>",
			"td{width:30%}table{border-collapse:collapse;height:50%}"},
		{"<div>a<span>b</span>c<p>d</div>", "span{float:right}p{clear:both;display:table-cell}div{display:table}"},
		{"<div>a<p>b<i>c</i></div><table><td>d</table><fieldset>e</fieldset><ul><li>f</ul>",
			"*{writing-mode:vertical-rl}p,i{writing-mode:horizontal-tb;min-width:min-content}div{display:flex}"},
		{"<p>“Ab</p><div>c<p>d</div>",
			"p::first-letter{float:left;font-size:3em}div::first-letter{margin:1em}*{text-box:trim-both cap alphabetic;box-decoration-break:clone;field-sizing:content}"},
		{"<fieldset><legend>a</legend></fieldset><details>b</details>",
			"*{display:contents}"}, {"<div><div>a</div></div>", "div{display:grid;grid:subgrid/subgrid;grid-area:2/3}"}} {
		f.Add(s[0], s[1])
	}
	f.Fuzz(func(t *testing.T, html, style string) {
		if len(html)+len(style) > 4096 {
			return
		}
		lay(t, "<!doctype html><style>"+style+"</style>"+html)
	})
}
