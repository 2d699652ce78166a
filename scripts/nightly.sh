#!/usr/bin/env bash
# For a night, not for CI: every case of the large laws, every fuzzer for ten minutes (or $1, such as 30s), a thousand kills of writing commands, two hundred of builds, two
# hundred rounds of edits by commands and by hand. Prints one page of figures; docs/RELIABILITY.md has the last one.
set -uo pipefail
cd "$(dirname "$0")/.."
time="${1:-10m}"
failed=0
ZIEGEL_THOROUGH=1 go test -count=1 -timeout 3h ./... || failed=1 # every case of laws of which CI takes a share
bash scripts/fuzz.sh "$time" || failed=1
for target in darwin/arm64 linux/arm64; do # of the systems that CI only reads the types for, each to its end
  GOOS=${target%/*} GOARCH=${target#*/} CGO_ENABLED=0 go build -trimpath -o /dev/null ./cmd/ziegel || failed=1
done
go run ./e2e/cmd/endure "${@:2}" || failed=1
exit $failed
