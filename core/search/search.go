package search

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/library"
)

// Match is a section with what it has of a wish.
type Match struct {
	Section *library.Section
	Missed  []string          // wishes that it does not meet
	Options map[string]string // choices that meet a wish: media=left
	Entries int               // how many entries were asked for, 0 for none
	score   float64
	wishes  int
}

// Nothing reports a section that meets none of the wishes.
func (m Match) Nothing() bool { return m.wishes > 0 && len(m.Missed) == m.wishes }

// wish is one thing that was asked for.
type wish struct {
	text  string
	score func(s *library.Section, f Facts, m *Match) float64 // 0 when it is not met
}

// kinds are words that people use for kinds of sections.
var kinds = map[string]string{"nav": "nav", "navigation": "nav", "navbar": "nav", "menu": "nav", "header": "nav",
	"announcement": "announcement", "notice": "announcement", "hero": "hero", "opening": "hero", "intro": "hero",
	"welcome": "hero",
	"logo":    "logos", "logos": "logos", "clients": "logos", "partners": "logos", "feature": "features",
	"features": "features", "reason": "features", "reasons": "features", "benefits": "features",
	"services": "features",
	"step":     "steps", "steps": "steps", "process": "steps", "numbers": "statistics", "statistics": "statistics",
	"figures": "statistics", "facts": "statistics", "gallery": "gallery", "photos": "gallery",
	"portfolio": "portfolio", "works": "portfolio", "projects": "portfolio",
	"plan": "pricing", "plans": "pricing", "prices": "pricing", "pricing": "pricing", "offers": "pricing",
	"cost": "pricing", "costs": "pricing", "voice": "testimonials", "voices": "testimonials",
	"quotes": "testimonials", "quote": "testimonials", "testimonials": "testimonials", "testimonial": "testimonials",
	"reviews": "testimonials",
	"team":    "team", "people": "team", "questions": "questions", "faq": "questions", "answers": "questions",
	"action": "action", "closing": "action", "contact": "contact", "letter": "newsletter", "newsletter": "newsletter",
	"articles": "articles", "blog": "articles", "news": "articles", "posts": "articles",
	"schedule": "schedule", "programme": "schedule", "program": "schedule", "timetable": "schedule", "agenda": "schedule",
	"events": "events", "event": "events", "dates": "events", "calendar": "events",
	"jobs": "jobs", "job": "jobs", "careers": "jobs", "vacancies": "jobs", "hiring": "jobs",
	"footer": "footer", "foot": "footer", "heading": "piece", "divider": "piece"}

// KindOf gives the kind that a word means, "" for none.
func KindOf(word string) string { return kinds[strings.ToLower(word)] }

var numbers = map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
	"nine": 9, "ten": 10, "twelve": 12}

var smallWords = map[string]bool{"a": true, "an": true, "the": true, "with": true, "and": true, "of": true,
	"for": true, "on": true, "in": true, "at": true, "to": true, "its": true, "some": true, "our": true,
	"section": true, "block": true}

var sides = map[string]string{"left": "left", "right": "right", "above": "above", "below": "below", "under": "below",
	"over": "over", "behind": "over", "top": "above"}

var pictureWords = map[string]bool{"picture": true, "pictures": true, "photo": true, "image": true, "images": true}

// parse turns words into wishes.
func parse(words string) []wish {
	list := strings.FieldsFunc(strings.ToLower(words), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-' || r == '/' || r > 127)
	})
	var out []wish
	for i := 0; i < len(list); i++ {
		w, next := list[i], ""
		if i+1 < len(list) {
			next = list[i+1]
		}
		n, isNumber := numbers[w]
		if k, err := strconv.Atoi(w); err == nil {
			n, isNumber = k, true
		}
		switch {
		case smallWords[w] && !isNumber:
		case (w == "no" || w == "without") && next != "":
			out = append(out, not(next))
			i++
		case isNumber && next != "":
			out = append(out, count(n, next)...)
			i++
		case pictureWords[w] && sides[next] != "":
			out = append(out, pictureAt(w+" "+next, sides[next]))
			i++
		case sides[w] != "" && pictureWords[next]:
			out = append(out, pictureAt(w+" "+next, sides[w]))
			i++
		default:
			out = append(out, word(w))
		}
	}
	return out
}

func yes(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

func hasPicture(f Facts) bool { return f.Share >= 5 }

// property gives what a word asks of the facts, nil when it asks nothing.
func property(w string) func(f Facts) bool {
	switch {
	case pictureWords[w]:
		return hasPicture
	case w == "form":
		return func(f Facts) bool { return f.Form }
	case w == "script":
		return func(f Facts) bool { return f.Script }
	case w == "icon" || w == "icons":
		return func(f Facts) bool { return f.Icons }
	case w == "buttons" || w == "button":
		return func(f Facts) bool { return f.Buttons > 0 }
	case moods[w] != nil:
		return moods[w]
	case w == "slide" || w == "slider" || w == "slides" || w == "carousel":
		return func(f Facts) bool { return f.Slides }
	}
	return nil
}

// moods are what people call the look of a section, in figures that are measured: how large its largest letters are,
// how many letters stand on a surface, how much of it is pictures. The limits part the shipped sections at about a
// quarter of them.
var moods = map[string]func(f Facts) bool{
	"loud":        func(f Facts) bool { return f.Largest >= 80 || f.Share >= 60 },
	"calm":        func(f Facts) bool { return f.Share < 30 && f.Largest < 60 && f.Letters < 25 },
	"quiet":       func(f Facts) bool { return f.Share < 30 && f.Largest < 60 && f.Letters < 25 },
	"picture-led": func(f Facts) bool { return f.Share >= 35 },
	"visual":      func(f Facts) bool { return f.Share >= 35 },
	"dense":       func(f Facts) bool { return f.Letters >= 40 },
	"airy":        func(f Facts) bool { return f.Letters < 20 },
}

// fieldWords are words for what stands in a section, by the fields that hold it; a name with a stroke asks for the
// kind.
var fieldWords = map[string][]string{
	"price": {"price"}, "amount": {"price", "figure"}, "date": {"events/", "timeline/", "articles/", "schedule/"},
	"day": {"events/", "schedule/"}, "time": {"schedule/", "events/"}, "quote": {"testimonials/"},
	"logo": {"logos/"}, "video": {"video/"}, "film": {"video/"}, "role": {"role"}, "name": {"name", "role"},
	"person": {"team/", "testimonials/"}, "icon": {"icon"}, "number": {"figure", "statistics/"},
	"figure": {"figure", "statistics/"}, "note": {"note"}, "mail": {"mail-label"}, "phone": {"phone-label"},
	"address": {"contact/", "map/"}, "list": {"items", "points"}, "group": {"groups"}, "link": {"link", "links"},
}

// holds reports whether a section holds what a word for a field means.
func holds(s *library.Section, w string) bool {
	names := fieldWords[strings.TrimSuffix(w, "s")]
	var in func(fields []*library.Field) bool
	in = func(fields []*library.Field) bool {
		return slices.ContainsFunc(fields, func(f *library.Field) bool {
			return slices.Contains(names, f.Name) || in(f.Of)
		})
	}
	return in(s.Fields) || slices.Contains(names, s.Kind+"/")
}

func not(w string) wish {
	return wish{"no " + w, func(s *library.Section, f Facts, _ *Match) float64 {
		if has := property(w); has != nil {
			return yes(!has(f))
		}
		return yes(textScore(s, w) == 0 && !holds(s, w))
	}}
}

func pictureAt(text, at string) wish {
	return wish{text, func(s *library.Section, f Facts, m *Match) float64 {
		if !hasPicture(f) {
			return 0
		}
		if f.Picture == at {
			return 2
		}
		for _, o := range s.Options { // a choice that puts it there
			moves := o.Name == "media" || o.Name == "first" || o.Name == "side"
			beside := f.Picture == "left" || f.Picture == "right" || f.Picture == "in entries"
			if moves && beside && slices.Contains(o.Choices, at) {
				m.Options[o.Name] = at
				return 1.9
			}
		}
		return 0
	}}
}

// count asks for a number of something.
func count(n int, noun string) []wish {
	text := fmt.Sprintf("%d %s", n, noun)
	switch noun {
	case "button", "buttons", "actions":
		return []wish{{text, func(_ *library.Section, f Facts, _ *Match) float64 { return yes(f.Buttons >= n) }}}
	case "column", "columns":
		return []wish{{text, func(s *library.Section, f Facts, m *Match) float64 { return columns(s, f, n, m) }}}
	}
	out := []wish{word(noun)}
	return append(out, wish{text, func(s *library.Section, f Facts, m *Match) float64 {
		if f.Entries == 0 {
			return 0
		}
		m.Entries = n
		return 1 + columns(s, f, n, m)/2
	}})
}

// columns tells whether that many stand side by side on a desktop, by an option if need be.
func columns(s *library.Section, f Facts, n int, m *Match) float64 {
	if f.Columns[2] == n {
		return 1
	}
	if o := s.Option("columns"); o != nil && o.Type == "number" && n <= 6 && n > 1 {
		m.Options["columns"] = strconv.Itoa(n)
		return .9
	}
	return 0
}

func word(w string) wish {
	return wish{w, func(s *library.Section, f Facts, _ *Match) float64 {
		score := textScore(s, w)
		if k := kinds[w]; k != "" && k == s.Kind {
			score += 5
		}
		if has := property(w); has != nil && has(f) {
			score += 2
		}
		if holds(s, w) {
			score += 2
		}
		return score
	}}
}

// textScore looks for a word in what a section says of itself.
func textScore(s *library.Section, w string) float64 {
	score := 0.0
	stem := w
	if len(w) > 3 {
		stem = strings.TrimSuffix(w, "s")
	}
	if strings.Contains(s.Name, stem) {
		score += 4
	}
	for _, t := range s.Tags {
		if strings.HasPrefix(t, stem) {
			score += 3
		}
	}
	for _, t := range strings.FieldsFunc(strings.ToLower(s.Summary),
		func(r rune) bool { return r < 'a' || r > 'z' }) {
		if strings.HasPrefix(t, stem) && len(stem) > 2 {
			score += 2
			break
		}
	}
	if s.Field(w) != nil {
		score++
	}
	return score
}

// Search ranks the sections of a library by what they have of the words: those that meet every wish first.
func Search(lib *library.Library, facts map[string]Facts, words string) []Match {
	wishes := parse(words)
	var out []Match
	for _, s := range lib.All() {
		m := Match{Section: s, Options: map[string]string{}, wishes: len(wishes)}
		for _, w := range wishes {
			score := w.score(s, facts[s.Name], &m)
			if score == 0 {
				m.Missed = append(m.Missed, w.text)
			}
			m.score += score
		}
		if s.Usual {
			m.score += .5
		}
		out = append(out, m)
	}
	sort.SliceStable(out, func(i, j int) bool {
		if len(out[i].Missed) != len(out[j].Missed) {
			return len(out[i].Missed) < len(out[j].Missed)
		}
		return out[i].score > out[j].score
	})
	return out
}

// Meeting cuts a ranking after the last section that meets every wish.
func Meeting(list []Match) []Match {
	for i, m := range list {
		if len(m.Missed) > 0 {
			return list[:i]
		}
	}
	return list
}
