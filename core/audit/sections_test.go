package audit_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/settle"
	"ziegel/core/sweep"
	"ziegel/core/theme"
	"ziegel/stock"
)

// site writes a site with one page and opens it.
func siteWith(t *testing.T, home string, more ...string) *compose.Env {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: L\n"+strings.Join(more, "")), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", "home.yaml"), []byte(home), 0o666))
	e, problems, err := compose.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err(), home)
	return e
}

// TestEverySectionHoldsAtEveryWidth sweeps each section with each of its choices, on each tone, as first and last of the page.
func TestEverySectionHoldsAtEveryWidth(t *testing.T) {
	if testing.Short() {
		t.Skip("a matrix")
	}
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	require.GreaterOrEqual(t, len(lib.Sections), 6)
	themes := compose.Themes(stock.Files)
	matrix := os.Getenv("ZIEGEL_MATRIX") != "" // all themes; else each section in one of them, in turn
	for i, s := range lib.Sections {
		for k, name := range themes {
			if !matrix && k != i%len(themes) && name != compose.DefaultTheme {
				continue
			}
			t.Run(s.Name+" in "+name, func(t *testing.T) { holds(t, s, name) })
		}
	}
}

// holds checks a section with each of its choices, on each tone, in a theme.
func holds(t *testing.T, s *library.Section, themeName string) {
	t.Parallel()
	variants := []string{""}
	for _, o := range s.Options {
		for _, c := range o.Choices {
			variants = append(variants, fmt.Sprintf("    options: {%s: %q}\n", o.Name, c))
		}
	}
	home := "blocks:\n"
	for i, v := range variants {
		home += fmt.Sprintf("  - name: b%d\n    section: %s\n    tone: %s\n%s", i, s.Name, theme.Tones[i%len(theme.Tones)], v)
	}
	e := siteWith(t, home, "theme: "+themeName+"\n")
	p, problems := settle.Page(e, e.Site.Page("home"), compose.Options{Marks: true})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(e, p)
	require.NoError(t, err)
	for _, f := range audit.Run(l, e.Site.Page("home"), problems, 240, 1700).Findings {
		assert.Equal(t, diag.Note, f.Severity, "%+v", f)
		assert.NotEqual(t, "not-modelled", f.Rule, "%+v", f)
	}
}

// TestListsOfAnyLengthHold gives the sections with lists one to six entries, short and long.
func TestListsOfAnyLengthHold(t *testing.T) {
	entry := map[string]string{
		"features/cards":   "        - {icon: wind, title: %s, text: %s}\n",
		"pricing/plans":    "        - {title: %s, price: \"€1,240\", unit: a person, text: %s, points: [One, Two]}\n",
		"testimonials/row": "        - {title: %s, text: %s}\n",
	}
	long := "A text that is twice as long as the sample and goes on, because clients write more than designers plan for, and nobody tells them"
	for section, form := range entry {
		for _, n := range []int{1, 2, 4, 6} {
			for _, text := range []string{"Short", long} {
				home := "blocks:\n  - name: b\n    section: " + section + "\n    content:\n      items:\n" + strings.Repeat(fmt.Sprintf(form, text, text), n)
				home = strings.ReplaceAll(home, long, strconvQuote(long))
				e := siteWith(t, home)
				p, problems := settle.Page(e, e.Site.Page("home"), compose.Options{Marks: true})
				require.NoError(t, problems.Err(), home)
				l, err := sweep.FromPage(e, p)
				require.NoError(t, err)
				for _, f := range audit.Run(l, nil, problems, 240, 480).Findings {
					assert.NotEqual(t, diag.Error, f.Severity, "%s, %d entries: %+v", section, n, f)
				}
			}
		}
	}
}

func strconvQuote(s string) string { return fmt.Sprintf("%q", s) }
