package check_test

import (
	"fmt"
	"os"
	"path/filepath"

	"ziegel/core/check"
	"ziegel/core/sweep"
	"ziegel/stock"
)

func ExampleRun() {
	dir, err := os.MkdirTemp("", "page")
	if err != nil {
		fmt.Println(err)
		return
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "page.html")
	html := `<!doctype html><style>body{margin:0}</style><main><section><p class=w style="width:300px">Kites</p></section></main>`
	if err := os.WriteFile(file, []byte(html), 0o666); err != nil {
		fmt.Println(err)
		return
	}
	l, err := sweep.FromFile(file, stock.Files)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, f := range check.Run(l, nil, nil, 240, 400).Findings {
		if f.Severity == "error" {
			fmt.Printf("%s at %d..%d: %s\n", f.Rule, f.From, f.To, f.Why)
		}
	}
	// Output:
	// overflow-x at 240..299: the p.w (Kites) has a width of its own: 300 px
}
