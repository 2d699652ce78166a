package layout_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Sizes beyond those of the text are Chromium's: borders of 2 px, padding of 1 px and 2 px, a caret of 1 px.
func TestFieldsFitWhatTheyHold(t *testing.T) {
	size := func(html string) (w, h float64) {
		var x, y float64
		_, err := fmt.Sscanf(at(t,
			"<style>p{width:max-content}.x{font:20px/1.5 F;field-sizing:content}textarea.x{resize:none}</style>"+html, 500), "%f %f %f %f", &x, &y, &w, &h)
		assert.NoError(t, err)
		return w, h
	}
	text := func(s string) float64 { w, _ := size("<p id=x class=x>" + s); return w }
	for html, want := range map[string][2]float64{
		"<input class=x id=x value='Hello words'>": {text("Hello words") + 8, 36},
		"<input class=x id=x>":                     {9, 36},
		"<input class=x id=x placeholder='Hello'>": {text("Hello") +
			8, 36},
		"<input class=x id=x value=i placeholder='Hello'>": {text("i") + 8,
			36},
		"<input class=x id=x size=4 value='Hello words'>":      {text("Hello words") + 8, 36},
		"<input class=x id=x value=i style='width:200px'>":     {208, 36},
		"<input class=x id=x value=i style='min-width:100px'>": {108, 36},
		"<input class=x id=x type=number value=12>": {text("12") +
			23, 36},
		"<textarea class=x id=x>Hello words\nand</textarea>": {text("Hello words") + 6, 66},
		"<textarea class=x id=x rows=4 cols=5></textarea>":   {7, 36},
		"<textarea class=x id=x>Hello\n</textarea>": {text("Hello") +
			6, 66},
		"<textarea class=x id=x placeholder=Hello></textarea>": {text("Hello") +
			6, 36},
		"<textarea class=x id=x style='width:120px'>Hello words that wrap in a narrow room</textarea>": {126, 126},
		"<div style='width:120px'><textarea class=x id=x>Hello words that wrap in a narrow room":       {120, 126},
		"<select class=x id=x><option>One<option>A much longer one</select>": {text("One") +
			22, 28},
		"<select class=x id=x><option>One<option selected>Two longer</select>": {text("Two longer") + 22, 28},
	} {
		w, h := size(html)
		assert.InDelta(t, want[0], w, .1, html)
		assert.InDelta(t, want[1], h, .1, html)
	}
}
