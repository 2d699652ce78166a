// Package publish puts a built site where it is read: a folder, an archive, a branch of a git repository. What readers
// see changes in one step; states that were published stay, and can be gone back to.
package publish

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"net/url"
	"slices"
	"strings"
	"time"
)

// Kinds are the kinds of places.
var Kinds = []string{"folder", "sftp", "webdav", "git", "archive"}

// Place is where a site is published.
type Place struct {
	Name  string
	Kind  string
	Where string // a folder or file as typed, relative to the site's; the address of a repository
	Ref   string // the branch
}

// ParsePlace reads a place as ziegel.yaml has it: folder:../out, archive:../site.zip, git:../repo.git#pages.
func ParsePlace(name, text string) (Place, error) {
	kind, where, ok := strings.Cut(strings.TrimSpace(text), ":")
	bad := func(format string, args ...any) (Place, error) {
		return Place{}, fmt.Errorf("place %s: "+format, append([]any{name}, args...)...)
	}
	if !ok || !slices.Contains(Kinds, kind) {
		return bad("%q is none: it begins with its kind, folder:, sftp:, webdav:, git: or archive:", text)
	}
	p := Place{Name: name, Kind: kind, Where: where}
	if at := strings.LastIndexByte(where, '#'); kind == "git" && at >= 0 {
		p.Where, p.Ref = where[:at], where[at+1:]
	}
	switch {
	case strings.TrimSpace(p.Where) == "" || p.Where == ".":
		return bad("%s: says not where", kind)
	case kind == "git" && (p.Ref == "" || strings.ContainsAny(p.Ref, " ~^:?*[\\") || strings.HasPrefix(p.Ref, "-") ||
		strings.Contains(p.Ref, "..")):
		return bad("a repository needs the name of a branch: git:%s#pages", p.Where)
	case kind == "git" && strings.HasPrefix(p.Where, "-"):
		return bad("%q is no repository", p.Where)
	case kind == "sftp":
		if _, err := parseServer("sftp:" + where); err != nil {
			return bad("%w", err)
		}
	case kind == "webdav":
		if _, err := parseWeb(where); err != nil {
			return bad("%w", err)
		}
	case kind == "archive" && !strings.HasSuffix(p.Where, ".zip") && !strings.HasSuffix(p.Where, ".tar.gz"):
		return bad("an archive ends in .zip or .tar.gz")
	}
	if u, err := url.Parse(p.Where); kind == "git" && err == nil && u.User != nil {
		if _, has := u.User.Password(); has {
			return bad(
				"a password would lie open in ziegel.yaml: take it out, and let an agent or a helper of git answer",
			)
		}
	}
	return p, nil
}

// parseServer reads sftp://ines@host:22/var/www/out.
func parseServer(text string) (*url.URL, error) {
	u, err := url.Parse(text)
	switch {
	case err != nil:
		return nil, errors.New("this is no address: sftp://ines@host/var/www/out")
	case u.Hostname() == "" || u.User.Username() == "":
		return nil, errors.New("a server needs a user and a name: sftp://ines@host/var/www/out")
	case len(strings.Trim(u.Path, "/")) == 0:
		return nil, errors.New("a server needs a folder: sftp://ines@host/var/www/out")
	}
	if _, has := u.User.Password(); has {
		return nil, errors.New(
			"a password would lie open in ziegel.yaml: take it out, and let an agent or a key answer",
		)
	}
	return u, nil
}

// parseWeb reads webdav:https://ines@host/sites/out. Without encryption a password goes to this machine only.
func parseWeb(text string) (*url.URL, error) {
	u, err := url.Parse(text)
	if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Hostname() == "" {
		return nil, errors.New("this is no address: webdav:https://ines@host/sites/out")
	}
	if _, has := u.User.Password(); has {
		return nil, errors.New("a password would lie open in ziegel.yaml: take it out, and name it in the environment")
	}
	ip := net.ParseIP(u.Hostname())
	openSecret := u.Scheme == "http" && u.User != nil && u.Hostname() != "localhost" && (ip == nil || !ip.IsLoopback())
	if openSecret {
		return nil, errors.New("the password would be read on its way: say https")
	}
	if strings.Trim(u.Path, "/") == "" {
		return nil, errors.New("a server needs a folder: webdav:https://ines@host/sites/out")
	}
	return u, nil
}

// State is one published state.
type State struct {
	ID      string            `json:"id"`
	Time    time.Time         `json:"time"`
	Verdict string            `json:"verdict"`
	Bytes   int64             `json:"bytes"`
	Files   map[string]string `json:"files"` // SHA-256 by path, in hex
	Current bool              `json:"-"`
}

// Source is the files that are published, by path with slashes.
type Source struct {
	Names []string
	Read  func(name string) ([]byte, error)
}

// Sent is what was done.
type Sent struct {
	State   State
	Nothing bool     // all of it was there: no new state was made
	Changed []string // files that were sent
	Same    int      // files that were there
	Gone    int      // files that the state before had
	Mended  []string // files that somebody had changed at the place since; the state before keeps them so
	Back    string   // the state before, "" for none
	Tidied  int      // pieces that an earlier, broken attempt has left
}

// Target is a place that can be published to.
type Target interface {
	// States lists what was published, the newest first.
	States(ctx context.Context) ([]State, error)
	// Publish makes the files what readers see, in one step. Until then, and after any failure, they see what they saw.
	Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error)
	// Back makes an earlier state what readers see.
	Back(ctx context.Context, id string) (State, error)
}

// Kept is how many states stay at a place.
const Kept = 10

// Check refuses files that some servers or disks cannot tell apart.
func (s Source) Check() error {
	seen := map[string]string{}
	for _, n := range s.Names {
		low := strings.ToLower(n)
		if other, ok := seen[low]; ok {
			return fmt.Errorf("%s and %s differ by case only: many servers have one of them; rename one", other, n)
		}
		seen[low] = n
	}
	if len(s.Names) == 0 {
		return errors.New("there is nothing to publish")
	}
	return nil
}

func hashOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// idOf names a state by its moment; taken says which names there are.
func idOf(now time.Time, taken func(id string) bool) string {
	id := now.UTC().Format("2006-01-02T15-04-05Z")
	for n := 2; taken(id); n++ {
		id = now.UTC().Format("2006-01-02T15-04-05Z") + fmt.Sprintf("-%d", n)
	}
	return id
}

func unknownState(id string, list []State) error {
	if len(list) == 0 {
		return errors.New("nothing was published there yet")
	}
	var names []string
	for _, s := range list {
		names = append(names, s.ID)
	}
	return fmt.Errorf("there is no state %s; there are %s", id, strings.Join(names, ", "))
}

// before gives the state to go back to: the one published before that which is seen now.
func before(list []State, id string) (State, error) {
	at := slices.IndexFunc(list, func(s State) bool { return s.Current })
	if id != "" {
		for _, s := range list {
			if s.ID == id {
				if s.Current {
					return s, fmt.Errorf("%s is what is seen already", id)
				}
				return s, nil
			}
		}
		return State{}, unknownState(id, list)
	}
	if at < 0 || at+1 >= len(list) {
		return State{}, errors.New("there is no state before the one that is seen")
	}
	return list[at+1], nil
}
