#!/usr/bin/env bash
# Runs every fuzzer and says how often: $1 is a time such as 10m or a number of runs such as 1000x (what CI does). Fails when one finds something, and
# when one did not run a thousand times: a fuzzer that hardly runs proves nothing.
set -uo pipefail
cd "$(dirname "$0")/.."
time="${1:-1000x}"
failed=0
for dir in $(grep -rlE '^func Fuzz' --include='*_test.go' core ui | xargs -n1 dirname | sort -u); do
  package="./$dir"
  for fuzzer in $(grep -ohE '^func Fuzz[A-Za-z0-9_]+' "$dir"/*_test.go | cut -c6-); do
    out=$(go test "$package" -run xxx -fuzz "^$fuzzer\$" -fuzztime "$time" -fuzzminimizetime 1s 2>&1)
    code=$?
    runs=$(grep -o 'execs: [0-9]*' <<<"$out" | tail -1 | cut -d' ' -f2)
    printf 'fuzz %-24s %-18s %10s runs  %s\n' "$dir" "$fuzzer" "${runs:-0}" "$([ $code = 0 ] && echo fine || echo FAILED)"
    if [ $code != 0 ] || [ "${runs:-0}" -lt 1000 ]; then
      failed=1
      [ $code = 0 ] || echo "$out" | tail -20
    fi
  done
done
exit $failed
