package project

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
)

// A text can be a value that each language sets in its own way: a price, {amount: 19.90, currency: EUR, per: a month};
// a day, {date: 2026-05-01}, or the last one of something, {until: 2026-05-01}; or when something is open, {days:
// mon-fri, hours: 10-18}, either of them alone as well.

// compound is one kind of them.
type compound struct {
	begins []string // keys that tell it
	keys   []string
	say    func(e *Project, v *site.Value) (said, error)
}

var compounds = []compound{
	{[]string{"amount"}, []string{"amount", "currency", "per"}, (*Project).sayPrice},
	{[]string{"date"}, []string{"date"}, (*Project).sayDay},
	{[]string{UntilKey}, []string{UntilKey}, (*Project).sayUntil},
	{[]string{"days", "hours"}, []string{"days", "hours"}, (*Project).sayOpen},
}

// CompoundKeys lists what values of all kinds can say.
func CompoundKeys() []string {
	var out []string
	for _, c := range compounds {
		out = append(out, c.keys...)
	}
	return out
}

// compoundOf tells which of them a value is, nil for none.
func compoundOf(v *site.Value) *compound {
	if v == nil || v.Kind != site.Map {
		return nil
	}
	for i, c := range compounds {
		if slices.ContainsFunc(c.begins, func(key string) bool { return v.Get(key) != nil }) {
			return &compounds[i]
		}
	}
	return nil
}

// speaker puts texts in the place of such values, and notes what cannot be set.
type speaker struct {
	e        *Project
	mistakes func(v *site.Value, err error)
}

// spoken gives a block with texts in the place of its prices, days and hours. wrong is told what cannot be set, which
// then stands as it was typed.
func (e *Project) spoken(b *site.Block, wrong func(v *site.Value, err error)) *site.Block {
	sec := e.Library.Section(b.Section)
	if sec == nil || b.Content == nil ||
		!slices.ContainsFunc(b.Content.Entries, func(en site.Entry) bool { return hasCompound(en.Value) }) {
		return b
	}
	c := *b
	s := &speaker{e, wrong}
	c.Content = s.fields(sec.Fields, b.Content)
	return &c
}

func hasCompound(v *site.Value) bool {
	if v == nil {
		return false
	}
	return compoundOf(v) != nil || slices.ContainsFunc(v.Items, hasCompound) ||
		slices.ContainsFunc(v.Entries, func(en site.Entry) bool { return hasCompound(en.Value) })
}

// fields does it in a map of fields. The period of a price goes into the field unit, where there is one without a text.
func (s *speaker) fields(fields []*library.Field, m *site.Value) *site.Value {
	out := *m
	out.Entries = slices.Clone(m.Entries)
	named := func(name string) *library.Field {
		if at := slices.IndexFunc(fields, func(f *library.Field) bool { return f.Name == name }); at >= 0 {
			return fields[at]
		}
		return nil
	}
	unit := named("unit") != nil && m.Get("unit") == nil
	for i, en := range out.Entries {
		f := named(en.Key)
		switch {
		case f == nil:
		case f.Type == library.RichText && compoundOf(en.Value) != nil:
			v, per := s.text(en.Value, unit)
			out.Entries[i].Value = v
			if per != nil {
				out.Entries = append(out.Entries, site.Entry{Key: "unit", Value: per, KeyPos: en.KeyPos})
			}
		case f.Type == library.ListOf && en.Value.Kind == site.List && hasCompound(en.Value):
			list := *en.Value
			list.Items = slices.Clone(en.Value.Items)
			for k, it := range list.Items {
				self := f.Find(".")
				switch {
				case it.Kind != site.Map:
				case self != nil && self.Type == library.RichText && compoundOf(it) != nil:
					list.Items[k], _ = s.text(it, false)
				default:
					list.Items[k] = s.fields(f.Of, it)
				}
			}
			out.Entries[i].Value = &list
		}
	}
	return &out
}

// passed is a day that is over.
type passed string

func (p passed) Error() string { return string(p) + " has passed" }

// text gives the text of a value; per is the period of a price when it is to stand for itself.
func (s *speaker) text(v *site.Value, apart bool) (text, per *site.Value) {
	placed := func(text string) *site.Value {
		out := site.NewText(text)
		out.Pos, out.Width = v.Pos, max(1, v.Width)
		return out
	}
	is, err := compoundOf(v).read(s.e, v)
	if err != nil {
		s.mistakes(v, err)
		return placed(v.Entries[0].Value.Str()), nil
	}
	if is.past != "" {
		s.mistakes(v, passed(is.past))
	}
	if is.per != "" && apart {
		per = placed(is.per)
	} else if is.per != "" {
		is.runs = append(is.runs, site.Run{Text: " "}, site.Run{Text: is.per, Part: library.PartPeriod})
	}
	var b strings.Builder
	for _, r := range is.runs {
		b.WriteString(r.Text)
	}
	text = placed(b.String())
	text.Runs = is.runs
	return text, per
}

// read sets a value as the language of the site does.
func (c *compound) read(e *Project, v *site.Value) (said, error) {
	for _, en := range v.Entries {
		if !slices.Contains(c.keys, en.Key) {
			return said{}, fmt.Errorf("a value with %s has no %q; it has %s", strings.Join(c.begins, " or "), en.Key,
				strings.Join(c.keys, ", "))
		}
	}
	return c.say(e, v)
}

func (e *Project) sayDay(v *site.Value) (said, error) {
	day, err := time.Parse(time.DateOnly, v.Get("date").Str())
	if err != nil {
		return said{}, fmt.Errorf("%q is no day: write it as 2026-05-01", v.Get("date").Str())
	}
	return said{runs: []site.Run{{Text: e.Day(day), Is: v.Get("date").Str()}}}, nil
}

// UntilKey is the key of a value that is the last day of something.
const UntilKey = "until"

func (e *Project) sayUntil(v *site.Value) (said, error) {
	text := v.Get(UntilKey).Str()
	day, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return said{}, fmt.Errorf("%q is no day: write it as 2026-05-01", text)
	}
	form, _ := e.Word("until") // until D
	before, after, _ := strings.Cut(form, "D")
	out := said{runs: []site.Run{{Text: capital(before)}, {Text: e.Day(day), Is: text}, {Text: after}}}
	if e.Today != "" && text < e.Today {
		out.past = e.Day(day)
	}
	return out, nil
}

// CompoundMistakes tells what is wrong with prices, days and hours on a page, and which last days have passed.
func (e *Project) CompoundMistakes(p *site.Page) diag.Problems {
	var out diag.Problems
	for _, b := range e.Site.All(p) {
		e.spoken(b, func(v *site.Value, err error) {
			if past, ok := err.(passed); ok {
				p := b.File.Problem(v, "day-past", past.Error(), "another day, or another text", "")
				p.Severity = diag.Warning
				out = append(out, p)
				return
			}
			out = append(out, b.File.Problem(
				v,
				"bad-value",
				err.Error(),
				"{amount: 19.90, currency: EUR, per: a month}, {date: 2026-05-01}, {until: 2026-05-01} or {days: mon-fri, hours: 10-18}",
				"",
			))
		})
	}
	return out
}
