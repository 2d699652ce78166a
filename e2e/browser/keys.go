package browser

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
)

// Keys opens a file on a screen of some width, sends keys to it one text after the other, and gives what an expression
// says then. A tab is "\t", Enter "\r".
func Keys(ctx context.Context, file string, width int, keys []string, ask string) (string, error) {
	page, done, err := open(ctx, true)
	if err != nil {
		return "", err
	}
	defer done()
	if !strings.Contains(file, "://") {
		file = "file://" + file
	}
	var said string
	actions := []chromedp.Action{emulation.SetDeviceMetricsOverride(int64(width), 900, 1, false),
		chromedp.Navigate(file), chromedp.Sleep(500 * time.Millisecond)}
	for _, k := range keys {
		actions = append(actions, chromedp.KeyEvent(k))
	}
	actions = append(actions, chromedp.Sleep(100*time.Millisecond), chromedp.Evaluate(ask, &said))
	if err := chromedp.Run(page, actions...); err != nil {
		return "", fmt.Errorf("type into %s: %w", file, err)
	}
	return said, nil
}

// Printed opens a file as it is on paper of some width between the margins, CSS px, and gives what an expression says.
func Printed(ctx context.Context, file string, width int, ask string) (string, error) {
	page, done, err := open(ctx, false)
	if err != nil {
		return "", err
	}
	defer done()
	var said string
	if err := chromedp.Run(page, emulation.SetDeviceMetricsOverride(int64(width), 900, 1, false),
		emulation.SetEmulatedMedia().WithMedia("print"), chromedp.Navigate("file://"+file),
		chromedp.Sleep(500*time.Millisecond), chromedp.Evaluate(ask, &said)); err != nil {
		return "", fmt.Errorf("print %s: %w", file, err)
	}
	return said, nil
}
