package preview

import (
	"fmt"
	"html"
	"net/http"
	"net/url"
	"path/filepath"
	"strings"
	"time"

	"ziegel/core/compose"
	"ziegel/core/inbox"
	"ziegel/core/project"
)

const (
	inboxPath = "/-/inbox"
	emptyPath = "/-/inbox/empty"
)

// Inbox is the folder that keeps what the forms of a site in dir send while it is previewed.
func Inbox(dir string) string { return filepath.Join(dir, ".ziegel", "inbox") }

// letterBox is the receiver of what pages of a preview send.
type letterBox struct {
	dir     string
	allowed func(host string) bool // a host by which this preview is asked
	env     func() *project.Project
	told    func() // something has come or gone
}

// post takes what pages of this preview send. Pages of others, which could ask here as well, are told by their origin
// (Fetch, 3.2).
func (b *letterBox) post(w http.ResponseWriter, r *http.Request) {
	if from, err := url.Parse(r.Header.Get("Origin")); err != nil || !b.allowed(from.Host) {
		http.Error(w, "this preview takes letters of its own pages only", http.StatusForbidden)
		return
	}
	switch r.URL.Path {
	case inboxPath:
		b.letter(w, r)
	case emptyPath:
		if err := inbox.Empty(Inbox(b.dir)); err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		b.told()
		w.WriteHeader(http.StatusNoContent)
	default:
		http.Error(w, "only reading is possible here", http.StatusMethodNotAllowed)
	}
}

// letter keeps a letter and shows what its sender sees: the page that the form names, or a few words.
func (b *letterBox) letter(w http.ResponseWriter, r *http.Request) {
	l, then, err := inbox.Read(r.Header.Get("Content-Type"), r.Body, compose.Trap, compose.Then)
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	q := r.URL.Query()
	l.Time, l.Form, l.To = time.Now().UTC().Truncate(time.Second), q.Get("form"), q.Get("to")
	env := b.env()
	page, _, _ := strings.Cut(l.Form, "/")
	if env == nil || !env.Site.HasPage(page) || strings.Contains(l.Form, "..") {
		http.Error(w, fmt.Sprintf("no form of the site is called %q", l.Form), http.StatusBadRequest)
		return
	}
	if err := inbox.Keep(Inbox(b.dir), l); err != nil {
		http.Error(w, "the letter could not be kept: "+err.Error(), http.StatusInternalServerError)
		return
	}
	b.told()
	if to, ok := strings.CutPrefix(then, env.Site.Address); ok && then != "" {
		if to == "" || to[0] != '/' {
			to = "/" + to
		}
		if !strings.HasPrefix(to, "//") && !strings.Contains(to, `\`) {
			http.Redirect(w, r, to, http.StatusSeeOther)
			return
		}
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_, _ = fmt.Fprintf(
		w,
		`<!doctype html><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>It arrived</title>
<style>:root{color-scheme:light dark}body{font:1rem/1.5 system-ui,sans-serif;max-width:36rem;margin:3rem auto;padding:0 1rem}dd{margin:0 0 .75rem;white-space:pre-wrap;overflow-wrap:anywhere}dt{opacity:.7}</style>
<h1>It arrived</h1><p>When the site is published this goes to %s, and what follows is theirs to say. <code>then: PAGE</code> in the content of the block names a page of yours.</p><dl>%s</dl><p><a href="/%s">Back to the page</a></p>`,
		html.EscapeString(l.To),
		listed(l),
		html.EscapeString(strings.TrimSuffix(pathOf(page), "index.html")),
	)
}

// pathOf gives the file of a page.
func pathOf(page string) string { return project.PagePath(page) }

func listed(l inbox.Letter) string {
	var b strings.Builder
	for _, f := range l.Fields {
		_, _ = fmt.Fprintf(&b, "<dt>%s</dt><dd>%s</dd>", html.EscapeString(f.Name), html.EscapeString(f.Value))
	}
	return b.String()
}
