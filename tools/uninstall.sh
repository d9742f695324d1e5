#!/bin/sh
# Takes away what install.sh put under a prefix; what painters keep in their own folders stays. Usage: uninstall.sh PREFIX
set -eu
prefix=$1
share=$prefix/share
rm -rf "$prefix/lib/pennello" "$share/doc/pennello"
rm -f "$prefix/bin/pennello" "$share/applications/pennello.desktop" \
    "$share/metainfo/invalid.pennello.pennello.metainfo.xml" "$share/mime/packages/pennello.xml" \
    "$share/thumbnailers/pennello.thumbnailer" "$share/man/man1/pennello.1.gz" \
    "$share/bash-completion/completions/pennello" "$share/zsh/site-functions/_pennello" \
    "$share/tcsh/completions/pennello.csh" "$share"/icons/hicolor/*/apps/pennello.png \
    "$share/icons/hicolor/scalable/apps/pennello.svg" "$share/icons/hicolor/symbolic/apps/pennello-symbolic.svg"
command -v update-mime-database >/dev/null && [ -d "$share/mime" ] && update-mime-database "$share/mime" || true
echo "Taken away from $prefix; plans, kit and notebook of painters stay."
