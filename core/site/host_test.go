package site_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/site"
	"ziegel/internal/testsite"
)

func TestWhatAHostIsToldIsRead(t *testing.T) {
	for _, c := range []struct{ name, host, want string }{
		{"all of it", "{reads: [nginx, .htaccess], hashed: yes, moved: {/old: home, /a: 'https://o.example'}, security: a@b.example, until: 2027-01-31}", ""},
		{"nothing", "", ""},
		{"another form", "{reads: [htaccess]}", "3:16 there is no form \"htaccess\""},
		{"another key", "{read: [nginx]}", "3:8 host has no \"read\""},
		{"a page in the way", "{moved: {/courses/: home}}", "3:16 /courses/ is a page of the site"},
		{"no path", "{moved: {old: home}}", "3:16 \"old\" is no address"},
		{"the root", "{moved: {/: courses}}", "3:16 \"/\" is no address"},
		{"a path that ends a rule", "{moved: {'/a\" b': home}}", "no address of the site"},
		{"no page", "{moved: {/old: course}}", "3:22 what was at /old leads to \"course\""},
		{"an address that ends a rule", "{moved: {/old: 'https://o.example/;}'}}", "which is no page"},
		{"a script", "{moved: {/old: 'javascript:alert(1)'}}", "which is no page"},
		{"nobody to write to", "{until: 2027-01-31}", "nobody can be written to"},
		{"nobody", "{security: ines, until: 2027-01-31}", "3:18 nobody can be written to at \"ines\""},
		{"for ever", "{security: a@b.example}", "holds up to a day"},
		{"another day", "{security: a@b.example, until: 31.1.2027}", "holds up to a day"},
		{"a switch", "{hashed: maybe}", "hashed cannot be \"maybe\""},
	} {
		t.Run(c.name, func(t *testing.T) {
			dir := testsite.Write(
				t,
				map[string]string{"ziegel.yaml": "name: M\naddress: https://m.example\nhost: " + c.host + "\n",
					"pages/home.yaml": "title: T\nblocks: []\n", "pages/courses.yaml": "title: C\nblocks: []\n"},
			)
			s, problems, err := site.Open(dir)
			require.NoError(t, err)
			if c.want == "" {
				require.NoError(t, problems.Err())
				if c.host != "" {
					assert.Equal(t, []string{"nginx", ".htaccess"}, s.Host.Reads)
					assert.Len(t, s.Host.Moved, 2)
					assert.Equal(t, "mailto:a@b.example", s.Host.Security)
				}
				return
			}
			require.Len(t, problems, 1)
			p := problems[0]
			assert.Contains(t, strings.TrimPrefix(p.Position.String(), "ziegel.yaml:")+" "+p.Text, c.want)
		})
	}
}
