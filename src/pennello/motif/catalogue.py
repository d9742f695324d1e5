"""All motifs by key. Older ones that better ones have taken the place of are known, but not offered any more."""

from __future__ import annotations

from pennello.errors import UnknownNameError
from pennello.motif.blooms import BLOOMS
from pennello.motif.creatures import CREATURES
from pennello.motif.fields import FIELDS
from pennello.motif.flowers import FLOWERS
from pennello.motif.foliage import FOLIAGE
from pennello.motif.insects import INSECTS
from pennello.motif.leaves import LEAVES
from pennello.motif.marks import MARKS
from pennello.motif.motif import Motif
from pennello.motif.signs import SIGNS
from pennello.phrases import phrase

OLD = (
    *("petal-ring", "rose-outside-in", "rose-inside-out", "bud", "leaf-pair", "radial", "peak-crown", "scale-field"),
    *("leaf-spray", "feather", "wing", "wave", "fin", "converging", "dots", "swirl-drops", "starburst"),
    *("butterfly", "moth"),
)
"""Motifs that better ones have taken the place of: not offered any more, but known by their keys."""

KNOWN: dict[str, Motif] = {
    motif.key: motif for motif in (*BLOOMS, *FOLIAGE, *CREATURES, *INSECTS, *SIGNS, *FLOWERS, *LEAVES, *FIELDS, *MARKS)
}
MOTIFS: dict[str, Motif] = {key: one for key, one in KNOWN.items() if key not in OLD}


def motif(key: str) -> Motif:
    """Return a motif, an older one too; raises UnknownNameError."""
    if key not in KNOWN:
        raise UnknownNameError(phrase("motif"), key, list(MOTIFS))
    return KNOWN[key]
