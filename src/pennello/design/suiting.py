"""Loads of a plan that suit a motif's parts: by the role of the part, the brush, and from one cake where one can."""

from __future__ import annotations

import math
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import edge_lab
from pennello.breath import breathe
from pennello.colour.lab import hex_to_lab
from pennello.design.plan import Plan, PlanStroke, Skin, skin_spectrum
from pennello.kept import kept_for_now, kept_small
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Recipe
from pennello.motif.motif import Motif, Part
from pennello.motif.roles import Role

Array = NDArray[np.floating[Any]]

_COLOURED, _GREEN_DEG = 12.0, (95.0, 185.0)
_ONE_COLOUR, _RIM_L, _NEAR = 12.0, 8.0, 32.0
"""In Lab: how little one colour varies, how much lighter a light rim is, how near a role's own colours are."""

_FARTHEST = 1000.0

_FAR = 1.6
"""A brush more than so many times wider or narrower than the usual one does not suit."""

_RIM, _HEEL = slice(0, 8), slice(-16, None)


def suiting_loads(plan: Plan, kind: Motif) -> tuple[tuple[str, str], ...]:
    """Return for each part of a motif the load of the plan that suits it best, from one cake wherever one can.

    What suits is such a brush of about the usual width, the colours of the part's role, and the cake of parts of the
    same role before it. Where nothing suits it is the nearest.
    """
    chosen: list[tuple[str, str]] = []
    cakes: dict[str, tuple[str, ...]] = {}
    for part in kind.parts:
        best = best_load(plan, part, cakes.get(part.role.key))
        cakes.setdefault(part.role.key, best.recipe.cakes)
        chosen.append((part.key, best.id))
    return tuple(chosen)


def best_load(plan: Plan, part: Part, cakes: tuple[str, ...] | None = None) -> PlanStroke:
    """Return the load of a plan that suits a part best, of these cakes if one can; the plan has one at least."""
    return min(plan.strokes, key=partial(_unlike, plan, part, cakes))


def suits(plan: Plan, stroke: PlanStroke, part: Part) -> bool:
    """Return whether a load suits a part: the kind and width of its brush, and its colours."""
    return like_tool(plan.brush(stroke.brush), part) and coloured_for(plan, stroke, part.role)


def like_tool(brush: Applicator, part: Part) -> bool:
    """Return whether a brush is of the usual kind, and of about the usual width."""
    return like_brush(brush, catalogue.brushes()[part.tool])


def like_brush(brush: Applicator, other: Applicator) -> bool:
    """Return whether a brush is of the same kind as another and of about its width."""
    return brush.kind is other.kind and 1 / _FAR <= brush.width_mm / other.width_mm <= _FAR


def coloured_for(plan: Plan, stroke: PlanStroke, role: Role) -> bool:
    """Return whether a load has the colours of a role: green or not, one or several, the rim lighter where it is so."""
    lab = edge_of(plan, stroke)
    if role.light_rim and _green(lab) is not role.green:
        return False
    spread = float(np.linalg.norm(lab - lab.mean(axis=0), axis=1).max())
    if role.one_colour:
        return spread <= _ONE_COLOUR and _off(lab, role) <= _NEAR
    if role.own and _off(lab, role) > _NEAR:
        return False
    lighter = float(lab[_RIM, 0].mean() - lab[_HEEL, 0].mean())
    return spread > _ONE_COLOUR / 2 and (not role.light_rim or lighter >= _RIM_L)


def _off(lab: Array, role: Role) -> float:
    """Return how far a load's rim or heel is from the role's wish, the worse of the two, in Lab."""
    ends = ((lab[_RIM], role.wish[0]), (lab[_HEEL], role.wish[-1]))
    return max(float(np.linalg.norm(part.mean(axis=0) - _lab(paint))) for part, paint in ends)


def _green(lab: Array) -> bool:
    _, a, b = lab.mean(axis=0)
    return math.hypot(a, b) > _COLOURED and _GREEN_DEG[0] <= math.degrees(math.atan2(b, a)) % 360 <= _GREEN_DEG[1]


def edge_of(plan: Plan, stroke: PlanStroke) -> Array:
    """Return the loaded edge of a stroke as its usual coat looks on the plan's skin, L*, a*, b*, shape (bins, 3)."""
    if stroke.recipe.after:
        return _looks(plan, plan.edge(stroke.id))
    cakes = tuple(plan.cake(name) for name in stroke.recipe.cakes)
    return _loaded_looks(stroke.recipe, plan.brush(stroke.brush), cakes, plan.paints, plan.skin)


@kept_for_now
def _loaded_looks(
    recipe: Recipe, brush: Applicator, cakes: tuple[Cake, ...], paints: tuple[Paint, ...], skin: Skin
) -> Array:
    edge = load(recipe, {cake.id: cake for cake in cakes}, brush)
    return np.asarray(edge_lab(edge, {paint.id: paint for paint in paints}, skin_spectrum(skin)))


def _looks(plan: Plan, edge: LoadedEdge) -> Array:
    paints = plan.paints_by_id
    return np.asarray(edge_lab(edge, paints, skin_spectrum(plan.skin)))


@kept_small
def _lab(paint: str) -> Array:
    """Return L*, a*, b* of a shipped paint in mass."""
    return hex_to_lab(catalogue.paints()[paint].srgb)


def _unlike(
    plan: Plan, part: Part, cakes: tuple[str, ...] | None, stroke: PlanStroke
) -> tuple[bool, bool, float, bool, float]:
    breathe()
    brush, role, lab = plan.brush(stroke.brush), part.role, edge_of(plan, stroke)
    other_cake = cakes is not None and stroke.recipe.cakes != cakes
    off = 0.0 if coloured_for(plan, stroke, role) else _off(lab, role) if role.own else _FARTHEST
    wrong_green = _green(lab) is not role.green
    apart = abs(brush.width_mm - catalogue.brushes()[part.tool].width_mm)
    return not like_tool(brush, part), wrong_green, off, other_cake, apart
