"""The light of a place, and how an eye that has adapted to it sees colours there, shown as if by daylight.

Tables: CIE illuminants A and LED-B1, and the components S0, S1, S2 of the CIE daylight series, at 10 nm, 380-730 nm
(CIE 015:2018; written to data/lights.csv by tools/make_bands.py). Dusk is the phase of daylight of 10,000 K by the CIE
formulas for that series. Adaptation is that of CIECAM16 [Li2017]: its matrix, and its degree of adaptation, from the
luminance adapted to and the surround. Those two are defaults (common practice, no published source). That colours lose
strength where there is little light (the effect named after Hunt) is left out: a screen is looked at in more light
than a lantern gives.
"""

from __future__ import annotations

from enum import Enum
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.observer import MATCHING, WEIGHTS, WHITE_XYZ, XYZ_TO_RGB, xyz_to_rgb
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.srgb import encode
from pennello.kept import kept_small

Array = NDArray[np.floating[Any]]


class Light(Enum):
    """What a place is lit by."""

    DAYLIGHT = "daylight"
    DUSK = "dusk"
    LANTERN = "lantern"
    LED = "LED lamp"

    @property
    def words(self) -> str:
        """What it is, for whom the name says too little."""
        return _WORDS[self]


_WORDS = {
    Light.DAYLIGHT: "CIE D65",
    Light.DUSK: "CIE daylight, 10000 K",
    Light.LANTERN: "CIE A, 2856 K",
    Light.LED: "CIE LED-B1, 2733 K",
}

_ADAPTING = {Light.DUSK: (4.0, 0.9), Light.LANTERN: (1.5, 0.9), Light.LED: (15.0, 1.0)}
"""Luminance adapted to, cd/m2, and the factor F of the surround (1 average, 0.9 dim), as defaults."""

DUSK_K = 10_000.0

CAT16: Array = np.array(
    [[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]]
)
"""From XYZ to the cone responses of CIECAM16, shape (3, 3)."""


@cache
def _table() -> dict[str, Array]:
    text = (files("pennello.colour") / "data" / "lights.csv").read_text("utf-8")
    columns = np.loadtxt(text.splitlines(), delimiter=",", comments="#").T
    return dict(zip(("nm", "A", "LED-B1", "S0", "S1", "S2"), columns, strict=True))


def daylight_phase(kelvin: float) -> Array:
    """Return the relative power of a phase of daylight, shape (36,), by the CIE formulas (CIE 015:2018, 4.1.2).

    Parameters
    ----------
    kelvin
        Correlated colour temperature, 4000 to 25000 K.
    """
    t = 1000 / kelvin
    if kelvin <= 7000:
        x = 0.244063 + 0.09911 * t + 2.9678 * t**2 - 4.6070 * t**3
    else:
        x = 0.237040 + 0.24748 * t + 1.9018 * t**2 - 2.0064 * t**3
    y = -3.000 * x**2 + 2.870 * x - 0.275
    m = 0.0241 + 0.2562 * x - 0.7341 * y
    m1, m2 = (-1.3515 - 1.7703 * x + 5.9114 * y) / m, (0.0300 - 31.4424 * x + 30.0717 * y) / m
    table = _table()
    return np.asarray(table["S0"] + m1 * table["S1"] + m2 * table["S2"])


def power(light: Light) -> Array:
    """Return the relative spectral power of a light at 36 bands, shape (36,), Y of white not scaled."""
    if light is Light.DAYLIGHT:
        return np.asarray(WEIGHTS[:, 1] / MATCHING[:, 1])
    if light is Light.DUSK:
        return daylight_phase(DUSK_K)
    return _table()["A" if light is Light.LANTERN else "LED-B1"]


def adaptation(luminance_cd_m2: float, surround: float) -> float:
    """Return the degree of adaptation of CIECAM16, in [0, 1].

    >>> round(adaptation(318.31, 1.0), 4)
    0.9945
    """
    return float(np.clip(surround * (1 - np.exp((-luminance_cd_m2 - 42) / 92) / 3.6), 0, 1))


@cache
def seen_weights(light: Light) -> Array:
    """Return weights from reflectance at 36 bands to XYZ as shown by daylight, shape (36, 3).

    White is what white looks like there to an eye that has adapted as far as it does, as bright as a screen shows it.
    By daylight they are the observer's own.
    """
    if light is Light.DAYLIGHT:
        return WEIGHTS
    weights = MATCHING * power(light)[:, None]
    weights = weights / weights[:, 1].sum()
    degree = adaptation(*_ADAPTING[light])
    there, here = CAT16 @ weights.sum(axis=0), CAT16 @ WHITE_XYZ
    gains = degree * here / there + 1 - degree
    seen = weights @ (np.linalg.inv(CAT16) @ np.diag(gains) @ CAT16).T
    return np.asarray(seen / (seen.sum(axis=0) @ XYZ_TO_RGB.T).max())


@kept_small
def seen_bytes(red: int, green: int, blue: int, light: Light) -> tuple[int, int, int]:
    """Return a colour that is given as by daylight, sRGB bytes, as it is seen in a light.

    Its spectrum is the smoothest that has it.
    """
    if light is Light.DAYLIGHT:
        return red, green, blue
    spectrum = reflectance_from_srgb(np.array([red, green, blue]) / 255)
    seen = np.rint(encode(xyz_to_rgb(spectrum @ seen_weights(light))) * 255).astype(int).tolist()
    return seen[0], seen[1], seen[2]
