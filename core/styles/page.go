package styles

import (
	"fmt"

	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// turnSeconds is how long one of several words shows.
const turnSeconds = 2.4

// turning writes what words that take turns need.
func (c *Writer) turning(w *sheetWriter) {
	if len(c.Turns) == 0 {
		return
	}
	w.open("@layer theme")
	w.rule(".changing", decl{name: "display", value: "inline-grid"})
	w.rule(".changing > *", decl{name: "grid-area", value: "1 / 1"})
	w.rule(".changing > * + *", decl{name: "opacity", value: "0"})
	for n := 2; n <= 9; n++ {
		if !c.Turns[n] {
			continue
		}
		w.rule(fmt.Sprintf(".changing-%d > *", n), decl{name: "animation",
			value: fmt.Sprintf("words-%d %.4gs infinite", n, float64(n)*turnSeconds)})
		for i := 2; i <= n; i++ {
			w.rule(fmt.Sprintf(".changing-%d > :nth-child(%d)", n, i),
				decl{name: "animation-delay", value: fmt.Sprintf("%.4gs", float64(i-1-n)*turnSeconds)})
		}
	}
	w.close()
	for n := 2; n <= 9; n++ {
		if c.Turns[n] {
			share := 100 / float64(n)
			w.open(fmt.Sprintf("@keyframes words-%d", n))
			w.rule(fmt.Sprintf("0%%, %.4g%%, 100%%", share*.94), decl{name: "opacity", value: "1"})
			w.rule(fmt.Sprintf("%.4g%%, %.4g%%", share, 100-share*.06), decl{name: "opacity", value: "0"})
			w.close()
		}
	}
}

// PageSheet writes the stylesheet of one page: distances, option values and overrides of its blocks.
func (c *Writer) PageSheet(blocks []*site.Block) *Sheet {
	w := newSheet(c.Env.SheetName(c.Page.Name))
	var defaults, follow, followPage, own []styleMap
	for i := range c.Page.Defaults {
		d := &c.Page.Defaults[i]
		if sec := c.defaultSection(d); sec != nil {
			defaults = append(defaults, defaultStyles(d, sec))
		}
	}
	for _, b := range blocks {
		sec := c.Env.Library.Section(b.Section)
		if sec == nil {
			continue
		}
		own = append(own, c.blockStyles(b, sec))
		for _, list := range []struct {
			from []site.Default
			to   *[]styleMap
		}{{c.Env.Site.Defaults, &follow}, {c.Page.Defaults, &followPage}} {
			if d := site.DefaultFor(list.from, b.Section); d != nil {
				s := defaultStyles(d, sec)
				s.block, s.pick, s.class = b, following, func(part string) string { return c.ClassName(b, part) }
				*list.to = append(*list.to, s)
			}
		}
	}
	c.turning(w)
	w.open("@layer site")
	c.overrides(w, follow...)
	w.close()
	w.open("@layer page")
	c.scheme(w)
	c.distances(w, project.Outer(blocks))
	c.heldDistances(w, blocks)
	for _, b := range blocks {
		if sec := c.Env.Library.Section(b.Section); sec != nil {
			c.ground(w, b)
			c.optionValues(w, b, sec)
			c.thresholds(w, b, sec)
		}
	}
	c.overrides(w, append(defaults, followPage...)...)
	w.close()
	w.open("@layer block")
	c.focusRules(w)
	c.overrides(w, own...)
	w.close()
	keyframes(c.Env, w)
	return w.sheet()
}

// scheme writes the colors of a page that keeps one scheme for everybody: those of the theme in that scheme.
func (c *Writer) scheme(w *sheetWriter) {
	kept := c.Page.Scheme
	if kept == "" || kept == c.Env.Theme.Kept() {
		return
	}
	decls := []decl{{name: "color-scheme", value: kept}}
	for _, k := range c.Env.Theme.Tokens {
		if k.Dark == "" {
			continue
		}
		value := k.Value
		if kept == "dark" {
			value = k.Dark
		}
		decls = append(decls, decl{name: theme.Property(k.Name), value: value})
	}
	w.rule(":root", decls...)
}
