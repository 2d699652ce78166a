package adopt

import (
	"fmt"
	"regexp"
	"strings"

	"ziegel/core/site"
)

// name gives all bands of a page names that differ, and none that a band on another page has for another thing.
func (t *Taking) name() {
	for _, p := range t.Pages {
		taken := map[string]bool{}
		for _, b := range p.Every() {
			name := b.Name
			for i := 2; taken[b.Name]; i++ {
				b.Name = fmt.Sprintf("%s-%d", name, i)
			}
			taken[b.Name] = true
		}
	}
}

// inlineLink is a link in a text that leads to a place of a page.
var inlineLink = regexp.MustCompile(`\]\(([a-z0-9-]*#[^)\s]+)\)`)

// links makes links speak of blocks by their names: where an id of the old page was, now is the block that has it.
func (t *Taking) links() {
	holds := map[string]map[string]string{} // name of the block by page and id
	for _, p := range t.Pages {
		at := map[string]string{}
		for _, list := range [][]*Band{p.Every(), t.Top, t.Bottom} {
			for _, b := range list {
				at[b.Name] = b.Name
			}
		}
		for _, list := range [][]*Band{t.Bottom, t.Top, p.Every()} {
			for _, b := range list {
				for _, id := range b.ids {
					at[id] = b.Name
				}
			}
		}
		holds[p.Name] = at
	}
	shared := map[string]bool{}
	for _, list := range [][]*Band{t.Top, t.Bottom} {
		for _, b := range list {
			shared[b.Name] = true
		}
	}
	for _, p := range t.Pages {
		for _, b := range p.Every() {
			relink(b.Content, func(to string) string { return placed(holds, p.Name, to) })
		}
	}
	for _, list := range [][]*Band{t.Top, t.Bottom} {
		for _, b := range list {
			relink(b.Content, func(to string) string {
				to = placed(holds, b.from.Name, to)
				if block, ok := strings.CutPrefix(to, "#"); ok && block != "" && !shared[block] {
					return b.from.Name + to
				}
				return to
			})
		}
	}
}

// placed gives the block that a link to an id leads to; the page alone when nothing of it has the id.
func placed(holds map[string]map[string]string, page, to string) string {
	on, id, ok := strings.Cut(to, "#")
	if !ok || strings.Contains(on, ":") || strings.Contains(on, "/") || id == "" {
		return to
	}
	of := page
	if on != "" {
		of = on
	}
	at, known := holds[of]
	if !known {
		return on // a page that is not taken yet
	}
	if block := at[id]; block != "" {
		return on + "#" + block
	}
	if on == "" {
		return page
	}
	return on
}

// relink changes where the links of a value lead.
func relink(v *site.Value, to func(string) string) {
	if v == nil {
		return
	}
	v.Text = inlineLink.ReplaceAllStringFunc(v.Text, func(m string) string {
		return "](" + to(m[2:len(m)-1]) + ")"
	})
	for _, x := range v.Items {
		relink(x, to)
	}
	for _, e := range v.Entries {
		if e.Key == "to" && e.Value.Kind == site.Text && strings.Contains(e.Value.Text, "#") && e.Value.Text != "#" {
			e.Value.Text = to(e.Value.Text)
			continue
		}
		relink(e.Value, to)
	}
}
