"""Loads for the parts of a motif that no load of the plan suits: found in the kit by the wish of the part's role."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from pennello.aim.wish import Stop, Wanted, usual_coat_um
from pennello.design.edits import free_id, with_brush, with_cake, with_stroke
from pennello.design.load_kinds import main_way
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.suiting import best_load, suits
from pennello.design.wishing import with_load_wished
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Portion
from pennello.kit.paint import Paint
from pennello.kit.shelf import Kit
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.motif import Motif, Part
from pennello.motif.roles import Role
from pennello.path.cubic import line
from pennello.phrases import phrase
from pennello.solve.candidates import Tried, search
from pennello.solve.coats import goal_for
from pennello.solve.finds import NoLoadError
from pennello.solve.kit import at_hand

_TIPS = (ApplicatorKind.ROUND, ApplicatorKind.LINER, ApplicatorKind.DAUBER)
_SWEEPS = 12
_BEYOND_MM = 60.0


def with_loads_for(plan: Plan, kind: Motif, kit: Kit | None = None) -> Plan:
    """Return the plan with a load for each part of a motif that none of its own suits.

    They are looked for in the plan's cakes, the kit's, or where that has none the shipped ones, by the wish of the
    part's role (`roles`), with the part's usual brush; a role of one colour is dipped into one paint. Where no cake is
    as wide as that brush nothing is made: the motif takes the nearest load of the plan, and where the plan has none at
    all, one paint of the role.
    """
    cakes: dict[str, tuple[str, ...]] = {}
    for part in kind.parts:
        role = part.role.key
        fits = [one for one in plan.strokes if suits(plan, one, part)]
        if not any(one.recipe.cakes == cakes.get(role, one.recipe.cakes) for one in fits):
            with suppress(NoLoadError):
                plan = _with_load(plan, part, kit, cakes.get(role, ()))
        cakes.setdefault(role, best_load(plan, part).recipe.cakes)
    return plan


def _with_load(plan: Plan, part: Part, kit: Kit | None, only: tuple[str, ...]) -> Plan:
    """Return the plan with a load for a part; raises NoLoadError if no cake is as wide as its brush."""
    tool = catalogue.brushes()[part.tool]
    if not any(brush.id == tool.id for brush in plan.brushes):
        plan = with_brush(plan, tool)
    tool = plan.brush(tool.id)
    role = part.role
    try:
        plan, pickup = _dipped(plan, role, tool) if role.one_colour else _swept(plan, role, tool, kit, only)
    except NoLoadError:
        if plan.strokes:
            raise
        plan, pickup = _dipped(plan, role, tool)
    new = PlanStroke(
        free_id(f"{part.role.key}-{tool.id}", [stroke.id for stroke in plan.strokes]),
        f"{part.name[0].upper()}{part.name[1:]}",
        tool.id,
        Recipe((pickup,)),
        Stroke(line((0.0, -_BEYOND_MM), (40.0, -_BEYOND_MM)), Nib(NibMode.FOLLOWING, 90.0)),
        Wanted((Stop(plan.paints[0].id),)),
    )
    return with_load_wished(with_stroke(plan, new), new.id)


def _dipped(plan: Plan, role: Role, tool: Applicator) -> tuple[Plan, PickUp]:
    """Return one paint for the whole tool: as a pan of its own."""
    name = role.wish[0]
    if not any(paint.id == name for paint in plan.paints):
        plan = replace(plan, paints=(*plan.paints, catalogue.paints()[name]))
    return plan, PickUp(pan=(Portion(name, 1.0),), passes=_SWEEPS, way=main_way(tool), drift_mm=tool.drift_mm)


def _swept(plan: Plan, role: Role, tool: Applicator, kit: Kit | None, only: tuple[str, ...]) -> tuple[Plan, PickUp]:
    """Return the window of a cake at hand that comes nearest to the role's wish, its cake in the plan.

    It is one of `only` where such a cake is wide enough.
    """
    cakes, paints = _cakes(plan, kit)
    wide = tuple(one for one in cakes if one.id in only and one.width_mm >= tool.width_mm)
    cakes = wide or cakes
    wanted = role_wish(role, tool)
    skin = skin_spectrum(plan.skin)
    tried = Tried(tool, goal_for(wanted, tool.width_mm, paints, skin), wanted.coat_um, (tool.drift_mm,))
    found = search(cakes, [tried], paints, skin).found
    if not found:
        raise NoLoadError(
            phrase(
                "No cake here is as wide as the brush ({width_mm:.1f} mm); take a narrower brush.",
                width_mm=tool.width_mm,
            )
        )
    best = found[0]
    cake = next(one for one in cakes if one.id == best.cake)
    if not any(one.id == cake.id for one in plan.cakes):
        plan = with_cake(plan, cake, tuple(paints[name] for name in cake.paints))
    pickup = PickUp(
        cake.id,
        offset_mm=best.offset_mm,
        flip=best.flip,
        passes=_SWEEPS,
        way=main_way(tool),
        drift_mm=tool.drift_mm,
    )
    return plan, pickup


def role_wish(role: Role, tool: Applicator) -> Wanted:
    """Return the wish of a role over an edge: its paints from the rim to the heel, evenly."""
    count = len(role.wish)
    stops = tuple(Stop(name, to_u=(n + 1) / count) for n, name in enumerate(role.wish))
    return Wanted(stops, coat_um=usual_coat_um(tool))


def _cakes(plan: Plan, kit: Kit | None) -> tuple[tuple[Cake, ...], dict[str, Paint]]:
    """Return the cakes that may be used, and all paints by id: shipped ones, the kit's, the plan's."""
    hand = at_hand(plan, kit)
    shipped = tuple(one for one in catalogue.cakes().values() if one.id not in {cake.id for cake in hand.cakes})
    owned = kit is not None and len(hand.cakes) > len(plan.cakes)
    return (hand.cakes if owned else (*hand.cakes, *shipped)), {**catalogue.paints(), **hand.by_name}
