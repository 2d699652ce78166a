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
	var table, left strings.Builder
	strained := map[string]int{}
	sections, sweeps, layouts, errors, warned := 0, 0, 0, 0, 0
	for _, s := range lib.All() {
		if !strings.HasPrefix(s.Name, *only) {
			continue
		}
		sections++
		bad, soft, blocks := 0, 0, 0
		raised := map[string]int{}
		for _, t := range proof.Trials(s, themes) {
			if *group != "" && t.Group != *group {
				continue
			}
			f, err := proof.Run(dir, t, sweep.DefaultFrom, sweep.DefaultTo)
			if err != nil {
				return false, fmt.Errorf("%s, %s: %w", s.Name, t.Name, err)
			}
			blocks += f.Blocks
			sweeps += f.Blocks
			layouts += f.Widths
			for _, text := range f.Errors {
				fmt.Printf("%s, %s: error: %s\n", s.Name, t.Name, text)
				fmt.Fprintf(&left, "- %s, %s: **error** %s\n", s.Name, t.Name, text)
			}
			for _, text := range f.Warnings {
				fmt.Printf("%s, %s: warning: %s\n", s.Name, t.Name, text)
				rule := strings.TrimSuffix(strings.Fields(text)[1], ":")
				if t.Group == "stress" { // of all sections together: very long words break somewhere
					strained[rule]++
					continue
				}
				raised[rule]++
			}
			bad, soft = bad+len(f.Errors), soft+len(f.Warnings)
		}
		errors, warned = errors+bad, warned+soft
		fmt.Fprintf(&table, "| %s | %d | %d | %d |\n", s.Name, blocks, bad, soft)
		if len(raised) > 0 {
			fmt.Fprintf(&left, "- %s: %s\n", s.Name, counted(raised))
		}
		fmt.Fprintf(os.Stderr, "%-22s %d errors, %d warnings\n", s.Name, bad, soft)
	}
	sum := fmt.Sprintf("%d sections, %d blocks swept at %d widths each (%d layouts of pages), %d errors, %d warnings",
		sections, sweeps, sweep.DefaultTo-sweep.DefaultFrom+1, layouts, errors, warned)
	fmt.Println(sum)
	if *out == "" || *only != "" || *group != "" {
		return errors > 0, nil
	}
	text := "# The proof of the sections\n\nMade by `go run ./e2e/cmd/matrix`. Every section with every two choices of its options together, on every tone, in every theme, light and dark; with lists of 1 to 6, 9 and 12 entries; first and last on a page, in half of one, in a narrow side and in a dialog; and with hostile\n" +
		"content: texts twice as long, grown as another language makes them, very long words, single letters, fields left out, pictures of strange shapes, text at 200 %, text spacing of WCAG 1.4.12. Each is swept from 240 to 2560 px with every rule of the check (contrast and targets of WCAG 2.2 AA among them), and its HTML is\nchecked against the content models of the standard. A warning in ten of its trials counts ten times.\n\n" + sum + ".\n\n" +
		"| section | blocks | errors | warnings |\n| --- | ---: | ---: | ---: |\n" + table.String()
	if len(strained) > 0 {
		text += "\nWarnings under hostile content, by rule: " + counted(strained) + ".\n"
	}
	if left.Len() > 0 {
		text += "\n## What is left\n\nWarnings in all other trials, by rule.\n\n" + left.String()
	}
	return errors > 0, os.WriteFile(*out, []byte(text), 0o666)
}

// counted writes down how often something was raised.
func counted(m map[string]int) string {
	var list []string
	for _, rule := range slices.Sorted(maps.Keys(m)) {
		list = append(list, fmt.Sprintf("%s %d", rule, m[rule]))
	}
	return strings.Join(list, ", ")
}
