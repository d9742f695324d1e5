#!/bin/sh
# Makes a Debian package that brings its Python packages along. Usage: deb.sh PYTHON TOOLS OUT
# PYTHON has the version of the distribution's python3, for which compiled packages are taken.
set -eu
python=$1
tools=$2
out=$3
here=$(cd "$(dirname "$0")/.." && pwd)
version=$("$tools" -c 'import pennello; print(pennello.__version__)')
minor=$("$python" -c 'import sys; print(sys.version_info[1])')
arch=$(dpkg --print-architecture)
root=$out/pennello_${version}_$arch
rm -rf "$root"
mkdir -p "$root/DEBIAN" "$root/usr/lib/pennello" "$root/usr/bin"
"$python" -m pip install --quiet --no-compile --require-hashes --target "$root/usr/lib/pennello" -r "$here/requirements-lean.lock"
"$tools" -m pip install --quiet --no-compile --no-deps --no-build-isolation --target "$root/usr/lib/pennello" "$here"
# what only builds or tests others, and starters of other programs
rm -rf "$root/usr/lib/pennello/bin" "$root/usr/lib/pennello/setuptools" "$root/usr/lib/pennello/pkg_resources" \
    "$root/usr/lib/pennello/_distutils_hack" "$root/usr/lib/pennello/distutils-precedence.pth" "$root/usr/lib/pennello/share"
rm -rf "$root"/usr/lib/pennello/setuptools-*.dist-info
# typefaces that are not used, and first lines of files that are no commands
rm -rf "$root/usr/lib/pennello/reportlab/fonts" "$root/usr/lib/pennello/PySide6/scripts"
find "$root/usr/lib/pennello" -name '*.py' -exec sed -i '1s/^#!.*$//' {} +
find "$root/usr/lib/pennello" -type d \( -name tests -o -name __pycache__ \) -prune -exec rm -rf {} +
install -m 755 "$here/packaging/start" "$root/usr/bin/pennello"
sh "$here/tools/stage.sh" "$root" /usr "$tools"
cat "$here/src/pennello/files/fonts/OFL.txt" >>"$root/usr/share/doc/pennello/copyright"
rm "$root/usr/share/doc/pennello/OFL.txt"
gzip -9nc "$here/packaging/changelog" >"$root/usr/share/doc/pennello/changelog.gz"
install -D -m 644 "$here/packaging/lintian-overrides" "$root/usr/share/lintian/overrides/pennello"
find "$root" -type d -exec chmod 755 {} +
find "$root/usr/lib" -type f -exec chmod 644 {} +
libraries=$(sh "$here/tools/system_packages.sh" list | tr ' ' '\n' | grep -v '^$' | paste -sd, | sed 's/,/, /g')
cat >"$root/DEBIAN/control" <<EOF
Package: pennello
Version: $version
Architecture: $arch
Maintainer: The Pennello developers <pennello@pennello.invalid>
Installed-Size: $(du -sk "$root/usr" | cut -f1)
Depends: python3 (>= 3.$minor), python3 (<< 3.$((minor + 1))), libc6, libstdc++6, $libraries
Section: graphics
Priority: optional
Description: plans and predicts one-stroke face painting
 Face painters load a flat brush or a sponge with several colours at once from a
 split cake and pull one stroke that lays a whole gradient. Pennello predicts
 what such a load lays on a skin, finds the load for a wish, plans whole
 designs, their order and minutes, an event's queue and bag, and keeps what
 happened. It works with no network, and certifies nothing.
EOF
cat >"$root/DEBIAN/postinst" <<'EOF'
#!/bin/sh
set -e
if [ "$1" = configure ]; then
    python3 -m compileall -q /usr/lib/pennello || true
fi
EOF
cat >"$root/DEBIAN/prerm" <<'EOF'
#!/bin/sh
set -e
find /usr/lib/pennello -type d -name __pycache__ -prune -exec rm -rf {} + || true
EOF
chmod 755 "$root/DEBIAN/postinst" "$root/DEBIAN/prerm"
(cd "$root" && find usr -type f -print0 | xargs -0 md5sum >DEBIAN/md5sums)
dpkg-deb --root-owner-group -Zxz -z1 --build "$root" "$out" >/dev/null
rm -rf "$root"
echo "$out/pennello_${version}_$arch.deb"
