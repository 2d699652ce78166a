package e2e

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/comments"
	"ziegel/e2e/browser"
	"ziegel/ui/cli"
)

// A client says something by keyboard alone, on a desk and on a phone; the page gives it back as annotations that the
// site takes.
func TestAClientCommentsByKeyboard(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	require.NotEmpty(t, browser.Path(), "no Chromium: `make test` installs it, or set ZIEGEL_CHROMIUM")
	dir := filepath.Join(t.TempDir(), "site")
	run := func(args ...string) string {
		var out bytes.Buffer
		require.Zero(t, cli.Run(args, strings.NewReader(""), &out, &out), "%v: %s", args, &out)
		return out.String()
	}
	run("demo", dir)
	file := filepath.Join(t.TempDir(), "review.html")
	run("share", "home", "--to", file, "--site", dir)
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Less(t, info.Size(), int64(2e6), "one light file")

	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Minute)
	defer cancel()
	for i, width := range []int{1280, 390} {
		// the name is reached by the tab key; the page in its frame is passed on the way
		hops := 0
		for ; hops < 60; hops++ {
			at, err := browser.Keys(
				ctx,
				file,
				width,
				[]string{strings.Repeat("\t", 20+hops)},
				"document.activeElement.id",
			)
			require.NoError(t, err)
			if at == "name" {
				break
			}
		}
		require.Less(t, hops, 60, "the form is reached by keyboard at %d px", width)
		said, err := browser.Keys(
			ctx,
			file,
			width,
			[]string{
				strings.Repeat("\t", 20+hops),
				"Mara Toft",
				"\t",
				"all of reasons",
				"\t",
				"Larger icons?",
				"\t",
				"\r",
			},
			"whole()",
		)
		require.NoError(t, err)
		doc, err := comments.Read("mara.json", []byte(said))
		require.NoError(t, err)
		require.Len(t, doc.Items, 1)
		a := doc.Items[0]
		assert.Equal(t, "Mara Toft", a.By())
		assert.Equal(t, "Larger icons?", a.Body.Value)
		assert.Equal(t, "reasons", a.Target.Place())
		taken := filepath.Join(t.TempDir(), "mara.json")
		require.NoError(t, os.WriteFile(taken, []byte(said), 0o666))
		assert.Contains(t, run("share", "--take", taken, "--site", dir), "took 1 comment")
		assert.Contains(t, run("todo", "--site", dir), "home/reasons: comment "+string(rune('1'+i))+", Mara Toft")
	}
}
