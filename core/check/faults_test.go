package check_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/rogpeppe/go-internal/txtar"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Faults in foreign hand-writing are found at the very widths at which a browser shows them; e2e records those.
func TestFaultsOfForeignPages(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	data, err := os.ReadFile("testdata/faults.txtar")
	require.NoError(t, err)
	recorded, err := os.ReadFile("testdata/faults.txt")
	require.NoError(t, err)
	want := map[string]string{}
	for _, line := range strings.Split(strings.TrimSpace(string(recorded)), "\n") {
		name, spans, _ := strings.Cut(line, " ")
		want[name] = spans
	}
	pages := 0
	for _, f := range txtar.Parse(data).Files {
		name, ok := strings.CutSuffix(f.Name, ".html")
		if !ok {
			continue
		}
		pages++
		rule, _, _ := strings.Cut(name, "/")
		t.Run(name, func(t *testing.T) {
			var got []string
			for _, x := range reportOn(t, string(f.Data), 240, 420).Findings {
				if span := fmt.Sprintf("%d..%d", x.From, x.To); x.Rule == rule && !slices.Contains(got, span) {
					got = append(got, span)
				}
			}
			if want[name] != "" {
				assert.Equal(t, want[name], strings.Join(got, " "))
			}
			assert.NotEmpty(t, got, "the fault is not found")
		})
	}
	require.Greater(t, pages, 80)
}

// A page of which nothing is shown has nothing wrong, whatever it says of dark colors; with a part shown in one
// scheme only, the rest is looked at.
func TestPagesThatHideTheirRoot(t *testing.T) {
	const dark = `<style>@media (prefers-color-scheme: dark){html{color:red;background:#000}p{color:#111}}`
	for _, hidden := range []string{"html{display:none}", "@media (min-width:300px){html{display:none}}",
		":root{color-scheme:light dark;display:none}"} {
		r := reportOn(t, dark+hidden+"</style><main><p>Words</p></main>", 280, 320)
		for _, f := range r.Findings {
			assert.NotEqual(t, "overflow-x", f.Rule)
			if f.Rule == "contrast-low" {
				assert.Contains(t, hidden, "min-width")
				assert.LessOrEqual(t, f.To, 299)
			}
		}
	}
}

// Letters of inline boxes are cut, and scrolled, by the boxes around them as those of any other box are.
func TestLettersOfInlineBoxesInRowsThatScroll(t *testing.T) {
	row := `<style>body{margin:0}.g{background:#123;color:#fff;width:200px}.r{overflow:%s;white-space:nowrap}</style><div class=g><div class=r><b>%s</b></div></div>`
	names := strings.Repeat("Tarn Sailing Club ", 8)
	for overflow, want := range map[string]bool{"auto": false, "visible": true} {
		found := false
		for _, f := range reportOn(t, fmt.Sprintf(row, overflow, names), 400, 400).Findings {
			found = found || f.Rule == "content-hangs-out"
		}
		assert.Equal(t, want, found, overflow)
	}
}
