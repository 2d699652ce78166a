package theme

import (
	"fmt"
	"strconv"
	"strings"
)

// ParseToken turns what somebody typed into the value of a token of some type, as DTCG writes it.
func ParseToken(kind, typed string) (any, error) {
	typed = strings.TrimSpace(typed)
	if strings.HasPrefix(typed, "{") && strings.HasSuffix(typed, "}") { // an alias
		return typed, nil
	}
	switch kind {
	case "color":
		if !hexForm.MatchString(typed) {
			return nil, fmt.Errorf("%q is no color: write #rrggbb, or {another.token}", typed)
		}
		return ColorValue(strings.ToLower(typed)), nil
	case "dimension", "duration":
		m := lengthForm.FindStringSubmatch(typed)
		if m == nil || (kind == "duration") != strings.HasSuffix(m[2], "s") {
			return nil, fmt.Errorf("%q is no %s: write a number with its unit, such as %s", typed, kind,
				map[string]string{"dimension": "1.5rem", "duration": "160ms"}[kind])
		}
		n, err := strconv.ParseFloat(m[1], 64)
		return map[string]any{"value": n, "unit": m[2]}, err
	case "number", "fontWeight":
		n, err := strconv.ParseFloat(typed, 64)
		if err != nil {
			return nil, fmt.Errorf("%q is no number", typed)
		}
		return n, nil
	case Treatment:
		if !wordForm.MatchString(typed) {
			return nil, fmt.Errorf("%q is no treatment: write one word", typed)
		}
		return typed, nil
	case "fontFamily":
		var list []string
		for _, f := range strings.Split(typed, ",") {
			list = append(list, strings.Trim(strings.TrimSpace(f), `"'`))
		}
		return list, nil
	}
	return nil, fmt.Errorf("tokens of the type %s are changed in theme.tokens.json", kind)
}
