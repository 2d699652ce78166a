package e2e

import (
	"fmt"
	"go/ast"
	"go/types"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/go/packages"
)

// recursions are the ways back that files of a package may take: what holds more of its kind comes back to where it
// came from. All other calls between the files of a package run one way.
var recursions = map[string]string{
	"core/layout Engine.layout":      "boxes hold boxes: each layout asks for that of the boxes inside",
	"core/layout Engine.intrinsic":   "the intrinsic size of a box follows from those of the boxes inside",
	"core/paint painter.picture":     "pictures hold drawings, and drawings hold pictures",
	"core/paint drawing.element":     "a shape is filled with a pattern, and patterns hold shapes",
	"core/paint/raster canvas.items": "a group is painted of what it holds, groups too",
	"core/compose filler.fill":       "sections hold blocks, and those have sections",
}

// The program is for three systems; the tests build it for two of them.
func TestTheProgramIsForOtherSystems(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("reads the types of the whole program, and of all that it uses")
	}
	pkgs, err := packages.Load(&packages.Config{Mode: packages.LoadAllSyntax, Dir: "..",
		Env: append(os.Environ(), "GOOS=darwin", "GOARCH=arm64", "CGO_ENABLED=0")}, "./cmd/ziegel")
	require.NoError(t, err)
	read := 0
	packages.Visit(pkgs, nil, func(p *packages.Package) {
		assert.Empty(t, p.Errors, p.PkgPath)
		if strings.HasPrefix(p.PkgPath, "ziegel/") {
			read++
		}
	})
	require.Greater(t, read, 50)
}

// Inside a package the files stand on floors, too: what is shared below, and no file calls up.
func TestFilesCallOneWay(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("reads the types of the whole program")
	}
	pkgs, err := packages.Load(&packages.Config{Mode: packages.LoadSyntax, Dir: ".."}, "./core/...", "./ui/...")
	require.NoError(t, err)
	require.Greater(t, len(pkgs), 20)
	needed := map[string]bool{}
	for _, p := range pkgs {
		require.Empty(t, p.Errors)
		name := strings.TrimPrefix(p.PkgPath, "ziegel/")
		calls := callsBetweenFiles(p)
		for _, circle := range circles(calls, func(what string) bool { return recursions[name+" "+what] != "" }) {
			var lines []string
			for _, from := range circle {
				for _, to := range circle {
					if len(calls[from][to]) > 0 {
						lines = append(lines, fmt.Sprintf("  %s uses %s of %s", from,
							strings.Join(slices.Sorted(maps.Keys(calls[from][to])), ", "), to))
					}
				}
			}
			t.Errorf("%s: files call each other in a circle; move what both use into the lower one, or what calls up into the upper one:\n%s", name, strings.Join(lines, "\n"))
		}
		for _, circle := range circles(calls, func(string) bool { return false }) {
			for _, from := range circle {
				for _, to := range circle {
					for what := range calls[from][to] {
						needed[name+" "+what] = true
					}
				}
			}
		}
	}
	for what := range recursions {
		assert.True(t, needed[what], "%s is in no circle any more: take it off the list", what)
	}
}

// callsBetweenFiles tells which file of a package uses what of which other one: functions, methods, types, variables
// and constants of the package. Methods of interfaces lead nowhere.
func callsBetweenFiles(p *packages.Package) map[string]map[string]map[string]bool {
	fileOf := func(o types.Object) string { return filepath.Base(p.Fset.Position(o.Pos()).Filename) }
	calls := map[string]map[string]map[string]bool{}
	for i, f := range p.Syntax {
		from := filepath.Base(p.CompiledGoFiles[i])
		calls[from] = map[string]map[string]bool{}
		ast.Inspect(f, func(n ast.Node) bool {
			id, ok := n.(*ast.Ident)
			if !ok {
				return true
			}
			o := p.TypesInfo.Uses[id]
			if o == nil || o.Pkg() != p.Types {
				return true
			}
			what := o.Name()
			if fn, ok := o.(*types.Func); ok && fn.Signature().Recv() != nil {
				recv := fn.Signature().Recv().Type()
				if types.IsInterface(recv) {
					return true
				}
				what = strings.TrimPrefix(types.TypeString(recv, func(*types.Package) string { return "" }),
					"*") + "." + what
			} else if o.Parent() != p.Types.Scope() {
				return true
			}
			if to := fileOf(o); to != from {
				if calls[from][to] == nil {
					calls[from][to] = map[string]bool{}
				}
				calls[from][to][what] = true
			}
			return true
		})
	}
	return calls
}

// circles gives the groups of files that reach each other (Tarjan's strongly connected components), by calls of all
// that is not spared.
func circles(calls map[string]map[string]map[string]bool, spared func(what string) bool) [][]string {
	index, low, on := map[string]int{}, map[string]int{}, map[string]bool{}
	var stack []string
	var out [][]string
	var visit func(file string)
	visit = func(file string) {
		index[file] = len(index) + 1
		low[file] = index[file]
		stack, on[file] = append(stack, file), true
		for to, used := range calls[file] {
			if !slices.ContainsFunc(slices.Collect(maps.Keys(used)),
				func(what string) bool { return !spared(what) }) {
				continue
			}
			if index[to] == 0 {
				visit(to)
				low[file] = min(low[file], low[to])
			} else if on[to] {
				low[file] = min(low[file], index[to])
			}
		}
		if low[file] < index[file] {
			return
		}
		at := slices.Index(stack, file)
		group := slices.Clone(stack[at:])
		stack = stack[:at]
		for _, f := range group {
			on[f] = false
		}
		if len(group) > 1 {
			slices.Sort(group)
			out = append(out, group)
		}
	}
	for _, file := range slices.Sorted(maps.Keys(calls)) {
		if index[file] == 0 {
			visit(file)
		}
	}
	return out
}

func TestCirclesAreFound(t *testing.T) {
	uses := func(what string) map[string]bool { return map[string]bool{what: true} }
	calls := map[string]map[string]map[string]bool{
		"a.go": {"b.go": uses("b")},
		"b.go": {"c.go": uses("c"), "d.go": uses("d")},
		"c.go": {"a.go": uses("a")},
		"d.go": {},
	}
	assert.Equal(t, [][]string{{"a.go", "b.go", "c.go"}}, circles(calls, func(string) bool { return false }))
	assert.Empty(t, circles(calls, func(what string) bool { return what == "a" }))
}
