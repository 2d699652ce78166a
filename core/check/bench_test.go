package check_test

import (
	"fmt"
	"runtime/debug"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/stress"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// BenchmarkCheck applies every rule to the demo's home page at every width from 240 to 2560.
func BenchmarkCheck(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	require.NoError(b, problems.Err())
	page := e.Site.Page("home")
	b.ReportAllocs()
	for b.Loop() {
		p, ps := measure.Page(e, page, compose.Options{Marks: true})
		l, err := sweep.FromPage(e, p)
		require.NoError(b, err)
		check.Run(l, page, ps, sweep.DefaultFrom, sweep.DefaultTo)
	}
}

// BenchmarkRecheck is the check after one heading has changed: the other blocks are known.
func BenchmarkRecheck(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	require.NoError(b, problems.Err())
	source := e.Site.Page("home").File.Source
	store := store.Store{Dir: b.TempDir()}
	check := func(i int) {
		text := strings.Replace(source, "heading: Three things we will not hurry",
			fmt.Sprintf("heading: %d things we will not hurry", i), 1)
		env, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml", After: text}})
		require.NoError(b, err)
		require.NoError(b, problems.Err())
		page := env.Site.Page("home")
		p, ps := measure.Page(env, page, compose.Options{Marks: true})
		l, err := sweep.FromPage(env, p)
		require.NoError(b, err)
		check.RunKept(store, &check.Subject{Env: env, Prepared: l, Page: page, Problems: ps}, sweep.DefaultFrom,
			sweep.DefaultTo)
	}
	check(-1) // the other blocks become known
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		check(i)
	}
}

// BenchmarkStress sweeps the demo's home page with every kind of hostile content.
func BenchmarkStress(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(b, err)
	require.NoError(b, problems.Err())
	for b.Loop() {
		stress.Stress(e, e.Site.Page("home"), &check.Report{},
			sweep.Widths{From: sweep.DefaultFrom, To: sweep.DefaultTo}, nil)
	}
}
