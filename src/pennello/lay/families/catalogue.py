"""All families, in the order in which they are offered."""

from __future__ import annotations

from pennello.errors import UnknownNameError
from pennello.lay.families.dabs import DABS
from pennello.lay.families.family import Family
from pennello.lay.families.lines import LINES
from pennello.lay.families.petals import PETALS

FAMILIES: dict[str, Family] = {family.key: family for family in (*PETALS, *DABS, *LINES)}
GROUPS = ("petals", "leaves", "lines", "fields", "dabs")


def family(key: str) -> Family:
    """Return a family by its key; raises UnknownNameError."""
    if key not in FAMILIES:
        raise UnknownNameError("family of strokes", key, list(FAMILIES))
    return FAMILIES[key]
