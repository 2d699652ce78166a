package preview

import (
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/inbox"
	"ziegel/stock"
)

// A form of a page goes to the inbox instead of its receiver, its sender sees the page that the form names, and
// nobody else can put letters there.
func TestFormsAreTriedFromEndToEnd(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	dir := copyDemo(t)
	write := func(name, text string) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", name), []byte(text), 0o666))
	}
	const form = "title: Write\nblocks:\n  - name: letter\n    section: contact/details\n    content:\n" +
		"      send-to: https://mine.example/post\n"
	write("write.yaml", form+"      then: thanks\n")
	write("plain.yaml", strings.Replace(form, "https://mine.example/post", "ines@mine.example", 1))
	write(
		"thanks.yaml",
		"title: Thanks\nblocks:\n  - name: words\n    section: piece/heading\n    content: {heading: It is with us}\n",
	)
	s := New(dir, stock.Files)
	s.host = "80"
	ask := func(method, at, origin, kind, body string) (int, string, string) {
		r := httptest.NewRequest(method, "http://localhost"+at, strings.NewReader(body))
		r.Header.Set("Origin", origin)
		r.Header.Set("Content-Type", kind)
		w := httptest.NewRecorder()
		s.ServeHTTP(w, r)
		text, _ := io.ReadAll(w.Body)
		return w.Code, w.Header().Get("Location"), string(text)
	}
	const coded = "application/x-www-form-urlencoded"
	_, _, page := ask("GET", "/write/", "", "", "")
	assert.Contains(t, page, `action="/-/inbox?form=write%2Fletter&amp;to=https%3A%2F%2Fmine.example%2Fpost"`)
	assert.NotContains(t, page, `action="https`)
	assert.Contains(t, page, `name="homepage"`)
	_, _, page = ask("GET", "/plain/", "", "", "")
	assert.Contains(t, page, `to=mailto%3Aines%40mine.example"`)
	assert.NotContains(t, page, `text/plain`)

	const at = inboxPath + "?form=write%2Fletter&to=https%3A%2F%2Fmine.example%2Fpost"
	code, to, _ := ask(
		"POST",
		at,
		"http://localhost",
		coded,
		"name=In%C3%A9s&homepage=&then=https%3A%2F%2Flarkspan.example%2Fthanks%2F",
	)
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/thanks/", to)
	list := inbox.List(Inbox(dir))
	require.Len(t, list, 1)
	assert.Equal(t, []inbox.Field{{Name: "name", Value: "Inés"}}, list[0].Fields)
	assert.Equal(t, "write/letter", list[0].Form)

	code, _, page = ask("POST", inboxPath+"?form=plain%2Fletter&to="+url.QueryEscape("mailto:ines@mine.example"),
		"http://localhost", coded, "name=%3Cb%3E&homepage=x")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "<dd>&lt;b&gt;</dd>")
	_, _, state := ask("GET", "/-/state", "", "", "")
	assert.Contains(t, state, `"trapped":true`)

	for _, c := range []struct{ at, origin, kind string }{
		{at, "https://other.example", coded},
		{at, "", coded},
		{inboxPath + "?form=nowhere%2Fx", "http://localhost", coded},
		{inboxPath + "?form=write%2F..%2F..%2Fx", "http://localhost", coded},
		{at, "http://localhost", "application/json"},
		{"/write/", "http://localhost", coded},
		{emptyPath, "https://other.example", coded},
	} {
		code, _, _ := ask("POST", c.at, c.origin, c.kind, "name=x")
		assert.GreaterOrEqual(t, code, 400, c)
	}
	assert.Len(t, inbox.List(Inbox(dir)), 2)
	code, to, _ = ask("POST", at, "http://localhost", coded, "then=https%3A%2F%2Flarkspan.example%2F%2Fevil.example")
	assert.Equal(t, http.StatusOK, code, to)
	code, _, _ = ask("POST", emptyPath, "http://localhost", coded, "")
	assert.Equal(t, http.StatusNoContent, code)
	assert.Empty(t, inbox.List(Inbox(dir)))
}
