package project

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/currency"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"

	"ziegel/core/library"
	"ziegel/core/site"
)

// said is a value as a language sets it, the period of a price, and a last day that has passed.
type said struct {
	runs []site.Run
	per  string
	past string
}

// capital begins a text with a capital letter.
func capital(text string) string {
	first := []rune(text)
	if len(first) == 0 {
		return text
	}
	return strings.ToUpper(string(first[:1])) + string(first[1:])
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

// sayPrice sets an amount of a currency (ISO 4217): € 19.90, 19,90 €. It has the decimals that were typed.
func (e *Project) sayPrice(v *site.Value) (said, error) {
	amount, code := v.Get("amount").Str(), v.Get("currency").Str()
	value, err := strconv.ParseFloat(amount, 64)
	if err != nil {
		return said{}, fmt.Errorf("%q is no amount: write it as 19.90", amount)
	}
	unit, err := currency.ParseISO(code)
	if err != nil {
		return said{}, fmt.Errorf("there is no currency %q: EUR, GBP, USD and the like (ISO 4217)", code)
	}
	tag, err := language.Parse(e.Site.Language + "-u-nu-latn")
	if err != nil {
		tag = language.English
	}
	_, decimals, _ := strings.Cut(amount, ".")
	p := message.NewPrinter(tag)
	digits := site.Run{Part: library.PartAmount, Is: amount, Text: p.Sprint(
		number.Decimal(value, number.MinFractionDigits(len(decimals)), number.MaxFractionDigits(len(decimals))))}
	symbol := site.Run{Part: library.PartCurrency, Is: unit.String(), Text: p.Sprint(currency.NarrowSymbol(unit))}
	out := said{per: v.Get("per").Str()}
	base, _ := tag.Base()
	if between, first := symbolFirst[base.String()]; first {
		out.runs = []site.Run{symbol, {Text: between}, digits}
	} else {
		out.runs = []site.Run{digits, {Text: "\u00a0"}, symbol}
	}
	return out, nil
}
