// Command matrix puts every section through all trials of the proof, prints what it finds, and writes the table to
// docs/MATRIX.md.
//
//	go run ./e2e/cmd/matrix
//	go run ./e2e/cmd/matrix -only pricing/plans -out ""
package main

import (
	"flag"
	"fmt"
	"maps"
	"os"
	"runtime/debug"
	"slices"
	"strings"

	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/e2e/proof"
	"ziegel/stock"
)

func main() {
	broken, err := run()
	if err != nil {
		fmt.Fprintln(os.Stderr, "matrix:", err)
		os.Exit(2)
	}
	if broken {
		os.Exit(1)
	}
}

func run() (broken bool, err error) {
	debug.SetGCPercent(400) // as the program does
	only := flag.String("only", "", "sections whose names begin so")
	out := flag.String("out", "docs/MATRIX.md", "file for the table; none when empty")
	group := flag.String("group", "", "trials of one group only: options, themes, lists, held or stress")
	flag.Parse()
	lib, problems := library.Load("sections", stock.Files)
	if err := problems.Err(); err != nil {
		return false, err
	}
	dir, err := os.MkdirTemp("", "matrix")
	if err != nil {
		return false, err
	}
	defer os.RemoveAll(dir)
	themes := []string{project.DefaultTheme}
	for _, t := range project.Themes(stock.Files) {
		if t != project.DefaultTheme {
			themes = append(themes, t)
		}
	}
	groups := []string{"options", "themes", "lists", "held", "stress"}
	var table, warnings strings.Builder
	strained := map[string]int{}
	sections, sweeps, layouts, errors, warned := 0, 0, 0, 0, 0
	for _, s := range lib.All() {
		if !strings.HasPrefix(s.Name, *only) {
			continue
		}
		sections++
		counts := map[string]int{}
		bad, soft := 0, 0
		for _, t := range proof.Trials(s, themes) {
			if *group != "" && t.Group != *group {
				continue
			}
			f, err := proof.Run(dir, t, sweep.DefaultFrom, sweep.DefaultTo)
			if err != nil {
				return false, fmt.Errorf("%s, %s: %w", s.Name, t.Name, err)
			}
			counts[t.Group] += f.Blocks
			sweeps += f.Blocks
			layouts += f.Widths
			for _, text := range f.Errors {
				fmt.Printf("%s, %s: error: %s\n", s.Name, t.Name, text)
				fmt.Fprintf(&warnings, "- %s, %s: **error** %s\n", s.Name, t.Name, text)
			}
			for _, text := range f.Warnings {
				fmt.Printf("%s, %s: warning: %s\n", s.Name, t.Name, text)
				if t.Group == "stress" { // by rule only: very long words break somewhere
					rule := strings.Fields(text)[1]
					strained[strings.TrimSuffix(rule, ":")]++
					continue
				}
				_, text, _ = strings.Cut(text, ".") // which of the blocks it is says nothing
				if line := fmt.Sprintf("- %s, %s: %s\n", s.Name, t.Name,
					text); !strings.Contains(warnings.String(), line) {
					warnings.WriteString(line)
				}
			}
			bad, soft = bad+len(f.Errors), soft+len(f.Warnings)
		}
		errors, warned = errors+bad, warned+soft
		fmt.Fprintf(&table, "| %s |", s.Name)
		for _, g := range groups {
			fmt.Fprintf(&table, " %d |", counts[g])
		}
		fmt.Fprintf(&table, " %d | %d |\n", bad, soft)
		fmt.Fprintf(os.Stderr, "%-22s %d errors, %d warnings\n", s.Name, bad, soft)
	}
	sum := fmt.Sprintf("%d sections, %d blocks swept at %d widths each (%d layouts of pages), %d errors, %d warnings",
		sections, sweeps, sweep.DefaultTo-sweep.DefaultFrom+1, layouts, errors, warned)
	fmt.Println(sum)
	if *out == "" || *only != "" || *group != "" {
		return errors > 0, nil
	}
	text := "# The proof of the sections\n\nMade by `go run ./e2e/cmd/matrix`. Every section with every two choices of its options together, on every tone, in every theme, light and dark; with lists of 1 to 6, 9 and 12 entries; first and last on a page, in half of one, in a narrow side and in a dialog; and with hostile\n" +
		"content: texts twice as long, grown as another language makes them, very long words, single letters, fields left out, pictures of strange shapes, text at 200 %, text spacing of WCAG 1.4.12. Each is swept from 240 to 2560 px with every rule of the check (contrast and targets of WCAG 2.2 AA among them), and its HTML is\nchecked against the content models of the standard. The columns count swept blocks.\n\n" + sum + ".\n\n" +
		"| section | options | themes | lists | places | stress | errors | warnings |\n| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: |\n" + table.String()
	if len(strained) > 0 {
		var list []string
		for _, rule := range slices.Sorted(maps.Keys(strained)) {
			list = append(list, fmt.Sprintf("%s %d", rule, strained[rule]))
		}
		text += "\nWarnings under hostile content, by rule: " + strings.Join(list, ", ") + ".\n"
	}
	if warnings.Len() > 0 {
		text += "\n## What is left\n\n" + warnings.String()
	}
	return errors > 0, os.WriteFile(*out, []byte(text), 0o666)
}
