"""A measured reflectance as CSV: wavelength in nm and reflectance (0 to 1, or percent), one pair a line."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL
from pennello.colour.observer import WAVELENGTH_NM
from pennello.colour.srgb import format_hex
from pennello.disk import write_bytes
from pennello.errors import FileProblemError
from pennello.files.table import CellError, number, read_text
from pennello.kit.paint import Paint
from pennello.kit.shelf import slug
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

NEEDED_NM = (410.0, 690.0)
"""A measurement must reach from here to there; beyond its ends the last value goes on."""

MOST_LINES = 5000
_LEAST, _MOST = 1e-4, 1.0
_SPLIT = re.compile(r"[;\t]|,\s+|\s+")


def read_reflectance(path: Path) -> tuple[float, ...]:
    """Return a measurement at the 36 bands from 380 to 730 nm, each in (0, 1].

    Any spacing of wavelengths will do; values between are interpolated in a straight line.

    Raises
    ------
    FileProblemError
        If the file holds no measurement; the sentence names the line.
    """
    lines = read_text(path, 2_000_000).splitlines()
    if len(lines) > MOST_LINES:
        raise FileProblemError(
            path,
            phrase(
                "a measurement has at most {most_lines} lines; this file has {count}.",
                most_lines=MOST_LINES,
                count=len(lines),
            ),
        )
    pairs = [pair for count, line in enumerate(lines, 1) if (pair := _pair(path, count, line))]
    if len(pairs) < 4:
        raise FileProblemError(
            path, phrase("this is no measured reflectance; write 'wavelength_nm,reflectance' pairs.")
        )
    nm, r = np.array(sorted(pairs)).T
    if (np.diff(nm) <= 0).any():
        raise FileProblemError(path, phrase("a wavelength stands there twice; keep one measurement a file."))
    if nm[0] > NEEDED_NM[0] or nm[-1] < NEEDED_NM[1]:
        raise FileProblemError(
            path,
            phrase(
                "the measurement runs from {nm:g} to {nm_2:g} nm; it must cover 410 to 690 nm.", nm=nm[0], nm_2=nm[-1]
            ),
        )
    if r.max() > 2.0:
        r = r / 100
    if r.min() < 0 or r.max() > 1.05:
        raise FileProblemError(
            path,
            phrase("reflectances lie from {min:.3g} to {max:.3g}; they must lie in 0 to 1.", min=r.min(), max=r.max()),
        )
    return tuple(np.clip(np.interp(WAVELENGTH_NM, nm, r), _LEAST, _MOST).tolist())


def _pair(path: Path, count: int, line: str) -> tuple[float, float] | None:
    cells = [cell for cell in _SPLIT.split(line.strip().replace('"', "")) if cell]
    if len(cells) == 1 and cells[0].count(",") == 1:
        cells = cells[0].split(",")
    if not cells or cells[0].startswith("#"):
        return None
    try:
        if len(cells) != 2:
            raise CellError(phrase("two cells are needed"))
        return number(cells[0]), number(cells[1])
    except CellError:
        if count <= 2:  # a head line, and perhaps one with units
            return None
        raise FileProblemError(
            path,
            phrase(
                "line {count}: '{line}' is no pair of wavelength and reflectance.", count=count, line=line.strip()[:40]
            ),
        ) from None


def write_reflectance(values: tuple[float, ...], path: Path) -> None:
    """Write 36 values with their wavelengths; raises FileProblemError."""
    rows = [f"{nm:.0f},{value:.9f}" for nm, value in zip(WAVELENGTH_NM, values, strict=True)]
    write_bytes(("wavelength_nm,reflectance\n" + "\n".join(rows) + "\n").encode(), path)


def measured_paint(name: str, values: tuple[float, ...]) -> Paint:
    """Return a paint with a measured reflectance: its colour is the one that this has under D65."""
    return Paint(slug(name), name, srgb_of(np.array(values)), reflectance=values)


def srgb_of(reflectance: Array) -> str:
    """Return the sRGB colour of a reflectance at 36 bands, "#rrggbb"."""
    return format_hex(FULL.srgb(reflectance))
