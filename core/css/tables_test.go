package css

import (
	"flag"
	"fmt"
	"os"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "write generated files anew")

// computed is what a browser lists in a computed style; e2e checks that it still does.
func computed(t *testing.T) []string {
	t.Helper()
	data, err := os.ReadFile("testdata/computed.txt")
	require.NoError(t, err)
	list := strings.Fields(string(data))
	require.Greater(t, len(list), 400)
	return list
}

func TestEveryPropertyIsInOneTable(t *testing.T) {
	for _, n := range computed(t) {
		assert.NotEqual(t, Unknown, SupportOf(n), "%s is in no table", n)
	}
	for n := range noEffect {
		assert.Nil(t, propertyTable[n], n)
		assert.Nil(t, shorthands[n], n)
		assert.Zero(t, reportedTable[n], n)
	}
	for n := range shorthands {
		assert.Nil(t, propertyTable[n], n)
		assert.Zero(t, reportedTable[n], n)
		assert.NotEmpty(t, wideLonghands(n), "%s: no sample value that it can read", n)
	}
}

func TestReportedPropertiesAreToldOnce(t *testing.T) {
	names, sample := ReportedProperties()
	for _, n := range names {
		page := fmt.Sprintf("<!doctype html>\n<style>p { color: red;\n  %s: %s }\nb { %[1]s: %[2]s }</style><p>x</p><p>y</p>", n, sample[n])
		d, err := Load(Source{File: "p.html", HTML: page})
		require.NoError(t, err)
		require.Len(t, d.Unsupported, 1, n)
		u := d.Unsupported[0]
		assert.Equal(t, n, u.Property)
		assert.Equal(t, "p.html", u.Sheet.File)
		assert.Equal(t, 2, strings.Count(u.Sheet.Source[:u.Pos], "\n"), "%s: told at its line", n)
		for _, ok := range reportedTable[n].harmless {
			d, err := Load(Source{File: "p.html", HTML: fmt.Sprintf("<p style='%s: %s'>x", n, ok)})
			require.NoError(t, err)
			assert.Empty(t, d.Unsupported, "%s: %s", n, ok)
		}
	}
}

func TestValuesThatAreNotFollowedAreTold(t *testing.T) {
	for _, decl := range []string{"display: ruby", "content-visibility: auto",
		"text-transform: full-width", "list-style-type: hebrew", "list-style: linear-gradient(red, blue)", "content: url(x.svg)", "text-orientation: upright",
		"font-variant: unicase", "column-height: 9em", "text-emphasis: dot", "grid-column: span 1000000000", "grid-row-start: -1001", "grid-template-columns: [a] repeat(99999999999999999999, 1px)"} {
		d, err := Load(Source{File: "p.html", HTML: "<p style='" + decl + "'>x"})
		require.NoError(t, err)
		assert.Len(t, d.Unsupported, 1, decl)
	}
	for _, decl := range []string{"grid-column: span 1000", "grid-column: 1 / -1",
		"grid-template-columns: repeat(12, 2000px)", "grid-template-rows: 5000px"} {
		d, err := Load(Source{File: "p.html", HTML: "<p style='" + decl + "'>x"})
		require.NoError(t, err)
		assert.Empty(t, d.Unsupported, decl)
	}
	_, err := Load(Source{File: "p.html", HTML: strings.Repeat("<br>", 60001)})
	assert.ErrorContains(t, err, "60000 are the most")
	d, err := Load(Source{File: "p.html", HTML: "<style>p::first-line { font-size: 3em; color: red }</style><p>x"})
	require.NoError(t, err)
	require.Len(t, d.Unsupported, 1)
	assert.Contains(t, d.Unsupported[0].Value, "::first-line")
}

// TestEngineDocListsTheTables keeps the lists in docs/ENGINE.md.
func TestEngineDocListsTheTables(t *testing.T) {
	groups := map[Support][]string{}
	seen := map[string]bool{}
	add := func(n string) {
		if !seen[n] {
			seen[n] = true
			groups[SupportOf(n)] = append(groups[SupportOf(n)], n)
		}
	}
	for _, n := range computed(t) {
		add(n)
	}
	for n := range propertyTable {
		add(n)
	}
	for n := range reportedTable {
		add(n)
	}
	var b strings.Builder
	for _, s := range []Support{Modelled, Reported, NoEffect} {
		list := groups[s]
		sort.Strings(list)
		fmt.Fprintf(&b, "\n### %s%s (%d)\n\n", strings.ToUpper(string(s[:1])), s[1:], len(list))
		for i, n := range list {
			switch {
			case s == Reported:
				fmt.Fprintf(&b, "- `%s`, unless it is `%s`\n", n, strings.Join(reportedTable[n].harmless, "`, `"))
			case i == len(list)-1:
				fmt.Fprintf(&b, "`%s`.\n", n)
			default:
				fmt.Fprintf(&b, "`%s`, ", n)
			}
		}
	}
	const path, from, to = "../../docs/ENGINE.md", "<!-- properties -->\n", "<!-- end of properties -->"
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	before, rest, ok := strings.Cut(string(data), from)
	require.True(t, ok)
	_, after, ok := strings.Cut(rest, to)
	require.True(t, ok)
	want := before + from + b.String() + "\n" + to + after
	if *update {
		require.NoError(t, os.WriteFile(path, []byte(want), 0o666))
		return
	}
	assert.True(t, want == string(data),
		"docs/ENGINE.md does not list the properties as they are: go test ./core/css -update")
}
