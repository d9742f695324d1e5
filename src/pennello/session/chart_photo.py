"""The photo that stands for a chart, read from its file and kept while the file stays as it is."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.design.on_chart import chart_of
from pennello.design.photo_edits import photo_of
from pennello.design.plan import Plan
from pennello.disk import whole_path
from pennello.errors import FileProblemError
from pennello.kept import remembered
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]


@dataclass(frozen=True, slots=True, eq=False)
class LaidPhoto:
    """A photo, sRGB bytes, shape (rows, columns, 3), and what takes its px to mm of the chart, shape (2, 3)."""

    picture: Picture
    onto: Array


@dataclass(frozen=True, slots=True, eq=False)
class PlacedPhoto:
    """The file of a chart's photo as it is now, not yet read, and what takes its px to mm of the chart."""

    path: Path
    stamp: int
    onto: Array

    @property
    def file(self) -> tuple[Path, int]:
        """Which file, and when it was written."""
        return self.path, self.stamp


def laid_photo(plan: Plan, key: str, folder: Path | None) -> LaidPhoto | None:
    """Return the photo of a chart where it lies, or None where there is none; see `placed_photo`."""
    placed = placed_photo(plan, key, folder)
    return LaidPhoto(read_photo(*placed.file), placed.onto) if placed is not None else None


def placed_photo(plan: Plan, key: str, folder: Path | None) -> PlacedPhoto | None:
    """Return which file the photo of a chart is in, and where it lies, without reading it; None where there is none.

    Parameters
    ----------
    folder
        The plan's, from which files are named; None for a plan that was never saved.

    Raises
    ------
    FileProblemError
        If the file is not there.
    """
    photo = photo_of(plan, key)
    if photo is None:
        return None
    path = (folder or Path.cwd()) / photo.file
    try:
        stamp = path.stat().st_mtime_ns
    except (OSError, ValueError) as error:  # a name that no file can have
        raise FileProblemError(path, phrase("the photo of this chart is not there; choose it anew.")) from error
    return PlacedPhoto(path, stamp, photo.onto(chart_of(plan, key)))


@remembered(1)
def read_photo(path: Path, _stamp: int) -> Picture:
    """Return a photo, sRGB bytes, shape (rows, columns, 3); raises FileProblemError if it is none."""
    from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only for photos

    return read_picture(path)


def photo_if_any(plan: Plan, key: str) -> LaidPhoto | None:
    """Return the photo of a chart, of a plan whose photos were located; None, to be drawn, where it is not there."""
    try:
        return laid_photo(plan, key, None)
    except FileProblemError:
        return None


def with_photos_located(plan: Plan, folder: Path | None) -> Plan:
    """Return the plan with its photos named by their whole paths, for work that knows nothing of its folder.

    It is to be painted, not to be written: other machines have other folders.
    """
    if not plan.photos or folder is None:
        return plan
    return replace(plan, photos=tuple(replace(one, file=str(whole_path(folder / one.file))) for one in plan.photos))


def named_from(path: Path, folder: Path | None) -> str:
    """Return how a plan in a folder names a file: from there where it lies within, else with its whole path."""
    whole, inside = whole_path(path), None if folder is None else whole_path(folder)
    if inside is not None and whole.is_relative_to(inside):
        return str(whole.relative_to(inside))
    return str(whole)
