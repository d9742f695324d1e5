"""A paint and its optical constants."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.kubelka_munk import (
    CONTRAST_FILM_UM,
    CONTRAST_RANGE,
    default_scattering,
    falling,
    k_over_s,
    scattering,
)
from pennello.colour.observer import WAVELENGTH_NM
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.srgb import parse_hex
from pennello.errors import OutOfRangeError

Array = NDArray[np.floating[Any]]


SCATTER_EXPONENT = (0.0, 2.0)


class Finish(Enum):
    """How a paint shines; only the diffuse part of the last three is predicted."""

    MATTE = "matte"
    PEARL = "pearl"
    METALLIC = "metallic"
    NEON = "neon"

    @property
    def note(self) -> str:
        """What the prediction leaves out, or nothing."""
        if self is Finish.MATTE:
            return ""
        missing = "glow" if self is Finish.NEON else "sheen"
        return f"{self.value}: only the diffuse part is predicted, not the {missing}"


class Near(Enum):
    """What a stroke lies near, for the labels: plain skin, the eye area, or the lips."""

    SKIN = "skin"
    EYE = "eye"
    LIPS = "lips"


@dataclass(frozen=True, slots=True)
class Paint:
    """A paint as its maker and the painter know it.

    Attributes
    ----------
    id, name
        Key within a plan, and the name shown.
    srgb
        Masstone "#rrggbb": the colour of a film thick enough to hide.
    contrast
        Contrast ratio in [0.01, 0.999] of a film `contrast_film_um` thick, or None for the default by lightness.
    tint
        How many times as strongly it colours a let-down in white as masstone and contrast ratio say, 0.05 to 20:
        scales K and S alike, so that the masstone stays. For what hides so well that no ratio can tell it.
    scatter_exponent
        S falls as the wavelength to the power of minus this, 0 to 2; 1 for titanium whites.
    eye_area, lips, skin
        Whether the label allows use near the eye, on the lips, on skin at all.
    reflectance
        Measured hiding reflectance at the 36 bands from 380 to 730 nm, each in (0, 1], or None: then the smoothest
        reflectance with the masstone's colour is used.
    """

    id: str
    name: str
    srgb: str
    contrast: float | None = None
    contrast_film_um: float = CONTRAST_FILM_UM
    tint: float = 1.0
    finish: Finish = Finish.MATTE
    eye_area: bool = True
    lips: bool = True
    skin: bool = True
    reflectance: tuple[float, ...] | None = None
    scatter_exponent: float = 0.0

    def __post_init__(self) -> None:
        parse_hex(self.srgb)
        if self.contrast is not None and not CONTRAST_RANGE[0] <= self.contrast <= CONTRAST_RANGE[1]:
            raise OutOfRangeError(f"contrast ratio of {self.name}", self.contrast, "0.01 to 0.999")
        if not 0.5 <= self.contrast_film_um <= 1000:
            raise OutOfRangeError(f"contrast film of {self.name}", self.contrast_film_um, "0.5 to 1000 um")
        if not 0.05 <= self.tint <= 20:
            raise OutOfRangeError(f"tint strength of {self.name}", self.tint, "0.05 to 20")
        if not SCATTER_EXPONENT[0] <= self.scatter_exponent <= SCATTER_EXPONENT[1]:
            raise OutOfRangeError(f"fall of the scattering of {self.name}", self.scatter_exponent, "0 to 2")
        if self.reflectance is not None:
            _check_reflectance(self.name, self.reflectance)

    def allowed(self, near: Near) -> bool:
        """Return whether its label, as written down here, allows it at a place; labels and local rules decide."""
        return self.skin and {Near.SKIN: True, Near.EYE: self.eye_area, Near.LIPS: self.lips}[near]


def _check_reflectance(name: str, values: tuple[float, ...]) -> None:
    if len(values) != len(WAVELENGTH_NM):
        raise OutOfRangeError(f"number of bands measured of {name}", len(values), "36 (380 to 730 nm)")
    worst = next((value for value in values if not 0 < value <= 1), None)
    if worst is not None:
        raise OutOfRangeError(f"measured reflectance of {name}", worst, "above 0, up to 1")


@dataclass(frozen=True, slots=True, eq=False)
class PaintOptics:
    """Optical constants of several paints.

    Attributes
    ----------
    k
        Absorption per um of film, shape (paints, bands).
    s
        Scattering per um, shape (paints, bands).
    """

    k: Array
    s: Array

    def at(self, basis: Basis) -> PaintOptics:
        """Return the constants at another set of bands (from all 36)."""
        return PaintOptics(basis.pick(self.k), basis.pick(self.s))

    @property
    def one_scattering(self) -> Array:
        """S per um at the middle band: for a single figure, shape (paints,)."""
        return np.asarray(self.s[:, self.s.shape[1] // 2])


MEASURED_RANGE = (0.002, 0.985)
"""What a measured reflectance is clipped to: K/S has no value at 0 and no scattering can be told at 1."""

_MOST_KNOWN = 4096
_known: dict[Paint, tuple[Array, Array]] = {}


@lru_cache(maxsize=512)
def masstones(paints: tuple[Paint, ...]) -> Array:
    """Return hiding reflectances at 36 bands, shape (paints, 36)."""
    hiding = reflectance_from_srgb(np.array([parse_hex(paint.srgb) for paint in paints]))
    for index, paint in enumerate(paints):
        if paint.reflectance is not None:
            hiding[index] = np.clip(paint.reflectance, *MEASURED_RANGE)
    return hiding


@lru_cache(maxsize=512)
def optics(paints: tuple[Paint, ...]) -> PaintOptics:
    """Return optical constants at 36 bands of paints, in their order.

    Paints not met before are worked out together, which is much faster than one by one; each is worked out once.
    """
    new = tuple(dict.fromkeys(paint for paint in paints if paint not in _known))
    if new:
        if len(_known) > _MOST_KNOWN:
            _known.clear()
            new = tuple(dict.fromkeys(paints))
        _known.update(zip(new, _worked_out(new), strict=True))
    k, s = zip(*(_known[paint] for paint in paints), strict=True) if paints else ((), ())
    shape = (len(paints), len(WAVELENGTH_NM))
    return PaintOptics(np.array(k).reshape(shape), np.array(s).reshape(shape))


def _worked_out(paints: tuple[Paint, ...]) -> list[tuple[Array, Array]]:
    hiding = masstones(paints)
    s = default_scattering(hiding)
    stated = [i for i, paint in enumerate(paints) if paint.contrast is not None]
    if stated:
        ratios = [paints[i].contrast or 0.0 for i in stated]
        films_um = [paints[i].contrast_film_um for i in stated]
        s[stated] = scattering(hiding[stated], ratios, films_um, [paints[i].scatter_exponent for i in stated])
    tint = np.array([paint.tint for paint in paints])
    each = (s * tint)[:, None] * falling(np.array([paint.scatter_exponent for paint in paints]))
    return list(zip(each * k_over_s(hiding), each, strict=True))
