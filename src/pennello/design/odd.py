"""Something odd on a chart, and where: what its checks share."""

from __future__ import annotations

from pennello.finding import Code, Finding
from pennello.kit.paint import Near
from pennello.phrases import phrase

NEAR_MM = 12.0
"""So near to an eye or the lips labels for that area matter (a default)."""

ZONE_NEAR = {"eye": Near.EYE, "lid": Near.EYE, "lips": Near.LIPS}
"""Which label matters by which kind of zone; a lid is a closed eye."""


def label_words(paint: str, near: Near) -> str:
    """Say that a paint's label does not allow a place."""
    place = phrase("the eye area") if near is Near.EYE else phrase("lips")
    return phrase(
        "{paint} is not marked for {place}; take another, its label and local rules decide.", paint=paint, place=place
    )


def found_at(code: Code, text: str, piece: str, x_mm: float, y_mm: float) -> Finding:
    """Return a finding about a motif or layer, at a place of its chart, mm."""
    return Finding(code, text, piece=piece, x_mm=x_mm, y_mm=y_mm)
