#!/bin/sh
# Sees to the system libraries that Qt needs. Usage: system_packages.sh offscreen|window|display|access|package|list
# Root installs what is missing; anybody else is shown the one line to run.
set -eu
offscreen="libegl1 libgl1 libfontconfig1 libdbus-1-3 libxkbcommon0 libglib2.0-0"
window="libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libwayland-cursor0"
package="desktop-file-utils appstream lintian dpkg-dev shared-mime-info"
case "$1" in
    offscreen) wanted=$offscreen ;;
    window) wanted="$offscreen $window"
        [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ] || wanted="$wanted xvfb" ;;
    display) wanted="$offscreen $window xvfb" ;;
    access) wanted="$offscreen $window xvfb xauth dbus at-spi2-core" ;;
    package) wanted="$offscreen $package" ;;
    list) echo "$offscreen $window"; exit 0 ;;
    *) echo "usage: $0 offscreen|window|display|access|package|list" >&2; exit 2 ;;
esac
command -v dpkg-query >/dev/null || exit 0  # not a Debian system: its own packages are the user's affair
missing=""
for package in $wanted; do
    installed=$(dpkg-query -W -f='${db:Status-Status}' "$package" 2>/dev/null || true)
    # newer releases renamed some libraries for 64-bit time; the new name is as good
    [ "$installed" = installed ] || installed=$(dpkg-query -W -f='${db:Status-Status}' "${package}t64" 2>/dev/null || true)
    [ "$installed" = installed ] || missing="$missing $package"
done
[ -n "$missing" ] || exit 0
if [ "$(id -u)" -eq 0 ]; then
    echo "Installing system libraries:$missing"
    apt-get update -qq
    # shellcheck disable=SC2086
    DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >/dev/null
else
    echo "Some system libraries are missing. Run this line, then try again:" >&2
    echo "  sudo apt-get install -y$missing" >&2
    exit 1
fi
