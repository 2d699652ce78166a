package compose

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/site"
	"ziegel/core/theme"
)

func (f *filler) flag(n *html.Node, name string, sc scope) {
	if !sc.entry {
		return
	}
	v := sc.value.Get(name)
	markup.RemoveClass(n, name)
	switch strings.ToLower(v.Str()) {
	case "", "no", "false", "off":
	case "yes", "true", "on":
		markup.AddClass(n, name)
	default:
		f.c.AddOnce(f.file(v).Problem(v, "bad-value", fmt.Sprintf("%s cannot be %q", name, v.Str()),
			"yes or no", "yes"))
	}
}

// tone gives one entry a ground of its own.
func (f *filler) tone(n *html.Node, v *site.Value) {
	if v.Empty() {
		return
	}
	if !slices.Contains(theme.Tones, v.Str()) {
		f.c.AddOnce(f.file(v).Problem(v, "unknown-tone", fmt.Sprintf("there is no tone %q", v.Str()),
			"one of "+strings.Join(theme.Tones, ", "), diag.Nearest(v.Str(), theme.Tones)))
		return
	}
	markup.AddClass(n, "toned")
	markup.AddClass(n, "tone-"+v.Str())
}
