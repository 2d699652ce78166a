package site

import (
	"sync"
	"sync/atomic"

	"ziegel/core/diag"
)

// Range is a named span of screen widths, CSS px, both ends included. To 0 means without end.
type Range struct {
	Name     string
	From, To int
}

// DefaultRanges are in force when a site names none.
var DefaultRanges = []Range{{"phone", 0, 599}, {"tablet", 600, 1023}, {"desktop", 1024, 0}}

// Block is a section placed on a page.
type Block struct {
	Name    string
	Section string
	Options map[string]*Value
	Tone    string
	Above   *Value // distance or nil
	Below   *Value
	Lane    string
	Content *Value // a Map, or nil
	Without []*Value
	// fields that a command filled with the section's samples: what still says that is no content yet
	Seeded []*Value
	// content that says what a sample says and is meant so, by address in the block: items[2].price
	Own       []*Value
	Style     *Value // a Map, or nil
	Ground    *Value // a picture, gradient or color under it: a Map, or nil
	Node      *Value
	Path      Path // in its file
	File      *File
	EveryPage string // "top" or "bottom" for a block on every page
	Parked    *Value
	Holds     []Slot
	Draft     bool   // shown in the wireframe theme
	Sample    bool   // stands for what a slot may hold, until the page says what does
	Within    string // the block that holds it, "" on the page itself
	Slot      string // of that block
}

// names collects the names of a block and of all that it holds.
func (b *Block) names(seen map[string]*Value) {
	seen[b.Name] = b.Node
	for i := range b.Holds {
		for _, h := range b.Holds[i].Blocks {
			h.names(seen)
		}
	}
}

// onEveryPage marks a block and all that it holds.
func (b *Block) onEveryPage(where string) {
	b.EveryPage = where
	for i := range b.Holds {
		for _, h := range b.Holds[i].Blocks {
			h.onEveryPage(where)
		}
	}
}

// SlotOf finds a slot that the page fills, nil when it says nothing of it.
func (b *Block) SlotOf(name string) *Slot {
	for i := range b.Holds {
		if b.Holds[i].Name == name {
			return &b.Holds[i]
		}
	}
	return nil
}

// Slot is a place of a block that takes other blocks.
type Slot struct {
	Name   string
	Blocks []*Block
	KeyPos diag.Position
}

// Want is one line of a brief.
type Want struct {
	Text  string
	Block string
	Node  *Value
}

// Page is one page of a site.
type Page struct {
	Name        string
	Title       string
	Description string
	Scheme      string // dark or light for everybody; "" for what the theme says
	Brief       []Want
	Blocks      []*Block
	LeaveOut    []string // names of blocks on every page that this page does not have
	Override    map[string]*Value
	Defaults    []Default // for sections, on this page
	Turns       []Turn
	File        *File
	Problems    diag.Problems // of what is written in its file
}

// Site is a folder with its files read.
type Site struct {
	Dir      string
	File     *File
	Name     string
	Address  string
	Language string
	// those that the site is built in: the first is that of the page files; nil for one alone
	Languages []string
	Words     map[string]*Words // translations by language, of all but the first
	Tag       string            // the language that this is a translation to, "" for the original
	Theme     string
	Template  string // the shipped template that it began as, whose words count as samples
	Trade     string // the shipped trade whose samples the sections show, "" for the workshop's
	Ranges    []Range
	Styles    []SharedStyle
	Defaults  []Default // for sections, on every page
	Turns     []Turn
	Top       []*Block
	Bottom    []*Block
	Favicon   string
	Hosts     []string // that sections may ask, by https
	Accepted  []Accepted
	Tuned     []Tuned
	Places    []NamedPlace // where it is published
	// how heavy a page may be with its styles and fonts, bytes; 0 for no limit
	PageBudget int
	Host       Host

	changed map[string]*FileChange // read instead of the files
	pages   *shelf
}

// NamedPlace is where a site is published, as its file says it.
type NamedPlace struct {
	Name, Text string
	Node       *Value
}

// Turn is a list of values that blocks take one after the other when they say nothing themselves: of their tone, or
// of an option.
type Turn struct {
	Name   string
	Values []*Value
	KeyPos diag.Position
	File   *File
}

// Tuned is an entry of tune: another limit or severity for a rule of the check, with its reason. At is a page, a
// block or a part of one; none means everywhere.
type Tuned struct {
	Rule, At, Because string
	Limit             *float64 // in the unit of the rule
	Severity          string   // error, warning or note
	Node              *Value
}

// Accepted is an entry of accept: a finding of the check that is meant so. At is a page, a block or a part of one;
// none means everywhere.
type Accepted struct {
	Rule, At, Because string
	Node              *Value
}

// shelf holds the pages of a site. Each is read when it is first asked for: an edit of one page opens one page. It is
// safe for concurrent use.
type shelf struct {
	names []string
	pages map[string]*shelved
}

type shelved struct {
	once sync.Once
	page atomic.Pointer[Page] // nil until it was read
	make func() *Page         // instead of reading a file; may be nil
	from string               // all that a page is made from that has no file
}

// Default is what a site or a page gives to all blocks of one section.
type Default struct {
	Section string
	Options map[string]*Value
	Style   *Value // a Map, or nil
	Node    *Value
	KeyPos  diag.Position
	Path    Path // in its file
	File    *File
}

// SharedStyle is a look with a name that any part can use: CSS properties, and maps of them under conditions.
type SharedStyle struct {
	Name   string
	Value  *Value // a Map
	KeyPos diag.Position
}

// Host is what the server that shows the site is told: in which files it reads it, and what.
type Host struct {
	// Reads are the forms of such files that a build writes: .htaccess, _headers, nginx.
	Reads []string
	Moved []Moved
	// Hashed gives styles, fonts and pictures names by their content when they are published, which never change.
	Hashed bool
	// Security is whom people write to who found a hole (RFC 9116), a mail or web address; Until is the day, as
	// 2027-01-31, up to which that is so.
	Security, Until string
}

// Moved is an address that was once, and what is there now.
type Moved struct {
	From string // begins with a slash
	To   string // a page of the site, or an address
	Page bool
	Node *Value
}

// HasPage tells whether there is a page of that name, without reading it.
func (s *Site) HasPage(name string) bool { return s.pages != nil && s.pages.pages[name] != nil }

// PageNames lists the pages, in the order of their files.
func (s *Site) PageNames() []string {
	if s.pages == nil {
		return nil
	}
	return s.pages.names
}

// Words are the translations of a site to one language, by the addresses of texts: "home title", home/plans.heading.
type Words struct {
	File    *File
	Entries []Word
	byName  map[string]int
}

// Word is one translation.
type Word struct {
	Address string
	Of      string // the original when it was translated, "" when that is not known
	Is      string
	Node    *Value
	KeyPos  diag.Position
}
