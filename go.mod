module ziegel

go 1.26.8

require (
	github.com/andybalholm/brotli v1.2.0 // unpacks WOFF2
	github.com/charmbracelet/lipgloss v1.1.0 // terminal styling
	github.com/charmbracelet/x/ansi v0.11.9 // breaking styled lines
	github.com/charmbracelet/x/term v0.2.2 // width of the terminal
	github.com/fsnotify/fsnotify v1.10.1 // preview follows saves
	github.com/go-text/typesetting v0.3.3 // shaping; pinned: later ones lose kerning pairs
	github.com/mattn/go-isatty v0.0.24 // is this stream a terminal
	github.com/muesli/termenv v0.16.0 // color profiles
	github.com/rogpeppe/go-internal v1.16.0 // file locks; scripts that drive the program (tests)
	github.com/spf13/cobra v1.10.2 // the command line
	github.com/stretchr/testify v1.12.1 // tests
	github.com/tdewolff/parse/v2 v2.8.20 // CSS tokens
	github.com/yuin/goldmark v1.8.7 // inline Markdown in content
	go.yaml.in/yaml/v3 v3.0.6 // reading YAML; edits are made on the text
	golang.org/x/image v0.36.0 // WebP; smaller copies of pictures
	golang.org/x/net v0.49.0 // HTML parsing
)

require (
	github.com/lucasb-eyer/go-colorful v1.4.1 // OKLCH
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3 // reports hold their schema (tests)
	github.com/schollz/progressbar/v3 v3.19.1 // progress on a terminal
	github.com/spf13/pflag v1.0.9 // flags by name, for suggestions
)

require (
	github.com/srwiley/oksvg v0.0.0-20221011165216-be6e8873101c // paints drawings, to see what colors lie under text
	github.com/srwiley/rasterx v0.0.0-20220730225603-2ab79fcdd4ef // the same
)

require github.com/goccy/go-yaml v1.19.2 // a second reader of what edits write (tests)

require (
	charm.land/bubbletea/v2 v2.1.1 // the chooser: keys and screen of a terminal; the first version asks every terminal for its colors at each start
	golang.org/x/text v0.34.0 // encodings of tables; names of languages, numbers, currencies
)

require (
	github.com/aymanbagabas/go-udiff v0.4.1 // what a dry run would change
	golang.org/x/tools v0.41.0 // reads the types of the program, to see which files call which (tests)
)

require (
	github.com/chromedp/cdproto v0.0.0-20250724212937-08a3db8b4327 // the browser as judge (tests)
	github.com/chromedp/chromedp v0.14.2 // the same
)

require github.com/bep/imagemeta v1.0.0 // which way up a camera was held

require (
	codeberg.org/go-pdf/fpdf v0.11.1
	github.com/gen2brain/webp v0.5.5 // WebP of stand-ins for photographs (scripts)
	github.com/klauspost/compress v1.18.0
	github.com/pkg/sftp v1.13.9
	github.com/studio-b12/gowebdav v0.13.0
	golang.org/x/crypto v0.47.0
)

require (
	github.com/BurntSushi/toml v1.4.1-0.20240526193622-a339e1f7089c // indirect
	github.com/aymanbagabas/go-osc52/v2 v2.0.1 // indirect
	github.com/bits-and-blooms/bitset v1.24.6 // indirect
	github.com/charmbracelet/colorprofile v0.4.3 // indirect
	github.com/charmbracelet/ultraviolet v0.0.0-20261008173134-6b8d4baf91b4 // indirect
	github.com/charmbracelet/x/cellbuf v0.0.15 // indirect
	github.com/charmbracelet/x/termios v0.1.1 // indirect
	github.com/charmbracelet/x/windows v0.2.2 // indirect
	github.com/chromedp/sysutil v1.1.0 // indirect
	github.com/clipperhouse/displaywidth v0.11.0 // indirect
	github.com/clipperhouse/uax29/v2 v2.7.0 // indirect
	github.com/ebitengine/purego v0.8.3 // indirect
	github.com/go-json-experiment/json v0.0.0-20250725192818-e39067aee2d2 // indirect
	github.com/gobwas/httphead v0.1.0 // indirect
	github.com/gobwas/pool v0.2.1 // indirect
	github.com/gobwas/ws v1.4.0 // indirect
	github.com/inconshreveable/mousetrap v1.1.0 // indirect
	github.com/kr/fs v0.1.0 // indirect
	github.com/mattn/go-runewidth v0.0.30 // indirect
	github.com/mitchellh/colorstring v0.0.0-20190213212951-d06e56a500db // indirect
	github.com/muesli/cancelreader v0.2.2 // indirect
	github.com/rivo/uniseg v0.4.7 // indirect
	github.com/tetratelabs/wazero v1.9.0 // indirect
	github.com/xo/terminfo v1.0.0 // indirect
	golang.org/x/exp/typeparams v0.0.0-20231108232855-2478ac86f678 // indirect
	golang.org/x/mod v0.33.0 // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/sys v0.49.0 // indirect
	golang.org/x/term v0.47.0 // indirect
	honnef.co/go/tools v0.7.0 // indirect
)

tool honnef.co/go/tools/cmd/staticcheck
