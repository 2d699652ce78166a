package explain_test

import (
	"fmt"

	"ziegel/core/compose"
	"ziegel/core/explain"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// The values that were written for a part, the one that wins first.
func ExampleChain() {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	if err != nil {
		fmt.Println(err)
		return
	}
	page, _ := measure.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
	l, err := sweep.FromPage(env, page)
	if err != nil {
		fmt.Println(err)
		return
	}
	card := explain.Find(l, "plans", "card", 2)[0]
	links, _ := explain.Chain(l, l.Engine().Layout(1280), card, "padding-top")
	fmt.Println(links[0].Wins, links[0].Who)
	// Output:
	// true the section pricing/plans
}
