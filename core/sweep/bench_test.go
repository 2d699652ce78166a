package sweep_test

import (
	"fmt"
	"runtime"
	"runtime/debug"
	"testing"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// BenchmarkSweep lays the demo's home page out at every width from 240 to 2560.
func BenchmarkSweep(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	for _, cores := range []int{1, 2} {
		b.Run(fmt.Sprintf("cores=%d", cores), func(b *testing.B) {
			defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(cores))
			l := demo(b)
			b.ReportAllocs()
			for b.Loop() {
				l.Map(sweep.DefaultFrom, sweep.DefaultTo, nil)
			}
			b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/2321, "µs/width")
		})
	}
}

// BenchmarkLayout lays the page out once, at a width it has not had, and styles it anew.
func BenchmarkLayout(b *testing.B) {
	e := demo(b).Engine()
	b.ReportAllocs()
	w := 240
	for b.Loop() {
		e.Layout(w)
		if w++; w > 2560 {
			w = 240
		}
	}
}

// BenchmarkFirstLayout is the first layout of a page: matching, cascade, boxes and shaping, nothing kept.
func BenchmarkFirstLayout(b *testing.B) {
	l := demo(b)
	b.ReportAllocs()
	for b.Loop() {
		l.Engine().Layout(1280)
	}
}

func demo(tb testing.TB) *sweep.Prepared {
	tb.Helper()
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	if err != nil || problems.Err() != nil {
		tb.Fatal(err, problems)
	}
	p, problems := measure.Page(e, e.Site.Page("home"), compose.Options{Marks: true})
	if problems.Err() != nil {
		tb.Fatal(problems)
	}
	l, err := sweep.FromPage(e, p)
	if err != nil {
		tb.Fatal(err)
	}
	return l
}

// BenchmarkCascade styles every element of the page once, from nothing.
func BenchmarkCascade(b *testing.B) {
	l := demo(b)
	b.ReportAllocs()
	for b.Loop() {
		s := css.NewStyler(l.Doc)
		s.SetMedia(css.Media{Width: 1280, Height: 900})
		styles := make([]*css.Style, len(l.Doc.Elements))
		for _, e := range l.Doc.Elements {
			parent := s.Root()
			if e.Parent != nil {
				parent = styles[e.Parent.Index]
			}
			styles[e.Index] = s.Style(e, parent, nil)
		}
	}
}

// BenchmarkResweep is what an edit of one field asks for: the changed block composed anew and laid out at every
// width. Blocks stand under each other, so the arrangements of the others hold.
func BenchmarkResweep(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program does
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	if err != nil || problems.Err() != nil {
		b.Fatal(err, problems)
	}
	for _, block := range []string{"opening", "plans", "foot"} {
		b.Run(block, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				p, problems := measure.Page(e, e.Site.Page("home"),
					compose.Options{Marks: true, Only: []string{block}})
				if problems.Err() != nil {
					b.Fatal(problems)
				}
				l, err := sweep.FromPage(e, p)
				if err != nil {
					b.Fatal(err)
				}
				if len(l.Map(sweep.DefaultFrom, sweep.DefaultTo, nil)) == 0 {
					b.Fatal("nothing was swept")
				}
			}
		})
	}
}
