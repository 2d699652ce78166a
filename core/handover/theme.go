package handover

import (
	"fmt"
	"strings"

	"ziegel/core/css"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/project"
	"ziegel/core/theme"
)

func themeOf(e *project.Project, files map[string][]byte) (*Theme, error) {
	t := e.Theme
	out := &Theme{Name: t.Name, About: t.Description, Files: []string{"tokens/theme.css"}}
	files["tokens/theme.css"] = []byte(t.Stylesheet())
	for i, name := range []string{"theme.tokens.json", "theme.dark.tokens.json"} {
		if data := t.Sources()[i]; len(data) > 0 {
			files["tokens/"+name] = data
			out.Files = append(out.Files, "tokens/"+name)
		}
	}
	for _, tone := range theme.Tones {
		one := Tone{Name: tone}
		ground := "color." + tone + ".ground"
		g, _ := t.Token(ground)
		for _, role := range theme.Roles {
			k, ok := t.Token("color." + tone + "." + role)
			if !ok {
				continue
			}
			c := Color{Role: role, Token: k.Name, Property: theme.Property(k.Name), Light: k.Value, Dark: k.Dark}
			on := g
			if role == "accent-ink" { // it stands on the accent
				on, _ = t.Token("color." + tone + ".accent")
			}
			if role != "ground" && role != "surface" && role != "line" {
				c.Contrast = theme.ContrastOf(on.Value, k.Value)
				c.InDark = theme.ContrastOf(orElse(on.Dark, on.Value), orElse(k.Dark, k.Value))
			}
			one.Colors = append(one.Colors, c)
		}
		out.Tones = append(out.Tones, one)
	}
	var err error
	if out.Type, err = typeStyles(e); err != nil {
		return nil, err
	}
	px, err := lengths(e)
	if err != nil {
		return nil, err
	}
	for _, k := range t.Tokens {
		group, _, _ := strings.Cut(k.Name, ".")
		l := Length{Token: k.Name, Property: theme.Property(k.Name), CSS: k.Value, Px: px[k.Name]}
		switch {
		case group == "color":
		case group == "type":
		case group == "space" && len(l.Px) > 0:
			out.Spaces = append(out.Spaces, l)
		case group == "radius" && len(l.Px) > 0:
			out.Radii = append(out.Radii, l)
		case group == "lane" && len(l.Px) > 0:
			out.Lanes = append(out.Lanes, l)
		case group == "face":
			out.Faces = append(out.Faces, Value{k.Name, theme.Property(k.Name), k.Value, "face"})
		case group != "picture":
			out.Others = append(out.Others, Value{k.Name, theme.Property(k.Name), k.Value, k.Type})
		}
	}
	return out, nil
}

func orElse(a, b string) string {
	if a == "" {
		return b
	}
	return a
}

// typeStyles lays a line in every style of type out, and reads what the styles give it.
func typeStyles(e *project.Project) ([]TypeStyle, error) {
	var b strings.Builder
	b.WriteString("<!doctype html><style>" + e.Theme.CSS() + e.Base + "</style>")
	var out []TypeStyle
	for _, k := range e.Theme.Tokens {
		name, ok := strings.CutPrefix(k.Name, "type.")
		if !ok {
			continue
		}
		out = append(out, TypeStyle{Length: Length{Token: k.Name, Property: theme.Property(k.Name), CSS: k.Value}})
		fmt.Fprintf(&b, `<p class="type-%s">x</p>`, name)
	}
	doc, err := css.Load(css.Source{File: "type", HTML: b.String()})
	if err != nil {
		return nil, err
	}
	fonts, err := draw.SheetFonts(e.Stock)
	if err != nil {
		return nil, err
	}
	engine := layout.New(doc, layout.Options{Fonts: fonts})
	for _, w := range Widths {
		r := engine.Layout(w)
		i := 0
		for _, k := range doc.Body.Kids() {
			at := r.ByIndex[k.Index]
			if k.Tag != "p" || at < 0 || i == len(out) {
				continue
			}
			s := r.Boxes[at].Style
			t := &out[i]
			t.Px = append(t.Px, s.FontSize)
			t.Weight = fmt.Sprintf("%.0f", s.FontWeight)
			t.LineHeight = "normal"
			switch {
			case s.LineHeight.Length && s.FontSize > 0:
				t.LineHeight = fmt.Sprintf("%.4g", s.LineHeight.Px/s.FontSize)
			case !s.LineHeight.Normal:
				t.LineHeight = fmt.Sprintf("%.4g", s.LineHeight.Number)
			}
			if len(s.FontFamily) > 0 {
				t.Face = s.FontFamily[0]
			}
			i++
		}
	}
	return out, nil
}

// lengths lays every token of a length out as the width of a box, at each of Widths.
func lengths(e *project.Project) (map[string][]float64, error) {
	var b strings.Builder
	b.WriteString("<!doctype html><style>" + e.Theme.CSS() + "body{margin:0}div{max-width:none}</style>")
	var names []string
	for _, k := range e.Theme.Tokens {
		switch group, _, _ := strings.Cut(k.Name, "."); group {
		case "space", "radius", "lane":
			names = append(names, k.Name)
			fmt.Fprintf(&b, `<div style="width:var(%s)"></div>`, theme.Property(k.Name))
		}
	}
	doc, err := css.Load(css.Source{File: "tokens", HTML: b.String()})
	if err != nil {
		return nil, err
	}
	fonts, err := draw.SheetFonts(e.Stock)
	if err != nil {
		return nil, err
	}
	engine := layout.New(doc, layout.Options{Fonts: fonts})
	out := map[string][]float64{}
	for _, w := range Widths {
		r := engine.Layout(w)
		i := 0
		for _, k := range doc.Body.Kids() {
			if at := r.ByIndex[k.Index]; at >= 0 && k.Tag == "div" && i < len(names) {
				out[names[i]] = append(out[names[i]], r.Boxes[at].W.Float())
				i++
			}
		}
	}
	return out, nil
}
