// Package address reads what people call a page, a block and a part of it by, and finds it in a site.
package address

import (
	"fmt"
	"regexp"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// Address is a place in a site: home, home/plans, home/plans.card[2], home/plans.card.padding. Links write home#plans
// and #plans, which mean the same.
type Address struct {
	Page, Block, Part, Property string
	Index                       int
	Place                       string // odd, first, every 3 ...
}

var addressForm = regexp.MustCompile(`^([^/.\s]+)(?:/([^/.\s\[]+))?(?:\.([a-z0-9-]+)(?:\[([^\]]*)\])?)?(?:\.([a-z-]+))?$`)

// OfBlock reads the address of a page or a block. What says more than that is refused: a command that took the block
// for the part would do more than was asked for.
func OfBlock(s string) (Address, error) {
	ad, err := Parse(s)
	if err == nil && (ad.Part != "" || ad.Property != "") {
		err = fmt.Errorf("%s names a part, and this takes a page or a whole block, such as %s/%s", s,
			ad.Page, ad.Block)
	}
	return ad, err
}

// anyPage stands for the page of #plans: that which has the block.
const anyPage = "#"

// plain writes the form of links, home#plans and #plans, as addresses are written.
func plain(s string) string {
	page, rest, ok := strings.Cut(s, "#")
	switch {
	case !ok || strings.HasPrefix(rest, "/"):
		return s
	case page == "":
		page = anyPage
	}
	return page + "/" + rest
}

// In gives the address with the page that #plans means in a site.
func (a Address) In(e *project.Project) (Address, error) {
	if a.Page != anyPage {
		return a, nil
	}
	p, err := pageOf(e, a.Block)
	if err == nil {
		a.Page = p.Name
	}
	return a, err
}

// pageOf finds the page that has a block; several are asked about.
func pageOf(e *project.Project, block string) (*site.Page, error) {
	first := e.PageWith(block)
	if first == nil {
		return nil, fmt.Errorf("no page has a block %q; write PAGE/BLOCK, such as home/plans", block)
	}
	if e.Site.Block(first, block).EveryPage != "" {
		return first, nil
	}
	var all []string
	for _, p := range e.Site.Mentioning(block) {
		if b := e.Site.Block(p, block); b != nil && b.EveryPage == "" {
			all = append(all, p.Name+"/"+block)
		}
	}
	if len(all) > 1 {
		return nil, fmt.Errorf("several pages have a block %q: say %s", block, strings.Join(all, " or "))
	}
	return first, nil
}

// Inside splits the address of something in a block, such as home/plans.items[2].points[1], into the block's and what
// stands behind it. There is nothing behind the address of a block or page.
func Inside(s string) (block, inside string) {
	page, rest, ok := strings.Cut(plain(s), "/")
	name, inside, within := strings.Cut(rest, ".")
	if !ok || !within || inside == "" {
		return s, ""
	}
	return page + "/" + name, inside
}

// Parse reads an address.
func Parse(s string) (Address, error) {
	m := addressForm.FindStringSubmatch(plain(s))
	if m == nil {
		return Address{}, fmt.Errorf("%q is no address: write PAGE, PAGE/BLOCK or PAGE/BLOCK.PART, such as home/plans.card", s)
	}
	a := Address{Page: m[1], Block: m[2], Part: m[3], Property: m[5]}
	if a.Part != "" && a.Block == "" {
		return a, fmt.Errorf("%q is no address: a part stands in a block of a page, such as home/%s.%s", s, a.Page,
			a.Part)
	}
	if m[4] != "" {
		var err error
		if a.Index, a.Place, err = styles.ParsePosition(m[4]); err != nil {
			return a, fmt.Errorf("%q: %w", s, err)
		}
	}
	return a, nil
}

// FindPage finds a page by name. Its mistakes are the error then.
func FindPage(e *project.Project, name string) (*site.Page, error) {
	if p := e.Site.Page(name); p != nil {
		return p, e.Mistakes(p).Err()
	}
	return nil, diag.Unknown("page", name, e.Site.PageNames(), "")
}

// FindBlock finds a page and a block on it.
func FindBlock(e *project.Project, a Address) (*site.Page, *site.Block, error) {
	a, err := a.In(e)
	if err != nil {
		return nil, nil, err
	}
	p, err := FindPage(e, a.Page)
	if err != nil {
		return nil, nil, err
	}
	if a.Block == "" {
		return p, nil, fmt.Errorf("%s is a page; name a block on it, such as %s", a.Page, Example(e, p))
	}
	if b := e.Site.Block(p, a.Block); b != nil {
		return p, b, nil
	}
	return p, nil, diag.Unknown("block", a.Block, BlockNames(e, p), " on "+p.Name)
}

// Example gives the address of a block of a page, for messages.
func Example(e *project.Project, p *site.Page) string {
	if names := BlockNames(e, p); len(names) > 0 {
		return p.Name + "/" + names[min(1, len(names)-1)]
	}
	return p.Name + "/opening"
}

// BlockNames lists the names of all blocks on a page.
func BlockNames(e *project.Project, p *site.Page) []string {
	var out []string
	for _, b := range e.Site.All(p) {
		out = append(out, b.Name)
	}
	return out
}

// Pairs splits NAME=VALUE arguments.
func Pairs(args []string) ([][2]string, error) {
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
