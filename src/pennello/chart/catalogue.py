"""All charts by key."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from pennello.chart.chart import Chart
from pennello.chart.face import face
from pennello.chart.limbs import LIMBS
from pennello.chart.measures import Measures
from pennello.errors import UnknownNameError
from pennello.kept import kept_small
from pennello.phrases import phrase

CHARTS: dict[str, tuple[str, Callable[[Measures], Chart]]] = {
    "face": (phrase("Face"), face),
    "face-eyes-closed": (phrase("Face, eyes closed"), partial(face, eyes_closed=True)),
    **{key: (name, make) for limb in LIMBS for key, name, make in limb.charts},
}

OTHER_EYES = {
    "face": "face-eyes-closed",
    "cheek-left": "cheek-left-eye-closed",
    "cheek-right": "cheek-right-eye-closed",
}
"""Charts with an eye, open and closed: the same skin, and paint on the lid is fine on the closed one alone."""

OTHER_EYES |= {closed: opened for opened, closed in OTHER_EYES.items()}


@kept_small
def chart(key: str, measures: Measures) -> Chart:
    """Return a chart drawn for measures; raises UnknownNameError."""
    if key not in CHARTS:
        raise UnknownNameError(phrase("chart"), key, list(CHARTS))
    return CHARTS[key][1](measures)
