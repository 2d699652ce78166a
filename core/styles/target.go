package styles

import (
	"errors"
	"regexp"
	"strconv"
	"strings"

	"ziegel/core/site"
)

// Target is what a key under style: speaks of: "card[2]:hover at phone".
type Target struct {
	Part  string
	Index int    // from 1, counted over the block; 0 means all
	Place string // odd, even, first, last or "every 3": a place in the list that the part stands in
	State string // with its colon
	At    string // a range or span of screen widths
	In    string // a span of the block's own width
	When  string // an arrangement
}

var (
	targetForm = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[([^\]]*)\])?((?::{1,2}[a-z-]+(?:\([^)]*\))?)*)(?:\s+(at|in|when)\s+(.+))?$`)
	everyForm  = regexp.MustCompile(`^every\s+(\d+|second|third|fourth|fifth)$`)
)

var ordinals = map[string]string{"second": "2", "third": "3", "fourth": "4", "fifth": "5"}

// ParseTarget reads a style key.
func ParseTarget(key string) (Target, error) {
	m := targetForm.FindStringSubmatch(strings.TrimSpace(key))
	if m == nil {
		return Target{}, errors.New("a part, perhaps with a position or state, then at, in or when: card, card[2]:hover, card[odd], card at phone, card in ..480, words when stacked")
	}
	t := Target{Part: m[1], State: m[3]}
	if m[2] != "" || strings.Contains(key, "[]") {
		var err error
		if t.Index, t.Place, err = ParsePosition(m[2]); err != nil {
			return t, err
		}
	}
	switch tail := strings.TrimSpace(m[5]); m[4] {
	case "at":
		t.At = tail
	case "in":
		t.In = tail
	case "when":
		t.When = tail
	}
	return t, nil
}

// ParsePosition reads what stands in brackets after a part: a number from 1, or odd, even, first, last, every third.
func ParsePosition(s string) (index int, place string, err error) {
	s = strings.TrimSpace(s)
	if n, err := strconv.Atoi(s); err == nil {
		if n < 1 {
			return 0, "", errors.New("positions count from 1")
		}
		return n, "", nil
	}
	if m := everyForm.FindStringSubmatch(s); m != nil {
		n := m[1]
		if o := ordinals[n]; o != "" {
			n = o
		}
		if k, _ := strconv.Atoi(n); k > 1 {
			return 0, "every " + n, nil
		}
	}
	switch s {
	case "odd", "even", "first", "last":
		return 0, s, nil
	}
	return 0, "", errors.New("a position is a number from 1, or odd, even, first, last, every third")
}

// String writes the key back.
func (t Target) String() string { return strings.TrimSpace(t.Element() + t.Tail()) }

// Tail gives the state and the condition, as they stand behind the part.
func (t Target) Tail() string {
	s := t.State
	switch {
	case t.At != "":
		s += " at " + t.At
	case t.In != "":
		s += " in " + t.In
	case t.When != "":
		s += " when " + t.When
	}
	return s
}

// Element gives the part, with its position if it speaks of one: card[2], card[odd].
func (t Target) Element() string {
	switch {
	case t.Index > 0:
		return t.Part + "[" + strconv.Itoa(t.Index) + "]"
	case t.Place != "":
		return t.Part + "[" + t.Place + "]"
	}
	return t.Part
}

// Suffix is what the class of the part ends with for a position.
func (t Target) Suffix() string {
	switch {
	case t.Index > 0:
		return "-" + strconv.Itoa(t.Index)
	case t.Place != "":
		return "-" + strings.ReplaceAll(t.Place, " ", "-")
	}
	return ""
}

// Takes reports whether the position of an element, from 1 in a list of n, is one that a place speaks of.
func Takes(place string, i, n int) bool {
	switch place {
	case "odd":
		return i%2 == 1
	case "even":
		return i%2 == 0
	case "first":
		return i == 1
	case "last":
		return i == n
	}
	every, err := strconv.Atoi(strings.TrimPrefix(place, "every "))
	return err == nil && i%every == 0
}

// ParseTail reads a key inside a shared look: ":hover", "at phone", "[odd] at tablet".
func ParseTail(key string) (Target, error) {
	key = strings.TrimSpace(key)
	if !strings.HasPrefix(key, ":") && !strings.HasPrefix(key, "[") {
		key = " " + key
	}
	return ParseTarget("part" + key)
}

// StyleKey finds the entry of a style map that speaks of a target, however it is spelled, else names a new one.
func StyleKey(style *site.Value, t Target) string {
	if style != nil {
		for _, e := range style.Entries {
			if have, err := ParseTarget(e.Key); err == nil && have == t {
				return e.Key
			}
		}
	}
	return t.String()
}

// State is a state that a part can be styled in.
type State struct {
	Name  string // as written after the colon
	Also  string // another name for it
	sel   string
	order int
}

// States lists those that parts have, in the order in which later ones win.
var States = []State{
	{"current", "", "[aria-current]", 0}, {"checked", "", ":checked", 0}, {"open", "", ":open", 0},
	{"hover", "", ":hover", 1}, {"focus-visible", "focus", ":focus-visible", 2},
	{"focus-within", "", ":focus-within", 2},
	{"active", "pressed", ":active", 3}, {"disabled", "", `:is(:disabled, [aria-disabled="true"])`, 4},
	{"target", "", ":target", 0}, {"invalid", "", ":user-invalid", 0},
	{"placeholder-shown", "", ":placeholder-shown", 0},
}

var pseudoElements = []string{"before", "after", "marker", "selection", "placeholder", "first-line",
	"first-letter", "backdrop"}

// stateNames lists the names of states and pseudo-elements.
func stateNames() []string {
	var out []string
	for _, s := range States {
		out = append(out, s.Name)
		if s.Also != "" {
			out = append(out, s.Also)
		}
	}
	return append(out, pseudoElements...)
}

// CanonicalState gives the name that the build uses for a state as typed: pressed is active. ok is false when there
// is none such.
func CanonicalState(typed string) (string, bool) {
	typed = strings.TrimLeft(typed, ":")
	for _, s := range States {
		if typed == s.Name || s.Also != "" && typed == s.Also {
			return ":" + s.Name, true
		}
	}
	for _, p := range pseudoElements {
		if typed == p {
			return "::" + p, true
		}
	}
	return "", false
}
