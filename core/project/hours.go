package project

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/library"
	"ziegel/core/site"
)

// weekdays are how days are typed, and what schema.org calls them.
var weekdays = [7]struct{ typed, name string }{
	{"mon", "Monday"},
	{"tue", "Tuesday"},
	{"wed", "Wednesday"},
	{"thu", "Thursday"},
	{"fri", "Friday"},
	{"sat", "Saturday"},
	{"sun", "Sunday"},
}

// span is two days, 0 to 6 from Monday, or two times, minutes from midnight.
type span struct{ from, to int }

// spansIn reads "mon-fri, sun" or "10-12, 14-18:30"; one alone is a span when alone is set.
func spansIn(v *site.Value, alone bool, one func(s string) (int, error)) ([]span, error) {
	list := v.Items
	if v.Kind == site.Text {
		list = nil
		for _, s := range strings.Split(v.Str(), ",") {
			list = append(list, site.NewText(strings.TrimSpace(s)))
		}
	}
	var out []span
	for _, it := range list {
		a, b, two := strings.Cut(strings.ReplaceAll(it.Str(), "–", "-"), "-")
		from, err := one(strings.TrimSpace(a))
		if err != nil {
			return nil, err
		}
		to := from
		switch {
		case two:
			if to, err = one(strings.TrimSpace(b)); err != nil {
				return nil, err
			}
		case !alone:
			return nil, fmt.Errorf("%q has no end: write it as 10-18", it.Str())
		}
		out = append(out, span{from, to})
	}
	return out, nil
}

func weekday(s string) (int, error) {
	for i, d := range weekdays {
		if s == d.typed {
			return i, nil
		}
	}
	return 0, fmt.Errorf("there is no day %q: mon, tue, wed, thu, fri, sat, sun, or mon-fri", s)
}

// clock reads 9, 9:30 or 18.30 as minutes from midnight.
func clock(s string) (int, error) {
	h, m, _ := strings.Cut(strings.ReplaceAll(s, ".", ":"), ":")
	hour, err := strconv.Atoi(h)
	minute := 0
	if err == nil && m != "" {
		minute, err = strconv.Atoi(m)
	}
	inDay := hour >= 0 && minute >= 0 && minute <= 59 && hour*60+minute <= 24*60
	if err != nil || !inDay || m != "" && len(m) != 2 {
		return 0, fmt.Errorf("%q is no time of a day: write hours as 10-18 or 9:30-12, 14-18", s)
	}
	return hour*60 + minute, nil
}

// sayOpen sets days and hours: Monday to Friday, 10:00–18:00.
func (e *Project) sayOpen(v *site.Value) (said, error) {
	var parts []string
	form, _ := e.Word("open") // D, H
	between := strings.NewReplacer("D", "", "H", "").Replace(form)
	if days := v.Get("days"); days != nil {
		list, err := spansIn(days, true, weekday)
		if err != nil {
			return said{}, err
		}
		all, _ := e.Word("days")
		names, to := strings.Split(all, ", "), ""
		if to, _ = e.Word("days-to"); len(names) != len(weekdays) {
			return said{}, fmt.Errorf("the language %s has no names of days", e.Site.Language)
		}
		for _, s := range list {
			text := names[s.from]
			if s.to != s.from {
				text = strings.NewReplacer("A", names[s.from], "B", names[s.to]).Replace(to)
			}
			parts = append(parts, text)
		}
	}
	if hours := v.Get("hours"); hours != nil {
		list, err := spansIn(hours, false, clock)
		if err != nil {
			return said{}, err
		}
		for _, s := range list {
			parts = append(parts, e.hours(s))
		}
	}
	return said{runs: []site.Run{{Text: capital(strings.Join(parts, between))}}}, nil
}

// twelve are languages of regions that count hours to twelve (CLDR 44, preferred hour cycle).
var twelve = []string{"en-US", "en-CA", "en-AU", "en-NZ", "en-IN", "en-PH"}

// hours sets a span of hours: 10:00–18:00, 10–18 Uhr, 10 am–6 pm.
func (e *Project) hours(s span) string {
	if slices.Contains(twelve, e.Site.Language) {
		return half(s.from) + "–" + half(s.to)
	}
	form, _ := e.Word("hours") // H:MM–H:MM
	for _, t := range []int{s.from, s.to} {
		form = strings.Replace(form, "MM", fmt.Sprintf("%02d", t%60), 1)
		form = strings.Replace(form, "H", strconv.Itoa(t/60), 1)
	}
	return form
}

// half sets a time on a clock of twelve hours.
func half(t int) string {
	h, m, noon := t/60%24, t%60, "am"
	if h >= 12 {
		noon = "pm"
	}
	if h %= 12; h == 0 {
		h = 12
	}
	out := strconv.Itoa(h)
	if m > 0 {
		out += fmt.Sprintf(":%02d", m)
	}
	return out + "\u00a0" + noon
}

// Opening is when something is open on some days: their names in schema.org, and times as 09:30.
type Opening struct {
	Days          []string
	Opens, Closes string
}

// Openings gives when a page says to be open: what one entry of a list, or one block, says as days and hours. There are
// none when it speaks of several places: of more than one block, or of one day in two entries.
func (e *Project) Openings(p *site.Page) []Opening {
	var out []Opening
	blocks := 0
	for _, b := range e.Site.All(p) {
		sec := e.Library.Section(b.Section)
		if sec == nil || b.Content == nil {
			continue
		}
		r := &openings{seen: map[int]bool{}}
		r.fields(sec.Fields, b.Content)
		if r.twice {
			return nil
		}
		if len(r.list) > 0 {
			blocks++
			out = r.list
		}
	}
	if blocks > 1 {
		return nil
	}
	return out
}

type openings struct {
	list  []Opening
	seen  map[int]bool // days that an entry has spoken of
	twice bool
}

func (o *openings) fields(fields []*library.Field, m *site.Value) {
	var days, hours *site.Value
	for _, f := range fields {
		v := m.Get(f.Name)
		switch {
		case v == nil:
		case f.Type == library.RichText && v.Kind == site.Map:
			days, hours = orElse(days, v.Get("days")), orElse(hours, v.Get("hours"))
		case f.Type == library.ListOf:
			for _, it := range v.Items {
				if self := f.Find("."); self != nil && (it.Get("days") != nil || it.Get("hours") != nil) {
					o.add(it.Get("days"), it.Get("hours"))
				} else if it.Kind == site.Map {
					o.fields(f.Of, it)
				}
			}
		}
	}
	o.add(days, hours)
}

func orElse(a, b *site.Value) *site.Value {
	if a != nil {
		return a
	}
	return b
}

func (o *openings) add(days, hours *site.Value) {
	if days == nil || hours == nil {
		return
	}
	on, err := spansIn(days, true, weekday)
	if err != nil {
		return
	}
	at, err := spansIn(hours, false, clock)
	if err != nil {
		return
	}
	var names []string
	for _, s := range on {
		for d := s.from; ; d = (d + 1) % len(weekdays) {
			names = append(names, weekdays[d].name)
			o.twice, o.seen[d] = o.twice || o.seen[d], true
			if d == s.to {
				break
			}
		}
	}
	for _, s := range at {
		o.list = append(o.list, Opening{names, stamp(s.from), stamp(min(s.to, 24*60-1))}) // midnight ends no day there
	}
}

func stamp(t int) string { return fmt.Sprintf("%02d:%02d", t/60, t%60) }
