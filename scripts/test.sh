#!/usr/bin/env bash
# Runs everything that must hold: format, vet, staticcheck, a cross build, all tests, and the comparison with Chromium.
# Fuzzers run on what they were given and on what they found; scripts/nightly.sh lets them look for more. Installs
# Debian's Chromium when there is none.
set -euo pipefail
cd "$(dirname "$0")/.."
export CGO_ENABLED=0
export GOFLAGS="${GOFLAGS:-} -ldflags=-w" # no tables for debuggers: 60 programs are linked

install() { # install WHAT PACKAGE...: from Debian's packages
  echo "$1 missing: installing Debian's package ${*:2}"
  local sudo=""
  [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq
  $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${@:2}" >/dev/null
}
if [ -z "${ZIEGEL_CHROMIUM:-}" ] && ! command -v chromium >/dev/null && ! command -v google-chrome >/dev/null; then
  install "Chromium (the judge of our layout) is" chromium
fi
if [ ! -x /usr/sbin/sshd ] && ! command -v sshd >/dev/null; then
  install "The server that sites are published to is" openssh-server openssh-client
fi
if [ ! -x /usr/sbin/apache2 ]; then
  install "The server that sites are published to by WebDAV is" apache2-bin
fi
if [ ! -x /usr/sbin/nginx ] && ! command -v nginx >/dev/null; then
  install "The server that reads the other form of what hosts are told is" nginx-light
fi
if [ ! -d /usr/share/fonts/truetype/liberation ]; then
  install "The faces behind its generic names are" fonts-liberation
fi

echo "gofmt"
unformatted=$(gofmt -l $(git ls-files '*.go'))
if [ -n "$unformatted" ]; then
  echo "not formatted (gofmt -w fixes it):"
  echo "$unformatted"
  exit 1
fi
echo "go vet"
go vet ./...
echo "staticcheck"
go tool staticcheck ./...
echo "go mod verify"
go mod verify >/dev/null
echo "build windows/amd64" # a test reads the types for the other systems
GOOS=windows GOARCH=amd64 go build -trimpath -o /dev/null ./cmd/ziegel
echo "tests, after $SECONDS s"
go test -count=1 -vet=off $(go list ./... | grep -v -e /e2e$ -e /e2e/proof$)
echo "end to end, after $SECONDS s"
# The end-to-end run says how many boxes it compared with Chromium, and fails when it compared none; the proof says what it swept.
go test -count=1 -vet=off -timeout 40m -v -parallel 3 ./e2e ./e2e/proof 2>&1 | grep -E '^(recorded|the demo|every section|random|pictures|drift|[0-9]+ computed|--- |FAIL|ok|PASS|panic)|^ +--- FAIL|_test.go:' 
echo "all of it took $SECONDS s"
