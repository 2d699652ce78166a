package e2e

import (
	"bytes"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/ui/cli"
)

// shell starts an OpenSSH server of this machine on the loopback, with a user's keys in home, and gives its port.
func shell(t *testing.T, home string) int {
	t.Helper()
	daemon, err := exec.LookPath("sshd")
	if err != nil {
		daemon = "/usr/sbin/sshd"
	}
	require.FileExists(t, daemon, "no OpenSSH server: `make test` installs Debian's package openssh-server")
	dir := t.TempDir()
	_ = os.MkdirAll("/run/sshd", 0o755) // where a server that is started by root parts with its rights
	require.NoError(t, os.MkdirAll(filepath.Join(home, ".ssh"), 0o700))
	key := func(file string) string {
		out, err := exec.Command("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", file).CombinedOutput()
		require.NoError(t, err, string(out))
		data, err := os.ReadFile(file + ".pub")
		require.NoError(t, err)
		return string(data)
	}
	host, mine := key(filepath.Join(dir, "host")), key(filepath.Join(home, ".ssh", "id_ed25519"))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "authorized"), []byte(mine), 0o600))
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	port := l.Addr().(*net.TCPAddr).Port
	l.Close()
	config := fmt.Sprintf(
		"Port %d\nListenAddress 127.0.0.1\nHostKey %s/host\nAuthorizedKeysFile %s/authorized\nStrictModes no\nUsePAM no\nPasswordAuthentication no\nPermitRootLogin yes\nPidFile none\nSubsystem sftp internal-sftp\n",
		port,
		dir,
		dir,
	)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "config"), []byte(config), 0o600))
	var said bytes.Buffer
	cmd := exec.Command(daemon, "-D", "-e", "-f", filepath.Join(dir, "config"))
	cmd.Stderr = &said
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	require.Eventually(t, func() bool {
		c, err := net.Dial("tcp", fmt.Sprintf("127.0.0.1:%d", port))
		if err == nil {
			c.Close()
		}
		return err == nil
	}, 10*time.Second, 20*time.Millisecond, "the server does not answer: %s", &said)
	f := strings.Fields(host)
	require.NoError(
		t,
		os.WriteFile(
			filepath.Join(home, ".ssh", "known_hosts"),
			[]byte(fmt.Sprintf("[127.0.0.1]:%d %s %s\n", port, f[0], f[1])),
			0o600,
		),
	)
	return port
}

// A site goes to a real server by SFTP and comes back, and what is wrong there is said in a sentence.
func TestPublishingToAServer(t *testing.T) {
	if testing.Short() {
		t.Skip("-short starts no servers")
	}
	home := t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("SSH_AUTH_SOCK", "")
	port := shell(t, home)
	me, err := user.Current()
	require.NoError(t, err)
	root := filepath.Join(t.TempDir(), "www", "out")
	require.NoError(t, os.Mkdir(filepath.Dir(root), 0o777))
	dir := filepath.Join(t.TempDir(), "site")
	run := func(code int, args ...string) string {
		t.Helper()
		var out bytes.Buffer
		require.Equal(
			t,
			code,
			cli.Run(append(args, "--site", dir), strings.NewReader(""), &out, &out),
			"%v: %s",
			args,
			&out,
		)
		return out.String()
	}
	var made bytes.Buffer
	require.Zero(t, cli.Run([]string{"demo", dir}, strings.NewReader(""), &made, &made), &made)
	add := func(text string) {
		f, err := os.OpenFile(filepath.Join(dir, "ziegel.yaml"), os.O_APPEND|os.O_WRONLY, 0)
		require.NoError(t, err)
		_, err = f.WriteString(text)
		require.NoError(t, err)
		require.NoError(t, f.Close())
	}
	add(
		fmt.Sprintf(
			"places: {live: %q, shut: %q, other: %q, gone: \"sftp://ines@127.0.0.1:1/out\"}\n",
			fmt.Sprintf("sftp://%s@127.0.0.1:%d%s", me.Username, port, root),
			fmt.Sprintf(
				"sftp://%s@127.0.0.1:%d/proc/out",
				me.Username,
				port,
			),
			fmt.Sprintf("sftp://nobody-here@127.0.0.1:%d/tmp/out", port),
		),
	)

	assert.Contains(t, run(0, "publish", "live"), "24 files sent")
	page := func() string {
		data, err := os.ReadFile(filepath.Join(root, "index.html"))
		require.NoError(t, err)
		return string(data)
	}
	first := page()
	link, err := os.Readlink(root)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(link, "out.states/"), link)
	assert.Contains(t, run(0, "publish", "live"), "nothing has changed")
	run(0, "set", "home/plans", "heading=Sew it, fly it")
	run(0, "check", "home")
	assert.Contains(t, run(0, "publish", "live"), "1 file sent, 23 as they were")
	assert.Contains(t, page(), "Sew it, fly it")
	assert.Contains(t, run(0, "publish", "live", "--list"), "is seen")
	run(0, "publish", "live", "--back")
	assert.Equal(t, first, page())

	// what stands in the way
	lock := filepath.Join(filepath.Dir(root), "out.states", ".lock")
	require.NoError(t, os.WriteFile(lock, nil, 0o666))
	assert.Contains(
		t,
		run(2, "publish", "live", "--back", "--state", "x"),
		"somebody is publishing there, or was cut short",
	)
	old := time.Now().Add(-time.Hour)
	require.NoError(t, os.Chtimes(lock, old, old))
	assert.Contains(
		t,
		run(2, "publish", "live", "--back", "--state", "x"),
		"there is no state x",
		"a lock that nobody renews is taken away",
	)
	assert.Contains(t, run(2, "publish", "shut"), "cannot be written")
	assert.Contains(t, run(2, "publish", "other"), "does not let nobody-here in with id_ed25519")
	assert.Contains(t, run(2, "publish", "gone"), "127.0.0.1:1 cannot be reached")
	known := filepath.Join(home, ".ssh", "known_hosts")
	other := filepath.Join(t.TempDir(), "key")
	out, err := exec.Command("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", other).CombinedOutput()
	require.NoError(t, err, string(out))
	pub, err := os.ReadFile(other + ".pub")
	require.NoError(t, err)
	require.NoError(
		t,
		os.WriteFile(
			known,
			[]byte(fmt.Sprintf("[127.0.0.1]:%d %s\n", port, strings.Join(strings.Fields(string(pub))[:2], " "))),
			0o600,
		),
	)
	assert.Contains(t, run(2, "publish", "live"), "shows another key than")
	require.NoError(t, os.WriteFile(known, nil, 0o600))
	assert.Contains(t, run(2, "publish", "live"), "is not in")
	require.NoError(t, os.Remove(known))
	assert.Contains(t, run(2, "publish", "live"), "known_hosts cannot be read")
	require.NoError(t, os.Remove(filepath.Join(home, ".ssh", "id_ed25519")))
	require.NoError(t, os.WriteFile(known, nil, 0o600))
	assert.Contains(t, run(2, "publish", "live"), "there is no key for 127.0.0.1")
	assert.Equal(t, first, page(), "and what is seen was never touched")
}
