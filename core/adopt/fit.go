package adopt

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
)

// fitted is a section with what it takes of a band.
type fitted struct {
	sec   *library.Section
	out   record
	used  map[*piece]bool
	share float64 // of what the band says, by weight
	score float64
}

// LeastShare is how much of what a band says a section has to show. Below that the band becomes a section of the
// site's own.
const LeastShare = .8

// apart are kinds that no band of a page becomes by itself.
var apart = map[string]bool{"layout": true, "piece": true, "lost": true, "thanks": true, "notice": true}

// particular are kinds about one thing: nothing is one of them by its form alone.
var particular = map[string]bool{"downloads": true, "jobs": true, "events": true, "social": true, "map": true,
	"menu": true, "comments": true, "schedule": true, "banner": true, "statistics": true, "team": true, "logos": true, "steps": true, "timeline": true}

// choose finds the sections that show most of a band, best first.
func choose(
	env *project.Project,
	facts map[string]search.Facts,
	m *Media,
	b *Band,
	guess map[string]float64,
) []fitted {
	var out []fitted
	all := b.read.every()
	for _, sec := range env.Library.All() {
		if apart[sec.Kind] || !allowed(sec.Kind, b.Landmark) {
			continue
		}
		f := newPlacing(m, sec.Kind)
		f.place(sec.Fields, b.read, true)
		total, shown := 0.0, 0.0
		for _, p := range all {
			w := weightOf(p)
			total += w
			if f.used[p] {
				shown += w
			}
		}
		x := fitted{sec: sec, out: f.out, used: f.used, share: 1}
		if total > 0 {
			x.share = shown / total
		}
		x.score = x.share + .3*guess[sec.Kind] - missing(
			sec,
			f.out,
		) - .08*float64(
			f.unasked,
		) + looks(
			facts[sec.Name],
			sec,
			b.read,
		)
		if particular[sec.Kind] && guess[sec.Kind] == 0 {
			x.score -= .15
		}
		if sec.Usual {
			x.score += .01
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b fitted) int {
		if a.score != b.score {
			return int(math.Copysign(1, b.score-a.score))
		}
		return strings.Compare(a.sec.Name, b.sec.Name)
	})
	return out
}

// allowed reports whether a kind may stand where a band does.
func allowed(kind, landmark string) bool {
	switch landmark {
	case "header":
		return kind == "nav" || kind == "announcement"
	case "footer":
		return kind == "footer"
	}
	return kind != "nav" && kind != "footer" && kind != "announcement"
}

// lacks is what it counts that a section shows something and a band has none of it.
var lacks = map[string]float64{"media": .14, "items": .45, "groups": .45, "price": .35, "figure": .3, "frame": .7,
	"film": .7, "send-to": .6, "role": .1, "text": .1, "meta": .03, "link": .02, "actions": .05, "icon": .02, "title": .15, "labels": .4,
	"facts": .3, "entries": .4, "points": .1, "heading": .04, "links": .1, "brand": .05, "name": .1, "choices": .3,
	"kinds": .3, "price-second": .4, "first-label": .2, "note-text": .15, "media2": .3, "place": .12, "note": .06}

// missing adds up what a section would have no content for.
func missing(sec *library.Section, out record) float64 {
	total := 0.0
	for _, f := range sec.Fields {
		v := out[f.Name]
		switch {
		case f.Off:
		case f.Name == "send-to":
			if out["send-to"] == nil && out["send-label"] == nil && out["mail-label"] == nil {
				total += lacks[f.Name]
			}
		case v == nil && f.Type == library.ListOf && out["send-label"] != nil:
			total += .12 // beside a form
		case v == nil && f.Name != "actions":
			total += lacks[f.Name]
		case v == nil:
		case f.Type == library.ListOf && v.Kind == site.List:
			total += within(f, v)
		}
	}
	return total
}

// within adds up what the entries of a list lack.
func within(f *library.Field, v *site.Value) float64 {
	total := 0.0
	for _, x := range f.Of {
		if x.Name == "." || x.Type == library.Switch || x.Type == library.Tone {
			continue
		}
		without := 0
		for _, e := range v.Items {
			if e.Get(x.Name) == nil {
				without++
			}
		}
		total += lacks[x.Name] * float64(without) / float64(max(1, len(v.Items)))
	}
	if n := len(v.Items); n == 1 && f.Name == "items" {
		total += .1
	}
	return total
}

// looks adds what speaks for a section by its arrangement: as many columns, the picture on the same side.
func looks(facts search.Facts, sec *library.Section, rd *reading) float64 {
	total := 0.0
	total -= .15 * math.Abs(pictureShare(rd)-float64(facts.Share)) / 100
	if even(rd) && slices.Contains(sec.Tags, "mosaic") {
		total -= .1
	}
	if n := columns(rd); n > 0 {
		if n == facts.Columns[2] {
			total += .04
		} else if (n == 1) != (facts.Columns[2] < 2) {
			total -= .12
		} else if facts.Columns[2] > 0 {
			total -= .02 * math.Abs(float64(n-facts.Columns[2]))
		}
	}
	folds := slices.ContainsFunc(rd.pieces, func(p *piece) bool { return p.fold })
	if facts.Opens && !folds && sec.Kind != "nav" || facts.Slides {
		total -= .1 // what was in sight would be hidden
	}
	if side := pictureSide(rd); side != "" && facts.Picture != "" {
		switch {
		case side == facts.Picture, turns(sec, side):
			total += .06
		case beside(side) != beside(facts.Picture):
			total -= .04
		}
	}
	return total
}

// pictureShare gives the share of a band that pictures cover, percent.
func pictureShare(rd *reading) float64 {
	area, covered := rd.box.W.Float()*rd.box.H.Float(), 0.0
	for _, p := range rd.every() {
		if p.sort == picture {
			covered += p.box.W.Float() * p.box.H.Float()
		}
	}
	if area <= 0 {
		return 0
	}
	return min(100, 100*covered/area)
}

// even reports like entries that are all as wide.
func even(rd *reading) bool {
	for _, p := range rd.pieces {
		if p.sort != list || len(p.lists) < 2 {
			continue
		}
		for _, e := range p.lists[1:] {
			if d := (e.box.W - p.lists[0].box.W).Float(); d > 8 || d < -8 {
				return false
			}
		}
		return true
	}
	return false
}

func beside(side string) bool { return side == "left" || side == "right" }

// turns reports a section whose picture can be put on a side.
func turns(sec *library.Section, side string) bool {
	o := sec.Option("media")
	return o != nil && slices.Contains(o.Choices, side)
}

// columns counts the entries of the largest list that stand in its first row; 0 without a list.
func columns(rd *reading) int {
	var most *piece
	for _, p := range rd.pieces {
		if p.sort == list && (most == nil || len(p.lists) > len(most.lists)) {
			most = p
		}
	}
	if most == nil || len(most.lists) == 0 || most.lists[0].box.Empty() {
		return 0
	}
	first, n := most.lists[0].box, 0
	for _, e := range most.lists {
		if e.box.Y < first.Bottom()-16*64 {
			n++
		}
	}
	return n
}

// pictureSide says where the largest picture of a band stands, seen from its heading.
func pictureSide(rd *reading) string {
	var pic, head *piece
	for _, p := range rd.pieces {
		switch {
		case p.sort == picture && (pic == nil || p.box.W*p.box.H > pic.box.W*pic.box.H):
			pic = p
		case p.sort == heading && head == nil:
			head = p
		}
	}
	if pic == nil || head == nil || pic.box.Empty() {
		return ""
	}
	a, b := pic.box, head.box
	over := a.X <= b.X && a.Right() >= b.Right() && a.Y <= b.Y && a.Bottom() >= b.Bottom()
	switch {
	case over:
		return "over"
	case a.Right() <= b.X+8*64:
		return "left"
	case a.X >= b.Right()-8*64, a.X > b.X+b.W/2 && a.Y < b.Bottom():
		return "right"
	case a.Bottom() <= b.Y+8*64:
		return "above"
	}
	return "below"
}

// settle gives a band the section that was chosen, and tells what of it is lost.
func (b *Band) settle(list []fitted) {
	best := list[0]
	b.Section, b.Share = best.sec.Name, best.share
	b.Content = ordered(best.sec.Fields, best.out)
	b.Without = nil
	u := &unbuild{sec: best.sec}
	for _, f := range best.sec.Fields {
		if best.out[f.Name] == nil && !f.Off && f.Type != library.Address && !u.spoken(f.Name) {
			b.Without = append(b.Without, f.Name)
		}
	}
	for _, x := range list[1:] {
		if len(b.Near) < 2 {
			b.Near = append(b.Near, Near{x.sec.Name, x.share})
		}
	}
	for _, p := range b.read.every() {
		if !best.used[p] && weightOf(p) > 0 {
			b.Lost = append(b.Lost, p.String())
		}
	}
	b.choices(best.sec)
}

// choices sets options as the band looked: the side of the picture, the number of columns.
func (b *Band) choices(sec *library.Section) {
	if o := sec.Option("media"); o != nil && o.Type == "choice" {
		if side := pictureSide(b.read); side != o.Default && slices.Contains(o.Choices, side) {
			b.Options = append(b.Options, site.Entry{Key: "media", Value: site.NewText(side)})
		}
	}
	if o := sec.Option("columns"); o != nil && o.Type == "number" {
		if n := columns(b.read); n > 1 && n < 7 && strconv.Itoa(n) != o.Default {
			b.Options = append(b.Options, site.Entry{Key: "columns", Value: site.NewText(strconv.Itoa(n))})
		}
	}
}

// String says a piece for people.
func (p *piece) String() string {
	quoted := fmt.Sprintf("%q", short(p.plain))
	switch p.sort {
	case heading:
		return "the heading " + quoted
	case words:
		return "the text " + quoted
	case link, button:
		return "the link " + quoted
	case picture:
		return "the picture " + p.value.Get("file").Str()
	case icon:
		return "the icon " + p.value.Str()
	case form:
		return "a form with " + diag.Plural(len(p.form.kinds), "field")
	case frame:
		return "the frame of " + short(p.value.Str())
	case film:
		return "the film " + p.value.Str()
	}
	return "a list"
}
