"""Something odd on a chart, and where."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.kit.paint import Near

NEAR_MM = 12.0
"""So near to an eye or the lips labels for that area matter (a default)."""

ZONE_NEAR = {"eye": Near.EYE, "lid": Near.EYE, "lips": Near.LIPS}
"""Which label matters by which kind of zone; a lid is a closed eye."""


@dataclass(frozen=True, slots=True)
class Odd:
    """Something odd: what kind, of which motif or layer, where on the chart, mm, and one sentence with the remedy."""

    code: str
    motif: str
    x_mm: float
    y_mm: float
    text: str


def label_words(paint: str, near: Near) -> str:
    """Say that a paint's label does not allow a place."""
    place = "the eye area" if near is Near.EYE else "lips"
    return f"{paint} is not marked for {place}; take another, its label and local rules decide."
