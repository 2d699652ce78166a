// Package project opens a site with all that its pages are made from: the library of sections, the theme with its
// fonts, the shared looks, the words of built pages. An open project is not changed any more; what differs from it is
// another project (variation.go). What several pages need is worked out once and remembered (memo.go). It reads files
// and makes none; it is safe for concurrent use.
package project
