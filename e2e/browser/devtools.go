package browser

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
)

// readAll returns the rectangles of all elements: what both timings read at every width.
const readAll = `[...document.querySelectorAll("body *")].map(e => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height]; })`

// Timing is how long the browser took for one width of a page, in two ways.
type Timing struct {
	Session time.Duration // a width set and all rectangles read through one DevTools session
	InPage  time.Duration // the same inside one page, in a frame: the bare layout engine
}

// awaited lets a script's promise end first.
func awaited(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }

// Race times page (a path below root) at widths.
func Race(ctx context.Context, root, page string, widths []int) (Timing, error) {
	var t Timing
	srv := httptest.NewServer(http.FileServer(http.Dir(root)))
	defer srv.Close()
	tab, done, err := open(ctx, false)
	if err != nil {
		return t, err
	}
	defer done()
	ready := `document.fonts.ready.then(() => new Promise(done => setTimeout(() => done(true), 300)))`
	if err := chromedp.Run(tab, chromedp.Navigate(srv.URL+"/"+page),
		chromedp.Evaluate(ready, nil, awaited)); err != nil {
		return t, fmt.Errorf("open %s: %w", page, err)
	}
	start := time.Now()
	for _, w := range widths {
		var boxes [][4]float64
		if err := chromedp.Run(tab, emulation.SetDeviceMetricsOverride(int64(w), 900, 1, false),
			chromedp.Evaluate(readAll, &boxes)); err != nil {
			return t, err
		}
	}
	t.Session = time.Since(start) / time.Duration(len(widths))
	list, err := json.Marshal(widths)
	if err != nil {
		return t, err
	}
	var ms float64
	err = chromedp.Run(tab, chromedp.Evaluate(`(async () => {
  const frame = document.createElement("iframe");
  frame.style.cssText = "border:0;position:absolute;left:0;top:0";
  frame.width = 1000; frame.height = 900;
  document.body.replaceChildren(frame);
  await new Promise(done => { frame.onload = done; frame.src = location.href; });
  const document2 = frame.contentDocument;
  await document2.fonts.ready;
  await new Promise(done => setTimeout(done, 300));
  const read = new Function("document", "return `+strings.ReplaceAll(readAll, `"`, `\"`)+`");
  const start = performance.now();
  let n = 0;
  for (const w of `+string(list)+`) { frame.width = w; n += read(document2).length; }
  return (performance.now() - start) / `+fmt.Sprint(len(widths))+`;
})()`, &ms, awaited))
	if err != nil {
		return t, fmt.Errorf("time %s in the page: %w", page, err)
	}
	t.InPage = time.Duration(ms * float64(time.Millisecond))
	return t, nil
}
