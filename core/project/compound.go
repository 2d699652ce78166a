package project

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/currency"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
)

// A text can be a value that each language sets in its own way: a price, {amount: 19.90, currency: EUR, per: a month}, or a
// day, {date: 2026-05-01}.

var compoundKeys = map[string][]string{"amount": {"amount", "currency", "per"}, "date": {"date"}}

// kindOfCompound tells which of them a value is, "" for none.
func kindOfCompound(v *site.Value) string {
	for kind := range compoundKeys {
		if v != nil && v.Kind == site.Map && v.Get(kind) != nil {
			return kind
		}
	}
	return ""
}

// spoken puts texts in the place of the prices and days of a block. What cannot be set stays as it is, and is told.
func (e *Project) spoken(b *site.Block) *site.Block {
	sec := e.Library.Section(b.Section)
	if sec == nil || b.Content == nil || !slices.ContainsFunc(b.Content.Entries, func(en site.Entry) bool { return hasCompound(en.Value) }) {
		return b
	}
	c := *b
	c.Content = e.spokenIn(sec.Fields, b.Content)
	return &c
}

func hasCompound(v *site.Value) bool {
	if v == nil {
		return false
	}
	return kindOfCompound(v) != "" || slices.ContainsFunc(v.Items, hasCompound) ||
		slices.ContainsFunc(v.Entries, func(en site.Entry) bool { return hasCompound(en.Value) })
}

// spokenIn does it in a map of fields. The period of a price goes into the field unit, where there is one without a text.
func (e *Project) spokenIn(fields []*library.Field, m *site.Value) *site.Value {
	out := *m
	out.Entries = slices.Clone(m.Entries)
	unit := slices.ContainsFunc(fields, func(f *library.Field) bool { return f.Name == "unit" }) && m.Get("unit") == nil
	for i, en := range out.Entries {
		at := slices.IndexFunc(fields, func(f *library.Field) bool { return f.Name == en.Key })
		if at < 0 {
			continue
		}
		switch f := fields[at]; {
		case f.Type == library.RichText && kindOfCompound(en.Value) != "":
			text, per, err := e.sayCompound(en.Value)
			if err != nil {
				continue
			}
			if per != "" && unit {
				v := site.NewText(per)
				v.Pos, v.Width = en.Value.Pos, en.Value.Width
				out.Entries = append(out.Entries, site.Entry{Key: "unit", Value: v, KeyPos: en.KeyPos})
			} else if per != "" {
				text += " " + per
			}
			v := site.NewText(text)
			v.Pos, v.Width = en.Value.Pos, max(1, en.Value.Width)
			out.Entries[i].Value = v
		case f.Type == library.ListOf && hasCompound(en.Value):
			list := *en.Value
			list.Items = slices.Clone(en.Value.Items)
			for k, it := range list.Items {
				if it.Kind == site.Map {
					list.Items[k] = e.spokenIn(f.Of, it)
				}
			}
			out.Entries[i].Value = &list
		}
	}
	return &out
}

// sayCompound gives a price or a day as the language of the site sets it, and the period of a price.
func (e *Project) sayCompound(v *site.Value) (text, per string, err error) {
	kind := kindOfCompound(v)
	for _, en := range v.Entries {
		if !slices.Contains(compoundKeys[kind], en.Key) {
			return "", "", fmt.Errorf("a value with %s has no %q; it has %s", kind, en.Key, strings.Join(compoundKeys[kind], ", "))
		}
	}
	if kind == "date" {
		day, err := time.Parse(time.DateOnly, v.Get("date").Str())
		if err != nil {
			return "", "", fmt.Errorf("%q is no day: write it as 2026-05-01", v.Get("date").Str())
		}
		return e.Day(day), "", nil
	}
	text, err = e.price(v.Get("amount").Str(), v.Get("currency").Str())
	return text, v.Get("per").Str(), err
}

// Day sets a day as the language of the site does: 1. Mai 2026.
func (e *Project) Day(day time.Time) string {
	months, _ := e.Word("months")
	form, _ := e.Word("date")
	names := strings.Fields(months)
	name := ""
	if int(day.Month()) <= len(names) {
		name = names[day.Month()-1]
	}
	return strings.NewReplacer("D", strconv.Itoa(day.Day()), "M", name, "Y", strconv.Itoa(day.Year())).Replace(form)
}

// symbolFirst are the languages that set a currency before its amount (CLDR 44, standard patterns), with what stands
// between.
var symbolFirst = map[string]string{"en": "", "nl": "\u00a0", "ja": "", "zh": ""}

// price sets an amount of a currency (ISO 4217): € 19.90, 19,90 €. It has the decimals that were typed.
func (e *Project) price(amount, code string) (string, error) {
	value, err := strconv.ParseFloat(amount, 64)
	if err != nil {
		return "", fmt.Errorf("%q is no amount: write it as 19.90", amount)
	}
	unit, err := currency.ParseISO(code)
	if err != nil {
		return "", fmt.Errorf("there is no currency %q: EUR, GBP, USD and the like (ISO 4217)", code)
	}
	tag, err := language.Parse(e.Site.Language + "-u-nu-latn")
	if err != nil {
		tag = language.English
	}
	_, decimals, _ := strings.Cut(amount, ".")
	p := message.NewPrinter(tag)
	digits := p.Sprint(number.Decimal(value, number.MinFractionDigits(len(decimals)), number.MaxFractionDigits(len(decimals))))
	symbol := p.Sprint(currency.NarrowSymbol(unit))
	base, _ := tag.Base()
	if between, first := symbolFirst[base.String()]; first {
		return symbol + between + digits, nil
	}
	return digits + "\u00a0" + symbol, nil
}

// CompoundMistakes tells what is wrong with prices and days on a page.
func (e *Project) CompoundMistakes(p *site.Page) diag.Problems {
	var out diag.Problems
	for _, b := range e.Site.All(p) {
		var walk func(v *site.Value)
		walk = func(v *site.Value) {
			if v == nil {
				return
			}
			if kindOfCompound(v) != "" {
				if _, _, err := e.sayCompound(v); err != nil {
					out = append(out, b.File.Problem(v, "bad-value", err.Error(), "{amount: 19.90, currency: EUR, per: a month} or {date: 2026-05-01}", ""))
				}
				return
			}
			for _, it := range v.Items {
				walk(it)
			}
			for _, en := range v.Entries {
				walk(en.Value)
			}
		}
		walk(b.Content)
	}
	return out
}
