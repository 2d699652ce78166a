package publish

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/studio-b12/gowebdav"
)

// web is the folder of a server that is reached by WebDAV (RFC 4918). What readers see there is a copy of a state,
// which the server itself makes beside it and moves into its place: one request, of which a server makes what it can.
// stateFile is the name of a file in the copy that says of which state it is.
type web struct {
	url      *url.URL
	password string
	variable string // where it is from, for those who have to set it
}

const stateFile = ".state"

// passwordOf names the variable of the environment that holds the password of a place.
func passwordOf(place string) string {
	return "ZIEGEL_PASSWORD_" + strings.ToUpper(strings.NewReplacer("-", "_", ".", "_", " ", "_").Replace(place))
}

// open reaches the server.
func (w *web) open() (*folder, error) {
	base := *w.url
	base.User = nil
	base.Path = path.Dir("/" + strings.Trim(w.url.Path, "/"))
	base.RawPath = ""
	c := gowebdav.NewClient(base.String(), w.url.User.Username(), w.password)
	c.SetTimeout(time.Minute)
	d := &dav{c: c}
	if _, err := d.info("/"); err != nil {
		var status gowebdav.StatusError
		errors.As(err, &status)
		switch {
		case status.Status == 401 || status.Status == 403:
			what := "is not right"
			if w.password == "" {
				what = "is not set"
			}
			return nil, fmt.Errorf("%s does not let %s in: %s %s", w.url.Host, w.url.User.Username(), w.variable, what)
		case errors.Is(err, fs.ErrNotExist):
			return nil, fmt.Errorf("%s has no folder %s: make it there, or name another", w.url.Host, base.Path)
		case status.Status == 200 || status.Status == 405 || status.Status == 501:
			return nil, fmt.Errorf("%s does not speak WebDAV at %s", w.url.Host, base.Path)
		}
		var net *url.Error
		if errors.As(err, &net) {
			return nil, fmt.Errorf("%s cannot be reached: %w", w.url.Host, net.Err)
		}
		return nil, fmt.Errorf("%s: %w", w.url.Host, err)
	}
	return &folder{disk: d, root: path.Base(w.url.Path)}, nil
}

func (w *web) States(ctx context.Context) ([]State, error) {
	f, err := w.open()
	if err != nil {
		return nil, err
	}
	return f.States(ctx)
}

func (w *web) Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error) {
	if err := src.Check(); err != nil {
		return nil, err
	}
	if slices.Contains(src.Names, stateFile) {
		return nil, fmt.Errorf("%s is taken: by it the place says what it shows", stateFile)
	}
	f, err := w.open()
	if err != nil {
		return nil, err
	}
	return f.Publish(ctx, src, now, verdict)
}

func (w *web) Back(ctx context.Context, id string) (State, error) {
	f, err := w.open()
	if err != nil {
		return State{}, err
	}
	return f.Back(ctx, id)
}

// dav is the disk of a server that is reached by WebDAV. It has no links: one is a copy that says of what.
type dav struct{ c *gowebdav.Client }

func (d *dav) join(parts ...string) string          { return path.Join(parts...) }
func (d *dav) mkdir(dir string) error               { return davError(d.c.MkdirAll(dir, 0)) }
func (d *dav) read(name string) ([]byte, error)     { b, err := d.c.Read(name); return b, davError(err) }
func (d *dav) write(name string, data []byte) error { return davError(d.c.Write(name, data, 0)) }
func (d *dav) share(from, to string) error          { return davError(d.c.Copy(from, to, true)) }
func (d *dav) removeAll(name string) error          { return d.remove(name) }
func (d *dav) far() bool                            { return true }
func (d *dav) list(dir string) ([]fs.FileInfo, error) {
	l, err := d.c.ReadDir(dir)
	return l, davError(err)
}

// slashed gives the name of a folder with the slash that it has there: servers answer what is asked of it without one
// with the way to it, and nothing is done (RFC 4918, 5.2).
func (d *dav) slashed(name string) (string, bool) {
	if info, err := d.stat(name); err == nil && info.IsDir() {
		return strings.TrimSuffix(name, "/") + "/", true
	}
	return name, false
}

func (d *dav) stat(name string) (fs.FileInfo, error) {
	info, err := d.c.Stat(name)
	if err != nil && !strings.HasSuffix(name, "/") {
		if folder, ferr := d.c.Stat(name + "/"); ferr == nil {
			return folder, nil
		}
	}
	return info, err
}

func (d *dav) rename(from, to string) error {
	from, folder := d.slashed(from)
	if folder {
		to += "/"
	}
	return davError(d.c.Rename(from, to, true))
}

func (d *dav) remove(name string) error {
	name, _ = d.slashed(name)
	return davError(d.c.Remove(name))
}

// davError says of what is not there that it is not, as every disk does.
func davError(err error) error {
	if gowebdav.IsErrNotFound(err) {
		return &os.PathError{Op: "find", Path: err.(*os.PathError).Path, Err: fs.ErrNotExist}
	}
	if gowebdav.IsErrCode(err, 507) {
		return errors.New("the disk of the server is full")
	}
	var status gowebdav.StatusError
	if errors.As(err, &status) {
		return fmt.Errorf("%w (the server answers %d)", err, status.Status)
	}
	return err
}

// info tells of a copy of a state that it is a link.
func (d *dav) info(name string) (fs.FileInfo, error) {
	info, err := d.stat(name)
	if err != nil {
		return nil, davError(err)
	}
	if info.IsDir() && !strings.Contains(name, "/") {
		if _, err := d.c.Stat(path.Join(name, stateFile)); err == nil {
			return linkInfo{info}, nil
		}
	}
	return info, nil
}

type linkInfo struct{ fs.FileInfo }

func (linkInfo) Mode() fs.FileMode { return fs.ModeSymlink }
func (linkInfo) IsDir() bool       { return false }

func (d *dav) linked(name string) (string, error) {
	text, err := d.read(path.Join(name, stateFile))
	return strings.TrimSpace(string(text)), err
}

// symlink lets the server copy a state.
func (d *dav) symlink(to, name string) error {
	if err := d.share(path.Join(path.Dir(path.Dir(name)), to)+"/", name+"/"); err != nil {
		return err
	}
	return d.write(path.Join(name, stateFile), []byte(to+"\n"))
}

// lock makes a file that others may not make: moved where nothing may be yet (RFC 4918, 10.6). One that was not renewed
// for a while is that of a program that has ended; how old it is, the server's own clock says.
func (d *dav) lock(name string) (func(), error) {
	var id [8]byte
	_, _ = rand.Read(id[:]) // it never fails
	mine := name + "-" + hex.EncodeToString(id[:])
	if err := d.write(mine, []byte("somebody is publishing\n")); err != nil {
		return nil, err
	}
	for range 2 {
		err := d.c.Rename(mine, name, false)
		if err == nil {
			return d.hold(name), nil
		}
		if !gowebdav.IsErrCode(err, 412) {
			_ = d.remove(mine)
			return nil, davError(err)
		}
		now, nerr := d.c.Stat(mine)
		was, werr := d.c.Stat(name)
		if nerr != nil || werr != nil {
			continue // gone meanwhile
		}
		if age := now.ModTime().Sub(was.ModTime()); age < stale {
			_ = d.remove(mine)
			return nil, fmt.Errorf("somebody is publishing there, or was cut short %d s ago: try again in %d s",
				int(age.Seconds()), int((stale-age).Seconds())+1)
		}
		_ = d.remove(name)
	}
	_ = d.remove(mine)
	return nil, errors.New("somebody is publishing there")
}

// hold renews a lock until it is let go.
func (d *dav) hold(name string) func() {
	stop := make(chan struct{})
	var done sync.WaitGroup
	done.Go(func() {
		for {
			select {
			case <-stop:
				return
			case <-time.After(stale / 4):
				_ = d.write(name, []byte("somebody is publishing\n"))
			}
		}
	})
	return func() { close(stop); done.Wait(); _ = d.remove(name) }
}
