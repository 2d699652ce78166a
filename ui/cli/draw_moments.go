package cli

import (
	"errors"
	"fmt"
	"slices"

	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/motion"
	"ziegel/core/paint"
)

// drawMoments draws the film strip of a motion. A layout that moves with it is a finding.
func (a *app) drawMoments(o *drawing, args []string) error {
	switch {
	case o.of == "":
		return errors.New("--moments needs to know of what: --of enter, hover or words")
	case !slices.Contains(motion.Kinds, o.of):
		return diag.Unknown("motion", o.of, motion.Kinds, "")
	case o.moments == 0:
		o.moments = 8
	case o.moments < 2 || o.moments > 60:
		return fmt.Errorf("--moments %d: give 2 to 60", o.moments)
	}
	switch {
	case len(args) == 0:
		return errors.New("--moments shows a page, a block or a part: ziegel draw home/reasons --moments 8 --of enter --to enter.png")
	case o.to == "":
		return errors.New("moments stand on a strip: --to FILE.png")
	case len(o.widths) > 1:
		return fmt.Errorf("--at %s: a strip shows one width", o.at)
	}
	if err := a.mayWrite(o.to); err != nil {
		return err
	}
	s, target, err := a.drawn(args[0])
	if err != nil {
		return err
	}
	look := draw.Look{Dark: o.scheme == "dark", Files: paint.NewFiles()}
	strip, err := draw.Moments(s.Prepared, o.widths[0], target, draw.Motion{Kind: o.of, Moments: o.moments}, look)
	if err != nil {
		return err
	}
	if strip == nil {
		return fmt.Errorf("nothing on %s moves as --of %s: %s", args[0], o.of, howToMove[o.of])
	}
	if err := a.writeSheet(o, args[0]+", "+o.of, strip.Sheet, look.Files); err != nil {
		return err
	}
	for _, m := range strip.Clip.Missed {
		a.talkf("%s: not followed: %s", a.talk.Warning("note"), m)
	}
	unit := fmt.Sprintf("%.2f s", strip.Clip.To)
	if strip.Clip.Scrolled {
		unit = fmt.Sprintf("scroll positions %.0f to %.0f px", strip.Clip.From, strip.Clip.To)
	}
	a.answer("%s over %s; layout shift %.3g px", diag.Plural(len(strip.Clip.Moving), "moving part"), unit,
		strip.Shift.Px)
	if strip.Shift.Px > 0 {
		a.answer("%s moves by up to %.3g px: animate translate, scale or opacity instead", strip.Shift.Name,
			strip.Shift.Px)
		return errFindings
	}
	return nil
}

// howToMove says how something begins to move.
var howToMove = map[string]string{
	motion.Enter: "`ziegel style home/reasons.card use=enter-rise` lets a part come in, use=scroll-rise while scrolling",
	motion.Hover: "`ziegel style home/plans.card use=hover-lift` lets a part rise under the pointer",
	motion.Words: "`ziegel set home/opening heading=\"Made for [real|honest] wind\"` lets words take turns",
}
