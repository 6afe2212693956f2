#!/usr/bin/env bash
# Make the pictures in docs/screenshots anew from the demo data: bash docs/make-screenshots.sh DIRECTORY_OF_THE_COMMAND
# Needs Xvfb, xterm and ImageMagick's import, and chromium; without them only the figures are made.
set -euo pipefail
here=$(cd "$(dirname "$0")/screenshots" && pwd)
command=$(cd "$1" && pwd)/restless-ledger

"$command" fight demo stair_duel --seed 3 --plot "$here/figure-fight.png" >/dev/null
if command -v chromium >/dev/null; then
    film=$(mktemp -d)
    "$command" fight demo quay_battle --seed 2 --film "$film/film.html" >/dev/null
    chromium --headless --no-sandbox --disable-gpu --disable-background-networking --user-data-dir="$film/profile" \
        --window-size=1280,800 --virtual-time-budget=2000 --screenshot="$here/film.png" "file://$film/film.html#at=9" 2>/dev/null
    rm -r "$film"
fi
"$command" curves demo rigger warden lampwright bellringer --plot "$here/figure-curves.png" >/dev/null
"$command" builds demo --plot "$here/figure-builds.png" >/dev/null
"$command" journey demo winter --runs 1000 --plot "$here/figure-journey.png" >/dev/null
"$command" matchups demo --levels 5,20,40 --plot "$here/figure-matchups.png" >/dev/null
"$command" levers demo stair_duel damage.crush classes.rigger.growth classes.warden.growth abilities.hook_swing abilities.stave_blow \
  --plot "$here/figure-levers.png" >/dev/null
"$command" duel demo rigger warden --level 8 --plot "$here/figure-duel.png" >/dev/null
"$command" tune demo --target stair_duel:riggers=0.5..0.54 --target stair_duel:seconds=7.6..8.2 --vary gauges.health.top#2=8..12 \
  --vary "abilities.stave_blow.does[0].times=0.9..1.2" --plot "$here/figure-tune.png" >/dev/null
changed=$(mktemp -d)
trap 'rm -rf "$changed"' EXIT
cp -r "$("$(dirname "$command")/python" -c 'from restless_ledger.api import DEMO; print(DEMO)')" "$changed/rules"
sed -i 's/12 + 1.2 \* wits/12 + 1.25 * wits/; s/9 \* grit/9.2 * grit/' "$changed"/rules/*.toml
"$command" compare demo "$changed/rules" --plot "$here/figure-compare.png" >/dev/null
"$(dirname "$command")/python" - "$changed/seen.csv" <<'PLAYTEST'
import csv, sys
import restless_ledger as rl
from restless_ledger.engine import set_up
from restless_ledger.monte_carlo.sample import Sample, at_level

book, rows = rl.demo(), [("encounter", "winner", "seconds", "damage")]
for encounter, handling, fights in (("stair_duel", "novice", 90), ("landing_ambush", "novice", 60), ("lamp_watch", None, 40)):
    sample = Sample(set_up(book, at_level(book.encounters[encounter], None, handling)), 77)
    sample.grow(fights)
    sides = (*sample.setup.names.sides, "mutual down", "time-out", "")  # the engine numbers these -3 and -2
    for outcome, ticks, harm in list(zip(sample.outcomes, sample.ticks, sample.harm))[:fights]:
        rows.append((encounter, sides[outcome], round(ticks * book.clock.seconds(1), 1), round(float(harm))))
csv.writer(open(sys.argv[1], "w", newline="")).writerows(rows)
PLAYTEST
"$command" reconcile demo "$changed/seen.csv" --plot "$here/figure-observed.png" >/dev/null
"$(dirname "$command")/python" "$(dirname "$0")/../examples/a_game_that_differs.py" "$here/figure-reconciled.png" >/dev/null
"$command" curves demo --falls --plot "$here/figure-falls.png" >/dev/null
"$command" trials demo landing_ambush --fights 20000 --seed 1 --plot "$here/figure-trials.png" >/dev/null

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
