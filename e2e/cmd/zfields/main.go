package main

import (
	"context"
	"fmt"
	"os"
	"strings"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/css"
	"github.com/chromedp/chromedp"
)

func main() {
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.NoSandbox, chromedp.ExecPath("/usr/bin/chromium"), chromedp.Flag("allow-file-access-from-files", true))
	ctx, cancel := chromedp.NewExecAllocator(context.Background(), opts...)
	defer cancel()
	ctx, cancel = chromedp.NewContext(ctx)
	defer cancel()
	want := map[string]bool{}
	for _, p := range strings.Split(os.Args[2], ",") {
		want[p] = true
	}
	err := chromedp.Run(ctx, chromedp.Navigate("file://"+os.Args[1]), chromedp.Sleep(700e6), dom.Enable(), css.Enable(), chromedp.ActionFunc(func(ctx context.Context) error {
		root, err := dom.GetDocument().WithDepth(-1).WithPierce(true).Do(ctx)
		if err != nil {
			return err
		}
		var walk func(n *cdp.Node, d int, in bool)
		walk = func(n *cdp.Node, d int, in bool) {
			name := n.LocalName + " " + strings.Join(n.Attributes, " ")
			if n.LocalName == "input" || n.LocalName == "textarea" || n.LocalName == "select" || in {
				in = true
				if m, err := dom.GetBoxModel().WithNodeID(n.NodeID).Do(ctx); err == nil {
					b, c := m.Border, m.Content
					fmt.Printf("%s%s  x %.4f y %.4f w %.4f h %.4f | content x %.4f w %.4f y %.4f h %.4f | %s\n", strings.Repeat("  ", d), strings.TrimSpace(name), b[0], b[1], b[2]-b[0], b[5]-b[1], c[0]-b[0], c[2]-c[0], c[1]-b[1], c[5]-c[1], n.NodeValue)
					if len(os.Args) > 3 {
						st, err := css.GetComputedStyleForNode(n.NodeID).Do(ctx)
						if err == nil {
							for _, p := range st {
								if want[p.Name] {
									fmt.Printf("%s    %s: %s\n", strings.Repeat("  ", d), p.Name, p.Value)
								}
							}
						}
					}
				}
			}
			for _, s := range n.ShadowRoots {
				walk(s, d+1, in)
			}
			for _, k := range n.Children {
				walk(k, d+1, in)
			}
		}
		walk(root, 0, false)
		return nil
	}))
	if err != nil {
		fmt.Println(err)
	}
}
