// Command scale runs the built program on sites of two sizes, one ten times the other, and prints what each command
// costs in CPU and memory and by how much more the larger one costs: cost has to grow with the work and no faster.
//
//	go run ./e2e/cmd/scale                 every comparison
//	go run ./e2e/cmd/scale blocks          those of one kind: blocks, entries, pages, outside
//	go run ./e2e/cmd/scale -large 1000 pages
package main

import (
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"ziegel/e2e/scale"
)

func main() {
	program := flag.String("program", "", "the built program; without it, one is built")
	small := flag.Int("small", 10, "size of the small site")
	large := flag.Int("large", 100, "size of the large site")
	flag.Parse()
	if err := run(*program, *small, *large, flag.Args()); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

// kinds are what grows, with the commands that are measured on it.
var kinds = []struct {
	name     string
	write    func(dir string, n int) error
	commands []string
}{
	{"blocks", scale.Blocks, []string{"show home", "set home/b1 heading=Another", "stack home", "check home",
		"check home ", "build"}},
	{"entries", scale.Entries, []string{"show home", "set home/plans heading=Another", "stack home", "check home",
		"check home ", "build"}},
	{"pages", scale.Pages, []string{"show p1", "show", "todo", "set p1/b1 heading=Another", "stack p1", "build",
		"build ", "set p1/b2 heading=Others", "build  ", "check", "check ", "set p1/b1 heading=More", "check  "}},
	{"outside", scale.Outside, []string{"stack page.html", "check page.html"}},
}

func run(program string, small, large int, only []string) error {
	tmp, err := os.MkdirTemp("", "scale")
	if err != nil {
		return err
	}
	defer os.RemoveAll(tmp)
	if program == "" {
		program = filepath.Join(tmp, "ziegel")
		build := exec.Command("go", "build", "-trimpath", "-o", program, "./cmd/ziegel")
		build.Env = append(os.Environ(), "CGO_ENABLED=0")
		build.Stderr = os.Stderr
		if err := build.Run(); err != nil {
			return err
		}
	}
	for _, k := range kinds {
		if len(only) > 0 && !slices.Contains(only, k.name) {
			continue
		}
		fmt.Printf("%s: %d and %d\n", k.name, small, large)
		var costs [2][]cost
		for i, n := range []int{small, large} {
			dir := filepath.Join(tmp, fmt.Sprint(k.name, n))
			if err := k.write(dir, n); err != nil {
				return err
			}
			for _, c := range k.commands {
				m := measure(program, dir, strings.Fields(c))
				costs[i] = append(costs[i], m)
				if i == 1 {
					a := costs[0][len(costs[1])-1]
					fmt.Printf("  %-28s %8.3f s %6.1f MB   %8.3f s %6.1f MB   cpu x%-6.1f memory x%-5.1f wall %.3f s%s\n", strings.TrimRight(c, " ")+strings.Repeat("*", strings.Count(c, " ")-strings.Count(strings.TrimRight(c, " "), " ")), a.cpu.Seconds(), a.mb, m.cpu.Seconds(), m.mb, m.cpu.Seconds()/a.cpu.Seconds(), m.mb/a.mb, m.wall.Seconds(), m.failed)
				}
			}
		}
	}
	return nil
}

// cost is what one process took.
type cost struct {
	cpu, wall time.Duration
	mb        float64
	failed    string
}

func measure(program, dir string, args []string) cost {
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	start := time.Now()
	out, err := cmd.CombinedOutput()
	c := cost{wall: time.Since(start)}
	if cmd.ProcessState == nil {
		c.failed = err.Error()
		return c
	}
	if cmd.ProcessState.ExitCode() > 1 {
		c.failed = "  failed: " + strings.SplitN(string(out), "\n", 2)[0]
	}
	c.cpu = cmd.ProcessState.UserTime() + cmd.ProcessState.SystemTime()
	if u, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok {
		c.mb = float64(u.Maxrss) / 1024
	}
	return c
}
