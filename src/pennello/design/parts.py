"""What parts of a design hold, and what their pieces are ordered, moved and ruled with."""

from __future__ import annotations

from collections.abc import Iterator

from pennello.design.part import Habit, PlanPart
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan


def line_of(plan: Plan, name: str) -> tuple[PlanPart, ...]:
    """Return a part and those that it lies within, the innermost first; nothing for "" or a part that is not there."""
    known = plan.parts_by_id
    found: list[PlanPart] = []
    while name in known and known[name] not in found:
        found.append(known[name])
        name = known[name].within
    return tuple(found)


def pieces_in(plan: Plan, name: str) -> tuple[PlacedMotif, ...]:
    """Return the pieces of a part and of all parts within it, in the order of painting."""
    within = {part.id for part in plan.parts if any(outer.id == name for outer in line_of(plan, part.id))}
    return tuple(one for one in plan.motifs if one.part in within)


def together_with(plan: Plan, name: str) -> frozenset[str]:
    """Return the ids of the pieces that move with a piece: all of its innermost part, or it alone."""
    part = next((one.part for one in plan.motifs if one.id == name), "")
    return frozenset(one.id for one in plan.motifs if one.id == name or (part and one.part == part))


def unit_of(plan: Plan, placed: PlacedMotif) -> str:
    """Return what a piece is ordered, left out and weighed with: the outermost part in one go, its part, or itself."""
    line = line_of(plan, placed.part)
    whole = [part.id for part in line if part.habit is Habit.ONE_GO]
    return whole[-1] if whole else line[0].id if line else placed.id


def names_of(plan: Plan, placed: PlacedMotif) -> frozenset[str]:
    """Return all names that a rule may call a piece by: its own id and those of the parts that it lies in."""
    return frozenset({placed.id, *(part.id for part in line_of(plan, placed.part))})


def habit_of(plan: Plan, placed: PlacedMotif) -> Habit:
    """Return how a piece is painted: what the innermost part that says so says."""
    return next((part.habit for part in line_of(plan, placed.part) if part.habit is not Habit.USUAL), Habit.USUAL)


def listed(plan: Plan, within: str = "", depth: int = 0) -> Iterator[tuple[int, PlanPart | PlacedMotif]]:
    """Yield parts and pieces as a list shows them: how deep each lies, and it, in the order of painting.

    A part stands where its first piece is painted; one without pieces stands at the end.
    """
    seen: set[str] = set()
    for placed in plan.motifs:
        line = line_of(plan, placed.part)
        names = [part.id for part in line]
        if within and within not in names:
            continue
        inner = names[: names.index(within)] if within else names
        if not inner:
            yield depth, placed
        elif inner[-1] not in seen:
            seen.add(inner[-1])
            part = next(one for one in line if one.id == inner[-1])
            yield depth, part
            yield from listed(plan, part.id, depth + 1)
    for part in plan.parts:
        if part.within == within and part.id not in seen and not pieces_in(plan, part.id):
            yield depth, part
            yield from listed(plan, part.id, depth + 1)
