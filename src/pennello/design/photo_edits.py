"""Photos of a plan: put in the place of a chart, sized by how far two landmarks are apart, taken away."""

from __future__ import annotations

import math
from dataclasses import replace

from pennello.chart.catalogue import chart
from pennello.chart.limbs import BY_STATURE
from pennello.design.photo import Photo
from pennello.design.plan import Plan
from pennello.errors import OutOfRangeError
from pennello.phrases import phrase


def photo_of(plan: Plan, key: str) -> Photo | None:
    """Return the photo of a chart, if the plan has one."""
    return next((one for one in plan.photos if one.chart == key), None)


def with_photo(plan: Plan, photo: Photo, width_mm: float | None = None) -> Plan:
    """Return the plan with a photo in the place of a chart.

    Parameters
    ----------
    width_mm
        How far its two landmarks are apart on the person: the chart is drawn for that; without it as it was.

    Raises
    ------
    UnknownNameError
        If the chart has no such landmark.
    OutOfRangeError
        If nobody could be so large or small.
    """
    photo.onto(chart(photo.chart, plan.measures))
    kept = tuple(one for one in plan.photos if one.chart != photo.chart)
    plan = replace(plan, photos=(*kept, photo))
    return plan if width_mm is None else _sized(plan, photo, width_mm)


def _sized(plan: Plan, photo: Photo, width_mm: float) -> Plan:
    here, measures = chart(photo.chart, plan.measures), plan.measures
    now = math.dist(here.landmark(photo.one), here.landmark(photo.other))
    if width_mm <= 0:
        raise OutOfRangeError(phrase("distance of the landmarks"), width_mm, "above 0 mm")
    by = width_mm / now
    if photo.chart in BY_STATURE:
        return replace(plan, measures=replace(measures, stature_mm=round(measures.stature_mm * by, 1)))
    head, face = measures.head_breadth_mm * by, measures.face_height_mm * by
    return replace(plan, measures=replace(measures, head_breadth_mm=round(head, 2), face_height_mm=round(face, 2)))


def without_photo(plan: Plan, key: str) -> Plan:
    """Return the plan with a chart drawn again."""
    return replace(plan, photos=tuple(one for one in plan.photos if one.chart != key))
