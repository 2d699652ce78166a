package layout

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"ziegel/core/css"
)

// Fields that are made of parts: days and times, one part beside the other, and files, a button with a text. All sizes
// are measured in Chromium, in its English.

// FieldPart is one part of a date or a time, or a text between two parts, which has nothing but what it shows empty.
type FieldPart struct {
	Empty string   // what it shows when it has no value
	most  []string // the widest that it may show
	value string   // what it shows now
}

// IsText reports a text between two parts.
func (p *FieldPart) IsText() bool { return p.most == nil }

// Shown gives the text that stands on the screen.
func (p *FieldPart) Shown() string { return cmp.Or(p.value, p.Empty) }

// months are what the part of a month may show in fields of the type month.
var months = []string{"January", "February", "March", "April", "May", "June", "July", "August", "September", "October",
	"November", "December"}

// lastYear is the last one that a date may have (HTML, 2.3.5).
const lastYear = "275760"

var (
	dateForm  = regexp.MustCompile(`^(\d{4,6})-(\d\d)-(\d\d)$`)
	monthForm = regexp.MustCompile(`^(\d{4,6})-(\d\d)$`)
	weekForm  = regexp.MustCompile(`^(\d{4,6})-W(\d\d)$`)
	timeForm  = regexp.MustCompile(`^(\d\d):(\d\d)(?::(\d\d)(?:\.(\d{1,3}))?)?$`)
)

// DateParts gives the parts of a date or time field by its type, nil for other elements.
func DateParts(el *css.Element) []FieldPart {
	value := el.Attr("value")
	switch fieldType(el) {
	case "date":
		return dayParts(value)
	case "month":
		month, year := part("---------", months...), part("----", lastYear)
		if v := monthForm.FindStringSubmatch(value); v != nil {
			if n, _ := strconv.Atoi(v[2]); n >= 1 && n <= 12 {
				month.value, year.value = months[n-1], v[1]
			}
		}
		return []FieldPart{month, between(" "), year}
	case "week":
		week, year := part("--", "53"), part("----", lastYear)
		if v := weekForm.FindStringSubmatch(value); v != nil {
			year.value, week.value = v[1], v[2]
		}
		return []FieldPart{between("Week "), week, between(", "), year}
	case "time":
		return timeParts(el, value)
	case "datetime-local":
		day, at, _ := strings.Cut(strings.Replace(value, " ", "T", 1), "T")
		return append(append(dayParts(day), between(", ")), timeParts(el, at)...)
	}
	return nil
}

func part(empty string, most ...string) FieldPart { return FieldPart{Empty: empty, most: most} }

func between(text string) FieldPart { return FieldPart{Empty: text} }

func dayParts(value string) []FieldPart {
	month, day, year := part("mm", "12"), part("dd", "31"), part("yyyy", lastYear)
	if v := dateForm.FindStringSubmatch(value); v != nil {
		year.value, month.value, day.value = v[1], v[2], v[3]
	}
	return []FieldPart{month, between("/"), day, between("/"), year}
}

// timeParts gives the parts of a time. Seconds and their thousandths are shown where the value has some, or the step
// is no whole minute, or second (HTML, 4.10.5.3.8: the step is in seconds and 60 by default).
func timeParts(el *css.Element, value string) []FieldPart {
	hour, minute, half := part("--", "12"), part("--", "59"), part("--", "AM", "PM")
	second, thousandth := part("--", "59"), part("---", "999")
	seconds, thousandths := false, false
	if step, err := strconv.ParseFloat(strings.TrimSpace(el.Attr("step")), 64); err == nil && step > 0 {
		seconds, thousandths = math.Mod(step, 60) != 0, math.Mod(step, 1) != 0
	}
	if v := timeForm.FindStringSubmatch(value); v != nil {
		h, _ := strconv.Atoi(v[1])
		half.value = half.most[min(h/12, 1)]
		hour.value, minute.value = fmt.Sprintf("%02d", (h+11)%12+1), v[2]
		second.value, thousandth.value = cmp.Or(v[3], "00"), (v[4] + "000")[:3]
		thousandths = thousandths || thousandth.value != "000"
		seconds = seconds || thousandths || second.value != "00"
	}
	out := []FieldPart{hour, between(":"), minute}
	if seconds {
		out = append(out, between(":"), second)
	}
	if thousandths {
		out = append(out, between("."), thousandth)
	}
	return append(out, between("\u202f"), half)
}

// fieldType gives the type of an input in small letters.
func fieldType(el *css.Element) string {
	if el.Tag != "input" {
		return ""
	}
	return strings.ToLower(el.Attr("type"))
}

// isDate reports a field that DateParts has parts of.
func isDate(el *css.Element) bool {
	switch fieldType(el) {
	case "date", "month", "week", "time", "datetime-local":
		return true
	}
	return false
}

// dateSize gives the content size of a date or time field: its parts, each as wide as the widest that it may show and
// 2 px, in whole px, and the picture that opens the calendar, as large as the text.
func (e *Engine) dateSize(b *Box) (w, h Px) {
	s, known := b.style, b.shownNow()
	if known.w > 0 {
		return known.w, known.h
	}
	sum := 0.0
	for _, p := range DateParts(b.el) {
		one := max(e.advance(s, p.Empty), e.advance(s, p.value))
		for _, t := range p.most {
			one = max(one, e.advance(s, t))
		}
		if !p.IsText() {
			one += 2 * e.zoom() // not those of zoom (measured)
		}
		sum += one
	}
	picture, before, _ := e.FieldSign(b.el, s)
	m := e.metrics(s)
	known.w = css.FromFloat(math.Ceil(sum)) + before + picture
	known.h = max(m.above+m.below+b.style.Zoomed(2), picture)
	return known.w, known.h
}

// FieldSign gives the side of the picture that opens a date or time field, the room before it, and whether it is a
// clock instead of a calendar.
func (e *Engine) FieldSign(el *css.Element, s *css.Style) (side, before Px, clock bool) {
	if fieldType(el) == "time" {
		return css.FromFloat(1.05*s.FontSize+1.0/1024) + s.Zoomed(6), s.Zoomed(8), true
	}
	return css.FromFloat(s.FontSize) + s.Zoomed(4), 0, false
}

// FileButton gives the label of the button in a file field and its style: that of the interface, in the field's size.
func FileButton(el *css.Element, field *css.Style) (label string, s *css.Style) {
	own, inh := *field, *field.Inherited
	inh.FontFamily, inh.FontWeight, inh.Italic = []string{"sans-serif"}, 400, false
	inh.LineHeight, inh.LetterSpacing, inh.WordSpacing = css.LineHeight{Normal: true}, 0, 0
	own.Inherited = &inh
	if _, many := el.LookupAttr("multiple"); many {
		return "Choose Files", &own
	}
	return "Choose File", &own
}

// FileBaseline gives how far below the top of its content a file field has its baseline.
func (e *Engine) FileBaseline(el *css.Element, s *css.Style) Px {
	_, above, _ := e.file(el, s)
	return above
}

// NoFile is what a file field says beside its button.
const NoFile = "No file chosen"

// file gives the content width of a file field, and of its one line how far it reaches above and below the baseline: a
// button and a text, which has room for 34 zeros.
func (e *Engine) file(el *css.Element, s *css.Style) (w, above, below Px) {
	label, own := FileButton(el, s)
	button, m := e.metrics(own), e.metrics(s)
	edge := Px(int(2*s.ZoomFactor()))*64 + s.Zoomed(1) // borders are whole px
	words := e.textWidth(s, NoFile) + e.textWidth(own, label) + s.Zoomed(16+4)
	room := max(34*e.advance(s, "0"), words.Float())
	return css.FromFloat(math.Ceil(room)), max(m.above, button.above+edge), max(m.below, button.below+edge)
}
