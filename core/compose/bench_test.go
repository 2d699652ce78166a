package compose_test

import (
	"flag"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "write generated files anew")

func TestTheBenchStylesheetIsUpToDate(t *testing.T) {
	env, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	const file = "../../stock/sections/bench.css"
	want := styles.Bench(env)
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(want), 0o644))
	}
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, want, string(got), "run: go test ./core/compose -update")
}

// BenchmarkCompose makes the demo's home page.
func BenchmarkCompose(b *testing.B) {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	b.ReportAllocs()
	for b.Loop() {
		compose.Compose(env, env.Site.Page("home"), compose.Options{})
	}
}

func TestTheStandInsOfShippedFontsAreUpToDate(t *testing.T) {
	want, err := project.Fallbacks(stock.Files)
	require.NoError(t, err)
	const file = "../../stock/fallbacks.json"
	if *update {
		require.NoError(t, os.WriteFile(file, want, 0o666))
	}
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), string(got), "run: go test ./core/compose -update")
}
