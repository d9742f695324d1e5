"""How two neighbouring paints mix: the boundary on the skin is the mix of neighbours.

Half of each is mixed by Kubelka-Munk and looked at as CIE L*C*h. The words are common practice, no published
source; their limits are defaults.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import hiding_reflectance, mix
from pennello.colour.srgb import format_hex
from pennello.kept import kept_small
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint, optics
from pennello.phrases import phrase

NEUTRAL_CHROMA = 16.0
"""Below this chroma a paint counts as white, grey or black (a default)."""

MUTED_SHARE, MUDDY_SHARE = 0.72, 0.42
"""Share of its parents' mean chroma below which a mix is muted, or mud (defaults)."""

MUD_HUE_DEG, MUTED_HUE_DEG = 95.0, 120.0
"""Hues further apart than this may fight each other, or mute at best (defaults)."""

BROWN_HUE_DEG = (15.0, 95.0)
BROWN_LIGHTNESS = 50.0


class MixWord(Enum):
    """What becomes of two neighbours."""

    CLEAN = "clean"
    SOFT = "soft"
    MUTES = "mutes"
    MUD = "mud"


@dataclass(frozen=True, slots=True)
class NeighbourMix:
    """The mix of two neighbours.

    Attributes
    ----------
    srgb
        Its colour, "#rrggbb", thick enough to hide.
    lightness, chroma, hue_deg
        CIE L*, C*ab and h_ab of it.
    hue_apart_deg
        Angle between the parents' hues, 0 to 180.
    """

    word: MixWord
    srgb: str
    lightness: float
    chroma: float
    hue_deg: float
    hue_apart_deg: float

    @property
    def sentence(self) -> str:
        """The word in a sentence."""
        return {
            MixWord.CLEAN: "mixes clean: the blend stays as bright as its neighbours.",
            MixWord.SOFT: "mixes soft: a paler or deeper tone of the same colour.",
            MixWord.MUTES: "mutes: the blend is duller than either.",
            MixWord.MUD: "turns to mud: the two fight each other; put another stripe between them.",
        }[self.word]


@kept_small
def neighbour_mix(one: Paint, other: Paint) -> NeighbourMix:
    """Return the half-and-half mix of two paints and its word."""
    constants = optics((one, other))
    shares = np.array([[1.0, 0.0], [0.0, 1.0], [0.5, 0.5]])
    k, s = mix(shares, constants.k, constants.s)
    hiding = hiding_reflectance(k, s)
    lab = FULL.lab(hiding)
    chroma = np.hypot(lab[:, 1], lab[:, 2])
    hue = np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360
    apart = float(abs((hue[0] - hue[1] + 180) % 360 - 180))
    return NeighbourMix(
        _word(chroma.tolist(), apart, float(lab[2, 0]), float(hue[2])),
        format_hex(FULL.srgb(hiding[2])),
        float(lab[2, 0]),
        float(chroma[2]),
        float(hue[2]),
        apart,
    )


def _word(chroma: list[float], hue_apart_deg: float, lightness: float, hue_deg: float) -> MixWord:
    """Return the word for parents and mix of these chromas: with a neutral parent the mix is at worst muted."""
    parents, mixed = chroma[:2], chroma[2]
    if min(parents) < NEUTRAL_CHROMA:
        if max(parents) < NEUTRAL_CHROMA or mixed >= 0.25 * max(parents):
            return MixWord.SOFT
        return MixWord.MUTES
    kept = mixed / (sum(parents) / 2)
    brown = BROWN_HUE_DEG[0] <= hue_deg <= BROWN_HUE_DEG[1] and lightness < BROWN_LIGHTNESS
    if hue_apart_deg > MUD_HUE_DEG and (kept < MUDDY_SHARE or (brown and mixed < 0.6 * max(parents))):
        return MixWord.MUD
    return MixWord.MUTES if kept < MUTED_SHARE or hue_apart_deg > MUTED_HUE_DEG else MixWord.CLEAN


def cake_mixes(cake: Cake, paints: dict[str, Paint]) -> tuple[NeighbourMix, ...]:
    """Return the mix at every boundary of a cake, left to right."""
    names = [stripe.paint for stripe in cake.stripes]
    return tuple(neighbour_mix(paints[a], paints[b]) for a, b in pairwise(names))


_GREEN_DEG = (100.0, 200.0)


def hints(cake: Cake, paints: dict[str, Paint]) -> tuple[str, ...]:
    """Return rules of thumb that a cake breaks, as sentences (common practice, no published source)."""
    labs = np.array([_lab(paints[stripe.paint]) for stripe in cake.stripes])
    found = []
    ends = labs[[0, -1], 0]
    if abs(ends[0] - ends[1]) < 25:
        found.append(
            phrase("Any colours make a rose if one end is light and the other dark: these ends are much alike.")
        )
    green = [lab for lab in labs if _is_green(lab)]
    if len(green) >= max(1, len(labs) - 1) and np.ptp([lab[0] for lab in green]) < 12:
        found.append(phrase("A leaf needs one lighter and one darker green."))
    found += _beside(cake, paints, labs)
    if any(stripe.width_mm < 2.5 for stripe in cake.stripes):
        found.append(phrase("A stripe under 2.5 mm is hard to lay and soon blurs away."))
    return tuple(found)


def _beside(cake: Cake, paints: dict[str, Paint], labs: NDArray[np.float64]) -> Iterator[str]:
    """Say which neighbours turn to mud or look the same."""
    names = [paints[stripe.paint].name for stripe in cake.stripes]
    for at, mixed in enumerate(cake_mixes(cake, paints)):
        if mixed.word is MixWord.MUD:
            yield phrase(
                "{names} beside {names_2} turns to mud: part them by another stripe.",
                names=names[at],
                names_2=names[at + 1],
            )
        if abs(labs[at, 0] - labs[at + 1, 0]) < 4 and math.hypot(*(labs[at, 1:] - labs[at + 1, 1:])) < 8:
            yield phrase(
                "{names} and {names_2} are too alike to tell apart on the skin.", names=names[at], names_2=names[at + 1]
            )


def _lab(paint: Paint) -> list[float]:
    k, s = (getattr(optics((paint,)), name)[0] for name in ("k", "s"))
    return [float(value) for value in FULL.lab(hiding_reflectance(k, s))]


def _is_green(lab: NDArray[np.floating[Any]]) -> bool:
    hue = math.degrees(math.atan2(lab[2], lab[1])) % 360
    return math.hypot(lab[1], lab[2]) > NEUTRAL_CHROMA and _GREEN_DEG[0] <= hue <= _GREEN_DEG[1]
