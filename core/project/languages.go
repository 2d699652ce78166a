package project

import (
	"golang.org/x/text/language"
	"golang.org/x/text/language/display"
)

// LanguageName is what a language (BCP 47 tag) is called by those who speak it: Deutsch for de.
func LanguageName(tag string) string {
	t, err := language.Parse(tag)
	if err != nil {
		return tag
	}
	if name := display.Self.Name(t); name != "" {
		return name
	}
	return tag
}
