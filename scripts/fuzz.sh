#!/usr/bin/env bash
# Runs every fuzzer and says how often: $1 is a time such as 10m or a number of runs such as 1000x. Fails when one finds something, and
# when one did not run a thousand times: a fuzzer that hardly runs proves nothing. As many packages run at once as there are processors.
set -uo pipefail
cd "$(dirname "$0")/.."

package() { # package DIR TIME: builds its test program once and runs each of its fuzzers
  local dir=$1 time=$2 failed=0 work fuzzer out code runs
  work=$(mktemp -d)
  if ! go test -c -fuzz . -o "$work/fuzz.test" "./$dir"; then
    return 1
  fi
  for fuzzer in $(grep -ohE '^func Fuzz[A-Za-z0-9_]+' "$dir"/*_test.go | cut -c6-); do
    out=$(cd "$dir" && GOMAXPROCS=1 "$work/fuzz.test" -test.run xxx -test.fuzz "^$fuzzer\$" -test.fuzztime "$time" -test.fuzzminimizetime 1s \
      -test.fuzzcachedir "$work/cache" 2>&1)
    code=$?
    runs=$(grep -o 'execs: [0-9]*' <<<"$out" | tail -1 | cut -d' ' -f2)
    printf 'fuzz %-24s %-18s %10s runs  %s\n' "$dir" "$fuzzer" "${runs:-0}" "$([ $code = 0 ] && echo fine || echo FAILED)"
    if [ $code != 0 ] || [ "${runs:-0}" -lt 1000 ]; then
      failed=1
      echo "$out" | tail -20
    fi
  done
  rm -rf "$work"
  return $failed
}
export -f package

grep -rlE '^func Fuzz' --include='*_test.go' core ui | xargs -n1 dirname | sort -u |
  xargs -P "$(getconf _NPROCESSORS_ONLN)" -I{} bash -c 'package "$1" "$2"' _ {} "${1:-1000x}"
