package publish

import (
	"context"
	"crypto/ed25519"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"strings"
	"time"

	"github.com/pkg/sftp"
	"golang.org/x/crypto/ssh"
	"golang.org/x/crypto/ssh/agent"
	"golang.org/x/crypto/ssh/knownhosts"
)

// server is the folder of a server that is reached by SFTP. It is opened when it is first asked something.
type server struct {
	url  *url.URL
	home string // the folder of the user's keys and known hosts
}

// dialTime is how long a server may take to answer.
const dialTime = 15 * time.Second

// open reaches the server. done ends it.
func (s *server) open(ctx context.Context) (*folder, func(), error) {
	where := s.url.Host
	if s.url.Port() == "" {
		where = net.JoinHostPort(s.url.Hostname(), "22")
	}
	known := filepath.Join(s.home, ".ssh", "known_hosts")
	hosts, err := knownhosts.New(known)
	if err != nil {
		return nil, nil, fmt.Errorf(
			"%s cannot be read, which says what servers are who they say: `ssh %s` once, and say yes when its key is right",
			known,
			s.url.Hostname(),
		)
	}
	methods, tried, done := s.keys()
	defer done()
	if len(methods) == 0 {
		return nil, nil, fmt.Errorf(
			"there is no key for %s: start an agent (ssh-add), or keep a key without a passphrase in %s",
			s.url.Hostname(),
			filepath.Join(s.home, ".ssh"),
		)
	}
	dialer := net.Dialer{Timeout: dialTime}
	conn, err := dialer.DialContext(ctx, "tcp", where)
	if err != nil {
		return nil, nil, fmt.Errorf("%s cannot be reached: %w", where, err)
	}
	config := &ssh.ClientConfig{User: s.url.User.Username(), Auth: methods, HostKeyCallback: hosts, Timeout: dialTime}
	config.HostKeyAlgorithms = algorithms(hosts, where)
	_ = conn.SetDeadline(time.Now().Add(dialTime))
	c, channels, requests, err := ssh.NewClientConn(conn, where, config)
	if err != nil {
		conn.Close()
		var wrong *knownhosts.KeyError
		switch {
		case errors.As(err, &wrong) && len(wrong.Want) > 0:
			return nil, nil, fmt.Errorf(
				"%s shows another key than %s has of it: somebody may stand between, or the server was set up anew. Nothing was sent; if it is right, `ssh-keygen -R %s` and connect once",
				where,
				known,
				s.url.Hostname(),
			)
		case errors.As(err, &wrong):
			return nil, nil, fmt.Errorf(
				"%s is not in %s: `ssh %s` once, and say yes when its key is right",
				where,
				known,
				s.url.Hostname(),
			)
		case strings.Contains(err.Error(), "unable to authenticate"):
			return nil, nil, fmt.Errorf(
				"%s does not let %s in with %s",
				where,
				s.url.User.Username(),
				strings.Join(tried, ", "),
			)
		}
		return nil, nil, fmt.Errorf("%s: %w", where, err)
	}
	_ = conn.SetDeadline(time.Time{})
	client := ssh.NewClient(c, channels, requests)
	files, err := sftp.NewClient(client, sftp.UseConcurrentWrites(true))
	if err != nil {
		client.Close()
		return nil, nil, fmt.Errorf("%s offers no files by SFTP: %w", where, err)
	}
	root := strings.TrimSuffix(s.url.Path, "/")
	return &folder{disk: &there{files}, root: root}, func() { files.Close(); client.Close() }, nil
}

// algorithms asks for keys of the kinds that are known of a server: it may have several, of which one is known.
func algorithms(hosts ssh.HostKeyCallback, where string) []string {
	var wrong *knownhosts.KeyError
	none, err := ssh.NewPublicKey(ed25519.PublicKey(make([]byte, ed25519.PublicKeySize))) // a key that nobody has
	if err != nil || !errors.As(hosts(where, &net.TCPAddr{IP: net.IPv4zero}, none), &wrong) {
		return nil
	}
	var out []string
	for _, k := range wrong.Want {
		if k.Key.Type() == ssh.KeyAlgoRSA {
			out = append(out, ssh.KeyAlgoRSASHA512, ssh.KeyAlgoRSASHA256)
		}
		out = append(out, k.Key.Type())
	}
	return out
}

// keys gathers what may let us in: an agent's keys, and those of the user's folder that have no passphrase.
func (s *server) keys() (methods []ssh.AuthMethod, tried []string, done func()) {
	done = func() {}
	if socket := os.Getenv("SSH_AUTH_SOCK"); socket != "" {
		if conn, err := net.Dial("unix", socket); err == nil {
			done = func() { conn.Close() }
			methods = append(methods, ssh.PublicKeysCallback(agent.NewClient(conn).Signers))
			tried = append(tried, "the keys of the agent")
		}
	}
	var signers []ssh.Signer
	for _, name := range []string{"id_ed25519", "id_ecdsa", "id_rsa"} {
		data, err := os.ReadFile(filepath.Join(s.home, ".ssh", name))
		if err != nil {
			continue
		}
		if key, err := ssh.ParsePrivateKey(data); err == nil {
			signers, tried = append(signers, key), append(tried, name)
		}
	}
	if len(signers) > 0 {
		methods = append(methods, ssh.PublicKeys(signers...))
	}
	return methods, tried, done
}

func (s *server) States(ctx context.Context) ([]State, error) {
	f, done, err := s.open(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	return f.States(ctx)
}

func (s *server) Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error) {
	if err := src.Check(); err != nil {
		return nil, err
	}
	f, done, err := s.open(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	return f.Publish(ctx, src, now, verdict)
}

func (s *server) Back(ctx context.Context, id string) (State, error) {
	f, done, err := s.open(ctx)
	if err != nil {
		return State{}, err
	}
	defer done()
	return f.Back(ctx, id)
}

// there is the disk of a server.
type there struct{ c *sftp.Client }

func (t *there) join(parts ...string) string            { return path.Join(parts...) }
func (t *there) mkdir(dir string) error                 { return t.c.MkdirAll(dir) }
func (t *there) list(dir string) ([]fs.FileInfo, error) { return t.c.ReadDir(dir) }
func (t *there) info(name string) (fs.FileInfo, error)  { return t.c.Lstat(name) }
func (t *there) linked(name string) (string, error)     { return t.c.ReadLink(name) }
func (t *there) rename(from, to string) error           { return t.c.PosixRename(from, to) }
func (t *there) symlink(to, name string) error          { return t.c.Symlink(to, name) }
func (t *there) share(from, to string) error            { return t.c.Link(from, to) }
func (t *there) remove(name string) error               { return t.c.Remove(name) }
func (t *there) far() bool                              { return true }

func (t *there) removeAll(name string) error {
	if _, err := t.c.Lstat(name); errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return t.c.RemoveAll(name)
}

func (t *there) read(name string) ([]byte, error) {
	f, err := t.c.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(f)
}

func (t *there) write(name string, data []byte) error {
	f, err := t.c.Create(name)
	if err != nil {
		return err
	}
	_, err = f.Write(data)
	if err == nil {
		if sync := f.Sync(); sync != nil && !errors.Is(sync, sftp.ErrSSHFxOpUnsupported) { // a server need not know it
			err = sync
		}
	}
	return errors.Join(err, f.Close())
}

// lock makes a file that others may not make. One that was not renewed for a while is that of a program that has ended.
func (t *there) lock(name string) (func(), error) {
	for range 2 {
		f, err := t.c.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL)
		if err == nil {
			f.Close()
			stop := make(chan struct{})
			go func() {
				for {
					select {
					case <-stop:
						return
					case <-time.After(stale / 4):
						_ = t.c.Chtimes(name, time.Now(), time.Now())
					}
				}
			}()
			return func() { close(stop); _ = t.c.Remove(name) }, nil
		}
		info, serr := t.c.Stat(name)
		if serr != nil {
			return nil, err // it cannot be written at all
		}
		if age := time.Since(info.ModTime()); age < stale {
			return nil, fmt.Errorf(
				"somebody is publishing there, or was cut short %d s ago: try again in %d s",
				int(age.Seconds()),
				int((stale-age).Seconds())+1,
			)
		}
		_ = t.c.Remove(name)
	}
	return nil, errors.New("somebody is publishing there")
}
