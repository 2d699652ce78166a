package project

import (
	"fmt"
	"io/fs"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/theme"
)

// Treatments are what a theme decides beyond type, color and space: what a label looks like, what separates blocks,
// how pictures are framed. Each is a token, treatment.label, whose value names a file of rules below treatments/label
// of the shipped ones. "plain" has no rules.

// ClassNames finds the names of classes in selectors.
var ClassNames = regexp.MustCompile(`\.([a-zA-Z][a-zA-Z0-9_-]*)`)

// Plain is the treatment that is none.
const Plain = "plain"

// TreatmentNames lists the treatments that a theme can decide.
func TreatmentNames(stock fs.FS) []string {
	list, err := fs.ReadDir(stock, "treatments")
	if err != nil {
		return nil
	}
	out := []string{theme.Scheme}
	for _, d := range list {
		if d.IsDir() {
			out = append(out, d.Name())
		}
	}
	slices.Sort(out)
	return out
}

// TreatmentChoices lists what a treatment can be, plain first; nil for a treatment that there is not.
func TreatmentChoices(stock fs.FS, name string) []string {
	if name == theme.Scheme {
		return []string{Plain, "dark", "light"}
	}
	list, err := fs.ReadDir(stock, "treatments/"+name)
	if err != nil || strings.Contains(name, "/") {
		return nil
	}
	out := []string{Plain}
	for _, f := range list {
		if choice, ok := strings.CutSuffix(f.Name(), ".css"); ok {
			out = append(out, choice)
		}
	}
	return out
}

// Treatments gives the rules of the treatments of the site's theme.
func (e *Project) Treatments() string {
	var b strings.Builder
	for _, t := range e.Theme.Tokens {
		name, ok := strings.CutPrefix(t.Name, theme.TreatmentGroup)
		if !ok || t.Type != theme.Treatment {
			continue
		}
		if data, err := fs.ReadFile(e.Stock, "treatments/"+name+"/"+t.Value+".css"); err == nil {
			b.Write(data)
		}
	}
	return b.String()
}

// shareTreatments makes the classes that treatments speak of shared ones: sections use them as they are.
func (e *Project) shareTreatments() {
	files, _ := fs.Glob(e.Stock, "treatments/*/*.css") // the pattern is a good one
	for _, f := range files {
		data, err := fs.ReadFile(e.Stock, f)
		if err != nil {
			continue
		}
		for _, m := range ClassNames.FindAllStringSubmatch(string(data), -1) {
			e.shared[m[1]] = true
		}
	}
}

// checkTreatments reports treatments that there are not.
func (e *Project) checkTreatments() diag.Problems {
	var out diag.Problems
	add := func(text, expected, try string) {
		out = append(out, diag.Problem{Position: diag.Position{File: "theme.tokens.json"}, Severity: diag.Error,
			Rule: "unknown-treatment", Text: text, Expected: expected, Try: try})
	}
	for _, t := range e.Theme.Tokens {
		name, ok := strings.CutPrefix(t.Name, theme.TreatmentGroup)
		if t.Type != theme.Treatment {
			continue
		}
		names := TreatmentNames(e.Stock)
		choices := TreatmentChoices(e.Stock, name)
		switch {
		case !ok || choices == nil:
			add(fmt.Sprintf("the token %s names no treatment", t.Name),
				"treatment.NAME with "+strings.Join(names, ", "), diag.Nearest(name, names))
		case !slices.Contains(choices, t.Value):
			add(fmt.Sprintf("%s cannot be %q", t.Name, t.Value), "one of "+strings.Join(choices, ", "),
				diag.Nearest(t.Value, choices))
		}
	}
	return out
}
