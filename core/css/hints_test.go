package css

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"golang.org/x/net/html"
)

// What presentational attributes stand for (HTML, chapter 15), as the declarations that they become.
func TestPresentationalAttributes(t *testing.T) {
	for in, want := range map[string]string{
		`<div align=center>`:                         "text-align: -webkit-center",
		`<p align=justify>`:                          "text-align: justify",
		`<p align=nowhere>`:                          "",
		`<img width=30 height="20%" hspace=4>`:       "margin-inline: 4px; width: 30px; height: 20%",
		`<img width=30 height=20>`:                   "width: 30px; height: 20px; aspect-ratio: auto 30/20",
		`<img align=right border=2>`:                 "float: right; border: 2px solid",
		`<img align=absmiddle>`:                      "vertical-align: middle",
		`<font size=+1 face=Gale color=cc0000>`:      "color: #cc0000; font-size: large; font-family: Gale",
		`<font size=99>`:                             "font-size: xxx-large",
		`<hr size=5 noshade align=left width="50%">`: "width: 50%; margin-left: 0; margin-right: auto; border-style: solid; height: 3px",
		`<hr size=1>`:                                "border-bottom-width: 0",
		`<ol type=a>`:                                "list-style-type: lower-alpha",
		`<ul type=square>`:                           "list-style-type: square",
		`<ul type=1>`:                                "",
		`<body marginwidth=3 topmargin=4>`:           "margin-left: 3px; margin-right: 3px; margin-top: 4px; margin-bottom: 4px",
		`<br clear=all>`:                             "clear: both",
		`<table width="90%" cellspacing=3 border=2 align=center>`: "width: 90%; border-width: 2px; border-spacing: 3px; border-style: outset; border-color: canvastext; margin-inline: auto",
		`<table rules=all>`:        "border-collapse: collapse; border-style: hidden",
		`<table frame=above>`:      "border-style: solid hidden hidden hidden; border-width: thin",
		`<table border>`:           "border-width: 1px; border-style: outset; border-color: canvastext",
		`<table width=px>`:         "",
		`<svg width=3 height=4em>`: "width: 3px; height: 4em",
	} {
		node, err := html.Parse(strings.NewReader(in))
		assert.NoError(t, err)
		b := &domBuilder{}
		b.element(node.FirstChild, nil)
		tag := strings.FieldsFunc(in, func(r rune) bool { return r == '<' || r == ' ' || r == '>' })[0]
		got := ""
		for _, e := range b.all {
			if e.Tag == tag {
				got = hinted(e)
			}
		}
		assert.Equal(t, want, got, in)
	}
}

func hinted(e *Element) string {
	var out []string
	for _, m := range (&Document{}).presentationalHints(e) {
		for _, d := range m.rule.decls {
			out = append(out, d.name+": "+strings.TrimSpace(Text(d.value)))
		}
	}
	return strings.Join(out, "; ")
}

// Cells take borders and padding from what their table says.
func TestCellsFollowTheirTable(t *testing.T) {
	for table, want := range map[string]string{
		"border=1 cellpadding=5":      "padding: 5px; border: 1px inset canvastext",
		"border=1 bordercolor=red":    "border: 1px solid",
		"border=0":                    "",
		"rules=cols":                  "border-inline: thin solid",
		"rules=rows border=2":         "border-block: thin solid",
		"rules=all":                   "border: 1px solid",
		"rules=none border=2":         "",
		"rules=groups cellpadding=no": "",
	} {
		node, err := html.Parse(strings.NewReader("<table " + table + "><thead><tr><td>"))
		assert.NoError(t, err)
		b := &domBuilder{}
		b.element(node.FirstChild, nil)
		for _, e := range b.all {
			switch e.Tag {
			case "td":
				assert.Equal(t, want, hinted(e), table)
			case "thead":
				assert.Equal(t, strings.Contains(table, "groups"), hinted(e) != "", table)
			}
		}
	}
}

// HTML, section 13.2.6.4.1.
func TestDocumentTypes(t *testing.T) {
	for doctype, want := range map[string]string{
		"": "quirks", "<!doctype html>": "", "<!DOCTYPE HTML>": "", "<!doctype gale>": "quirks",
		`<!doctype html public "-//W3C//DTD HTML 3.2 Final//EN">`:                                  "quirks",
		`<!DOCTYPE HTML PUBLIC "-//w3c//dtd html 4.01 transitional//en">`:                          "quirks",
		`<!doctype html public "-//W3C//DTD HTML 4.01 Transitional//EN" "http://www.w3.org/TR/x">`: "limited",
		`<!doctype html public "-//W3C//DTD XHTML 1.0 Frameset//EN" "x">`:                          "limited",
		`<!doctype html public "-//W3C//DTD XHTML 1.0 Strict//EN" "x">`:                            "",
		`<!doctype html public "-//W3C//DTD HTML 4.01//EN">`:                                       "",
		`<!doctype html system "about:legacy-compat">`:                                             "",
		`<!doctype html system "http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd">`:      "quirks",
		`<!doctype html public "HTML">`:                                                            "quirks",
		`<!-- first --><!doctype html public "-//IETF//DTD HTML//EN//3.0">`:                        "quirks",
	} {
		d := load(t, doctype+"<p>x")
		got := ""
		switch {
		case d.Quirks:
			got = "quirks"
		case d.Limited:
			got = "limited"
		}
		assert.Equal(t, want, got, doctype)
	}
}

func TestOldLengths(t *testing.T) {
	for in, want := range map[string]string{"30": "30px", "30%": "30%", " 4.5em": "4.5px", "+7": "7px", "0": "0px",
		"12.": "12px", "": "", "x": "", "-3": "", "*": "", "1.2.3": "1.2px"} {
		got, ok := dimension(in)
		assert.Equal(t, want, got, in)
		assert.Equal(t, want != "", ok, in)
	}
	unitless := load(t, `<!doctype html public "HTML"><style>p{width:30;margin:4 0 -2px;gap:5;line-height:2}</style><p>x`)
	s := NewStyler(unitless)
	s.SetMedia(Media{Width: 800, Height: 600})
	var p *Element
	for _, e := range unitless.Elements {
		if e.Tag == "p" {
			p = e
		}
	}
	st := s.Style(p, s.Root(), nil)
	assert.Equal(t, Len{Kind: LenPx, Px: 30}, st.Width)
	assert.Equal(t, 4.0, st.Margin[Top].Px)
	assert.Equal(t, LenNormal, st.RowGap.Kind, "only lengths of old properties")
	assert.Equal(t, 2.0, st.LineHeight.Number)
}
