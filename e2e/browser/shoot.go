package browser

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"net/http"
	"net/http/httptest"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// View is a page to take a picture of.
type View struct {
	Page  string // path below the root
	Width int    // CSS px
	Scale float64
	Dark  bool
}

// Shoot takes pictures of whole pages, at a viewport height of 900 px, and hands each to seen: those of one scale after
// those of the other, each in their order.
func Shoot(ctx context.Context, root string, views []View, seen func(i int, img *image.RGBA) error) error {
	srv := httptest.NewServer(http.FileServer(http.Dir(root)))
	defer srv.Close()
	done := map[float64]bool{}
	for _, first := range views {
		if done[first.Scale] {
			continue
		}
		done[first.Scale] = true
		err := func() error {
			tab, end, err := openScaled(ctx, false, first.Scale)
			if err != nil {
				return err
			}
			defer end()
			for i, v := range views {
				if v.Scale != first.Scale {
					continue
				}
				img, err := shoot(tab, srv.URL+"/"+v.Page, v)
				if err != nil {
					return fmt.Errorf("take a picture of %s: %w", v.Page, err)
				}
				if err := seen(i, img); err != nil {
					return err
				}
			}
			return nil
		}()
		if err != nil {
			return err
		}
	}
	return nil
}

func shoot(tab context.Context, address string, v View) (*image.RGBA, error) {
	scheme := "light"
	if v.Dark {
		scheme = "dark"
	}
	var data []byte
	var height float64
	err := chromedp.Run(tab,
		emulation.SetDeviceMetricsOverride(int64(v.Width), 900, 0, false),
		emulation.SetEmulatedMedia().WithFeatures([]*emulation.MediaFeature{
			{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}}),
		chromedp.Navigate(address),
		chromedp.Evaluate(`(async () => { await document.fonts.ready;
			for (const i of document.images) { i.loading = 'eager'; try { await i.decode() } catch (e) {} }
			return Math.max(document.documentElement.scrollHeight, 900) })()`, &height, awaited),
		chromedp.ActionFunc(func(ctx context.Context) (err error) {
			data, err = page.CaptureScreenshot().WithCaptureBeyondViewport(true).WithClip(&page.Viewport{
				Width: float64(v.Width), Height: height, Scale: 1}).Do(ctx)
			return err
		}))
	if err != nil {
		return nil, err
	}
	decoded, err := png.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	img := image.NewRGBA(image.Rect(0, 0, decoded.Bounds().Dx(), decoded.Bounds().Dy()))
	draw.Draw(img, img.Rect, decoded, decoded.Bounds().Min, draw.Src)
	return img, nil
}
