// Package motion evaluates animations and transitions at chosen times or scroll positions: what a page looks like at
// that moment, and whether anything around moves with it (CSS Animations 1, CSS Transitions 1, Scroll-driven Animations
// 1).
package motion

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// The kinds of motion.
const (
	Enter = "enter" // animations that end, and those that follow the scroll position
	Hover = "hover" // transitions under the pointer
	Words = "words" // animations that never end
)

// Kinds lists them.
var Kinds = []string{Enter, Hover, Words}

// Clip is what moves on a page at one width.
type Clip struct {
	Kind     string
	Width    int
	Scrolled bool    // the moments are scroll positions, CSS px, not seconds
	From, To float64 // the first moment and the last
	Moving   []*css.Element
	Missed   []string // what is not evaluated, in words

	page   *sweep.Prepared
	plays  []play
	states []string
}

// play is one animation, or all transitions, of one box.
type play struct {
	element   *css.Element
	pseudo    string
	tracks    []track
	duration  float64 // seconds
	delay     float64
	count     float64 // infinite for ever
	direction string
	fill      string
	scrolled  bool
	start     float64 // scroll positions at its two ends, CSS px
	end       float64
}

// track is what one property does.
type track struct {
	property string
	stops    []stop
}

// stop is a value at a share of the time, and how it goes on from there.
type stop struct {
	at    float64
	value string
	ease  easing
}

// Of finds what moves on a page. within chooses elements; nil takes all.
func Of(l *sweep.Prepared, width int, kind string, within func(*css.Element) bool) (*Clip, error) {
	c := &Clip{Kind: kind, Width: width, page: l}
	r := l.Engine().Layout(width)
	take := func(e *css.Element) bool { return within == nil || within(e) }
	if kind == Hover {
		c.states = []string{"hover"}
		c.transitions(r, l.Touched("hover").Engine().Layout(width), take)
	} else {
		for _, list := range [][]layout.Fragment{r.Boxes, r.Generated} {
			for i := range list {
				if f := &list[i]; f.Element != nil && f.Style != nil && take(f.Element) {
					c.animations(r, f)
				}
			}
		}
	}
	if len(c.plays) == 0 {
		return nil, nil
	}
	c.span()
	for _, p := range c.plays {
		if !slices.Contains(c.Moving, p.element) {
			c.Moving = append(c.Moving, p.element)
		}
	}
	return c, nil
}

// span finds the first and the last moment. What follows the scroll position goes before what follows the time.
func (c *Clip) span() {
	c.Scrolled = slices.ContainsFunc(c.plays, func(p play) bool { return p.scrolled })
	c.From, c.To = math.Inf(1), 0
	for _, p := range c.plays {
		switch {
		case c.Scrolled && p.scrolled:
			c.From, c.To = min(c.From, max(0, p.start)), max(c.To, p.end)
		case !c.Scrolled && math.IsInf(p.count, 1):
			c.From, c.To = 0, max(c.To, p.duration) // one turn
		case !c.Scrolled:
			c.From, c.To = 0, max(c.To, p.delay+p.duration*p.count)
		}
	}
}

// value gives what one longhand of a list of animations says for the i-th (CSS Animations 1, section 3.2).
func value(look css.Look, name string, i int, usual string) string {
	v := look.InForce(name)
	if v == "" {
		return usual
	}
	list := layers(v)
	return list[i%len(list)]
}

// seconds reads a time.
func seconds(text string) float64 {
	v, unit, ok := number(strings.TrimSpace(text))
	switch {
	case !ok:
		return 0
	case unit == "ms":
		return v / 1000
	}
	return v
}

// animations keeps those of a box that are of the kind that is asked for.
func (c *Clip) animations(r *layout.Result, f *layout.Fragment) {
	look := f.Style.Look()
	names := look.InForce("animation-name")
	if names == "" || names == "none" {
		return
	}
	for i, name := range layers(names) {
		p := play{element: f.Element, pseudo: f.Pseudo, delay: seconds(value(look, "animation-delay", i, "0s")),
			direction: value(look, "animation-direction", i, "normal"), fill: value(look, "animation-fill-mode", i,
				"none")}
		p.count = 1
		if n := value(look, "animation-iteration-count", i, "1"); n == "infinite" {
			p.count = math.Inf(1)
		} else if v, err := strconv.ParseFloat(n, 64); err == nil {
			p.count = v
		}
		if math.IsInf(p.count, 1) != (c.Kind == Words) {
			continue
		}
		timeline := value(look, "animation-timeline", i, "auto")
		if p.scrolled = timeline != "auto"; p.scrolled && !c.scroll(&p, r, f, i) {
			continue
		}
		if p.duration = seconds(value(look, "animation-duration", i, "0s")); p.duration <= 0 && !p.scrolled {
			continue
		}
		frames, ok := c.page.Doc.Keyframes(strings.Trim(name, `"'`))
		if !ok {
			continue
		}
		usual, known := easingOf(value(look, "animation-timing-function", i, "ease"))
		if !known {
			c.miss("the easing %s", value(look, "animation-timing-function", i, "ease"))
		}
		p.tracks = c.tracks(frames, look, usual)
		if len(p.tracks) > 0 {
			c.plays = append(c.plays, p)
		}
	}
}

func (c *Clip) miss(format string, args ...any) {
	if text := fmt.Sprintf(format, args...); !slices.Contains(c.Missed, text) {
		c.Missed = append(c.Missed, text)
	}
}

// tracks turns keyframes into what each property does; what is not said at the ends is the value of the box itself.
func (c *Clip) tracks(frames []css.Keyframe, look css.Look, usual easing) []track {
	var out []track
	at := map[string]int{}
	for _, f := range frames {
		ease := usual
		for _, d := range f.Declarations {
			if d.Name == "animation-timing-function" {
				ease, _ = easingOf(d.Value)
			}
		}
		for _, d := range f.Declarations {
			if strings.HasPrefix(d.Name, "animation-") {
				continue
			}
			k, ok := at[d.Name]
			if !ok {
				k = len(out)
				at[d.Name] = k
				out = append(out, track{property: d.Name})
			}
			out[k].stops = append(out[k].stops, stop{f.At, d.Value, ease})
		}
	}
	for i := range out {
		t := &out[i]
		own := look.InForce(t.property)
		if t.stops[0].at > 0 {
			t.stops = slices.Insert(t.stops, 0, stop{0, own, usual})
		}
		if t.stops[len(t.stops)-1].at < 1 {
			t.stops = append(t.stops, stop{1, own, usual})
		}
	}
	return out
}

// transitions keeps what changes slowly between two looks of a page.
func (c *Clip) transitions(rest, then *layout.Result, take func(*css.Element) bool) {
	before := map[[2]any]css.Look{}
	each := func(r *layout.Result, visit func(key [2]any, f *layout.Fragment)) {
		for _, list := range [][]layout.Fragment{r.Boxes, r.Generated} {
			for i := range list {
				if f := &list[i]; f.Element != nil && f.Style != nil {
					visit([2]any{f.Element.Index, f.Pseudo}, f)
				}
			}
		}
	}
	each(rest, func(key [2]any, f *layout.Fragment) { before[key] = f.Style.Look() })
	each(then, func(key [2]any, f *layout.Fragment) {
		own := c.page.Doc.Elements[f.Element.Index]
		was, ok := before[key]
		if !ok || !take(own) {
			return
		}
		look := f.Style.Look()
		properties := look.InForce("transition-property")
		if properties == "" && look.InForce("transition-duration") != "" {
			properties = "all"
		}
		for i, name := range layers(properties) {
			duration := seconds(value(look, "transition-duration", i, "0s"))
			if name == "" || name == "none" || duration <= 0 {
				continue
			}
			ease, known := easingOf(value(look, "transition-timing-function", i, "ease"))
			if !known {
				c.miss("the easing %s", value(look, "transition-timing-function", i, "ease"))
			}
			p := play{element: own, pseudo: f.Pseudo, duration: duration,
				delay: seconds(value(look, "transition-delay", i, "0s")), count: 1,
				direction: "normal", fill: "both"}
			for _, property := range longhands(name, was, look) {
				from, to := was.InForce(property), look.InForce(property)
				if from != to {
					p.tracks = append(p.tracks, track{property, []stop{{0, from, ease}, {1, to, ease}}})
				}
			}
			if len(p.tracks) > 0 {
				c.plays = append(c.plays, p)
			}
		}
	})
}

// longhands gives the properties that a name of transition-property stands for, of those that either look declares.
func longhands(name string, was, is css.Look) []string {
	out := append(was.Longhands(name), is.Longhands(name)...)
	slices.Sort(out)
	out = slices.Compact(out)
	return slices.DeleteFunc(out, func(n string) bool {
		return strings.HasPrefix(n, "transition") || strings.HasPrefix(n, "animation")
	})
}

// scroll finds the scroll positions between which an animation runs. ok is false for timelines that are not evaluated.
func (c *Clip) scroll(p *play, r *layout.Result, f *layout.Fragment, i int) bool {
	look := f.Style.Look()
	timeline := value(look, "animation-timeline", i, "auto")
	view := c.Viewport()
	height := r.Height.Float()
	y, h := f.Y.Float(), f.H.Float()
	switch name, _, _ := strings.Cut(timeline, "("); name {
	case "scroll":
		p.start, p.end = 0, max(1, height-view)
		return true
	case "view":
	default:
		c.miss("the timeline %s", timeline)
		return false
	}
	at := func(name string, share float64) float64 {
		from, to := y-view, y+h // cover
		inner, outer := y+min(h, view)-view, y+max(0, h-view)
		switch name {
		case "entry":
			to = inner
		case "exit":
			from = outer
		case "contain":
			from, to = inner, outer
		}
		return from + (to-from)*share
	}
	first := ranges(value(look, "animation-range-start", i, ""))
	last := ranges(value(look, "animation-range-end", i, ""))
	begin, finish := point{"cover", 0}, point{"cover", 1}
	if len(first) > 0 {
		begin = first[0].or(0)
	}
	switch {
	case len(last) == 0:
	case len(last) == 1 && slices.Equal(first, last): // animation-range with one name: all of that
		finish = point{last[0].name, 1}
	default:
		finish = last[len(last)-1].or(1)
	}
	p.start, p.end = at(begin.name, begin.share), at(finish.name, finish.share)
	return p.end > p.start
}

// point is a place in a named range of a timeline. A share below 0 is not said.
type point struct {
	name  string
	share float64
}

func (p point) or(share float64) point {
	if p.share < 0 {
		p.share = share
	}
	return p
}

// ranges reads the places of an animation-range (Scroll-driven Animations 1, section 4).
func ranges(text string) []point {
	var out []point
	for _, w := range strings.Fields(text) {
		if v, unit, ok := number(w); ok && unit == "%" {
			if n := len(out); n > 0 && out[n-1].share < 0 {
				out[n-1].share = v / 100
				continue
			}
			out = append(out, point{"cover", v / 100})
			continue
		}
		if w != "normal" {
			out = append(out, point{w, -1})
		}
	}
	return out
}

// Viewport gives how high the screen is, CSS px.
func (c *Clip) Viewport() float64 {
	if c.page.Height > 0 {
		return float64(c.page.Height)
	}
	return 800
}

// Moments gives n moments, the first and the last among them.
func (c *Clip) Moments(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = c.From + (c.To-c.From)*float64(i)/float64(max(1, n-1))
	}
	return out
}

// progress says how far an animation is at a moment, 0..1 before its easing; ok is false when it leaves the box alone.
func (p play) progress(c *Clip, moment float64) (x float64, ok bool) {
	var turns float64
	switch {
	case p.scrolled != c.Scrolled: // those that follow the time have come to their end when somebody scrolls
		turns = p.count
		if math.IsInf(turns, 1) {
			turns = 0
		}
	case p.scrolled:
		turns = (moment - p.start) / (p.end - p.start) * p.count
	default:
		turns = (moment - p.delay) / p.duration
	}
	switch {
	case turns < 0:
		if p.fill != "both" && p.fill != "backwards" {
			return 0, false
		}
		turns = 0
	case turns >= p.count:
		if p.fill != "both" && p.fill != "forwards" {
			return 0, false
		}
		turns = p.count
	}
	turn := math.Floor(turns)
	x = turns - turn
	if turns == p.count && x == 0 && turns > 0 { // the end of the last one
		turn, x = turn-1, 1
	}
	odd := math.Mod(turn, 2) != 0
	backwards := p.direction == "reverse" || p.direction == "alternate" && odd || p.direction == "alternate-reverse" &&
		!odd
	if backwards {
		x = 1 - x
	}
	return x, true
}

// at gives the value of a property at a share of the time.
func (t track) at(x float64) string {
	i := 0
	for i < len(t.stops)-2 && x >= t.stops[i+1].at {
		i++
	}
	a, b := t.stops[i], t.stops[i+1]
	p := 1.0
	if b.at > a.at {
		p = a.ease((x - a.at) / (b.at - a.at))
	}
	return between(t.property, a.value, b.value, p)
}

// moves are the properties that move a box on the screen and not in the layout.
var moves = []string{"translate", "scale", "rotate", "transform", "offset", "offset-path", "offset-distance"}

// Sheet gives the style sheet that shows a moment.
func (c *Clip) Sheet(moment float64) string { return c.sheet(moment, nil) }

func (c *Clip) sheet(moment float64, without []string) string {
	var b strings.Builder
	for _, p := range c.plays {
		x, ok := p.progress(c, moment)
		if !ok {
			continue
		}
		b.WriteString(p.element.Path())
		if p.pseudo != "" {
			b.WriteString("::" + p.pseudo)
		}
		b.WriteString("{")
		for _, t := range p.tracks {
			if v := t.at(x); v != "" && !slices.Contains(without, t.property) {
				fmt.Fprintf(&b, "%s:%s!important;", t.property, v)
			}
		}
		b.WriteString("}")
	}
	return b.String()
}

// At gives the page as it looks at a moment.
func (c *Clip) At(moment float64) (*sweep.Prepared, error) {
	return c.page.Styled(c.Sheet(moment), false, c.states...)
}

// Shift is how far something moves that should stay.
type Shift struct {
	Px   float64
	Name string // of what moves
}

// Shift measures what an animation or a transition does to the layout: how far any box moves from where it is at rest,
// transforms left out. It must be 0.
func (c *Clip) Shift(moments []float64) (Shift, error) {
	rest, err := c.page.Styled("", true)
	if err != nil {
		return Shift{}, err
	}
	before := rest.Engine().Layout(c.Width)
	var out Shift
	for _, m := range moments {
		page, err := c.page.Styled(c.sheet(m, moves), true, c.states...)
		if err != nil {
			return Shift{}, err
		}
		after := page.Engine().Layout(c.Width)
		for i := range before.Boxes {
			a := &before.Boxes[i]
			b := after.Of(page.Doc.Elements[a.Element.Index])
			if b == nil {
				continue
			}
			for _, d := range []layout.Px{a.X - b.X, a.Y - b.Y, a.W - b.W, a.H - b.H} {
				if by := math.Abs(d.Float()); by > out.Px {
					out = Shift{by, naming.Of(c.page, c.page.Doc.Elements[a.Element.Index])}
				}
			}
		}
	}
	return out, nil
}
