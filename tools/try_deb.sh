#!/bin/sh
# Unpacks a Debian package and lets what is in it work: version, a check, a PDF, a thumbnail. Usage: try_deb.sh DEB
set -eu
deb=$1
here=$(cd "$(dirname "$0")/.." && pwd)
root=$(mktemp -d)
trap 'rm -rf "$root"' EXIT
dpkg-deb -x "$deb" "$root"
sed "s|/usr/lib/pennello|$root/usr/lib/pennello|" "$root/usr/bin/pennello" >"$root/start"
export XDG_DATA_HOME="$root/data" XDG_CACHE_HOME="$root/cache" NUMBA_CACHE_DIR="$root/numba" QT_QPA_PLATFORM=offscreen
run() { python3 -I "$root/start" "$@"; }
run --version
plan=$here/examples/minimal.pennello
run check "$plan"
run thumbnail "$plan" "$root/plan.png" --size 128
run day new "$root/walk.pennello-day" --demo
run day report "$root/walk.pennello-day" --quote "$root/quote.pdf"
head -c 4 "$root/quote.pdf" | grep -q %PDF
test -s "$root/plan.png"
echo "what is in $(basename "$deb") works"
