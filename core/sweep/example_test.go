package sweep_test

import (
	"fmt"

	"ziegel/core/compose"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// How a block of a page stacks, and at which widths that changes.
func ExamplePrepared_Map() {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	if err != nil {
		fmt.Println(err)
		return
	}
	page, _ := measure.Page(env, env.Site.Page("home"), compose.Options{Marks: true, Only: []string{"voices"}})
	l, err := sweep.FromPage(env, page)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, s := range l.Map(400, 1200, nil)[0].Arrangements {
		fmt.Println(s.As, "from", s.From)
	}
	// Output:
	// 1+1+1 from 400
	// 1+2 from 704
	// 3 from 1024
}
