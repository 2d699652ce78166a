package media_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/media"
)

const svgHead = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 10 10">`

// What a drawing may do is draw: each row is a way out of that, or looks like one.
func TestDrawingsOnlyDraw(t *testing.T) {
	for _, c := range []struct{ in, out, what string }{
		{`<path d="M0 0h1"/>`, `<path d="M0 0h1"/>`, ""},
		{`<style>.a{fill:url(#g)}</style><use href="#a"/><image href="data:image/png;base64,AA"/>`,
			`<style>.a{fill:url(#g)}</style><use href="#a"/><image href="data:image/png;base64,AA"/>`, ""},
		{`<script>alert(1)</script><g/>`, `<g/>`, "a script"},
		{`<script href="x.js"/><g/>`, `<g/>`, "a script"},
		{`<s:script xmlns:s="http://www.w3.org/2000/svg">alert(1)</s:script><g/>`, `<g/>`, "a script"},
		{`<g ONLOAD="a()" fill="red" onclick='b()'/>`, `<g fill="red"/>`, "a script"},
		{`<a href="javascript:alert(1)"><g/></a>`, `<a><g/></a>`, "a script"},
		{`<a xlink:href=" java&#10;script:alert(1)"><g/></a>`, `<a><g/></a>`, "a script"},
		{`<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><iframe src="http://x.example"/></body></foreignObject><g/>`, `<g/>`, "a page"},
		{`<image href="http://x.example/a.png"/>`, `<image/>`, "an address of another host"},
		{`<image xlink:href="//x.example/a.png" width="1"/>`, `<image width="1"/>`, "an address of another host"},
		{`<use href="other.svg#a"/>`, `<use/>`, "the name of another file"},
		{`<rect fill="url(http://x.example/a.svg#g)" x="1"/>`, `<rect x="1"/>`, "an address of another host"},
		{`<rect style="fill:u\72l(http://x.example)" x="1"/>`, `<rect x="1"/>`, "an address of another host"},
		{`<style>@import "http://x.example/a.css";</style><g/>`, `<g/>`, "an address of another host"},
		{`<style onload="a()" id="b">.a{background:url(x.png)}</style><g/>`, `<g/>`,
			"a script, the name of another file"},
		{`<style>.a{background:url(http://x.example/a)}</style><g/>`, `<g/>`, "an address of another host"},
		{`<animate attributeName="href" to="javascript:alert(1)"/><g/>`, `<g/>`, "a script"},
		{`<set attributeName="onclick" to="a()"/><g/>`, `<g/>`, "a script"},
		{`<animate attributeName="x" to="3"/>`, `<animate attributeName="x" to="3"/>`, ""},
		{`<a href="https://x.example/"><text>go</text></a>`, `<a href="https://x.example/"><text>go</text></a>`, ""},
	} {
		out, what, err := media.Clean([]byte(svgHead + c.in + "</svg>"))
		require.NoError(t, err, c.in)
		assert.Equal(t, svgHead+c.out+"</svg>", string(out))
		assert.Equal(t, c.what, strings.Join(what, ", "), c.in)
	}
}

func TestDrawingsWithoutAProlog(t *testing.T) {
	for in, want := range map[string]string{
		"<?xml version=\"1.0\"?>\n" + svgHead +
			"</svg>": "<?xml version=\"1.0\"?>\n" + svgHead + "</svg>",
		"<?xml-stylesheet href=\"http://x.example/a.css\"?>" + svgHead + "</svg>": svgHead +
			"</svg>",
		"<!DOCTYPE svg [<!ENTITY a \"<script>alert(1)</script>\">]>" + svgHead + "<g/></svg>": svgHead +
			"<g/></svg>",
		"<!DOCTYPE svg PUBLIC \"-//W3C//DTD SVG 1.1//EN\" \"http://x/svg11.dtd\">" + svgHead + "</svg>": svgHead +
			"</svg>",
		"<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?>" + svgHead +
			"<g onload=\"a\"/></svg>": "<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?>" + svgHead +
			"<g/></svg>",
	} {
		out, _, err := media.Clean([]byte(in))
		require.NoError(t, err, in)
		assert.Equal(t, want, string(out))
	}
	for in, want := range map[string]string{ // names that only begin as handlers do go too, whatever is in them
		`<A on0=  '0'/>`:                        `<A/>`,
		`<g on-x.y_z='0'/>`:                     `<g/>`,
		`<g x:onload ='0'/>`:                    `<g/>`,
		`<g id='a'onö='0'/>`:                    `<g id='a'/>`,
		`<g on='0'/>`:                           `<g/>`,
		`<g a=' ona="' b='" ona="z"' ona="y"/>`: `<g a=' ona="' b='" ona="z"'/>`,
	} {
		out, what, err := media.Clean([]byte(svgHead + in + "</svg>"))
		require.NoError(t, err, in)
		assert.Equal(t, svgHead+want+"</svg>", string(out))
		assert.Equal(t, []string{"a script"}, what, in)
	}
	for _, in := range []string{svgHead + "<script>alert(1)", svgHead + "<g onload=x/></svg>",
		svgHead + "<g\fonload='x'/></svg>",
		svgHead + "&bomb;<script/></svg>", "\xff\xfe<\x00s\x00v\x00g\x00"} {
		_, _, err := media.Clean([]byte(in))
		assert.Error(t, err, "%q", in)
	}
}

// FuzzClean: what comes out has no script, no handler and no address of another host, and cleaning it again changes
// nothing.
func FuzzClean(f *testing.F) {
	for _, s := range []string{"<script>a</script>", "<g onload='a'/>", "<a href='javascript:b'/>",
		"<style>@import 'x'</style>", "<use href='x.svg#a'/>", "<!-- <script> --><g/>", "<![CDATA[<script>]]>",
		"<g a='>' onx='y'/>",
		"<A A=''on=''/>", "<A on0=  '0'>", "<a\nhref\n=\n'//h'/>"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, body string) {
		out, _, err := media.Clean([]byte(svgHead + body + "</svg>"))
		if err != nil {
			return
		}
		again, what, err := media.Clean(out)
		require.NoError(t, err)
		require.Equal(t, string(out), string(again))
		require.Empty(t, what)
		d := xml.NewDecoder(bytes.NewReader(out))

		for {
			tok, err := d.Token()
			if errors.Is(err, io.EOF) || err != nil {
				return
			}
			if e, ok := tok.(xml.StartElement); ok {
				require.NotEqual(t, "script", strings.ToLower(e.Name.Local))
				for _, a := range e.Attr {
					require.False(t, len(a.Name.Local) > 2 &&
						strings.HasPrefix(strings.ToLower(a.Name.Local), "on"), string(out))
				}
			}
		}
	})
}
