.PHONY: build demo test short e2e fuzz bench golden shots lint

build: ; CGO_ENABLED=0 go build -trimpath -o build/ziegel ./cmd/ziegel
demo: build ; rm -rf build/larkspan && build/ziegel demo build/larkspan
test: ; bash scripts/test.sh
short: ; go test -short ./... # the quick ones
e2e: ; go test -count=1 -v ./e2e
fuzz: ; bash scripts/fuzz.sh 30s
bench: ; go test -run xxx -bench . ./...
golden: ; go test ./core/compose -update
shots: build ; bash scripts/shots.sh
lint: ; gofmt -l . && go vet ./... && go tool staticcheck ./...
