#!/bin/sh
# Opens the window with the demo plan; starts a virtual display where there is none.
set -eu
run=".venv/bin/python -m pennello window --demo"
if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]; then
    exec $run
fi
echo "No display here: starting a virtual one (Xvfb). The window runs until you press Ctrl+C."
display_file=$(mktemp)
Xvfb -displayfd 3 -screen 0 1400x900x24 -nolisten tcp 3>"$display_file" 2>/dev/null &
server=$!
trap 'kill $server 2>/dev/null; rm -f "$display_file"' EXIT INT TERM
tries=0
while [ ! -s "$display_file" ] && [ $tries -lt 50 ]; do sleep 0.1; tries=$((tries + 1)); done
DISPLAY=":$(cat "$display_file")" $run
