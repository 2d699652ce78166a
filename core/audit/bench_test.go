package audit_test

import (
	"runtime/debug"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// BenchmarkCheck applies every rule to the demo's home page at every width from 240 to 2560.
func BenchmarkCheck(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	e, problems, err := compose.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	require.NoError(b, problems.Err())
	page := e.Site.Page("home")
	b.ReportAllocs()
	for b.Loop() {
		p, ps := compose.Compose(e, page, compose.Options{Marks: true})
		l, err := sweep.FromPage(e, p)
		require.NoError(b, err)
		audit.Run(l, page, ps, sweep.DefaultFrom, sweep.DefaultTo)
	}
}
