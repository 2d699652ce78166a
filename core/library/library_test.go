package library_test

import (
	"io/fs"
	"maps"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/stock"
)

func TestFieldsPartsAndOptionsFollowFromTheMarks(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	s := lib.Section("pricing/plans")
	require.NotNil(t, s)
	assert.Equal(t, []string{"eyebrow", "heading", "lead", "items", "actions"}, s.FieldNames())
	items := s.Field("items")
	assert.Equal(t, library.ListOf, items.Type)
	require.Len(t, items.Samples, 3)
	types := map[string]library.FieldType{}
	for _, f := range items.Of {
		types[f.Name] = f.Type
	}
	assert.Equal(t, map[string]library.FieldType{"raised": library.Switch, "tone": library.Tone,
		"title": library.RichText,
		"text":  library.RichText, "price": library.RichText, "unit": library.RichText,
		"points": library.ListOf, "link": library.Link}, types)
	assert.Equal(t, "yes", items.Samples[1].Get("raised").Str())
	assert.Nil(t, items.Samples[0].Get("raised"))
	assert.Len(t, items.Samples[1].Get("points").Items, 3)
	assert.Equal(t, "Book a weekend", items.Samples[1].Get("link").Get("label").Str())
	assert.True(t, s.HasPart("card"))
	assert.Equal(t, "3", s.Option("columns").Default)
	hero := lib.Section("hero/beside")
	assert.Equal(t, library.Picture, hero.Field("media").Type)
	assert.Equal(t, "Made for _real_ wind", hero.Field("heading").Sample)
	assert.Equal(t, library.Icon, lib.Section("features/cards").Field("items").Find("icon").Type)
}

func TestTheNearestNameIsFound(t *testing.T) {
	lib, _ := library.Load("sections", stock.Files)
	assert.Equal(t, "hero/beside", lib.Nearest("hero/besid"))
	assert.Equal(t, "nav/bar", lib.Nearest("bar"))
	assert.Equal(t, "logos", lib.Nearest("logos/grids")[:5])
	assert.Equal(t, "steps", lib.Nearest("steps/row")[:5], "of the kind that was named, though logos/row is nearer")
}

func TestABrokenSectionSaysWhatIsWrong(t *testing.T) {
	file := func(s string) *fstest.MapFile { return &fstest.MapFile{Data: []byte(s)} }
	_, problems := library.Load("sections", fstest.MapFS{
		"sections/hero/a/section.html": file("<p>x</p>"), "sections/hero/a/section.css": file(".a{"), "sections/hero/a/section.yaml": file("name: hero/b\noptions:\n  size: {summary: x}\n"),
		"sections/hero/b/section.html": file("x"),
	})
	var got []string
	for _, p := range problems {
		got = append(got, p.Position.String()+" "+p.Rule)
	}
	assert.Equal(t, []string{"sections/hero/a/section.yaml:1:1 bad-name",
		"sections/hero/a/section.yaml:3:3 bad-option", "sections/hero/b/section.css missing-file", "sections/hero/b/section.yaml missing-file"}, got)
	lib, problems := library.Load("sections", fstest.MapFS{})
	assert.Empty(t, lib.All())
	assert.Empty(t, problems)
}

// A block can become one of another section: what the two call the same is the same.
func TestANameMeansTheSameInEverySection(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	types, first := map[string]string{}, map[string]string{}
	var walk func(s *library.Section, path string, fields []*library.Field)
	walk = func(s *library.Section, path string, fields []*library.Field) {
		for _, f := range fields {
			name, kind := path+f.Name, string(f.Type)
			// it leads home in a menu and is a word in a footer, which nobody makes of one another
			if name == "brand" {
				name = s.Kind + " brand"
			}
			if self := f.Find("."); self != nil { // a list of texts is no list of entries
				kind += " of " + string(self.Type)
			}
			if types[name] == "" {
				types[name], first[name] = kind, s.Name
			}
			assert.Equal(t, types[name], kind, "%s of %s and %s", name, first[name], s.Name)
			walk(s, name+"[].", f.Of)
		}
	}
	for _, s := range lib.All() {
		walk(s, "", s.Fields)
	}
}

// counted is a folder that counts which files were read.
type counted struct {
	fs.FS
	read map[string]int
}

func (c counted) Open(name string) (fs.File, error) {
	c.read[name]++
	return c.FS.Open(name)
}

func TestAShippedSectionIsReadWhenItIsAskedFor(t *testing.T) {
	file := func(s string) *fstest.MapFile { return &fstest.MapFile{Data: []byte(s)} }
	section := func(name string) fstest.MapFS {
		dir := "sections/" + name + "/"
		return fstest.MapFS{dir + "section.html": file("<section></section>"), dir + "section.css": file(""),
			dir + "section.yaml": file("name: " + name + "\nshares: [size]\n")}
	}
	files := fstest.MapFS{"options.yaml": file("size: {choices: [s, l], default: s}\n")}
	shipped := counted{files, map[string]int{}}
	for _, name := range []string{"hero/a", "hero/b", "team/a"} {
		maps.Copy(files, section(name))
	}
	own := section("hero/b")
	own["sections/hero/b/section.css"] = file(".hero-b { color: red }")
	own["sections/team/broken/section.html"] = file("<p></p>")
	lib, problems := library.Open("sections", shipped, own)
	require.Len(t, problems, 2, "only the site's own sections are looked at: %v", problems)
	reads := func(name string) int { return shipped.read["sections/"+name+"/section.html"] }
	assert.Equal(t, []string{"hero/a", "hero/b", "team/a", "team/broken"}, lib.Names())
	assert.Equal(t, []string{"hero", "team"}, lib.Kinds())
	assert.Zero(t, reads("hero/a")+reads("hero/b")+reads("team/a"))
	assert.Contains(t, lib.Section("hero/b").CSS.Source, "red", "a site's own wins")
	assert.NotNil(t, lib.Section("hero/a").Option("size"))
	assert.Same(t, lib.Section("hero/a"), lib.Section("hero/a"))
	assert.Equal(t, []int{1, 0, 0}, []int{reads("hero/a"), reads("hero/b"), reads("team/a")})
	assert.Len(t, lib.Own(), 1)
	assert.Len(t, lib.All(), 3, "what cannot be read is left out")
	assert.Nil(t, lib.Section("team/broken"))
	assert.Nil(t, lib.Section("hero/c"))
}

func TestVersionsSayWhatTheyBrought(t *testing.T) {
	files := func(yaml string) fstest.MapFS {
		return fstest.MapFS{
			"sections/own/x/section.html": {Data: []byte(`<section class="root"><h2 data-field="heading">A</h2></section>`)},
			"sections/own/x/section.css":  {Data: []byte(".root { color: red; }")},
			"sections/own/x/section.yaml": {Data: []byte("name: own/x\nsummary: x\nversion: 3\nchanges:\n" + yaml)},
		}
	}
	l, problems := library.Load("sections",
		files("  2: One.\n  3:\n    says: Two.\n    renames:\n      fields: {kicker: eyebrow}\n"))
	require.NoError(t, problems.Err())
	s := l.Section("own/x")
	assert.Equal(t, "3", s.Changes[0].Version)
	assert.Equal(t, "eyebrow", s.Changes[0].Renames["fields"]["kicker"])
	require.Len(t, s.Since("1"), 2)
	assert.Equal(t, "One.", s.Since("1")[0].Says)
	assert.Empty(t, s.Since("3"))
	for yaml, want := range map[string]string{
		"  4: More.\n":   `the section has no version "4"`,
		"  one: More.\n": `the section has no version "one"`,
		"  2: ''\n":      "version 2 does not say what it brought",
		"  2: {says: x, renames: {feilds: {a: b}}}\n": `a version renames no "feilds"`,
	} {
		_, problems := library.Load("sections", files(yaml))
		assert.ErrorContains(t, problems.Err(), want)
	}
}
