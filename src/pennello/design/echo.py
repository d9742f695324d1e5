"""Echo: the same part again and again along a line, smaller, to the other side by turns; living, or as copies."""

from __future__ import annotations

from pennello.design.computing import Computed, Computing
from pennello.design.on_chart import placed_in, seat, with_computed
from pennello.design.part_edits import block_of, copied
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.repeats import USUAL_SMALLER, USUAL_TIMES, NoGuideError, places_along
from pennello.limits import fitted
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase


def guide_of(placed: PlacedMotif) -> CubicPath:
    """Return the line of a piece where it lies on the chart; raises NoGuideError where it has none of its own."""
    if placed.way is None or placed.more:
        raise NoGuideError(
            phrase("{placed} is no single line; draw one from the part to where it shall end.", placed=placed.name)
        )
    return placed.place.stroke(placed.way).path


def echoed(
    plan: Plan,
    name: str,
    guide: CubicPath,
    times: int = USUAL_TIMES,
    smaller: float = USUAL_SMALLER,
    *,
    by_turns: bool = True,
) -> tuple[Plan, tuple[str, ...]]:
    """Return the plan with copies of a part or piece along a guide, and their ids; see `places_along`.

    Each copy is a part of its own, to be changed alone; brushes keep their width.

    Raises
    ------
    NoGuideError
        If the guide has no length.
    OutOfRangeError
        If there are too many, or they grow beyond what a place can have.
    UnknownNameError
        If there is no such part or piece.
    """
    made = []
    for there in places_along(guide, times, smaller, by_turns=by_turns):
        plan, copy = copied(plan, name, by=there)
        made.append(copy)
    return plan, tuple(made)


def with_echo(
    plan: Plan,
    name: str,
    guide: CubicPath | str,
    times: int = USUAL_TIMES,
    smaller: float = USUAL_SMALLER,
    *,
    by_turns: bool = True,
) -> tuple[Plan, str]:
    """Return the plan with a part or piece again along a line, following both for good, and the id of that.

    Parameters
    ----------
    guide
        The line on the chart, or the id of a piece that is one; see `places_along` for the rest.

    Raises
    ------
    NoGuideError
        If the guide is no single line, lies within what is repeated, on another chart, or has no length.
    OutOfRangeError
        If there are too many, or they grow beyond what a place can have.
    UnknownNameError
        If there is no such part, piece or line.
    """
    block = block_of(plan, name)
    if not block:
        raise NoGuideError(phrase("The part is empty: there is nothing to lay again; put a piece into it first."))
    called = next((part.name for part in plan.parts if part.id == name), block[0].name)
    key = block[0].chart
    along, way = (guide, None) if isinstance(guide, str) else ("", guide)
    if along:
        line = placed_in(plan, along)
        if line.chart != key or along in {one.id for one in block}:
            where = phrase("lies on another chart") if line.chart != key else phrase("is in what shall be laid again")
            raise NoGuideError(
                phrase("{line} {where}; draw a line from the part to where it shall end.", line=line.name, where=where)
            )
        way = guide_of(seat(plan, line))
    assert way is not None
    places_along(way, times, smaller, by_turns=by_turns)  # says what is wrong with it before anything is made
    made = Computed(
        Computing.ECHO,
        (name,),
        border=None if along else way,
        along=along,
        times=times,
        smaller=smaller,
        by_turns=by_turns,
    )
    within = next((one.within for one in plan.parts if one.id == name), block[0].part)
    return with_computed(plan, made, {}, key, fitted(called, ", again"), within)
