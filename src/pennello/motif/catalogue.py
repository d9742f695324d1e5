"""All motifs by key. Older ones that better ones have taken the place of are known, but not offered any more."""

from __future__ import annotations

from pennello.errors import UnknownNameError
from pennello.motif.fields import FIELDS
from pennello.motif.flowers import FLOWERS
from pennello.motif.held import HELD
from pennello.motif.leaves import LEAVES
from pennello.motif.marks import MARKS
from pennello.motif.motif import Motif

OLD = ("petal-ring", "rose-outside-in", "rose-inside-out", "bud", "leaf-pair", "radial", "peak-crown")

KNOWN: dict[str, Motif] = {motif.key: motif for motif in (*HELD, *FLOWERS, *LEAVES, *FIELDS, *MARKS)}
MOTIFS: dict[str, Motif] = {key: one for key, one in KNOWN.items() if key not in OLD}


def motif(key: str) -> Motif:
    """Return a motif, an older one too; raises UnknownNameError."""
    if key not in KNOWN:
        raise UnknownNameError("motif", key, list(MOTIFS))
    return KNOWN[key]
