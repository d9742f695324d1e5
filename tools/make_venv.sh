#!/bin/sh
# Makes the virtual environment; Debian keeps ensurepip in a package of its own.
set -eu
python=$1
venv=$2
if ! "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
    echo "Pennello needs Python 3.11 or newer as '$python'; name another with: make PYTHON=python3.12 ..." >&2
    exit 1
fi
if ! "$python" -c 'import ensurepip, venv' 2>/dev/null; then
    package=python3-venv
    if [ "$(id -u)" -eq 0 ] && command -v apt-get >/dev/null; then
        apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "$package" >/dev/null
    else
        echo "Python's venv module is missing. Run this line, then try again:" >&2
        echo "  sudo apt-get install -y $package" >&2
        exit 1
    fi
fi
echo "Setting up Pennello (once) ..."
"$python" -m venv "$venv"
