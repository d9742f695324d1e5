"""What is odd about a painted chart, each with the place where it is: what a painter would see on the face too late."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.chart.chart import Chart
from pennello.design.aiming import foot_of_swirl, stripes_astray
from pennello.design.computing import LARGE, Computing
from pennello.design.layer_checks import odd_layers
from pennello.design.line_work import is_line_work
from pennello.design.odd import NEAR_MM, ZONE_NEAR, found_at, label_words
from pennello.design.on_chart import chart_of, pieces_on, prints_of
from pennello.design.parts import line_of, pieces_in
from pennello.design.placed import SINGLE, LaidPiece, PlacedMotif, made_of
from pennello.design.plan import Plan
from pennello.design.seated import keeps_its_stripe
from pennello.design.touch import (
    alike,
    beyond,
    middle,
    mirrored,
    nearest,
    overlap,
    reserved_shape,
    skin_shape,
    swept,
    together,
    zone_shape,
)
from pennello.finding import Code, Finding
from pennello.kit.paint import Near
from pennello.motif.catalogue import motif
from pennello.motif.motif import Motif
from pennello.motif.roles import Check
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

_BEYOND_SHARE = 0.02
_LINE_MM = 4.0
_LEADS_MM = 25.0


def odd_on(plan: Plan, key: str) -> tuple[Finding, ...]:
    """Return what is odd about a chart, in the order of painting."""
    chart = chart_of(plan, key)
    pieces = pieces_on(plan, key)
    here = [placed for placed in plan.motifs if placed.chart == key]
    of = {placed.id: [piece for piece in pieces if piece.motif == placed.id] for placed in here}
    laid = {name: together([swept(plan, piece) for piece in mine]) for name, mine in of.items()}
    one_sided = _one_sided(plan, here, laid, chart)
    found: list[Finding] = []
    for placed in here:
        mine = of[placed.id]
        found += _not_laid(placed, mine)
        found += _of_ring(plan, placed)
        found += _without_twin(plan, placed, one_sided)
        found += _over_zones(plan, placed, mine, chart)
        found += _labels(plan, placed, mine, chart)
        found += _bound(plan, placed, chart)
        found += _beside(plan, placed, mine, chart)
        found += _sizes(plan, placed)
        found += _nowhere(plan, placed, mine, pieces, chart)
        found += _reserved(plan, placed, mine)
    found += stripes_astray([(placed, of[placed.id]) for placed in here], chart)
    return (*found, *odd_layers(plan, key, chart, [(one, laid[one.id]) for one in here]))


def _kind(placed: PlacedMotif) -> Motif | None:
    return motif(placed.motif) if placed.motif else None


def _of_ring(plan: Plan, placed: PlacedMotif) -> Iterator[Finding]:
    """Gaps between the petals of an outer row that should be closed; twins close them."""
    kind = _kind(placed)
    if kind is None or Check.CLOSED_RING not in kind.checks or kind.values(dict(placed.values)).get("twins", 0) >= 0.5:
        return
    outer = next((one for one in made_of(placed, prints_of(plan, placed)).spacings if one.row == 0), None)
    if outer is not None and outer.overlap_mm < 0:
        gap = -outer.overlap_mm * placed.place.scale
        text = phrase(
            "{placed} has gaps of {gap:.1f} mm between its petals; take one more petal or a wider brush.",
            placed=placed.name,
            gap=gap,
        )
        yield found_at(Code.PETAL_GAP, text, placed.id, placed.place.x_mm, placed.place.y_mm)


def _one_sided(plan: Plan, here: list[PlacedMotif], laid: dict[str, BaseGeometry], chart: Chart) -> set[str]:
    """Return what lies off the midline with nothing like it on the other side, where others are mirrored.

    What is laid is compared, not where it is placed: two strokes that are drawn free are mirror images if they look so.
    What is worked out from other pieces is as they are, or as the light falls: it is never missed for itself.
    """
    if chart.midline_mm is None:
        return set()
    shapes = {one.id: laid[one.id] for one in here if not laid[one.id].is_empty}
    images = {name: mirrored(shape, chart.midline_mm) for name, shape in shapes.items()}
    boxed = _boxed(images)
    off = {name for name, shape in shapes.items() if not alike(shape, images[name])}
    paired = {name for name in off if _has_image(name, shapes[name], boxed)}
    twins = {one.id for one in here if one.twin}
    return off - paired - twins - {one.id for one in here if _never_missed(plan, one)} if paired or twins else set()


def _never_missed(plan: Plan, placed: PlacedMotif) -> bool:
    """Return whether a piece has no other side to miss: it or a part of it differs on purpose, or it is worked out."""
    on_purpose = placed.one_sided or any(part.one_sided for part in line_of(plan, placed.part))
    return on_purpose or (placed.computed is not None and bool(placed.computed.of))


Box = tuple[float, float, float, float]


def _boxed(shapes: dict[str, BaseGeometry]) -> dict[str, tuple[BaseGeometry, Box]]:
    return {name: (shape, shape.bounds) for name, shape in shapes.items()}


def _has_image(name: str, shape: BaseGeometry, images: dict[str, tuple[BaseGeometry, Box]]) -> bool:
    box = shape.bounds
    others = (image for other, (image, its) in images.items() if other != name and _near(box, its))
    return any(alike(shape, image) for image in others)


def _near(one: Box, other: Box) -> bool:
    """Return whether two boxes meet: a look that costs nothing."""
    (left, top, right, bottom), (low, up, high, down) = one, other
    return bool(left <= high and low <= right and top <= down and up <= bottom)


def _without_twin(plan: Plan, placed: PlacedMotif, one_sided: set[str]) -> Iterator[Finding]:
    """A piece off the midline with nothing like it on the other side; a part of such pieces once, at its first."""
    if placed.id not in one_sided:
        return
    name = placed.name
    for part in reversed(line_of(plan, placed.part)):
        pieces = [one for one in pieces_in(plan, part.id) if one.chart == placed.chart and not _never_missed(plan, one)]
        if all(one.id in one_sided for one in pieces):
            if pieces[0] is not placed:
                return
            name = part.name if len(pieces) > 1 else placed.name
            break
    remedy = phrase("mirror it, or say that it differs on purpose")
    text = phrase("{placed} has no piece on the other side, as others have; {remedy}.", placed=name, remedy=remedy)
    yield found_at(Code.MISSING_MIRROR, text, placed.id, placed.place.x_mm, placed.place.y_mm)


def _over_zones(plan: Plan, placed: PlacedMotif, pieces: list[LaidPiece], chart: Chart) -> Iterator[Finding]:
    """Paint where none goes: an open eye, a nostril, lips that it is not meant for. A closed lid may be painted."""
    for zone in chart.zones:
        if zone.kind == "lid":
            continue
        if zone.kind == "lips" and any(plan.stroke(piece.load).near is Near.LIPS for piece in pieces):
            continue
        for piece in pieces:
            shared = overlap(swept(plan, piece), zone_shape(zone))
            if shared is not None:
                text = phrase(
                    "{placed} lies over the {zone}, which stays clear; move it or make it smaller.",
                    placed=placed.name,
                    zone=zone.name,
                )
                yield found_at(Code.KEEP_CLEAR, text, placed.id, *middle(shared))
                break


def _labels(plan: Plan, placed: PlacedMotif, pieces: list[LaidPiece], chart: Chart) -> Iterator[Finding]:
    """Paints that are not marked for the eye area or lips, near them."""
    told: set[tuple[str, str]] = set()
    for zone in chart.zones:
        near = ZONE_NEAR.get(zone.kind)
        if near is None:
            continue
        for piece in pieces:
            banned = [
                plan.paint(name)
                for name in plan.edge(piece.load).paints
                if not plan.paint(name).allowed(near) and (name, zone.kind) not in told
            ]
            shape = swept(plan, piece) if banned else None
            if shape is None or shape.is_empty:
                continue
            x, y, apart = nearest(shape, zone_shape(zone))
            if apart < NEAR_MM:
                told |= {(paint.id, zone.kind) for paint in banned}
                yield found_at(Code.LABEL, label_words(banned[0].name, near), placed.id, x, y)


def _bound(plan: Plan, placed: PlacedMotif, chart: Chart) -> Iterator[Finding]:
    """Find a stripe that cannot stay on its landmark, and a sign that nobody has read."""
    x, y = placed.place.x_mm, placed.place.y_mm
    if why := keeps_its_stripe(plan, placed, chart):
        words = phrase(
            "{placed} does not keep its stripe on its landmark: {why}; choose another, or let it go.",
            placed=placed.name,
            why=why,
        )
        yield found_at(Code.STRIPE_OFF, words, placed.id, x, y)
    if placed.sign is not None and not placed.sign.checked:
        words = phrase(
            '{placed} says "{says}" and nobody who reads it has checked it; let somebody read it.',
            placed=placed.name,
            says=placed.sign.says,
        )
        yield found_at(Code.SIGN_UNREAD, words, placed.id, x, y)


def _beside(plan: Plan, placed: PlacedMotif, pieces: list[LaidPiece], chart: Chart) -> Iterator[Finding]:
    """A stroke that hangs over the edge of what can be painted: a sponge wider than its place."""
    for piece in pieces:
        out = beyond(swept(plan, piece), skin_shape(chart), _BEYOND_SHARE)
        if out is not None:
            brush = plan.brush(plan.stroke(piece.load).brush)
            text = phrase(
                "{placed} reaches beyond the skin: {brush} is wider than its place; shift or narrow it.",
                placed=placed.name,
                brush=brush.name,
            )
            yield found_at(Code.BEYOND, text, placed.id, *middle(out))
            return


def _not_laid(placed: PlacedMotif, pieces: list[LaidPiece]) -> Iterator[Finding]:
    """Loads for parts that are not there, and parts without a load: either way nothing is laid."""
    kind = _kind(placed)
    again = placed.computed is not None and placed.computed.kind is Computing.ECHO  # laid with what it repeats
    parts = [part.key for part in kind.parts] if kind is not None else [SINGLE] * (not again)
    parts += [LARGE] if placed.computed is not None and LARGE in placed.load_of else []
    if placed.computed is not None and not pieces and all(part in placed.load_of for part in parts):
        text = phrase(
            "{placed} comes to nothing: what it goes round, or its place, is not there; name another part.",
            placed=placed.name,
        )
        yield found_at(Code.NO_SUCH_PART, text, placed.id, placed.place.x_mm, placed.place.y_mm)
    for part, _ in placed.loads:
        if part not in parts:
            named = ", ".join(parts)
            text = phrase(
                "{placed} has no part '{part}', so this load lays nothing; its parts are: {named}.",
                placed=placed.name,
                part=part,
                named=named,
            )
            yield found_at(Code.NO_SUCH_PART, text, placed.id, placed.place.x_mm, placed.place.y_mm)
    for part in parts:
        if part not in placed.load_of:
            text = phrase(
                "{placed} has no load for its part '{part}', so that is not laid; give it one.",
                placed=placed.name,
                part=part,
            )
            yield found_at(Code.NO_LOAD, text, placed.id, placed.place.x_mm, placed.place.y_mm)


def _nowhere(
    plan: Plan, placed: PlacedMotif, mine: list[LaidPiece], every: tuple[LaidPiece, ...], chart: Chart
) -> Iterator[Finding]:
    """A swirl or wing, constructed or drawn, whose line begins far from everything: it leads the eye nowhere."""
    kind = _kind(placed)
    foot = None
    if kind is not None and Check.LEADS in kind.checks and mine:
        foot = mine[0].stroke.path.points_mm[0]
    elif placed.way is not None and len(placed.ways) == 1 and is_line_work(plan, placed):
        foot = foot_of_swirl(mine[0].stroke)
    if foot is None:
        return
    start = np.array(foot)
    others = [np.array(piece.stroke.path.points_mm) for piece in every if piece.motif != placed.id]
    marks = np.array([point for _, point in chart.landmarks])
    apart = min([float(np.linalg.norm(points - start, axis=1).min()) for points in [*others, marks]])
    if apart > _LEADS_MM:
        text = phrase(
            "{placed} leads nowhere: its line begins {apart:.0f} mm from anything; aim it or take it off.",
            placed=placed.name,
            apart=apart,
        )
        yield found_at(Code.LEADS_NOWHERE, text, placed.id, float(start[0]), float(start[1]))


def _reserved(plan: Plan, placed: PlacedMotif, pieces: list[LaidPiece]) -> Iterator[Finding]:
    """A stroke over a place that is kept for what comes later."""
    for kept in plan.reserved:
        if kept.chart != placed.chart or kept.for_motif == placed.id:
            continue
        place = reserved_shape(kept)
        for piece in pieces:
            shared = overlap(swept(plan, piece), place)
            if shared is not None:
                text = phrase(
                    "{placed} lies on the place kept for {kept}; move it.", placed=placed.name, kept=kept.name
                )
                yield found_at(Code.RESERVED, text, placed.id, *middle(shared))
                break


def _sizes(plan: Plan, placed: PlacedMotif) -> Iterator[Finding]:
    """A motif sized so that it no longer fits its brush; line work too wide for its brush."""
    kind = _kind(placed)
    if kind is None:
        return
    values, scale = kind.values(dict(placed.values)), placed.place.scale
    for key in ("spread_mm", "leaf_mm"):
        for part, stroke in placed.loads:
            width = plan.brush(plan.stroke(stroke).brush).width_mm
            if key in values and values[key] * scale < 0.35 * width:
                size = values[key] * scale
                text = phrase(
                    "{placed} is too small for its brush: {size:.0f} mm against {width:.0f} mm "
                    "({part}); take a narrower brush or make it larger.",
                    placed=placed.name,
                    size=size,
                    width=width,
                    part=part,
                )
                yield found_at(Code.TOO_SMALL, text, placed.id, placed.place.x_mm, placed.place.y_mm)
                return
    thin = {part.key for part in kind.parts if Check.LINE_WORK in part.checks}
    for part, stroke in placed.loads:
        brush = plan.brush(plan.stroke(stroke).brush)
        if part in thin and not brush.kind.dips and brush.width_mm > _LINE_MM:
            text = phrase(
                "{placed} is line work, and {brush} lays {width_mm:.0f} mm; take a round or a liner.",
                placed=placed.name,
                brush=brush.name,
                width_mm=brush.width_mm,
            )
            yield found_at(Code.LINE_TOO_WIDE, text, placed.id, placed.place.x_mm, placed.place.y_mm)
            return
