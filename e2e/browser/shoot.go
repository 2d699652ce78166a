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

// Shoot takes pictures of whole pages, at a viewport height of 900 px, and hands each to seen, in their order.
func Shoot(ctx context.Context, root string, views []View, seen func(i int, img *image.RGBA) error) error {
	srv := httptest.NewServer(http.FileServer(http.Dir(root)))
	defer srv.Close()
	tab, end, err := open(ctx, false)
	if err != nil {
		return err
	}
	defer end()
	for i, v := range views {
		scheme := "light"
		if v.Dark {
			scheme = "dark"
		}
		var data []byte
		var height float64
		err := chromedp.Run(tab,
			emulation.SetDeviceMetricsOverride(int64(v.Width), 900, v.Scale, false),
			emulation.SetEmulatedMedia().WithFeatures([]*emulation.MediaFeature{
				{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}}),
			chromedp.Navigate(srv.URL+"/"+v.Page),
			chromedp.Evaluate(`(async () => { await document.fonts.ready;
				for (const i of document.images) { i.loading = 'eager'; try { await i.decode() } catch (e) {} }
				return Math.max(document.documentElement.scrollHeight, 900) })()`, &height, awaited),
			chromedp.ActionFunc(func(ctx context.Context) (err error) {
				data, err = page.CaptureScreenshot().WithCaptureBeyondViewport(true).WithClip(&page.Viewport{
					Width: float64(v.Width), Height: height, Scale: 1}).Do(ctx)
				return err
			}))
		if err != nil {
			return fmt.Errorf("take a picture of %s: %w", v.Page, err)
		}
		decoded, err := png.Decode(bytes.NewReader(data))
		if err != nil {
			return err
		}
		img := image.NewRGBA(image.Rect(0, 0, decoded.Bounds().Dx(), decoded.Bounds().Dy()))
		draw.Draw(img, img.Rect, decoded, decoded.Bounds().Min, draw.Src)
		if err := seen(i, img); err != nil {
			return err
		}
	}
	return nil
}
