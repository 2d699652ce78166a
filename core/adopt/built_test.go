package adopt_test

import (
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"ziegel/core/adopt"
	"ziegel/core/build"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// leaves lists what fields say, by address.
func leaves(out map[string]string, at string, v *site.Value) {
	switch {
	case v == nil:
	case v.Kind == site.Text:
		out[at] = v.Text
	case v.Kind == site.List:
		for i, x := range v.Items {
			leaves(out, fmt.Sprintf("%s[%d]", at, i+1), x)
		}
	default:
		for _, e := range v.Entries {
			leaves(out, strings.TrimPrefix(at+"."+e.Key, "."), e.Value)
		}
	}
}

// template opens a shipped template, or the demo, as a site.
func template(t testing.TB, dir string) *project.Project {
	files := map[string]string{}
	require.NoError(t, fs.WalkDir(stock.Files, dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(stock.Files, p)
		files[strings.TrimPrefix(p, dir+"/")] = string(data)
		return err
	}))
	return testsite.Open(t, testsite.Write(t, files))
}

// taken builds a site and takes its pages.
func taken(t testing.TB, env *project.Project) *adopt.Taking {
	files, problems := build.Build(env, build.Options{})
	require.NoError(t, problems.Err())
	folder, pages := fstest.MapFS{}, []string{}
	for name, f := range files {
		folder[name] = &fstest.MapFile{Data: f.Data}
		if strings.HasSuffix(name, ".html") && name != "404.html" {
			pages = append(pages, name)
		}
	}
	slices.Sort(pages)
	shelf, _, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	out, err := adopt.Take(shelf, adopt.Wanted{Folder: folder, Files: pages})
	require.NoError(t, err)
	return out
}

func TestOwnPagesComeBack(t *testing.T) {
	for _, dir := range []string{"demo", "demo-ar", "templates/bureau", "templates/corner-shop", "templates/debut", "templates/festival",
		"templates/inn", "templates/kitchen", "templates/studio", "templates/zine"} {
		t.Run(dir, func(t *testing.T) {
			env := template(t, dir)
			got := taken(t, env)
			right, all := 0, 0
			for _, page := range env.Site.Pages() {
				var mine *adopt.Page
				for _, p := range got.Pages {
					if p.Name == page.Name {
						mine = p
					}
				}
				if mine == nil {
					continue
				}
				every := append(append(mine.Every(), got.Top...), got.Bottom...)
				for _, b := range env.Site.All(page) {
					at := slices.IndexFunc(every, func(x *adopt.Band) bool { return x.Name == b.Name })
					if !assertAt(t, at >= 0, "%s/%s is not found", page.Name, b.Name) {
						continue
					}
					if every[at].Section != b.Section {
						t.Errorf("%s/%s: %s, not %s", page.Name, b.Name, every[at].Section, b.Section)
					}
					want, have := map[string]string{}, map[string]string{}
					leaves(want, "", b.Content)
					leaves(have, "", every[at].Content)
					for k, v := range want {
						all++
						if have[k] == v {
							right++
						} else {
							t.Logf("%s/%s.%s: %q, not %q", page.Name, b.Name, k, have[k], v)
						}
					}
				}
			}
			t.Logf("%d of %d fields", right, all)
		})
	}
}

func assertAt(t *testing.T, ok bool, format string, args ...any) bool {
	if !ok {
		t.Errorf(format, args...)
	}
	return ok
}
