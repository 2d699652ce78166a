package styles

import (
	"fmt"
	"image/color"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

var groundKeys = []string{"color", "gradient", "picture", "focus", "overlay", "inside"}

// ground writes what lies under a block: a color, a gradient or a picture, to the screen edge or inside a lane.
func (c *Writer) ground(w *sheetWriter, b *site.Block) {
	g := b.Ground
	if g == nil {
		return
	}
	bad := func(v *site.Value, rule, text, want, try string) {
		c.AddOnce(b.File.Problem(v, rule, text, want, try))
	}
	told := len(c.Problems)
	for _, e := range g.Entries {
		if !slices.Contains(groundKeys, e.Key) {
			c.AddOnce(b.File.KeyProblem(e, "unknown-key", fmt.Sprintf("a ground has no %q", e.Key),
				"one of "+strings.Join(groundKeys, ", "), diag.Nearest(e.Key, groundKeys)))
		}
	}
	var decls []decl
	for _, kind := range []string{"color", "gradient"} {
		v := g.Get(kind)
		if v == nil {
			continue
		}
		prop := map[string]string{"color": "background-color", "gradient": "background-image"}[kind]
		if p := project.CheckProperty(c.Env, prop, v.Str()); p != nil ||
			kind == "gradient" && !strings.Contains(v.Str(), "gradient(") {
			try := ""
			if p != nil {
				try = p.Try
			}
			bad(v, "bad-value", fmt.Sprintf("%q is no %s", v.Str(), kind),
				map[string]string{"color": `a CSS color or a token such as "{color.surface}"`,
					"gradient": "a CSS gradient such as linear-gradient(to top, ...)"}[kind], try)
			continue
		}
		value, _ := c.tokens(v.Str())
		decls = append(decls, decl{name: prop, value: value, pos: v.Pos})
	}
	if v := g.Get("picture"); v != nil {
		decls = append(decls, c.groundPicture(b, g, v, bad)...)
	}
	if len(decls) == 0 {
		if len(c.Problems) > told {
			return // what stands there instead has been told
		}
		bad(g, "missing-key", "the ground shows nothing", "a color, a gradient or a picture",
			"ground: {picture: dunes.svg}")
		return
	}
	if v := g.Get("inside"); v != nil {
		lane := map[string]string{"wide": "var(--lane-wide)", "body": "var(--lane-body)"}[v.Str()]
		if lane == "" {
			bad(v, "unknown-lane", fmt.Sprintf("a ground cannot stay inside %q", v.Str()), "wide or body", "")
			return
		}
		// to the edge where there is no room beside the lane
		side := "max(0px, (100% - " + lane + ") / 2 - var(--space-gutter) / 2)"
		decls = append(decls, decl{name: "clip-path", value: "inset(0 " + side + " round min(var(--radius-card), " +
			side + "))", pos: v.Pos})
	}
	w.rule("."+c.ClassName(b, ""), decls...)
}

var FocusForm = regexp.MustCompile(`^\s*\d+(\.\d+)?%\s+\d+(\.\d+)?%\s*$`)

// FocusShares reads a focus as shares of the room, its middle when there is none.
func FocusShares(focus string) [2]float64 {
	out := [2]float64{.5, .5}
	if FocusForm.MatchString(focus) {
		for i, f := range strings.Fields(focus) {
			n, _ := strconv.ParseFloat(strings.TrimSuffix(f, "%"), 64)
			out[i] = n / 100
		}
	}
	return out
}

func (c *Writer) groundPicture(b *site.Block, g, v *site.Value,
	bad func(*site.Value, string, string, string, string)) []decl {
	file := v.Str()
	_, _, err := c.Env.PictureSize(file) // it also refuses what cannot be painted in time
	var data []byte
	if err == nil {
		data, err = c.Env.MediaFile(file)
	}
	if err != nil {
		p := c.MissingPicture(b.File, v, file, err)
		p.Rule = "missing-picture"
		c.AddOnce(p)
		return nil
	}
	c.TellMore(b.File, v, file)
	c.Media = AppendOnce(c.Media, file)
	focus := "50% 50%"
	if f := g.Get("focus"); f != nil {
		if !FocusForm.MatchString(f.Str()) {
			bad(f, "bad-value", fmt.Sprintf("%q is no focus", f.Str()),
				"two percentages, from the left and from the top", "30% 60%")
		} else {
			focus = f.Str()
		}
	}
	var covered *Covered
	if c.Measured != nil {
		covered = c.Measured.Grounds[b.Name]
	}
	least, known := leastOverlay(c.Env, c.Tone(b), file, data, covered)
	share := least
	if o := g.Get("overlay"); o != nil && o.Str() != "least" {
		n, err := strconv.Atoi(strings.TrimSuffix(o.Str(), "%"))
		switch {
		case err != nil || n < 0 || n > 100:
			bad(o, "bad-value", fmt.Sprintf("the overlay cannot be %q", o.Str()),
				"least, or a share from 0% to 100%", "least")
		case known && n < least:
			c.AddOnce(problemAs(b.File.Problem(o, "overlay-thin",
				fmt.Sprintf("an overlay of %d %% leaves text hard to read on %s", n, file),
				fmt.Sprintf("%d %% or more, or least", least), "overlay: least"), diag.Warning))
			share = n
		default:
			share = n
		}
	}
	veil := fmt.Sprintf("color-mix(in srgb, var(--ground) %d%%, transparent)", share)
	return []decl{{name: "background-image", value: fmt.Sprintf("linear-gradient(%s, %s), url(%q)", veil, veil,
		"media/"+file), pos: v.Pos}, {name: "background-size", value: "cover"},
		{name: "background-position", value: focus}}
}

// HasGroundPicture reports a block that lies on a picture with the least overlay.
func HasGroundPicture(b *site.Block) (file, focus string, ok bool) {
	g := b.Ground
	if o := g.Get("overlay").Str(); g.Get("picture").Str() == "" || o != "" && o != "least" {
		return "", "", false
	}
	return g.Get("picture").Str(), g.Get("focus").Str(), true
}

// leastOverlay gives the smallest share of a tone's ground, percent, that lies over a picture and keeps every text of
// the tone readable (WCAG 2.2 1.4.3, 4.5 to 1), in both color schemes: where texts lie over it, or anywhere when
// covered is nil. known is false when the colors of the picture cannot be seen; then it is 70.
func leastOverlay(e *project.Project, tone, file string, data []byte, covered *Covered) (share int, known bool) {
	light, dark := underneath(e, file, data, false, covered), underneath(e, file, data, true, covered)
	if len(light) == 0 {
		return 70, false
	}
	share = sort.Search(100, func(n int) bool { // what a veil leaves readable, a thicker one does
		return readable(e, tone, light, false, float64(n)/100) && readable(e, tone, dark, true, float64(n)/100)
	})
	return share, true
}

// underneath lists the colors of a picture that may lie under text.
func underneath(e *project.Project, file string, data []byte, dark bool, covered *Covered) []css.Color {
	cells := e.Looks.Look(file, data, dark)
	var out []css.Color
	switch {
	case cells == nil && media.IsSVG(file):
		return css.Colors(media.SVGColors(data)) // nobody can tell where they lie
	case cells == nil:
		return nil
	}
	have := map[color.NRGBA]bool{}
	for i, cell := range cells.Cells {
		x, y := i%cells.Columns*CoverCells/cells.Columns, i/cells.Columns*CoverCells/cells.Rows
		if (covered == nil || covered[y*CoverCells+x]) && !have[cell] {
			have[cell] = true
			out = append(out, css.FromNRGBA(cell))
		}
	}
	if len(out) == 0 { // no text lies over it: any of its cells will do
		out = append(out, css.FromNRGBA(cells.Cells[0]))
	}
	return out
}

// readable reports whether ink, soft text and accents of a tone stand out from all these colors under a veil of the
// ground.
func readable(e *project.Project, tone string, under []css.Color, dark bool, share float64) bool {
	get := func(role string) (css.Color, bool) {
		return css.ParseColor(css.Tokenize(e.Theme.Color(tone, role, dark)), css.ColorContext{Dark: dark})
	}
	ground, ok := get("ground")
	if !ok {
		return true
	}
	veil := ground
	veil.A = share
	for _, role := range []string{"ink", "soft", "accent"} {
		text, ok := get(role)
		if !ok {
			continue
		}
		for _, u := range under {
			if css.Contrast(text, veil.Over(u.Over(ground))) < theme.LeastContrast {
				return false
			}
		}
	}
	return true
}
