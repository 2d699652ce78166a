#!/usr/bin/env bash
# For a night, not for CI: every fuzzer for ten minutes (or $1, such as 30s), a thousand kills of writing commands, two hundred of builds, two
# hundred rounds of edits by commands and by hand. Prints one page of figures; docs/RELIABILITY.md has the last one.
set -uo pipefail
cd "$(dirname "$0")/.."
time="${1:-10m}"
failed=0
for package in $(go list ./core/... ./ui/...); do
  for fuzzer in $(go test "$package" -list '^Fuzz' 2>/dev/null | grep '^Fuzz'); do
    out=$(go test "$package" -run xxx -fuzz "^$fuzzer\$" -fuzztime "$time" 2>&1)
    code=$?
    runs=$(grep -o 'execs: [0-9]*' <<<"$out" | tail -1 | cut -d' ' -f2)
    printf '%-28s %-20s %10s runs  %s\n' "${package#ziegel/}" "$fuzzer" "${runs:-0}" "$([ $code = 0 ] && echo fine || echo FAILED)"
    if [ $code != 0 ] || [ "${runs:-0}" -lt 1000 ]; then
      failed=1
      [ $code = 0 ] || echo "$out" | tail -20
    fi
  done
done
go run ./e2e/cmd/endure "${@:2}" || failed=1
exit $failed
