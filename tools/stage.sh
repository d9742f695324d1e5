#!/bin/sh
# Puts what a desktop needs beside the program into a tree. Usage: stage.sh ROOT PREFIX PYTHON
# ROOT is what stands before PREFIX ("" for the real one); PYTHON has Pennello and the packages of the extra `package`.
set -eu
root=$1
prefix=$2
python=$3
here=$(cd "$(dirname "$0")/.." && pwd)
share=$root$prefix/share
put() { install -D -m 644 "$1" "$2"; }
put "$here/packaging/pennello.desktop" "$share/applications/pennello.desktop"
put "$here/packaging/pennello.metainfo.xml" "$share/metainfo/invalid.pennello.pennello.metainfo.xml"
put "$here/packaging/pennello-mime.xml" "$share/mime/packages/pennello.xml"
put "$here/packaging/pennello.thumbnailer" "$share/thumbnailers/pennello.thumbnailer"
put "$here/src/pennello/ui/theme/pennello.svg" "$share/icons/hicolor/scalable/apps/pennello.svg"
put "$here/packaging/pennello-symbolic.svg" "$share/icons/hicolor/symbolic/apps/pennello-symbolic.svg"
"$python" "$here/tools/desktop_files.py" "$share"
put "$here/LICENSE" "$share/doc/pennello/copyright"
put "$here/src/pennello/files/fonts/OFL.txt" "$share/doc/pennello/OFL.txt"
put "$here/NEWS.md" "$share/doc/pennello/NEWS.md"
gzip -9nf "$share/doc/pennello/NEWS.md"
