package publish

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/rogpeppe/go-internal/lockedfile"

	"ziegel/core/diag"
)

// folder is a place on a disk. What readers see is a link, out, to one of the folders in out.states; making a link and
// renaming it over another is one step (POSIX rename). Files that have not changed are the same file in both states.
type folder struct {
	root string
	step func(what string) error // for tests: called before each step, an error is a failure there
}

const part = ".part" // ends the name of a state that is being written

func (f *folder) states() string { return f.root + ".states" }

func (f *folder) at(what string) error {
	if f.step != nil {
		return f.step(what)
	}
	return nil
}

func (f *folder) lock() (func(), error) {
	if err := os.MkdirAll(f.states(), 0o777); err != nil {
		return nil, fmt.Errorf("%s cannot be written: %w", f.states(), diag.Bare(err))
	}
	unlock, err := lockedfile.MutexAt(filepath.Join(f.states(), ".lock")).Lock()
	if err != nil {
		return nil, fmt.Errorf("%s cannot be written: %w", f.states(), diag.Bare(err))
	}
	return unlock, nil
}

// current is the id of the state that is seen, "" for none.
func (f *folder) current() (string, error) {
	to, err := os.Readlink(f.root)
	if err != nil {
		if errors.Is(err, os.ErrNotExist) {
			return "", nil
		}
		info, serr := os.Lstat(f.root)
		if serr != nil {
			return "", serr
		}
		if info.IsDir() {
			list, rerr := os.ReadDir(f.root)
			if rerr != nil {
				return "", rerr
			}
			if len(list) == 0 {
				return "", nil
			}
		}
		return "", fmt.Errorf("%s is there and was not published by this program: name another place, or move it away", f.root)
	}
	if filepath.Dir(to) != filepath.Base(f.states()) {
		return "", fmt.Errorf("%s is a link to %s, which this program has not made: name another place, or move it away", f.root, to)
	}
	return filepath.Base(to), nil
}

func (f *folder) States(context.Context) ([]State, error) {
	now, err := f.current()
	if err != nil {
		return nil, err
	}
	list, err := os.ReadDir(f.states())
	if err != nil {
		if errors.Is(err, os.ErrNotExist) {
			return nil, nil
		}
		return nil, err
	}
	var out []State
	for _, e := range list {
		id, ok := strings.CutSuffix(e.Name(), ".json")
		if !ok {
			continue
		}
		if _, err := os.Stat(filepath.Join(f.states(), id)); err != nil {
			continue
		}
		data, err := os.ReadFile(filepath.Join(f.states(), e.Name()))
		if err != nil {
			return nil, err
		}
		var s State
		if json.Unmarshal(data, &s) != nil || s.ID != id {
			continue // somebody has changed it by hand: no state that can be trusted
		}
		s.Current = id == now
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b State) int { return strings.Compare(b.ID, a.ID) })
	return out, nil
}

// tidy takes away what an attempt that did not end has left.
func (f *folder) tidy() int {
	n := 0
	list, _ := os.ReadDir(f.states())
	for _, e := range list {
		if strings.HasSuffix(e.Name(), part) {
			if os.RemoveAll(filepath.Join(f.states(), e.Name())) == nil {
				n++
			}
			continue
		}
		if e.IsDir() { // a whole state, of which nothing is written down yet
			if _, err := os.Stat(filepath.Join(f.states(), e.Name()+".json")); errors.Is(err, os.ErrNotExist) {
				if now, err := f.current(); err == nil && now != e.Name() && os.RemoveAll(filepath.Join(f.states(), e.Name())) == nil {
					n++
				}
			}
		}
	}
	return n
}

func (f *folder) Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error) {
	if err := src.Check(); err != nil {
		return nil, err
	}
	unlock, err := f.lock()
	if err != nil {
		return nil, err
	}
	defer unlock()
	list, err := f.States(ctx)
	if err != nil {
		return nil, err
	}
	sent := &Sent{Tidied: f.tidy()}
	var old *State
	for i := range list {
		if list[i].Current {
			old = &list[i]
		}
	}
	s := State{Time: now.UTC(), Verdict: verdict, Files: map[string]string{}}
	s.ID = idOf(now, func(id string) bool { _, err := os.Lstat(filepath.Join(f.states(), id)); return err == nil })
	dir := filepath.Join(f.states(), s.ID+part)
	defer os.RemoveAll(dir) // gone when all went well
	made := map[string]bool{}
	for _, name := range src.Names {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		data, err := src.Read(name)
		if err != nil {
			return nil, err
		}
		s.Files[name], s.Bytes = hashOf(data), s.Bytes+int64(len(data))
		to := filepath.Join(dir, filepath.FromSlash(name))
		if up := filepath.Dir(to); !made[up] {
			if err := os.MkdirAll(up, 0o777); err != nil {
				return nil, fmt.Errorf("%s cannot be written: %w", f.states(), diag.Bare(err))
			}
			made[up] = true
		}
		if err := f.at("write " + name); err != nil {
			return nil, err
		}
		if old != nil && old.Files[name] == s.Files[name] {
			if f.again(old.ID, name, to, data) {
				sent.Same++
				continue
			}
			sent.Mended = append(sent.Mended, name)
		}
		if err := put(to, data); err != nil {
			return nil, fmt.Errorf("%s: %s cannot be written: %w; what is seen there is as it was", f.root, name, diag.Bare(err))
		}
		sent.Changed = append(sent.Changed, name)
	}
	for _, name := range sent.Changed { // what was sent is what lies there
		data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(name)))
		if err != nil || hashOf(data) != s.Files[name] {
			return nil, fmt.Errorf("%s: %s is not there as it was sent; what is seen there is as it was", f.root, name)
		}
	}
	if old != nil {
		sent.Back = old.ID
		for name := range old.Files {
			if s.Files[name] == "" {
				sent.Gone++
			}
		}
		if len(sent.Changed)+sent.Gone == 0 {
			sent.Nothing, sent.State = true, *old
			return sent, nil
		}
	}
	if err := f.at("name"); err != nil {
		return nil, err
	}
	if err := os.Rename(dir, filepath.Join(f.states(), s.ID)); err != nil {
		return nil, err
	}
	text, _ := json.MarshalIndent(s, "", "  ")
	if err := f.at("note"); err != nil {
		return nil, err
	}
	if err := put(filepath.Join(f.states(), s.ID+".json"+part), append(text, '\n')); err != nil {
		return nil, err
	}
	if err := os.Rename(filepath.Join(f.states(), s.ID+".json"+part), filepath.Join(f.states(), s.ID+".json")); err != nil {
		return nil, err
	}
	if err := f.show(s.ID); err != nil {
		return nil, err
	}
	s.Current, sent.State = true, s
	f.forget(list)
	return sent, nil
}

// again makes a file of the state before stand in a new one, when it lies there as it was.
func (f *folder) again(id, name, to string, data []byte) bool {
	from := filepath.Join(f.states(), id, filepath.FromSlash(name))
	info, err := os.Stat(from)
	if err != nil || info.Size() != int64(len(data)) {
		return false
	}
	was, err := os.ReadFile(from)
	if err != nil || string(was) != string(data) { // somebody has changed it there
		return false
	}
	return os.Link(from, to) == nil
}

// put writes a file that is on the disk when it returns.
func put(to string, data []byte) error {
	file, err := os.Create(to)
	if err != nil {
		return err
	}
	if _, err = file.Write(data); err == nil {
		err = file.Sync()
	}
	return errors.Join(err, file.Close())
}

// show makes a state what readers see.
func (f *folder) show(id string) error {
	if err := f.at("show"); err != nil {
		return err
	}
	link := filepath.Join(f.states(), "to"+part)
	_ = os.Remove(link)
	if err := os.Symlink(filepath.Join(filepath.Base(f.states()), id), link); err != nil {
		return fmt.Errorf("%s: this disk has no links, by which a new state shows in one step: %w", f.root, diag.Bare(err))
	}
	if info, err := os.Lstat(f.root); err == nil && info.IsDir() { // it is empty
		if err := os.Remove(f.root); err != nil {
			return err
		}
	}
	return os.Rename(link, f.root)
}

// forget takes the oldest states away, never one that is seen.
func (f *folder) forget(list []State) {
	for i, s := range list {
		if i+1 >= Kept && !s.Current {
			_ = os.Remove(filepath.Join(f.states(), s.ID+".json"))
			_ = os.RemoveAll(filepath.Join(f.states(), s.ID))
		}
	}
}

func (f *folder) Back(ctx context.Context, id string) (State, error) {
	unlock, err := f.lock()
	if err != nil {
		return State{}, err
	}
	defer unlock()
	list, err := f.States(ctx)
	if err != nil {
		return State{}, err
	}
	s, err := before(list, id)
	if err != nil {
		return s, err
	}
	for name, hash := range s.Files {
		file, err := os.Open(filepath.Join(f.states(), s.ID, filepath.FromSlash(name)))
		if err != nil {
			return s, fmt.Errorf("the state %s is not whole: %s is missing there", s.ID, name)
		}
		data, err := io.ReadAll(file)
		file.Close()
		if err != nil || hashOf(data) != hash {
			return s, fmt.Errorf("the state %s is not as it was published: somebody has changed %s there", s.ID, name)
		}
	}
	return s, f.show(s.ID)
}
