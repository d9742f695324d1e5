"""A photo of something printed: laid flat by its corner marks, its lamp taken out by its white paper and grey.

The way of the camera is a homography, which four pairs of points fix (Hartley2004, algorithm 4.1, from memory). The
lamp is a second-order field in each channel, fitted to the white paper; a straight line per channel then puts printed
grey where it belongs.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.srgb import decode
from pennello.errors import PennelloError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]
Corners = tuple[tuple[float, float], ...]

LEAST_PX_PER_MM = 3.0
"""Coarser photos tell too little."""

LARGEST_RESIDUAL = 0.08
"""Greatest unevenness that the lamp's field may leave on white paper: beyond it there is a shadow or a reflection."""

_DARKEST_WHITE, _CLIPPED = 0.12, 0.995


class PhotoProblemError(PennelloError):
    """A photo cannot be read as what it should show."""


@dataclass(frozen=True, slots=True, eq=False)
class Flat:
    """A photo laid flat.

    Attributes
    ----------
    rgb
        Linear sRGB as the camera gave it, shape (rows, columns, 3).
    px_per_mm
        Its resolution.
    """

    rgb: Array
    px_per_mm: float

    def at(self, x_mm: Array, y_mm: Array) -> Array:
        """Return linear sRGB at places, between pixels; shape (..., 3)."""
        from scipy.ndimage import map_coordinates  # noqa: PLC0415 - SciPy costs a second to import

        where = np.array([np.ravel(y_mm), np.ravel(x_mm)]) * self.px_per_mm - 0.5
        shape = np.broadcast(x_mm, y_mm).shape
        bands = [map_coordinates(self.rgb[..., n], where, order=1, mode="nearest") for n in range(3)]
        return np.stack(bands, axis=-1).reshape(*shape, 3)

    def mean(self, x: float, y: float, width: float, height: float) -> Array:
        """Return the mean linear sRGB of a box, mm, shape (3,)."""
        left, right = round(x * self.px_per_mm), round((x + width) * self.px_per_mm)
        top, bottom = round(y * self.px_per_mm), round((y + height) * self.px_per_mm)
        box = self.rgb[max(top, 0) : max(bottom, top + 1), max(left, 0) : max(right, left + 1)]
        return np.asarray(np.median(box.reshape(-1, 3), axis=0))


def homography(from_points: Sequence[Sequence[float]], to_points: Sequence[Sequence[float]]) -> Array:
    """Return the homography that takes four points to four others, shape (3, 3).

    Raises
    ------
    PhotoProblemError
        If three of the points lie on one line.
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(from_points, to_points, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    matrix = np.array(rows, np.float64)
    if not np.isfinite(matrix).all() or any(_thin(points) for points in (from_points, to_points)):
        raise PhotoProblemError(phrase("Three of the four corner marks lie on one line; put each on its own corner."))
    return np.append(np.linalg.solve(matrix, np.array(right)), 1.0).reshape(3, 3)


def _thin(points: Sequence[Sequence[float]]) -> bool:
    """Return whether three of four points lie on one line."""
    corners = np.array(points, np.float64)
    size = float(np.ptp(corners, axis=0).max()) ** 2
    return any(abs(_area(np.delete(corners, number, axis=0))) < 1e-3 * size for number in range(4))


def taken(way: Array, points: Array) -> Array:
    """Return points, shape (n, 2), taken through a homography."""
    lifted = np.column_stack([points, np.ones(len(points))]) @ way.T
    return np.asarray(lifted[:, :2] / lifted[:, 2:])


def laid_flat(
    picture: Picture, marks_px: Corners, marks_mm: Corners, size_mm: tuple[float, float], most_px_per_mm: float = 12.0
) -> Flat:
    """Return what a photo shows, laid flat.

    Parameters
    ----------
    picture
        sRGB bytes, shape (rows, columns, 3).
    marks_px, marks_mm
        Middles of the four marks, clockwise from the top left: on the photo, and on paper.
    size_mm
        Width and height of the paper.

    Raises
    ------
    PhotoProblemError
        If a mark lies outside the photo, they are not clockwise, or the photo is too coarse.
    """
    from scipy.ndimage import map_coordinates  # noqa: PLC0415 - SciPy costs a second to import

    rows, columns, _ = picture.shape
    if len(marks_px) != 4 or not all(0 <= x <= columns and 0 <= y <= rows for x, y in marks_px):
        raise PhotoProblemError(phrase("A corner mark lies outside the photo; put all four on their corners."))
    if _area(marks_px) <= 0:
        raise PhotoProblemError(
            phrase("The corner marks run the wrong way round; the first is the top left, then clockwise.")
        )
    fine = (_area(marks_px) / _area(marks_mm)) ** 0.5
    if fine < LEAST_PX_PER_MM:
        words = phrase(
            "The photo has {fine:.1f} pixels for each mm of paper; go nearer, until there are {least_px_per_mm:g}.",
            fine=fine,
            least_px_per_mm=LEAST_PX_PER_MM,
        )
        raise PhotoProblemError(words)
    px_per_mm = float(min(most_px_per_mm, max(fine, LEAST_PX_PER_MM)))
    way = homography(marks_mm, marks_px)
    wide, high = (round(size * px_per_mm) for size in size_mm)
    x, y = np.meshgrid((np.arange(wide) + 0.5) / px_per_mm, (np.arange(high) + 0.5) / px_per_mm)
    where = taken(way, np.column_stack([x.ravel(), y.ravel()]))[:, ::-1].T - 0.5
    table = decode(np.arange(256) / 255).astype(np.float32)
    bands = [map_coordinates(table[picture[..., n]], where, order=1, mode="nearest") for n in range(3)]
    return Flat(np.stack(bands, axis=-1).reshape(high, wide, 3), px_per_mm)


def _area(points: Sequence[Sequence[float]] | Array) -> float:
    x, y = np.array(points, np.float64).T
    return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2


def lamp_out(flat: Flat, white_mm: Array, white: float, printed: Sequence[tuple[tuple[float, ...], float]]) -> Flat:
    """Return a flat photo as reflectance: white paper even, printed black and grey where they belong.

    Parameters
    ----------
    white_mm
        Places on white paper, shape (n, 2), at least 6.
    white
        What the paper reflects.
    printed
        Boxes of printed ink (left, top, width, height, mm) with what they reflect.

    Raises
    ------
    PhotoProblemError
        If the white is too dark, clipped, or so uneven that a shadow or a reflection lies on it.
    """
    seen = np.array([flat.mean(x - 0.6, y - 0.6, 1.2, 1.2) for x, y in white_mm])
    if seen.min() >= _CLIPPED or np.median(seen, axis=0).max() >= _CLIPPED:
        raise PhotoProblemError(phrase("The white paper is glaring on the photo; take it darker, without a flash."))
    if seen.mean() < _DARKEST_WHITE:
        raise PhotoProblemError(phrase("The photo is too dark; take it by daylight near a window."))
    found = np.linalg.lstsq(_second_order(white_mm), seen, rcond=None)[0]
    uneven = np.abs(_second_order(white_mm) @ found / seen.clip(1e-3) - 1)
    if np.quantile(uneven, 0.9) > LARGEST_RESIDUAL:
        raise PhotoProblemError(phrase("A shadow or a reflection lies on the paper; take the photo in even light."))
    rows, columns, _ = flat.rgb.shape
    y, x = np.mgrid[0:rows, 0:columns]
    places = np.column_stack([(x.ravel() + 0.5) / flat.px_per_mm, (y.ravel() + 0.5) / flat.px_per_mm])
    field = (_second_order(places) @ found).reshape(rows, columns, 3)
    even = Flat(flat.rgb / field.clip(1e-3) * white, flat.px_per_mm)
    return _straightened(even, white, printed)


def _straightened(even: Flat, white: float, printed: Sequence[tuple[tuple[float, ...], float]]) -> Flat:
    """Return it with a straight line per channel that holds white and comes nearest to the printed inks."""
    if not printed:
        return even
    wanted = np.array([reflectance for _, reflectance in printed]) - white
    shown = np.array([even.mean(*box) for box, _ in printed]) - white
    gain = (wanted[:, None] * shown).sum(axis=0) / np.maximum((shown**2).sum(axis=0), 1e-9)
    return Flat(white + gain * (even.rgb - white), even.px_per_mm)


def _second_order(places: Array) -> Array:
    x, y = places[:, 0] / 100, places[:, 1] / 100
    return np.column_stack([np.ones_like(x), x, y, x * x, x * y, y * y])


def marks_found(picture: Picture) -> Corners | None:
    """Return the middles of the four corner marks on a photo, clockwise from the top left of the paper.

    None where the extra `camera` (OpenCV) is not installed, or the marks are not all seen: they are then put there by
    hand.
    """
    finder = _finder()
    return finder(picture) if finder is not None else None


def camera_installed() -> bool:
    """Return whether marks can be looked for at all."""
    return _finder() is not None


def _finder() -> Callable[[Picture], Corners | None] | None:
    try:
        import cv2  # noqa: PLC0415 - an extra, and slow to import
    except ImportError:
        return None

    def look(picture: Picture) -> Corners | None:
        detector = cv2.aruco.ArucoDetector(cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50))
        seen: Any = detector.detectMarkers(np.ascontiguousarray(picture[..., ::-1]))
        corners, ids = seen[0], seen[1]
        if ids is None:
            return None
        middles = {int(name): box.reshape(4, 2).mean(axis=0) for name, box in zip(ids.ravel(), corners, strict=True)}
        if not set(range(4)) <= set(middles):
            return None
        return tuple((float(middles[n][0]) + 0.5, float(middles[n][1]) + 0.5) for n in range(4))

    return look


MARK_CELLS = 6
_MARKS = (
    ("1011", "0101", "0011", "0010"),
    ("0000", "1111", "1001", "1010"),
    ("0011", "0011", "0010", "1101"),
    ("1001", "1001", "0100", "0110"),
)


def mark_cells(number: int) -> NDArray[np.bool_]:
    """Return the white cells of a corner mark, 0 to 3, shape (6, 6); a black rim goes round them.

    They are the first four of the ArUco 4 x 4 codes (GarridoJurado2014; the patterns from
    memory, held against OpenCV by a test).
    """
    cells = np.zeros((MARK_CELLS, MARK_CELLS), np.bool_)
    cells[1:-1, 1:-1] = [[one == "1" for one in row] for row in _MARKS[number]]
    return cells
