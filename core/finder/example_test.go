package finder_test

import (
	"fmt"

	"ziegel/core/finder"
	"ziegel/core/library"
	"ziegel/stock"
)

func ExampleSearch() {
	lib, _ := library.Load("sections", stock.Files)
	list := finder.Search(lib, finder.Known(stock.Files), "prices in columns")
	fmt.Println(list[0].Section.Name)
	// Output:
	// pricing/plans
}
