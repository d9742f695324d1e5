"""Pictures of the designs that ship with Pennello: each where it lies, painted as predicted, with what it takes."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

import numpy as np

from pennello.chart.chart import Chart
from pennello.colour.families import families_of
from pennello.colour.lab import picture_lab
from pennello.design.on_chart import chart_of
from pennello.design.ordering import Priority
from pennello.design.plan import Plan, Skin, skin_bytes
from pennello.design.scene import Check, go_on
from pennello.files.demo import shipped_design
from pennello.kept import shelf_for
from pennello.lay.engine import kernel
from pennello.order.arrange import arrange, design_of
from pennello.session.chart_scene import Painted, Picture, chart_picture, corner_of
from pennello.session.order_pictures import painted_at

PX_PER_MM = 1.5
CARD = 1.5
"""How wide a card's picture is against its height."""

_THICK, _SEEN_SHARE = 120, 0.08
"""What covers less (of 255), or is less than this share of what is seen, gives a design no colour (defaults)."""

_ROUND_IT = 0.35
"""How much of the skin round a design is shown, as a share of its size (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class DesignPicture:
    """A design as it is laid.

    Attributes
    ----------
    picture
        The place where it lies, sRGB bytes, shape (rows, columns, 3).
    seconds
        How long it takes in the order found, without a target.
    short_s
        The same with what must be done alone.
    """

    key: str
    other: bool
    title: str
    chart: str
    picture: Picture
    seconds: float
    short_s: float
    loads: int


_pictures = shelf_for(8_000_000)
"""Pictures that were looked at; all designs in both colours weigh as much."""


def design_picture(
    key: str, *, other: bool, ita_deg: float | None, surround: str, check: Check = go_on
) -> DesignPicture:
    """Return a design's picture; kept, and not to be written to.

    Parameters
    ----------
    ita_deg
        Another skin than its own, by its angle in degrees.
    surround
        What lies round the chart, "#rrggbb".
    check
        Called now and then; what it raises ends the work.

    Raises
    ------
    UnknownNameError
        If there is no such design.
    """
    found: DesignPicture = _pictures.again(
        (key, other, ita_deg, surround),
        lambda: _design_picture(key, other=other, ita_deg=ita_deg, surround=surround, check=check),
    )
    return found


def _design_picture(key: str, *, other: bool, ita_deg: float | None, surround: str, check: Check) -> DesignPicture:
    plan = shipped_design(key).plan(other=other)
    if ita_deg is not None:
        plan = replace(plan, skin=Skin(ita_deg))
    laid = laid_plan(plan, plan.motifs[0].chart, surround=surround, check=check)
    return DesignPicture(
        key,
        other,
        plan.title,
        chart_of(plan, laid.chart).name,
        laid.picture,
        laid.seconds,
        _short_s(plan, laid.chart, check),
        laid.loads,
    )


@dataclass(frozen=True, slots=True, eq=False)
class LaidPlan:
    """What of a plan lies on a chart.

    Attributes
    ----------
    picture
        The place where it lies, sRGB bytes, shape (rows, columns, 3).
    seconds, loads
        How long it takes in the order found, without a target, and with how many loads.
    colours
        Words for the colours that it shows, most of it first.
    """

    chart: str
    picture: Picture
    seconds: float
    loads: int
    colours: tuple[str, ...]


def laid_plan(plan: Plan, chart_key: str, *, surround: str = "#F7F6F4", check: Check = go_on) -> LaidPlan:
    """Return a plan's picture on a chart from near, as it is painted in the order found.

    `surround` and `check` as for `design_picture`.
    """
    found = arrange(design_of(plan, chart_key, report=lambda *_: check(), engine=kernel()), 0.0)
    chart = chart_of(plan, chart_key)
    painted = painted_at(found, chart_key, PX_PER_MM, engine=kernel(), check=check)
    check()
    picture = chart_picture(chart, painted, skin_bytes(plan.skin), PX_PER_MM, surround=surround)
    return LaidPlan(chart_key, _close(picture, chart, painted), found.sums.total_s, found.sums.loads, _colours(painted))


def _colours(painted: Painted | None) -> tuple[str, ...]:
    """Return words for the colours of what is painted, most of it first."""
    if painted is None:
        return ()
    seen = painted.rgba[painted.rgba[..., 3] > _THICK][:, :3]
    if not len(seen):
        return ()
    families = families_of(picture_lab(seen[:: max(1, len(seen) // 4000)]))
    shares = Counter(family.value for family in families)
    return tuple(name for name, count in shares.most_common(4) if count >= _SEEN_SHARE * len(families))


def _short_s(plan: Plan, chart_key: str, check: Check) -> float:
    """Return how long a design takes with what must be done alone, s."""
    ordering = plan.ordering
    kept = tuple(one for one in plan.motifs if ordering.priority(one.id) is Priority.MUST)
    must = replace(plan, motifs=kept, overlays=())
    return arrange(design_of(must, chart_key, report=lambda *_: check(), engine=kernel()), 0.0).sums.total_s


def _close(picture: Picture, chart: Chart, painted: Painted | None) -> Picture:
    """Return the place where something is painted, with some skin round it, of the shape of a card."""
    if painted is None or not painted.rgba[..., 3].any():
        return picture
    rows, columns = (np.flatnonzero(painted.rgba[..., 3].any(axis=axis)) for axis in (1, 0))
    left_mm, top_mm = corner_of(chart)
    canvas = painted.canvas
    ends = []
    for at, start_mm, edge_mm, most in (
        (rows, canvas.top_mm, top_mm, len(picture)),
        (columns, canvas.left_mm, left_mm, picture.shape[1]),
    ):
        low, high = ((start_mm + side / canvas.px_per_mm - edge_mm) * PX_PER_MM for side in (at[0], at[-1] + 1))
        ends.append((low, high, most))
    needed = [(high - low) * (1 + _ROUND_IT) for low, high, _ in ends]
    tall = max(needed[0], needed[1] / CARD)
    cut = []
    for (low, high, most), size in zip(ends, (tall, tall * CARD), strict=True):
        first = min(max(round((low + high - size) / 2), 0), max(most - round(size), 0))
        cut.append(slice(first, min(first + round(size), most)))
    return np.ascontiguousarray(picture[tuple(cut)])
