"""Says what wheel and source archive in a folder lack of what is in the repository.  whole.py FOLDER"""

from __future__ import annotations

import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path

NOT_IN_SOURCE = {".gitignore"}


def tracked() -> set[str]:
    """Return the files of the repository."""
    listed = subprocess.run(["git", "ls-files"], check=True, capture_output=True, text=True).stdout
    return set(listed.split("\n")) - {""}


def lacking(folder: Path) -> list[str]:
    """Return sentences on what is not in the archives."""
    files = tracked()
    (archive,) = folder.glob("*.tar.gz")
    with tarfile.open(archive) as source:
        inside = {name.partition("/")[2] for name in source.getnames()}
    (wheel,) = folder.glob("*.whl")
    with zipfile.ZipFile(wheel) as packed:
        shipped = set(packed.namelist())
    package = {name.removeprefix("src/") for name in files if name.startswith("src/pennello/")}
    return [f"{archive.name} lacks {name}" for name in sorted(files - inside - NOT_IN_SOURCE)] + [
        f"{wheel.name} lacks {name}" for name in sorted(package - shipped)
    ]


def main() -> None:
    """Say it, and fail where anything is lacking."""
    found = lacking(Path(sys.argv[1]))
    print("\n".join(found) or "wheel and source archive are whole")
    sys.exit(bool(found))


if __name__ == "__main__":
    main()
