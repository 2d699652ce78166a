package cli

import (
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// tried is what the last --try was about, kept in the site's cache for --take.
type tried struct {
	Args   []string `json:"args"` // address and property
	Values []string `json:"values"`
	At     string   `json:"at,omitempty"`
	In     string   `json:"in,omitempty"`
	When   string   `json:"when,omitempty"`
	State  string   `json:"state,omitempty"`
	For    string   `json:"for"`
	Name   string   `json:"name,omitempty"`
}

const (
	triedFile = ".ziegel/try.json"
	trySheet  = ".ziegel/try.html"
)

// sheetWidth is the room that a sheet gives the alternatives of one row, CSS px.
const sheetWidth = 1180

// tryWidths are the screen widths of a sheet of alternatives, CSS px.
var tryWidths = []int{390, 1280}

// splitValues cuts a list at its commas, those inside brackets left alone.
func splitValues(s string) []string {
	var out []string
	depth, start := 0, 0
	for i, r := range s {
		switch r {
		case '(', '{':
			depth++
		case ')', '}':
			depth--
		case ',':
			if depth == 0 {
				out = append(out, strings.TrimSpace(s[start:i]))
				start = i + 1
			}
		}
	}
	return append(out, strings.TrimSpace(s[start:]))
}

// alternative is one value as it turned out.
type alternative struct {
	Value   string       `json:"value"`
	Heights []int        `json:"heights"` // of the block at the widths of the sheet, CSS px
	Stacks  []sweep.Span `json:"stacks"`
	New     []string     `json:"new"` // errors and warnings that it brings
	html    string       // self-contained
}

// tryStyle shows several values of one property side by side, in a file and in numbers.
func (a *app) tryStyle(args []string, sc edit.Scope, list, file string) error {
	dir, err := a.find()
	if err != nil {
		return err
	}
	env, err := a.openAt(dir)
	if err != nil {
		return err
	}
	args, err = sc.TakeName(args)
	if err != nil {
		return err
	}
	if len(args) != 2 && !(len(args) == 1 && strings.Count(args[0], ".") == 2) {
		return errors.New("write one part and one property: style home/plans.card padding --try 1rem,1.5rem,2rem")
	}
	if len(args) == 1 {
		i := strings.LastIndexByte(args[0], '.')
		args = []string{args[0][:i], args[0][i+1:]}
	}
	on, err := edit.FindStyled(env, args[0], sc)
	if err != nil {
		return err
	}
	values := splitValues(list)
	if len(values) < 2 {
		return errors.New("give at least two values, with commas between them: --try 1rem,1.5rem,2rem")
	}
	before := edit.Inspect(storeOf(env), env, on.Page.Name, []string{on.Block.Name})
	var out []alternative
	for _, v := range values {
		alt, err := a.alternative(env, on, change{args[1], v}, sc, before)
		if err != nil {
			return err
		}
		out = append(out, alt)
	}
	if file == "" {
		file = filepath.Join(dir, filepath.FromSlash(trySheet))
	}
	title := fmt.Sprintf("%s/%s.%s %s", on.Page.Name, on.Block.Name, on.Target, args[1])
	if err := a.save(file, []byte(trySheetHTML(title, out))); err != nil {
		return err
	}
	keep, err := json.Marshal(tried{args, values, sc.At, sc.In, sc.When, sc.State, sc.Scope, sc.Name})
	if err != nil {
		return err
	}
	if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(triedFile)), keep); err != nil {
		return err
	}
	for i, alt := range out {
		line := fmt.Sprintf("%d  %s=%s  %d px high at %d, %d px at %d; %s", i+1, args[1], alt.Value, alt.Heights[0],
			tryWidths[0], alt.Heights[1], tryWidths[1], spansText(alt.Stacks))
		a.say("%s", a.style.Wrap(line, 3))
		for _, n := range alt.New {
			a.say("%s", a.style.Wrap("   brings "+n, 6))
		}
	}
	a.say("side by side in %s; `ziegel style --take N` writes one", file)
	return nil
}

// change is a property and a value for it.
type change struct{ property, value string }

// alternative works one value out; nothing is written.
func (a *app) alternative(env *project.Project, on *edit.Styled, c change, sc edit.Scope,
	before *check.Report) (alternative, error) {
	p := edit.New(env, storeOf(env))
	if err := edit.StyleOne(p, on, []string{c.property + "=" + c.value}, sc); err != nil {
		return alternative{}, err
	}
	after, err := p.Trial()
	if err != nil {
		return alternative{}, err
	}
	page := after.Site.Page(on.Page.Name)
	alt := alternative{Value: c.value, New: []string{}}
	s, err := check.Lay(after, page, []string{on.Block.Name})
	if err != nil {
		return alt, err
	}
	engine := s.Prepared.Engine()
	for _, w := range tryWidths {
		h := 0.0
		if b := s.Prepared.Block(on.Block.Name); b != nil {
			if box := engine.Layout(w).Of(b.Element); box != nil {
				h = box.H.Float()
			}
		}
		alt.Heights = append(alt.Heights, int(h+.5))
	}
	now := edit.Inspect(p.Store, after, on.Page.Name, []string{on.Block.Name})
	for _, b := range edit.Stackings(now) {
		alt.Stacks = b.Arrangements
	}
	for _, e := range edit.Compare(before, now) {
		if e.Finding != nil && e.Finding.Severity != diag.Note {
			alt.New = append(alt.New, string(e.Finding.Severity)+": "+findingLine(on.Page.Name, *e.Finding))
		}
	}
	text, err := build.Alone(after, page, []string{on.Block.Name})
	alt.html = text
	return alt, err
}

// trySheetHTML writes the alternatives: values across, widths down. Each is a page of its own in a frame, drawn
// smaller.
func trySheetHTML(title string, list []alternative) string {
	var b strings.Builder
	fmt.Fprintf(&b, `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
%s
<title>%s</title>
<style>
  body { margin: 0; padding: 24px; background: #eceeef; color: #15191c; font: 15px/1.5 system-ui, sans-serif; }
  h1 { margin: 0 0 16px; font-size: 18px; }
  .row { display: flex; overflow-x: auto; gap: 20px; align-items: flex-start; margin-block-end: 28px; }
  figure { flex: none; margin: 0; }
  figcaption { padding-block-end: 8px; font-variant-numeric: tabular-nums; }
  .frame { overflow: hidden; background: #fff; outline: 1px solid #c9cfd3; }
  iframe { display: block; border: 0; transform-origin: 0 0; pointer-events: none; }
</style>
<h1>%s</h1>
`, build.Policy(), html.EscapeString(title), html.EscapeString(title))
	for i, w := range tryWidths {
		tallest := 0
		for _, alt := range list {
			tallest = max(tallest, alt.Heights[i])
		}
		shown := min(w, sheetWidth/len(list))
		scale := float64(shown) / float64(w)
		b.WriteString("<div class=\"row\">\n")
		for n, alt := range list {
			fmt.Fprintf(&b, "<figure style=\"width:%dpx\"><figcaption><strong>%d</strong>  %s, %d px wide: %d px high</figcaption>\n<div class=\"frame\" style=\"height:%dpx\"><iframe sandbox title=\"%s at %d px\" loading=\"lazy\" width=\"%d\" height=\"%d\" style=\"transform:scale(%.4f)\" srcdoc=\"%s\"></iframe></div></figure>\n",
				shown, n+1, html.EscapeString(alt.Value), w, alt.Heights[i], int(float64(tallest+8)*scale),
				html.EscapeString(alt.Value), w, w, tallest+8, scale, html.EscapeString(alt.html))
		}
		b.WriteString("</div>\n")
	}
	b.WriteString("</html>\n")
	return b.String()
}

// takeTried writes one of the values that were tried last.
func (a *app) takeTried(dry bool, n int) error {
	dir, err := a.find()
	if err != nil {
		return err
	}
	data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(triedFile)))
	var t tried
	if err != nil || json.Unmarshal(data, &t) != nil {
		return errors.New("nothing was tried yet: `ziegel style home/plans.card padding --try 1rem,1.5rem,2rem`")
	}
	if n > len(t.Values) {
		return fmt.Errorf("there were %s: %s", diag.Plural(len(t.Values), "value"), strings.Join(t.Values, ", "))
	}
	sc := edit.Scope{At: t.At, In: t.In, When: t.When, State: t.State, Scope: t.For, Name: t.Name, Of: "block"}
	return a.change(dry, func(p *edit.Plan) error {
		on, err := edit.FindStyled(p.Env, t.Args[0], sc)
		if err != nil {
			return err
		}
		return edit.StyleOne(p, on, []string{t.Args[1] + "=" + t.Values[n-1]}, sc)
	})
}
