// Package endure does to the built program what users, editors and machines do to it by accident: it kills writing
// commands at random moments, edits by commands and by hand at the same time, and gives bad input. It says what came
// of it.
package endure

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// Figures are what came of some rounds. Faults tell what should not have happened.
type Figures struct {
	Rounds, Forward, Back int // of kills: how often the step was done afterwards, and how often it was not
	Faults                []string
}

func (f *Figures) fault(format string, args ...any) {
	f.Faults = append(f.Faults, fmt.Sprintf(format, args...))
}

// Program runs the built program in a site.
type Program struct{ Path, Dir string }

// Run runs a command to its end.
func (p Program) Run(args ...string) (string, int) {
	cmd := exec.Command(p.Path, args...)
	cmd.Dir = p.Dir
	out, err := cmd.CombinedOutput()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		return err.Error(), -1
	}
	return string(out), cmd.ProcessState.ExitCode()
}

// Snapshot reads all files of a site but those of its own memory.
func Snapshot(dir string) map[string]string {
	out := map[string]string{}
	_ = filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() && d.Name() == ".ziegel" {
			return filepath.SkipDir
		}
		if err == nil && !d.IsDir() {
			data, _ := os.ReadFile(p)
			rel, _ := filepath.Rel(dir, p)
			out[filepath.ToSlash(rel)] = string(data)
		}
		return nil
	})
	return out
}

func equal(a, b map[string]string) bool {
	if len(a) != len(b) {
		return false
	}
	for n, s := range a {
		if t, ok := b[n]; !ok || s != t {
			return false
		}
	}
	return true
}

// kills are commands that write, each with what sets the scene and what takes it back. They write one file or
// several.
var kills = [][][]string{
	{nil, {"set", "home/opening", "heading=Killed"}, {"undo"}},
	{nil, {"rename", "home/reasons", "causes"}, {"undo"}},
	{nil, {"copy", "home/plans", "courses", "--as", "winter"}, {"undo"}},
	{{"rename", "home/reasons", "causes"}, {"undo"}, {"redo"}},
	{nil, {"style", "home/reasons.card", "padding=3rem", "--for", "section"}, {"undo"}},
	{nil, {"ranges", "--rename", "phone=small"}, {"undo"}},
	{nil, {"theme", "space.section=6rem"}, {"undo"}},
}

// Kill kills writing commands at random moments, seeded, and looks whether each step was done as a whole or not at
// all, whether the site can be read, and whether the step can be taken back.
func Kill(program string, dir string, rounds int, seed uint64) Figures {
	random := rand.New(rand.NewPCG(seed, 1))
	var f Figures
	p := Program{program, dir}
	for round := range rounds {
		k := kills[round%len(kills)]
		if k[0] != nil {
			if out, code := p.Run(append(k[0], "--quiet")...); code != 0 {
				f.fault("%v: %s", k[0], out)
				return f
			}
		}
		before := Snapshot(dir)
		start := time.Now()
		out, code := p.Run(append(k[1], "--quiet")...) // once whole, to know what comes of it and how long it takes
		if code != 0 {
			f.fault("%v: %s", k[1], out)
			return f
		}
		took, after := time.Since(start), Snapshot(dir)
		if out, code := p.Run(append(k[2], "--quiet")...); code != 0 || !equal(Snapshot(dir), before) {
			f.fault("%v after %v: %s", k[2], k[1], out)
			return f
		}
		ctx, cancel := context.WithTimeout(context.Background(), time.Duration(random.Float64()*1.1*float64(took)))
		cmd := exec.CommandContext(ctx, program, append(k[1], "--quiet")...)
		cmd.Dir = dir
		_ = cmd.Run()
		cancel()
		f.Rounds++
		if out, code := p.Run("show"); code != 0 { // puts right what was left
			f.fault("round %d: after a kill of %v the site cannot be read: %s", round, k[1], out)
			return f
		}
		switch now := Snapshot(dir); {
		case equal(now, before):
			f.Back++
		case equal(now, after):
			f.Forward++
			if out, code := p.Run(append(k[2], "--quiet")...); code != 0 || !equal(Snapshot(dir), before) {
				f.fault("round %d: after a kill of %v, %v does not bring back what was: %s", round, k[1], k[2], out)
				return f
			}
		default:
			f.fault("round %d: a kill of %v left a mixed state", round, k[1])
			return f
		}
		if k[0] != nil { // as it was before the scene was set
			if out, code := p.Run("undo", "--quiet"); code != 0 {
				f.fault("round %d: undo of %v: %s", round, k[0], out)
				return f
			}
		}
	}
	return f
}

// KillBuilds kills builds, edits, and builds again: every file has to be new, none is said to be changed by hand, and
// nothing half written is left.
func KillBuilds(program, dir string, rounds int, seed uint64) Figures {
	random := rand.New(rand.NewPCG(seed, 2))
	var f Figures
	p := Program{program, dir}
	start := time.Now()
	_, _ = p.Run("build")
	took := time.Since(start)
	for round := range rounds {
		_, _ = p.Run("set", "home/opening", fmt.Sprintf("heading=Round %d", round), "--quiet")
		ctx, cancel := context.WithTimeout(context.Background(), time.Duration(random.Float64()*1.1*float64(took)))
		cmd := exec.CommandContext(ctx, program, "build")
		cmd.Dir = dir
		_ = cmd.Run()
		cancel()
		f.Rounds++
		_, _ = p.Run("set", "home/opening", fmt.Sprintf("heading=Round %d again", round), "--quiet")
		out, code := p.Run("build")
		page, _ := os.ReadFile(filepath.Join(dir, "built", "index.html"))
		if code != 0 || strings.Contains(out, "changed by hand") ||
			!bytes.Contains(page, []byte(fmt.Sprintf("Round %d again", round))) {
			f.fault("round %d: the build after one that was killed: %s", round, out)
			return f
		}
		for name := range Snapshot(filepath.Join(dir, "built")) {
			if strings.HasPrefix(filepath.Base(name), ".ziegel-") {
				f.fault("round %d: %s is left", round, name)
				return f
			}
		}
	}
	return f
}

// Mixed edits one page by commands and by hand at the same time. Each hand adds a line of its own to a comment at the
// end of the file, each command sets another field: no edit may be lost without a word.
func Mixed(program, dir string, rounds int) Figures {
	var f Figures
	p := Program{program, dir}
	file := filepath.Join(dir, "pages", "courses.yaml")
	for round := range rounds {
		var wg sync.WaitGroup
		hand := fmt.Sprintf("# by hand %d", round)
		var out string
		code := 0
		wg.Go(func() {
			out, code = p.Run("set", "courses/opening", fmt.Sprintf("heading=By command %d", round), "--quiet")
		})
		wg.Go(func() {
			time.Sleep(time.Duration(round%40) * time.Millisecond)
			data, err := os.ReadFile(file)
			if err == nil { // as editors do: another file takes the name
				tmp := file + "~"
				_ = os.WriteFile(tmp, append(data, []byte(hand+"\n")...), 0o666)
				_ = os.Rename(tmp, file)
			}
		})
		wg.Wait()
		f.Rounds++
		data, _ := os.ReadFile(file)
		byHand, byCommand := strings.Contains(string(data), hand),
			strings.Contains(string(data), fmt.Sprintf("By command %d", round))
		switch {
		case !byHand:
			f.fault("round %d: what was saved by hand is lost", round)
		// the editor wrote what it had read before: that is the editor's, and the journal has the command's
		case !byCommand && code == 0:
			if history, _ := filepath.Glob(filepath.Join(dir, ".ziegel", "history", "*.json")); len(history) == 0 {
				f.fault("round %d: what the command did is lost: %s", round, out)
			}
			f.Back++
		default:
			f.Forward++
		}
	}
	return f
}
