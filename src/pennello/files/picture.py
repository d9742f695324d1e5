"""Predicted strokes as PNG."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.comparison import Comparison
from pennello.colour.lab import lab_to_xyz
from pennello.colour.observer import xyz_to_rgb
from pennello.colour.srgb import encode
from pennello.disk import write_bytes

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_MAT = (0xF7, 0xF6, 0xF4)
_MM_PER_INCH = 25.4


def write_png(picture: Picture, path: Path, px_per_mm: float) -> None:
    """Write sRGB bytes, shape (rows, columns, 3), as PNG that knows its true size and that it is sRGB.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    from PIL import Image  # noqa: PLC0415 - the window shows ribbons without it
    from PIL.PngImagePlugin import PngInfo  # noqa: PLC0415

    dots = px_per_mm * _MM_PER_INCH
    file, told = io.BytesIO(), PngInfo()
    told.add(b"sRGB", b"\0")  # PNG specification (W3C, third edition), 11.3.2.5: intent "perceptual"
    Image.fromarray(picture).save(file, "PNG", dpi=(dots, dots), pnginfo=told)
    write_bytes(file.getvalue(), path)


def write_jpeg(picture: Picture, path: Path, px_per_mm: float) -> None:
    """Write sRGB bytes, shape (rows, columns, 3), as JPEG with its true size and the profile of sRGB.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    from PIL import Image, ImageCms  # noqa: PLC0415 - the window shows ribbons without it

    dots = round(px_per_mm * _MM_PER_INCH)
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    file = io.BytesIO()
    Image.fromarray(picture).save(file, "JPEG", quality=92, subsampling=0, dpi=(dots, dots), icc_profile=profile)
    write_bytes(file.getvalue(), path)


def lab_bytes(lab: Array) -> Picture:
    """Return sRGB bytes, shape (..., 3), of L*, a*, b*; channels outside sRGB are clipped."""
    return np.rint(encode(xyz_to_rgb(lab_to_xyz(lab))) * 255).astype(np.uint8)


def ribbons(seen: Comparison) -> tuple[Picture, Picture, Picture]:
    """Return the wanted gradient and the laid one near the start and near the end, sRGB bytes, each shape (64, 3)."""
    return lab_bytes(seen.wanted_lab), lab_bytes(seen.lab[1]), lab_bytes(seen.lab[-2])


def bench_picture(stroke: Picture, seen: Comparison, width_mm: float, px_per_mm: float) -> Picture:
    """Return the stroke with its three ribbons (wanted, laid early, laid late) beneath it on the mat, at one scale."""
    unit = max(1, round(px_per_mm))
    across = np.minimum((np.arange(round(width_mm * px_per_mm)) * 64 / (width_mm * px_per_mm)).astype(int), 63)
    strips = [np.repeat(strip[across][None], 6 * unit, axis=0) for strip in ribbons(seen)]
    height = sum(len(strip) + unit for strip in strips) + 3 * unit
    width = max(stroke.shape[1], len(across) + 4 * unit)
    page = np.full((stroke.shape[0] + height, width, 3), _MAT, np.uint8)
    page[: stroke.shape[0], : stroke.shape[1]] = stroke
    top = stroke.shape[0] + 2 * unit
    for strip in strips:
        page[top : top + len(strip), 2 * unit : 2 * unit + len(across)] = strip
        top += len(strip) + unit
    return page
