package e2e

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/rogpeppe/go-internal/testscript"

	"ziegel/internal/testsite"
)

// program is the built program that the scripts drive.
var program string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "ziegel-e2e")
	if err != nil {
		panic(err)
	}
	program = filepath.Join(dir, "ziegel")
	cmd := exec.Command("go", "build", "-o", program, "../cmd/ziegel")
	cmd.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := cmd.CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "build: %v\n%s", err, out)
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

// TestScripts runs the program on files in temporary folders: testdata/script/*.txtar.
func TestScripts(t *testing.T) {
	t.Parallel()
	dir, files := "testdata/script", []string(nil)
	if testing.Short() { // that the program runs
		dir, files = "", []string{"testdata/script/measure.txtar"}
	}
	testscript.Run(t, testscript.Params{
		Dir: dir, Files: files,
		Setup: func(env *testscript.Env) error {
			env.Setenv("PATH", filepath.Dir(program)+string(os.PathListSeparator)+env.Getenv("PATH"))
			fonts, err := filepath.Abs("../stock/fonts")
			env.Setenv("FONTS", fonts)
			return err
		},
		Condition: func(name string) (bool, error) {
			if name != "thorough" { // what a night has time for
				return false, fmt.Errorf("unknown condition %q", name)
			}
			return testsite.Thorough(), nil
		},
		Cmds: map[string]func(ts *testscript.TestScript, neg bool, args []string){
			"together": together,
			"unlike":   unlike,
			"mkphoto":  mkphoto,
		},
	})
}

// mkphoto writes a JPEG or PNG with something on every spot: "mkphoto FILE WIDTH HEIGHT".
func mkphoto(ts *testscript.TestScript, _ bool, args []string) {
	var w, h int
	_, err := fmt.Sscan(args[1]+" "+args[2], &w, &h)
	ts.Check(err)
	data, err := noise(strings.TrimPrefix(filepath.Ext(args[0]), "."), w, h)
	ts.Check(err)
	name := ts.MkAbs(args[0])
	ts.Check(os.MkdirAll(filepath.Dir(name), 0o777))
	ts.Check(os.WriteFile(name, data, 0o666))
}

// noise makes a JPEG or PNG with something on every spot.
func noise(format string, w, h int) ([]byte, error) {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range img.Pix {
		img.Pix[i] = byte(i*7/3 ^ i/w)
		if i%4 == 3 {
			img.Pix[i] = 255
		}
	}
	var buf bytes.Buffer
	if format == "png" {
		err := png.Encode(&buf, img)
		return buf.Bytes(), err
	}
	err := jpeg.Encode(&buf, img, nil)
	return buf.Bytes(), err
}

// together runs the same kind of edit many times at once: "together N ARG...", with %d in an argument counted up.
// Every run must end well.
func together(ts *testscript.TestScript, _ bool, args []string) {
	var n int
	_, err := fmt.Sscan(args[0], &n)
	ts.Check(err)
	var wg sync.WaitGroup
	failed := make([]string, n)
	slots := make(chan struct{}, 16)
	for i := range n {
		wg.Add(1)
		go func() {
			defer wg.Done()
			slots <- struct{}{}
			defer func() { <-slots }()
			var a []string
			for _, s := range args[1:] {
				a = append(a, strings.ReplaceAll(s, "%d", fmt.Sprint(i)))
			}
			cmd := exec.Command(program, a...)
			cmd.Dir = ts.Getenv("WORK")
			if out, err := cmd.CombinedOutput(); err != nil {
				failed[i] = fmt.Sprintf("run %d: %v\n%s", i, err, out)
			}
		}()
	}
	wg.Wait()
	if all := strings.Join(failed, ""); all != "" {
		ts.Fatalf("%s", all)
	}
}

// unlike checks that two files differ in exactly as many lines: "unlike N OLD NEW".
func unlike(ts *testscript.TestScript, _ bool, args []string) {
	a, b := strings.Split(ts.ReadFile(args[1]), "\n"), strings.Split(ts.ReadFile(args[2]), "\n")
	if len(a) != len(b) {
		ts.Fatalf("%d lines became %d", len(a), len(b))
	}
	n := 0
	for i := range a {
		if a[i] != b[i] {
			n++
		}
	}
	if fmt.Sprint(n) != args[0] {
		ts.Fatalf("%d lines differ, want %s", n, args[0])
	}
}
