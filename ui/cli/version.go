package cli

import (
	"io/fs"
	"path"
	"regexp"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/stock"
)

func (a *app) versionCmd() *cobra.Command {
	var licenses bool
	cmd := &cobra.Command{Use: "version", Short: "Print the version, or the licenses of all that is inside",
		Example: "  ziegel version --licenses", Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if licenses {
				return a.licenses()
			}
			a.say("ziegel %s", version)
			return nil
		}}
	cmd.Flags().BoolVar(&licenses, "licenses", false, "fonts, icons, libraries: whose they are, and on what terms")
	return cmd
}

// license is something inside the program, with its terms.
type license struct {
	kind, name, terms, text string
}

// licenses prints all that is inside the program: a line for each, then the texts, each once.
func (a *app) licenses() error {
	list, err := licensesOf(stock.Files)
	if err != nil {
		return err
	}
	a.say("ziegel %s has inside:", version)
	for _, l := range list {
		a.say("  %-7s %-48s %s", l.kind, l.name, l.terms)
	}
	var texts []string
	for _, l := range list {
		if !slices.Contains(texts, l.text) {
			texts = append(texts, l.text)
		}
	}
	for _, text := range texts {
		var names []string
		for _, l := range list {
			if l.text == text {
				names = append(names, l.name)
			}
		}
		a.say("\n== %s\n\n%s", diag.And(names), text)
	}
	return nil
}

// licensesOf reads the licenses of fonts, icons and Go modules.
func licensesOf(files fs.FS) ([]license, error) {
	var out []license
	err := fs.WalkDir(files, "fonts", func(p string, _ fs.DirEntry, err error) error {
		name, ok := strings.CutSuffix(path.Base(p), ".LICENSE.txt")
		if err != nil || !ok {
			return err
		}
		text, err := fs.ReadFile(files, p)
		out = append(out, license{"font", name, termsOf(string(text)), strings.TrimSpace(string(text))})
		return err
	})
	if err != nil {
		return nil, err
	}
	origin, err := fs.ReadFile(files, "icons/ORIGIN.txt")
	if err != nil {
		return nil, err
	}
	text, err := fs.ReadFile(files, "icons/LICENSE.txt")
	if err != nil {
		return nil, err
	}
	out = append(out, license{"icons", strings.TrimSpace(string(origin)), termsOf(string(text)),
		strings.TrimSpace(string(text))})
	modules, err := fs.ReadFile(files, "licenses/modules.txt")
	if err != nil {
		return nil, err
	}
	for _, m := range strings.Split("\n"+string(modules), "\n== ")[1:] {
		name, text, _ := strings.Cut(m, "\n")
		out = append(out, license{"module", name, termsOf(text), strings.TrimSpace(text)})
	}
	return out, nil
}

var apache = regexp.MustCompile(`Apache License\s+Version 2\.0`)

// termsOf names a license by its words.
func termsOf(text string) string {
	words := strings.Join(strings.Fields(text), " ")
	var out []string
	add := func(has bool, name string) {
		if has {
			out = append(out, name)
		}
	}
	add(strings.Contains(words, "SIL OPEN FONT LICENSE Version 1.1"), "SIL Open Font License 1.1")
	add(strings.Contains(words,
		"Permission is hereby granted, free of charge, to any person obtaining a copy of this software"), "MIT")
	add(apache.MatchString(text), "Apache 2.0")
	add(strings.Contains(words, "Redistribution and use in source and binary forms"), "BSD")
	add(strings.Contains(words, "Bitstream Vera"), "Bitstream Vera")
	add(strings.Contains(words, "This is free and unencumbered software"), "Unlicense")
	if len(out) == 0 {
		return "its own terms"
	}
	return strings.Join(out, ", ")
}
