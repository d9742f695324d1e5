"""The painter's own motifs: one file each in a folder of the XDG data folder."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import platformdirs

from pennello.design.own import Own
from pennello.disk import exists, make_folder
from pennello.errors import PennelloError, clipped
from pennello.files.motif_file import SUFFIX, with_picture, write_own
from pennello.kit.shelf import slug
from pennello.phrases import phrase

_STEM = 55


@dataclass(frozen=True, slots=True)
class Kept:
    """A motif of one's own, and its picture as PNG, empty if it has none."""

    own: Own
    picture: bytes
    path: Path


@dataclass(frozen=True, slots=True)
class Library:
    """Own motifs by name, and sentences that say which files could not be read."""

    kept: tuple[Kept, ...] = ()
    unread: tuple[str, ...] = ()


class KeptAlreadyError(PennelloError):
    """Another motif is kept under that name."""

    def __init__(self, name: str) -> None:
        super().__init__(
            phrase(
                "You keep another motif as '{name}' already; choose another name, "
                "or let this one take its place (--replace).",
                name=clipped(name),
            )
        )


def library_folder() -> Path:
    """Return where own motifs lie."""
    return Path(platformdirs.user_data_path("pennello")) / "motifs"


def own_motifs(folder: Path | None = None) -> Library:
    """Return own motifs, and which files of them cannot be read."""
    kept, unread = [], []
    try:
        paths = sorted((folder or library_folder()).glob(f"*{SUFFIX}"))
    except OSError:  # a folder that may not be looked into
        paths = []
    for path in paths:
        try:
            kept.append(Kept(*with_picture(path), path))
        except PennelloError as error:
            unread.append(phrase("A motif of your own cannot be read. {error}", error=error))
    return Library(tuple(sorted(kept, key=lambda one: one.own.name.lower())), tuple(unread))


def keep(own: Own, picture: bytes = b"", folder: Path | None = None, *, over: bool = False) -> Path:
    """Keep a motif under its name; return its file.

    Parameters
    ----------
    over
        Let it take the place of another one of that name.

    Raises
    ------
    KeptAlreadyError
        If there is another one of that name.
    FileProblemError
        If it cannot be written.
    """
    where = folder or library_folder()
    make_folder(where)
    there = next((one for one in own_motifs(where).kept if one.own.name == own.name), None)
    if there is not None and there.own != own and not over:
        raise KeptAlreadyError(own.name)
    path = there.path if there is not None else _free(where, own.name)
    write_own(own, path, picture)
    return path


def _free(folder: Path, name: str) -> Path:
    """Return a file that is not there yet: names that differ only in other scripts' letters have one stem."""
    stem, number = slug(name)[:_STEM], 1
    path = folder / f"{stem}{SUFFIX}"
    while exists(path):
        number += 1
        path = folder / f"{stem}-{number}{SUFFIX}"
    return path
