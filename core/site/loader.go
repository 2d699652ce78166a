package site

import (
	"fmt"
	"regexp"
	"strings"

	"ziegel/core/diag"
)

// loader checks the shape of one file.
type loader struct {
	f        *File
	problems diag.Problems
	depth    int // of blocks in blocks
}

func (l *loader) add(p diag.Problem) { l.problems = append(l.problems, p) }

// keys reports keys that do not exist here.
func (l *loader) keys(v *Value, what string, allowed ...string) {
	for _, e := range v.Entries {
		if !has(allowed, e.Key) {
			l.add(l.f.KeyProblem(e, "unknown-key", fmt.Sprintf("%s has no %q", what, e.Key),
				"one of "+strings.Join(allowed, ", "), diag.Nearest(e.Key, allowed)))
		}
	}
}

func (l *loader) text(v *Value, what string) string {
	if v == nil {
		return ""
	}
	if v.Kind == List || v.Kind == Map {
		l.add(l.f.Problem(v, "wrong-type", fmt.Sprintf("%s is a %s", what, kindName(v)), "a text", ""))
		return ""
	}
	return v.Str()
}

func kindName(v *Value) string {
	return map[ValueKind]string{Text: "text", List: "list", Map: "map", Null: "key without a value"}[v.Kind]
}

func (l *loader) mapOf(v *Value, what, example string) *Value {
	if v == nil || v.Kind == Null {
		return nil
	}
	if v.Kind != Map {
		l.add(l.f.Problem(v, "wrong-type", fmt.Sprintf("%s is a %s", what, kindName(v)),
			"a map, such as "+example, ""))
		return nil
	}
	return v
}

func (l *loader) listOf(v *Value, what, example string) []*Value {
	if v == nil || v.Kind == Null {
		return nil
	}
	if v.Kind != List {
		l.add(l.f.Problem(v, "wrong-type", fmt.Sprintf("%s is a %s", what, kindName(v)),
			"a list, such as "+example, ""))
		return nil
	}
	return v.Items
}

func has(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

// yes reads a switch.
func (l *loader) yes(v *Value, what string) bool {
	switch t := strings.ToLower(l.text(v, what)); t {
	case "yes", "true", "on":
		return true
	case "", "no", "false", "off":
	default:
		l.add(l.f.Problem(v, "bad-value", fmt.Sprintf("%s cannot be %q", what, t), "yes or no", "yes"))
	}
	return false
}

// ValidName reports whether a page or block may have this name.
func ValidName(s string) bool { return nameForm.MatchString(s) }

var nameForm = regexp.MustCompile(`^[a-z][a-z0-9-]*$`)
