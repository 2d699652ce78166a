package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/e2e/endure"
)

// The short form of what `go run ./e2e/cmd/endure` does for hours.
func TestWorkSurvives(t *testing.T) {
	if testing.Short() {
		t.Skip("kills the program at many moments")
	}
	const rounds = 14
	site := func() string {
		dir := t.TempDir() + "/larkspan"
		out, code := endure.Program{Path: program, Dir: t.TempDir()}.Run("demo", dir)
		require.Zero(t, code, out)
		return dir
	}
	t.Run("kills", func(t *testing.T) {
		f := endure.Kill(program, site(), rounds, 1)
		require.Empty(t, f.Faults)
		t.Logf("%d kills: %d done afterwards, %d not at all", f.Rounds, f.Forward, f.Back)
	})
	t.Run("builds", func(t *testing.T) {
		require.Empty(t, endure.KillBuilds(program, site(), rounds/3, 1).Faults)
	})
	t.Run("mixed", func(t *testing.T) {
		f := endure.Mixed(program, site(), rounds)
		require.Empty(t, f.Faults)
		t.Logf("%d rounds: %d with both edits, %d where the editor wrote last", f.Rounds, f.Forward, f.Back)
	})
}
