package adopt

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// What a text is by its form: an amount, a figure, a date, a name.

// isMoney, isFigure and isDate tell what a short text is.
func isMoney(s string) bool { return moneyForm.MatchString(s) }

func isFigure(s string) bool { return letters(s) <= 12 && figureForm.MatchString(s) }

func isDate(s string) bool {
	return letters(s) <= 32 && (dateForm.MatchString(s) || timeForm.MatchString(s))
}

// isName reports a text that could be somebody's name: two or three words that begin large.
func isName(s string) bool {
	w := strings.Fields(s)
	noLogo := len(w) < 1 || len(w) > 4 || letters(s) > 40 || strings.ContainsAny(s, ".!?:") &&
		!strings.Contains(s, ". ")
	if noLogo {
		return false
	}
	large := 0
	for _, x := range w {
		r, _ := utf8.DecodeRuneInString(x)
		if unicode.IsUpper(r) || !unicode.IsLower(r) && unicode.IsLetter(r) {
			large++
		}
	}
	return large*2 > len(w)
}

// Words about what a text is.
var (
	moneyForm = regexp.MustCompile(
		`^(?:(?:from|ab|dès|von)\s+)?(?:[€$£¥₹]\s?\d[\d.,' ]*|\d[\d.,' ]*\s?(?:€|\$|£|¥|₹|EUR|USD|GBP|CHF|kr|zł)|(?:EUR|USD|GBP|CHF)\s?\d[\d.,' ]*)(?:\s?[.,]?-{1,2})?$`,
	)
	moneyEnd = regexp.MustCompile(
		`^(.{2,60}?)\s*[:.…–—-]*\s+([€$£¥₹]\s?\d[\d.,']*|\d[\d.,']*\s?(?:€|\$|£|EUR|USD|GBP|CHF))$`,
	)
	moneyStart = regexp.MustCompile(
		`^([€$£¥₹]\s?\d[\d.,']*|\d[\d.,']*\s?(?:€|\$|£|¥|₹|EUR|USD|GBP|CHF))\s*(/?\s*\D.*)$`,
	)
	figureForm = regexp.MustCompile(`^[~≈<>+]?\s?\d[\d.,' ]*\s?(?:%|\+|k|K|m|M|×|x|°|h|km|kg)?\+?$`)
	dateForm   = regexp.MustCompile(
		`(?i)^(?:(?:\w+,? )?(?:\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}-\d{2}-\d{2}|\d{1,2}\.? (?:jan|feb|mar|mär|apr|may|mai|jun|jul|aug|sep|oct|okt|nov|dec|dez)\w*\.?(?: \d{4})?|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\w* \d{1,2}(?:, \d{4})?|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\w* \d{4})|(?:19|20)\d{2}(?:[–-](?:\d{2,4}|today|now))?)\b`,
	)
	timeForm = regexp.MustCompile(
		`^\d{1,2}[:.h]\d{2}(?:\s?(?:am|pm|Uhr))?(?:\s?[–-]\s?\d{1,2}[:.h]\d{2})?|^\d{1,2}\s?(?:am|pm)\b`,
	)
)
