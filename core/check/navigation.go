package check

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// navigationGone: at some widths no link of the navigation shows, and nothing opens it.
var navigationGone = rule{
	name: "navigation-gone", severity: diag.Error,
	what:    "no link of the page's navigation shows at some widths, and no button opens it",
	looks:   "nav elements with two links or more",
	not:     "menus that a script writes; whether an opener works",
	untried: "a menu that opens is another section, not a value",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for _, nav := range s.navs {
			if !s.reachable(r, nav) {
				out = append(out, hit{el: nav, amount: 64, cause: "display"})
			}
		}
		return out
	},
	settle: func(s *Scene, list runs) runs {
		for _, e := range s.linksIn(list[0].worst.el) {
			if s.seen[e.Index].Load() {
				return list
			}
		}
		return nil // never shown: meant for scripts
	},
	say: func(name, _ string, _ hit) string {
		return fmt.Sprintf("no link of %s shows, and nothing opens it", name)
	},
	merge: true,
}

// reachable reports whether some entry of a navigation shows, or a button that may open them. A single link beside a
// list is a brand or an action, so links of lists count where there are any.
func (s *Scene) reachable(r *layout.Result, nav *css.Element) bool {
	links := s.linksIn(nav)
	var listed []*css.Element
	for _, e := range links {
		for x := e.Parent; x != nav && x != nil; x = x.Parent {
			if x.Tag == "li" {
				listed = append(listed, e)
				break
			}
		}
	}
	if len(listed) > 1 {
		links = listed
	}
	any := false
	for _, e := range links {
		p := r.Of(e)
		unseen := p == nil || p.Empty() || !p.Style.Visible || p.Cropped && p.Intersect(p.Window).Empty()
		if unseen {
			continue
		}
		if p.Right() > 0 && p.Bottom() > 0 {
			s.seen[e.Index].Store(true)
			any = true
		}
	}
	if any {
		return true
	}
	around := nav
	if p := nav.Parent; p != nil && p.Tag == "header" {
		around = p
	}
	for _, e := range s.l.Doc.Elements[around.Index:s.end[around.Index]] {
		opens := e.Tag == "button" || e.Tag == "summary" || e.Tag == "label" || e.Attr("role") == "button" ||
			e.Attr("aria-expanded") != ""
		p := r.Of(e)
		inSight := opens && p != nil && !p.Empty() && p.Style.Visible && !hides(e)
		if inSight {
			return true
		}
	}
	return false
}

// hides reports a button that closes what it stands in.
func hides(e *css.Element) bool { return e.Attr("popovertargetaction") == "hide" }

// Bounds of the rule over bars, CSS px.
const (
	barUpTo  = 600 // wider screens have room for two rows
	barFrom  = 320
	mostBar  = 100 // a bar that is higher takes a good part of a phone
	barStart = 80  // it begins within this much of the top
)

// barRows: the bar at the top of a phone takes two rows.
var barRows = rule{
	name: "bar-two-rows", severity: diag.Warning,
	what:    "the bar at the top takes two rows and over 100 px of a phone (320 to 600 px wide)",
	looks:   "the first bar at the top, 320 to 600 px",
	not:     "bars further down; wider screens",
	untried: "fewer links are a matter of content",
	look: func(s *Scene, r *layout.Result) []hit {
		if r.Width < barFrom || r.Width > barUpTo {
			return nil
		}
		for _, nav := range s.navs {
			p := r.Of(nav)
			noBar := p == nil || p.Empty() || p.Y > barStart*64 || p.H <= mostBar*64 || p.H > s.screen()/2
			if noBar {
				continue
			}
			var rows []layout.Rect
			for i := r.ByIndex[nav.Index]; i < len(r.Boxes) && r.Boxes[i].Element.Index < s.end[nav.Index]; i++ {
				b := &r.Boxes[i]
				if !s.target(b) || b.Rect.Empty() {
					continue
				}
				beside := slices.IndexFunc(rows, func(o layout.Rect) bool {
					return min(o.Bottom(),
						b.Bottom()) > max(o.Y, b.Y)
				})
				if beside < 0 {
					rows = append(rows, b.Rect)
				}
			}
			if len(rows) == 2 {
				return []hit{{el: nav, amount: p.H, value: p.H.Float(), cause: "flex-wrap"}}
			}
		}
		return nil
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s takes two rows and %.0f px of the screen; a shorter label or a smaller padding keeps it in one", name, worst.value)
	},
}

// pictureFirst: a picture that is read after the words stands above them.
var pictureFirst = rule{
	name: "picture-order", severity: diag.Note,
	what:    "a picture with a text of its own stands above words that are read before it",
	looks:   "pictures with a text of their own above words read before them",
	not:     "pictures without one: they are not read",
	untried: "the order in the markup is the section's",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			e := p.Element
			sparedPicture := e.Tag != "img" || e.Attr("alt") == "" || p.Empty() || !p.Style.Visible || s.aside(r, e)
			if sparedPicture {
				continue
			}
			before := s.wordsBefore(r, e)
			if before != nil && p.Bottom() <= before.Text.Y &&
				min(p.Right(), before.Text.Right()) > max(p.X, before.Text.X) {
				out = append(out, hit{el: e, other: before.Element, amount: before.Text.Y - p.Y, cause: "order"})
			}
		}
		return out
	},
	say: func(name, other string, _ hit) string {
		return fmt.Sprintf("%s stands above %s on the screen, and is read after it", name, other)
	},
}

// aside reports an element in something that leaves the flow.
func (s *Scene) aside(r *layout.Result, e *css.Element) bool {
	for x := e; x != nil; x = x.Parent {
		if p := r.Of(x); p != nil && (p.Style.Position == css.Absolute || p.Style.Position == css.Fixed) {
			return true
		}
	}
	return false
}

// wordsBefore gives the first text of what is read just before an element in the same block.
func (s *Scene) wordsBefore(r *layout.Result, e *css.Element) *layout.Fragment {
	for x := e; x.Parent != nil && x.Parent.Tag != "body" && x.Parent.Tag != "main"; x = x.Parent {
		kids := x.Parent.Kids()
		at := slices.Index(kids, x)
		if at <= 0 {
			continue
		}
		for i := kids[at-1].Index; i < s.end[kids[at-1].Index]; i++ {
			if k := r.ByIndex[i]; k >= 0 && r.Boxes[k].Lines > 0 && shown(&r.Boxes[k]) &&
				!s.aside(r, r.Boxes[k].Element) {
				return &r.Boxes[k]
			}
		}
	}
	return nil
}

// Doubled names the blocks of a page that are a second navigation or footer on it.
func Doubled(env *project.Project, p *site.Page) []string {
	seen := map[string]string{}
	var out []string
	for _, b := range env.All(p) {
		kind, _, _ := strings.Cut(b.Section, "/")
		if what := landmarkKinds[kind]; what != "" && b.Within == "" {
			if first := seen[kind]; first != "" {
				out = append(out, fmt.Sprintf("the block %s is a second %s of the page, after %s",
					b.Name, what, first))
				continue
			}
			seen[kind] = b.Name
		}
	}
	return out
}

// landmarkKinds are the kinds of sections of which a page has one.
var landmarkKinds = map[string]string{"nav": "navigation", "footer": "footer"}

// onlyOnce reports what a page has once: its navigation and its footer.
func onlyOnce(l *sweep.Prepared, tell func(e *css.Element, cure, text string)) {
	if l.Page != nil {
		seen := map[string]string{}
		for _, b := range l.Blocks {
			kind, _, _ := strings.Cut(b.Section, "/")
			what := landmarkKinds[kind]
			if what == "" {
				continue
			}
			if first := seen[kind]; first != "" {
				tell(b.Element, "ziegel remove "+l.Name+"/"+b.Name,
					fmt.Sprintf("the block %s is a second %s of the page, after %s", b.Name, what, first))
				continue
			}
			seen[kind] = b.Name
		}
		return
	}
	navs := map[string]bool{}
	footer := false
	for _, e := range l.Doc.Elements {
		switch {
		case e.Tag == "nav" || e.Attr("role") == "navigation":
			name := e.Attr("aria-label") + e.Attr("aria-labelledby")
			if navs[name] {
				tell(e, "an aria-label that tells it from the other",
					naming.Of(l, e)+" is a second navigation of the same name")
			}
			navs[name] = true
		case e.Tag == "footer" && e.Parent != nil && e.Parent.Tag == "body" || e.Attr("role") == "contentinfo":
			if footer {
				tell(e, "", naming.Of(l, e)+" is a second footer of the page")
			}
			footer = true
		}
	}
}
