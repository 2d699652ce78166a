package sweep_test

import (
	"testing"

	"ziegel/core/compose"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// BenchmarkSweep lays the demo's home page out at every width from 240 to 2560.
func BenchmarkSweep(b *testing.B) {
	l := demo(b)
	for b.Loop() {
		l.Map(sweep.DefaultFrom, sweep.DefaultTo, nil)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/2321, "µs/width")
}

func demo(tb testing.TB) *sweep.Laid {
	tb.Helper()
	e, problems, err := compose.Open("../../stock/demo", stock.Files)
	if err != nil || problems.Err() != nil {
		tb.Fatal(err, problems)
	}
	p, problems := compose.Compose(e, e.Site.Page("home"), compose.Options{Marks: true})
	if problems.Err() != nil {
		tb.Fatal(problems)
	}
	l, err := sweep.FromPage(e, p)
	if err != nil {
		tb.Fatal(err)
	}
	return l
}
