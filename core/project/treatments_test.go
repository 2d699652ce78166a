package project_test

import (
	"io/fs"
	"path"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/theme"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

func TestTreatmentsAreFilesOfRules(t *testing.T) {
	assert.Contains(t, project.TreatmentNames(stock.Files), "label")
	assert.Equal(t, []string{"plain", "middle", "wide"}, project.TreatmentChoices(stock.Files, "heading"))
	assert.Equal(t, []string{"plain", "dark", "light"}, project.TreatmentChoices(stock.Files, theme.Scheme))
	assert.Nil(t, project.TreatmentChoices(stock.Files, "nothing"))
	assert.Nil(t, project.TreatmentChoices(stock.Files, "label/.."))
}

// Every theme that ships decides what there is, and every treatment that ships is decided by one, or is plain to see in
// the list of choices: at least six themes differ in more than type and color.
func TestShippedThemesHaveTreatmentsOfTheirOwn(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	own := map[string]string{}
	for _, name := range project.Themes(stock.Files) {
		e := testsite.With(t, "title: T\nblocks: []\n", "theme: "+name+"\n")
		rules := e.Treatments()
		if rules == "" {
			continue
		}
		assert.Empty(t, own[rules], "%s has the treatments of %s", name, own[rules])
		own[rules] = name
		for _, k := range e.Theme.Tokens {
			if k.Type == theme.Treatment {
				choice := strings.TrimPrefix(k.Name, theme.TreatmentGroup)
				assert.Contains(t, project.TreatmentChoices(e.Stock, choice), k.Value, name)
			}
		}
	}
	assert.GreaterOrEqual(t, len(own), 8)
}

// What a treatment says of a class, sections have: none of them speaks of something that no section shows.
func TestTreatmentsSpeakOfWhatSectionsHave(t *testing.T) {
	files, err := fs.Glob(stock.Files, "treatments/*/*.css")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	var markup strings.Builder
	sections, err := fs.Glob(stock.Files, "sections/*/*/section.html")
	require.NoError(t, err)
	for _, f := range sections {
		data, err := fs.ReadFile(stock.Files, f)
		require.NoError(t, err)
		markup.Write(data)
	}
	for _, f := range files {
		data, err := fs.ReadFile(stock.Files, f)
		require.NoError(t, err)
		assert.True(t, strings.HasPrefix(string(data), "/* "), "%s begins by saying what it does", f)
		for _, m := range project.ClassNames.FindAllStringSubmatch(string(data), -1) {
			switch m[1] {
			case "page-block", "joined": // composing gives them
			default:
				assert.Regexp(t, `class="[^"]*\b`+m[1]+`\b`, markup.String(), "%s in %s", m[1], path.Base(f))
			}
		}
	}
}

func TestATreatmentThatThereIsNotIsTold(t *testing.T) {
	for value, want := range map[string]string{
		`"label": {"$value": "boxd"}`:   `treatment.label cannot be "boxd" | one of plain, boxed, capitals, margin, numbered, ruled | boxed`,
		`"labels": {"$value": "boxed"}`: "the token treatment.labels names no treatment",
		`"label": {"$value": "boxed"}`:  "",
		`"label": {"$value": "plain"}`:  "",
		`"scheme": {"$value": "dim"}`:   `treatment.scheme cannot be "dim"`,
	} {
		tokens, err := fs.ReadFile(stock.Files, "themes/marram/theme.tokens.json")
		require.NoError(t, err)
		own := strings.TrimSuffix(strings.TrimSpace(string(tokens)), "}") + `, "treatment": {"$type": "treatment", ` +
			value + "}}\n"
		dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: S\n",
			"pages/home.yaml": "title: T\nblocks: []\n", "theme.tokens.json": own})
		_, problems, err := project.Open(dir, stock.Files)
		require.NoError(t, err)
		var told []string
		for _, p := range problems {
			told = append(told, p.Text+" | "+p.Expected+" | "+p.Try)
		}
		if want == "" {
			assert.Empty(t, told, value)
		} else {
			assert.Contains(t, strings.Join(told, "\n"), want)
		}
	}
}
