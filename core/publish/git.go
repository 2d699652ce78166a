package publish

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"
)

// repository is a branch of a git repository: each state is one commit, which a push makes the branch's in one step.
// Going back is a commit, too, with the files of an earlier one: nobody's history is rewritten.
type repository struct {
	place   Place
	address string
	cache   string // a bare repository of our own, to make commits in
	over    bool   // a branch that somebody else has changed is published over
}

const ours = "refs/publish/there" // the branch as it was when we looked

func (g *repository) git(ctx context.Context, stdin []byte, args ...string) (string, error) {
	cmd := exec.CommandContext(ctx, "git", append([]string{"-C", g.cache}, args...)...)
	cmd.Env = append(os.Environ(), "GIT_TERMINAL_PROMPT=0", "GIT_SSH_COMMAND=ssh -o BatchMode=yes", "LC_ALL=C")
	cmd.Stdin = bytes.NewReader(stdin)
	var out, said bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &said
	if err := cmd.Run(); err != nil {
		if errors.Is(err, exec.ErrNotFound) {
			return "", errors.New("git is not on this machine: publishing to a branch needs it")
		}
		text := strings.TrimSpace(said.String())
		if text == "" {
			text = err.Error()
		}
		return out.String(), fmt.Errorf("git %s: %s", args[0], text)
	}
	return out.String(), nil
}

// look fetches the branch. head is "" when there is none yet.
func (g *repository) look(ctx context.Context) (head string, err error) {
	if _, err := os.Stat(filepath.Join(g.cache, "HEAD")); err != nil {
		if err := os.MkdirAll(g.cache, 0o777); err != nil {
			return "", err
		}
		if _, err := g.git(ctx, nil, "init", "-q", "--bare", "."); err != nil {
			return "", err
		}
	}
	out, err := g.git(ctx, nil, "ls-remote", "--", g.address, "refs/heads/"+g.place.Ref)
	if err != nil {
		return "", fmt.Errorf("%s cannot be reached: %w", g.place.Where, err)
	}
	if strings.TrimSpace(out) == "" {
		return "", nil
	}
	if _, err := g.git(ctx, nil, "fetch", "-q", "--no-tags", "--", g.address,
		"+refs/heads/"+g.place.Ref+":"+ours); err != nil {
		return "", err
	}
	out, err = g.git(ctx, nil, "rev-parse", ours)
	return strings.TrimSpace(out), err
}

func (g *repository) States(ctx context.Context) ([]State, error) {
	head, err := g.look(ctx)
	if err != nil || head == "" {
		return nil, err
	}
	return g.states(ctx)
}

func (g *repository) states(ctx context.Context) ([]State, error) {
	out, err := g.git(
		ctx,
		nil,
		"log",
		"--first-parent",
		"--format=%H%x00%ct%x00%(trailers:key=State,valueonly,separator=%x20)%x00%(trailers:key=Verdict,valueonly,separator=%x20)%x00%(trailers:key=Bytes,valueonly,separator=%x20)",
		ours,
	)
	if err != nil {
		return nil, err
	}
	var list []State
	for _, line := range strings.Split(strings.TrimSpace(out), "\n") {
		f := strings.Split(line, "\x00")
		if len(f) != 5 || f[2] == "" || slices.ContainsFunc(list, func(s State) bool { return s.ID == f[2] }) {
			continue // what was gone back to stands there twice
		}
		seconds, _ := strconv.ParseInt(f[1], 10, 64)
		size, _ := strconv.ParseInt(f[4], 10, 64)
		s := State{
			ID:      f[2],
			Time:    time.Unix(seconds, 0).UTC(),
			Verdict: f[3],
			Bytes:   size,
			Files:   map[string]string{},
			Current: len(list) == 0,
		}
		names, err := g.git(ctx, nil, "ls-tree", "-r", "-z", f[0])
		if err != nil {
			return nil, err
		}
		for _, x := range strings.Split(names, "\x00") {
			if head, name, ok := strings.Cut(x, "\t"); ok {
				s.Files[name] = strings.Fields(head)[2]
			}
		}
		list = append(list, s)
		if len(list) == Kept {
			break
		}
	}
	slices.SortFunc(list, func(a, b State) int { return strings.Compare(b.ID, a.ID) })
	return list, nil
}

// commitOf finds the commit of a state.
func (g *repository) commitOf(ctx context.Context, id string) (string, error) {
	out, err := g.git(ctx, nil, "log", "--first-parent", "--format=%H", "--grep=^State: "+id+"$", ours)
	if err != nil {
		return "", err
	}
	commit, _, _ := strings.Cut(strings.TrimSpace(out), "\n")
	if commit == "" {
		return "", fmt.Errorf("there is no state %s on %s", id, g.place.Ref)
	}
	return commit, nil
}

func (g *repository) Publish(ctx context.Context, src Source, now time.Time, verdict string) (*Sent, error) {
	if err := src.Check(); err != nil {
		return nil, err
	}
	head, err := g.look(ctx)
	if err != nil {
		return nil, err
	}
	var list []State
	if head != "" {
		if list, err = g.states(ctx); err != nil {
			return nil, err
		}
		own, err := g.git(ctx, nil, "log", "-1", "--format=%(trailers:key=State,valueonly)%x00%an: %s", ours)
		if err != nil {
			return nil, err
		}
		state, who, _ := strings.Cut(strings.TrimSpace(own), "\x00")
		if strings.TrimSpace(state) == "" && !g.over {
			return nil, fmt.Errorf(
				"the branch %s of %s has a commit that was not published from here (%s): its files would go; take another branch, or say --over",
				g.place.Ref,
				g.place.Where,
				who,
			)
		}
	}
	s := State{Time: now.UTC(), Verdict: verdict, Files: map[string]string{}, Current: true}
	s.ID = idOf(now, func(id string) bool {
		for _, x := range list {
			if x.ID == id {
				return true
			}
		}
		return false
	})
	stream, err := g.stream(ctx, src, &s, head, "")
	if err != nil {
		return nil, err
	}
	const made = "refs/publish/made"
	_, _ = g.git(ctx, nil, "update-ref", "-d", made)
	if _, err := g.git(ctx, stream, "fast-import", "--quiet", "--force"); err != nil {
		return nil, err
	}
	sent := &Sent{}
	out, err := g.git(ctx, nil, "ls-tree", "-r", "-z", made)
	if err != nil {
		return nil, err
	}
	for _, x := range strings.Split(out, "\x00") {
		if h, name, ok := strings.Cut(x, "\t"); ok {
			s.Files[name] = strings.Fields(h)[2]
		}
	}
	old := map[string]string{}
	if head != "" {
		sent.Back = "the commit before"
		for _, x := range list {
			if x.Current {
				old, sent.Back = x.Files, x.ID
			}
		}
	}
	for name, id := range s.Files {
		if old[name] == id {
			sent.Same++
		} else {
			sent.Changed = append(sent.Changed, name)
		}
	}
	for name := range old {
		if s.Files[name] == "" {
			sent.Gone++
		}
	}
	if len(old) > 0 && len(sent.Changed)+sent.Gone == 0 {
		for _, x := range list {
			if x.Current {
				sent.Nothing, sent.State = true, x
			}
		}
		return sent, nil
	}
	sent.State = s
	return sent, g.push(ctx, made, head)
}

// stream writes a commit for git fast-import: with the files of a source, or those of an earlier commit.
func (g *repository) stream(ctx context.Context, src Source, s *State, head, of string) ([]byte, error) {
	var out bytes.Buffer
	var files bytes.Buffer
	for _, name := range src.Names {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		data, err := src.Read(name)
		if err != nil {
			return nil, err
		}
		s.Bytes += int64(len(data))
		fmt.Fprintf(&files, "M 100644 inline %s\ndata %d\n", quoted(name), len(data))
		files.Write(data)
		files.WriteByte('\n')
	}
	message := fmt.Sprintf(
		"Publish %s\n\nState: %s\nVerdict: %s\nBytes: %d\n",
		s.ID,
		s.ID,
		strings.Join(strings.Fields(s.Verdict), " "),
		s.Bytes,
	)
	fmt.Fprintf(
		&out,
		"commit refs/publish/made\ncommitter Ziegel <publish@ziegel.invalid> %d +0000\ndata %d\n%s",
		s.Time.Unix(),
		len(message),
		message,
	)
	if head != "" {
		fmt.Fprintf(&out, "from %s\n", head)
	}
	out.WriteString("deleteall\n")
	if of != "" {
		fmt.Fprintf(&out, "M 040000 %s \n", of)
	}
	out.Write(files.Bytes())
	return append(out.Bytes(), "done\n"...), nil
}

// quoted writes a path for git fast-import.
func quoted(name string) string {
	if !strings.ContainsAny(name, "\"\n\\") && !strings.HasPrefix(name, " ") {
		return name
	}
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`).Replace(name) + `"`
}

// push makes a commit the branch's, unless somebody has changed it since we looked, and asks whether it is.
func (g *repository) push(ctx context.Context, ref, head string) error {
	if _, err := g.git(ctx, nil, "push", "-q", "--force-with-lease=refs/heads/"+g.place.Ref+":"+head, "--", g.address,
		ref+":refs/heads/"+g.place.Ref); err != nil {
		if strings.Contains(err.Error(), "stale info") || strings.Contains(err.Error(), "rejected") {
			return fmt.Errorf(
				"somebody else has changed %s of %s just now; nothing was published: publish again",
				g.place.Ref,
				g.place.Where,
			)
		}
		return err
	}
	want, err := g.git(ctx, nil, "rev-parse", ref)
	if err != nil {
		return err
	}
	there, err := g.git(ctx, nil, "ls-remote", "--", g.address, "refs/heads/"+g.place.Ref)
	if err != nil {
		return err
	}
	if !strings.HasPrefix(there, strings.TrimSpace(want)) {
		return fmt.Errorf("%s of %s is not what was pushed", g.place.Ref, g.place.Where)
	}
	return nil
}

func (g *repository) Back(ctx context.Context, id string) (State, error) {
	list, err := g.States(ctx)
	if err != nil {
		return State{}, err
	}
	s, err := before(list, id)
	if err != nil {
		return s, err
	}
	commit, err := g.commitOf(ctx, s.ID)
	if err != nil {
		return s, err
	}
	tree, err := g.git(ctx, nil, "rev-parse", commit+"^{tree}")
	if err != nil {
		return s, err
	}
	head, err := g.git(ctx, nil, "rev-parse", ours)
	if err != nil {
		return s, err
	}
	head = strings.TrimSpace(head)
	stream, err := g.stream(ctx, Source{}, &s, head, strings.TrimSpace(tree))
	if err != nil {
		return s, err
	}
	_, _ = g.git(ctx, nil, "update-ref", "-d", "refs/publish/made")
	if _, err := g.git(ctx, stream, "fast-import", "--quiet", "--force"); err != nil {
		return s, err
	}
	return s, g.push(ctx, "refs/publish/made", head)
}
