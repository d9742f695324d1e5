"""All charts by key."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from pennello.chart.chart import Chart
from pennello.chart.face import face
from pennello.chart.limbs import cheek, forearm, hand, leg, shoulder
from pennello.chart.measures import Measures
from pennello.errors import UnknownNameError

CHARTS: dict[str, tuple[str, Callable[[Measures], Chart]]] = {
    "face": ("Face", face),
    "cheek-left": ("Cheek, wearer's left", lambda measures: cheek(measures, left=True)),
    "cheek-right": ("Cheek, wearer's right", lambda measures: cheek(measures, left=False)),
    "forearm": ("Forearm", forearm),
    "hand": ("Back of the hand", hand),
    "leg": ("Lower leg", leg),
    "shoulder": ("Shoulder and neck", shoulder),
}


@lru_cache(maxsize=64)
def chart(key: str, measures: Measures) -> Chart:
    """Return a chart drawn for measures; raises UnknownNameError."""
    if key not in CHARTS:
        raise UnknownNameError("chart", key, list(CHARTS))
    return CHARTS[key][1](measures)
