package build

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/internal/testsite"
)

// What servers are told, in each of their forms; e2e asks the servers themselves.
func TestHostsAreTold(t *testing.T) {
	files := func(site string) map[string]string {
		e := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: Mine\n" + site,
			"pages/home.yaml": "title: T\nblocks: []\n", "pages/courses.yaml": "title: C\nblocks: []\n"}))
		out, problems := Build(e, Options{})
		require.NoError(t, problems.Err())
		texts := map[string]string{}
		for name, f := range out {
			texts[name] = string(f.Data)
		}
		return texts
	}
	got := files("")
	for _, name := range []string{"robots.txt", "sitemap.xml", ".htaccess", "_headers", "_redirects",
		"nginx-include.conf",
		".well-known/security.txt"} {
		assert.NotContains(t, got, name, "nothing is written that nobody asked for")
	}
	got = files("address: https://m.example/k\nhost:\n  reads: [.htaccess, _headers, nginx]\n  hashed: yes\n" +
		"  moved: {/old.html: courses, /a/b: 'home#x', /s: 'https://o.example/%20a?b=1'}\n  security: ines@m.example\n  until: 2027-10-31\n")
	assert.Contains(t, got["robots.txt"], "Sitemap: https://m.example/k/sitemap.xml\n")
	assert.Contains(
		t,
		got["sitemap.xml"],
		"<url><loc>https://m.example/k/courses/</loc></url>\n  <url><loc>https://m.example/k/</loc></url>\n</urlset>",
	)
	assert.NotContains(t, got["sitemap.xml"], "404")
	assert.Equal(
		t,
		"/k/old.html  /k/courses/  301\n/k/a/b  /k/#x  301\n/k/s  https://o.example/%20a?b=1  301\n",
		got["_redirects"],
	)
	assert.Contains(t, got[".htaccess"], `RedirectMatch 301 "^/k/old\.html/?$" "/k/courses/"`)
	assert.Contains(t, got[".htaccess"], `<FilesMatch "\.[0-9a-f]{8}\.[a-z0-9]+$">`)
	assert.Contains(t, got["nginx-include.conf"], `location ~ "^/k/a/b/?$" { return 301 "/k/#x"; }`)
	assert.Contains(t, got["_headers"], "/k/fonts/*.woff2\n  Cache-Control: public, max-age=31536000, immutable\n")
	assert.NotContains(t, got["_headers"], "txt", "a licence keeps its name, and may change")
	assert.Equal(
		t,
		"Contact: mailto:ines@m.example\nExpires: 2027-10-31T00:00:00Z\nPreferred-Languages: en\nCanonical: https://m.example/k/.well-known/security.txt\n",
		got[".well-known/security.txt"],
	)
	assert.NotContains(
		t,
		files("host: {reads: [_headers]}\n")["_headers"],
		"immutable",
		"names that stay may change what they name",
	)
}
