"""A paint from a photograph or scan of its swatch: an area of paint, and an area of white to hold it against.

Both areas are averaged in linear light; dividing by the white takes out the colour and level of the lamp as far as
three numbers can. Light that falls unevenly, gloss and a camera's own tone curve remain: expect some 3 to 6 dE00.
"""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageOps

from pennello.colour.difference import ciede2000
from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import rgb_to_xyz
from pennello.colour.srgb import decode, encode, format_hex
from pennello.disk import read_bytes
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

MOST_BYTES = 60_000_000
MOST_PIXELS = 60_000_000
LEAST_AREA_PX = 9
PAPER_WHITE = 0.90
"""Reflectance of the white reference: plain copy paper (a default, from memory)."""

_FORMATS = ("PNG", "JPEG", "TIFF", "BMP", "WEBP", "GIF")
_DARKEST_WHITE = 0.05


@dataclass(frozen=True, slots=True)
class Area:
    """A rectangle of a picture: its corner and size, px."""

    x: int
    y: int
    width: int
    height: int


@dataclass(frozen=True, slots=True)
class Swatch:
    """What an area shows.

    Attributes
    ----------
    srgb
        Its colour, "#rrggbb", held against the white.
    spread_de00
        Mean difference of its pixels from that colour: how even the swatch is.
    """

    srgb: str
    spread_de00: float


class NoWhiteError(PennelloError):
    """The white reference is no white."""

    def __init__(self) -> None:
        super().__init__(phrase("The white reference is too dark or clipped; pick a clean white that is not glaring."))


def read_picture(path: Path) -> NDArray[np.uint8]:
    """Return a picture as sRGB bytes, shape (rows, columns, 3), turned the way it was taken.

    Raises
    ------
    FileProblemError
        If it is no picture, or larger than 60 million pixels.
    """
    return picture_in(read_bytes(path, MOST_BYTES), path)


def picture_in(data: bytes, path: Path) -> NDArray[np.uint8]:
    """Return the picture in bytes of a file; see `read_picture`."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what is odd about its tags is nothing that a painter could mend
            return _opened(data, path)
    except FileProblemError:
        raise
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise FileProblemError(path, phrase("this is no picture that can be read; save it as PNG or JPEG.")) from error


def _opened(data: bytes, path: Path) -> NDArray[np.uint8]:
    with Image.open(io.BytesIO(data), formats=_FORMATS) as picture:
        if picture.width * picture.height > MOST_PIXELS:
            raise FileProblemError(
                path,
                phrase(
                    "the picture has {width} x {height} pixels; make it smaller.",
                    width=picture.width,
                    height=picture.height,
                ),
            )
        return np.array(ImageOps.exif_transpose(picture).convert("RGB"))


def read_swatch(
    picture: NDArray[np.uint8], area: Area, white: Area | None, white_reflectance: float = PAPER_WHITE
) -> Swatch:
    """Return what an area of a picture shows.

    Parameters
    ----------
    white
        An area of white to hold it against, or None to take the picture as it is.
    white_reflectance
        What that white reflects, 0.3 to 1.

    Raises
    ------
    OutOfRangeError
        If an area is not inside the picture or has fewer than 9 pixels.
    NoWhiteError
        If the white is too dark, or so bright that it is clipped.
    """
    if not 0.3 <= white_reflectance <= 1:
        raise OutOfRangeError(phrase("reflectance of the white"), white_reflectance, "0.3 to 1")
    pixels = decode(_cut(picture, area) / 255)
    if white is not None:
        lamp = decode(_cut(picture, white) / 255).mean(axis=0)
        if lamp.min() < _DARKEST_WHITE or lamp.min() >= 1.0:
            raise NoWhiteError
        pixels = pixels * (white_reflectance / lamp)
    mean = np.clip(pixels.mean(axis=0), 0, 1)
    labs = xyz_to_lab(rgb_to_xyz(np.clip(pixels, 0, 1)))
    spread = ciede2000(labs, xyz_to_lab(rgb_to_xyz(mean))).mean()
    return Swatch(format_hex(encode(mean)), float(spread))


def _cut(picture: NDArray[np.uint8], area: Area) -> Array:
    rows, columns, _ = picture.shape
    inside = area.x >= 0 and area.y >= 0 and area.x + area.width <= columns and area.y + area.height <= rows
    if not inside or area.width < 1 or area.height < 1 or area.width * area.height < LEAST_AREA_PX:
        words = phrase("{width} x {height} at {x}, {y}", width=area.width, height=area.height, x=area.x, y=area.y)
        raise OutOfRangeError(
            phrase("area of the picture"),
            words,
            phrase("inside {columns} x {rows} pixels and at least 9 of them", columns=columns, rows=rows),
        )
    part: Array = picture[area.y : area.y + area.height, area.x : area.x + area.width].reshape(-1, 3).astype(float)
    return part
