package check

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
)

// What lists of results show of a page before they cut it, characters. They cut by width, some 600 px of a title and
// two lines of a description, so that these are averages.
const (
	shownTitle       = 60
	shownDescription = 155
)

// Results finds what is wrong with pages where they are listed among others, in search results and in tabs: titles
// and descriptions that are missing, cut, or the same as those of another page. The findings stand under the names of
// the pages.
func Results(e *project.Project) map[string][]Finding {
	out := map[string][]Finding{}
	titles, descriptions := map[string]string{}, map[string]string{}
	for _, name := range e.Site.PageNames() {
		p := e.Site.Page(name)
		if p == nil {
			continue
		}
		note := func(rule, cure, format string, args ...any) {
			out[name] = append(out[name], Finding{Rule: rule, Severity: diag.Note, Cure: cure,
				Text: fmt.Sprintf(format, args...)})
		}
		title := compose.Title(e, name)
		switch n := utf8.RuneCountInString(title); {
		case p.Title == "":
			note("no-title", fmt.Sprintf("ziegel set %s title=...", name), "the page has no title")
		case titles[title] != "":
			note("same-title", fmt.Sprintf("ziegel set %s title=...", name),
				"the page has the title of %s: %s", titles[title], title)
		case n > shownTitle:
			note(
				"long-title",
				"",
				"the title is %d characters long, and lists of results show about %d: %s",
				n,
				shownTitle,
				shorten(title, shownTitle),
			)
		}
		titles[title] = orFirst(titles[title], name)
		d := strings.TrimSpace(p.Description)
		switch n := utf8.RuneCountInString(d); {
		case d == "":
			text, cure := "the page has no description for search results", fmt.Sprintf(
				"ziegel set %s description=...",
				name,
			)
			if draft := Draft(p); draft != "" {
				text += "; drafted from its own words: " + draft
				cure = fmt.Sprintf("ziegel set %s %s", name, quoteShell("description="+draft))
			}
			note("no-description", cure, "%s", text)
		case descriptions[d] != "":
			note("same-description", fmt.Sprintf("ziegel set %s description=...", name),
				"the page has the description of %s", descriptions[d])
		case n > shownDescription:
			note(
				"long-description",
				"",
				"the description is %d characters long, and lists of results show about %d: %s",
				n,
				shownDescription,
				shorten(d, shownDescription),
			)
		}
		if d != "" {
			descriptions[d] = orFirst(descriptions[d], name)
		}
	}
	return out
}

func orFirst(first, other string) string {
	if first != "" {
		return first
	}
	return other
}

// shorten cuts a text after a whole word.
func shorten(s string, most int) string {
	runes := []rune(s)
	if len(runes) <= most {
		return s
	}
	cut := string(runes[:most-1])
	if i := strings.LastIndexByte(cut, ' '); i > 0 {
		cut = cut[:i]
	}
	return strings.TrimRight(cut, " .,;:–-") + "…"
}

func quoteShell(s string) string { return "'" + strings.ReplaceAll(s, "'", `'\''`) + "'" }

// fewDrafted is from how many characters on a draft says enough.
const fewDrafted = 70

// Draft writes a description of a page from what its blocks say themselves, in whole sentences: what introduces
// them first, then the texts in them. It is empty when they say nothing.
func Draft(p *site.Page) string {
	var leads, texts []string
	for _, b := range p.Blocks {
		if b.Parked != nil || b.Content == nil {
			continue
		}
		leads = append(leads, b.Content.Get("lead").Str())
		texts = append(texts, textsIn(b.Content)...)
	}
	draft := ""
	for _, t := range append(leads, texts...) {
		for _, s := range sentences(compose.Plain(t)) {
			if strings.Contains(draft, s) {
				continue
			}
			more := strings.TrimSpace(draft + " " + s)
			if utf8.RuneCountInString(more) > shownDescription {
				if draft == "" {
					return shorten(s, shownDescription)
				}
				return draft
			}
			draft = more
			if utf8.RuneCountInString(draft) >= fewDrafted {
				return draft
			}
		}
	}
	return draft
}

// textsIn gives the texts of the field "text" in a content, those of entries included.
func textsIn(v *site.Value) (out []string) {
	for _, e := range v.Entries {
		switch {
		case e.Key == "text" && e.Value.Kind == site.Text:
			out = append(out, e.Value.Str())
		default:
			out = append(out, textsIn(e.Value)...)
		}
	}
	for _, it := range v.Items {
		out = append(out, textsIn(it)...)
	}
	return out
}

// sentences cuts a text after its full stops. What has none gets one.
func sentences(s string) (out []string) {
	s = strings.Join(strings.Fields(s), " ")
	for s != "" {
		end := len(s)
		for i, r := range s {
			rest := s[i+utf8.RuneLen(r):]
			if strings.ContainsRune("。！？", r) || strings.ContainsRune(".!?…", r) && (rest == "" || rest[0] == ' ') {
				end = i + utf8.RuneLen(r)
				break
			}
		}
		one := strings.TrimSpace(s[:end])
		if last, _ := utf8.DecodeLastRuneInString(one); !strings.ContainsRune(".!?…。！？", last) {
			one += "."
		}
		out, s = append(out, one), strings.TrimSpace(s[end:])
	}
	return out
}
