package styles

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Writer is the work on the stylesheet of one page.
type Writer struct {
	Env      *project.Project
	Page     *site.Page
	Measured *Measured
	Problems diag.Problems
	onPage   []*site.Block // all of the page, however few are composed
	Media    []string      // files below media/ that its rules show
	Focuses  []FocusRule
	Turns    map[int]bool // how many words take turns somewhere on the page
}

func (c *Writer) Section(b *site.Block) *library.Section {
	sec := c.Env.Library.Section(b.Section)
	if sec == nil {
		v := b.Node.Get("section")
		if v == nil {
			v = b.Node
		}
		kind := strings.SplitN(b.Section, "/", 2)[0]
		c.Add(b.File.Problem(v, "unknown-section", fmt.Sprintf("unknown section %q", b.Section),
			fmt.Sprintf("a section of the library; `ziegel sections %s` lists them", kind),
			c.Env.Library.Nearest(b.Section)))
	}
	return sec
}

// Tone gives the ground of a block; a wrong one is told once.
func (c *Writer) Tone(b *site.Block) string {
	if b.Tone == "" {
		return "plain"
	}
	if slices.Contains(theme.Tones, b.Tone) {
		return b.Tone
	}
	c.AddOnce(b.File.Problem(b.Node.Get("tone"), "unknown-tone", fmt.Sprintf("there is no tone %q", b.Tone),
		"one of "+strings.Join(theme.Tones, ", "), diag.Nearest(b.Tone, theme.Tones)))
	return "plain"
}

func (c *Writer) AddOnce(p diag.Problem) {
	for _, q := range c.Problems {
		if q == p {
			return
		}
	}
	c.Add(p)
}

func (c *Writer) Add(p diag.Problem) { c.Problems = append(c.Problems, p) }

// ClassName gives the class of a block or of one of its parts: home-plans-card.
func (c *Writer) ClassName(b *site.Block, part string) string {
	page := c.Page.Name
	if b.EveryPage != "" {
		page = "site"
	}
	name := page + "-" + b.Name
	for _, sec := range c.Env.Library.Names() { // pricing/plans owns pricing-plans, whatever a page is called
		if name == Slug(sec) {
			name = "page-" + name
		}
	}
	if part != "" && part != PartBlock {
		name += "-" + part
		for c.taken(b, part) {
			part, name = part+"-part", name+"-part"
		}
	}
	return name
}

// taken reports whether the class of a part would be that of another block of the page, or of a part of one: that of
// opening's words is that of the block opening-words.
func (c *Writer) taken(b *site.Block, part string) bool {
	full := b.Name + "-" + part
	if c.onPage == nil {
		c.onPage = c.Env.Site.All(c.Page)
	}
	for _, o := range c.onPage {
		if (o.EveryPage == "") != (b.EveryPage == "") || len(o.Name) <= len(b.Name) {
			continue
		}
		rest, ok := strings.CutPrefix(full, o.Name)
		if !ok {
			continue
		}
		if rest == "" {
			return true
		}
		if sec := c.Env.Library.Section(o.Section); sec != nil && rest[0] == '-' &&
			slices.Contains(sec.Parts, rest[1:]) {
			return true
		}
	}
	return false
}

// length reads a distance: a token in braces, 0, or a CSS length.
func (c *Writer) length(b *site.Block, v *site.Value, typed, what string) (string, bool) {
	value, p := c.tokens(typed)
	if p == "" && css.CheckValue("padding-top", value) && !strings.HasPrefix(value, "-") {
		if strings.Trim(value, "0") == "" {
			return "0px", true
		}
		return value, true
	}
	if v != nil {
		try := ""
		if p != "" {
			try = "{" + diag.Nearest(p, c.Env.Theme.Names()) + "}"
		} else if regexp.MustCompile(`^[0-9.]+$`).MatchString(typed) {
			try = typed + "rem"
		}
		c.AddOnce(b.File.Problem(v, "bad-value", fmt.Sprintf("%q is no distance", typed),
			`0, a length such as 3rem, or a token such as "{space.far}"`, try))
	}
	return "", false
}

// tokens replaces {token} by what stands for it; missing is the first token that does not exist.
func (c *Writer) tokens(s string) (out, missing string) {
	out = project.TokenRef.ReplaceAllStringFunc(s, func(m string) string {
		ref, ok := c.Env.Theme.Reference(m[1 : len(m)-1])
		if !ok && missing == "" {
			missing = m[1 : len(m)-1]
			if missing == "" {
				missing = "{}"
			}
		}
		return ref
	})
	return out, missing
}

// Slug makes the class stem of a section: hero/beside -> hero-beside.
func Slug(section string) string { return strings.ReplaceAll(section, "/", "-") }

// AppendOnce adds a text to a list that does not have it yet.
func AppendOnce(list []string, s string) []string {
	if slices.Contains(list, s) {
		return list
	}
	return append(list, s)
}

// Measured is what a layout said about the blocks of a page: where measured conditions of sections hold, and at which
// widths parts sit as their styles ask. Widths are CSS px, both ends included; 0 at an end means without end.
type Measured struct {
	Thresholds map[string][]Threshold // by block
	When       map[When][]Sits
	Grounds    map[string]*Covered       // by block: what of the picture under it lies under text
	Pictures   map[PictureKey]PictureFit // of pages that are written, not of those that are measured
}

// Threshold is a value of a private property from a width of its room upwards.
type Threshold struct {
	Name  string  // of the measured condition
	Value string  // "" ends what holds elsewhere
	From  float64 // CSS px of the room
	At    string  // a range of screen widths in which options say something else, "" for all
}

// When is a condition that follows the arrangement: a part of a block, and how it sits.
type When struct{ Block, Part, Cond string }

// Sits are the widths at which a part sits as asked: its element with that position in the block, from 1, or all when
// Index is 0.
type Sits struct {
	Index int
	Spans [][2]int
}

// Indexes lists the elements of a part that ever sit as asked.
func (m *Measured) Indexes(block, part, cond string) []int {
	if m == nil {
		return nil
	}
	var out []int
	for _, s := range m.When[When{block, part, cond}] {
		if s.Index > 0 {
			out = append(out, s.Index)
		}
	}
	return out
}

// Covered are the parts of a picture under a block that some text of the block lies over at some width: cells of a
// grid over the whole picture, row by row.
type Covered [CoverCells * CoverCells]bool

func problemAs(p diag.Problem, s diag.Severity) diag.Problem {
	p.Severity = s
	return p
}

// FocusRule is the focus of the pictures with a class, at some widths when Cond, an at-rule, says so.
type FocusRule struct{ Class, Cond, Focus string }

// PictureKey names an img of a block, counted from 0 in the order of the document; pictures of blocks that it holds
// are theirs.
type PictureKey struct {
	Block string
	Index int
}

// PictureFit says how a layout of the whole page shows a picture.
type PictureFit struct {
	// how wide each file that it may show is drawn at which screens, in the form of the sizes attribute
	Sizes map[string]string
	Later bool // it lies below the first screen everywhere, so that it may wait
	First bool // the largest one on the first screen
}

// styleMap is one map of styles, with what it reaches.
type styleMap struct {
	value *site.Value
	file  *site.File
	sec   *library.Section
	block *site.Block // nil for the defaults of a section
	class func(part string) string
	pick  func(t Target) bool // nil takes all
}

// override is one rule of styles, ready to be written.
type override struct {
	sels  []string
	cond  string // at-rule prelude, "" for none
	rank  int    // later wins: plain, ranges, room, arrangements, positions, states
	state int    // among states
	width int    // for ordering ranges: upper end
	decls []decl
}

// CoverCells is how many cells Covered has each way.
const CoverCells = 48

// Parts that every block has beside those of its section: the whole block with its ground and distances, and the
// section in it.
const (
	PartBlock = "block"
	PartRoot  = "root"
)

// WidthQuery writes a span of widths as a condition in rem, so that larger browser text moves it.
func WidthQuery(from, to int) string {
	rem := func(px int) string { return strconv.FormatFloat(float64(px)/16, 'f', -1, 64) + "rem" }
	switch {
	case to == 0:
		return "(width >= " + rem(from) + ")"
	case from == 0:
		return "(width < " + rem(to+1) + ")"
	}
	return "(" + rem(from) + " <= width < " + rem(to+1) + ")"
}

// UsedBy lists the shared looks that the style of a part uses.
func UsedBy(v *site.Value) []string {
	u := v.Get("use")
	switch {
	case u == nil:
		return nil
	case u.Kind == site.Text:
		return []string{u.Text}
	}
	var out []string
	for _, it := range u.Items {
		out = append(out, it.Str())
	}
	return out
}
