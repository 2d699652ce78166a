package adopt

import (
	"path"
	"slices"
	"strings"

	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
)

// Fields of all sections share their names, so that a name says what belongs into it. Each piece of a band goes into
// one field, those that are hard to mistake first: prices, figures, dates, pictures, links; texts take what is left.

// newPlacing begins with nothing placed.
func newPlacing(m *Media, kind string) *placing {
	f := &placing{used: map[*piece]bool{}, out: record{}, m: m, kind: kind}
	f.nested = func() *placing { return newPlacing(m, kind) }
	f.placed = f.place
	return f
}

// place fills fields from a reading; top tells that they are a section's own.
func (f *placing) place(fields []*library.Field, rd *reading, top bool) {
	title := "title"
	if top {
		title = "heading"
	}
	f.amounts(fields, rd)
	quote := !top && (f.kind == "testimonials" || f.kind == "comments") && has(fields, "text") != nil
	if quote || top && f.kind == "testimonials" && has(fields, "name") != nil {
		f.quote(fields, rd, top)
	}
	if top && f.kind == "nav" {
		f.brand(fields, rd)
	} else if f.out[title] == nil && !quote {
		f.titled(fields, rd, title)
	}
	f.labels(fields, rd, title)
	f.pictures(fields, rd)
	if top && f.kind == "footer" {
		f.brand(fields, rd)
	}
	f.small(fields, rd)
	for _, x := range fields {
		if x.Type == library.ListOf && slices.Contains(listFields, x.Name) {
			f.list(x, rd)
		}
	}
	f.rows(fields, rd)
	f.asked(fields, rd)
	f.texts(fields, rd)
}

// amounts finds prices with their units, and figures.
func (f *placing) amounts(fields []*library.Field, rd *reading) {
	all := f.free(rd, words, heading)
	for i, p := range all {
		if f.used[p] {
			continue
		}
		if has(fields, "price") != nil && f.out["price"] == nil {
			if isMoney(p.plain) {
				f.put("price", p.value, p)
				unitFollows := i+1 < len(all) && has(fields, "unit") != nil && letters(all[i+1].plain) <= 40 &&
					all[i+1].sort == words &&
					all[i+1].size < p.size
				if unitFollows {
					f.put("unit", all[i+1].value, all[i+1])
				}
				continue
			}
			if m := moneyEnd.FindStringSubmatch(p.plain); m != nil && has(fields, "title") != nil && !hasHeading(rd) {
				f.put("title", site.NewText(m[1]), p)
				f.put("price", site.NewText(m[2]), p)
				continue
			}
			if m := moneyStart.FindStringSubmatch(p.plain); m != nil && letters(p.plain) <= 48 &&
				has(fields, "unit") != nil {
				f.put("price", site.NewText(m[1]), p)
				f.put("unit", site.NewText(strings.TrimSpace(m[2])), p)
				continue
			}
		}
		if has(fields, "figure") != nil && f.out["figure"] == nil && (isFigure(p.plain) || isMoney(p.plain)) {
			f.put("figure", p.value, p)
		}
	}
}

func hasHeading(rd *reading) bool {
	return slices.ContainsFunc(rd.pieces, func(p *piece) bool { return p.sort == heading })
}

// titled finds what a band or an entry is called.
func (f *placing) titled(fields []*library.Field, rd *reading, name string) {
	at := titleOf(rd, f.used)
	all := f.free(rd, words)
	soleText := at == nil && name == "title" && has(fields, "text") == nil && len(all) == 1 &&
		letters(all[0].plain) <= 60 &&
		len(rd.pieces) < 3
	if soleText {
		at = all[0]
	}
	if all := f.free(rd, words); at == nil && name == "title" && f.out["price"] != nil && len(all) > 0 {
		at = all[0] // what has a price is called so
	}
	field := has(fields, name)
	if at == nil && f.kind == "logos" && field != nil {
		for _, p := range f.free(rd, picture) { // a name stands for the sign
			if alt := p.value.Get("alt"); !alt.Empty() {
				f.put(name, alt, p)
				return
			}
		}
	}
	if at == nil {
		return
	}
	if field != nil {
		f.put(name, unbold(at.value), at)
		f.called = at
		return
	}
	if has(fields, "link") != nil { // the link has the title as its label
		if l := f.free(rd, link, button); len(l) > 0 {
			v := site.NewMap("label", site.NewText(at.plain), "to", l[0].value.Get("to"))
			f.put("link", v, at, l[0])
			return
		}
		f.put("link", site.NewMap("label", site.NewText(at.plain), "to", site.NewText("#")), at)
	}
	if self := has(fields, "."); self != nil && self.Type == library.RichText {
		f.put(".", at.value, at)
	}
}

// unbold takes marks off that a whole title stands in: sections set titles in the weight that they have.
func unbold(v *site.Value) *site.Value {
	if in, ok := strings.CutPrefix(v.Text, "**"); ok {
		if in, ok = strings.CutSuffix(in, "**"); ok && !strings.Contains(in, "**") {
			return site.NewText(in)
		}
	}
	return v
}

// titleOf finds the heading of a reading: the largest one, or a short text in large or bold letters.
func titleOf(rd *reading, used map[*piece]bool) *piece {
	var best *piece
	for _, p := range rd.pieces {
		if used[p] || p.sort != heading {
			continue
		}
		if best == nil || p.level < best.level {
			best = p
		}
	}
	if best != nil {
		return best
	}
	least, most := 1e9, 0.0
	for _, p := range rd.pieces {
		if p.sort == words && !used[p] {
			least, most = min(least, p.size), max(most, p.size)
		}
	}
	for _, p := range rd.pieces {
		stands := p.size >= least*1.2 && p.size == most || p.bold && letters(p.plain) <= 80
		isLabel := p.sort == words && stands && !used[p] && !p.quote && letters(p.plain) <= 120
		if isLabel {
			return p
		}
	}
	return nil
}

// quote finds what somebody says, who, and what they do.
func (f *placing) quote(fields []*library.Field, rd *reading, top bool) {
	all := f.free(rd, words, heading)
	var said *piece
	for _, p := range all {
		better := said == nil || p.quote && !said.quote || p.quote == said.quote &&
			letters(p.plain) > letters(said.plain)
		if better {
			said = p
		}
	}
	if said == nil {
		return
	}
	who, text := "title", "text"
	if top {
		who = "name"
		if has(fields, "text") == nil {
			text = "heading"
		}
	}
	f.put(text, unquoted(said.value), said)
	for _, p := range all {
		if f.used[p] || p == said || letters(p.plain) > 70 {
			continue
		}
		name, role, two := strings.Cut(strings.TrimLeft(p.plain, "—–- "), ", ")
		switch {
		case f.out[who] == nil && has(fields, who) != nil && two && has(fields, "role") != nil &&
			f.out["role"] == nil && !nameAfter(all, p):
			f.put(who, site.NewText(name), p)
			f.put("role", site.NewText(role), p)
		case f.out[who] == nil && has(fields, who) != nil && p.sort != heading || !top && f.out[who] == nil &&
			isName(p.plain):
			f.put(who, site.NewText(strings.TrimLeft(p.value.Text, "—–- ")), p)
		case f.out["role"] == nil && has(fields, "role") != nil && p.sort != heading:
			f.put("role", p.value, p)
		}
	}
}

// nameAfter reports another short text after one.
func nameAfter(all []*piece, p *piece) bool {
	i := slices.Index(all, p)
	return i+1 < len(all) && letters(all[i+1].plain) <= 70
}

// unquoted takes quotation marks off that stand around a whole text: sections set their own.
func unquoted(v *site.Value) *site.Value {
	s := strings.TrimSpace(v.Text)
	for _, pair := range [][2]string{{"“", "”"}, {"„", "“"}, {"\"", "\""}, {"«", "»"}, {"»", "«"}, {"‘", "’"}} {
		if in, ok := strings.CutPrefix(s, pair[0]); ok {
			if in, ok = strings.CutSuffix(in, pair[1]); ok && !strings.Contains(in, pair[0]) {
				return site.NewText(strings.TrimSpace(in))
			}
		}
	}
	return v
}

// labels finds short texts about the rest: an eyebrow over the heading, a date, a place, a role.
func (f *placing) labels(fields []*library.Field, rd *reading, title string) {
	before := true
	for _, p := range rd.pieces {
		if f.used[p] && (p.sort == heading || p == f.called) {
			before = false
		}
		if f.used[p] || p.sort != words || letters(p.plain) > 60 {
			continue
		}
		switch {
		case has(fields, "meta") != nil && f.out["meta"] == nil && (isDate(p.plain) || before):
			f.put("meta", p.value, p)
		case has(fields, "eyebrow") != nil && f.out["eyebrow"] == nil && before && f.out[title] != nil:
			f.put("eyebrow", p.value, p)
		case has(fields, "role") != nil && f.out["role"] == nil && !before && letters(p.plain) <= 60 &&
			(f.kind == "team" || f.kind == "events"):
			f.put("role", p.value, p)
		}
	}
}

// pictures finds pictures and icons.
func (f *placing) pictures(fields []*library.Field, rd *reading) {
	if has(fields, "icon") != nil {
		if p := f.free(rd, icon); len(p) > 0 {
			f.put("icon", p[0].value, p[0])
		}
	}
	all := f.free(rd, picture)
	slices.SortStableFunc(
		all,
		func(a, b *piece) int { return int((b.box.W*b.box.H)>>12) - int((a.box.W*a.box.H)>>12) },
	)
	for _, name := range []string{"media", "media2"} {
		if has(fields, name) != nil && len(all) > 0 {
			f.put(name, all[0].value, all[0])
			all = all[1:]
		}
	}
	if has(fields, "icon") != nil && f.out["icon"] == nil && len(all) > 0 && all[0].level == 9 {
		if name := f.m.asIcon(all[0].value.Get("file").Str()); name != "" {
			f.put("icon", site.NewText(name), all[0])
		}
	}
}

// asIcon keeps a drawn picture as an icon of the site, too, and names it.
func (m *Media) asIcon(file string) string {
	data := m.Files[file]
	if data == nil {
		return ""
	}
	name := m.free("icons/"+media.Slug(strings.TrimSuffix(path.Base(file), ".svg"))+".svg", data)
	return strings.TrimSuffix(strings.TrimPrefix(name, "icons/"), ".svg")
}

// brand finds the name of the site, or its sign, as navigation and footer have it.
func (f *placing) brand(fields []*library.Field, rd *reading) {
	field := has(fields, "brand")
	if field == nil {
		return
	}
	if field.Type == library.Link {
		for _, p := range rd.pieces {
			home := p.value.Get("to").Str() == "home"
			switch {
			case f.used[p]:
			case (p.sort == link || p.sort == button) && home:
				f.put("brand", p.value, p)
				for _, h := range f.free(rd, heading, link) { // the heading that it stands in
					if h.plain == p.value.Get("label").Str() &&
						(h.sort == heading || h.value.Get("to").Str() == "home" && p.plain == "") {
						f.used[h] = true
						break
					}
				}
				return
			}
		}
	}
	for _, p := range rd.pieces {
		tooLong := f.used[p] || letters(p.plain) > 40 ||
			f.kind == "footer" && (letters(p.plain) > 24 || strings.Contains(p.plain, ","))
		if tooLong {
			continue
		}
		switch {
		case p.sort == picture && has(fields, "mark") != nil:
			f.put("mark", p.value, p)
			name := p.value.Get("alt").Str()
			if name == "" {
				name = "Home"
			}
			f.put("brand", site.NewMap("label", site.NewText(name), "to", site.NewText("home")), p)
			return
		case (p.sort == words || p.sort == heading) && field.Type == library.Link:
			f.put("brand", site.NewMap("label", site.NewText(p.plain), "to", site.NewText("home")), p)
			return
		case (p.sort == words || p.sort == heading) && field.Type == library.RichText &&
			!strings.Contains(p.plain, "©"):
			f.put("brand", p.value, p)
			return
		case p.sort == link && field.Type == library.RichText && p.value.Get("to").Str() == "home":
			f.put("brand", site.NewText(p.plain), p)
			return
		}
	}
}

// small finds the small print of a footer.
func (f *placing) small(fields []*library.Field, rd *reading) {
	if has(fields, "legal") == nil {
		return
	}
	all := f.free(rd, words)
	for i := len(all) - 1; i >= 0; i-- {
		if strings.Contains(all[i].plain, "©") || strings.Contains(strings.ToLower(all[i].plain), "copyright") {
			f.put("legal", all[i].value, all[i])
			return
		}
	}
	if n := len(all); n > 1 || n == 1 && has(fields, "text") == nil {
		f.put("legal", all[n-1].value, all[n-1])
	}
}

// asked fills the fields of a form, a frame or a film.
func (f *placing) asked(fields []*library.Field, rd *reading) {
	if p := f.free(rd, frame); len(p) > 0 && has(fields, "frame") != nil {
		f.put("frame", p[0].value, p[0])
	}
	if p := f.free(rd, film); len(p) > 0 && has(fields, "film") != nil {
		f.put("film", p[0].value, p[0])
	}
	forms := f.free(rd, form)
	if len(forms) == 0 || has(fields, "send-to") == nil {
		return
	}
	p := forms[0]
	fr := p.form
	if to := strings.TrimPrefix(fr.to, "mailto:"); to != "" &&
		(strings.Contains(fr.to, ":") || strings.Contains(to, "@")) {
		f.out["send-to"] = site.NewText(to)
	}
	if fr.send != "" && has(fields, "send-label") != nil {
		f.out["send-label"] = site.NewText(fr.send)
	}
	asks := map[string]string{
		"email":    "mail-label",
		"tel":      "phone-label",
		"textarea": "text-label",
		"search":   "find-label",
	}
	for i, kind := range fr.kinds {
		name := asks[kind]
		if kind == "text" || kind == "" {
			name = "name-label"
		}
		if has(fields, name) == nil || f.out[name] != nil {
			f.unasked++
			continue
		}
		if fr.labels[i] != "" {
			f.out[name] = site.NewText(fr.labels[i])
		}
	}
	f.used[p] = true
}

// texts gives what is left to the fields of running text: the first to the lead, a small last one to the note.
func (f *placing) texts(fields []*library.Field, rd *reading) {
	all := f.free(rd, words)
	legalAlone := f.kind == "footer" && has(fields, "text") == nil && len(all) > 0 && len(all) < 4 &&
		f.out["legal"] != nil
	if legalAlone { // small print, too
		line := f.out["legal"].Text
		for i := len(all) - 1; i >= 0; i-- {
			line = all[i].value.Text + " · " + line
			f.used[all[i]] = true
		}
		f.out["legal"] = site.NewText(line)
		all = nil
	}
	if has(fields, "note") != nil && len(all) > 1 && all[len(all)-1].size < all[0].size {
		last := all[len(all)-1]
		f.put("note", last.value, last)
		all = all[:len(all)-1]
	}
	if len(all) > 0 && has(fields, "lead") != nil && f.out["lead"] == nil {
		f.put("lead", all[0].value, all[0])
		if all = all[1:]; has(fields, "text") == nil && len(all) > 0 && len(all) < 4 { // paragraphs of one text
			f.put("lead", together(f.out["lead"], all), all...)
			all = nil
		}
	}
	if self := has(fields, "."); len(all) > 0 && self != nil && self.Type == library.RichText && f.out["."] == nil {
		f.put(".", together(nil, all), all...)
		all = nil
	}
	if f.kind == "footer" && has(fields, "text") != nil && len(all) == 0 { // what stands among its groups
		for _, p := range rd.pieces {
			for _, e := range p.lists {
				all = append(all, f.free(e, words)...)
			}
		}
	}
	if len(all) > 0 && has(fields, "text") != nil {
		f.put("text", together(f.out["text"], all), all...)
	}
	if has(fields, "text") != nil && f.out["text"] == nil { // a heading more
		if h := f.free(rd, heading); len(h) > 0 {
			f.put("text", h[0].value, h[0])
		}
	}
}

// together joins texts to one, as paragraphs.
func together(first *site.Value, more []*piece) *site.Value {
	var out []string
	if first != nil {
		out = append(out, first.Text)
	}
	for _, p := range more {
		out = append(out, p.value.Text)
	}
	return site.NewText(strings.Join(out, "\n\n"))
}
