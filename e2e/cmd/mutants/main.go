// Mutants breaks the code of the core in places chosen by rule, one at a time, and counts which the tests notice.
// Nothing of it touches the files: each mutant is an overlay of the build.
//
//	go run ./e2e/cmd/mutants -n 60 -out docs/MUTANTS.md
package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ziegel/e2e/mutants"
)

func main() {
	n := flag.Int("n", 60, "how many places")
	only := flag.String("only", "", "packages of the core, with commas between; all when empty")
	out := flag.String("out", "", "file for the table; standard output when empty")
	patience := flag.Duration("patience", 4*time.Minute, "how long tests may take before a mutant counts as noticed")
	flag.Parse()
	if err := run(*n, *only, *out, *patience); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(n int, only, out string, patience time.Duration) error {
	var dirs []string
	if only != "" {
		for _, d := range strings.Split(only, ",") {
			dirs = append(dirs, "core/"+d)
		}
	}
	list, err := mutants.Choose(".", dirs, 2*n) // some are no programs any more
	if err != nil {
		return err
	}
	users, err := importers()
	if err != nil {
		return err
	}
	var b strings.Builder
	noticed, tried := 0, 0
	for _, m := range list {
		if tried == n {
			break
		}
		by, err := test(m, users["ziegel/"+m.Package], patience)
		if err == errNoProgram {
			continue
		}
		if err != nil {
			return err
		}
		tried++
		if by != "" {
			noticed++
		}
		fmt.Fprintf(os.Stderr, "%d/%d %s: %s: %s\n", tried, n, m, m.What, orNobody(by))
		fmt.Fprintf(&b, "| %s | `%s` | %s |\n", m, strings.ReplaceAll(m.What, "|", "\\|"), orNobody(by))
	}
	table := fmt.Sprintf(`# Which faults the tests notice

%d places of the core, chosen by a rule that does not know them (conditions turned round, statements left out, bounds off by one), each broken alone; the tests of its package run with %s, then those of the packages that use it, at last its own slow ones; for what places boxes the comparison with the boxes of Chromium that are on record.

**%d of %d are noticed (%d %%).** The command: %s.

| place | change | noticed by |
|---|---|---|
%s`, tried, "`-short`", noticed, tried, noticed*100/max(tried, 1), fmt.Sprintf("`go run ./e2e/cmd/mutants -n %d -out docs/MUTANTS.md`", n), b.String())
	if out == "" {
		fmt.Print(table)
		return nil
	}
	return os.WriteFile(out, []byte(table), 0o666)
}

func orNobody(by string) string {
	if by == "" {
		return "**nobody**"
	}
	return by
}

// importers lists, for each package of the core, the packages of the core that import it, the nearest first.
func importers() (map[string][]string, error) {
	data, err := exec.Command("go", "list", "-json=ImportPath,Deps", "./core/...").Output()
	if err != nil {
		return nil, err
	}
	out := map[string][]string{}
	dec := json.NewDecoder(strings.NewReader(string(data)))
	for dec.More() {
		var p struct {
			ImportPath string
			Deps       []string
		}
		if err := dec.Decode(&p); err != nil {
			return nil, err
		}
		for _, d := range p.Deps {
			if strings.HasPrefix(d, "ziegel/") {
				out[d] = append(out[d], p.ImportPath)
			}
		}
	}
	return out, nil
}

// geometry are the packages that decide where boxes stand; the boxes that Chromium makes of the same pages are on
// record.
var geometry = []string{"core/css", "core/font", "core/layout"}

const recorded = "ziegel/e2e"

// errNoProgram says that a mutant does not compile.
var errNoProgram = errors.New("no program")

// test tells which package's tests notice a mutant, "" when none does.
func test(m mutants.Mutant, users []string, patience time.Duration) (string, error) {
	dir, err := os.MkdirTemp("", "mutant")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "mutant.go")
	if err := os.WriteFile(file, m.Source, 0o666); err != nil {
		return "", err
	}
	abs, err := filepath.Abs(m.File)
	if err != nil {
		return "", err
	}
	overlay, err := json.Marshal(map[string]map[string]string{"Replace": {abs: file}})
	if err != nil {
		return "", err
	}
	list := filepath.Join(dir, "overlay.json")
	if err := os.WriteFile(list, overlay, 0o666); err != nil {
		return "", err
	}
	own := "ziegel/" + m.Package
	judges := append([]string{own}, slices.DeleteFunc(users, func(u string) bool { return u == own })...)
	if slices.Contains(geometry, m.Package) {
		judges = slices.Insert(judges, 1, recorded)
	}
	for _, p := range judges {
		ctx, cancel := context.WithTimeout(context.Background(), patience)
		args := []string{"test", "-short", "-count=1", "-overlay", list, p}
		if p == recorded {
			args = append(args, "-run", "^TestBoxesEqualChromium$")
		}
		cmd := exec.CommandContext(ctx, "go", args...)
		cmd.WaitDelay = time.Second
		text, err := cmd.CombinedOutput()
		late := ctx.Err() != nil
		cancel()
		switch {
		case late:
			return strings.TrimPrefix(p, "ziegel/core/") + " (never ends)", nil
		case err != nil && strings.Contains(string(text), "[build failed]"):
			return "", errNoProgram
		case err != nil:
			return strings.TrimPrefix(strings.TrimPrefix(p, "ziegel/core/"), "ziegel/"), nil
		}
	}
	return wholeTests(list, own, patience)
}

// wholeTests runs all tests of a package, the slow ones too.
func wholeTests(overlay, own string, patience time.Duration) (string, error) {
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	cmd := exec.CommandContext(ctx, "go", "test", "-count=1", "-overlay", overlay, own)
	cmd.WaitDelay = time.Second
	if err := cmd.Run(); err != nil {
		return strings.TrimPrefix(own, "ziegel/core/") + " (slow tests)", nil
	}
	return "", nil
}
