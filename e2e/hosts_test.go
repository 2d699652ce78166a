package e2e

import (
	"bytes"
	"crypto/sha1"
	"encoding/base64"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/ui/cli"
)

// freePort gives a port of the loopback that nobody has.
func freePort(t *testing.T) int {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port
}

// serve starts a server in the foreground and waits until it answers.
func serve(t *testing.T, port int, name string, args ...string) {
	t.Helper()
	daemon, err := exec.LookPath(name)
	if err != nil {
		daemon = "/usr/sbin/" + name
	}
	require.FileExists(t, daemon, "no %s: `make test` installs Debian's package", name)
	var said bytes.Buffer
	cmd := exec.Command(daemon, args...)
	cmd.Stderr = &said
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Signal(os.Interrupt); _ = cmd.Wait() })
	require.Eventually(t, func() bool {
		c, err := net.Dial("tcp", fmt.Sprintf("127.0.0.1:%d", port))
		if err == nil {
			c.Close()
		}
		return err == nil
	}, 10*time.Second, 20*time.Millisecond, "%s does not answer: %s", name, &said)
}

// apache starts an Apache httpd that takes files by WebDAV below /dav from ines (word: knot), has a folder there that
// nobody may write to, and shows what lies there at /.
func apache(t *testing.T) (port int, root string) {
	t.Helper()
	dir := t.TempDir()
	root = filepath.Join(dir, "www")
	for _, d := range []string{"", "site", "shut", "theirs"} {
		require.NoError(t, os.MkdirAll(filepath.Join(root, d), 0o777))
		require.NoError(t, os.Chmod(filepath.Join(root, d), 0o777))
	}
	require.NoError(t, os.WriteFile(filepath.Join(root, "theirs", "index.html"), []byte("theirs"), 0o666))
	require.NoError(t, os.Chmod(dir, 0o777))
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755)) // a server that root starts takes the rights of another
	sum := sha1.Sum([]byte("knot"))                        // the form of password files, not a secret
	require.NoError(t, os.WriteFile(filepath.Join(dir, "users"),
		[]byte("ines:{SHA}"+base64.StdEncoding.EncodeToString(sum[:])+"\n"), 0o644))
	port = freePort(t)
	var b strings.Builder
	for _, m := range []string{"mpm_event", "dav", "dav_fs", "auth_basic", "authn_core", "authn_file", "authz_core",
		"authz_user",
		"alias", "headers", "mime", "dir"} {
		if _, err := os.Stat("/usr/lib/apache2/modules/mod_" + m + ".so"); err == nil {
			fmt.Fprintf(&b, "LoadModule %s_module /usr/lib/apache2/modules/mod_%s.so\n", m, m)
		}
	}
	user := ""
	if os.Geteuid() == 0 {
		user = "User www-data\nGroup www-data\n"
	}
	fmt.Fprintf(&b, `ServerRoot %[1]s
ServerName 127.0.0.1
Listen 127.0.0.1:%[2]d
PidFile %[1]s/pid
ErrorLog %[1]s/error.log
%[3]sTypesConfig /dev/null
DocumentRoot %[4]s/site
DavLockDB %[1]s/locks
Alias /dav %[4]s
<Directory %[4]s>
  AllowOverride All
  Options FollowSymLinks
  DirectoryIndex index.html
  Require all granted
</Directory>
<Location /dav>
  Dav On
  DirectoryIndex disabled
  AuthType Basic
  AuthName site
  AuthUserFile %[1]s/users
  Require valid-user
</Location>
<Location /dav/shut>
  Dav Off
  Require all denied
</Location>
`, dir, port, user, root)
	config := filepath.Join(dir, "config")
	require.NoError(t, os.WriteFile(config, []byte(b.String()), 0o644))
	serve(t, port, "apache2", "-f", config, "-DFOREGROUND")
	return port, root
}

// A site goes to a real server by WebDAV and comes back, the server obeys what it is told there, and what is wrong is
// said in a sentence.
func TestPublishingByWebDAV(t *testing.T) {
	if testing.Short() {
		t.Skip("-short starts no servers")
	}
	port, root := apache(t)
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
	f, err := os.OpenFile(filepath.Join(dir, "ziegel.yaml"), os.O_APPEND|os.O_WRONLY, 0)
	require.NoError(t, err)
	place := func(path string) string { return fmt.Sprintf("\"webdav:http://ines@127.0.0.1:%d%s\"", port, path) }
	fmt.Fprintf(
		f,
		"host:\n  reads: [.htaccess, nginx]\n  hashed: yes\n  moved: {/old.html: courses, /shop: 'https://shop.example/a?b=1'}\n"+
			"places:\n  live: %s\n  shut: %s\n  none: %s\n  plain: %s\n  theirs: %s\n  gone: \"webdav:http://ines@127.0.0.1:1/dav/out\"\n",
		place("/dav/site"),
		place("/dav/shut/out"),
		place("/dav/none/out"),
		place("/site/out"),
		place("/dav/theirs"),
	)
	require.NoError(t, f.Close())

	assert.Contains(t, run(2, "publish", "live"), "does not let ines in: ZIEGEL_PASSWORD_LIVE is not set")
	t.Setenv("ZIEGEL_PASSWORD_LIVE", "rope")
	assert.Contains(t, run(2, "publish", "live"), "ZIEGEL_PASSWORD_LIVE is not right")
	for _, p := range []string{"LIVE", "SHUT", "NONE", "PLAIN", "THEIRS", "GONE"} {
		t.Setenv("ZIEGEL_PASSWORD_"+p, "knot")
	}
	assert.Contains(t, run(0, "publish", "live"), "26 files sent")
	get := func(path string) (*http.Response, string) {
		t.Helper()
		c := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
		r, err := c.Get(fmt.Sprintf("http://127.0.0.1:%d%s", port, path))
		require.NoError(t, err)
		defer r.Body.Close()
		data, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		return r, string(data)
	}
	r, first := get("/")
	assert.Equal(t, "no-cache", r.Header.Get("Cache-Control"))
	assert.Equal(t, "nosniff", r.Header.Get("X-Content-Type-Options"))
	css := first[strings.Index(first, `href="site.`)+6:]
	css = css[:strings.Index(css, `"`)]
	r, _ = get("/" + css)
	assert.Equal(t, "public, max-age=31536000, immutable", r.Header.Get("Cache-Control"), css)
	r, _ = get("/old.html")
	assert.Equal(t, 301, r.StatusCode)
	assert.True(t, strings.HasSuffix(r.Header.Get("Location"), "/courses/"), r.Header.Get("Location"))
	r, _ = get("/shop")
	assert.Equal(t, "https://shop.example/a?b=1", r.Header.Get("Location"))
	r, lost := get("/nowhere")
	assert.Equal(t, 404, r.StatusCode)
	assert.Contains(t, lost, "There is no page here")

	assert.Contains(t, run(0, "publish", "live"), "nothing has changed")
	run(0, "set", "home/plans", "heading=Sew it, fly it")
	run(0, "check", "home")
	assert.Contains(t, run(0, "publish", "live"), "1 file sent, 25 as they were")
	_, now := get("/")
	assert.Contains(t, now, "Sew it, fly it")
	assert.Equal(t, 1, strings.Count(run(0, "publish", "live", "--list"), "is seen"))
	run(0, "publish", "live", "--back")
	_, now = get("/")
	assert.Equal(t, first, now)

	lock := filepath.Join(root, "site.states", ".lock")
	require.NoError(t, os.WriteFile(lock, nil, 0o666))
	require.NoError(t, os.Chmod(lock, 0o666))
	assert.Contains(
		t,
		run(2, "publish", "live", "--back", "--state", "x"),
		"somebody is publishing there, or was cut short",
	)
	old := time.Now().Add(-time.Hour)
	require.NoError(t, os.Chtimes(lock, old, old))
	assert.Contains(t, run(2, "publish", "live", "--back", "--state", "x"), "there is no state x")
	assert.NoFileExists(t, lock)
	assert.Contains(t, run(2, "publish", "shut"), "does not let ines in")
	assert.Contains(t, run(2, "publish", "none"), "has no folder /dav/none")
	assert.Contains(t, run(2, "publish", "plain"), "does not speak WebDAV at /site")
	assert.Contains(t, run(2, "publish", "theirs"), "was not published by this program")
	assert.Contains(t, run(2, "publish", "gone"), "127.0.0.1:1 cannot be reached")
	_, now = get("/")
	assert.Equal(t, first, now, "and what is seen was never touched")

	// the other form, read by the other server
	conf := filepath.Join(t.TempDir(), "nginx.conf")
	other := freePort(t)
	user := ""
	if os.Geteuid() == 0 {
		user = "user root;\n"
	}
	temp := t.TempDir()
	require.NoError(t, os.WriteFile(conf, fmt.Appendf(nil, `%sdaemon off; pid %s/pid; error_log %s/error.log;
events {}
http { access_log off; client_body_temp_path %s; proxy_temp_path %s; fastcgi_temp_path %s; uwsgi_temp_path %s; scgi_temp_path %s;
server { listen 127.0.0.1:%d; root %s/site; index index.html; include %s/site/nginx-include.conf; } }
`, user, temp, temp, temp, temp, temp, temp, temp, other, root, root), 0o644))
	serve(t, other, "nginx", "-c", conf, "-e", temp+"/error.log")
	port = other
	r, _ = get("/" + css)
	assert.Equal(t, "public, max-age=31536000, immutable", r.Header.Get("Cache-Control"), css)
	r, _ = get("/old.html")
	assert.Equal(t, 301, r.StatusCode)
	assert.True(t, strings.HasSuffix(r.Header.Get("Location"), "/courses/"), r.Header.Get("Location"))
	r, _ = get("/nginx-include.conf")
	assert.Equal(t, 404, r.StatusCode)
	r, lost = get("/nowhere")
	assert.Equal(t, 404, r.StatusCode)
	assert.Contains(t, lost, "There is no page here")
	assert.Equal(t, "nosniff", r.Header.Get("X-Content-Type-Options"))
}
