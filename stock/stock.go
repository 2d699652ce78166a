// Package stock holds what ships inside the program: sections, themes, fonts, icons, pictures and the demo site.
// Everything is files; the lists are made by walking them.
package stock

import "embed"

// Files is the tree of shipped files.
//
//go:embed base.css motion.css facts.json fallbacks.json options.yaml looks.yaml words.yaml sections templates themes trades treatments strange fonts icons licenses pictures demo demo-ar demo-words
var Files embed.FS
