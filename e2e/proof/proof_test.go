package proof_test

import (
	"maps"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/e2e/proof"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// TestASampleOfTheProof does one trial with every section, another kind of trial with each, at a seventh of the widths;
// ZIEGEL_THOROUGH=1 does some of each kind at all widths, and `go run ./e2e/cmd/matrix` does the whole.
func TestASampleOfTheProof(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps every section")
	}
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	themes := []string{project.DefaultTheme}
	for _, name := range project.Themes(stock.Files) {
		if name != project.DefaultTheme {
			themes = append(themes, name)
		}
	}
	dir := t.TempDir()
	var mu sync.Mutex
	sections, sweeps, errors, warnings := 0, 0, 0, 0
	t.Run("sections", func(t *testing.T) {
		for i, s := range lib.All() {
			sections++
			t.Run(s.Name, func(t *testing.T) {
				t.Parallel()
				groups := map[string][]proof.Trial{}
				for _, x := range proof.Trials(s, themes) {
					groups[x.Group] = append(groups[x.Group], x)
				}
				names := slices.Sorted(maps.Keys(groups))
				from, to := sweep.DefaultFrom+i%7*210, sweep.DefaultFrom+(i%7+1)*210
				if testsite.Thorough() {
					from, to = sweep.DefaultFrom, 1700
				} else {
					names = names[i%len(names):][:1]
				}
				for _, name := range names {
					list := groups[name]
					x := list[i/len(groups)%len(list)]
					f, err := proof.Run(dir, x, from, to)
					require.NoError(t, err, x.Name)
					assert.Empty(t, f.Errors, "%s: %s", name, x.Name)
					mu.Lock()
					sweeps, errors, warnings = sweeps+f.Blocks, errors+len(f.Errors), warnings+len(f.Warnings)
					mu.Unlock()
				}
			})
		}
	})
	t.Logf("%d sections, %d sweeps, %d errors, %d warnings", sections, sweeps, errors, warnings)
	require.GreaterOrEqual(t, sections, 30)
}

// TestTheProofSeesFaults puts a faulty section through it.
func TestTheProofSeesFaults(t *testing.T) {
	files := map[string]string{
		"sections/broken/one/section.html": `<body><section class="lanes root"><p class="wide" data-field="heading" data-part="heading">Made for wind</p><div class="wide"><li>A</li></div></section>`,
		"sections/broken/one/section.css":  ".wide { width: 900px; }\n",
		"sections/broken/one/section.yaml": "name: broken/one\nkind: broken\nsummary: A fault.\n",
	}
	trial := proof.Trials(&library.Section{Name: "broken/one"}, []string{project.DefaultTheme})[0]
	trial.Files = files
	f, err := proof.Run(t.TempDir(), trial, 320, 330)
	require.NoError(t, err)
	told := strings.Join(f.Errors, "; ")
	assert.Contains(t, told, "overflow-x")
	assert.Contains(t, told, "<li> stands in <div>")
}

func TestInvalidHTMLIsTold(t *testing.T) {
	page := func(body string) string {
		return "<!doctype html><html lang=\"en\"><head><title>T</title></head><body>" + body + "</body></html>"
	}
	assert.Empty(t, proof.Valid(page(`<main id="main"><ul><li><a href="#main">Up</a></li></ul><label for="m">Mail</label><input id="m" type="email"></main>`)))
	for body, want := range map[string]string{
		`<p>One <div>two</div></p>`:                              "elsewhere than it is written",
		`<ul><div>One</div></ul>`:                                "<div> stands directly in <ul>",
		`<figure><div><figcaption>A</figcaption></div></figure>`: "<figcaption> stands in <div>",
		`<a href="#"><button>Go</button></a>`:                    "one of the two cannot be reached",
		`<p id="a">A</p><p id="a">B</p>`:                         `the id "a" is there twice`,
		`<label for="none">Mail</label>`:                         `nothing has the id "none"`,
		`<a href="#"></a>`:                                       "a <a> has no name",
		`<img src="a.svg">`:                                      "no alt",
		`<p align="left">A</p>`:                                  `no attribute "align"`,
		`<h2></h2>`:                                              "an <h2> is empty",
		`<input type="text">`:                                    "no label",
	} {
		assert.Contains(t, strings.Join(proof.Valid(page(body)), "; "), want, body)
	}
}
