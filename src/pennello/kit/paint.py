"""A paint and its optical constants."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Annotated, Any

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
from pennello.kept import kept_small, shelf_for, weight_of
from pennello.phrases import phrase
from pennello.quick_enum import QuickEnum
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]


SCATTER_EXPONENT = (0.0, 2.0)


class Finish(QuickEnum):
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
        missing = phrase("glow") if self is Finish.NEON else phrase("sheen")
        return phrase(
            "{value}: only the diffuse part is predicted, not the {missing}", value=self.value, missing=missing
        )


class Near(Enum):
    """What a stroke lies near, for the labels: plain skin, the eye area, or the lips."""

    SKIN = "skin"
    EYE = "eye"
    LIPS = "lips"


@dataclass(frozen=True, slots=True)
class Paint:
    """A paint as its maker and the painter know it.

    `tint` is for what hides so well that no contrast ratio can tell it: it scales K and S alike, so that the masstone
    stays. Without a measured reflectance the smoothest one with the masstone's colour is used.
    """

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    srgb: Annotated[str, Told('masstone: the colour of a film thick enough to hide, `"#rrggbb"`', text="colour")]
    contrast: Annotated[
        float | None,
        Told(
            "contrast ratio of a film `contrast_film_um` thick: Y over black (reflectance 0) / Y over white "
            "(reflectance 0.80)",
            within=CONTRAST_RANGE,
            called="contrast ratio of {name}",
            default="left out: S proportional to Y^0.7, 0.02 per um for blacks",
        ),
    ] = None
    contrast_film_um: Annotated[
        float, Told("that film", "um", within=(0.5, 1000.0), called="contrast film of {name}")
    ] = CONTRAST_FILM_UM
    tint: Annotated[
        float,
        Told(
            "strength in a let-down with white, against what masstone and contrast say: scales K and S alike "
            "(until 6 it counted as volume in mixtures)",
            within=(0.05, 20.0),
            called="tint strength of {name}",
        ),
    ] = 1.0
    finish: Annotated[
        Finish, Told("`matte`, `pearl`, `metallic`, `neon` (of the last three only the diffuse part is predicted)")
    ] = Finish.MATTE
    eye_area: Annotated[bool, Told("whether the label allows it near the eye")] = True
    lips: Annotated[bool, Told("on the lips")] = True
    skin: Annotated[bool, Told("on skin at all", since=2)] = True
    reflectance: Annotated[
        tuple[float, ...] | None,
        Told(
            "measured hiding reflectance at 380, 390 ... 730 nm, 36 numbers, each above 0, up to 1",
            since=2,
            items=(0.0, 1.0),
            above=True,
            count=(len(WAVELENGTH_NM), len(WAVELENGTH_NM)),
            default="left out: the smoothest with the masstone's colour",
        ),
    ] = None
    scatter_exponent: Annotated[
        float,
        Told(
            "S falls as the wavelength to the power of minus this; 1 for titanium whites",
            within=SCATTER_EXPONENT,
            called="fall of the scattering of {name}",
            since=7,
        ),
    ] = 0.0

    def __post_init__(self) -> None:
        parse_hex(self.srgb)
        if self.reflectance is not None:
            _check_reflectance(self.name, self.reflectance)
        check(self)

    def allowed(self, near: Near) -> bool:
        """Return whether its label, as written down here, allows it at a place; labels and local rules decide."""
        return self.skin and {Near.SKIN: True, Near.EYE: self.eye_area, Near.LIPS: self.lips}[near]


def _check_reflectance(name: str, values: tuple[float, ...]) -> None:
    if len(values) != len(WAVELENGTH_NM):
        raise OutOfRangeError(
            phrase("number of bands measured of {name}", name=name), len(values), "36 (380 to 730 nm)"
        )
    worst = next((value for value in values if not 0 < value <= 1), None)
    if worst is not None:
        raise OutOfRangeError(phrase("measured reflectance of {name}", name=name), worst, phrase("above 0, up to 1"))


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

_known = shelf_for(8_000_000, lambda paint, curves: weight_of((paint, curves)))


@kept_small
def masstones(paints: tuple[Paint, ...]) -> Array:
    """Return hiding reflectances at 36 bands, shape (paints, 36)."""
    hiding = reflectance_from_srgb(np.array([parse_hex(paint.srgb) for paint in paints]))
    for index, paint in enumerate(paints):
        if paint.reflectance is not None:
            hiding[index] = np.clip(paint.reflectance, *MEASURED_RANGE)
    return hiding


@kept_small
def optics(paints: tuple[Paint, ...]) -> PaintOptics:
    """Return optical constants at 36 bands of paints, in their order.

    Paints not met before are worked out together, which is much faster than one by one; each is worked out once.
    """
    found = {paint: curves[0] for paint in paints if (curves := _known.get(paint))}
    new = tuple(dict.fromkeys(paint for paint in paints if paint not in found))
    if new:
        found |= {paint: _known.put(paint, curves) for paint, curves in zip(new, _worked_out(new), strict=True)}
    k, s = zip(*(found[paint] for paint in paints), strict=True) if paints else ((), ())
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
