"""All motifs by key."""

from __future__ import annotations

from pennello.errors import UnknownNameError
from pennello.motif.fields import FIELDS
from pennello.motif.flowers import FLOWERS
from pennello.motif.leaves import LEAVES
from pennello.motif.marks import MARKS
from pennello.motif.motif import Motif

MOTIFS: dict[str, Motif] = {motif.key: motif for motif in (*FLOWERS, *LEAVES, *FIELDS, *MARKS)}


def motif(key: str) -> Motif:
    """Return a motif; raises UnknownNameError."""
    if key not in MOTIFS:
        raise UnknownNameError("motif", key, list(MOTIFS))
    return MOTIFS[key]
