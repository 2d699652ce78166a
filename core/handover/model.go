package handover

import "ziegel/core/sweep"

// Widths are the screens that pictures are taken on, CSS px.
var Widths = []int{390, 820, 1280}

// Book is what is handed over.
type Book struct {
	Site, Address, Language string
	Theme                   *Theme
	Pages                   []*Page
	Icons                   []Icon
	Pictures                []Picture
	Fonts                   []Font
	Changes                 []Change
	// Since is the day of the last time, "" when this is the first.
	Since string
	// Files are what the book names, by path: pictures, drawings, code, tokens.
	Files map[string][]byte
	// Record is what the next time is held against.
	Record Record
	Notes  []string // what is not drawn as browsers do
}

// Page is a page of the site.
type Page struct {
	Name, Title, Description, Path string
	Whole                          []Shown // at each of Widths
	States                         Shown   // what can be pressed, in its states
	Order                          Shown   // what the tab key reaches, numbered
	Stops                          int
	Outline                        []Line
	Changes                        []Width // where an arrangement changes
	Blocks                         []*Block
}

// Shown is a picture among Files.
type Shown struct {
	File  string
	Width int     // of the screen, CSS px
	W, H  float64 // of the picture, CSS px
	Alt   string
}

// Line is a heading or a landmark of a page.
type Line struct {
	Role, Text string
	Level      int // of a heading, 0 for a landmark
	Depth      int
}

// Width is a screen width at which blocks change their arrangement.
type Width struct {
	Px  int
	Who []string // plans: a column becomes 3 columns
}

// Block is one block of a page.
type Block struct {
	Name, Section, Summary, Tone string
	Everywhere                   bool // on every page
	Options                      []Option
	Fields                       []string
	Arrangements                 []sweep.Span
	Seen                         []Shown // at each of Widths
	Measured                     []Shown // with its distances, narrow and wide
	Drawings                     []Drawing
	HTML, CSS                    string
	Code                         []string // files: the markup, and all styles that it needs
}

// Option is a choice of a section.
type Option struct {
	Name, Value, Summary string
	Choices              []string
	Own                  bool // not what it would be anyway
}

// Drawing is a part as a vector drawing of its own.
type Drawing struct {
	Part, File string
	W, H       float64
}

// Theme is a theme as a reader sees it.
type Theme struct {
	Name, About string
	Tones       []Tone
	Type        []TypeStyle
	Spaces      []Length
	Radii       []Length
	Lanes       []Length
	Others      []Value // all that is left: motion, shadows, lines, treatments
	Faces       []Value
	Files       []string // tokens, and the same as custom properties
}

// Tone is a ground with the colors that stand on it.
type Tone struct {
	Name   string
	Colors []Color
}

// Color is one color of a tone, light and dark, and its contrast with the ground (WCAG 2.2, 1.4.3).
type Color struct {
	Role, Token, Property string
	Light, Dark           string  // hex; Dark "" when the same
	Contrast, InDark      float64 // 0 for the ground itself, and for what carries no text
}

// Length is a token of a length, in CSS px on each of Widths.
type Length struct {
	Token, Property, CSS string
	Px                   []float64
}

// TypeStyle is a size of type.
type TypeStyle struct {
	Length
	Face, Weight, LineHeight string
}

// Value is a token of another kind.
type Value struct{ Token, Property, CSS, Kind string }

// Icon is an icon that pages show.
type Icon struct {
	Name   string // "" for a drawing of the section itself
	Sizes  []float64
	Origin string // the set that it is from, with its version
	Blocks []string
	File   string
}

// Picture is a file below media/ that pages show.
type Picture struct {
	File    string
	W, H    float64 // its own, px
	Bytes   int
	Pages   []string
	Licence string // what is known of it
}

// Font is a font file that pages load.
type Font struct {
	Family, File, Licence string
	Weight, To, Bytes     int // To is the greatest weight of a file that has several, else 0
	Italic                bool
}

// Record is what one handover keeps for the next one.
type Record struct {
	Day    string            `json:"day"`
	Tokens map[string]string `json:"tokens"` // light, and dark behind a slash
	Blocks map[string]string `json:"blocks"` // section and sums of markup and styles, by page/block
	Shown  map[string]string `json:"shown"`  // sums of pictures, by file
	// Shared is the sum of what all blocks are painted from beside their own: tokens, base styles, pictures.
	Shared string `json:"shared"`
}

// Last is the last handover: its record, and its pictures.
type Last struct {
	Record
	Picture func(file string) ([]byte, bool)
}

// Change is something that is not as it was at the last handover.
type Change struct {
	What          string // home/plans, color.plain.accent
	How           string // new, gone, changed, or what it was and is
	Before, After string // pictures among Files, "" for none
}

// Subject is a page that is laid out, with how its blocks stack.
type Subject struct {
	Page   *sweep.Prepared
	Stacks []sweep.Stacking
}
