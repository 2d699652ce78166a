package media

import (
	"bytes"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"

	"ziegel/stock"
)

var active = regexp.MustCompile(`(?i)<(script|style|foreignobject|a|image|use|text)\b|\son[a-z]+=|javascript:|url\(`)

// FuzzIcon: whatever an SVG file brings, what is taken from it draws and does nothing else, and its tags close.
func FuzzIcon(f *testing.F) {
	for _, s := range []string{
		`<svg viewBox="0 0 24 24"><path d="M0 0h4"/></svg>`,
		`<svg><g onclick="x()"><script>1</script><path d="M1 1" fill="url(#a)"/></g></svg>`,
		`<svg><a href="javascript:x"><circle r='3"/><script>'/></a></svg>`,
		`<svg><g><g></svg><path d="&quot;&lt;script"/></svg>`,
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, svg string) {
		icon, err := ReadIcon(stock.Files, fstest.MapFS{"media/icons/x.svg": {Data: []byte(svg)}}, "x")
		if err != nil {
			return
		}
		body := icon.Body
		if m := active.FindString(body); m != "" {
			t.Fatalf("%q comes through in %q", m, body)
		}
		for _, tag := range shapeTags {
			if open, shut := strings.Count(body, "<"+tag+" ")+strings.Count(body, "<"+tag+">"),
				strings.Count(body, "</"+tag+">"); open != shut {
				t.Fatalf("%d <%s> and %d </%s> in %q", open, tag, shut, tag, body)
			}
		}
	})
}

// FuzzPicture: no file makes reading its size or its colors fail, and a drawing in other colors is the same but for
// them.
func FuzzPicture(f *testing.F) {
	data, err := stock.Files.ReadFile("pictures/festival.svg")
	if err != nil {
		f.Fatal(err)
	}
	f.Add("a.svg", data)
	f.Add("a.svg", []byte("<svg width='1e999' height='-3'><style>:root{--picture-sky:#fff;--picture-x:}</style>"))
	f.Add("a.jpg", []byte("\xff\xd8\xff\xe1\x00\x10Exif\x00\x00MM\x00*"))
	f.Add("a.png", []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x7f\xff\xff\xff\x7f\xff\xff\xff"))
	f.Fuzz(func(t *testing.T, name string, data []byte) {
		if w, h, err := Size(name, data); err == nil && (w <= 0 || h <= 0) {
			t.Fatalf("%v x %v", w, h)
		}
		_ = SVGColors(data)
		_, _ = ReadColors(data)
		light := map[string]string{"sky": "#123456"}
		out := Recolor(data, light, nil)
		if !bytes.Equal(Recolor(out, light, nil), out) {
			t.Fatalf("a second coat changes %q", out)
		}
	})
}
