package words_test

import (
	"encoding/xml"
	"errors"
	"io"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// xliffElement is what XLIFF 2.1 says of an element, as far as documents for translators go (the core, 4.2 and 4.3):
// which attributes it must and may have, and which elements it holds, in their order; one ends in * where there may be
// several, in ? where it may be missing.
type xliffElement struct{ must, may, holds []string }

// inlineOf is what source and target hold, in any order (4.3.1).
var inlineOf = []string{"cp", "ph", "pc", "sc", "ec", "mrk", "sm", "em"}

var xliffElements = map[string]xliffElement{
	"xliff": {[]string{"version", "srcLang"}, []string{"trgLang", "space"}, []string{"file*"}},
	"file": {[]string{"id"}, []string{"canResegment", "original", "translate", "srcDir", "trgDir", "space"},
		[]string{"notes?", "unit*"}},
	"unit": {[]string{"id"}, []string{"name", "canResegment", "translate", "srcDir", "trgDir", "space", "type"},
		[]string{"notes?", "originalData?", "segment*"}},
	"notes":        {nil, nil, []string{"note*"}},
	"note":         {nil, []string{"id", "appliesTo", "category", "priority"}, nil},
	"originalData": {nil, nil, []string{"data*"}},
	"data":         {[]string{"id"}, []string{"dir", "space"}, nil},
	"segment":      {nil, []string{"id", "canResegment", "state", "subState"}, []string{"source", "target?"}},
	"source":       {nil, []string{"lang", "space"}, inlineOf},
	"target":       {nil, []string{"lang", "space", "order"}, inlineOf},
	"pc": {[]string{"id"}, []string{"canCopy", "canDelete", "canOverlap", "canReorder", "copyOf", "dataRefEnd",
		"dataRefStart",
		"dispEnd", "dispStart", "equivEnd", "equivStart", "subFlowsEnd", "subFlowsStart", "subType", "type", "dir"}, inlineOf},
}

// nameToken is an NMTOKEN (XML 1.0, 2.3).
var nameToken = regexp.MustCompile(`^[\pL\d.:_-]+$`)

// node is an element of a document with what it holds.
type node struct {
	name string
	attr map[string]string
	kids []*node
	text string
}

func parsedXML(t *testing.T, text string) *node {
	d := xml.NewDecoder(strings.NewReader(text))
	root := &node{}
	open := []*node{root}
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			require.Len(t, root.kids, 1)
			return root.kids[0]
		}
		require.NoError(t, err)
		at := open[len(open)-1]
		switch x := token.(type) {
		case xml.StartElement:
			assert.Equal(t, "urn:oasis:names:tc:xliff:document:2.0", x.Name.Space)
			n := &node{name: x.Name.Local, attr: map[string]string{}}
			for _, a := range x.Attr {
				if a.Name.Local != "xmlns" {
					n.attr[a.Name.Local] = a.Value
				}
			}
			at.kids, open = append(at.kids, n), append(open, n)
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.CharData:
			at.text += string(x)
		}
	}
}

// validXLIFF holds a document against the structure of the standard and its constraints: identifiers are name tokens
// and stand once where they count, references lead to data, states are those that there are, codes of a target have one
// of the same name in the source.
func validXLIFF(t *testing.T, text string) {
	t.Helper()
	root := parsedXML(t, text)
	require.Equal(t, "xliff", root.name)
	assert.Equal(t, "2.1", root.attr["version"])
	structured(t, root)
	ids := map[string]bool{}
	for _, f := range root.kids {
		assert.False(t, ids[f.attr["id"]], "two files %s", f.attr["id"])
		ids[f.attr["id"]] = true
		units := map[string]bool{}
		for _, u := range f.kids {
			assert.False(t, units[u.attr["id"]], "two units %s", u.attr["id"])
			units[u.attr["id"]] = true
			validUnit(t, u)
		}
	}
}

func structured(t *testing.T, n *node) {
	is, known := xliffElements[n.name]
	require.True(t, known, "there is no element %s", n.name)
	for _, name := range is.must {
		assert.NotEmpty(t, n.attr[name], "%s of %s", name, n.name)
	}
	for name, v := range n.attr {
		assert.True(t, slices.Contains(is.must, name) || slices.Contains(is.may, name), "%s has no attribute %s",
			n.name, name)
		if name == "id" {
			assert.Regexp(t, nameToken, v)
		}
		if name == "space" {
			assert.Contains(t, []string{"default", "preserve"}, v)
		}
	}
	if len(is.holds) == 0 {
		assert.Empty(t, n.kids, n.name)
	} else if slices.Equal(is.holds, inlineOf) {
		for _, k := range n.kids {
			assert.Contains(t, inlineOf, k.name)
		}
	} else {
		assert.Empty(t, strings.TrimSpace(n.text), "%s has no text of its own", n.name)
		kids := n.kids
		for _, want := range is.holds {
			name, count := strings.TrimRight(want, "*?"), 0
			for len(kids) > 0 && kids[0].name == name {
				kids, count = kids[1:], count+1
			}
			assert.True(t, count > 0 || strings.HasSuffix(want, "?"), "%s without %s", n.name, name)
			assert.True(t, count < 2 || strings.HasSuffix(want, "*"), "%s with two %s", n.name, name)
		}
		assert.Empty(t, kids, "%s in an order that it has not", n.name)
	}
	for _, k := range n.kids {
		structured(t, k)
	}
}

func validUnit(t *testing.T, u *node) {
	data, states := map[string]bool{}, []string{"", "initial", "translated", "reviewed", "final"}
	for _, k := range u.kids {
		switch k.name {
		case "originalData":
			for _, d := range k.kids {
				assert.False(t, data[d.attr["id"]], "two data %s", d.attr["id"])
				data[d.attr["id"]] = true
			}
		case "segment":
			assert.Contains(t, states, k.attr["state"])
			codes := map[string]map[string]bool{}
			for _, side := range k.kids {
				codes[side.name] = map[string]bool{}
				var walk func(n *node)
				walk = func(n *node) {
					for _, c := range n.kids {
						assert.False(t, codes[side.name][c.attr["id"]], "two codes %s", c.attr["id"])
						codes[side.name][c.attr["id"]] = true
						for _, ref := range []string{"dataRefStart", "dataRefEnd"} {
							assert.True(t, c.attr[ref] == "" || data[c.attr[ref]], "%s leads nowhere", c.attr[ref])
						}
						walk(c)
					}
				}
				walk(side)
			}
		}
	}
}

// TestWhatIsNotXLIFF: the judge of documents finds what is wrong with them.
func TestWhatIsNotXLIFF(t *testing.T) {
	const good = `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en"><file id="a"><unit id="u1"><originalData><data id="d1">_</data></originalData><segment state="initial"><source>a <pc id="1" dataRefStart="d1">b</pc></source></segment></unit></file></xliff>`
	validXLIFF(t, good)
	for _, change := range [][2]string{
		{` srcLang="en"`, ``}, {`version="2.1"`, `version="1.2"`}, {`id="u1"`, `id="u 1"`}, {`state="initial"`,
			`state="new"`},
		{`dataRefStart="d1"`, `dataRefStart="d2"`}, {`<source>a`, `<target>x</target><source>a`}, {`</unit>`,
			`</unit><unit id="u1"><segment><source/></segment></unit>`},
		{`<segment state`, `<segment size="1" state`}, {`<originalData><data id="d1">_</data></originalData>`, ``},
	} {
		bad := strings.Replace(good, change[0], change[1], 1)
		require.NotEqual(t, good, bad)
		inner := &testing.T{}
		done := make(chan bool)
		go func() { // a judge that stops ends its goroutine
			defer close(done)
			validXLIFF(inner, bad)
		}()
		<-done
		assert.True(t, inner.Failed(), "%s", change[1])
	}
}
