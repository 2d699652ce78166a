package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
)

// faults are edits of the demo site that each break one rule, and widths at which they do.
var faults = []struct {
	rule     string
	from, to int
	edit     string
}{
	{"overflow-x", 300, 400, "style home/reasons.card width=500px"},
	{"text-spills", 300, 400, "style home/plans.title width=40px white-space=nowrap"},
	{"text-clipped", 300, 400, "style home/opening.lead height=2rem overflow=hidden"},
	{"text-overlaps", 300, 400, "style home/opening.lead margin-top=-5rem"},
	{"screen-edge", 300, 400, "style home/opening.words margin-inline=-1.2rem"},
	{"line-too-short", 300, 400, "style home/reasons.text max-width=80px"},
	{"word-broken", 300, 400, "style home/opening.heading font-size=120px overflow-wrap=anywhere"},
	{"text-small", 300, 360, "style home/plans.unit font-size=9px"},
	{"heading-long", 300, 360, "style home/reasons.heading max-width=6rem"},
	{"lead-over-title", 300, 360, "style home/opening.lead font-size=4rem"},
	{"target-touch", 300, 360, "style home/opening.action min-height=30px padding-block=0"},
	{"contrast-low", 300, 360, "style home/opening.lead color=#ccc"},
	{"picture-distorted", 300, 360, "style home/opening.picture object-fit=fill aspect-ratio=2"},
	{"content-hidden", 560, 640, "style home/opening.lead display=none --at phone"},
	{"screen-order", 300, 360, "style home/plans.card[1] order=1"},
	{"off-lanes", 300, 360, "style home/reasons.words margin-inline-start=12px"},
	{"heading-adrift", 300, 360, "style home/plans.heading margin-bottom=14rem"},
	{"room-small", 300, 360, "style home/opening.lead height=7.5rem"},
	{"off-one-line", 1300, 1360, "style home/plans.card grid-template-rows=none"},
	{"height-cut", 480, 540, "style home/menu.bar position=sticky top=0 height=400px"},
}

// TestCuresRemoveTheirFindingAndRaiseNone breaks the demo site, lets the program cure it and checks it anew.
func TestCuresRemoveTheirFindingAndRaiseNone(t *testing.T) {
	if testing.Short() {
		t.Skip("heals twenty faults with the built program")
	}
	for _, f := range faults {
		t.Run(f.rule, func(t *testing.T) {
			t.Parallel()
			dir := filepath.Join(t.TempDir(), "larkspan")
			require.NoError(t, os.CopyFS(dir, os.DirFS("../stock/demo")))
			run := func(args ...string) string {
				cmd := exec.Command(program, append(args, "--site", dir)...)
				out, err := cmd.Output()
				if exit, ok := err.(*exec.ExitError); ok && exit.ExitCode() == 2 {
					require.NoError(t, err, string(exit.Stderr))
				}
				return string(out)
			}
			span := []string{"--from", fmt.Sprint(f.from), "--to", fmt.Sprint(f.to)}
			checked := func() *check.Report {
				var r check.Report
				require.NoError(t, json.Unmarshal([]byte(run(append([]string{"check", "home", "--json"},
					span...)...)), &r))
				return &r
			}
			subjects := func(r *check.Report) map[string]bool {
				out := map[string]bool{}
				for _, x := range r.Findings {
					out[fmt.Sprintf("%s %s.%s[%d]", x.Rule, x.Block, x.Part, x.Item)] = true
				}
				return out
			}
			has := func(r *check.Report) bool {
				for _, x := range r.Findings {
					if x.Rule == f.rule {
						return true
					}
				}
				return false
			}
			clean := subjects(checked())
			run(append(strings.Fields(f.edit), "--quiet")...)
			require.True(t, has(checked()), "the fault is not found")
			suggested := run(append([]string{"check", "home", "--suggest"}, span...)...)
			assert.Contains(t, suggested, "cure:  ziegel ")
			applied := run(append([]string{"check", "home", "--suggest", "--apply"}, span...)...)
			assert.Contains(t, applied, "applied: ziegel ")
			after := checked()
			assert.False(t, has(after), applied)
			for s := range subjects(after) {
				assert.True(t, clean[s], "new: %s\n%s", s, applied)
			}
		})
	}
}
