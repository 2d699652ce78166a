package compose

import (
	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// composer is the work on one page.
type composer struct {
	*styles.Writer
	opts     Options
	out      *Page
	headings int // h1 given away
	level    int // how many headings stand above the block at work
	all      []*site.Block
	depth    string
	icons    map[string]string // names of icons by their shapes
	things   []*thing          // what the blocks mean
}

// filler puts the content of one block into a copy of its section.
type filler struct {
	c     *composer
	b     *site.Block
	sec   *library.Section
	title *html.Node // the heading of the whole block

	pictures []shown
	known    []string // texts that have a class by which they are brought together
	bars     []bar
	forms    []sent
	classes  map[string][]partClass // that styles ask for, by part; nil until somebody asks
}

// bar is an element that is as long as a number of its entry.
type bar struct {
	n       *html.Node
	value   float64
	percent bool
}

// sent is a form with an address, before it is made ready.
type sent struct {
	n *html.Node
	// the page that is shown when it was sent, "" for the receiver's own
	then string
}

// thing is an item of structured data (schema.org) with its properties in the order in which the page has them.
type thing struct {
	kind  string
	props []prop
}

type prop struct {
	name  string
	value any // a text or a *thing
}

// Files that a build draws beside the site's own icon, at the root of the built site.
const (
	FaviconPNG = "favicon.png"    // 48 x 48 px
	TouchIcon  = "touch-icon.png" // 180 x 180 px, for home screens
)

// scope is where names are looked up: the block's content, or one entry of a list.
type scope struct {
	value  *site.Value
	entry  bool // entries never fall back to samples
	sample bool // inside sample entries
	path   string
	fields []*library.Field
	index  int  // of the entry, from 0
	whole  bool // an entry that is a text mostly may be a map
}

func (f *filler) file(v *site.Value) *site.File {
	if w := f.c.Env.Site.Words[f.c.Env.Site.Tag]; v != nil && w != nil && v.Pos.File == w.File.Path {
		return w.File
	}
	if v != nil && v.Pos.File == f.c.Page.File.Path {
		return f.c.Page.File
	}
	return f.b.File
}

// note keeps where content comes from; the sample of a slot is noted once, by the slot.
func (f *filler) note(u FieldUse) {
	if !f.b.Sample {
		f.c.out.Fields = append(f.c.out.Fields, u)
	}
}

// variant is what a picture is in some range.
type variant struct {
	from, to int
	file     string // "" for the same
	focus    string // "" for the same
	w, h     float64
}

// shown is a picture that a page gave, with all that the markup does not say yet.
type shown struct {
	img      *html.Node
	name     string
	w, h     float64
	variants []variant // other files and focus points, for some ranges, widest first
	focus    string
}

// Page is a composed page.
type Page struct {
	Name   string
	Path   string // of the built file: index.html, courses/index.html
	HTML   string
	Site   *styles.Sheet
	Own    *styles.Sheet
	Fields []FieldUse
	Links  []LinkUse
	Media  []string     // files below media/ that it shows
	Copies []media.Copy // smaller copies of them that it names
	Sample []string     // of the title and the description, those that are a template's
	NoAlt  []Bare       // own pictures without alternative text
	Blocks []*site.Block
	Tuned  []site.Tuned // rules of the check that the site tunes
	Share  *Share       // the picture that others show with a link to the page, when it has to be drawn
}

// FieldUse is one field of one block on a page.
type FieldUse struct {
	Block string
	Field string
	State FieldState
	Text  string
	Pos   diag.Position
	Slot  bool // it takes blocks
	// Address tells that a form is sent to it.
	Address bool
}

// FieldState says where a field's content comes from.
type FieldState string

// The states of a field.
const (
	Own    FieldState = "own"
	Sample FieldState = "sample"
	Empty  FieldState = "empty"
	Word   FieldState = "word" // the page's own, in the language of the site
)

// LinkUse is a link that the page has.
type LinkUse struct {
	Block, To, Href string
	Pos             diag.Position
}

// Bare is a picture without alternative text.
type Bare struct {
	Block, Field, File string
	Pos                diag.Position
}

// Options change what Compose makes.
type Options struct {
	Marks bool          // keep data-block, data-part and data-each, for measuring
	Only  []string      // blocks to compose; nil means all
	Sheet *styles.Sheet // the site's stylesheet, when the caller has it already
	Files bool          // links name the files of pages, so that they open from disk; else servers add index.html
	// Measured is what a layout of the page said; without it, what follows the layout is left out.
	Measured *styles.Measured
}

// Mark attributes kept with Options.Marks.
const (
	MarkBlock = "data-block"
	MarkPart  = "data-part"
	MarkEach  = "data-each"
	MarkHolds = "data-holds"
)

// partClass is a class that elements of a part get because some style speaks of them.
type partClass struct {
	class string
	index int
	place string
}

func findField(list []*library.Field, name string) *library.Field {
	for _, x := range list {
		if x.Name == name {
			return x
		}
	}
	return nil
}

// Share is a picture that is drawn for those who show a link to a page.
type Share struct {
	Path string // of the built file
	From string // the drawing below media/ that it shows; "" for the page's opening
}

// lookup finds the content of a field in a scope. given is false when the sample stays.
func (f *filler) lookup(name string, sc scope) (v *site.Value, given bool) {
	if name == "." {
		if text := sc.value.Get("text"); sc.entry && text != nil && sc.whole {
			return text, true
		}
		return sc.value, sc.entry
	}
	if v := sc.value.Get(name); v != nil {
		return v, true
	}
	if !sc.entry && !sc.sample {
		for _, w := range f.b.Without {
			if w.Str() == name {
				return nil, true
			}
		}
	}
	return nil, sc.entry
}

// use records where a field's content comes from.
func (f *filler) use(name string, v *site.Value, given bool, sample string) {
	u := FieldUse{Block: f.b.Name, Field: name, State: Sample, Text: sample, Pos: f.b.Node.Pos}
	if given {
		u.State = Own
		if v.Empty() {
			u.State = Empty
		} else {
			u.Text, u.Pos = v.String(), v.Pos
			if v.Kind == site.Text {
				u.Text = v.Text
			}
		}
	}
	f.note(u)
}
