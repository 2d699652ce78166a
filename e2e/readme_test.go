package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var console = regexp.MustCompile("(?s)```console\n(.*?)```")

// TestTheReadmeTellsTheTruth runs the commands of the README's console blocks, one after the other, and compares what
// comes back.
func TestTheReadmeTellsTheTruth(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("runs every command of the README")
	}
	data, err := os.ReadFile("../README.md")
	require.NoError(t, err)
	dir := t.TempDir()
	ran := 0
	for _, m := range console.FindAllStringSubmatch(string(data), -1) {
		for _, step := range strings.Split("\n"+m[1], "\n$ ")[1:] {
			command, want, _ := strings.Cut(step, "\n")
			cmd := exec.Command("sh", "-c", command)
			cmd.Dir = dir
			cmd.Env = append(os.Environ(), "PATH="+filepath.Dir(program)+string(os.PathListSeparator)+
				os.Getenv("PATH"))
			out, err := cmd.CombinedOutput()
			require.NoError(t, err, "%s: %s", command, out)
			assert.Equal(t, strings.TrimSpace(want), strings.TrimSpace(string(out)), command)
			if strings.HasPrefix(command, "ziegel new larkspan") {
				dir = filepath.Join(dir, "larkspan")
			}
			ran++
		}
	}
	require.Positive(t, ran)
}
