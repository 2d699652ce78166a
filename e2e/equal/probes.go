package equal

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"

	"io/fs"

	"ziegel/core/css/grammar"
	"ziegel/core/parallel"
	"ziegel/e2e/browser"
)

// Probe is one value of one property, or one rule, put on a page that has a little of everything, and what came of it.
type Probe struct {
	Property, Value string // of a rule: what it is about, and all of it
	Rule            string
	Dressed         bool // on boxes with borders, padding and margins
	Verdict         Verdict
	Told            []string // what was reported
	Differences     []Difference
}

// Verdict says how a probe went.
type Verdict string

// Equal: all boxes as in the browser. Told: others, and the page says that we do not follow the value. Silent:
// others, and nobody says so.
const (
	Equal  Verdict = "equal"
	Told   Verdict = "told"
	Silent Verdict = "silent"
)

// undefined are values whose insides the grammar does not define: they are probed by hand.
var undefined = regexp.MustCompile(
	`\b(anchor|anchor-size|calc-size|attr|symbols|ray|shape|path|palette-mix|paint|element)\(|\bfrom |url\(|url-`,
)

// dress gives what is probed something to act on.
const dress = ".p{border:2px solid;padding:3px;margin:4px;min-height:30px;position:relative}"

// Probes lists what is probed: values that cover every property whose grammar is known, and the rules of
// testdata/probes/more.txt; with dressed each once more on boxes that have borders, padding and margins. dir is this
// repository's e2e.
func Probes(dir string, dressed bool) ([]Probe, error) {
	var out []Probe
	add := func(property, value, rule string) {
		out = append(out, Probe{Property: property, Value: value, Rule: rule})
		if dressed {
			out = append(out, Probe{Property: property, Value: value, Rule: dress + rule, Dressed: true})
		}
	}
	for _, p := range grammar.Properties() {
		for _, v := range grammar.Cover(p, rand.New(rand.NewPCG(1, 3))) {
			if !undefined.MatchString(v) {
				add(p, v, ".p{"+p+":"+v+"}")
			}
		}
	}
	data, err := os.ReadFile(filepath.Join(dir, "testdata", "probes", "more.txt"))
	if err != nil {
		return nil, err
	}
	lines := bufio.NewScanner(bytes.NewReader(data))
	subject := ""
	for lines.Scan() {
		line := strings.TrimSpace(lines.Text())
		switch {
		case line == "":
		case line[0] == '#':
			subject = strings.TrimSpace(line[1:])
		case strings.ContainsRune(line, '{'):
			add(subject, line, line)
		default:
			add(subject, line, ".p{"+line+"}")
		}
	}
	return out, lines.Err()
}

// Folders are where probes find what they need: this repository's e2e, a folder that Fixtures wrote, and the stock.
type Folders struct {
	Repository, Pages string
	Stock             fs.FS
}

// Try asks the browser and us about probes.
func Try(ctx context.Context, in Folders, widths []int, probes []Probe) error {
	dir, root, assets := in.Repository, in.Pages, in.Stock
	page, err := os.ReadFile(filepath.Join(dir, "testdata", "probes", "page.html"))
	if err != nil {
		return err
	}
	const name = "boxes/probes/page.html"
	if err := write(filepath.Join(root, name), page); err != nil {
		return err
	}
	rules := []string{""}
	for _, p := range probes {
		rules = append(rules, p.Rule)
	}
	theirs := make([]browser.Page, len(rules))
	ours := func(i int) (Tally, error) {
		at := fmt.Sprintf("boxes/probes/%d.html", i)
		text := bytes.Replace(page, []byte("<style id=probe>"), []byte("<style id=probe>"+rules[i]), 1)
		if err := write(filepath.Join(root, at), text); err != nil {
			return Tally{}, err
		}
		defer os.Remove(filepath.Join(root, at))
		want := theirs[i]
		want.Page = at
		return Page(root, want, assets, near)
	}
	type answer struct {
		from, to int // rules that the browser has answered
		err      error
	}
	answers := make(chan answer, 1+len(rules)/atATime)
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	go func() { // the browser measures some while others are laid out
		defer close(answers)
		for from := 0; from < len(rules); from += atATime {
			a := answer{from: from, to: min(from+atATime, len(rules))}
			some, err := browser.Probe(ctx, root, name, widths, rules[a.from:a.to])
			copy(theirs[a.from:a.to], some)
			a.err = err
			answers <- a
			if err != nil {
				return
			}
		}
	}()
	var plain Tally
	for a := range answers {
		if a.err != nil {
			return a.err
		}
		if a.from == 0 {
			var err error
			if plain, err = ours(0); err != nil || len(plain.Differences)+len(plain.Reported) > 0 {
				return fmt.Errorf("the page without a probe: %w %v %v", err, plain.Differences, plain.Reported)
			}
			a.from = 1
		}
		errs := make([]error, a.to-a.from)
		parallel.Each(runtime.GOMAXPROCS(0), len(errs), func(_, k int) bool {
			var t Tally
			t, errs[k] = ours(a.from + k)
			for _, f := range t.Families { // those of the page itself do not count
				if !slices.Contains(plain.Families, f) {
					t.Reported = append(t.Reported, "font-family: "+f)
				}
			}
			judge(&probes[a.from+k-1], t)
			return errs[k] == nil
		})
		if err := errors.Join(errs...); err != nil {
			return err
		}
	}
	return nil
}

// near is how far a box of a probe may be from the browser's, CSS px; atATime is how many rules the browser answers
// before we lay out what they do.
const (
	near    = 1.0 / 16
	atATime = 400
)

// turning are rules after which a browser counts the lines of a text by the corners of its boxes.
var turning = regexp.MustCompile(`rotate|skew|matrix`)

func judge(p *Probe, t Tally) {
	if turning.MatchString(p.Rule) {
		t.Differences = slices.DeleteFunc(t.Differences, func(d Difference) bool {
			o, b := d.Ours, d.Theirs
			return d.Path != "" &&
				max(math.Abs(o.X-b.X), math.Abs(o.Y-b.Y), math.Abs(o.W-b.W), math.Abs(o.H-b.H)) <= near
		})
	}
	p.Told, p.Differences = t.Reported, t.Differences
	switch {
	case len(t.Differences) == 0:
		p.Verdict = Equal
	case len(t.Reported) > 0:
		p.Verdict = Told
	default:
		p.Verdict = Silent
	}
}

// First is the first difference of a box, and of the page when no box differs; "" when all is equal.
func (p *Probe) First() string {
	for _, d := range p.Differences {
		if d.Path != "" && d.Path != "body" {
			return d.String()
		}
	}
	if len(p.Differences) > 0 {
		return p.Differences[0].String()
	}
	return ""
}
