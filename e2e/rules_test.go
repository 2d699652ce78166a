package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/rogpeppe/go-internal/txtar"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
)

// askProbes opens every page in a frame and asks its probe at each width.
const askProbes = `<!doctype html><body></body><script>
const jobs = %s;
window.onload = () => {
  const out = [...document.querySelectorAll("iframe")].map((f, i) => jobs[i].Widths.map(w => {
    f.style.width = w + "px";
    f.offsetWidth + f.contentDocument.body.offsetWidth; // lays both out
    const d = f.contentDocument, q = s => d.querySelector(s), box = s => q(s).getBoundingClientRect();
    const lines = s => { const r = d.createRange(); r.selectNodeContents(q(s)); return new Set([...r.getClientRects()].map(c => c.top)).size; };
    const cs = (s, pseudo) => f.contentWindow.getComputedStyle(q(s), pseudo);
    const at = v => { f.style.width = v + "px"; f.offsetWidth + d.body.offsetWidth; };
    return new Function("d", "w", "q", "box", "lines", "at", "cs", jobs[i].Probe)(d, w, q, box, lines, at, cs);
  }));
  document.body.textContent = JSON.stringify(out);
};
</script>%s`

// TestChromiumAgreesWithTheSpansOfRules asks the browser about the fault one pixel inside and outside each end of the
// span that a rule reports.
func TestChromiumAgreesWithTheSpansOfRules(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("-short leaves the browser out")
	}
	data, err := os.ReadFile("../core/check/testdata/rules.txtar")
	require.NoError(t, err)
	pages := map[string]string{}
	var order []string
	for _, f := range txtar.Parse(data).Files {
		pages[f.Name] = string(f.Data)
		if strings.Contains(f.Name, "/probe") {
			order = append(order, f.Name)
		}
	}
	root, face := probeFolder(t)
	type job struct {
		Rule, Probe, File string
		Widths            []int
	}
	var jobs []job
	for _, name := range order {
		rule, which, _ := strings.Cut(name, "/probe")
		which = strings.TrimSuffix(which, ".js")
		file := filepath.Join(root, rule+which+".html")
		text := "<!doctype html><style>" + face +
			"body{margin:0;font:16px/1.5 'Instrument Sans'}</style><main><section>" +
			pages[rule+"/fault"+which+".html"] + "</section></main>"
		require.NoError(t, os.WriteFile(file, []byte(text), 0o666))
		l, err := sweep.FromFile(file, stock.Files)
		require.NoError(t, err)
		from, to := 240, 420
		if rule == "height-cut" {
			from, to = 470, 520
		}
		j := job{Rule: rule, Probe: pages[name], File: rule + which}
		for _, f := range check.Run(l, nil, nil, from, to).Findings {
			if f.Rule == rule {
				j.Widths = []int{f.From - 1, f.From, f.From + 1, f.To - 1, f.To, f.To + 1}
				for i, w := range j.Widths {
					if w < from || w > to {
						j.Widths[i] = f.From // the span ends where the check did
					}
				}
				break
			}
		}
		require.NotEmpty(t, j.Widths, j.File)
		jobs = append(jobs, j)
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	got := make([][]bool, len(jobs))
	for _, scrollbars := range []bool{false, true} {
		var some []job
		var which []int
		frames := ""
		for i, j := range jobs {
			if (j.Rule == "overflow-scrollbar") == scrollbars {
				some, which = append(some, j), append(which, i)
				frames += fmt.Sprintf(`<iframe src="/%s.html" style="border:0;height:900px"></iframe>`,
					html.EscapeString(j.File))
			}
		}
		asked, err := json.Marshal(some)
		require.NoError(t, err)
		answer, err := browser.Ask(ctx, root, fmt.Sprintf(askProbes, asked, frames), scrollbars)
		require.NoError(t, err)
		var part [][]bool
		require.NoError(t, json.Unmarshal([]byte(answer), &part), answer)
		for k, i := range which {
			got[i] = part[k]
		}
	}
	ends := 0
	for i, j := range jobs {
		for k, w := range j.Widths {
			within := w >= j.Widths[1] && w <= j.Widths[4]
			assert.Equal(t, within, got[i][k], "%s at %d: our span is %d..%d", j.File, w, j.Widths[1], j.Widths[4])
			ends++
		}
	}
	require.Greater(t, ends, 100)
	fmt.Printf("%d pages with faults asked of the browser at %d widths around the ends of their spans\n",
		len(jobs), ends)
}

// probeFolder makes a folder with what the pages with faults name, and the rules that bring its font.
func probeFolder(t *testing.T) (root, face string) {
	t.Helper()
	root = t.TempDir()
	for _, weight := range []string{"400", "600"} {
		name := "instrument-sans-" + weight + ".woff2"
		font, err := stock.Files.ReadFile("fonts/" + name)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(root, name), font, 0o666))
		face += fmt.Sprintf("@font-face{font-family:'Instrument Sans';font-weight:%s;src:url(%s)}", weight, name)
	}
	small, err := os.Create(filepath.Join(root, "small.png"))
	require.NoError(t, err)
	require.NoError(t, png.Encode(small, image.NewGray(image.Rect(0, 0, 100, 50))))
	require.NoError(t, small.Close())
	return root, face
}
