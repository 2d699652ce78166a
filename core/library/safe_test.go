package library_test

import (
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/stock"
)

// A section that somebody else has made may not run anything, nor ask a host that the site does not list.
func TestSectionsThatAreNotSafe(t *testing.T) {
	for _, c := range []struct{ html, css, want string }{
		{`<p data-field="text">Words</p><a href="https://kites.example/">More</a><img src="data:image/png;base64,AA" alt="">`, "", ""},
		{`<iframe src="https://player.example/1" title="A film"></iframe>`,
			".x{background:url(https://player.example/a.png)}", ""},
		{`<svg><path d="M0 0"/><use href="#a"/></svg><form action="/thanks"></form>`,
			".x{mask:url(\"data:image/svg+xml,<svg/>\")}", ""},
		{`<script>a()</script>`, "", "no <script>"},
		{`<svg><script>a()</script></svg>`, "", "no <script>"},
		{`<p onclick="a()">x</p>`, "", "runs a script"},
		{`<svg><g onload="a()"/></svg>`, "", "runs a script"},
		{`<a href="javascript:a()">x</a>`, "", "no link"},
		{"<a href=\"java\tscript:a()\">x</a>", "", "no link"},
		{`<a href="data:text/html,a">x</a>`, "", "no link"},
		{`<iframe src="https://other.example/"></iframe>`, "", "asks another host"},
		{`<iframe srcdoc="a"></iframe>`, "", "page of its own"},
		{`<img src="//other.example/a.png">`, "", "asks another host"},
		{`<img src="\\other.example\a.png">`, "", "asks another host"},
		{`<img srcset="a.png 1x, http://other.example/a.png 2x">`, "", "asks another host"},
		{`<img src="http://player.example/a.png">`, "", "asks another host"},
		{`<form action="https://other.example/"></form>`, "", "asks another host"},
		{`<button formaction="javascript:a()"></button>`, "", "no address of a file"},
		{`<svg><image xlink:href="https://other.example/a.png"/></svg>`, "", "asks another host"},
		{`<svg><animate attributeName="href" to="javascript:a()"/></svg>`, "", "an animation changes href"},
		{`<p style="background:u\72l(https://other.example)">x</p>`, "", "nobody can tell"},
		{`<meta http-equiv="refresh" content="0;url=https://other.example">`, "", "no <meta>"},
		{`<object data="https://other.example/a.swf"></object>`, "", "asks another host"},
		{``, `@import "https://other.example/a.css";`, "no @import"},
		{``, `.x{background:url(https://other.example/a.png)}`, "asks another host"},
		{``, `@media (width > 1px){.x{background:image-set("https://other.example/a.png" 1x)}}`, "asks another host"},
		{``, `.x{--a:url(//other.example/a.png)}`, "asks another host"},
		{``, `.x{background:u\72l(https://other.example/a.png)}`, "nobody can tell"},
		{``, `@font-face{font-family:a;src:url(a.woff2)}`, "no @font-face"},
	} {
		lib, problems := library.Load("sections", fstest.MapFS{
			"sections/own/x/section.html": {Data: []byte("<section class=\"x\">" + c.html + "</section>")},
			"sections/own/x/section.css":  {Data: []byte(c.css)},
			"sections/own/x/section.yaml": {Data: []byte("name: own/x\nversion: 1\nsummary: x\n")},
		})
		require.NoError(t, problems.Err(), c.html)
		found := library.Unsafe(lib.Section("own/x"), []string{"player.example"})
		if c.want == "" {
			assert.Empty(t, found, c.html)
			continue
		}
		if assert.NotEmpty(t, found, c.html+c.css) {
			assert.Contains(t, found[0].Text, c.want)
			assert.Positive(t, found[0].Line)
		}
	}
}

func TestShippedSectionsAreSafe(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	for _, s := range lib.All() {
		assert.Empty(t, library.Unsafe(s, nil), s.Name)
	}
}
