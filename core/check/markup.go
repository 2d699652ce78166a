package check

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// markup reports what is wrong in the elements of a page, at no particular width.
func markup(l *sweep.Prepared) []Finding {
	var out []Finding
	tell := func(rule string, e *css.Element, cure, text string, args ...any) {
		block, part, item := naming.Place(l, e)
		out = append(out, Finding{Rule: rule, Severity: RuleNamed(rule).Severity, Block: block, Part: part, Item: item,
			Path: e.Path(), Where: naming.Whereabouts(l, e), Text: fmt.Sprintf(text, args...), Cure: cure})
	}
	level := 0
	seen := map[string]bool{}
	ids := map[string]bool{}
	mains := map[*sweep.Block]int{}            // main buttons of a block
	lists := map[*css.Element][]*css.Element{} // of a list: one for each entry, or for the one that matters
	onlyOnce(l, func(e *css.Element, cure, text string) { tell("twice", e, cure, "%s", text) })
	for _, e := range l.Doc.Elements {
		if e.ID != "" {
			if ids[e.ID] {
				tell("id-twice", e, "another id",
					"the id %q is on the page more than once: links and labels find the first only", e.ID)
			}
			ids[e.ID] = true
		}
		switch {
		case naming.Headings[e.Tag] > 0:
			if n := naming.Headings[e.Tag]; level > 0 && n > level+1 {
				tell("heading-skipped", e, fmt.Sprintf("h%d", level+1),
					"%s follows h%d: readers who jump from heading to heading miss a level", naming.Of(l, e), level)
			}
			level = naming.Headings[e.Tag]
		case e.Tag == "form":
			if _, ok := e.LookupAttr("action"); !ok && !addressed(l, e) {
				tell("form-nowhere", e, `action="..."`, "%s has no address to send to", naming.Of(l, e))
			}
		case e.Tag == "img":
			alt := strings.TrimSpace(e.Attr("alt"))
			if alt != "" && fileName(alt, e.Attr("src")) {
				tell("alt-file-name", e, "alt: and what it shows",
					"the picture's text is its file name: %s", alt)
			} else if saysPicture(alt) {
				tell("alt-says-picture", e, "alt: and what it shows",
					"the picture's text does not say what it shows: %q", alt)
			}
		case e.Tag == "table":
			if list := headersUnbound(e); len(list) > 0 {
				tell("header-scope", list[0], `scope="col" above, scope="row" beside`,
					"%s has header cells above and beside, and %d of them do not say which cells they head",
					naming.Of(l, e), len(list))
			}
		case e.HasClass("action-main"):
			b := naming.BlockOf(l, e)
			if b == nil {
				break
			}
			if list := repeated(e, b.Element); list != nil {
				lists[list] = append(lists[list], e)
			} else if mains[b]++; mains[b] == 2 {
				tell("two-main-actions", e, "make one of them quiet",
					"%s is the second main button of its block", naming.Of(l, e))
			}
		}
		if e.Tag == "h1" || e.Tag == "main" {
			if seen[e.Tag] {
				tell("twice", e, "", "%s is the second %s of the page", naming.Of(l, e), e.Tag)
			}
			seen[e.Tag] = true
		}
	}
	for _, e := range l.Doc.Elements { // in the order of the page
		if all := lists[e]; len(all) > 1 && len(all) < len(e.Kids()) {
			tell("two-main-actions", all[1], "make one of them quiet",
				"%s is the second main button of its list, where %d of %d entries have one", naming.Of(l, all[1]),
				len(all), len(e.Kids()))
		}
	}
	return out
}

// addressed reports a form whose address is a field of its block: what is wrong with that is told with its place.
func addressed(l *sweep.Prepared, form *css.Element) bool {
	b := naming.BlockOf(l, form)
	if b == nil || l.Page == nil {
		return false
	}
	return slices.ContainsFunc(l.Page.Fields, func(u compose.FieldUse) bool { return u.Block == b.Name && u.Address })
}

// fileName reports a text that only names the picture's file.
func fileName(alt, src string) bool {
	base := path.Base(src)
	bare := strings.TrimSuffix(base, path.Ext(base))
	return strings.EqualFold(alt, base) || strings.EqualFold(alt, bare) && strings.ContainsAny(alt, "-_0123456789")
}

var (
	pictureWord = regexp.MustCompile(
		`(?i)^(the |an? |our |main |hero |banner |header |cover |teaser |background |placeholder |sample |stock |feature[d]? )*(image|picture|photo|photograph|pic|img|graphic|banner|illustration|icon|logo|thumbnail|screenshot|hero|bild|foto)s?( ?\d+)?\.?$`,
	)
	pictureLead = regexp.MustCompile(
		`(?i)^(an? |the )?(image|picture|photo|photograph|graphic|bild|foto)s? (of|showing|that shows|von)\b`,
	)
)

// saysPicture reports a text that only says that there is a picture, or begins by saying so: screen readers say that
// already.
func saysPicture(alt string) bool {
	return pictureWord.MatchString(alt) || pictureLead.MatchString(alt)
}

// repeated gives the list whose entry an element stands in, such as the cards around a button; nil for none.
func repeated(e, block *css.Element) *css.Element {
	for x := e; x != nil && x != block; x = x.Parent {
		if _, ok := x.LookupAttr("data-each"); ok || x.Tag == "li" {
			return x.Parent
		}
	}
	return nil
}
