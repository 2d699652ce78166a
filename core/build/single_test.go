package build_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/build"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/stock"
)

// single puts a page into one piece with these files beside it.
func single(t *testing.T, html string, files map[string]string) string {
	t.Helper()
	out, err := build.Single("page/index.html", html, func(path string) ([]byte, bool) {
		data, ok := files[path]
		return []byte(data), ok
	})
	require.NoError(t, err)
	return out
}

func TestAPageInOnePieceCarriesWhatItNeeds(t *testing.T) {
	out := single(t, `<link rel="stylesheet" href="../a.css" media="print"><link rel="icon" href="../i.svg"><link rel="stylesheet" href="https://x.example/b.css"><img src="../k.png"><div style="background: url('../k.png')"></div><script src="x.js"></script><script>let a = 1</script>`,
		map[string]string{"a.css": "p { background: url(\"k.png\") } @font-face { src: url(f.woff2) }",
			"k.png": "PNG", "f.woff2": "FONT", "i.svg": "<svg/>"})
	assert.Contains(t, out, `<style media="print">p { background: url("data:`)
	assert.Contains(t, out, `url("data:font/woff2;base64,Rk9OVA==")`)
	assert.Equal(t, 3, strings.Count(out, ";base64,UE5H"),
		"the picture in the sheet, in the img and in the style attribute")
	assert.Contains(t, out, `href="https://x.example/b.css"`, "what lies elsewhere stays a link")
	assert.NotContains(t, out, "i.svg")
	assert.NotContains(t, out, "x.js")
	assert.Contains(t, out, "let a = 1")
}

func TestAPageInOnePieceHasOneSizeOfAPicture(t *testing.T) {
	out := single(t, `<picture><source media="(width < 37.5rem)" srcset="s/t-480.jpg 480w, t.jpg 900w" sizes="92vw"><img src="w.jpg" srcset="s/w-480.jpg 480w, w.jpg 1800w" sizes="50vw"></picture>`,
		map[string]string{"page/t.jpg": "TALL", "page/w.jpg": "WIDE", "page/s/t-480.jpg": "SMALL",
			"page/s/w-480.jpg": "SMALL"})
	assert.NotContains(t, out, "sizes")
	assert.NotContains(t, out, "U01BTEw=", "no copies")
	assert.Contains(t, out, `srcset="data:image/jpeg;base64,VEFMTA=="`)
	assert.Contains(t, out, `src="data:image/jpeg;base64,V0lERQ=="`)
	assert.Equal(t, 1, strings.Count(out, "srcset"))
}

// The catalogue is one file that asks for nothing, with every section and how to add it.
func TestTheCatalogueIsWhole(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	text, problems := build.Catalogue(e, search.Known(stock.Files))
	require.NoError(t, problems.Err())
	for _, s := range e.Library.All() {
		assert.Contains(t, text, "<code>ziegel add home "+s.Name+"</code>")
		_, after, _ := strings.Cut(text, "<code>ziegel add home "+s.Name+"</code>")
		drawn, _, _ := strings.Cut(after, "<code>")
		assert.Contains(t, drawn, `<template class="body"><style>`, s.Name)
		assert.Contains(t, drawn, "<main", s.Name)
	}
	assert.NotContains(t, text, `src="media/`)
	assert.NotContains(t, text, `url("fonts/`)
	assert.NotContains(t, text, "srcset")
	assert.NotRegexp(t, `(src|href)="(https?:)?//|url\("?https?:`, text, "it asks no other host for anything")
	for _, kind := range e.Library.Kinds() {
		assert.Equal(t, 1, strings.Count(text, fmt.Sprintf("<section id=%q>", kind)),
			"the list of kinds leads to one place for %s", kind)
	}
}
