package cli

import (
	"fmt"

	"ziegel/core/draw"
	"ziegel/core/paint/raster"
	"ziegel/core/sweep"
	"ziegel/ui/term"
)

// showShot shows a picture in the way that the terminal knows.
func (a *app) showShot(how term.Pictures, sh *draw.Shot) error {
	scale := 1.0
	if how == term.PicturesBlocks { // two pixels a cell: no more are needed than a few for each
		scale = min(1, 2*float64(a.style.Width)/max(1, sh.Area.W()))
	}
	img, err := raster.Draw(sh.List, raster.Options{Scale: scale, Area: &sh.Area})
	if err != nil {
		return err
	}
	a.say("%s", a.style.Dim(fmt.Sprintf("%s at %d px, %.0f x %.0f", sh.Name, sh.Width, sh.Area.W(), sh.Area.H())))
	return term.Show(a.out, how, img, min(a.style.Width-1, 160))
}

// halfBlocks draws a block in cells of a terminal, nil when it cannot be drawn.
func halfBlocks(l *sweep.Prepared, width int, block string, columns int) []string {
	shot, err := draw.Of(l, width, draw.Target{Block: block}, draw.Look{})
	if err != nil {
		return nil
	}
	img, err := raster.Draw(shot.List, raster.Options{Scale: min(1, 3*float64(columns)/max(1, shot.Area.W())),
		Area: &shot.Area})
	if err != nil {
		return nil
	}
	return term.HalfBlocks(img, columns, 0)
}
