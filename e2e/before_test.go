package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/rogpeppe/go-internal/txtar"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A site that the version before this one has written opens, builds and checks as it did, is told what is called
// otherwise now, and is edited without saying anything twice.
func TestSitesOfTheVersionBefore(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("drives the program")
	}
	files, err := filepath.Glob("testdata/before/*.txtar")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	want := map[string][]string{
		"demo": {"the theme saltwind is called marram now (ziegel.yaml:5:8)", "the key styles is called looks now",
			"the part split is called halves now", "the part frame is called figure now",
			"the field emphasis is called raised now", "the token {leading.display} is called {line-height.display} now",
			"the shared look typed is called spelled now", "theme.tokens.json calls tokens as an earlier version did",
			"sections/features/mine calls classes or properties as an earlier version did"},
		"launch": {"the template launch is called debut now"},
		"local":  {"the template local is called corner-shop now"},
		"studio": {},
	}
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".txtar")
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			run := func(args ...string) string {
				cmd := exec.Command(program, append(args, "--site", dir)...)
				out, err := cmd.CombinedOutput()
				require.NoError(t, err, "%s: %s", strings.Join(args, " "), out)
				return string(out)
			}
			out, err := exec.Command(program, "demo", dir).CombinedOutput() // for its pictures
			require.NoError(t, err, string(out))
			for _, old := range []string{"pages", "ziegel.yaml", "data", ".ziegel", "built"} {
				require.NoError(t, os.RemoveAll(filepath.Join(dir, old)))
			}
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			for _, f := range txtar.Parse(data).Files {
				to := filepath.Join(dir, filepath.FromSlash(f.Name))
				require.NoError(t, os.MkdirAll(filepath.Dir(to), 0o777))
				require.NoError(t, os.WriteFile(to, f.Data, 0o666))
			}
			built := run("build")
			for _, text := range want[name] {
				assert.Contains(t, strings.Join(strings.Fields(built), " "), text)
			}
			assert.Contains(t, built, "fine")
			assert.Contains(t, run("check", "--from", "320", "--to", "620"), "nothing breaks")
			if name != "demo" {
				return
			}
			run("style", "home/opening.halves", "gap=3px")
			run("style", "--for", "look", "lifted", "opacity=.9")
			run("set", "home/plans", "items[2].raised=no")
			run("theme", "leading.body=1.4")
			page, err := os.ReadFile(filepath.Join(dir, "pages", "home.yaml"))
			require.NoError(t, err)
			assert.Contains(t, string(page), "halves:")
			assert.NotContains(t, string(page), "split:")
			assert.NotContains(t, string(page), "emphasis:")
			main, err := os.ReadFile(filepath.Join(dir, "ziegel.yaml"))
			require.NoError(t, err)
			assert.NotContains(t, string(main), "styles:")
			tokens, err := os.ReadFile(filepath.Join(dir, "theme.tokens.json"))
			require.NoError(t, err)
			assert.NotContains(t, string(tokens), `"leading"`)
		})
	}
}
