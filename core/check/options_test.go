package check_test

import (
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// tryValues are values of an option that differ from any default.
func tryValues(o *library.Option) []string {
	switch o.Type {
	case "choice":
		var out []string
		for _, c := range o.Choices {
			if c != o.Default {
				out = append(out, c)
			}
		}
		return out
	case "ratio":
		return []string{"1:5", "5:1"}
	case "aspect":
		return []string{"1:7", "7:1"}
	case "number":
		return []string{"1", "2", "3", "5"}
	case "length":
		return []string{"1.0625rem", "11rem", "19rem", "43rem"}
	case "scale":
		return []string{"1rem..1.25rem"}
	case "place":
		return library.Places
	}
	return nil
}

// reasons are options for a range of which no value changes anything with a section's sample, and why. The program
// refuses them.
var reasons = map[string]string{
	"hero/beside ratio at phone":                  "one column there",
	"hero/beside place at phone":                  "one column there",
	"hero/over min-height at phone":               "the picture stands above the words there",
	"pricing/plans item-min at phone":             "one column there",
	"questions/columns columns at phone":          "one column there",
	"features/points picture-ratio at desktop":    "the picture is as high as the words there",
	"newsletter/picture picture-ratio at desktop": "the picture is as high as the words there",
	"statistics/picture picture-ratio at desktop": "the picture is as high as the words there",
	"banner/picture picture-ratio at desktop":     "the picture is as high as the words there",
	"map/place picture-ratio at desktop":          "the picture is as high as the words there",
	"hero/half picture-ratio at desktop":          "the picture is as high as the words there",
	"action/over min-height at phone":             "the picture stands above the words there",
	"features/cards radius":                       "cards have no edge unless they are boxed",
	"features/cards radius at phone":              "cards have no edge unless they are boxed",
	"features/cards radius at tablet":             "cards have no edge unless they are boxed",
	"features/cards radius at desktop":            "cards have no edge unless they are boxed",
}

// Every option of every section, for all widths and for each range, changes what is seen at some width of that range.
func TestEveryOptionDoesSomething(t *testing.T) {
	if testing.Short() {
		t.Skip("lays every section out with every option in every range")
	}
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	var mu sync.Mutex
	idle, tried := map[string]bool{}, map[string]bool{}
	t.Run("sections", func(t *testing.T) {
		for i, sec := range lib.All() {
			t.Run(sec.Name, func(t *testing.T) {
				t.Parallel()
				const path = "pages/home.yaml"
				text := func(options string) string {
					return "title: T\nblocks:\n  - name: a\n    section: " + sec.Name +
						"\n    content: {heading: Made for wind}\n" + options
				}
				plain := testsite.With(t, text(""))
				for _, o := range sec.Options {
					for k, at := range []string{"", " at phone", " at tablet", " at desktop"} {
						if at != "" && o.Type == "choice" {
							continue // refused for ranges
						}
						if !testsite.Thorough() && (i+k)%4 != 0 {
							continue
						}
						mu.Lock()
						tried[sec.Name+" "+o.Name+at] = true
						mu.Unlock()
						works := false
						for _, v := range tryValues(&o) {
							env, problems, err := plain.With([]site.FileChange{{Path: path, Before: text(""),
								After: text("    options: {\"" + o.Name + at + "\": \"" + v + "\"}\n")}})
							require.NoError(t, err)
							require.NoError(t, problems.Err())
							page := env.Site.Page("home")
							if !slices.ContainsFunc(check.IdleOptions(env, page, env.Site.Block(page, "a"), true),
								func(i check.Idle) bool { return i.Key == o.Name+at }) {
								works = true
								break
							}
						}
						if !works {
							mu.Lock()
							idle[sec.Name+" "+o.Name+at] = true
							mu.Unlock()
						}
					}
				}
			})
		}
	})
	for name := range idle {
		assert.Contains(t, reasons, name, "an option that does nothing")
	}
	for name, why := range reasons {
		assert.True(t, idle[name] || !tried[name], "%s does something now: %s", name, why)
	}
}
