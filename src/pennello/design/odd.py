"""Something odd on a chart, and where."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Odd:
    """Something odd: what kind, of which motif or layer, where on the chart, mm, and one sentence with the remedy."""

    code: str
    motif: str
    x_mm: float
    y_mm: float
    text: str
