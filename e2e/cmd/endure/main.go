// Command endure does for hours what the tests do for seconds: it kills writing commands and builds at random
// moments, edits by commands and by hand at the same time, and prints one page of figures for docs/RELIABILITY.md.
//
//	go run ./e2e/cmd/endure                  1,000 kills, 200 mixed rounds
//	go run ./e2e/cmd/endure -kills 100 -mixed 20
package main

import (
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"

	"ziegel/e2e/endure"
)

func main() {
	kills := flag.Int("kills", 1000, "how often a writing command is killed")
	builds := flag.Int("builds", 200, "how often a build is killed")
	mixed := flag.Int("mixed", 200, "rounds of edits by a command and by hand at the same time")
	seed := flag.Uint64("seed", 1, "of the random moments")
	flag.Parse()
	if err := run(*kills, *builds, *mixed, *seed); err != nil {
		fmt.Fprintln(os.Stderr, "endure:", err)
		os.Exit(1)
	}
}

func run(kills, builds, mixed int, seed uint64) error {
	tmp, err := os.MkdirTemp("", "endure")
	if err != nil {
		return err
	}
	defer os.RemoveAll(tmp)
	program := filepath.Join(tmp, "ziegel")
	build := exec.Command("go", "build", "-trimpath", "-o", program, "./cmd/ziegel")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	build.Stderr = os.Stderr
	if err := build.Run(); err != nil {
		return err
	}
	site := func(name string) string {
		dir := filepath.Join(tmp, name)
		_, _ = endure.Program{Path: program, Dir: tmp}.Run("demo", dir)
		return dir
	}
	faults := 0
	tell := func(what string, f endure.Figures, forward, back string) {
		fmt.Printf("%-40s %5d rounds  %5d %s  %5d %s  %d faults\n", what, f.Rounds, f.Forward, forward, f.Back, back,
			len(f.Faults))
		for _, x := range f.Faults {
			fmt.Println("   ", x)
		}
		faults += len(f.Faults)
	}
	tell("killed edits, undos, redos, renames", endure.Kill(program, site("kills"), kills, seed),
		"done as a whole", "not at all")
	tell("killed builds, with an edit after each", endure.KillBuilds(program, site("builds"), builds, seed), "", "")
	tell("a command and a hand at the same time", endure.Mixed(program, site("mixed"), mixed), "with both",
		"as the editor wrote last")
	if faults > 0 {
		return fmt.Errorf("%d faults", faults)
	}
	return nil
}
