package search_test

import (
	"fmt"

	"ziegel/core/library"
	"ziegel/core/search"
	"ziegel/stock"
)

func ExampleSearch() {
	lib, _ := library.Load("sections", stock.Files)
	list := search.Search(lib, search.Known(stock.Files), "prices in columns")
	fmt.Println(list[0].Section.Name)
	// Output:
	// pricing/plans
}
