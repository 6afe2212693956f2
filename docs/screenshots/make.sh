#!/usr/bin/env bash
# Make the pictures of this directory anew from the demo data: bash docs/screenshots/make.sh DIRECTORY_OF_THE_COMMAND
# Needs Xvfb, xterm and ImageMagick's import; without them only the figures are made.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
command=$(cd "$1" && pwd)/restless-ledger

"$command" fight demo stair_duel --seed 3 --plot "$here/figure-fight.png" >/dev/null
"$command" fight demo landing_ambush --seed 4 --plot "$here/figure-ambush.png" >/dev/null
"$command" fight demo quay_battle --seed 2 --paths "$here/figure-paths.png" >/dev/null
"$command" curves demo rigger warden lampwright bellringer --plot "$here/figure-curves.png" >/dev/null
"$command" builds demo --plot "$here/figure-builds.png" >/dev/null
"$command" journey demo winter --runs 1000 --plot "$here/figure-journey.png" >/dev/null
"$command" matchups demo --levels 5,20,40 --plot "$here/figure-matchups.png" >/dev/null
"$command" levers demo stair_duel damage.crush classes.rigger.growth classes.warden.growth abilities.hook_swing abilities.stave_blow \
  --plot "$here/figure-levers.png" >/dev/null
"$command" odds demo --plot "$here/figure-odds.png" >/dev/null
"$command" falls demo --plot "$here/figure-falls.png" >/dev/null
"$command" trials demo landing_ambush --fights 20000 --seed 1 --plot "$here/figure-trials.png" >/dev/null

if ! command -v Xvfb >/dev/null || ! command -v xterm >/dev/null || ! command -v import >/dev/null; then
  echo "no Xvfb, xterm or import here: the terminal's pictures were left as they are"
  exit 0
fi
export DISPLAY=:97
Xvfb $DISPLAY -screen 0 1280x800x24 >/dev/null 2>&1 &
screen=$!
trap 'kill $screen' EXIT
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
WAIT=40 shoot audit-demo cat audit demo
shoot sheet cat sheet demo rigger --level 12
shoot fight "tail -39" fight demo stair_duel --seed 3
WAIT=15 shoot trials cat trials demo landing_ambush --fights 20000
shoot falls cat falls demo --level 8 --level 30
WAIT=25 shoot demo "head -40" demo
