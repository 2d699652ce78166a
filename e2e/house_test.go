package e2e

import (
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// floors are the rooms of core in the order in which data flows; an import may only point to an earlier one.
var floors = []string{"diag", "parallel", "css/grammar", "markup", "table", "former", "media", "site", "css", "theme",
	"font",
	"library", "records", "layout", "project", "styles", "words", "compose", "address", "sweep", "paint/geom", "paint/display", "paint", "paint/raster", "paint/vector", "naming", "explain", "measure", "motion", "draw", "compare", "review", "search", "adopt", "areas", "build", "store", "publish", "comments", "inbox", "handover", "check", "cure", "stress", "edit", "schema"}

func TestArrowsNeverRunBack(t *testing.T) {
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "../core/...").Output()
	require.NoError(t, err)
	at := map[string]int{}
	for i, f := range floors {
		at["ziegel/core/"+f] = i
	}
	dec := json.NewDecoder(strings.NewReader(string(out)))
	for {
		var pkg struct {
			ImportPath string
			Imports    []string
		}
		if err := dec.Decode(&pkg); err == io.EOF {
			break
		} else {
			require.NoError(t, err)
		}
		here, ok := at[pkg.ImportPath]
		require.True(t, ok, "%s is not on the list of floors: add it where its data flows", pkg.ImportPath)
		for _, imp := range pkg.Imports {
			assert.False(t, strings.HasPrefix(imp, "ziegel/ui") || strings.HasPrefix(imp, "ziegel/cmd"),
				"%s imports %s: core knows no interface", pkg.ImportPath, imp)
			assert.NotContains(t, []string{"github.com/spf13/cobra", "flag", "log"}, imp,
				"%s imports %s: core reads no flags and prints nothing", pkg.ImportPath, imp)
			if there, ok := at[imp]; ok {
				assert.Less(t, there, here,
					"%s imports %s: an arrow runs back (ARCHITECTURE.md, the way of the data)", pkg.ImportPath, imp)
			}
		}
	}
}

// A library that asks the terminal for something when the program starts holds every command up, by seconds where
// nobody answers.
func TestNothingAsksTheTerminalAtTheStart(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "../cmd/ziegel").Output()
	require.NoError(t, err)
	assert.Contains(t, string(out), "charm.land/bubbletea/v2\n")
	assert.NotContains(t, string(out), "github.com/charmbracelet/bubbletea\n")
}

var link = regexp.MustCompile(`\]\(([^)#]+)(?:#[^)]*)?\)`)

func TestLinksInTheDocsResolve(t *testing.T) {
	files, err := filepath.Glob("../*.md")
	require.NoError(t, err)
	for _, below := range []string{"../docs/*.md", "../docs/*/*.md"} {
		more, err := filepath.Glob(below)
		require.NoError(t, err)
		require.NotEmpty(t, more, below)
		files = append(files, more...)
	}
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		for _, m := range link.FindAllStringSubmatch(string(data), -1) {
			if strings.Contains(m[1], "://") {
				continue
			}
			_, err := os.Stat(filepath.Join(filepath.Dir(f), m[1]))
			assert.NoError(t, err, "%s links %s", f, m[1])
		}
	}
}

var testNamed = regexp.MustCompile(`(\./[a-z0-9/]+) -run (?:'([^']+)'|([A-Za-z]+))`)

// Every test that docs/SECURITY.md names is there: a line that nothing tests is a promise.
func TestWhatSecurityNamesIsTested(t *testing.T) {
	data, err := os.ReadFile("../docs/SECURITY.md")
	require.NoError(t, err)
	named := 0
	for _, m := range testNamed.FindAllStringSubmatch(string(data), -1) {
		files, err := filepath.Glob(filepath.Join("..", m[1], "*_test.go"))
		require.NoError(t, err)
		var text strings.Builder
		for _, f := range files {
			source, err := os.ReadFile(f)
			require.NoError(t, err)
			text.Write(source)
		}
		for word := range strings.SplitSeq(m[2]+m[3], "|") {
			named++
			assert.True(t, regexp.MustCompile(`(?m)^func (Test|Fuzz)\w*`+word).MatchString(text.String()),
				"%s has no test called like %s", m[1], word)
		}
	}
	require.Greater(t, named, 20)
}
