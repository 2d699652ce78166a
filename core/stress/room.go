package stress

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// Room is how much text a field holds at one width, counted in letters of typical text in the page's language and
// font.
type Room struct {
	Range string `json:"range"`
	Width int    `json:"width"` // CSS px
	Now   int    `json:"now"`   // letters that it holds now
	Lines int    `json:"lines"` // that they take
	Fits  int    `json:"fits"`  // letters before another line
	Holds int    `json:"holds"` // letters before something breaks; MostLetters when nothing does
	Then  string `json:"then,omitempty"`
}

// MostLetters is how many letters are tried.
const MostLetters = 600

// prose is typical running text, by language: its words are of usual lengths in a usual order.
var prose = map[string]string{
	"en": "the wind comes up from the sea before noon and we carry the long kites down to the sand where there is room to let them climb slowly and hold the line with both hands until it hums",
	"de": "der Wind kommt vor dem Mittag vom Meer herauf und wir tragen die langen Drachen hinunter auf den Sand wo genug Platz ist um sie langsam steigen zu lassen und die Leine mit beiden Händen zu halten",
	"fr": "le vent monte de la mer avant midi et nous portons les longs cerfs-volants sur le sable où il y a assez de place pour les laisser grimper lentement en tenant la ligne à deux mains",
	"es": "el viento sube del mar antes del mediodía y llevamos las cometas largas a la arena donde hay sitio para dejarlas subir despacio y sujetar el hilo con las dos manos",
	"nl": "de wind komt voor de middag op uit zee en wij dragen de lange vliegers naar het zand waar ruimte is om ze langzaam te laten klimmen en de lijn met beide handen vast te houden",
	"it": "il vento sale dal mare prima di mezzogiorno e portiamo i lunghi aquiloni sulla sabbia dove c'è spazio per lasciarli salire piano tenendo il filo con due mani",
}

// typical gives so many letters of typical text in a language.
func typical(language string, letters int) string {
	words := strings.Fields(prose[strings.ToLower(language[:min(2, len(language))])])
	if len(words) == 0 {
		words = strings.Fields(prose["en"])
	}
	var b strings.Builder
	n := 0
	for i := 0; n < letters; i++ {
		w := words[i%len(words)]
		if i == 0 {
			w = strings.ToUpper(w[:1]) + w[1:]
		} else {
			w = " " + w
		}
		for _, c := range w {
			if n < letters {
				b.WriteRune(c)
				n++
			}
		}
	}
	return strings.TrimSpace(b.String())
}

// TextFields lists the text fields of a block that show something, as they are written in set: heading,
// items[2].title.
func TextFields(env *project.Project, b *site.Block) []string {
	sec := env.Library.Section(b.Section)
	if sec == nil {
		return nil
	}
	var out []string
	var walk func(prefix string, fields []*library.Field, m *site.Value)
	walk = func(prefix string, fields []*library.Field, m *site.Value) {
		for _, f := range fields {
			x := m.Get(f.Name)
			switch {
			case x == nil:
			case f.Type == library.RichText && x.Kind == site.Text && x.Text != "":
				out = append(out, prefix+f.Name)
			case f.Type == library.Link && x.Kind == site.Map && x.Get("label") != nil:
				out = append(out, prefix+f.Name+".label")
			case f.Type == library.ListOf && x.Kind == site.List:
				for i, e := range x.Items {
					at := fmt.Sprintf("%s%s[%d]", prefix, f.Name, i+1)
					if one := f.Find("."); one != nil && one.Type == library.RichText && e.Kind == site.Text {
						out = append(out, at)
					} else if e.Kind == site.Map && one != nil && one.Type == library.Link && e.Get("label") != nil {
						out = append(out, at+".label")
					} else if e.Kind == site.Map {
						walk(at+".", f.Of, e)
					}
				}
			}
		}
	}
	walk("", sec.Fields, complete(sec, b))
	return out
}

// TextOf is a text field of a block: one that TextFields lists.
type TextOf struct {
	Page  *site.Page
	Block *site.Block
	Field string
}

// AtWidth is a screen width, CSS px, and the range that it stands for, "" for none.
type AtWidth struct {
	Range string
	Width int
}

// roomier prepares trying texts in a field.
func (t TextOf) roomier(env *project.Project) *roomier {
	return &roomier{env: env, page: t.Page, block: t.Block, sec: env.Library.Section(t.Block.Section), field: t.Field,
		tried: map[string]*triedText{}}
}

// RoomFor tells how many letters a text field of a block has room for at some widths. step, if given, is called before
// every text that is tried; when it answers false, the outcome is ErrStopped.
func RoomFor(env *project.Project, of TextOf, at []AtWidth, step func() bool) ([]Room, error) {
	x, p, b, field := of.roomier(env), of.Page, of.Block, of.Field
	x.step = step
	now := textAt(complete(x.sec, b), field)
	if now == nil {
		return nil, fmt.Errorf("%s/%s shows no text %q", p.Name, b.Name, field)
	}
	own := utf8.RuneCountInString(plainText(now.Text))
	var out []Room
	for _, at := range at {
		w := at.Width
		r := Room{Range: at.Range, Width: w, Now: own}
		base, ok := x.try(now.Text, w)
		if x.stopped {
			return nil, ErrStopped
		}
		if !ok {
			return nil, fmt.Errorf("%s/%s shows no text %q at %d px", p.Name, b.Name, field, w)
		}
		r.Lines = base.lines
		r.Fits, _ = most(func(n int) (bool, string) {
			s, ok := x.try(typical(env.Site.Language, n), w)
			return ok && s.lines <= max(1, base.lines), ""
		})
		r.Holds, r.Then = most(func(n int) (bool, string) {
			s, ok := x.try(typical(env.Site.Language, n), w)
			if !ok {
				return false, ""
			}
			for rule := range s.broken {
				if !base.broken[rule] {
					return false, s.text[rule]
				}
			}
			return true, ""
		})
		if x.stopped {
			return nil, ErrStopped
		}
		out = append(out, r)
	}
	return out, nil
}

// ErrStopped is told when somebody has ended the work before it was done.
var ErrStopped = errors.New("stopped")

// most finds the largest number up to MostLetters that holds, those below it being taken to hold as well, and why the
// next does not.
func most(holds func(n int) (bool, string)) (int, string) {
	if ok, _ := holds(MostLetters); ok {
		return MostLetters, ""
	}
	low, high, why := 0, MostLetters, ""
	for low+1 < high {
		mid := (low + high) / 2
		if low == 0 && high == MostLetters {
			mid = 64
		}
		ok, then := holds(mid)
		if ok {
			low = mid
		} else {
			high, why = mid, then
		}
	}
	return low, why
}

// plainText drops the marks of inline Markdown.
func plainText(s string) string { return strings.NewReplacer("_", "", "*", "").Replace(s) }

type roomier struct {
	env     *project.Project
	page    *site.Page
	block   *site.Block
	sec     *library.Section
	field   string
	tried   map[string]*triedText
	step    func() bool // may be nil
	stopped bool
	site    *styles.Sheet
}

// triedText is the block with one text in the field, ready to be laid out.
type triedText struct {
	laid   *sweep.Prepared
	engine *layout.Engine
	scene  *check.Scene
}

type seenRoom struct {
	lines  int
	broken map[string]bool   // errors and warnings, by rule and part
	text   map[string]string // their words
}

// try lays the block out with another text in the field.
func (x *roomier) try(text string, width int) (seenRoom, bool) {
	if x.stopped = x.stopped || x.step != nil && !x.step(); x.stopped {
		return seenRoom{}, false
	}
	t := x.tried[text]
	if t == nil {
		content := complete(x.sec, x.block)
		textAt(content, x.field).Text = text + marker
		b := *x.block
		b.Content = content
		e, page := x.env.WithBlock(x.page, &b)
		composed, _ := measure.Page(e, page, compose.Options{Marks: true, Only: []string{b.Name}, Sheet: x.sheet()})
		composed.HTML = strings.ReplaceAll(composed.HTML, marker, "<i data-room></i>")
		l, err := sweep.FromPage(e, composed)
		if err != nil {
			return seenRoom{}, false
		}
		t = &triedText{l, l.Engine(), check.NewScene(l)}
		x.tried[text] = t
	}
	out := seenRoom{broken: map[string]bool{}, text: map[string]string{}}
	r := t.engine.Layout(width)
	for _, el := range t.laid.Doc.Elements {
		if _, ok := el.LookupAttr("data-room"); ok && el.Parent != nil {
			out.lines = max(out.lines, linesOf(r, el.Parent))
		}
	}
	for _, f := range t.scene.At(r) {
		if f.Rule != "contrast-low" && f.Rule != "line-too-long" {
			k := f.Rule + " " + f.Part
			out.broken[k], out.text[k] = true, f.Text+" ["+f.Rule+"]"
		}
	}
	return out, out.lines > 0
}

// linesOf counts the lines that the text of an element takes, phrases and words that take turns included.
func linesOf(r *layout.Result, e *css.Element) int {
	var runs []layout.Rect
	var collect func(e *css.Element)
	collect = func(e *css.Element) {
		if p := r.Of(e); p != nil {
			for _, run := range p.Runs {
				if run.W > 0 {
					runs = append(runs, run)
				}
			}
		}
		for _, k := range e.Kids() {
			collect(k)
		}
	}
	collect(e)
	slices.SortFunc(runs, func(a, b layout.Rect) int { return int(a.Y - b.Y) })
	n := 0
	var line layout.Rect
	for _, run := range runs {
		if n == 0 || min(run.Bottom(), line.Bottom())-run.Y < min(run.H, line.H)/2 {
			n, line = n+1, run
		}
	}
	return n
}

// sheet gives the stylesheet of the site, made once.
func (x *roomier) sheet() *styles.Sheet {
	if x.site == nil {
		x.site, _ = styles.SiteSheet(x.env)
	}
	return x.site
}

// marker stands at the end of the text whose lines are counted.
const marker = "\u2060\u2063\u2060"

// textAt finds the text at a path such as items[2].title, nil when there is none.
func textAt(v *site.Value, path string) *site.Value {
	for _, step := range strings.Split(path, ".") {
		name, rest, listed := strings.Cut(step, "[")
		if v = v.Get(name); v == nil {
			return nil
		}
		if listed {
			n := 0
			if _, err := fmt.Sscanf(rest, "%d]", &n); err != nil || v.Kind != site.List || n < 1 || n > len(v.Items) {
				return nil
			}
			v = v.Items[n-1]
		}
	}
	if v == nil || v.Kind != site.Text {
		return nil
	}
	return v
}

// LettersIn tells how many letters of plain words a text field of a block holds at one screen width, CSS px, before
// it takes more lines.
func LettersIn(env *project.Project, of TextOf, width, lines int) int {
	x := of.roomier(env)
	if textAt(complete(x.sec, of.Block), of.Field) == nil {
		return 0
	}
	n, _ := most(func(n int) (bool, string) {
		s, ok := x.try(typical(env.Site.Language, n), width)
		return ok && s.lines <= lines, ""
	})
	return n
}
