package publish

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/rogpeppe/go-internal/lockedfile"

	"ziegel/core/diag"
)

// archive is a place that is one file. Earlier ones stay in site.zip.states.
type archive struct{ file string }

func (a *archive) states() string { return a.file + ".states" }

func (a *archive) end() string {
	if strings.HasSuffix(a.file, ".zip") {
		return ".zip"
	}
	return ".tar.gz"
}

func (a *archive) States(context.Context) ([]State, error) {
	list, err := os.ReadDir(a.states())
	if err != nil {
		if errors.Is(err, os.ErrNotExist) {
			return nil, nil
		}
		return nil, err
	}
	seen, _ := os.ReadFile(a.file)
	var out []State
	for _, e := range list {
		id, ok := strings.CutSuffix(e.Name(), ".json")
		if !ok {
			continue
		}
		data, err := os.ReadFile(filepath.Join(a.states(), e.Name()))
		var s State
		if err != nil || json.Unmarshal(data, &s) != nil || s.ID != id {
			continue
		}
		packed, err := os.ReadFile(filepath.Join(a.states(), id+a.end()))
		if err != nil {
			continue
		}
		s.Current = bytes.Equal(packed, seen)
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b State) int { return strings.Compare(b.ID, a.ID) })
	current := false
	for i := range out { // the same content published twice is seen once
		out[i].Current = out[i].Current && !current
		current = current || out[i].Current
	}
	return out, nil
}

func (a *archive) lock() (func(), error) {
	err := os.MkdirAll(a.states(), 0o777)
	if err == nil {
		var unlock func()
		if unlock, err = lockedfile.MutexAt(filepath.Join(a.states(), ".lock")).Lock(); err == nil {
			return unlock, nil
		}
	}
	return nil, fmt.Errorf("%s cannot be written: %w", a.states(), diag.Bare(err))
}

func (a *archive) Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error) {
	if err := src.Check(); err != nil {
		return nil, err
	}
	unlock, err := a.lock()
	if err != nil {
		return nil, err
	}
	defer unlock()
	list, err := a.States(ctx)
	if err != nil {
		return nil, err
	}
	s := State{Time: now.UTC(), Verdict: verdict, Files: map[string]string{}, Current: true}
	s.ID = idOf(
		now,
		func(id string) bool { _, err := os.Stat(filepath.Join(a.states(), id+a.end())); return err == nil },
	)
	sent := &Sent{}
	old := map[string]string{}
	for _, x := range list {
		if x.Current {
			old, sent.Back = x.Files, x.ID
		}
	}
	data, err := a.pack(ctx, src, &s, now)
	if err != nil {
		return nil, err
	}
	for _, n := range src.Names {
		if old[n] == s.Files[n] {
			sent.Same++
		} else {
			sent.Changed = append(sent.Changed, n)
		}
	}
	for n := range old {
		if s.Files[n] == "" {
			sent.Gone++
		}
	}
	if sent.Back != "" && len(sent.Changed)+sent.Gone == 0 {
		for _, x := range list {
			if x.Current {
				sent.Nothing, sent.State = true, x
			}
		}
		return sent, nil
	}
	note, _ := json.MarshalIndent(s, "", "  ")
	base := filepath.Join(a.states(), s.ID)
	for _, step := range []struct {
		to   string
		data []byte
	}{{base + a.end(), data}, {base + ".json", append(note, '\n')}, {a.file, data}} {
		if err := swapIn(step.to, step.data); err != nil {
			return nil, fmt.Errorf("%s cannot be written: %w; what was there is as it was", step.to, diag.Bare(err))
		}
	}
	back, err := os.ReadFile(a.file)
	if err != nil || !bytes.Equal(back, data) {
		return nil, fmt.Errorf("%s is not there as it was written", a.file)
	}
	for i, x := range list {
		if i+1 >= Kept {
			_ = os.Remove(filepath.Join(a.states(), x.ID+".json"))
			_ = os.Remove(filepath.Join(a.states(), x.ID+a.end()))
		}
	}
	sent.State = s
	return sent, nil
}

// swapIn writes a file beside its place, and puts it there in one step.
func swapIn(to string, data []byte) error {
	if err := put(to+part, data); err != nil {
		_ = os.Remove(to + part)
		return err
	}
	return os.Rename(to+part, to)
}

// pack makes the archive. Times in it are those of the state, names are sorted: the same files are the same bytes.
func (a *archive) pack(ctx context.Context, src Source, s *State, now time.Time) ([]byte, error) {
	var out bytes.Buffer
	zipped := zip.NewWriter(&out)
	squeezed := gzip.NewWriter(&out)
	tarred := tar.NewWriter(squeezed)
	names := slices.Sorted(slices.Values(src.Names))
	for _, name := range names {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		data, err := src.Read(name)
		if err != nil {
			return nil, err
		}
		s.Files[name], s.Bytes = hashOf(data), s.Bytes+int64(len(data))
		if a.end() == ".zip" {
			w, err := zipped.CreateHeader(
				&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: now.UTC().Truncate(2 * time.Second)},
			)
			if err == nil {
				_, err = w.Write(data)
			}
			if err != nil {
				return nil, err
			}
			continue
		}
		err = tarred.WriteHeader(
			&tar.Header{Name: name, Mode: 0o644, Size: int64(len(data)), ModTime: now.UTC().Truncate(time.Second)},
		)
		if err == nil {
			_, err = tarred.Write(data)
		}
		if err != nil {
			return nil, err
		}
	}
	var err error
	if a.end() == ".zip" {
		err = zipped.Close()
	} else {
		err = errors.Join(tarred.Close(), squeezed.Close())
	}
	return out.Bytes(), err
}

func (a *archive) Back(ctx context.Context, id string) (State, error) {
	unlock, err := a.lock()
	if err != nil {
		return State{}, err
	}
	defer unlock()
	list, err := a.States(ctx)
	if err != nil {
		return State{}, err
	}
	s, err := before(list, id)
	if err != nil {
		return s, err
	}
	data, err := os.ReadFile(filepath.Join(a.states(), s.ID+a.end()))
	if err != nil {
		return s, err
	}
	return s, swapIn(a.file, data)
}
