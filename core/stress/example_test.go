package stress_test

import (
	"fmt"

	"ziegel/core/project"
	"ziegel/core/stress"
	"ziegel/stock"
)

func ExampleTextFields() {
	env, _, err := project.Open("../../stock/demo", stock.Files)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, f := range stress.TextFields(env, env.Site.Block(env.Site.Page("home"), "opening")) {
		fmt.Println(f)
	}
	// Output:
	// eyebrow
	// heading
	// lead
	// actions[1].label
	// actions[2].label
}
