package styles

import (
	"sort"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// KeptStyles writes the styles of a block as rules for the section itself, parts by classes of their own: kept-card.
// It gives the rules, the parts that they speak of, and the keys of those that stay with the block, because they
// follow its own layout or positions or use shared looks.
func KeptStyles(e *project.Project, p *site.Page, b *site.Block,
	sec *library.Section) (text string, parts, stay []string) {
	if b.Style == nil {
		return "", nil, nil
	}
	c := &Writer{Env: e, Page: p}
	moved := &site.Value{Kind: site.Map}
	seen := map[string]bool{}
	for _, en := range b.Style.Entries {
		t, err := ParseTarget(en.Key)
		passed := err != nil || t.When != "" || t.Suffix() != "" || t.Part == PartBlock || en.Value.Get("use") != nil
		if passed {
			stay = append(stay, en.Key)
			continue
		}
		moved.Entries = append(moved.Entries, en)
		if !seen[t.Part] && t.Part != PartRoot {
			seen[t.Part] = true
			parts = append(parts, t.Part)
		}
	}
	sort.Strings(parts)
	w := newSheet("section.css")
	c.overrides(w, styleMap{moved, b.File, sec, nil, func(part string) string {
		if part == PartRoot {
			return "root"
		}
		return "kept-" + part
	}, nil})
	return w.b.String(), parts, stay
}
