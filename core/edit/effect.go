package edit

import (
	"ziegel/core/check"
	"ziegel/core/sweep"
)

// EffectKind says what an effect of an edit is.
type EffectKind int

// Effect is one thing that an edit did to a page.
type Effect struct {
	Kind                  EffectKind
	Where                 string       // PAGE/BLOCK or PAGE/BLOCK.PART
	Arrangements, Earlier []sweep.Span // of stacksNow and stacksAnew
	Choice, Now, Was      string       // of takesTurn: what takes another value; of standsTwice: now says what
	Finding, Before       *check.Finding
	Shifts                []sweep.Shifts // of Shifted: the largest of each range; of Mirrored: one a width
	Parts                 []string       // of Recolored and Restyled: what is drawn in another way, "" for the block
	Properties            []string       // the properties that do it
}

// PageEffects is what an edit did to one page.
type PageEffects struct {
	Page    string
	Effects []Effect
	Still   bool  // everything stands and is found as before
	Widths  []int // at which sizes, places and looks were compared, CSS px
}

// The kinds of effects.
const (
	StacksNow   EffectKind = iota // a new block, or part, stacks so
	StacksAnew                    // it stacks in another way than before
	TakesTurn                     // tone or side follow from neighbours, which are others now
	StandsTwice                   // there is a second navigation or footer now
	NewFinding
	GoneFinding
	otherFinding // the finding says something else now
	Shifted      // boxes have other sizes, or stand elsewhere in their block
	Mirrored     // two parts have changed sides
	Recolored    // colors differ
	Restyled     // other things differ that move nothing: shadows, corners, lines
)
