package adopt_test

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/adopt"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "write what pages become")

// written writes what a page became, for reading.
func written(t *adopt.Taking) string {
	var b strings.Builder
	band := func(x *adopt.Band) {
		fmt.Fprintf(&b, "%s %s %.0f%% %s\n", x.Name, x.Section, 100*x.Share, x.Tone)
		for _, o := range x.Options {
			fmt.Fprintf(&b, "    %s=%s\n", o.Key, o.Value.Str())
		}
		var walk func(at string, v *site.Value)
		walk = func(at string, v *site.Value) {
			switch v.Kind {
			case site.Text:
				fmt.Fprintf(&b, "    %s: %s\n", at, strings.ReplaceAll(v.Text, "\n", "⏎"))
			case site.List:
				for i, e := range v.Items {
					walk(fmt.Sprintf("%s[%d]", at, i+1), e)
				}
			default:
				if v.Get("to") != nil && v.Get("label") != nil {
					fmt.Fprintf(&b, "    %s: %s -> %s\n", at, v.Get("label").Str(), v.Get("to").Str())
					return
				}
				if v.Get("file") != nil {
					fmt.Fprintf(&b, "    %s: %s %q\n", at, v.Get("file").Str(), v.Get("alt").Str())
					return
				}
				for _, e := range v.Entries {
					walk(strings.TrimPrefix(at+"."+e.Key, "."), e.Value)
				}
			}
		}
		walk("", x.Content)
		for _, l := range x.Lost {
			fmt.Fprintf(&b, "    LOST %s\n", l)
		}
	}
	for _, x := range t.Top {
		band(x)
	}
	for _, p := range t.Pages {
		fmt.Fprintf(&b, "== %s: %s\n", p.Name, p.Title)
		for _, x := range p.Bands {
			band(x)
		}
		for _, l := range p.Left {
			fmt.Fprintf(&b, "left out: %s\n", l.What)
		}
	}
	for _, x := range t.Bottom {
		band(x)
	}
	return b.String()
}

// TestPagesOfManyHands holds what pages in many hand-writing styles become: which section, and what in which field.
func TestPagesOfManyHands(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	const dir = "testdata/pages"
	files, err := filepath.Glob(dir + "/*.html")
	require.NoError(t, err)
	shelf, _, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			got, err := adopt.Take(
				shelf,
				adopt.Wanted{Folder: os.DirFS(dir), Files: []string{filepath.Base(file)}, To: "home"},
			)
			require.NoError(t, err)
			golden := strings.TrimSuffix(file, ".html") + ".golden"
			if *update {
				require.NoError(t, os.WriteFile(golden, []byte(written(got)), 0o666))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			require.Equal(t, string(want), written(got))
		})
	}
}
