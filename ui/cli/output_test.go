package cli

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every output takes the place of an older one of its kind; a file of somebody else stays, unless --force; a source
// of a site stays in any case.
func TestOutputsTakeThePlaceOfOutputsOnly(t *testing.T) {
	if testing.Short() {
		t.Skip("runs every command that writes outputs")
	}
	dir := filepath.Join(t.TempDir(), "demo")
	run := func(args ...string) (int, string) {
		var out, err bytes.Buffer
		code := Run(append(args, "--site", dir), nil, &out, &err)
		return code, out.String() + err.String()
	}
	var out bytes.Buffer
	require.Equal(t, 0, Run([]string{"demo", dir}, nil, &out, &out), out.String())
	at := func(name string) string { return filepath.Join(filepath.Dir(dir), name) }
	for _, c := range [][]string{
		{"check", "home", "--report", at("r.html")}, {"check", "home", "--report", at("r.json")}, {"check", "home",
			"--report", at("r.sarif")}, {"check", "home", "--report", at("r.xml")},
		{"check", "--shard", "1/2", "--report", at("part.json")}, {"sections", "--page", at("c.html")}, {"style",
			"home/plans.card", "padding", "--try", "1rem,2rem", "--sheet", at("t.html")},
		{"theme", "export", at("tokens.css")}, {"theme", "export", at("o.tokens.json")},
	} {
		file := c[len(c)-1]
		for range 2 {
			code, text := run(c...)
			require.Equal(t, 0, code, "%v: %s", c, text)
		}
		require.NoError(t, os.WriteFile(file, []byte("of somebody else"), 0o666))
		code, text := run(c...)
		assert.Equal(t, 2, code, c)
		assert.Contains(t, text, "no output of this program")
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, "of somebody else", string(data))
		code, text = run(append(c, "--force")...)
		assert.Equal(t, 0, code, "%v: %s", c, text)
	}
	page := filepath.Join(dir, "pages", "home.yaml")
	before, err := os.ReadFile(page)
	require.NoError(t, err)
	code, text := run("sections", "--page", page, "--force")
	assert.Equal(t, 2, code)
	assert.Contains(t, text, "is a source of the site")
	after, err := os.ReadFile(page)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after))
}
