#!/bin/sh
# Installs Pennello under a prefix, in an environment of its own. Usage: install.sh PYTHON TOOLS PREFIX [DESTDIR]
# TOOLS is the Python that makes icons, man page and completions. BEST_ORDER=1 brings OR-Tools, which proves orders.
set -eu
python=$1
tools=$2
prefix=$3
root=${4:-}
here=$(cd "$(dirname "$0")/.." && pwd)
home=$prefix/lib/pennello
lock=$here/requirements-lean.lock
[ -z "${BEST_ORDER:-}" ] || lock=$here/requirements.lock
"$python" -m venv --clear "$root$home"
"$root$home/bin/python" -m pip install --quiet --require-hashes -r "$lock"
"$root$home/bin/python" -m pip install --quiet --no-deps --no-build-isolation "$here"
# where it is staged for somewhere else, what it calls itself is where it will lie
[ -z "$root" ] || sed -i "1s|^#!$root|#!|" "$root$home"/bin/pennello
mkdir -p "$root$prefix/bin"
ln -sf ../lib/pennello/bin/pennello "$root$prefix/bin/pennello"
sh "$here/tools/stage.sh" "$root" "$prefix" "$tools"
if [ -z "$root" ]; then
    share=$prefix/share
    command -v update-mime-database >/dev/null && update-mime-database "$share/mime" || true
    command -v update-desktop-database >/dev/null && update-desktop-database -q "$share/applications" || true
    command -v gtk-update-icon-cache >/dev/null && gtk-update-icon-cache -qtf "$share/icons/hicolor" || true
fi
echo "Installed: $root$prefix/bin/pennello"
