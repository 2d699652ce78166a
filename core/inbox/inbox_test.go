package inbox

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestLettersAreReadAsFormsSendThem(t *testing.T) {
	const multi = "--x\r\nContent-Disposition: form-data; name=\"name\"\r\n\r\nInés & Co\r\n" +
		"--x\r\nContent-Disposition: form-data; name=\"plan\"; filename=\"kite.pdf\"\r\n\r\n%PDF\r\n--x--\r\n"
	for _, c := range []struct {
		name, kind, body string
		want             []Field
		trapped          bool
		then, wrong      string
	}{
		{"encoded", "application/x-www-form-urlencoded; charset=utf-8",
			"name=In%C3%A9s+%26+Co&homepage=&then=%2Fthanks%2F&text=a%0D%0Ab",
			[]Field{{"name", "Inés & Co"}, {"text", "a\r\nb"}}, false, "/thanks/", ""},
		{"in the order of the controls, twice the same name", "application/x-www-form-urlencoded", "b=2&a=1&b=3",
			[]Field{{"b", "2"}, {"a", "1"}, {"b", "3"}}, false, "", ""},
		{"the trap", "application/x-www-form-urlencoded", "name=x&homepage=http%3A%2F%2Fspam.example",
			[]Field{{"name", "x"}}, true, "", ""},
		{"parts", "multipart/form-data; boundary=x", multi,
			[]Field{{"name", "Inés & Co"}, {"plan", "kite.pdf"}}, false, "", ""},
		{"as a mail", "text/plain", "name=Inés\r\ntext=a=b\r\n", []Field{{"name", "Inés"}, {"text", "a=b"}}, false,
			"", ""},
		{"wrong escapes", "application/x-www-form-urlencoded", "a=%zz", nil, false, "", "cannot be read"},
		{"no boundary", "multipart/form-data", multi, nil, false, "", "where its parts end"},
		{"parts that are cut", "multipart/form-data; boundary=x", multi[:60], nil, false, "", "cannot be read"},
		{"another type", "application/json", "{}", nil, false, "", "not sent as application/json"},
		{"no type", "", "a=1", nil, false, "", "no type"},
		{"too long", "text/plain", strings.Repeat("x", MostBytes+1), nil, false, "", "longer than 1024 kB"},
	} {
		t.Run(c.name, func(t *testing.T) {
			l, then, err := Read(c.kind, strings.NewReader(c.body), "homepage", "then")
			if c.wrong != "" {
				assert.ErrorContains(t, err, c.wrong)
				return
			}
			require.NoError(t, err)
			assert.Equal(t, c.want, l.Fields)
			assert.Equal(t, c.trapped, l.Trapped)
			assert.Equal(t, c.then, then)
		})
	}
}

// Two letters of one second both stay; the newest comes first; other files are not letters and are not removed.
func TestLettersAreKept(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "inbox")
	assert.Empty(t, List(dir))
	at := time.Date(2026, 3, 1, 12, 0, 0, 0, time.UTC)
	for i, name := range []string{"first", "second", "third"} {
		require.NoError(t, Keep(dir, Letter{Time: at.Add(time.Duration(i/2) * time.Minute), Form: "home/write",
			To: "https://mine.example", Fields: []Field{{"name", name}}}))
	}
	require.NoError(t, os.WriteFile(filepath.Join(dir, "note.txt"), []byte("mine"), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "torn.json"), []byte("{"), 0o666))
	list := List(dir)
	require.Len(t, list, 3)
	assert.Equal(t, "third", list[0].Fields[0].Value)
	require.NoError(t, Empty(dir))
	assert.Empty(t, List(dir))
	assert.FileExists(t, filepath.Join(dir, "note.txt"))
}

func TestOnlyFormsThatPostAreTurnedRound(t *testing.T) {
	const page = `<section id="write" class="page-block x"><!-- < --><form method="post" action="mailto:a@b.example" enctype="text/plain"><input name=a></form>` +
		`<form method="get" action="https://find.example"></form><form method="post"></form></section>` +
		`<section class="page-block" id="mail"><form action="https://c.example/?x=1&amp;y=2" method="POST" class="form">`
	got := string(Redirect("home", []byte(page), "/-/inbox"))
	assert.Equal(
		t,
		`<section id="write" class="page-block x"><!-- < --><form method="post" action="/-/inbox?form=home%2Fwrite&amp;to=mailto%3Aa%40b.example" enctype="application/x-www-form-urlencoded"><input name=a></form>`+
			`<form method="get" action="https://find.example"></form><form method="post"></form></section>`+
			`<section class="page-block" id="mail"><form action="/-/inbox?form=home%2Fmail&amp;to=https%3A%2F%2Fc.example%2F%3Fx%3D1%26y%3D2" method="POST" class="form">`,
		got,
	)
}

// What cannot be read is told, and never more comes out than went in.
func FuzzRead(f *testing.F) {
	f.Add("application/x-www-form-urlencoded", "a=1&b=%20")
	f.Add("multipart/form-data; boundary=x", "--x\r\nContent-Disposition: form-data; name=\"a\"\r\n\r\nb\r\n--x--")
	f.Add("text/plain", "a=b\n")
	f.Fuzz(func(t *testing.T, kind, body string) {
		l, _, err := Read(kind, strings.NewReader(body), "homepage", "then")
		total := 0
		for _, x := range l.Fields {
			total += len(x.Name) + len(x.Value)
			assert.NotContains(t, []string{"homepage", "then"}, x.Name)
		}
		assert.True(t, err == nil || len(l.Fields) == 0)
		assert.LessOrEqual(t, total, len(body))
	})
}
