// Package mutants breaks Go code in places that a rule chooses.
package mutants

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
)

// Mutant is one file with one fault.
type Mutant struct {
	Package string // core/layout
	File    string
	Line    int
	What    string // the change: before and after
	Source  []byte // of the whole file
}

func (m Mutant) String() string { return fmt.Sprintf("%s:%d", m.File, m.Line) }

// place is where a file can be broken: bytes from, to get another text.
type place struct {
	from, to int
	text     string
	line     int
	key      string
}

// Choose gives n mutants of the packages below root, spread over them by how much code they have. The same code gives
// the same mutants: places are taken in the order of a hash of what stands there.
func Choose(root string, dirs []string, n int) ([]Mutant, error) {
	if dirs == nil {
		var err error
		if dirs, err = packages(root); err != nil {
			return nil, err
		}
	}
	type found struct {
		dir, file string
		place
	}
	var all []found
	for _, dir := range dirs {
		files, err := filepath.Glob(filepath.Join(root, dir, "*.go"))
		if err != nil {
			return nil, err
		}
		for _, file := range files {
			if strings.HasSuffix(file, "_test.go") {
				continue
			}
			src, err := os.ReadFile(file)
			if err != nil {
				return nil, err
			}
			places, err := Places(src)
			if err != nil {
				return nil, err
			}
			for _, p := range places {
				all = append(all, found{dir, file, p})
			}
		}
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].key < all[j].key })
	var out []Mutant
	for _, f := range all {
		if len(out) == n {
			break
		}
		src, err := os.ReadFile(f.file)
		if err != nil {
			return nil, err
		}
		broken := bytes.Join([][]byte{src[:f.from], []byte(f.text), src[f.to:]}, nil)
		if _, err := format.Source(broken); err != nil {
			continue // no Go any more
		}
		before := strings.Join(strings.Fields(string(src[f.from:f.to])), " ")
		out = append(out, Mutant{Package: filepath.ToSlash(f.dir), File: filepath.ToSlash(f.file), Line: f.line,
			What: shortened(before) + " → " + orNothing(f.text), Source: broken})
	}
	return out, nil
}

func shortened(s string) string {
	if r := []rune(s); len(r) > 70 {
		return string(r[:70]) + "…"
	}
	return s
}

func orNothing(s string) string {
	if s == "" {
		return "nothing"
	}
	return shortened(s)
}

// packages lists the folders of the core that hold Go files.
func packages(root string) ([]string, error) {
	seen := map[string]bool{}
	err := filepath.WalkDir(filepath.Join(root, "core"), func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && strings.HasSuffix(p, ".go") && !strings.Contains(p, "testdata") {
			rel, rerr := filepath.Rel(root, filepath.Dir(p))
			seen[rel] = true
			return rerr
		}
		return err
	})
	var out []string
	for d := range seen {
		out = append(out, d)
	}
	sort.Strings(out)
	return out, err
}

var turned = map[token.Token]token.Token{token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ,
	token.GEQ: token.GTR}

// Places lists where a file can be broken: conditions of ifs turned round, statements left out, bounds and steps off
// by one.
func Places(src []byte) ([]place, error) {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, "x.go", src, parser.SkipObjectResolution)
	if err != nil {
		return nil, err
	}
	var out []place
	name := ""
	add := func(from, to token.Pos, text string) {
		a, b := set.Position(from), set.Position(to)
		sum := sha256.Sum256([]byte(name + "\x00" + string(src[a.Offset:b.Offset]) + "\x00" + text + "\x00" +
			strconv.Itoa(len(out))))
		out = append(out, place{a.Offset, b.Offset, text, a.Line, hex.EncodeToString(sum[:8])})
	}
	text := func(n ast.Node) string { return string(src[set.Position(n.Pos()).Offset:set.Position(n.End()).Offset]) }
	for _, d := range file.Decls {
		f, ok := d.(*ast.FuncDecl)
		if !ok || f.Body == nil {
			continue
		}
		name = f.Name.Name
		ast.Inspect(f.Body, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.IfStmt:
				if !isErrCheck(n.Cond) {
					add(n.Cond.Pos(), n.Cond.End(), "!("+text(n.Cond)+")")
				}
			case *ast.BinaryExpr:
				if t, ok := turned[n.Op]; ok {
					add(n.OpPos, n.OpPos+token.Pos(len(n.Op.String())), t.String())
				}
				if lit, ok := n.Y.(*ast.BasicLit); ok && lit.Kind == token.INT &&
					(n.Op == token.ADD || n.Op == token.SUB) {
					if v, err := strconv.Atoi(lit.Value); err == nil {
						add(lit.Pos(), lit.End(), strconv.Itoa(v+1))
					}
				}
			case *ast.BlockStmt:
				for _, s := range n.List {
					switch s := s.(type) {
					case *ast.ExprStmt, *ast.IncDecStmt:
						add(s.Pos(), s.End(), "")
					case *ast.AssignStmt:
						if s.Tok != token.DEFINE {
							add(s.Pos(), s.End(), "")
						}
					}
				}
			}
			return true
		})
	}
	return out, nil
}

// isErrCheck reports err != nil and the like: a mutant of it says little about what the code is for.
func isErrCheck(e ast.Expr) bool {
	b, ok := e.(*ast.BinaryExpr)
	if !ok {
		return false
	}
	x, ok := b.X.(*ast.Ident)
	return ok && (x.Name == "err" || x.Name == "ok")
}
