package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/e2e/browser"
	"ziegel/stock"
)

// payloads try to run something, or to ask HOST, from wherever text may stand: elements, attributes, style sheets,
// scripts, addresses.
var payloads = []string{
	`<script>new Image().src="HOST/a"</script>`, `</style><script>new Image().src="HOST/b"</script>`, `</script><script>new Image().src="HOST/c"</script>`, `</title></textarea></noscript><img src="HOST/d">`,
	`<img src=x onerror="new Image().src='HOST/e'">`, `"><img src="HOST/f">`, `'><img src='HOST/g'>`, `" onmouseover="new Image().src='HOST/h'" autofocus onfocus="new Image().src='HOST/h'" x="`,
	`<svg onload="new Image().src='HOST/i'">`, `<svg><script href="HOST/j"/></svg>`, `<iframe src="HOST/k"></iframe>`, `<iframe srcdoc="<img src='HOST/l'>"></iframe>`, `<object data="HOST/m"></object>`, `<embed src="HOST/n">`,
	`<link rel=stylesheet href="HOST/o">`, `<style>@import "HOST/p";</style>`, `<style>*{background:url(HOST/q)}</style>`, `<meta http-equiv=refresh content="0;url=HOST/r">`, `<base href="HOST/s/">`, `<video poster="HOST/t" autoplay><source src="HOST/t">`,
	`<audio src="HOST/u" autoplay>`, `<input type=image src="HOST/v">`, `<body background="HOST/w">`, `<table background="HOST/x"><tr><td background="HOST/x">`, `<math><mtext><table><mglyph><style><img src="HOST/y">`, `<noscript><p title="</noscript><img src='HOST/z'>">`,
	`![a](HOST/aa)`, `[a](javascript:new Image().src='HOST/ab')`, `*<img src="HOST/ac">*`, "`<img src='HOST/ad'>`", `&lt;img src="HOST/ae"&gt;`, `&#60;img src="HOST/af"&#62;`, `\u003cimg src="HOST/ag"\u003e`, `<!--><img src="HOST/ah">-->`,
	`<![CDATA[><img src="HOST/ai">]]>`, `<x/onclick=alert(1)//<img src="HOST/aj">`, `<template><img src="HOST/ak"></template>`, `<marquee onstart="new Image().src='HOST/al'">`, `<details open ontoggle="new Image().src='HOST/am'">`, `{{<img src="HOST/an">}}`,
	`${new Image().src="HOST/ao"}`, `javascript:new Image().src="HOST/ap"`, `<form><button formaction="javascript:new Image().src='HOST/aq'" autofocus>`, `url(HOST/ar)`, `"*/ body{background:url(HOST/as)} /*`, `;}*{background:url(HOST/at)}a{b:`, `<p style="background:url(HOST/au)">`,
	`<a ping="HOST/av" href="x">`, `<link rel=preload as=image href="HOST/aw">`, `<link rel=dns-prefetch href="HOST/ax">`, `<script type=module>import "HOST/ay"</script>`, `<script type=importmap>{"imports":{"a":"HOST/az"}}</script>`, `<portal src="HOST/ba">`, `<frameset><frame src="HOST/bb">`, `<isindex type=image src="HOST/bc">`,
	`<img srcset="HOST/bd 1x">`, `<picture><source srcset="HOST/be"><img></picture>`, `<svg><image href="HOST/bf"/></svg>`, `<svg><use href="HOST/bg#a"/></svg>`, `<svg><style>*{fill:url(HOST/bh#a)}</style><rect/></svg>`, `<svg><animate onbegin="new Image().src='HOST/bi'" attributeName="x" dur="1s"/></svg>`, `<foreignobject><img src="HOST/bj">`,
}

// host counts who asks it.
type host struct {
	*httptest.Server
	mu    sync.Mutex
	asked []string
}

func newHost(t *testing.T) *host {
	h := &host{}
	h.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/wait" { // holds back the end of loading
			time.Sleep(2 * time.Second)
			return
		}
		h.mu.Lock()
		h.asked = append(h.asked, r.URL.Path)
		h.mu.Unlock()
	}))
	t.Cleanup(h.Close)
	return h
}

// after opens pages (paths below root) in frames of one page, waits, and gives what was asked since.
func (h *host) after(t *testing.T, root string, pages []string) []string {
	t.Helper()
	h.mu.Lock()
	h.asked = nil
	h.mu.Unlock()
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	var frames strings.Builder
	for _, p := range pages {
		fmt.Fprintf(&frames, `<iframe src="/%s" width=800 height=600></iframe>`, p)
	}
	text, err := browser.Ask(ctx, root, "<!doctype html><body>"+frames.String()+"<img src='"+h.URL+
		"/wait'><script>onload = () => { document.body.textContent = 'looked at' }</script></body>", false)
	require.NoError(t, err)
	require.Contains(t, text, "looked at")
	h.mu.Lock()
	defer h.mu.Unlock()
	slices.Sort(h.asked)
	return slices.Compact(h.asked)
}

// TestNothingThatAPageSaysRuns fills every field of every section with what would run, builds the pages, opens them
// in a browser with a host that listens, and the same as plain HTML, of which the host must hear.
func TestNothingThatAPageSaysRuns(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	h := newHost(t)
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	next := 0
	payload := func() string {
		next++
		return strings.ReplaceAll(payloads[next%len(payloads)], "HOST", h.URL)
	}
	var fill func(fields []*library.Field) map[string]any
	fill = func(fields []*library.Field) map[string]any {
		out := map[string]any{}
		for _, f := range fields {
			switch {
			case f.Type == library.RichText:
				out[f.Name] = payload()
			case f.Type == library.Link:
				out[f.Name] = map[string]any{"label": payload(), "to": "https://larkspan.example/"}
			case f.Type == library.Picture:
				out[f.Name] = map[string]any{"file": "a.svg", "alt": payload()}
			case f.Type == library.ListOf:
				var list []any
				for range 2 {
					if w := f.Find("."); w != nil && w.Type == library.RichText {
						list = append(list, payload())
					} else if w == nil {
						list = append(list, fill(f.Of))
					}
				}
				if len(list) > 0 {
					out[f.Name] = list
				}
			}
		}
		return out
	}
	dir, root := t.TempDir(), t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "media"), 0o777))
	write := func(name string, v any) {
		data, err := json.Marshal(v)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), data, 0o666))
	}
	write("ziegel.yaml", map[string]any{"name": payload(), "theme": "marram"})
	svg := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 3"><script>new Image().src="` + h.URL +
		`/svg"</script><image href="` + h.URL + `/svg2"/><rect width="4" height="3" onclick="a()"/></svg>`
	require.NoError(t, os.WriteFile(filepath.Join(dir, "media", "a.svg"), []byte(svg), 0o666))
	const pages = 6
	for p := range pages {
		var blocks []any
		for i := p; i < len(lib.All())*4; i += pages { // each payload meets many fields
			s := lib.All()[i%len(lib.All())]
			blocks = append(blocks, map[string]any{"name": fmt.Sprintf("b%d", i), "section": s.Name,
				"content": fill(s.Fields)})
		}
		write(fmt.Sprintf("pages/p%d.yaml", p), map[string]any{"title": payload(), "description": payload(),
			"blocks": blocks})
	}
	require.Greater(t, next, 4*len(payloads))
	built := builtSite(t, dir, root, "site")
	require.Len(t, built, pages)
	assert.Empty(t, h.after(t, root, built))
	drawing, err := os.ReadFile(filepath.Join(root, "site", "media", "a.svg"))
	require.NoError(t, err)
	assert.Equal(t, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 3"><image/><rect width="4" height="3"/></svg>`, string(drawing))

	// what the host hears of is worth something: plain HTML is heard
	for i, p := range payloads {
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("plain%d.html", i)),
			[]byte("<!doctype html><body>"+strings.ReplaceAll(p, "HOST", h.URL)), 0o666))
	}
	var plain []string
	for i := range payloads {
		plain = append(plain, fmt.Sprintf("plain%d.html", i))
	}
	heard := h.after(t, root, plain)
	assert.Greater(t, len(heard), 25, "%v", heard)
	fmt.Printf("%d payloads in %d fields of %d sections: 0 requests; as plain HTML %d\n", len(payloads), next,
		len(lib.All()), len(heard))
}

// TestNothingRunsInWhatIsWrittenForLooking makes reports, sheets of variants and a catalogue of what is hostile, and
// opens them.
func TestNothingRunsInWhatIsWrittenForLooking(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	h := newHost(t)
	root := t.TempDir()
	secret := filepath.Join(t.TempDir(), "secret.css")
	require.NoError(t, os.WriteFile(secret, []byte("/* a secret */"), 0o666))
	rel, err := filepath.Rel(root, secret)
	require.NoError(t, err)
	page := "<!doctype html><html><head><link rel=stylesheet href=mine.css><link rel=stylesheet href='" + rel +
		"'><style>p{color:red}</style></head><body><p onclick=a()>Words</p>" +
		strings.ReplaceAll(strings.Join(payloads[:16], "\n"), "HOST", h.URL) + "</body></html>"
	require.NoError(t, os.WriteFile(filepath.Join(root, "page.html"), []byte(page), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(root, "mine.css"),
		[]byte(`p::before{content:"</style><script>new Image().src='`+h.URL+`/css'</script>"}`), 0o666))
	run := func(dir string, args ...string) {
		cmd := exec.Command(program, args...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		if _, exited := err.(*exec.ExitError); err != nil && !exited {
			require.NoError(t, err, string(out))
		}
	}
	run(root, "check", "page.html", "--report", "report.html")
	report, err := os.ReadFile(filepath.Join(root, "report.html"))
	require.NoError(t, err)
	assert.NotContains(t, string(report), "a secret", "a report has no file from outside the page's folder")
	assert.Empty(t, h.after(t, root, []string{"report.html"}))
	assert.NotEmpty(t, h.after(t, root, []string{"page.html"}), "the page itself is heard")

	dir := filepath.Join(t.TempDir(), "demo")
	run("", "demo", dir)
	run(dir, "style", "home/plans.card", "padding", "--try", "1rem,2rem", "--sheet", filepath.Join(root, "try.html"))
	run(dir, "sections", "--page", filepath.Join(root, "catalogue.html"))
	for _, name := range []string{"report.html", "try.html", "catalogue.html"} {
		data, err := os.ReadFile(filepath.Join(root, name))
		require.NoError(t, err)
		assert.Contains(t, string(data),
			`<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src `, name)
		assert.Contains(t, string(data), "sandbox", name)
	}
	// they still do what they are for
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	text, err := browser.Ask(ctx, root, `<!doctype html><body><iframe id=r src="/report.html" width=1200 height=800></iframe><iframe id=c src="/catalogue.html" width=1200 height=800></iframe><img src="`+h.URL+`/wait">
<script>onload = () => {
  const r = document.getElementById("r").contentDocument, c = document.getElementById("c").contentDocument;
  document.body.textContent = JSON.stringify({verdict: r.getElementById("verdict").textContent, inside: r.getElementById("view").contentDocument.querySelector("p").textContent, frames: c.querySelectorAll(".view iframe").length});
}</script></body>`, false)
	require.NoError(t, err)
	var got struct {
		Verdict, Inside string
		Frames          int
	}
	require.NoError(t, json.Unmarshal([]byte(text), &got), text)
	assert.Contains(t, got.Verdict, "found:")
	assert.Equal(t, "Words", got.Inside)
	assert.Positive(t, got.Frames)
}
