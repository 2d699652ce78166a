package site

import (
	"fmt"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strings"
	"time"

	"ziegel/core/diag"
)

// HostForms are the forms in which servers read what a host is told.
var HostForms = []string{".htaccess", "_headers", "nginx"}

var movedForm = regexp.MustCompile(`^/[A-Za-z0-9._~%!$&'()*+,;=:@/-]*$`)

// host reads what the server is told.
func (s *Site) host(l *loader, v *Value) {
	m := l.mapOf(v, "host", "{reads: [.htaccess], moved: {/old: courses}}")
	if m == nil {
		return
	}
	l.keys(m, "host", "reads", "moved", "hashed", "security", "until")
	for _, f := range l.listOf(m.Get("reads"), "reads", "[.htaccess, _headers]") {
		name := l.text(f, "a form")
		if !slices.Contains(HostForms, name) {
			l.add(l.f.Problem(f, "bad-value", fmt.Sprintf("there is no form %q of what servers read", name),
				"one of "+strings.Join(HostForms, ", "), diag.Nearest(name, HostForms)))
			continue
		}
		s.Host.Reads = AppendNew(s.Host.Reads, name)
	}
	s.Host.Hashed = l.yes(m.Get("hashed"), "hashed")
	s.security(l, m)
	if list := l.mapOf(m.Get("moved"), "moved", "{/old: courses}"); list != nil {
		for _, e := range list.Entries {
			s.moved(l, e)
		}
	}
}

// AppendNew appends what is not in a list yet.
func AppendNew(list []string, s string) []string {
	if slices.Contains(list, s) {
		return list
	}
	return append(list, s)
}

func (s *Site) moved(l *loader, e Entry) {
	to := l.text(e.Value, "what is there now")
	own := strings.Trim(e.Key, "/")
	switch {
	case !movedForm.MatchString(e.Key) || e.Key == "/":
		l.add(l.f.KeyProblem(e, "bad-value", fmt.Sprintf("%q is no address of the site that was once", e.Key),
			"a path from the root of the site, as browsers show it, such as /old", ""))
		return
	case s.HasPage(own):
		l.add(l.f.KeyProblem(e, "bad-value", fmt.Sprintf("%s is a page of the site, and nobody would see it", e.Key),
			"an address at which there is nothing any more", ""))
		return
	}
	m := Moved{From: e.Key, To: to, Node: e.Value}
	u, err := url.Parse(to)
	address := err == nil && (u.Scheme == "https" || u.Scheme == "http") && u.Host != "" &&
		!strings.ContainsAny(to, " \"\t\r\n;{}$\\")
	if address {
		s.Host.Moved = append(s.Host.Moved, m)
		return
	}
	page, place, _ := strings.Cut(to, "#")
	if !s.HasPage(page) || place != "" && !ValidName(place) {
		names := s.PageNames()
		l.add(l.f.Problem(e.Value, "dead-link", fmt.Sprintf("what was at %s leads to %q, which is no page", e.Key, to),
			"a page, or an https: address", diag.Nearest(page, names)))
		return
	}
	m.Page = true
	s.Host.Moved = append(s.Host.Moved, m)
}

// MailAddress is the form of a mail address that stands alone.
var MailAddress = regexp.MustCompile(`^[^\s@:/?#<>"]+@[^\s@:/?#<>"]+\.[^\s@:/?#<>".]+$`)

// security reads whom people write to who found a hole.
func (s *Site) security(l *loader, m *Value) {
	to, until := l.text(m.Get("security"), "security"), l.text(m.Get("until"), "until")
	if to == "" && until == "" {
		return
	}
	if MailAddress.MatchString(to) {
		to = "mailto:" + to
	}
	switch _, err := time.Parse(time.DateOnly, until); {
	case !strings.HasPrefix(to, "mailto:") && !strings.HasPrefix(to, "https://") || strings.ContainsAny(to, " \r\n\t"):
		at := m.Get("security")
		if at == nil {
			at = m
		}
		l.add(l.f.Problem(at, "bad-value", fmt.Sprintf("nobody can be written to at %q", to),
			"a mail address, or an https: address", "security: ines@larkspan.example"))
	case err != nil:
		at := m.Get("until")
		if at == nil {
			at = m.Get("security")
		}
		l.add(l.f.Problem(at, "missing-key", "whom to write to holds up to a day (RFC 9116, 2.5.5)",
			"until: and a day within a year", "until: 2027-01-31"))
	default:
		s.Host.Security, s.Host.Until = to, until
	}
}

// hashable are the suffixes of files that nobody asks for by name: pages name them.
var hashable = []string{".css", ".woff2", ".woff", ".ttf", ".otf", ".svg", ".png", ".jpg", ".jpeg", ".webp", ".avif",
	".gif", ".mp4", ".webm", ".vtt"}

// Hashable reports whether a built file may be published under another name: styles, fonts and pictures are named by
// pages alone. Icons of the site and the pictures that others show, at its root and in share/, are asked for by name.
func Hashable(name string) bool {
	ext := strings.ToLower(path.Ext(name))
	return ext == ".css" || slices.Contains(hashable, ext) &&
		(strings.HasPrefix(name, "fonts/") || strings.HasPrefix(name, "media/"))
}
