package grammar_test

import (
	"fmt"

	"ziegel/core/css/grammar"
)

func ExampleValid() {
	fmt.Println(grammar.Valid("padding", "1rem clamp(1rem, 4vw, 3rem)"))
	fmt.Println(grammar.Valid("padding", "1rem/*"))
	fmt.Println(grammar.Is("color", "oklch(60% .1 200)"))
	// Output:
	// true
	// false
	// true
}
