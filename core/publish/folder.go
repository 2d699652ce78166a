package publish

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ziegel/core/diag"
)

// folder is a place on a disk. What readers see is a link, out, to one of the folders in out.states; making a link and
// renaming it over another is one step (POSIX rename). Files that have not changed are the same file in both states.
type folder struct {
	disk disk
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
	if err := f.disk.mkdir(f.states()); err != nil {
		return nil, fmt.Errorf("%s cannot be written: %w", f.states(), diag.Bare(err))
	}
	unlock, err := f.disk.lock(f.disk.join(f.states(), ".lock"))
	if err != nil {
		return nil, fmt.Errorf("%s cannot be written: %w", f.states(), diag.Bare(err))
	}
	return unlock, nil
}

// current is the id of the state that is seen, "" for none.
func (f *folder) current() (string, error) {
	info, err := f.disk.info(f.root)
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if err != nil {
		return "", err
	}
	to := ""
	if info.Mode()&fs.ModeSymlink != 0 {
		if to, err = f.disk.linked(f.root); err != nil {
			return "", err
		}
	} else {
		if info.IsDir() {
			list, rerr := f.disk.list(f.root)
			if rerr != nil {
				return "", rerr
			}
			if len(list) == 0 {
				return "", nil
			}
		}
		return "", fmt.Errorf("%s is there and was not published by this program: name another place, or move it away",
			f.root)
	}
	to = filepath.ToSlash(to)
	if path.Dir(to) != path.Base(filepath.ToSlash(f.states())) {
		return "", fmt.Errorf(
			"%s is a link to %s, which this program has not made: name another place, or move it away",
			f.root,
			to,
		)
	}
	return path.Base(to), nil
}

func (f *folder) States(context.Context) ([]State, error) {
	now, err := f.current()
	if err != nil {
		return nil, err
	}
	list, err := f.disk.list(f.states())
	if err != nil {
		if errors.Is(err, fs.ErrNotExist) {
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
		if !slices.ContainsFunc(list, func(x fs.FileInfo) bool { return x.Name() == id }) {
			continue
		}
		data, err := f.disk.read(f.disk.join(f.states(), e.Name()))
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
	list, _ := f.disk.list(f.states())
	for _, e := range list {
		if strings.HasSuffix(e.Name(), part) {
			if f.disk.removeAll(f.disk.join(f.states(), e.Name())) == nil {
				n++
			}
			continue
		}
		if e.IsDir() { // a whole state, of which nothing is written down yet
			if !slices.ContainsFunc(list, func(x fs.FileInfo) bool { return x.Name() == e.Name()+".json" }) {
				if now, err := f.current(); err == nil && now != e.Name() &&
					f.disk.removeAll(f.disk.join(f.states(), e.Name())) == nil {
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
	s.ID = idOf(now, func(id string) bool { _, err := f.disk.info(f.disk.join(f.states(), id)); return err == nil })
	dir := f.disk.join(f.states(), s.ID+part)
	defer f.disk.removeAll(dir) // gone when all went well
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
		to := f.disk.join(dir, name)
		if up := path.Dir(name); !made[up] {
			if err := f.disk.mkdir(f.disk.join(dir, up)); err != nil {
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
		if err := f.disk.write(to, data); err != nil {
			return nil, fmt.Errorf(
				"%s: %s cannot be written: %w; what is seen there is as it was",
				f.root,
				name,
				diag.Bare(err),
			)
		}
		sent.Changed = append(sent.Changed, name)
	}
	for _, name := range sent.Changed { // what was sent is what lies there
		data, err := f.disk.read(f.disk.join(dir, name))
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
	if err := f.disk.rename(dir, f.disk.join(f.states(), s.ID)); err != nil {
		return nil, err
	}
	text, _ := json.MarshalIndent(s, "", "  ")
	if err := f.at("note"); err != nil {
		return nil, err
	}
	if err := f.disk.write(f.disk.join(f.states(), s.ID+".json"+part), append(text, '\n')); err != nil {
		return nil, err
	}
	if err := f.disk.rename(f.disk.join(f.states(), s.ID+".json"+part),
		f.disk.join(f.states(), s.ID+".json")); err != nil {
		return nil, err
	}
	if err := f.show(s.ID); err != nil {
		return nil, err
	}
	s.Current, sent.State = true, s
	f.forget(list)
	return sent, nil
}

// again makes a file of the state before stand in a new one, when it lies there as it was. On a server its size is
// asked for: reading it would cost as much as sending it.
func (f *folder) again(id, name, to string, data []byte) bool {
	from := f.disk.join(f.states(), id, name)
	info, err := f.disk.info(from)
	if err != nil || info.Size() != int64(len(data)) {
		return false
	}
	if !f.disk.far() {
		was, err := f.disk.read(from)
		if err != nil || string(was) != string(data) { // somebody has changed it there
			return false
		}
	}
	return f.disk.share(from, to) == nil
}

// show makes a state what readers see.
func (f *folder) show(id string) error {
	if err := f.at("show"); err != nil {
		return err
	}
	link := f.disk.join(f.states(), "to"+part)
	_ = f.disk.remove(link)
	if err := f.disk.symlink(path.Base(filepath.ToSlash(f.states()))+"/"+id, link); err != nil {
		return fmt.Errorf(
			"%s: this disk has no links, by which a new state shows in one step: %w",
			f.root,
			diag.Bare(err),
		)
	}
	if info, err := f.disk.info(f.root); err == nil && info.IsDir() { // it is empty
		if err := f.disk.remove(f.root); err != nil {
			return err
		}
	}
	return f.disk.rename(link, f.root)
}

// forget takes the oldest states away, never one that is seen.
func (f *folder) forget(list []State) {
	for i, s := range list {
		if i+1 >= Kept && !s.Current {
			_ = f.disk.remove(f.disk.join(f.states(), s.ID+".json"))
			_ = f.disk.removeAll(f.disk.join(f.states(), s.ID))
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
		data, err := f.disk.read(f.disk.join(f.states(), s.ID, name))
		if errors.Is(err, fs.ErrNotExist) {
			return s, fmt.Errorf("the state %s is not whole: %s is missing there", s.ID, name)
		}
		if err != nil || hashOf(data) != hash {
			return s, fmt.Errorf("the state %s is not as it was published: somebody has changed %s there", s.ID, name)
		}
	}
	return s, f.show(s.ID)
}
