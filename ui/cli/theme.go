package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/site"
	"ziegel/core/theme"
	"ziegel/stock"
)

const (
	tokensFile     = "theme.tokens.json"
	darkTokensFile = "theme.dark.tokens.json"
)

func (a *app) themeCmd() *cobra.Command {
	var neutral, face, as string
	var dry, dark bool
	cmd := &cobra.Command{
		Use:   "theme [NAME | TOKEN=VALUE... | from COLOR | font FILE | import FILE | export [FILE]]",
		Short: "See, switch and change the theme; a palette from a color, fonts, tokens in and out",
		Long: `Theme shows the tokens of the site's theme: colors with their contrast, type, space.
A name switches to a shipped theme. TOKEN=VALUE changes one token: the site gets
a theme.tokens.json of its own, and every text whose contrast or lines change is told.
"from COLOR" derives all colors, light and dark, from one; every text can be read.
"font FILE" takes a font of the brand: the file goes to media/fonts, and until it has
come readers see one of their own fonts, scaled to the same widths and heights.
"import FILE" takes tokens from a DTCG file (.json) or from custom properties (.css),
"export FILE" writes them. What Ziegel does not know in a token file stays in it.`,
		Example: `  # what there is, and what this site has
  ziegel theme --list
  ziegel theme

  # another one
  ziegel theme tideline

  # one token; all colors from the brand's
  ziegel theme color.plain.accent=#1f6b4f space.section=6rem
  ziegel theme from "#1f6b4f" --neutral "#8a6f4a"

  # the brand's font for headings, and its tokens
  ziegel theme font Marlow-Bold.woff2 --for display

  # another face beside those of the theme: font-family={face.quote} uses it
  ziegel theme font Marlow-Italic.woff2 --for quote
  ziegel theme import brand.tokens.json
  ziegel theme export tokens.css`,
		RunE: func(cmd *cobra.Command, args []string) error {
			list, _ := cmd.Flags().GetBool("list")
			switch {
			case list:
				return a.listThemes()
			case len(args) == 0:
				return a.showTheme()
			case args[0] == "from" && len(args) == 2:
				return a.changeTheme(dry, func(t *tokenFiles) error { return t.derive(args[1], neutral) }, "derived all colors from "+args[1])
			case args[0] == "font" && len(args) == 2:
				return a.adoptFont(dry, args[1], face)
			case args[0] == "import" && len(args) == 2:
				return a.importTokens(dry, args[1], dark)
			case args[0] == "export" && len(args) <= 2:
				return a.exportTokens(append(args, "")[1], as)
			case args[0] == "font" || args[0] == "import":
				return fmt.Errorf("which file? write ziegel theme %s FILE", args[0])
			case args[0] == "from":
				return errors.New("from which color? write ziegel theme from \"#1f6b4f\"")
			case strings.Contains(args[0], "="):
				return a.changeTheme(dry, func(t *tokenFiles) error { return t.set(args) }, "changed "+strings.Join(args, ", "))
			case len(args) == 1:
				return a.change(dry, func(p *plan) error { return switchTheme(p, args[0]) })
			}
			return errors.New("write a theme's name, TOKEN=VALUE, or from COLOR")
		},
	}
	cmd.Flags().Bool("list", false, "the shipped themes")
	cmd.Flags().StringVar(&face, "for", "", "with font: display, body, or a name of your own; display and body when left out")
	cmd.Flags().StringVar(&as, "as", "", "with export: json or css; by the file's name when left out")
	cmd.Flags().BoolVar(&dark, "dark", false, "with import of a .json file: tokens of dark screens")
	cmd.Flags().StringVar(&neutral, "neutral", "", "with from: the color whose hue grounds and inks take")
	cmd.Flags().BoolVar(&a.anyway, "force", false, "also take colors in which some text cannot be read; with export: write over a file that is no output")
	dryRunFlag(cmd, &dry)
	return a.jsonFlag(cmd)
}

func (a *app) listThemes() error {
	for _, n := range compose.Themes(stock.Files) {
		t, err := theme.Load(n, stock.Files, "themes/"+n)
		if err != nil {
			return err
		}
		_, about, _ := strings.Cut(t.Description, ": ")
		a.say("%s", a.style.Wrap(fmt.Sprintf("%-12s %s", n, about), 13))
	}
	return nil
}

// shownPairs are those of theme.TextPairs that the table shows: the hardest of each text.
var shownPairs = [][2]string{{"ink", "ground"}, {"soft", "ground"}, {"accent", "ground"}, {"soft", "surface"}, {"on-accent", "accent"}}

// showTheme prints swatches, contrast and type.
func (a *app) showTheme() error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	t := e.Theme
	if a.json {
		tokens := map[string]any{}
		for _, k := range t.Tokens {
			m := map[string]string{"type": k.Type, "value": k.Value}
			if k.Dark != "" {
				m["dark"] = k.Dark
			}
			tokens[k.Name] = m
		}
		return a.writeJSON(map[string]any{"theme": t.Name, "description": t.Description, "tokens": tokens})
	}
	a.say("%s  %s", a.style.Bold(t.Name), t.Description)
	for _, dark := range []bool{false, true} {
		get := func(tone, role string) string { return t.Color(tone, role, dark) }
		if dark {
			a.say("\nwhere dark colors are asked for")
		} else {
			a.say("\ncolors: each text on what it stands on, with its contrast (4.5 is the least)")
		}
		for _, tone := range theme.Tones {
			line := fmt.Sprintf("  %-8s", tone)
			for _, p := range shownPairs {
				line += fmt.Sprintf(" %s %s %.1f", a.style.Swatch(get(tone, p[0]), get(tone, p[1]), " Aa "), p[0], theme.ContrastOf(get(tone, p[0]), get(tone, p[1])))
			}
			a.say("%s", line)
		}
	}
	groups := map[string][]string{}
	var order []string
	for _, k := range t.Tokens {
		g, _, _ := strings.Cut(k.Name, ".")
		if g == "color" {
			continue
		}
		if groups[g] == nil {
			order = append(order, g)
		}
		groups[g] = append(groups[g], fmt.Sprintf("  %-18s %s", strings.TrimPrefix(k.Name, g+"."), k.Value))
	}
	for _, g := range order {
		a.say("\n%s", g)
		for _, l := range groups[g] {
			a.say("%s", l)
		}
	}
	for _, n := range themeNotes(t) {
		a.say("%s", a.style.Wrap(n, 6))
	}
	return nil
}

// switchTheme makes another shipped theme the site's.
func switchTheme(p *plan, name string) error {
	if names := compose.Themes(p.env.Stock); !slices.Contains(names, name) {
		return diag.Unknown("theme", name, names, "")
	}
	if _, err := fs.Stat(p.env.Dir, tokensFile); err == nil {
		return fmt.Errorf("the site has a %s of its own, which goes before any shipped theme: take it away first (undo can bring it back)", tokensFile)
	}
	p.edit(site.FileName, site.Edit{Op: site.Set, Path: site.Keys("theme"), Value: site.NewText(name)})
	p.done = "switched to the theme " + name
	p.touchAll()
	return nil
}

// tokenFiles are the token files of a site, or those of its shipped theme, as JSON. What they do not know stays.
type tokenFiles struct {
	light, dark map[string]any
	env         *compose.Env
	darkToo     bool
}

func readTokenFiles(e *compose.Env, dir string) (*tokenFiles, error) {
	read := func(name string) (map[string]any, error) {
		data, err := site.ReadIn(dir, name)
		if errors.Is(err, fs.ErrNotExist) {
			data, err = fs.ReadFile(e.Stock, "themes/"+e.Theme.Name+"/"+name)
		}
		if err != nil {
			return nil, err
		}
		out := map[string]any{}
		return out, json.Unmarshal(data, &out)
	}
	light, err := read(tokensFile)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", tokensFile, err)
	}
	dark, err := read(darkTokensFile)
	if err != nil {
		dark = map[string]any{}
	}
	return &tokenFiles{light: light, dark: dark, env: e}, nil
}

// set changes single tokens.
func (t *tokenFiles) set(args []string) error {
	list, err := address.Pairs(args)
	if err != nil {
		return err
	}
	for _, kv := range list {
		k, ok := t.env.Theme.Token(kv[0])
		if !ok || k.Type == "" || strings.HasPrefix(k.Value, "var(") {
			return diag.Unknown("token", kv[0], t.env.Theme.Names(), "")
		}
		v, err := theme.ParseToken(k.Type, kv[1])
		if err != nil {
			return fmt.Errorf("%s: %w", kv[0], err)
		}
		setToken(t.light, kv[0], v)
	}
	return nil
}

// setToken gives a token one value for all widths; what else is known of it stays.
func setToken(at map[string]any, name string, value any) {
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

// derive replaces all colors.
func (t *tokenFiles) derive(color, neutral string) error {
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
			t.dark["color"] = group
		} else {
			t.light["color"] = group
		}
	}
	t.darkToo = true
	delete(t.light, "picture") // pictures follow from the colors
	delete(t.dark, "picture")
	return nil
}

// changeTheme writes the site's own token files and tells what changed for its texts.
func (a *app) changeTheme(dry bool, edit func(t *tokenFiles) error, done string, with ...site.FileChange) error {
	return a.change(dry, func(p *plan) error { return changeTokens(p, edit, done, a.anyway, with...) })
}

// changeTokens writes the site's own token files, and other files with them, and tells what changed for its texts. Colors with which some text can no
// longer be read are refused unless anyway is said.
func changeTokens(p *plan, edit func(t *tokenFiles) error, done string, anyway bool, with ...site.FileChange) error {
	t, err := readTokenFiles(p.env, p.dir)
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
	for _, f := range []struct {
		name string
		v    map[string]any
	}{{tokensFile, t.light}, {darkTokensFile, t.dark}} {
		old, err := site.ReadIn(p.dir, f.name)
		data, merr := json.MarshalIndent(f.v, "", "  ")
		if merr != nil {
			return merr
		}
		if len(f.v) > 0 && string(old) != string(data)+"\n" {
			p.files = append(p.files, site.FileChange{Path: f.name, Before: string(old), After: string(data) + "\n", New: err != nil})
		}
	}
	if !anyway {
		if err := refuseUnreadable(p.env, p.files); err != nil {
			return err
		}
	}
	p.done = done
	texts := textLooks(p.env)
	p.after = append(p.after, func(after *compose.Env) []string {
		return append(changedTexts(texts, textLooks(after)), themeNotes(after.Theme)...)
	})
	p.touchAll()
	return nil
}

// refuseUnreadable refuses token files with which some text of a tone can no longer be read.
func refuseUnreadable(before *compose.Env, files []site.FileChange) error {
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
	return errors.New(strings.Join(lines, "\n") + "\nnothing was written: change these colors together, or say --force")
}

// warnOfTheme tells of texts that a token file of the site's own makes hard to read, wherever they are used. e is nil for foreign pages.
func (a *app) warnOfTheme(e *compose.Env) {
	if e == nil {
		return
	}
	if _, err := fs.Stat(e.Dir, tokensFile); err != nil {
		return
	}
	for _, p := range e.Theme.Notes(tokensFile) {
		if p.Severity == diag.Warning {
			a.talkf("%s", a.talk.Problem(p))
		}
	}
}

// themeNotes tells what could be better in the colors of a theme.
func themeNotes(t *theme.Theme) []string {
	var out []string
	for _, n := range t.Notes(tokensFile) {
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
func textLooks(e *compose.Env) map[string]textLook {
	out := map[string]textLook{}
	for _, page := range e.Site.Pages() {
		s, err := audit.Lay(e, page, nil)
		if err != nil {
			continue
		}
		engine := s.Laid.Engine()
		for i, w := range []int{390, 820, 1280} {
			r := engine.Layout(w)
			ratios := audit.Contrasts(s.Laid, r)
			for k := range r.Boxes {
				p := &r.Boxes[k]
				if p.Lines == 0 {
					continue
				}
				name := page.Name + ": " + audit.NameOf(s.Laid, p.Element)
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
