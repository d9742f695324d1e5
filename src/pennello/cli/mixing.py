"""The verb `mix`: paints given by colour, opacity and parts."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

import numpy as np

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import film, hiding_reflectance, mix
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.srgb import format_hex, parse_hex
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.paint import Paint, optics
from pennello.phrases import phrase
from pennello.units import parse_number

_PAINT = re.compile(
    r"(?P<hex>#?[0-9a-fA-F]{6})(?:@(?P<contrast>[0-9.eE+-]+)(?P<percent>%?))?(?::(?P<parts>[0-9.eE+-]+))?\Z"
)


class PaintTextError(PennelloError):
    """A paint on the command line is not understood."""

    def __init__(self, text: str) -> None:
        super().__init__(
            phrase("'{text}' is not a paint; write HEX[@CONTRAST][:PARTS], as in #c8102e@0.85:2 or #ffffff.", text=text)
        )
        self.text = text


@dataclass(frozen=True, slots=True)
class MixedPaint:
    """A paint and its parts by volume."""

    paint: Paint
    parts: float


def parse_portion(text: str) -> MixedPaint:
    """Return what HEX[@CONTRAST][:PARTS] says; the contrast is a ratio, or a percentage with a % sign.

    >>> parse_portion("#ff0000@85%:2").paint.contrast
    0.85
    """
    match = _PAINT.match(text.strip())
    if not match:
        raise PaintTextError(text)
    try:
        contrast = parse_number(match["contrast"]) if match["contrast"] else None
        parts = parse_number(match["parts"]) if match["parts"] else 1.0
    except ValueError as error:
        raise PaintTextError(text) from error
    if contrast is not None and match["percent"]:
        contrast /= 100
    if not 0 <= parts < float("inf"):
        raise OutOfRangeError(phrase("parts of a paint"), parts, phrase("0 or more"))
    code = "#" + match["hex"].lstrip("#").lower()
    return MixedPaint(Paint(id=code, name=code, srgb=code, contrast=contrast), parts)


def mix_answer(portions: list[MixedPaint], film_um: float | None, over: str) -> dict[str, Any]:
    """Return the answer of `mix`: the mixture thick enough to hide, or as a film over a colour.

    Raises
    ------
    OutOfRangeError
        If there is no paint at all, or the film is not 0 um or more.
    """
    parts = np.array([portion.parts for portion in portions])
    if not parts.sum() > 0:
        raise OutOfRangeError(phrase("parts of all paints together"), float(parts.sum()), "above 0")
    constants = optics(tuple(portion.paint for portion in portions))
    k, s = mix(parts, constants.k, constants.s)
    if film_um is None:
        reflectance = hiding_reflectance(k, s)
    elif not 0 <= film_um <= 1e6:
        raise OutOfRangeError(phrase("film thickness"), film_um, "0 to 1000000 um")
    else:
        substrate = reflectance_from_srgb(parse_hex(over))
        reflectance = film(k * film_um, s * film_um, substrate)
    return {
        "lab": np.round(FULL.lab(reflectance), 6).tolist(),
        "srgb": format_hex(FULL.srgb(reflectance)),
        "reflectance": {
            "wavelength_nm": FULL.wavelength_nm.tolist(),
            "r": np.round(reflectance, 9).tolist(),
        },
        "scattering_per_um": float(s[len(s) // 2]),
    }
