package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/rogpeppe/go-internal/txtar"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/e2e/browser"
)

// The widths at which faults in foreign hand-writing show are asked of the browser, every one of them; core/check
// holds that the check finds them there. -update records them anew.
func TestFaultsOfForeignPagesInChromium(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	data, err := os.ReadFile("../core/check/testdata/faults.txtar")
	require.NoError(t, err)
	root, face := probeFolder(t)
	files := map[string]string{}
	var names []string
	for _, f := range txtar.Parse(data).Files {
		files[f.Name] = string(f.Data)
		if name, ok := strings.CutSuffix(f.Name, ".js"); ok {
			names = append(names, name)
		}
	}
	type job struct {
		Probe  string
		Widths []int
	}
	const from, to = 240, 420
	var recorded []string
	for start := 0; start < len(names); start += 24 { // so many frames at once
		some := names[start:min(start+24, len(names))]
		var jobs []job
		frames := ""
		for _, name := range some {
			j := job{Probe: files[name+".js"]}
			for w := from; w <= to; w++ {
				j.Widths = append(j.Widths, w)
			}
			jobs = append(jobs, j)
			file := strings.ReplaceAll(name, "/", "-") + ".html"
			require.NoError(t, os.WriteFile(filepath.Join(root, file),
				[]byte("<!doctype html><style>"+face+"body{margin:0;font:16px/1.5 'Instrument Sans'}</style>"+
					files[name+".html"]), 0o666))
			frames += fmt.Sprintf(`<iframe src="/%s" style="border:0;height:900px"></iframe>`,
				html.EscapeString(file))
		}
		asked, err := json.Marshal(jobs)
		require.NoError(t, err)
		ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
		answer, err := browser.Ask(ctx, root, fmt.Sprintf(askProbes, asked, frames), false)
		cancel()
		require.NoError(t, err)
		var got [][]bool
		require.NoError(t, json.Unmarshal([]byte(answer), &got), answer)
		for i, name := range some {
			var spans []string
			for k := 0; k < len(got[i]); k++ {
				if !got[i][k] {
					continue
				}
				end := k
				for end+1 < len(got[i]) && got[i][end+1] {
					end++
				}
				spans = append(spans, fmt.Sprintf("%d..%d", from+k, from+end))
				k = end
			}
			assert.NotEmpty(t, spans, "%s: the browser does not show the fault at any width", name)
			recorded = append(recorded, name+" "+strings.Join(spans, " "))
		}
	}
	text := strings.Join(recorded, "\n") + "\n"
	const file = "../core/check/testdata/faults.txt"
	if *update {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o666))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), text)
	fmt.Printf("%d pages with faults asked of the browser at %d widths each\n", len(names), to-from+1)
}
