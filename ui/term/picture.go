package term

import (
	"bytes"
	"fmt"
	"image"
	"io"
	"os"
	"strings"
	"time"

	"github.com/charmbracelet/x/ansi"
	"github.com/charmbracelet/x/ansi/kitty"
	"github.com/charmbracelet/x/ansi/sixel"
	xterm "github.com/charmbracelet/x/term"
	"github.com/muesli/termenv"
	"golang.org/x/image/draw"
)

// Pictures is how a terminal shows pictures.
type Pictures int

// From the best way to the last: lines of letters.
const (
	PicturesNone   Pictures = iota
	PicturesBlocks          // two pixels a cell, as half blocks in true color
	PicturesSixel
	PicturesKitty
)

// patience is how long a terminal may take to say what it can.
const patience = 150 * time.Millisecond

// PicturesOf asks a terminal how it shows pictures: by its own answers to the query of the kitty graphics protocol and
// to the device attributes (4 is sixel), else by its colors. In and out are the terminal; anything else shows none.
func PicturesOf(in io.Reader, out io.Writer, s Style) Pictures {
	f, ok := out.(*os.File)
	if !ok || !s.Terminal || s.plain() {
		return PicturesNone
	}
	blocks := PicturesNone
	if TrueColor(f, s) {
		blocks = PicturesBlocks
	}
	keys, ok := in.(*os.File)
	if !ok || !xterm.IsTerminal(keys.Fd()) {
		return blocks
	}
	answer := ask(keys, f, "\x1b_Gi=31,s=1,v=1,a=q,t=d,f=24;AAAA\x1b\\"+ansi.RequestPrimaryDeviceAttributes)
	return answered(answer, blocks)
}

// TrueColor reports a terminal that says of itself that it has all colors: half blocks show a picture there. Nothing is
// asked.
func TrueColor(out io.Writer, s Style) bool {
	f, ok := out.(*os.File)
	return ok && s.Terminal && !s.plain() && termenv.NewOutput(f).EnvColorProfile() == termenv.TrueColor
}

// answered reads what a terminal said; otherwise is what it can without having said anything.
func answered(answer string, otherwise Pictures) Pictures {
	if strings.Contains(answer, "_Gi=31;OK") {
		return PicturesKitty
	}
	if i := strings.Index(answer, "\x1b[?"); i >= 0 {
		list, _, _ := strings.Cut(answer[i+3:], "c")
		for n, code := range strings.Split(list, ";") {
			if code == "4" && n > 0 {
				return PicturesSixel
			}
		}
	}
	return otherwise
}

// ask writes a question to a terminal and reads until the answer to the last part of it, or until patience ends.
func ask(in, out *os.File, question string) string {
	state, err := xterm.MakeRaw(in.Fd())
	if err != nil {
		return ""
	}
	defer func() { _ = xterm.Restore(in.Fd(), state) }()
	if _, err := io.WriteString(out, question); err != nil {
		return ""
	}
	got := make(chan string, 1)
	go func() {
		var all []byte
		one := make([]byte, 1)
		for len(all) < 512 {
			if n, err := in.Read(one); err != nil || n == 0 {
				break
			}
			all = append(all, one[0])
			if one[0] == 'c' && bytes.Contains(all, []byte("\x1b[?")) {
				break
			}
		}
		got <- string(all)
	}()
	select {
	case text := <-got:
		return text
	case <-time.After(patience):
		return ""
	}
}

// Show writes a picture in the way that a terminal knows, as wide as fits, not enlarged. cell is how many pixels a
// column has.
func Show(w io.Writer, how Pictures, img image.Image, columns int) error {
	const cell = 8 // px, where a terminal does not say
	switch how {
	case PicturesKitty:
		if err := kitty.EncodeGraphics(w, fitted(img, columns*cell), &kitty.Options{Action: kitty.TransmitAndPut,
			Transmission: kitty.Direct, Format: kitty.PNG, Chunk: true, Quiet: 2}); err != nil {
			return err
		}
		_, err := fmt.Fprintln(w)
		return err
	case PicturesSixel:
		var b bytes.Buffer
		if err := new(sixel.Encoder).Encode(&b, fitted(img, columns*cell)); err != nil {
			return err
		}
		_, err := io.WriteString(w, ansi.SixelGraphics(0, 1, 0, b.Bytes())+"\n")
		return err
	}
	for _, line := range HalfBlocks(img, columns, 0) {
		if _, err := fmt.Fprintln(w, line); err != nil {
			return err
		}
	}
	return nil
}

// fitted makes a picture as narrow as a number of pixels.
func fitted(img image.Image, wide int) image.Image {
	b := img.Bounds()
	if b.Dx() <= wide {
		return img
	}
	out := image.NewRGBA(image.Rect(0, 0, wide, max(1, b.Dy()*wide/b.Dx())))
	draw.BiLinear.Scale(out, out.Rect, img, b, draw.Src, nil)
	return out
}

// HalfBlocks draws a picture with two pixels a cell, one above the other, in a number of columns and at most so many
// rows; 0 rows are as many as it takes.
func HalfBlocks(img image.Image, columns, rows int) []string {
	b := img.Bounds()
	if b.Empty() || columns < 1 {
		return nil
	}
	wide := min(columns, b.Dx())
	high := max(1, b.Dy()*wide/b.Dx())
	if rows > 0 && high > 2*rows {
		high = 2 * rows
	}
	small := image.NewRGBA(image.Rect(0, 0, wide, high))
	src := b
	if rows > 0 { // what does not fit is cut off below
		src.Max.Y = min(src.Max.Y, src.Min.Y+high*b.Dx()/wide)
	}
	draw.BiLinear.Scale(small, small.Rect, img, src, draw.Src, nil)
	var out []string
	for y := 0; y < high; y += 2 {
		var line strings.Builder
		last := ""
		for x := range wide {
			top := small.RGBAAt(x, y)
			code := fmt.Sprintf("\x1b[38;2;%d;%d;%d", top.R, top.G, top.B)
			if y+1 < high {
				low := small.RGBAAt(x, y+1)
				code += fmt.Sprintf(";48;2;%d;%d;%d", low.R, low.G, low.B)
			}
			if code += "m"; code != last {
				line.WriteString(code)
				last = code
			}
			line.WriteString("▀")
		}
		line.WriteString("\x1b[0m")
		out = append(out, line.String())
	}
	return out
}
