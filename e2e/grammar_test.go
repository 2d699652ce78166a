package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css/grammar"
	"ziegel/e2e/browser"
)

// bend changes one thing in a value: what comes out may still be one, and the browser is asked.
func bend(value string, r *rand.Rand) string {
	words := strings.Fields(value)
	i := r.IntN(len(words))
	switch r.IntN(7) {
	case 0:
		words = append(words[:i], words[i+1:]...)
	case 1:
		words = append(words, words[i])
	case 2:
		words[i] = []string{"red", "1px", "none", "auto", "2", "1fr", "45deg", "1s", `"a"`, "kite", "-1px", "5%", "/",
			","}[r.IntN(14)]
	case 3:
		words = append(words, []string{"solid", "blue", "3px", "center", "infinite"}[r.IntN(5)])
	case 4:
		return strings.Replace(value, ", ", " ", 1)
	case 5:
		return strings.Replace(value, "px", "deg", 1)
	case 6:
		return strings.Replace(value, "1", "-1", 1)
	}
	return strings.Join(words, " ")
}

// inexact are functions whose insides are not defined.
var inexact = regexp.MustCompile(`\b(anchor|anchor-size|calc-size|attr|symbols|ray|shape|path|palette-mix)\(|\bfrom `)

// otherwiseRead are values of which the definitions and this browser think differently, with the reason.
var otherwiseRead = map[string]string{
	"border-block": "the browser takes a comma at its end", "border-inline": "the same", "place-content": "the browser takes first alone", "animation": "the browser takes auto in some places",
	"rotate":                 "the browser takes an angle before one number",
	"contain-intrinsic-size": "the browser takes auto without a size at its end",
	"align-items":            "newer browsers take no anchor-center, as long as they do not know anchors there",
	"justify-items":          "the same",
	"place-items":            "the same",
	"shape-outside":          "of the shapes, the browser does not take rect() there",
}

// TestChromiumReadsTheSameValues asks the browser about made-up values of every property, and about the same with one
// thing bent.
func TestChromiumReadsTheSameValues(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	type question struct{ Property, Value string }
	var asked []question
	r := rand.New(rand.NewPCG(1, 13))
	for _, p := range grammar.Properties() {
		for range 40 {
			v := grammar.Sample(p, r)
			if v == "" || len(v) > 300 || inexact.MatchString(v) {
				continue
			}
			asked = append(asked, question{p, v})
			if b := bend(v, r); b != "" && strings.Count(b, "(") == strings.Count(b, ")") &&
				strings.Count(b, "[") == strings.Count(b, "]") {
				asked = append(asked, question{p, b})
			}
		}
	}
	data, err := json.Marshal(asked)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	text, err := browser.Text(ctx, `<!doctype html><body></body><script>
const asked = `+strings.ReplaceAll(string(data), "<", `\u003c`)+`;
const unknown = [...new Set(asked.map(q => q.Property))].filter(p => !CSS.supports(p, "inherit"));
document.body.textContent = JSON.stringify({unknown, reads: asked.map(q => CSS.supports(q.Property, q.Value) ? 1 : 0)});
</script>`)
	require.NoError(t, err)
	text, _, _ = strings.Cut(text, "<script>")
	var got struct {
		Unknown []string
		Reads   []int
	}
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace(text)), &got))
	require.Len(t, got.Reads, len(asked))
	missing := map[string]bool{}
	for _, p := range got.Unknown {
		missing[p] = true
	}
	read, wrong := 0, map[string]int{}
	for i, q := range asked {
		if missing[q.Property] || otherwiseRead[q.Property] != "" {
			continue
		}
		read += got.Reads[i]
		if ours := grammar.Valid(q.Property, q.Value); ours != (got.Reads[i] == 1) {
			if wrong[q.Property]++; wrong[q.Property] <= 2 {
				assert.Fail(t, "another verdict", "%s: %s: ours %v, the browser's %v", q.Property,
					q.Value, ours, !ours)
			}
		}
	}
	fmt.Printf("%d values of %d properties, %d of them read; not in this browser: %s\n", len(asked),
		len(grammar.Properties()), read, strings.Join(got.Unknown, " "))
	require.Greater(t, read, len(asked)/3)
}
