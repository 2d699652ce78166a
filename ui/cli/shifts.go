package cli

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/sweep"
)

// stillText says that nothing moved, and where that was looked at.
func stillText(where string, widths []int) string {
	if len(widths) == 0 {
		return fmt.Sprintf("nothing moved from one row to another%s at %d..%d px", where, sweep.DefaultFrom,
			sweep.DefaultTo)
	}
	return fmt.Sprintf("nothing moved and nothing looks different at rest%s (rows at every width, sizes and looks at %d widths from %d to %d px)",
		where, len(widths), widths[0], widths[len(widths)-1])
}

// toldParts is how many parts of a block are named at a width.
const toldParts = 2

// shiftsText says what is larger or stands elsewhere, at the width of each range where that is most.
func shiftsText(e edit.Effect) string {
	var texts []string
	at := map[string][]string{}
	for _, s := range e.Shifts {
		text := shiftText(s)
		if at[text] == nil {
			texts = append(texts, text)
		}
		at[text] = append(at[text], strconv.Itoa(s.At))
	}
	for i, t := range texts {
		texts[i] = fmt.Sprintf("%s at %s", t, diag.And(at[t]))
	}
	return e.Where + ": " + strings.Join(texts, "; ")
}

func shiftText(s sweep.Shifts) string {
	var out []string
	for _, p := range s.Parts[:min(len(s.Parts), toldParts)] {
		name := p.Part
		switch {
		case p.Part == "":
			name = "block"
		case p.Index > 0:
			name = fmt.Sprintf("%s[%d]", p.Part, p.Index)
		}
		out = append(out, name+" "+wayText(p))
	}
	if more := len(s.Parts) - toldParts; more > 0 {
		out = append(out, morePartsText(more))
	}
	if math.Abs(s.Longer) >= 0.5 {
		out = append(out, "page "+amount(s.Longer, "longer", "shorter"))
	}
	return strings.Join(out, ", ")
}

func morePartsText(n int) string {
	if n == 1 {
		return "1 more part"
	}
	return fmt.Sprintf("%d more parts", n)
}

func wayText(p sweep.Shift) string {
	switch p.How {
	case sweep.Height:
		return amount(p.By, "taller", "less tall")
	case sweep.Width:
		return amount(p.By, "wider", "narrower")
	case sweep.Down:
		return amount(p.By, "lower", "higher")
	case sweep.Across:
		return amount(p.By, "further right", "further left")
	case sweep.Shown:
		return "shows now"
	}
	return "is hidden now"
}

// amount words a difference in whole px, or with a decimal when it is small.
func amount(by float64, more, less string) string {
	word := more
	if by < 0 {
		word = less
	}
	digits := 0
	if math.Abs(by) < 3 {
		digits = 1
	}
	text := strconv.FormatFloat(math.Abs(by), 'f', digits, 64)
	return strings.TrimSuffix(text, ".0") + " px " + word
}

func mirroredText(e edit.Effect) string {
	var at []string
	for _, s := range e.Shifts {
		at = append(at, strconv.Itoa(s.At))
	}
	sides := e.Shifts[len(e.Shifts)-1].Mirrored
	where := "at " + diag.And(at)
	if len(at) > 3 {
		where = fmt.Sprintf("from %s to %s px", at[0], at[len(at)-1])
	}
	return fmt.Sprintf("%s mirrored: %s left of %s %s", e.Where, sides[0], sides[1], where)
}

// redrawnText names what is drawn in another way and moved nothing.
func redrawnText(e edit.Effect) string {
	parts := make([]string, 0, len(e.Parts))
	for _, p := range e.Parts {
		if p == "" {
			p = "block"
		}
		parts = append(parts, p)
	}
	if more := len(parts) - 4; more > 0 {
		parts = append(slices.Clone(parts[:4]), morePartsText(more))
	}
	verb := "recolored"
	if e.Kind == edit.Restyled {
		verb = "restyled"
		parts = append(parts, "("+strings.Join(e.Properties[:min(len(e.Properties), 4)], ", ")+")")
		return fmt.Sprintf("%s %s: %s", e.Where, verb, strings.Join(parts[:len(parts)-1], ", ")+" "+parts[len(parts)-1])
	}
	return fmt.Sprintf("%s %s: %s", e.Where, verb, strings.Join(parts, ", "))
}
