"""The painter's own motifs: one file each in a folder of the XDG data folder."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import platformdirs

from pennello.design.own import Own
from pennello.disk import make_folder
from pennello.errors import PennelloError
from pennello.files.motif_file import SUFFIX, picture_of, read_own, write_own
from pennello.kit.shelf import slug


@dataclass(frozen=True, slots=True)
class Kept:
    """A motif of one's own, and its picture as PNG, empty if it has none."""

    own: Own
    picture: bytes
    path: Path


def library_folder() -> Path:
    """Return where own motifs lie."""
    return Path(platformdirs.user_data_path("pennello")) / "motifs"


def own_motifs(folder: Path | None = None) -> tuple[Kept, ...]:
    """Return own motifs by name; a file that cannot be read is left out."""
    found = []
    try:
        paths = sorted((folder or library_folder()).glob(f"*{SUFFIX}"))
    except OSError:  # a folder that may not be looked into
        paths = []
    for path in paths:
        try:
            found.append(Kept(read_own(path), picture_of(path), path))
        except PennelloError:
            continue
    return tuple(sorted(found, key=lambda kept: kept.own.name.lower()))


def keep(own: Own, picture: bytes = b"", folder: Path | None = None) -> Path:
    """Keep a motif under its name, in the place of one of that name; return its file."""
    where = folder or library_folder()
    make_folder(where)
    path = where / f"{slug(own.name)}{SUFFIX}"
    write_own(own, path, picture)
    return path
