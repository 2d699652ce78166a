#!/usr/bin/env bash
# Makes docs/screenshots from the demo site: pages by the program itself, the preview by Chromium, the terminal by xterm under Xvfb.
# Needs chromium, xvfb, xterm, xdotool, imagemagick (Debian packages of the same names).
set -euo pipefail
cd "$(dirname "$0")/.."
out=$PWD/docs/screenshots
work=$(mktemp -d)
trap 'kill ${preview:-} ${screen:-} 2>/dev/null || true; rm -rf "$work"' EXIT
CGO_ENABLED=0 go build -trimpath -o "$work/ziegel" ./cmd/ziegel
export PATH="$work:$PATH"
cd "$work"
ziegel demo >/dev/null
cd larkspan

shoot() { # shoot URL WIDTH HEIGHT FILE [FLAGS...]
  local url=$1 w=$2 h=$3 file=$4
  shift 4
  if [ "$w" -lt 500 ]; then # windows have a least width; a frame has none
    printf '<body style="margin:0"><iframe src="%s" style="border:0;width:%spx;height:%spx">' "$url" "$w" "$h" >"$work/frame.html"
    url=file://$work/frame.html
  fi
  timeout 30 chromium --headless --no-sandbox --disable-gpu --hide-scrollbars --no-first-run --disable-background-networking --disable-component-update --disable-sync \
    --virtual-time-budget=3000 --user-data-dir="$work/profile" --window-size="$w,$h" --screenshot="$out/$file" "$@" "$url" >/dev/null 2>&1 || true
}
ziegel draw home --at 1280 --scale .7 --to "$out/page-1280.png" >/dev/null
ziegel draw home --at 390,768,1280 --scale .5 --to "$out/draw.png" >/dev/null
ziegel draw --sheet sections --scale .6 --to "$out/catalogue.png" >/dev/null
convert "$out/catalogue.png" -crop 900x2400+0+0 +repage -colors 128 "$out/catalogue.png" # its beginning: the whole is two megabytes
ziegel draw home --dry-run --scale .7 --to "$out/changes.png" -- style home/plans.card padding=3rem background='{color.accent}' color='{color.accent-ink}' >/dev/null
cp -r . "$work/design" && ziegel style home/plans.card padding=3rem --site "$work/design" >/dev/null && ziegel style home/opening.heading font-size=72px 'color=#1f6b4f' --site "$work/design" >/dev/null
ziegel draw home --site "$work/design" --to design.png >/dev/null
ziegel compare home design.png --to compare.html >/dev/null 2>&1 || true
shoot "file://$PWD/compare.html" 1280 800 compare.png
rm -f design.png compare.html
cat >"$work/ines.json" <<'END'
{"type":"AnnotationPage","items":[
 {"id":"urn:uuid:1","type":"Annotation","motivation":"commenting","creator":{"type":"Person","name":"Ines Halloran"},"created":"2026-03-01T10:00:00Z","body":{"type":"TextualBody","value":"Could the weekend come first?"},"target":{"source":"home","selector":[{"type":"FragmentSelector","value":"plans.card[2]"}]}},
 {"id":"urn:uuid:2","type":"Annotation","motivation":"commenting","creator":{"type":"Person","name":"Ines Halloran"},"created":"2026-03-01T10:05:00Z","body":{"type":"TextualBody","value":"I love this picture."},"target":{"source":"home","selector":[{"type":"FragmentSelector","value":"opening"}]}}
]}
END
cp -r . "$work/shared" && ziegel share --take "$work/ines.json" --site "$work/shared" >/dev/null && ziegel todo --done 2 --answer "So do we" --site "$work/shared" >/dev/null
ziegel share home --to "$work/review.html" --site "$work/shared" >/dev/null
shoot "file://$work/review.html" 1280 800 share.png
ziegel new "$work/studio" --template studio >/dev/null
ziegel handover --to "$work/handover" >/dev/null
shoot "file://$work/handover/index.html" 1280 1400 handover.png
ziegel preview --port 0 >"$work/url" 2>/dev/null &
preview=$!
sleep 1

Xvfb :97 -screen 0 1280x2600x24 >/dev/null 2>&1 &
screen=$!
for _ in $(seq 100); do # until the screen is there
  DISPLAY=:97 xdotool getdisplaygeometry >/dev/null 2>&1 && break
  sleep .1
done
# The preview never stops asking for news: it is taken from a window.
window() { # window URL HEIGHT FILE
  DISPLAY=:97 chromium --no-sandbox --test-type --disable-gpu --no-first-run --disable-background-networking --disable-component-update --disable-sync \
    --user-data-dir="$work/window" --app="$1" --window-position=0,0 --window-size="1280,$2" >/dev/null 2>&1 &
  local window=$!
  sleep 10
  DISPLAY=:97 import -window root -crop "1280x$2+0+0" +repage "$out/$3"
  kill $window 2>/dev/null || true
  wait $window 2>/dev/null || true
}
window "$(cat "$work/url")" 800 preview.png
terminal() { # terminal FILE COMMAND: what the command shows in a window of 128 columns
  DISPLAY=:97 xterm -geometry 128x46+0+0 -fa 'DejaVu Sans Mono' -fs 10 -bg '#10262b' -fg '#e8efec' -xrm 'xterm*cursorColor: #10262b' \
    -e bash -c "stty -echo; printf '\$ $2\n'; $2; touch '$work/done'; sleep 30" &
  local window=$!
  for _ in $(seq 300); do # until the command has said all it has to say
    [ -e "$work/done" ] && break
    sleep .1
  done
  rm -f "$work/done"
  sleep 1
  DISPLAY=:97 import -window root -crop 1034x740+0+0 +repage "$out/$1"
  kill $window 2>/dev/null || true
  case $(convert "$out/$1" -format '%[fx:mean<0.02?0:1]' info:) in
    0) # the window had not come up
      if [ "${3:-1}" -lt 3 ]; then
        sleep 2
        terminal "$1" "$2" $((${3:-1} + 1))
      fi ;;
  esac
}
terminal stack.png 'ziegel stack home'
terminal sections.png 'ziegel sections picture left two buttons; ziegel sections statistics/large'
terminal show.png 'ziegel show; ziegel show home/plans'
chooser() { # chooser FILE WORDS: the chooser after some words were typed
  DISPLAY=:97 xterm -geometry 128x46+0+0 -fa 'DejaVu Sans Mono' -fs 10 -bg '#10262b' -fg '#e8efec' -e bash -c 'ziegel add home; sleep 30' &
  local window=$!
  sleep 2
  DISPLAY=:97 xdotool mousemove 300 300 type --delay 60 "$2"
  sleep 2
  DISPLAY=:97 import -window root -crop 1034x740+0+0 +repage "$out/$1"
  kill $window 2>/dev/null || true
}
chooser choose.png 'columns picture'
terminal edit.png 'ziegel set home/plans options.columns=2; ziegel set home/plans items[3].price=€1,150,000.00; ziegel undo; ziegel undo'
ziegel style home/opening.lead color=#c9c9c9 --quiet
ziegel style home/reasons.card width=420px --quiet
terminal check.png 'ziegel check home --suggest'
ziegel check --report "$work/report.html" --quiet >/dev/null || true
shoot "file://$work/report.html" 1280 800 report.png
terminal mistake.png 'ziegel add home hero/besides; ziegel set home/opening media=Delta.svg; ziegel style home/plans.card paddin=1rem'
printf '<!doctype html>\n<style>\nmain { max-width: 60ch; font-family: Gale, sans-serif }\nimg { float: left }\n</style>\n<main>\n<h1>Kites for the coast</h1>\n<p>Sewn by hand, flown before they leave.</p>\n<img alt="">\n</main>\n' >storm.html
terminal measure.png 'cat storm.html; ziegel measure storm.html --at 390,1280; ziegel measure storm.html --at wide'
terminal look.png 'ziegel style home/plans.card padding=1rem --at phone; ziegel explain home/plans.card padding --at 390; ziegel undo; ziegel explain home/plans.card[1] height --at 1280; ziegel room home/opening heading; ziegel check home --distances --from 320 --to 599 | head -9; ziegel check home --reading --at 390 | head -9'
ziegel undo --quiet
ziegel undo --quiet
terminal stress.png 'ziegel check courses --stress --from 320 --to 640'
