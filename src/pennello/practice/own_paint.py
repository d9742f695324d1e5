"""A paint as its painter's own: stronger or weaker, its absorption bent by lobes, its scattering steeper.

What a photo can tell of a paint is little: how strongly it tints and hides (`tint`), where its absorption lies against
what the masstone let guess (five lobes), and how its scattering falls (`slope`). All of it can be said in a paint's own
fields, so that nothing else need know where it came from.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import falling, hiding_reflectance
from pennello.colour.observer import WAVELENGTH_NM
from pennello.colour.srgb import format_hex
from pennello.kit.paint import MEASURED_RANGE, SCATTER_EXPONENT, Paint, optics

Array = NDArray[np.floating[Any]]

LOBES_NM = (420.0, 480.0, 540.0, 600.0, 670.0)
LOBE_SD_NM = 35.0
"""Middles and width of the lobes by which an absorption may differ from what its masstone lets guess (defaults)."""

LOBES = np.exp(-0.5 * ((WAVELENGTH_NM[None] - np.array(LOBES_NM)[:, None]) / LOBE_SD_NM) ** 2)

TINT_RANGE = (0.05, 20.0)


@dataclass(frozen=True, slots=True)
class Bend:
    """How a paint differs from what is written down of it.

    Attributes
    ----------
    tint
        Natural logarithm of by how much its K and S are greater.
    slope
        What is added to the exponent by which S falls with the wavelength.
    lobes
        Natural logarithms of by how much K is greater at each lobe.
    """

    tint: float = 0.0
    slope: float = 0.0
    lobes: tuple[float, ...] = (0.0,) * len(LOBES_NM)


def bent_optics(k: Array, s: Array, bend: Bend) -> tuple[Array, Array]:
    """Return K and S per um of a paint so bent; k and s have shape (36,)."""
    scattering = s * np.exp(bend.tint) * falling(bend.slope)
    return np.asarray(k * np.exp(bend.tint + np.array(bend.lobes) @ LOBES)), np.asarray(scattering)


def bent_paint(paint: Paint, bend: Bend) -> Paint:
    """Return a paint whose optics are those of the paint so bent, as far as its fields reach."""
    made = optics((paint,))
    k, s = bent_optics(made.k[0], made.s[0], bend)
    reflectance = np.clip(hiding_reflectance(k, s), *MEASURED_RANGE)
    exponent = float(np.clip(paint.scatter_exponent + bend.slope, *SCATTER_EXPONENT))
    colour = format_hex(FULL.srgb(reflectance))
    found = replace(
        paint,
        srgb=colour,
        reflectance=tuple(round(float(one), 5) for one in reflectance),
        scatter_exponent=round(exponent, 4),
        tint=1.0,
    )
    base = optics((found,)).s[0]
    middle = len(base) // 2
    tint = float(np.clip(s[middle] / base[middle], *TINT_RANGE))
    return replace(found, tint=round(tint, 4))
