package font

import (
	"github.com/go-text/typesetting/language"
	"golang.org/x/text/unicode/bidi"
)

// Script is a writing system (UAX #24).
type Script = language.Script

// Run says how a text is shaped: in which direction, and by the rules of which script (0: by that of its letters).
type Run struct {
	RTL    bool
	Script Script
}

// Scripts gives the script of each rune, nil when all are Latin. Signs of no script of their own are of that of what is
// before them, or else of the first that follows; brackets that close are of that of those that open (UAX #24, section
// 5.1; measured).
func Scripts(text []rune) []Script {
	foreign := false
	for _, r := range text {
		if r >= 0x250 {
			if s := language.LookupScript(r); s != language.Latin && !shared(s) {
				foreign = true
				break
			}
		}
	}
	if !foreign {
		return nil
	}
	out := make([]Script, len(text))
	type opener struct {
		closes string
		script Script
	}
	var open []opener
	now, known := language.Latin, false
	for i, r := range text {
		s := language.LookupScript(r)
		if p, _ := bidi.LookupRune(r); p.IsBracket() && shared(s) {
			if p.IsOpeningBracket() {
				open = append(open, opener{bidi.ReverseString(string(r)), now})
			} else if n := len(open) - 1; n >= 0 && known {
				if open[n].closes == string(r) {
					now, open = open[n].script, open[:n]
				}
			}
		}
		if !shared(s) {
			if now = s; !known {
				known = true
				for k := range i {
					out[k] = s
				}
				for k := range open {
					open[k].script = s
				}
			}
		}
		out[i] = now
	}
	return out
}

// shared reports signs that many scripts use.
func shared(s Script) bool {
	return s == language.Common || s == language.Inherited || s == language.Unknown
}
