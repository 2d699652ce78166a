package address_test

import (
	"fmt"

	"ziegel/core/address"
)

func ExampleParse() {
	a, err := address.Parse("home/plans.card[2].padding")
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(a.Page, a.Block, a.Part, a.Index, a.Property)
	_, err = address.OfBlock("home/plans.card")
	fmt.Println(err)
	// Output:
	// home plans card 2 padding
	// home/plans.card names a part, and this takes a page or a whole block, such as home/plans
}
