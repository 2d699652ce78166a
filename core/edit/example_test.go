package edit_test

import (
	"fmt"

	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/store"
	"ziegel/stock"
)

// An edit is worked out on a site as it was opened; nothing is written.
func ExampleMove() {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	if err != nil {
		fmt.Println(err)
		return
	}
	p := edit.New(env, store.Store{})
	if err := edit.Move(p, "home/voices", edit.Spot{Before: "plans"}, ""); err != nil {
		fmt.Println(err)
		return
	}
	changes, after, err := p.Work()
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(p.Done)
	for _, c := range changes {
		fmt.Println("changes", c.Path)
	}
	for _, b := range after.Site.Page("home").Blocks {
		fmt.Println(b.Name)
	}
	// Output:
	// moved home/voices to place 3 of 4
	// changes pages/home.yaml
	// opening
	// reasons
	// voices
	// plans
}
