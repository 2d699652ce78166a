// Command ziegel assembles pages from ready-made sections and says how every block stacks at every screen width.
package main

import (
	"os"

	"ziegel/ui/cli"
)

func main() {
	os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
