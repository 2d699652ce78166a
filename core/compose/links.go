package compose

import (
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// pageHref gives the address of a page: its folder, or its file when pages are opened from disk.
func (c *composer) pageHref(name string) string { return c.fileHref(c.Env.Path(name)) }

// fileHref gives the address of a built page.
func (c *composer) fileHref(file string) string {
	if !c.opts.Files {
		file = strings.TrimSuffix(file, "index.html")
	}
	depth := c.depth
	if in, ok := strings.CutPrefix(file, c.Env.Site.Tag+"/"); ok && c.Env.Site.Tag != "" &&
		strings.HasPrefix(depth, "../") {
		file, depth = in, strings.TrimPrefix(depth, "../") // both stand in the folder of the language
	}
	return depth + file
}

// languageHref leads to the page in another language.
func (c *composer) languageHref(tag string) string {
	if tag == c.Env.Site.Languages[0] {
		tag = ""
	}
	href := c.fileHref(c.Env.PathIn(tag, c.Page.Name))
	if href == "" {
		return "./"
	}
	return href
}

// linkForm writes an address of a block, home/plans, in the form of links: home#plans. Anything else stays.
func linkForm(e *project.Project, to string) string {
	if page, block, ok := strings.Cut(to, "/"); ok && block != "" && !strings.ContainsAny(block, "/#.") &&
		e.Site.HasPage(page) {
		return page + "#" + block
	}
	return to
}

// href turns what a designer writes after to: into an address. The problem has no position yet.
func (c *composer) href(to string, b *site.Block) (string, *diag.Problem) {
	bad := func(what, expected, try string) (string, *diag.Problem) {
		return "#", &diag.Problem{Severity: diag.Error, Rule: "dead-link", Text: what, Expected: expected, Try: try}
	}
	if to = strings.TrimSpace(to); to == "" || to == "#" {
		return bad("a link leads nowhere",
			"a page, #block, a file below media/, or an https:, mailto: or tel: address", "")
	}
	if tag, ok := strings.CutPrefix(to, project.LanguageLink); ok && slices.Contains(c.Env.Site.Languages, tag) {
		return c.languageHref(tag), nil
	}
	page, frag, hasFrag := strings.Cut(linkForm(c.Env, to), "#")
	lower := strings.ToLower(to)
	for _, scheme := range []string{"https://", "http://", "mailto:", "tel:", "sms:"} {
		if strings.HasPrefix(lower, scheme) {
			if strings.ContainsAny(to, "\x00\r\n\t<>\"") {
				return bad(fmt.Sprintf("%q is not an address", to), "an address without spaces and brackets", "")
			}
			return to, nil
		}
	}
	if i := strings.IndexByte(to, ':'); i >= 0 && !strings.ContainsAny(to[:i], "/#?") ||
		strings.HasPrefix(to, "//") || strings.HasPrefix(to, "\\") {
		return bad(fmt.Sprintf("%q is no address that a page may link to", to),
			"a page, #block, a file below media/, or an https:, mailto: or tel: address", "")
	}
	if strings.HasPrefix(page, "media/") || path.Ext(page) != "" && c.Env.Site.Page(page) == nil {
		name := strings.TrimPrefix(page, "media/")
		if _, err := fs.Stat(c.Env.Dir, path.Join("media", name)); err != nil {
			return bad(fmt.Sprintf("there is no file media/%s", name), "a file below media/",
				diag.Nearest(name, media.List(c.Env.Dir, "media")))
		}
		c.out.Media = styles.AppendOnce(c.out.Media, name)
		return c.depth + "media/" + project.URLPath(name), nil
	}
	target := c.Page
	if page != "" {
		if target = c.Env.Site.Page(page); target == nil {
			names := c.Env.Site.PageNames()
			near := diag.Nearest(page, names)
			if near == "" {
				for _, x := range c.Env.Site.All(c.Page) {
					if x.Name == page {
						near = "#" + page
					}
				}
			}
			return bad(fmt.Sprintf("there is no page %q", page),
				"one of the pages "+strings.Join(names, ", ")+", or #block for a place on this page", near)
		}
	}
	if hasFrag && frag != "" {
		found := c.Env.Site.Block(target, frag)
		if found == nil && page == "" && b.EveryPage != "" { // on every page it leads to the page that has the block
			if has := c.Env.PageWith(frag); has != nil {
				return c.pageHref(has.Name) + "#" + frag, nil
			}
		}
		if found == nil {
			var names []string
			for _, x := range c.Env.Site.All(target) {
				names = append(names, "#"+x.Name)
			}
			return bad(fmt.Sprintf("the page %q has no block %q", target.Name, frag),
				"one of "+strings.Join(names, ", "), diag.Nearest("#"+frag, names))
		}
	}
	if page == "" || target == c.Page && hasFrag {
		return "#" + frag, nil
	}
	href := c.pageHref(target.Name)
	if href == "" && !hasFrag {
		href = "./"
	}
	if hasFrag {
		href += "#" + frag
	}
	return href, nil
}
