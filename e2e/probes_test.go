package e2e

import (
	"context"
	"flag"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/e2e/equal"
	"ziegel/stock"
)

// TestProbes puts every value of every property on a page that has a little of everything, and asks the browser of this
// machine and us where the boxes are. What differs must be told on the page, or stand in testdata/probes/otherwise.txt
// with its reason. docs/VALUES.md is the table of what came out.
func TestProbes(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	root := t.TempDir()
	_, err := equal.Fixtures(".", root)
	require.NoError(t, err)
	probes, err := equal.Probes(".", false)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Minute)
	defer cancel()
	require.NoError(t, equal.Try(ctx, equal.Folders{Repository: ".", Pages: root, Stock: stock.Files}, []int{360},
		probes))

	known := reasons(t, "testdata/probes/otherwise.txt")
	count := map[equal.Verdict]int{}
	for i := range probes {
		p := &probes[i]
		name := p.Property + ": " + p.Value
		count[p.Verdict]++
		switch {
		case p.Verdict == equal.Silent && known[name] == "":
			assert.Fail(t, "another box, and nobody says so", "%s\n%s", name, p.First())
		case p.Verdict != equal.Silent && known[name] != "":
			assert.Fail(t, "no longer otherwise: take it off otherwise.txt", name)
		}
	}
	total := float64(len(probes))
	fmt.Printf(
		"%d probes: %.1f %% equal, %.1f %% told, %.1f %% otherwise for a known reason\n",
		len(probes),
		100*float64(
			count[equal.Equal],
		)/total,
		100*float64(count[equal.Told])/total,
		100*float64(count[equal.Silent])/total,
	)
	text := valuesTable(probes, known)
	if flag.Lookup("update").Value.String() == "true" {
		require.NoError(t, os.WriteFile("../docs/VALUES.md", []byte(text), 0o666))
	}
	have, err := os.ReadFile("../docs/VALUES.md")
	require.NoError(t, err)
	require.True(t, string(have) == text, "docs/VALUES.md is not as it is now: go test ./e2e -run Probes -update")
}

// reasons reads lines of "name | reason".
func reasons(t *testing.T, file string) map[string]string {
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	out := map[string]string{}
	for line := range strings.Lines(string(data)) {
		if name, reason, ok := strings.Cut(strings.TrimSpace(line), " | "); ok {
			out[name] = reason
		}
	}
	return out
}

// valuesTable writes what became of each value.
func valuesTable(probes []equal.Probe, known map[string]string) string {
	type row struct{ same, told, other []string }
	rows := map[string]*row{}
	var names []string
	for i := range probes {
		p := &probes[i]
		r := rows[p.Property]
		if r == nil {
			r = &row{}
			rows[p.Property] = r
			names = append(names, p.Property)
		}
		value := "`" + strings.ReplaceAll(p.Value, "|", "\\|") + "`"
		switch p.Verdict {
		case equal.Equal:
			r.same = append(r.same, value)
		case equal.Told:
			r.told = append(r.told, value)
		default:
			r.other = append(r.other, value+" ("+known[p.Property+": "+p.Value]+")")
		}
	}
	var b strings.Builder
	b.WriteString(`# Values, one by one

Every value here was put on a page of its own, with text, boxes, flex, grid, tables, lists, fields, columns, floats and both directions
(` + "`e2e/testdata/probes/page.html`" + `), and its boxes were compared with Chromium's. "As in the browser" means within 1/16 px, properties without an
effect on boxes included; "told" means that boxes differ and that ` + "`ziegel check`" + ` and ` + "`measure`" + ` say so. ` + "`go test ./e2e -run Probes -update`" + ` writes this
table anew. Properties come first, then units, functions, conditions and selectors.

| | as in the browser | told | otherwise |
|---|---|---|---|
`)
	for _, n := range names {
		r := rows[n]
		same := strings.Join(r.same, ", ")
		if len(r.told)+len(r.other) == 0 && len(r.same) > 6 {
			same = fmt.Sprintf("all %d: %s …", len(r.same), strings.Join(r.same[:4], ", "))
		}
		fmt.Fprintf(&b, "| %s | %s | %s | %s |\n", strings.ReplaceAll(n, "|", "\\|"), same, strings.Join(r.told, ", "),
			strings.Join(slices.Compact(r.other), ", "))
	}
	return b.String()
}
