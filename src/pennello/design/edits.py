"""Pure edits: each takes a plan and returns a new one."""

from __future__ import annotations

from dataclasses import replace

from pennello.aim.attempt import Attempt
from pennello.aim.mend import Mend
from pennello.design.plan import Plan, PlanStroke
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.limits import MOST_ID, fitted, fitted_words
from pennello.load.recipe import PickUp
from pennello.load.wear import cake_use, worn
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase


def with_stroke(plan: Plan, changed: PlanStroke) -> Plan:
    """Return the plan with the stroke of the same id replaced, or with a new one at the end."""
    known = any(stroke.id == changed.id for stroke in plan.strokes)
    kept = tuple(changed if stroke.id == changed.id else stroke for stroke in plan.strokes)
    return replace(plan, strokes=kept if known else (*kept, changed))


class StillNeededError(PennelloError):
    """Something cannot go because another thing rests on it."""


def without_stroke(plan: Plan, name: str) -> Plan:
    """Return the plan without a stroke; loads that went on with its leftover begin with a clean brush.

    Raises
    ------
    StillNeededError
        If its leftover is all that another stroke is laid with, or a motif is laid with its load.
    """
    for placed in plan.motifs:
        if name in dict(placed.loads).values():
            raise StillNeededError(
                phrase("{placed} on the chart is laid with it; give that another load first.", placed=placed.name)
            )
    return _freed(replace(plan, strokes=tuple(one for one in plan.strokes if one.id != name)), name, plan.stroke(name))


def _freed(plan: Plan, name: str, gone: PlanStroke) -> Plan:
    """Return the plan with the loads that went on with a stroke's leftover begun clean."""
    for stroke in plan.strokes:
        if stroke.recipe.after == name:
            if not stroke.recipe.pickups:
                raise StillNeededError(
                    phrase(
                        "{stroke} is laid with what {gone} leaves; give it a load first.",
                        stroke=stroke.name,
                        gone=gone.name,
                    )
                )
            plan = with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, after="")))
    return plan


def with_brush_taken(plan: Plan, name: str, brush: str) -> Plan:
    """Return the plan with a stroke laid by another brush; no leftover goes from one brush into another."""
    stroke = plan.stroke(name)
    if stroke.brush == brush:
        return plan
    plan = _freed(plan, name, stroke)
    if stroke.recipe.after and not stroke.recipe.pickups:
        raise StillNeededError(
            phrase("{stroke} is laid with a leftover of its own brush; give it a load first.", stroke=stroke.name)
        )
    return with_stroke(plan, replace(stroke, brush=brush, recipe=replace(stroke.recipe, after="")))


def duplicated_stroke(plan: Plan, name: str) -> tuple[Plan, str]:
    """Return the plan with a copy of a stroke behind it, and the copy's id."""
    original = plan.stroke(name)
    new_id = free_id(original.id, [stroke.id for stroke in plan.strokes])
    copy = replace(original, id=new_id, name=fitted(original.name, " copy"))
    at = plan.strokes.index(original) + 1
    return replace(plan, strokes=(*plan.strokes[:at], copy, *plan.strokes[at:])), new_id


def with_cake(plan: Plan, changed: Cake, paints: tuple[Paint, ...] = ()) -> Plan:
    """Return the plan with a cake replaced or added, and with those of the paints that it did not have."""
    known = any(cake.id == changed.id for cake in plan.cakes)
    kept = tuple(changed if cake.id == changed.id else cake for cake in plan.cakes)
    return with_paints(replace(plan, cakes=kept if known else (*kept, changed)), paints)


def with_paints(plan: Plan, paints: tuple[Paint, ...]) -> Plan:
    """Return the plan with those of the paints that it did not have."""
    have = {paint.id for paint in plan.paints}
    return replace(plan, paints=(*plan.paints, *(paint for paint in paints if paint.id not in have)))


def with_paint(plan: Plan, changed: Paint) -> Plan:
    """Return the plan with a paint replaced or added."""
    known = any(paint.id == changed.id for paint in plan.paints)
    kept = tuple(changed if paint.id == changed.id else paint for paint in plan.paints)
    return replace(plan, paints=kept if known else (*kept, changed))


def with_brush(plan: Plan, changed: Applicator) -> Plan:
    """Return the plan with a brush replaced or added."""
    known = any(brush.id == changed.id for brush in plan.brushes)
    kept = tuple(changed if brush.id == changed.id else brush for brush in plan.brushes)
    return replace(plan, brushes=kept if known else (*kept, changed))


def with_pickup(stroke: PlanStroke, index: int, pickup: PickUp) -> PlanStroke:
    """Return the stroke with one pick-up of its load replaced."""
    pickups = list(stroke.recipe.pickups)
    pickups[index] = pickup
    return replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups)))


def with_new_pickup(stroke: PlanStroke, at: int, pickup: PickUp) -> PlanStroke:
    """Return the stroke with a further pick-up put into its load before the one numbered `at`."""
    pickups = list(stroke.recipe.pickups)
    pickups.insert(at, pickup)
    return replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups)))


def without_pickup(stroke: PlanStroke, index: int) -> PlanStroke:
    """Return the stroke without one pick-up of its load; raises OutOfRangeError if nothing would be loaded."""
    kept = tuple(one for at, one in enumerate(stroke.recipe.pickups) if at != index)
    return replace(stroke, recipe=replace(stroke.recipe, pickups=kept))


def with_moved_pickup(stroke: PlanStroke, index: int, to: int) -> PlanStroke:
    """Return the stroke with one pick-up of its load at another place in the order."""
    pickups = list(stroke.recipe.pickups)
    pickups.insert(to, pickups.pop(index))
    return replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups)))


def with_load_counted(plan: Plan, name: str, times: int = 1) -> Plan:
    """Return the plan with its cakes worn by a stroke's loads, reloads included, done this many times."""
    stroke, brush = plan.stroke(name), plan.brush(plan.stroke(name).brush)
    cakes = plan.cakes_by_id
    for _ in range(times):
        for _ in range(1 + len(stroke.stroke.reload_mm)):
            _, uses = cake_use(stroke.recipe, cakes, brush, plan.residue(name))
            cakes |= {cake: worn(cakes[cake], use) for cake, use in uses.items()}
    return replace(plan, cakes=tuple(cakes.values()))


def with_ladder(plan: Plan, name: str, pickup: int, offsets_mm: tuple[float, ...]) -> Plan:
    """Return the plan with a copy of a stroke behind it for each further rung, each from its own place on the cake."""
    stroke = plan.stroke(name)
    at = plan.strokes.index(stroke)
    taken = [one.id for one in plan.strokes]
    rungs = []
    for number, offset in enumerate(offsets_mm, 1):
        new_id = stroke.id if number == 1 else free_id(stroke.id, taken)
        taken.append(new_id)
        there = replace(stroke.recipe.pickups[pickup], offset_mm=offset)
        wanted = replace(stroke, id=new_id, name=_toned(stroke.name, number))
        rungs.append(with_pickup(wanted, pickup, there))
    return replace(plan, strokes=(*plan.strokes[:at], *rungs, *plan.strokes[at + 1 :]))


def with_path_point(path: CubicPath, index: int, x_mm: float, y_mm: float) -> CubicPath:
    """Return the path with one point moved; an end of a curve takes its handles along.

    Raises
    ------
    OutOfRangeError
        If the path has no such point.
    """
    points = list(path.points_mm)
    if not 0 <= index < len(points):
        raise OutOfRangeError(phrase("number of a path point"), index, phrase("0 to {count}", count=len(points) - 1))
    old_x, old_y = points[index]
    moved = range(max(index - 1, 0), min(index + 2, len(points))) if index % 3 == 0 else range(index, index + 1)
    for at in moved:
        x, y = points[at]
        points[at] = (x + x_mm - old_x, y + y_mm - old_y)
    return CubicPath(tuple(points))


def mended(plan: Plan, name: str, mend: Mend) -> Plan:
    """Return the plan with a mend applied to one stroke."""
    return _absorbed(plan, name, mend.mended(plan.attempt(name)))


def _absorbed(plan: Plan, name: str, attempt: Attempt) -> Plan:
    """Return the plan with all that an attempt changed of a stroke: load, way, brush, cakes and paints."""
    plan, brush = _with_attempts_brush(plan, attempt.brush)
    stroke = replace(plan.stroke(name), recipe=attempt.recipe, stroke=attempt.stroke, brush=brush)
    known = {cake.id for cake in plan.cakes}
    cakes = tuple(attempt.cakes.get(cake.id, cake) for cake in plan.cakes)
    more = tuple(cake for key, cake in attempt.cakes.items() if key not in known)
    changed = replace(with_stroke(plan, stroke), cakes=(*cakes, *more))
    return with_paints(changed, tuple(attempt.paints.values()))


def _with_attempts_brush(plan: Plan, brush: Applicator) -> tuple[Plan, str]:
    """Return the plan with a brush in it, and its id there: its own, or a free one where another has that id."""
    there = next((one for one in plan.brushes if one.id == brush.id), None)
    if there == brush:
        return plan, brush.id
    if there is None:
        return replace(plan, brushes=(*plan.brushes, brush)), brush.id
    alike = next((one for one in plan.brushes if replace(one, id=brush.id) == brush), None)
    if alike is not None:
        return plan, alike.id
    fresh = free_id(brush.id, [one.id for one in plan.brushes])
    return replace(plan, brushes=(*plan.brushes, replace(brush, id=fresh))), fresh


def shipped_cake(plan: Plan, name: str) -> Plan:
    """Return the plan with a cake of the catalogue and its paints, unless it has a cake of that id already."""
    if any(cake.id == name for cake in plan.cakes):
        return plan
    cake = catalogue.cakes()[name]
    return with_cake(plan, cake, tuple(catalogue.paints()[paint] for paint in cake.paints))


def loaded_itself(plan: Plan, stroke: PlanStroke) -> PlanStroke:
    """Return a stroke with a load of its own: one that goes on with a leftover takes what that was loaded with."""
    source = stroke
    while source.recipe.after and not source.recipe.pickups:
        source = plan.stroke(source.recipe.after)
    return replace(stroke, recipe=replace(stroke.recipe, pickups=source.recipe.pickups, after=""))


def slug(name: str, usual: str = "part") -> str:
    """Return a name as an id.

    >>> slug("The rose, outside")
    'the-rose-outside'
    """
    words = "".join(letter.lower() if letter.isascii() and letter.isalnum() else " " for letter in name).split()
    return "-".join(words)[:50] or usual


def _toned(name: str, number: int) -> str:
    return fitted_words(name, lambda one: phrase("{name}, tone {number}", name=one, number=number))


def free_id(wish: str, taken: list[str]) -> str:
    """Return the wish, or the wish with the first number that makes it free.

    >>> free_id("petal", ["petal", "petal-2"])
    'petal-3'
    """
    stem, _, tail = wish.rpartition("-")
    stem = stem if stem and tail.isdigit() else wish
    candidate, number = wish[:MOST_ID], 1
    while candidate in taken:
        number += 1
        candidate = fitted(stem, f"-{number}", MOST_ID)
    return candidate


def new_name(plan: Plan, wish: str) -> str:
    """Return what a new piece is called: as wished, or with the first number that no other piece or part bears.

    What is found about a piece names it, and of two that are called the same nobody knows which.
    """
    taken = {one.name for one in plan.motifs} | {one.name for one in plan.parts}
    candidate, number = fitted(wish), 1
    while candidate in taken:
        number += 1
        candidate = fitted(wish, f" ({number})")
    return candidate
