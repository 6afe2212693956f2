#!/usr/bin/env bash
# Make the pictures in docs/screenshots anew from the demo data: bash docs/make-screenshots.sh DIRECTORY_OF_THE_COMMAND
# Needs Xvfb, xterm and ImageMagick's import, and chromium; without them only the figures are made.
set -euo pipefail
here=$(cd "$(dirname "$0")/screenshots" && pwd)
command=$(cd "$1" && pwd)/restless-ledger

"$(dirname "$command")/python" "$(dirname "$0")/figures.py" "$here"
if command -v chromium >/dev/null; then
    film=$(mktemp -d)
    "$command" fight demo quay_battle --seed 2 --film "$film/film.html" >/dev/null
    chromium --headless --no-sandbox --disable-gpu --disable-background-networking --user-data-dir="$film/profile" \
        --window-size=1280,800 --virtual-time-budget=2000 --screenshot="$here/film.png" "file://$film/film.html#at=9" 2>/dev/null
    rm -r "$film"
fi
if command -v chromium >/dev/null; then
    page=$(mktemp -d)
    "$command" report demo --fights 1000 --out "$page" >/dev/null
    chromium --headless --no-sandbox --disable-gpu --disable-background-networking --user-data-dir="$page/profile" \
        --hide-scrollbars --window-size=1280,800 --virtual-time-budget=4000 --screenshot="$here/report.png" \
        "file://$page/index.html" 2>/dev/null
    rm -r "$page"
fi
changed=$(mktemp -d)

if ! command -v Xvfb >/dev/null || ! command -v xterm >/dev/null || ! command -v import >/dev/null; then
  echo "no Xvfb, xterm or import here: the terminal's pictures were left as they are"
  exit 0
fi
export DISPLAY=:97
Xvfb $DISPLAY -screen 0 1280x800x24 >/dev/null 2>&1 &
screen=$!
trap 'kill $screen; rm -rf "$changed"' EXIT
sleep 1

shoot() { # name, lines from the end (or all), words of the command
  local name=$1 part=$2
  shift 2
  xterm -geometry 104x41+0+0 -bd "#faf5e9" -fa "DejaVu Sans Mono" -fs 11 -bg "#faf5e9" -fg "#1f2f4f" -xrm 'xterm*color1: #a8322a' \
    -xrm 'xterm*cursorColor: #faf5e9' -bw 12 -e bash -c "
      tput civis
      printf '$ restless-ledger %s\n' '$*'
      script -qec '$command $*' /dev/null | $part
      sleep 30" &
  local window=$!
  sleep "${WAIT:-6}"
  import -window root -crop 952x800+0+0 +repage "$here/$name.png"
  kill $window
  wait $window 2>/dev/null || true
}

shoot audit "head -38" audit faulty --quick
shoot sheet cat sheet demo rigger --level 12
(cd "$changed" && WAIT=25 shoot export "tail -7 && cd handed_over/javascript && node run_vectors.js && sed -n /hit_crush/,/^}/p rules.js | cut -c1-102 | head -31" \
  export demo --out handed_over --for javascript)
WAIT=25 shoot demo "head -40" demo
echo 'hurt 30 crush; use hook_swing; move 9.2 m 3.5 m; use hook_swing; advance 1 s; give burning; advance 2 s; why guard; check hold_the_rope; level 12; can oil_flask' >"$changed/words"
(cd "$changed" && shoot live "tail -40" live demo rigger --level 8 --against slate_crab --arena landing "<words")
