"""All charts by key."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, partial

from pennello.chart.chart import Chart
from pennello.chart.face import face
from pennello.chart.limbs import cheek, foot, forearm, forearm_outside, hand, leg, palm, shoulder, upper_arm
from pennello.chart.measures import Measures
from pennello.errors import UnknownNameError

CHARTS: dict[str, tuple[str, Callable[[Measures], Chart]]] = {
    "face": ("Face", face),
    "face-eyes-closed": ("Face, eyes closed", partial(face, eyes_closed=True)),
    "cheek-left": ("Cheek, wearer's left", partial(cheek, left=True)),
    "cheek-left-eye-closed": ("Cheek, wearer's left, eye closed", partial(cheek, left=True, eyes_closed=True)),
    "cheek-right": ("Cheek, wearer's right", partial(cheek, left=False)),
    "cheek-right-eye-closed": ("Cheek, wearer's right, eye closed", partial(cheek, left=False, eyes_closed=True)),
    "forearm": ("Forearm, wearer's left", partial(forearm, left=True)),
    "forearm-right": ("Forearm, wearer's right", partial(forearm, left=False)),
    "forearm-outside": ("Forearm from outside, wearer's left", partial(forearm_outside, left=True)),
    "forearm-outside-right": ("Forearm from outside, wearer's right", partial(forearm_outside, left=False)),
    "upper-arm": ("Upper arm, wearer's left", partial(upper_arm, left=True)),
    "upper-arm-right": ("Upper arm, wearer's right", partial(upper_arm, left=False)),
    "hand": ("Hand, wearer's right", partial(hand, left=False)),
    "hand-left": ("Hand, wearer's left", partial(hand, left=True)),
    "palm": ("Palm, wearer's left", partial(palm, left=True)),
    "palm-right": ("Palm, wearer's right", partial(palm, left=False)),
    "leg": ("Leg, wearer's left", partial(leg, left=True)),
    "leg-right": ("Leg, wearer's right", partial(leg, left=False)),
    "foot": ("Foot, wearer's left", partial(foot, left=True)),
    "foot-right": ("Foot, wearer's right", partial(foot, left=False)),
    "shoulder": ("Shoulder, wearer's left", partial(shoulder, left=True)),
    "shoulder-right": ("Shoulder, wearer's right", partial(shoulder, left=False)),
}


OTHER_EYES = {
    "face": "face-eyes-closed",
    "cheek-left": "cheek-left-eye-closed",
    "cheek-right": "cheek-right-eye-closed",
}
"""Charts with an eye, open and closed: the same skin, and paint on the lid is fine on the closed one alone."""

OTHER_EYES |= {closed: opened for opened, closed in OTHER_EYES.items()}


@lru_cache(maxsize=64)
def chart(key: str, measures: Measures) -> Chart:
    """Return a chart drawn for measures; raises UnknownNameError."""
    if key not in CHARTS:
        raise UnknownNameError("chart", key, list(CHARTS))
    return CHARTS[key][1](measures)
