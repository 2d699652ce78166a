package table_test

import (
	"fmt"

	"ziegel/core/table"
)

func ExampleRead() {
	t, err := table.Read("voices.csv", []byte("title;text\nInes;\"It flew; at once\"\n"))
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(t.Columns)
	fmt.Println(t.Rows[0][1])
	// Output:
	// [title text]
	// It flew; at once
}
