package e2e

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/inbox"
	"ziegel/e2e/browser"
	"ziegel/stock"
	"ziegel/ui/cli"
	"ziegel/ui/preview"
)

// A form is filled in by people and by a program, in a browser that speaks another language than the page.
func TestAFormIsTriedInThePreview(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	dir := filepath.Join(t.TempDir(), "site")
	var out bytes.Buffer
	require.Zero(t, cli.Run([]string{"demo", dir}, strings.NewReader(""), &out, &out), out.String())
	for name, text := range map[string]string{
		"write.yaml": "title: Schreiben\nblocks:\n  - name: letter\n    section: contact/details\n    content:\n" +
			"      send-to: https://mine.example/post\n      then: thanks\n",
		"thanks.yaml": "title: Danke\nblocks:\n  - name: words\n    section: piece/heading\n    content: {heading: It is with us}\n",
	} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", name), []byte(text), 0o666))
	}
	site := filepath.Join(dir, "ziegel.yaml")
	said, err := os.ReadFile(site)
	require.NoError(t, err)
	german := strings.Replace(string(said), "language: en", "language: de", 1)
	if german == string(said) {
		german += "language: de\n"
	}
	require.NoError(t, os.WriteFile(site, []byte(german), 0o666))
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	at := make(chan string, 1)
	go func() { _ = preview.New(dir, stock.Files).Serve(ctx, 0, func(url string) { at <- url }) }()
	base := strings.TrimSuffix(<-at, "-/")
	ask := func(js string) string {
		got, err := browser.Keys(ctx, base+"write/", 390, nil, js)
		require.NoError(t, err)
		return got
	}
	const objections = `[...document.querySelectorAll(".objection")].map(x => x.checkVisibility() ? x.textContent : "").join("|")`
	assert.Equal(t, "||", ask(objections), "nothing is wrong before anybody has typed")
	wrong := ask(`document.querySelector("[type=submit]").click(); ` + objections)
	assert.Equal(t, 2, strings.Count(wrong, "Bitte füllen Sie das aus."), wrong)
	assert.Contains(t, wrong, "Bitte geben Sie eine E-Mail-Adresse an")
	assert.Empty(t, inbox.List(preview.Inbox(dir)))

	const send = `document.querySelector("[name=name]").value = "Inés"; document.querySelector("[name=email]").value = "ines@mine.example"; document.querySelector("[name=text]").value = "A kite,\nplease"; const f = document.querySelector("form"), x = new XMLHttpRequest(); x.open("POST", f.action, false); x.send(new URLSearchParams(new FormData(f))); x.responseURL + x.responseText`
	assert.Regexp(t, `^http://127\.0\.0\.1:\d+/thanks/[^$]*It is with us`, ask(send), "the page after it")
	ask(`document.querySelector("[name=homepage]").value = "http://spam.example"; ` + send)
	list := inbox.List(preview.Inbox(dir))
	require.Len(t, list, 2)
	trapped := 0
	for _, l := range list {
		assert.Equal(t, "https://mine.example/post", l.To)
		assert.Equal(t, []inbox.Field{{Name: "name", Value: "Inés"}, {Name: "email", Value: "ines@mine.example"},
			{Name: "text", Value: "A kite,\nplease"}}, l.Fields)
		if l.Trapped {
			trapped++
		}
	}
	assert.Equal(t, 1, trapped)
}
