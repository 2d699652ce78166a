package theme_test

import (
	"fmt"

	"ziegel/core/theme"
)

func ExampleParseToken() {
	v, err := theme.ParseToken("dimension", "1.5rem")
	fmt.Println(v, err)
	_, err = theme.ParseToken("dimension", "red")
	fmt.Println(err)
	// Output:
	// map[unit:rem value:1.5] <nil>
	// "red" is no dimension: write a number with its unit, such as 1.5rem
}
