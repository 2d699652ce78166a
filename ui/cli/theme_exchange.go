package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/font"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// faces are the roles of fonts in a theme: the token of the family, and that of the weight.
var faces = map[string][2]string{"display": {"face.display", "weight.display"}, "body": {"face.body", "weight.body"}}

// heavyFont is a size, bytes, from which a font file is worth another look.
const heavyFont = 150 << 10

// adoptFont takes a font file into the site and lets the theme's texts use it.
func (a *app) adoptFont(dry bool, file, role string) error {
	roles := []string{"display", "body"}
	if role != "" {
		if !site.ValidName(role) {
			return fmt.Errorf("%q cannot be the name of a face: small letters, digits and hyphens, beginning with a letter", role)
		}
		roles = []string{role}
	}
	data, err := site.ReadRegular(file)
	if err != nil {
		return fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	about, err := font.Describe(data)
	if err != nil || about.Family == "" {
		return fmt.Errorf("read %s: this is no font file that browsers load (woff2, woff, ttf, otf): %w", file,
			orUnnamed(err))
	}
	ext := strings.ToLower(filepath.Ext(file))
	if ext != ".woff2" && ext != ".woff" && ext != ".ttf" && ext != ".otf" {
		return fmt.Errorf("%s: name the file .woff2, .woff, .ttf or .otf", file)
	}
	weights := fmt.Sprint(about.Weight)
	if about.Weight2 > about.Weight {
		weights = fmt.Sprintf("%d-%d", about.Weight, about.Weight2)
	}
	name := media.Slug(about.Family) + "-" + weights
	if about.Italic {
		name += "-italic"
	}
	name += ext
	e, _, err := a.open()
	if err != nil {
		return err
	}
	taken := site.FileChange{Path: "media/fonts/" + name, After: string(data)}
	old, err := site.ReadIn(e.Site.Dir, taken.Path)
	if taken.Before, taken.New = string(old), errors.Is(err, fs.ErrNotExist); err != nil && !taken.New {
		return fmt.Errorf("read %s: %w", taken.Path, diag.Bare(err))
	}
	done := fmt.Sprintf("took %s %s for %s: media/fonts/%s (%d kB)", about.Family, weights,
		strings.Join(roles, " and "), name, (len(data)+512)/1024)
	if _, shipped := faces[role]; role != "" && !shipped {
		done += fmt.Sprintf("; \"{face.%s}\" names it in styles", role)
	}
	if len(data) > heavyFont {
		done += "; that is heavy for a page: a subset of its letters as woff2 is often a tenth"
	}
	return a.changeTheme(dry, func(t *edit.TokenFiles) error {
		for _, r := range roles {
			names, shipped := faces[r]
			if !shipped { // a face beside those of the theme
				names[0] = "face." + r
			}
			stack := "sans-serif"
			if lower := strings.ToLower(about.Family); strings.Contains(lower, "serif") &&
				!strings.Contains(lower, "sans") {
				stack = "serif"
			} else if old, ok := t.Env.Theme.Token(names[0]); ok && strings.HasSuffix(old.Value, " serif") {
				stack = "serif"
			}
			edit.SetToken(t.Light, names[0], []any{about.Family, stack})
			own, _ := t.Env.Theme.Token(names[1])
			if about.Weight == about.Weight2 && !about.Italic && own.Value != fmt.Sprint(about.Weight) &&
				r == "display" {
				edit.SetToken(t.Light, names[1], about.Weight)
			}
		}
		return nil
	}, done, taken)
}

func orUnnamed(err error) error {
	if err == nil {
		return errors.New("it does not say what its family is called")
	}
	return err
}

// importTokens merges the tokens of a file into the site's.
func (a *app) importTokens(dry bool, file string, dark bool) error {
	data, err := site.ReadRegular(file)
	if err != nil {
		return fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	var taken, takenDark theme.Taken
	var left []string
	same := 0
	err = a.changeTheme(dry, func(t *edit.TokenFiles) error {
		light, forDark := map[string]any{}, map[string]any{}
		switch ext := strings.ToLower(filepath.Ext(file)); {
		case ext == ".css":
			light, forDark, same, left = t.Env.Theme.FromCSS(string(data))
			if len(light)+len(forDark)+same+len(left) == 0 {
				return fmt.Errorf("%s: there are no custom properties in it; expected lines such as --color-plain-accent: #1f6b4f;", file)
			}
		case dark:
			if err := theme.Decode(file, data, &forDark); err != nil {
				return err
			}
		default:
			if err := theme.Decode(file, data, &light); err != nil {
				return err
			}
		}
		var err error
		if taken, err = theme.Merge(t.Light, light); err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		if takenDark, err = theme.Merge(t.Dark, forDark); err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		return nil
	}, "took the tokens of "+file)
	if err != nil {
		return err
	}
	changed, added := len(taken.Changed)+len(takenDark.Changed), append(taken.Added, takenDark.Added...)
	a.say("%s, %d new, %d as before", diag.Plural(changed, "token")+" changed", len(added),
		same+taken.Same+takenDark.Same)
	if len(added) > 0 {
		a.say("%s", a.style.Wrap("new, and free for styles in braces: "+strings.Join(added, ", "), 2))
	}
	for _, l := range left {
		a.say("left out: %s", l)
	}
	return nil
}

// exportTokens writes the tokens of the site's theme.
func (a *app) exportTokens(file, as string) error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	if as == "" {
		as = "json"
		if strings.ToLower(filepath.Ext(file)) == ".css" {
			as = "css"
		}
	}
	t, err := edit.ReadTokenFiles(e, e.Site.Dir)
	if err != nil {
		return err
	}
	out := map[string][]byte{}
	switch as {
	case "css":
		out[file] = []byte(e.Theme.Stylesheet())
	case "json":
		for _, x := range []struct {
			name string
			v    map[string]any
		}{{darkName(file), t.Dark}, {file, t.Light}} { // standard output gets the light ones
			if len(x.v) == 0 {
				continue
			}
			data, err := json.MarshalIndent(x.v, "", "  ")
			if err != nil {
				return err
			}
			out[x.name] = append(data, '\n')
		}
	default:
		return diag.Unknown("format", as, []string{"json", "css"}, "")
	}
	if file == "" {
		_, err := a.out.Write(out[""])
		return err
	}
	a.overwrite = a.anyway
	for name := range out {
		if err := a.mayWrite(name); err != nil {
			return err
		}
	}
	for name, data := range out {
		if err := a.save(name, data); err != nil {
			return err
		}
	}
	a.say("wrote %s", file)
	if _, both := out[darkName(file)]; both && as == "json" {
		a.say("wrote %s, for dark screens", darkName(file))
	}
	return nil
}

// darkName gives the file of dark tokens beside another: theme.tokens.json, theme.dark.tokens.json.
func darkName(file string) string {
	if file == "" {
		return ""
	}
	for _, ext := range []string{".tokens.json", ".json"} {
		if stem, ok := strings.CutSuffix(file, ext); ok {
			return stem + ".dark" + ext
		}
	}
	return file + ".dark"
}
