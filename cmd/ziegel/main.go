// Command ziegel assembles pages from ready-made sections and says how every block stacks at every screen width.
package main

import (
	"os"
	"runtime/debug"

	"ziegel/ui/cli"
)

func main() {
	debug.SetGCPercent(400) // a sweep leaves much behind and needs little: fewer collections, still well under 200 MB
	os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
