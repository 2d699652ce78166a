package diag

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWrongNamesAreAnsweredWithRightOnes(t *testing.T) {
	names := []string{"home", "courses"}
	assert.EqualError(t, Unknown("page", "cours", names, ""), `there is no page "cours"; did you mean courses?`)
	assert.EqualError(t, Unknown("page", "zzzzzz", names, " in the site"),
		`there is no page "zzzzzz" in the site; there are home, courses`)
	assert.EqualError(t, Unknown("page", "zzzzzz", nil, ""), `there is no page "zzzzzz"`)
	many := strings.Fields(strings.Repeat("word ", 21))
	assert.EqualError(t, Unknown("page", "zzzzzz", many, ""), `there is no page "zzzzzz"`,
		"nobody reads on for so long")
	assert.ErrorContains(t, Unknown("page", "zzzzzz", many[:20], ""), "there are")
}

func TestErrorsAreToldWithoutTheirPath(t *testing.T) {
	assert.Equal(t, fs.ErrNotExist, Bare(&fs.PathError{Op: "open", Path: "/a/b", Err: fs.ErrNotExist}))
	assert.Equal(t, fs.ErrNotExist, Bare(fmt.Errorf("read: %w", &fs.PathError{Op: "open", Path: "/a/b",
		Err: fs.ErrNotExist})))
	plain := errors.New("plain")
	assert.Equal(t, plain, Bare(plain))
}

func TestThingsAreCounted(t *testing.T) {
	assert.Equal(t, []string{"0 pages", "1 page", "2 pages"}, []string{Plural(0, "page"), Plural(1, "page"), Plural(2,
		"page")})
}

func TestProblemsAreErrorsWhenOneIs(t *testing.T) {
	warning := Problem{Severity: Warning, Rule: "w", Text: "careful",
		Position: Position{File: "b.yaml", Line: 2, Column: 1}}
	wrong := Problem{Severity: Error, Rule: "e", Text: "wrong", Position: Position{File: "a.yaml", Line: 9, Column: 3}}
	assert.NoError(t, Problems{warning}.Err())
	err := Problems{warning, wrong}.Err()
	assert.ErrorContains(t, err, "a.yaml:9:3: error: wrong [e]")
	assert.Equal(t, Problems{wrong, warning}, Problems{warning, wrong}.Sorted(), "by file and line")
	assert.Equal(t, wrong.String(), wrong.Error())
}

// What a place writes is read again, whatever the name of its file.
func TestPlacesAreOneText(t *testing.T) {
	for text, want := range map[string]Position{
		"pages/home.yaml:41:3":            {"pages/home.yaml", 41, 3},
		"pages/home.yaml:41":              {"pages/home.yaml", 41, 0},
		"built/site.css":                  {"built/site.css", 0, 0},
		"shipped:sections/a/b/x.css:2:10": {"shipped:sections/a/b/x.css", 2, 10},
		"C:odd.yaml":                      {"C:odd.yaml", 0, 0},
		"":                                {},
	} {
		var p Place
		assert.NoError(t, p.UnmarshalText([]byte(text)))
		assert.Equal(t, want, p.Position, text)
		again, err := p.MarshalText()
		assert.NoError(t, err)
		assert.Equal(t, text, string(again))
		assert.Equal(t, text == "", p.IsZero())
	}
}
