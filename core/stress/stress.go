// Package stress tries a page with hostile but plausible content, and tells how much text a field has room for.
package stress

import (
	"fmt"
	"io/fs"
	"path"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Strained is what one kind of hostile content does to a page.
type Strained struct {
	Name     string          `json:"stress"`
	What     string          `json:"with"`
	Findings []check.Finding `json:"findings"` // that the page does not have with its own content
	// the smallest share of the growth, 0..1, that already raises one
	Breaks  float64 `json:"breaks,omitempty"`
	First   string  `json:"first,omitempty"`   // what breaks at that share
	Stopped bool    `json:"stopped,omitempty"` // not all widths were looked at
}

// strain is hostile but plausible content for every field of a page.
type strain struct {
	name, what string
	vary       func(v *variation)
	screen     sweep.Screen
	head       string    // put into the head of the page
	shares     []float64 // of vary, tried from the smallest to find where it breaks; 1 is the whole
}

// variation rewrites the content of one block.
type variation struct {
	sec   *library.Section
	lang  string
	share float64
	out   *site.Value
	gone  []string // top-level fields to switch off
}

// longWords are words as long as a language really has them.
var longWords = map[string]string{"de": "Windgeschwindigkeitsmessung", "nl": "windsnelheidsmeteropstelling",
	"fi": "tuulennopeusmittauslaite", "sv": "vindhastighetsmätningen", "en": "counterrevolutionaries",
	"fr": "anticonstitutionnellement", "es": "electroencefalografista", "it": "precipitevolissimevolmente",
	"pl": "dziewięćdziesięcioletniego"}

// spacing are the overrides of WCAG 2.2, 1.4.12.
const spacing = `<style>*{line-height:1.5!important;letter-spacing:.12em!important;word-spacing:.16em!important}p{margin-block-end:2em!important}</style>`

var strains = []strain{
	{name: "longer", what: "every text twice as long", shares: []float64{.25, .5, .75, 1}, vary: func(v *variation) {
		v.texts(func(_, t string) string { return lengthen(t, 1+v.share) })
	}},
	{name: "growth", what: "texts grown as another language makes them grow", shares: []float64{.25, .5, .75, 1},
		vary: func(v *variation) {
			v.texts(func(_, t string) string { return lengthen(t, 1+(growth(t)-1)*v.share) })
		}},
	{name: "long-word", what: "one very long word in every text", vary: func(v *variation) {
		word := longWords[strings.ToLower(v.lang[:min(2, len(v.lang))])]
		if word == "" {
			word = longWords["en"]
		}
		v.texts(func(_, t string) string {
			first, rest, _ := strings.Cut(t, " ")
			if utf8.RuneCountInString(t) < 4 || strings.ContainsAny(first, "0123456789€$£¥") {
				return t
			}
			return strings.TrimSpace(word + " " + rest)
		})
	}},
	{name: "one-letter", what: "a single letter in every text", vary: func(v *variation) {
		v.texts(func(_, _ string) string { return "W" })
	}},
	{name: "missing", what: "optional fields left out", vary: func(v *variation) {
		for _, f := range v.sec.Fields {
			if f.Name != "heading" && f.Name != "items" && f.Type != library.ListOf {
				v.gone = append(v.gone, f.Name)
			}
		}
		v.entries(func(i int, e *site.Value) {
			var kept []site.Entry
			for k, x := range e.Entries {
				if k == 0 || x.Key == "title" || x.Key == "label" || i%2 == 1 { // every second entry is whole
					kept = append(kept, x)
				}
			}
			e.Entries = kept
		})
	}},
	counted(1), counted(2), counted(4), counted(5), counted(7), counted(12),
	{name: "tall-picture", what: "pictures three times as high as wide",
		vary: func(v *variation) { v.pictures("stress-tall.svg") }},
	{name: "wide-picture", what: "pictures four times as wide as high",
		vary: func(v *variation) { v.pictures("stress-wide.svg") }},
	{name: "text-200", what: "text at 200 % (WCAG 1.4.4)", screen: sweep.Screen{Text: 32}},
	{name: "text-spacing", what: "text spacing of WCAG 1.4.12", head: spacing},
}

func counted(n int) strain {
	what := fmt.Sprintf("%d entries in every list", n)
	if n == 1 {
		what = "one entry in every list"
	}
	return strain{name: fmt.Sprintf("items-%d", n), what: what, vary: func(v *variation) { v.count(n) }}
}

// Strains lists the kinds of stress with what they put on a page.
func Strains() (names, what []string) {
	for _, s := range strains {
		names, what = append(names, s.name), append(what, s.what)
	}
	return names, what
}

// Under sweeps a page with one kind of hostile content: one of Strains, or items-N for lists of any length. ok is
// false when there is no such kind, or when a section cannot take it.
func Under(env *project.Project, p *site.Page, kind string, from, to int) (rep *check.Report, ok bool) {
	if n, err := strconv.Atoi(strings.TrimPrefix(kind, "items-")); err == nil && n > 0 {
		return counted(n).run(env, p, 1, sweep.Widths{From: from, To: to}, nil)
	}
	for _, s := range strains {
		if s.name == kind {
			return s.run(env, p, 1, sweep.Widths{From: from, To: to}, nil)
		}
	}
	return nil, false
}

// Stress sweeps a page again for every kind of hostile content, and tells what that breaks which the page's own
// content does not. step, if given, is called after every layout and ends the work by answering false.
func Stress(env *project.Project, p *site.Page, base *check.Report, over sweep.Widths, step func() bool) []Strained {
	var out []Strained
	for _, s := range strains {
		r, ok := s.run(env, p, 1, over, step)
		if !ok {
			continue
		}
		st := Strained{Name: s.name, What: s.what, Findings: broken(base, r), Stopped: r.Stopped}
		if len(st.Findings) > 0 {
			for _, share := range s.shares {
				less, ok := s.run(env, p, share, over, step)
				if !ok {
					break
				}
				if broken := broken(base, less); len(broken) > 0 {
					st.Breaks, st.First = share, fmt.Sprintf("%s.%s at %s", broken[0].Block, broken[0].Part,
						widthsOf(broken[0]))
					break
				}
			}
		}
		out = append(out, st)
		if st.Stopped {
			break
		}
	}
	return out
}

func widthsOf(f check.Finding) string {
	if f.From == f.To {
		return fmt.Sprint(f.From)
	}
	return fmt.Sprintf("%d..%d", f.From, f.To)
}

// broken lists the errors and warnings of a strained page that r has not, one for each rule and part.
func broken(r *check.Report, strained *check.Report) []check.Finding {
	own, told := map[string]bool{}, map[string]bool{}
	key := func(f check.Finding) string { return f.Rule + " " + f.Block + "." + f.Part }
	for _, f := range r.Findings {
		own[key(f)] = true
	}
	var out []check.Finding
	for _, f := range strained.Findings {
		untold := f.Severity == diag.Note || f.To == 0 || f.Rule == "line-too-short" || f.Rule == "contrast-low" ||
			own[key(f)] || told[key(f)]
		if untold {
			continue
		}
		told[key(f)] = true
		f.Cure = ""
		out = append(out, f)
	}
	return out
}

// run sweeps the page with a share of the stress.
func (s strain) run(env *project.Project, p *site.Page, share float64, over sweep.Widths,
	step func() bool) (*check.Report, bool) {
	if step != nil && !step() {
		return nil, false
	}
	vary := func(b *site.Block) *site.Block {
		sec := env.Library.Section(b.Section)
		if s.vary == nil || sec == nil {
			return b
		}
		c := *b
		v := &variation{sec: sec, lang: env.Site.Language, share: share, out: complete(sec, b)}
		s.vary(v)
		c.Content = v.out
		for _, name := range v.gone {
			c.Without = append(c.Without[:len(c.Without):len(c.Without)], site.NewText(name))
			v.drop(name)
		}
		return &c
	}
	e, page := env.WithFiles(strange{env.Dir, env.Stock}).Vary(p, vary)
	composed, _ := measure.Page(e, page, compose.Options{Marks: true})
	if s.head != "" {
		composed.HTML = strings.Replace(composed.HTML, "</head>", s.head+"</head>", 1)
	}
	l, err := sweep.FromPage(e, composed)
	if err != nil {
		return nil, false
	}
	l = l.With(s.screen)
	l.Step = step
	return check.Run(l, nil, nil, over.From, over.To), true
}

// complete gives all content of a block as a page would write it, samples included.
func complete(sec *library.Section, b *site.Block) *site.Value {
	out := &site.Value{Kind: site.Map}
	off := map[string]bool{}
	for _, w := range b.Without {
		off[w.Str()] = true
	}
	put := func(key string, v *site.Value) { out.Entries = append(out.Entries, site.Entry{Key: key, Value: v}) }
	for _, f := range sec.Fields {
		own := b.Content.Get(f.Name)
		switch {
		case own != nil:
			put(f.Name, own.Clone())
		case off[f.Name] || f.Off:
		case f.Type == library.RichText && f.Sample != "":
			put(f.Name, site.NewText(f.Sample))
		case f.Type == library.ListOf && len(f.Samples) > 0:
			list := &site.Value{Kind: site.List}
			for _, e := range f.Samples {
				list.Items = append(list.Items, e.Clone())
			}
			put(f.Name, list)
		}
	}
	return out
}

// texts rewrites every text, labels of links included. Addresses, files and switches stay.
func (v *variation) texts(change func(key, text string) string) {
	v.walk(v.sec.Fields, v.out, change)
}

func (v *variation) walk(fields []*library.Field, m *site.Value, change func(key, text string) string) {
	for i := range m.Entries {
		e := &m.Entries[i]
		for _, f := range fields {
			if f.Name != e.Key {
				continue
			}
			v.value(f, e.Value, change)
		}
	}
}

func (v *variation) value(f *library.Field, x *site.Value, change func(key, text string) string) {
	switch {
	case f.Type == library.RichText && x.Kind == site.Text:
		x.Text = change(f.Name, x.Text)
	case f.Type == library.Link && x.Kind == site.Map:
		if l := x.Get("label"); l != nil && l.Kind == site.Text {
			l.Text = change("label", l.Text)
		}
	case f.Type == library.ListOf && x.Kind == site.List:
		for _, entry := range x.Items {
			if whole := f.Find("."); whole != nil {
				v.value(whole, entry, change)
			} else if entry.Kind == site.Map {
				v.walk(f.Of, entry, change)
			}
		}
	}
}

// entries visits the entries of the block's lists.
func (v *variation) entries(visit func(i int, e *site.Value)) {
	for _, e := range v.out.Entries {
		if e.Value.Kind == site.List {
			for i, entry := range e.Value.Items {
				visit(i, entry)
			}
		}
	}
}

// count gives every list of the block that many entries, its own again and again.
func (v *variation) count(n int) {
	for _, e := range v.out.Entries {
		if own := e.Value.Items; e.Value.Kind == site.List && len(own) > 0 && e.Key != "actions" {
			e.Value.Items = nil
			for i := range n {
				e.Value.Items = append(e.Value.Items, own[i%len(own)].Clone())
			}
		}
	}
}

// pictures shows one file in every picture.
func (v *variation) pictures(file string) {
	var walk func(fields []*library.Field, m *site.Value)
	walk = func(fields []*library.Field, m *site.Value) {
		for _, f := range fields {
			x := m.Get(f.Name)
			switch {
			case f.Type == library.Picture && m.Kind == site.Map && (x != nil || m == v.out):
				v.without(m, f.Name)
				m.Entries = append(m.Entries, site.Entry{Key: f.Name,
					Value: site.NewMap("file", site.NewText(file), "alt", site.NewText("A picture"))})
			case f.Type == library.ListOf && x != nil && x.Kind == site.List:
				for _, entry := range x.Items {
					walk(f.Of, entry)
				}
			}
		}
	}
	walk(v.sec.Fields, v.out)
}

func (v *variation) drop(key string) { v.without(v.out, key) }

// without takes a key out of a map.
func (v *variation) without(m *site.Value, key string) {
	for i, e := range m.Entries {
		if e.Key == key {
			m.Entries = append(m.Entries[:i:i], m.Entries[i+1:]...)
			return
		}
	}
}

// lengthen repeats the words of a text until it is that many times as long.
func lengthen(text string, times float64) string {
	words := strings.Fields(text)
	if len(words) == 0 || amount(text) {
		return text
	}
	want := int(float64(utf8.RuneCountInString(text))*times + .5)
	out := text
	for i := 0; utf8.RuneCountInString(out) < want; i++ {
		w := strings.Trim(words[i%len(words)], "_*")
		if len(words) == 1 { // a label of one word grows by another one
			w = strings.ToLower(w)
		}
		out += " " + w
	}
	return out
}

// amount reports a price or another number: those do not grow with the words.
func amount(text string) bool {
	digits, letters := 0, 0
	for _, c := range text {
		switch {
		case unicode.IsDigit(c):
			digits++
		case unicode.IsLetter(c):
			letters++
		}
	}
	return digits > 0 && letters < 4
}

// growth is how many times as long a text becomes in another language, by its length (what translators reckon with).
func growth(text string) float64 {
	switch n := utf8.RuneCountInString(text); {
	case n <= 10:
		return 2.5
	case n <= 20:
		return 1.9
	case n <= 30:
		return 1.7
	case n <= 50:
		return 1.5
	case n <= 70:
		return 1.4
	}
	return 1.3
}

// strange is a site's folder with pictures of strange sizes in it.
type strange struct{ own, stock fs.FS }

// Open gives a file of the folder, or one of the strange pictures.
func (s strange) Open(name string) (fs.File, error) {
	if base, ok := strings.CutPrefix(path.Base(name), "stress-"); ok {
		if f, err := s.stock.Open("strange/" + base); err == nil {
			return f, nil
		}
	}
	return s.own.Open(name)
}
