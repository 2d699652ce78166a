package edit

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/former"
	"ziegel/core/naming"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

const (
	TokensFile     = "theme.tokens.json"
	darkTokensFile = "theme.dark.tokens.json"
)

// SwitchTheme makes another shipped theme the site's.
func SwitchTheme(p *Plan, name string) error {
	if names := project.Themes(p.Env.Stock); !slices.Contains(names, name) {
		return diag.Unknown("theme", name, names, "")
	}
	if _, err := fs.Stat(p.Env.Dir, TokensFile); err == nil {
		return fmt.Errorf(
			"the site has a %s of its own, which goes before any shipped theme: take it away first (undo can bring it back)",
			TokensFile,
		)
	}
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("theme"), Value: site.NewText(name)})
	p.Done = "switched to the theme " + name
	p.touchAll()
	return nil
}

// TokenFiles are the token files of a site, or those of its shipped theme, as JSON. What they do not know stays.
type TokenFiles struct {
	Light, Dark map[string]any
	Env         *project.Project
	darkToo     bool
}

// ReadTokenFiles reads the token files of a site, or those of its shipped theme.
func ReadTokenFiles(e *project.Project, dir string) (*TokenFiles, error) {
	read := func(name string) (map[string]any, error) {
		data, err := site.ReadIn(dir, name)
		if errors.Is(err, fs.ErrNotExist) {
			data, err = fs.ReadFile(e.Stock, "themes/"+e.Theme.Name+"/"+name)
		}
		if err != nil {
			return nil, err
		}
		out := map[string]any{}
		return out, json.Unmarshal(former.Tokens(data), &out)
	}
	light, err := read(TokensFile)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", TokensFile, err)
	}
	dark, err := read(darkTokensFile)
	if err != nil {
		dark = map[string]any{}
	}
	return &TokenFiles{Light: light, Dark: dark, Env: e}, nil
}

// inTones lists the tokens behind a color that follows the ground: color.plain.ink for color.ink.
func (t *TokenFiles) inTones(name string) []string {
	role, ok := strings.CutPrefix(name, "color.")
	var out []string
	for _, n := range t.Env.Theme.Names() {
		tone, _ := strings.CutSuffix(n, "."+role)
		k, found := t.Env.Theme.Token(n)
		isSibling := ok && found && k.Type == "color" && tone != n &&
			strings.Count(n, ".") == strings.Count(name, ".")+1
		if isSibling {
			out = append(out, n)
		}
	}
	return out
}

// Set changes single tokens.
func (t *TokenFiles) Set(args []string) error {
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	for _, kv := range list {
		kv[0] = former.Token(kv[0])
		if name, ok := strings.CutPrefix(kv[0], theme.TreatmentGroup); ok {
			if err := t.setTreatment(name, kv[1]); err != nil {
				return err
			}
			continue
		}
		k, ok := t.Env.Theme.Token(kv[0])
		if !ok || k.Type == "" || strings.HasPrefix(k.Value, "var(") {
			if tones := t.inTones(kv[0]); len(tones) > 0 {
				return fmt.Errorf("%s is another color on each ground: set %s", kv[0], strings.Join(tones, ", "))
			}
			return diag.Unknown("token", kv[0], t.Env.Theme.Names(), "")
		}
		v, err := theme.ParseToken(k.Type, kv[1])
		if err != nil {
			return fmt.Errorf("%s: %w", kv[0], err)
		}
		SetToken(t.Light, kv[0], v)
	}
	return nil
}

// setTreatment chooses a treatment, one that the theme decides or not.
func (t *TokenFiles) setTreatment(name, value string) error {
	choices := project.TreatmentChoices(t.Env.Stock, name)
	if choices == nil {
		return diag.Unknown("treatment", name, project.TreatmentNames(t.Env.Stock), "")
	}
	if !slices.Contains(choices, value) {
		return diag.Unknown("choice for treatment."+name, value, choices, "")
	}
	SetToken(t.Light, theme.TreatmentGroup+name, value)
	if group, ok := t.Light[strings.TrimSuffix(theme.TreatmentGroup, ".")].(map[string]any); ok {
		group["$type"] = theme.Treatment
	}
	return nil
}

// SetToken gives a token one value for all widths; what else is known of it stays.
func SetToken(at map[string]any, name string, value any) {
	steps := strings.Split(name, ".")
	for _, s := range steps[:len(steps)-1] {
		next, ok := at[s].(map[string]any)
		if !ok {
			next = map[string]any{}
			at[s] = next
		}
		at = next
	}
	token, ok := at[steps[len(steps)-1]].(map[string]any)
	if !ok {
		token = map[string]any{}
		at[steps[len(steps)-1]] = token
	}
	token["$value"] = value
	if ext, ok := token["$extensions"].(map[string]any); ok {
		delete(ext, "ziegel")
		if len(ext) == 0 {
			delete(token, "$extensions")
		}
	}
}

// Derive replaces all colors.
func (t *TokenFiles) Derive(color, neutral string) error {
	for _, dark := range []bool{false, true} {
		p, err := theme.Derive(color, neutral, dark)
		if err != nil {
			return err
		}
		data, err := p.JSON()
		if err != nil {
			return err
		}
		var group map[string]any
		if err := json.Unmarshal(data, &group); err != nil {
			return err
		}
		if dark {
			t.Dark["color"] = group
		} else {
			t.Light["color"] = group
		}
	}
	t.darkToo = true
	delete(t.Light, "picture") // pictures follow from the colors
	delete(t.Dark, "picture")
	return nil
}

// Tokens writes the site's own token files, and other files with them, and tells what changed for its texts. Colors
// with which some text can no longer be read are refused unless anyway is said.
func Tokens(p *Plan, edit func(t *TokenFiles) error, done string, anyway bool, with ...site.FileChange) error {
	t, err := ReadTokenFiles(p.Env, p.dir)
	if err != nil {
		return err
	}
	if err := edit(t); err != nil {
		return err
	}
	for _, f := range with {
		if f.New || f.Before != f.After {
			p.files = append(p.files, f)
		}
	}
	if err := t.write(p); err != nil {
		return err
	}
	if !anyway {
		if err := refuseUnreadable(p.Env, p.files); err != nil {
			return err
		}
	}
	p.Done = done
	texts := textLooks(p.Env)
	p.After = append(p.After, func(after *project.Project) []string {
		return append(changedTexts(texts, textLooks(after)), NotesOf(after.Theme)...)
	})
	p.touchAll()
	return nil
}

// write has the plan write the files, those that differ from what lies there.
func (t *TokenFiles) write(p *Plan) error {
	for _, f := range []struct {
		name string
		v    map[string]any
	}{{TokensFile, t.Light}, {darkTokensFile, t.Dark}} {
		old, err := site.ReadIn(p.dir, f.name)
		data, merr := json.MarshalIndent(f.v, "", "  ")
		if merr != nil {
			return merr
		}
		if len(f.v) > 0 && string(old) != string(data)+"\n" {
			p.files = append(p.files, site.FileChange{Path: f.name, Before: string(old), After: string(data) + "\n",
				New: err != nil})
		}
	}
	return nil
}

// refuseUnreadable refuses token files with which some text of a tone can no longer be read.
func refuseUnreadable(before *project.Project, files []site.FileChange) error {
	after, _, err := before.With(files)
	if err != nil {
		return nil // what is wrong with them is told by the change itself
	}
	known := map[string]bool{}
	for _, p := range before.Theme.Unreadable() {
		known[p.String()] = true
	}
	var lines []string
	for _, p := range after.Theme.Unreadable() {
		if known[p.String()] {
			continue
		}
		line := p.String()
		if c := after.Theme.Readable(p); c != "" {
			line += fmt.Sprintf("; %s=%s does", p.Token(), c)
		}
		lines = append(lines, line)
	}
	if len(lines) == 0 {
		return nil
	}
	return errors.New(strings.Join(lines, "\n") +
		"\nnothing was written: change these colors together, or say --force")
}

// NotesOf tells what could be better in the colors of a theme.
func NotesOf(t *theme.Theme) []string {
	var out []string
	for _, n := range t.Notes(TokensFile) {
		line := fmt.Sprintf("%s: %s", n.Severity, n.Text)
		if n.Try != "" {
			line += "; try " + n.Try
		}
		out = append(out, line)
	}
	return out
}

// textLook is how a text is set: its lines at three widths and its contrast there.
type textLook struct {
	lines    [3]int
	contrast float64
}

// textLooks looks at every text of a site.
func textLooks(e *project.Project) map[string]textLook {
	out := map[string]textLook{}
	for _, page := range e.Site.Pages() {
		s, err := check.Lay(e, page, nil)
		if err != nil {
			continue
		}
		engine := s.Prepared.Engine()
		for i, w := range []int{390, 820, 1280} {
			r := engine.Layout(w)
			ratios := check.Contrasts(s.Prepared, r)
			for k := range r.Boxes {
				p := &r.Boxes[k]
				if p.Lines == 0 {
					continue
				}
				name := page.Name + ": " + naming.Of(s.Prepared, p.Element)
				look := out[name]
				look.lines[i] = p.Lines
				if c, ok := ratios[p.Element]; ok {
					look.contrast = c
				}
				out[name] = look
			}
		}
	}
	return out
}

func changedTexts(was, now map[string]textLook) []string {
	var out []string
	for _, name := range slices.Sorted(func(yield func(string) bool) {
		for k := range now {
			if !yield(k) {
				return
			}
		}
	}) {
		a, b := was[name], now[name]
		var parts []string
		for i, w := range []int{390, 820, 1280} {
			if a.lines[i] != b.lines[i] && a.lines[i] > 0 && b.lines[i] > 0 {
				parts = append(parts, fmt.Sprintf("%d lines at %d (was %d)", b.lines[i], w, a.lines[i]))
			}
		}
		if d := a.contrast - b.contrast; d > .05 || d < -.05 {
			parts = append(parts, fmt.Sprintf("contrast %.1f (was %.1f)", b.contrast, a.contrast))
		}
		if len(parts) > 0 {
			out = append(out, name+": "+strings.Join(parts, ", "))
		}
	}
	return out
}
