package cli

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/stock"
)

// The license of every module that the program is linked from is inside, in the version that is linked. The command
// that writes them anew: go run ./e2e/cmd/licenses.
func TestLicensesOfAllThatIsInside(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	list, err := licensesOf(stock.Files)
	require.NoError(t, err)
	have := map[string]license{}
	for _, l := range list {
		have[l.name] = l
		assert.Greater(t, len(l.text), 400, l.name)
		assert.NotEmpty(t, l.terms, l.name)
	}
	out, err := exec.Command("go", "list", "-deps", "-f",
		"{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}{{end}}{{end}}",
		"../../cmd/ziegel").Output()
	require.NoError(t, err)
	modules := strings.Fields(strings.ReplaceAll(string(out), " ", "\x00"))
	require.NotEmpty(t, modules)
	for _, m := range modules {
		name := strings.ReplaceAll(m, "\x00", " ")
		assert.Contains(t, have, name, "go run ./e2e/cmd/licenses writes it down")
	}
	assert.Equal(t, "MIT", have["Iconoir 7.12.1"].terms)
	assert.Equal(t, "SIL Open Font License 1.1", have["figtree"].terms)
	for _, f := range []string{"archivo-narrow", "bricolage-grotesque", "newsreader", "arimo", "dejavu-sans"} {
		assert.Contains(t, have, f)
	}
}

func TestTermsByTheirWords(t *testing.T) {
	for text, want := range map[string]string{
		"Permission is hereby granted, free of charge, to any person obtaining a copy\nof this software": "MIT",
		"Apache License\n  Version 2.0":                     "Apache 2.0",
		"Redistribution and use in source and binary forms": "BSD",
		"You may do nothing":                                "its own terms",
	} {
		assert.Equal(t, want, termsOf(text))
	}
}
