package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/theme"
	"ziegel/stock"
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
"export FILE" writes them. What Ziegel does not know in a token file stays in it.
The theme outline is grey boxes and one plain face, for pages that are not to be
judged by their looks yet.`,
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
				return a.changeTheme(dry, func(t *edit.TokenFiles) error { return t.Derive(args[1], neutral) },
					"derived all colors from "+args[1])
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
				return a.changeTheme(dry, func(t *edit.TokenFiles) error { return t.Set(args) },
					"changed "+strings.Join(args, ", "))
			case len(args) == 1:
				return a.change(dry, func(p *edit.Plan) error { return edit.SwitchTheme(p, args[0]) })
			}
			return errors.New("write a theme's name, TOKEN=VALUE, or from COLOR")
		},
	}
	cmd.Flags().Bool("list", false, "the shipped themes")
	cmd.Flags().StringVar(&face, "for", "",
		"with font: display, body, or a name of your own; display and body when left out")
	cmd.Flags().StringVar(&as, "as", "", "with export: json or css; by the file's name when left out")
	cmd.Flags().BoolVar(&dark, "dark", false, "with import of a .json file: tokens of dark screens")
	cmd.Flags().StringVar(&neutral, "neutral", "", "with from: the color whose hue grounds and inks take")
	cmd.Flags().BoolVar(&a.anyway, "force", false,
		"also take colors in which some text cannot be read; with export: write over a file that is no output")
	dryRunFlag(cmd, &dry)
	return a.jsonFlag(cmd)
}

func (a *app) listThemes() error {
	for _, n := range project.Themes(stock.Files) {
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
var shownPairs = [][2]string{{"ink", "ground"}, {"soft", "ground"}, {"accent", "ground"}, {"soft", "surface"},
	{"accent-ink", "accent"}}

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
				line += fmt.Sprintf(" %s %s %.1f", a.style.Swatch(get(tone, p[0]), get(tone, p[1]), " Aa "), p[0],
					theme.ContrastOf(get(tone, p[0]), get(tone, p[1])))
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
	for _, n := range edit.NotesOf(t) {
		a.say("%s", a.style.Wrap(n, 6))
	}
	return nil
}

// warnOfTheme tells of texts that a token file of the site's own makes hard to read, wherever they are used. e is nil
// for foreign pages.
func (a *app) warnOfTheme(e *project.Project) {
	if e == nil {
		return
	}
	if _, err := fs.Stat(e.Dir, edit.TokensFile); err != nil {
		return
	}
	for _, p := range e.Theme.Notes(edit.TokensFile) {
		if p.Severity == diag.Warning {
			a.talkf("%s", a.talk.Problem(p))
		}
	}
}
