package check

import (
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// cause finds the declaration to blame, by the property named, else by the usual suspects.
func cause(l *sweep.Prepared, r *layout.Result, h hit) diag.Place {
	var style *css.Style
	var styled *css.Element
	from := h.el
	if h.blamed != nil {
		from = h.blamed
	}
	for x := from; x != nil && style == nil; x = x.Parent {
		if p := r.Of(x); p != nil {
			style, styled = p.Style, x
		}
	}
	if style == nil {
		return diag.Place{}
	}
	for _, prop := range []string{h.cause, "text-wrap-mode", "width", "min-width", "height", "max-height",
		"overflow-x", "margin-top", "grid-template-columns", "flex-wrap", "font-size", "letter-spacing",
		"padding-left", "display"} {
		if prop == "" {
			continue
		}
		if pos, ok := l.Origin(styled, style, prop); ok {
			return diag.Place{Position: pos}
		}
	}
	return diag.Place{}
}
