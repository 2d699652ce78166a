package cli

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// address is a place in a site: home, home/plans, home/plans.card[2], home/plans.card.padding.
type address struct {
	page, block, part, property string
	index                       int
	place                       string // odd, first, every 3 ...
}

var addressForm = regexp.MustCompile(`^([^/.\s]+)(?:/([^/.\s\[]+))?(?:\.([a-z0-9-]+)(?:\[([^\]]*)\])?)?(?:\.([a-z-]+))?$`)

// blockAddress reads the address of a page or a block. What says more than that is refused: a command that took the block for the part would do more
// than was asked for.
func blockAddress(s string) (address, error) {
	ad, err := parseAddress(s)
	if err == nil && (ad.part != "" || ad.property != "") {
		err = fmt.Errorf("%s names a part, and this takes a page or a whole block, such as %s/%s", s, ad.page, ad.block)
	}
	return ad, err
}

func parseAddress(s string) (address, error) {
	m := addressForm.FindStringSubmatch(s)
	if m == nil {
		return address{}, fmt.Errorf("%q is no address: write PAGE, PAGE/BLOCK or PAGE/BLOCK.PART, such as home/plans.card", s)
	}
	a := address{page: m[1], block: m[2], part: m[3], property: m[5]}
	if m[4] != "" {
		var err error
		if a.index, a.place, err = compose.ParsePosition(m[4]); err != nil {
			return a, fmt.Errorf("%q: %w", s, err)
		}
	}
	return a, nil
}

// page finds a page by name.
func findPage(e *compose.Env, name string) (*site.Page, error) {
	if p := e.Site.Page(name); p != nil {
		return p, e.Mistakes(p).Err()
	}
	return nil, unknown("page", name, e.Site.PageNames(), "")
}

// findBlock finds a page and a block on it.
func findBlock(e *compose.Env, a address) (*site.Page, *site.Block, error) {
	p, err := findPage(e, a.page)
	if err != nil {
		return nil, nil, err
	}
	if a.block == "" {
		return p, nil, fmt.Errorf("%s is a page; name a block on it, such as %s", a.page, example(e, p))
	}
	if b := e.Site.Block(p, a.block); b != nil {
		return p, b, nil
	}
	return p, nil, unknown("block", a.block, blockNames(e, p), " on "+p.Name)
}

func example(e *compose.Env, p *site.Page) string {
	if names := blockNames(e, p); len(names) > 0 {
		return p.Name + "/" + names[min(1, len(names)-1)]
	}
	return p.Name + "/opening"
}

func blockNames(e *compose.Env, p *site.Page) []string {
	var out []string
	for _, b := range e.Site.All(p) {
		out = append(out, b.Name)
	}
	return out
}

// unknown words a wrong name with the nearest right one.
func unknown(what, name string, names []string, where string) error {
	text := fmt.Sprintf("there is no %s %q%s", what, name, where)
	if near := diag.Nearest(name, names); near != "" {
		return fmt.Errorf("%s; did you mean %s?", text, near)
	}
	if len(names) > 0 && len(names) <= 20 {
		return fmt.Errorf("%s; there are %s", text, strings.Join(names, ", "))
	}
	return fmt.Errorf("%s", text)
}

// pairs splits NAME=VALUE arguments.
func pairs(args []string) ([][2]string, error) {
	var out [][2]string
	for _, a := range args {
		n, v, ok := strings.Cut(a, "=")
		if !ok || n == "" {
			return nil, fmt.Errorf("%q: write NAME=VALUE, such as heading=\"Made for real wind\"", a)
		}
		out = append(out, [2]string{n, v})
	}
	return out, nil
}

// mostOffered is of how many pages the shell is offered everything that is on them.
const mostOffered = 40

// complete offers names of this site; it is silent on errors.
func (a *app) complete(kinds ...string) func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
	return func(_ *cobra.Command, args []string, begun string) ([]string, cobra.ShellCompDirective) {
		kind := ""
		if len(args) < len(kinds) {
			kind = kinds[len(args)]
		}
		e, _, err := a.open()
		if e == nil || err != nil && e.Site == nil {
			return nil, cobra.ShellCompDirectiveNoFileComp
		}
		var out []string
		switch kind {
		case "section":
			for _, s := range e.Library.Sections {
				out = append(out, s.Name+"\t"+s.Summary)
			}
		case "page", "block", "part":
			names := e.Site.PageNames()
			page, _, named := strings.Cut(begun, "/")
			if named {
				names = slices.DeleteFunc(slices.Clone(names), func(n string) bool { return n != page })
			}
			if len(names) > mostOffered { // of so many pages the names alone are read
				for _, n := range names {
					if kind != "page" {
						n += "/"
					}
					out = append(out, n)
				}
				if kind == "page" {
					return out, cobra.ShellCompDirectiveNoFileComp
				}
				return out, cobra.ShellCompDirectiveNoFileComp | cobra.ShellCompDirectiveNoSpace
			}
			for _, n := range names {
				p := e.Site.Page(n)
				if kind == "page" {
					out = append(out, p.Name+"\t"+p.Title)
					continue
				}
				for _, b := range e.Site.All(p) {
					addr := p.Name + "/" + b.Name
					if kind == "block" {
						out = append(out, addr+"\t"+b.Section)
					} else if s := e.Library.Section(b.Section); s != nil {
						for _, part := range s.Parts {
							out = append(out, addr+"."+part+"\t"+b.Section)
						}
					}
				}
			}
		}
		return out, cobra.ShellCompDirectiveNoFileComp
	}
}
