// Command photographs draws the pictures of stock/pictures that stand for photographs: scenes with a light, depth and
// grain, as JPEG and some as WebP, the same to the byte each time. go run -tags nodynamic ./scripts/photographs
// (nodynamic: with the encoder that comes along, never that of the machine)
package main

import (
	"flag"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"

	"github.com/gen2brain/webp"
)

// print is one picture: its file (a JPEG unless its name says otherwise), its size in px, and what is drawn.
type print struct {
	name string
	w, h int
	draw func(p *picture) light
}

var prints = []print{
	{"beach-dawn", 900, 600, sea("dawn", .5, .28, .4, .74)},
	{"beach-noon", 900, 600, sea("noon", .6, -.4, .1, .7)},
	{"beach-grey", 900, 600, sea("grey", .9, 0, .1, .72)},
	{"open-sea", 960, 540, sea("dusk", .7, .1, .44, 2)},
	{"moon-sea", 600, 750, sea("night", .4, .12, .18, 2)},
	{"marram", 900, 600, marram("dawn")},
	{"marram-dusk", 600, 750, marram("dusk")},
	{"kite-red", 600, 750, kite("noon", 0xc23a1e, .4)},
	{"kite-yellow", 900, 600, kite("dawn", 0xe0a92e, .34)},
	{"kite-blue", 720, 720, kite("grey", 0x2c6f95, .38)},
	{"hills-morning", 960, 540, hills("dawn", .4, 0x4c5a3c, .34, bare)},
	{"hills-dusk", 900, 600, hills("dusk", .7, 0x2c2b3a, .4, bare)},
	{"woods", 600, 750, hills("grey", .5, 0x2f3d30, .2, trees)},
	{"winter", 900, 600, hills("grey", .8, 0x8f9aa4, .3, snow)},
	{"valley", 900, 600, hills("noon", .7, 0x55703a, .24, trees)},
	{"harbour", 900, 600, boats("dawn")},
	{"harbour-grey", 720, 720, boats("grey")},
	{"lighthouse", 600, 750, lighthouse},
	{"bridge", 960, 540, bridge},
	{"town-dusk", 900, 600, city("dusk", .35)},
	{"town-night", 600, 750, city("night", .5)},
	{"street-lights", 900, 600, bokeh(0x40506a, []uint32{0xffb55a, 0xff8f4a, 0xffe2a8, 0xe04a3a}, 46, nil)},
	{"party-lights", 900, 600, bokeh(0x503a5a, []uint32{0xffc46a, 0xff6a8a, 0x8ac4ff, 0xb48aff}, 40, crowd)},
	{"stage-violet", 900, 600, stage([]uint32{0x7a3aff, 0xff3a8a, 0x3a8aff, 0xff6ad0, 0x7a3aff})},
	{"stage-amber", 600, 750, stage([]uint32{0xffa03a, 0xff5a2a, 0xffd27a, 0xff7a3a})},
	{"tents", 960, 540, tents},
	{"room-white", 900, 600, room(0xe9e2d4, 0xb08a5e, "dawn", bed)},
	{"room-blue", 600, 750, room(0x9fb4bd, 0x8a6a48, "noon", bed)},
	{"desk", 900, 600, room(0xdfe3e4, 0x8f8a84, "noon", desk)},
	{"desk-evening", 900, 600, room(0x8f7f74, 0x5f4a3a, "dusk", desk)},
	{"flowers", 600, 750, room(0xd8cdb8, 0x9a7450, "dawn", table)},
	{"flowers-green", 720, 720, room(0x8fa08a, 0x6f5a44, "noon", table)},
	{"plate-greens", 720, 720, plate(0x7b5a3c, []uint32{0x5f8a2f, 0x86a83a, 0xc7412f, 0xe9d9a0, 0x3f6a2a}, 3)},
	{"plate-roots", 720, 720, plate(0x4a4038, []uint32{0xd97a2a, 0xb3492f, 0xe9c46a, 0x6a2f4a, 0x7f8a3a}, 8)},
	{"plate-berries", 900, 600, plate(0x9a8468, []uint32{0x8a1f3a, 0x3a2a5a, 0xc23a4a, 0xf0e2d0, 0x5f7a3a}, 14)},
	{"coffee", 900, 600, cup},
	{"linen", 720, 720, texture("linen", 0xd6c9ae, 0x9a8a6a)},
	{"sailcloth", 900, 600, texture("sail", 0xc23a1e, 0x7a1f10)},
	{"stone-wall", 900, 600, texture("stone", 0x8f8a80, 0xb8a88c)},
	{"concrete", 900, 600, texture("concrete", 0xb4b4b0, 0x8f8f8c)},
	{"steel", 900, 600, texture("steel", 0x9aa6b0, 0x6a747c)},
	{"drawing", 900, 600, texture("paper", 0xeef0ee, 0x2f5d8a)},
	{"portrait-noor", 600, 750, portrait(0x6f8a8a, 0x1f1712, 0x9a6444, 0x35506a, .34)},
	{"portrait-jonas", 600, 750, portrait(0xa08a6a, 0x7a4f2a, 0xd9a988, 0x4a5a3a, 0)},
	{"portrait-hedda", 600, 750, portrait(0x8a8f96, 0xc9a56a, 0xe2b89a, 0x8a3a2f, .22)},
	{"portrait-samir", 600, 750, portrait(0x5f6f5a, 0x14110f, 0x7a4a32, 0xd6c9ae, 0)},
	{"portrait-elif", 600, 750, portrait(0x9a7a6f, 0x3a2418, 0xc98f6a, 0x2f4a44, .3)},
	{"portrait-aage", 600, 750, portrait(0x6a7a8f, 0xb8b4ac, 0xd6a58a, 0x2c2f38, 0)},
	{"beach-dusk.webp", 900, 600, sea("dusk", .7, .2, .3, .72)},
	{"harbour-dusk.webp", 960, 540, boats("dusk")},
	{"hills-fog.webp", 600, 750, hills("grey", .9, 0x5a6a70, .3, bare)},
	{"marram-noon.webp", 720, 720, marram("noon")},
}

func main() {
	to := flag.String("to", "stock/pictures", "the folder to write to")
	only := flag.String("only", "", "the one picture to draw")
	flag.Parse()
	var wait sync.WaitGroup
	for i, x := range prints {
		if *only != "" && *only != strings.TrimSuffix(x.name, ".webp") {
			continue
		}
		wait.Add(1)
		go func() {
			defer wait.Done()
			p := newPicture(x.w*8/5, x.h*8/5, int64(1000+i*77))
			l := x.draw(p)
			file := x.name
			if filepath.Ext(file) == "" {
				file += ".jpg"
			}
			if err := write(filepath.Join(*to, file), p, l); err != nil {
				fmt.Fprintln(os.Stderr, err)
				os.Exit(1)
			}
		}()
	}
	wait.Wait()
}

func write(file string, p *picture, l light) error {
	out, err := os.Create(file)
	if err != nil {
		return err
	}
	encode := func(w io.Writer, m image.Image) error { return jpeg.Encode(w, m, &jpeg.Options{Quality: 56}) }
	if filepath.Ext(file) == ".webp" {
		encode = func(w io.Writer, m image.Image) error {
			return webp.Encode(w, m, webp.Options{Quality: 56,
				Method: 6})
		}
	}
	if err := encode(out, p.develop(l.exposure, l.warmth, .009)); err != nil {
		return err
	}
	return out.Close()
}
