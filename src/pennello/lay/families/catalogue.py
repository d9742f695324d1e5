"""All families, in the order in which they are offered: by the way the brush is held. Older ones stay readable."""

from __future__ import annotations

from pennello.errors import UnknownNameError
from pennello.lay.families.dabs import DABS
from pennello.lay.families.family import Family
from pennello.lay.families.held import HELD
from pennello.lay.families.hold import Hold
from pennello.lay.families.lines import LINES
from pennello.lay.families.petals import PETALS
from pennello.lay.families.touches import TOUCHES
from pennello.phrases import phrase

OLD = (
    *("inverted-u", "bucket", "wiggle-petal", "c-stroke", "scale", "wedge", "wing-scoop", "heart-half", "peak", "fin"),
    *("chisel-leaf", "wiggle-leaf", "comma", "s-stroke", "swoosh", "teardrop", "swirl", "flick", "star"),
)
"""Families that better ones have taken the place of: not offered any more, but known by their keys."""

KNOWN: dict[str, Family] = {family.key: family for family in (*HELD, *PETALS, *DABS, *TOUCHES, *LINES)}
FAMILIES: dict[str, Family] = {
    one.key: one
    for one in sorted(KNOWN.values(), key=lambda family: list(Hold).index(family.hold))
    if one.key not in OLD
}
GROUPS = ("petals", "leaves", "peaks", "wings", "lines", "fields", "dabs")


def family(key: str) -> Family:
    """Return a family by its key, an older one too; raises UnknownNameError."""
    if key not in KNOWN:
        raise UnknownNameError(phrase("family of strokes"), key, list(FAMILIES))
    return KNOWN[key]
