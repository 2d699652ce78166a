// Package styles writes stylesheets: from what a site, a page and a block say of sections and parts (target.go says
// whom a key means), from options, distances, grounds and thresholds. sheet.go writes what all pages share, page.go
// what is a page's own. Each declaration knows where it was written. The rules of a page that follow its layout need
// what a layout measured; it comes in as Measured.
package styles
