package adopt

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/search"
)

// What kind of section a band is: by what it holds, by its place on the page, and by the names that its authors gave
// it.

// place is where a band stands among those of its page that are neither header nor footer.
type placeOf struct {
	first bool // among those of main
}

// kindsOf says for each kind how much speaks for it, 0 to 1.
func kindsOf(b *Band, at placeOf) map[string]float64 {
	out := map[string]float64{}
	rd := b.read
	add := func(kind string, by float64) { out[kind] = min(1, out[kind]+by) }
	for kind, by := range named(b.elements) {
		add(kind, by)
	}
	var most *piece
	texts, heads, pictures, buttons, total := 0, 0, 0, 0, 0
	for _, p := range rd.pieces {
		switch p.sort {
		case list:
			if most == nil || len(p.lists) > len(most.lists) {
				most = p
			}
		case words:
			texts++
			total += letters(p.plain)
		case heading:
			heads++
			if p.level == 1 && at.first {
				add("hero", .8)
			}
		case picture:
			pictures++
		case button, link:
			buttons++
		case form:
			formKinds(p.form, add)
		case frame:
			if strings.Contains(p.value.Str(), "map") {
				add("embed", .5)
			}
			add("embed", .5)
		case film:
			add("video", 1)
		}
	}
	if len(b.elements) > 0 && b.elements[0].Tag == "article" && texts > 1 {
		add("articles", 1)
		delete(out, "hero")
		return out
	}
	if at.first && most == nil {
		add("hero", .5)
	}
	if most != nil && most.like != nil {
		for kind, by := range named([]*css.Element{most.like}) {
			add(kind, by*.7)
		}
	}
	switch {
	case most != nil:
		listKinds(most, add)
	case rd.quoted():
		add("testimonials", .9)
	case !at.first && heads > 0 && buttons > 0 && texts < 3 && total < 300:
		add("action", .7)
	case !at.first && texts > 2:
		add("articles", .6)
	case !at.first && pictures == 1 && texts > 0:
		add("heading", .3)
	case !at.first && buttons == 0:
		add("heading", .4)
	}
	return out
}

func (o *reading) quoted() bool {
	for _, p := range o.pieces {
		if p.quote && letters(p.plain) > 12 {
			return true
		}
	}
	return false
}

func formKinds(f *formRead, add func(string, float64)) {
	has := map[string]bool{}
	for _, k := range f.kinds {
		has[k] = true
	}
	switch {
	case has["textarea"]:
		add("contact", .9)
	case has["email"] && len(f.kinds) == 1:
		add("newsletter", .9)
	case has["tel"]:
		add("action", .5)
	case f.search:
		add("hero", .3)
	default:
		add("contact", .3)
		add("newsletter", .3)
	}
}

// listKinds reads what the entries of a list have in common.
func listKinds(p *piece, add func(string, float64)) {
	n := float64(len(p.lists))
	count := map[string]float64{}
	for _, e := range p.lists {
		seen := map[string]bool{}
		one, title := 0, ""
		for _, x := range e.pieces {
			switch x.sort {
			case picture:
				seen["picture"] = true
			case icon:
				seen["icon"] = true
			case heading:
				title = x.plain
				seen["heading"] = true
			case words:
				one += letters(x.plain)
				seen["sentence"] = seen["sentence"] || strings.HasSuffix(x.plain, ".")
				if title == "" && x.bold {
					title = x.plain
				}
				seen["date"] = seen["date"] || dateForm.MatchString(x.plain) && letters(x.plain) < 40
				seen["time"] = seen["time"] || timeForm.MatchString(x.plain)
				seen["said"] = seen["said"] || x.quote || strings.HasPrefix(x.plain, "“") ||
					strings.HasPrefix(x.plain, "„")
			case link, button:
				seen["link"] = true
			case list:
				seen["list"] = true
				seen["prices"] = seen["prices"] || priced(x)
			}
			if x.sort == words || x.sort == heading {
				seen["price"] = seen["price"] || isMoney(x.plain) || moneyEnd.MatchString(x.plain) ||
					moneyStart.MatchString(x.plain) && letters(x.plain) < 40
				seen["figure"] = seen["figure"] || isFigure(x.plain)
				seen["mail"] = seen["mail"] || strings.Contains(x.plain, "@")
			}
		}
		seen["question"] = strings.HasSuffix(strings.TrimSpace(title), "?") || strings.HasSuffix(title, "؟")
		seen["titled"] = title != ""
		seen["name"] = isName(title)
		seen["date"] = seen["date"] || dateForm.MatchString(title)
		seen["time"] = seen["time"] || timeForm.MatchString(title)
		seen["short"] = one < 60
		seen["bare"] = one == 0 && title == "" && !seen["link"]
		for k, v := range seen {
			if v {
				count[k]++
			}
		}
	}
	most := func(k string) bool { return count[k] >= n*.6 }
	switch {
	case most("prices"):
		add("menu", .9)
		add("pricing", .4)
	case p.fold || most("question"):
		add("questions", 1)
	case most("price") && (most("list") || most("link")) && n < 6:
		add("pricing", 1)
	case most("price"):
		add("menu", .6)
		add("pricing", .5)
	case most("said"):
		add("testimonials", 1)
	case most("picture") && most("bare"):
		small := p.lists[0].box.H < 140*64
		if small {
			add("logos", .8)
		} else {
			add("gallery", .9)
		}
	case most("picture") && !most("heading") && !most("link") && !most("titled") && most("short"):
		add("gallery", .9)
	case most("time") && !most("picture"):
		add("schedule", .8)
	case most("date") && most("picture"), most("date") && most("link"):
		add("articles", .8)
	case most("date"):
		add("timeline", .5)
		add("events", .4)
		add("portfolio", .3)
	case most("figure") && most("short"):
		add("statistics", .9)
	case most("picture") && most("name") && most("short") && !most("sentence"):
		add("team", .8)
	case p.steps:
		add("steps", .8)
	case most("picture") && most("link"):
		add("articles", .3)
		add("portfolio", .3)
		add("features", .3)
	case most("picture") && most("titled"):
		add("features", .5)
		add("portfolio", .4)
	case most("list"):
		add("comparison", .3)
		add("specs", .2)
	default:
		add("features", .5)
	}
}

// priced reports a list in which most entries have a price.
func priced(p *piece) bool {
	n := 0
	for _, e := range p.lists {
		for _, x := range e.pieces {
			if x.sort == words && (isMoney(x.plain) || moneyEnd.MatchString(x.plain)) {
				n++
				break
			}
		}
	}
	return n*2 > len(p.lists)
}

// named reads kinds out of the ids and classes that a band and what is directly in it have.
func named(list []*css.Element) map[string]float64 {
	out := map[string]float64{}
	for i, e := range list {
		if i > 2 {
			break
		}
		for _, s := range append([]string{e.ID}, e.Classes...) {
			for _, w := range strings.FieldsFunc(s, func(r rune) bool { return r == '-' || r == '_' }) {
				if kind := search.KindOf(w); kind != "" && kind != "nav" && kind != "piece" {
					out[kind] = max(out[kind], .7)
				}
			}
		}
	}
	return out
}
