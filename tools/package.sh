#!/bin/sh
# Makes wheel, source archive and Debian package, and lets their validators look at them. Usage: package.sh PYTHON TOOLS OUT
set -eu
python=$1
tools=$2
out=$3
cd "$(dirname "$0")/.."
rm -rf "$out"
mkdir -p "$out"
desktop-file-validate packaging/pennello.desktop
appstreamcli validate --no-net packaging/pennello.metainfo.xml
"$tools" -m build --no-isolation --outdir "$out" . >"$out/build.log" 2>&1 || { cat "$out/build.log"; exit 1; }
"$tools" -m twine check --strict "$out"/*.whl "$out"/*.tar.gz
# the typeface carries its licence with it, and the package all of its licences: one text twice
"$tools" -m check_wheel_contents --ignore W002 "$out"/*.whl
"$tools" tools/whole.py "$out"
sh tools/deb.sh "$python" "$tools" "$out"
lintian --fail-on error,warning "$out"/*.deb
sh tools/try_deb.sh "$out"/*.deb
ls -l "$out"
