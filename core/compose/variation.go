package compose

import (
	"ziegel/core/site"
)

// WithBlock gives a site in which one block is another one of the same name.
func WithBlock(env *Env, p *site.Page, b *site.Block) (*Env, *site.Page) {
	page, st, e := *p, *env.Site, *env
	put := func(list []*site.Block) []*site.Block {
		return site.Replaced(list, func(o *site.Block) *site.Block {
			if o.Name != b.Name {
				return o
			}
			c := *b
			c.Holds = o.Holds
			return &c
		})
	}
	st.Top, page.Blocks, st.Bottom, page.Override = put(st.Top), put(page.Blocks), put(st.Bottom), nil
	e.Site = st.Instead(&page)
	return &e, &page
}
