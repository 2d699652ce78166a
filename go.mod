module ziegel

go 1.26.8

require (
	github.com/andybalholm/brotli v1.2.0
	github.com/go-text/typesetting v0.3.3
	github.com/tdewolff/parse/v2 v2.8.20
	golang.org/x/net v0.62.0
)

require golang.org/x/image v0.47.0 // indirect
