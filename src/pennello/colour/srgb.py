"""sRGB: the display curve and hex strings. Source: IEC 61966-2-1:1999."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.errors import PennelloError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

_HEX = re.compile(r"#?([0-9a-fA-F]{6})\Z")


class ColourTextError(PennelloError):
    """A text that should be a colour is not one."""

    def __init__(self, text: str) -> None:
        super().__init__(phrase("'{text}' is not a colour; write six hexadecimal digits such as #c8102e.", text=text))
        self.text = text


def encode(linear: ArrayLike) -> Array:
    """Return display values of linear RGB.

    Parameters
    ----------
    linear
        Linear RGB in [0, 1], any shape. Values outside are clipped.

    Returns
    -------
    Display RGB in [0, 1], same shape and precision.
    """
    values = np.clip(np.asarray(linear, dtype=_float_type(linear)), 0, 1)
    return np.asarray(np.where(values <= 0.0031308, 12.92 * values, 1.055 * values ** (1 / 2.4) - 0.055))


def decode(display: ArrayLike) -> Array:
    """Return linear RGB of display values in [0, 1]; the inverse of `encode`."""
    values = np.clip(np.asarray(display, dtype=_float_type(display)), 0, 1)
    return np.asarray(np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4))


def _float_type(values: ArrayLike) -> Any:
    kind = np.asarray(values).dtype
    return kind if kind.kind == "f" else np.float64


def parse_hex(text: str) -> Array:
    """Return display RGB in [0, 1], shape (3,), of a text such as "#c8102e".

    >>> parse_hex("#ff0000").tolist()
    [1.0, 0.0, 0.0]

    Raises
    ------
    ColourTextError
        If the text is not six hexadecimal digits, with or without #.
    """
    match = _HEX.match(text)
    if not match:
        raise ColourTextError(text)
    return np.frombuffer(bytes.fromhex(match[1]), dtype=np.uint8) / 255.0


def format_hex(display: ArrayLike) -> str:
    """Return "#rrggbb" of display RGB in [0, 1], shape (3,).

    >>> format_hex([1, 0.5, 0])
    '#ff8000'
    """
    red, green, blue = (int(value) for value in np.rint(np.clip(display, 0, 1) * np.float64(255)))
    return f"#{red:02x}{green:02x}{blue:02x}"
