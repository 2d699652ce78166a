// Licenses writes stock/licenses/modules.txt: the Go modules that the program is linked from, with their versions and
// the texts of their licenses.
//
//	go run ./e2e/cmd/licenses
package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

func main() {
	if err := run("stock/licenses/modules.txt"); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

type module struct {
	Path, Version, Dir string
	Main               bool
}

func run(out string) error {
	data, err := exec.Command("go", "list", "-deps", "-json=Module", "./cmd/ziegel").Output()
	if err != nil {
		return err
	}
	mods := map[string]module{}
	for dec := json.NewDecoder(strings.NewReader(string(data))); dec.More(); {
		var p struct{ Module *module }
		if err := dec.Decode(&p); err != nil {
			return err
		}
		if p.Module != nil && !p.Module.Main {
			mods[p.Module.Path] = *p.Module
		}
	}
	var paths []string
	for p := range mods {
		paths = append(paths, p)
	}
	slices.Sort(paths)
	var b strings.Builder
	for _, p := range paths {
		text, err := license(mods[p].Dir)
		if err != nil {
			return fmt.Errorf("%s: %w", p, err)
		}
		fmt.Fprintf(&b, "== %s %s\n%s\n\n", p, mods[p].Version, strings.TrimSpace(text))
	}
	goroot, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return err
	}
	if text, err := license(strings.TrimSpace(string(goroot))); err == nil {
		fmt.Fprintf(&b, "== the Go standard library\n%s\n", strings.TrimSpace(text))
	}
	return os.WriteFile(out, []byte(b.String()), 0o666)
}

// license reads the license files of a module, one after the other.
func license(dir string) (string, error) {
	list, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	var out []string
	for _, f := range list {
		name := strings.ToUpper(f.Name())
		other := !strings.HasPrefix(name, "LICENSE") && !strings.HasPrefix(name, "LICENCE") &&
			!strings.HasPrefix(name, "COPYING") &&
			!strings.HasPrefix(name, "NOTICE") || f.IsDir()
		if other {
			continue
		}
		data, err := os.ReadFile(filepath.Join(dir, f.Name()))
		if err != nil {
			return "", err
		}
		out = append(out, strings.TrimSpace(strings.ReplaceAll(string(data), "\r\n", "\n")))
	}
	if len(out) == 0 {
		return "", fmt.Errorf("no license file in %s", dir)
	}
	return strings.Join(out, "\n\n"), nil
}
