"""Whether a plan can be written and opened again: limits, ids that are there once, names that point somewhere."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from typing import Protocol

from pennello import limits
from pennello.chart.catalogue import CHARTS, chart
from pennello.design.marks import Stencil
from pennello.design.plan import Plan
from pennello.errors import PennelloError, UnknownNameError, clipped
from pennello.phrases import mark, phrase, told


class Named(Protocol):
    """A thing of a plan: its id, and what it is called."""

    @property
    def id(self) -> str:
        """Key among its kind."""

    @property
    def name(self) -> str:
        """What it is called."""


class DoubleNameError(PennelloError):
    """Two things of one kind share an id."""

    def __init__(self, where: str, name: str) -> None:
        super().__init__(
            phrase("{where}: the id '{name}' is used twice; give each its own.", where=where, name=clipped(name))
        )
        self.where = where
        self.name = name


class NoSuchLinkError(PennelloError):
    """A load cannot go on with what it names, or a part lie within it."""

    def __init__(self, where: str, problem: str) -> None:
        super().__init__(f"{where}: {problem}")
        self.where = where


def check_plan(plan: Plan) -> None:
    """Check that a plan can be written and opened again: the reader, the writer and every edit ask here.

    Raises
    ------
    OutOfRangeError
        If a name is too long or there is too much of a kind.
    DoubleNameError, UnknownNameError, NoSuchLinkError
        With the place in the file's own words.
    """
    _check_limits(plan)
    check_references(plan)


def _check_limits(plan: Plan) -> None:
    limits.check_name(phrase("the title"), plan.title)
    limits.check_name(phrase("the place"), plan.place)
    for kind, several, things, most in (
        (mark("paint"), phrase("paints"), plan.paints, limits.MOST_PAINTS),
        (mark("cake"), phrase("cakes"), plan.cakes, limits.MOST_CAKES),
        (mark("brush"), phrase("brushes"), plan.brushes, limits.MOST_BRUSHES),
        (mark("stroke"), phrase("strokes"), plan.strokes, limits.MOST_STROKES),
        (mark("motif"), phrase("motifs"), plan.motifs, limits.MOST_MOTIFS),
        (mark("part"), phrase("parts"), plan.parts, limits.MOST_PARTS),
    ):
        limits.check_count(several, len(things), most)
        for thing in things:
            limits.check_named(told(kind), thing.id, thing.name)
    for cake in plan.cakes:
        for stripe in cake.stripes:
            limits.check_count(
                phrase("paints on top of a stripe of {cake}", cake=clipped(cake.name)),
                len(stripe.dirt),
                limits.MOST_DIRT,
            )
    limits.check_count(phrase("places kept"), len(plan.reserved), limits.MOST_RESERVED)
    for kept in plan.reserved:
        limits.check_name(phrase("the name of a place kept"), kept.name)
        limits.check_name(phrase("what a place is kept for"), kept.for_motif)
    for photo in plan.photos:
        limits.check_name(phrase("the file of a photo"), photo.file, limits.MOST_STEP_NAME)
    limits.check_count(phrase("layers over the paint"), len(plan.overlays), limits.MOST_OVERLAYS)
    for overlay in plan.overlays:
        limits.check_name(phrase("the name of a layer"), overlay.name)
        count = len(overlay.outlines) if isinstance(overlay, Stencil) else 0
        limits.check_count(phrase("outlines of {overlay}", overlay=clipped(overlay.name)), count, limits.MOST_OUTLINES)
    _check_ordering(plan)


def _check_ordering(plan: Plan) -> None:
    ordering = plan.ordering
    limits.check_count(phrase("steps of the order"), len(ordering.sequence), limits.MOST_SEQUENCE)
    for step in ordering.sequence:
        limits.check_name(phrase("a step of the order"), step, limits.MOST_STEP_NAME)
    limits.check_count(phrase("rules of the order"), len(ordering.rules), limits.MOST_RULES)
    for rule in ordering.rules:
        for name in (rule.earlier, rule.later):
            limits.check_name(phrase("a part that a rule names"), name)


def check_references(plan: Plan) -> None:
    """Check that ids are unique and that all names point to something.

    Raises
    ------
    DoubleNameError, UnknownNameError
        With the place in the file's own words.
    """
    known = {
        "paints": _unique("paints", plan.paints),
        "cakes": _unique("cakes", plan.cakes),
        "brushes": _unique("brushes", plan.brushes),
    }
    strokes = _unique("strokes", plan.strokes)
    for i, cake in enumerate(plan.cakes):
        for j, stripe in enumerate(cake.stripes):
            where = f"cakes[{i}].stripes[{j}]"
            _known(mark("paint"), stripe.paint, known["paints"], f"{where}.paint")
            for k, portion in enumerate(stripe.dirt):
                _known(mark("paint"), portion.paint, known["paints"], f"{where}.dirt[{k}].paint")
    for i, stroke in enumerate(plan.strokes):
        here = f"strokes[{i}]"
        _known(mark("brush"), stroke.brush, known["brushes"], f"{here}.brush")
        for j, pickup in enumerate(stroke.recipe.pickups):
            place = f"{here}.load.pickups[{j}]"
            if pickup.cake:
                _known(mark("cake"), pickup.cake, known["cakes"], f"{place}.cake")
            for k, portion in enumerate(pickup.pan):
                _known(mark("paint"), portion.paint, known["paints"], f"{place}.pan[{k}].paint")
        for key, stops in (("stops", stroke.wanted.stops), ("end", stroke.wanted.end)):
            for j, stop in enumerate(stops):
                if stop.paint is not None:
                    _known(
                        mark("paint"),
                        stop.paint,
                        known["paints"],
                        f"{here}.wanted.{key}[{j}].paint",
                    )
    _check_leftovers(plan, strokes)
    _check_motifs(plan, strokes)


def _check_motifs(plan: Plan, strokes: dict[str, int]) -> None:
    """Check that every part of a motif is laid with a stroke that is there, and that charts are known."""
    for i, kept in enumerate(plan.reserved):
        _known(mark("chart"), kept.chart, CHARTS, f"reserved[{i}].chart")
    for i, photo in enumerate(plan.photos):
        _known(mark("chart"), photo.chart, CHARTS, f"photos[{i}].chart")
        landmarks = dict(chart(photo.chart, plan.measures).landmarks)
        for key, name in (("one", photo.one), ("other", photo.other)):
            _known(mark("landmark"), name, landmarks, f"photos[{i}].{key}")
    for i, overlay in enumerate(plan.overlays):
        _known(mark("chart"), overlay.chart, CHARTS, f"overlays[{i}].chart")
    pieces, parts = _unique("motifs", plan.motifs), _check_parts(plan)
    for i, made in enumerate(plan.parts):
        if made.id in pieces:
            raise DoubleNameError(f"parts[{i}].id", made.id)
    for i, placed in enumerate(plan.motifs):
        if placed.part:
            _known(mark("part"), placed.part, parts, f"motifs[{i}].part")
        _known(mark("chart"), placed.chart, CHARTS, f"motifs[{i}].chart")
        for part, stroke in placed.loads:
            _known(mark("stroke"), stroke, strokes, f"motifs[{i}].loads.{part}")


def _check_parts(plan: Plan) -> dict[str, int]:
    """Check that parts lie within parts that are there, and none within itself; their ids."""
    parts = _unique("parts", plan.parts)
    for i, part in enumerate(plan.parts):
        where, outer = f"parts[{i}].within", part.within
        passed = {part.id}
        while outer:
            _known(mark("part"), outer, parts, where)
            if outer in passed:
                raise NoSuchLinkError(where, phrase("'{id}' lies within itself; name another part.", id=part.id))
            passed.add(outer)
            outer = plan.parts[parts[outer]].within
    return parts


def _check_leftovers(plan: Plan, strokes: dict[str, int]) -> None:
    """Check that a load goes on only with the leftover of an earlier stroke, in the same brush."""
    for i, stroke in enumerate(plan.strokes):
        before, where = stroke.recipe.after, f"strokes[{i}].load.after"
        if not before:
            continue
        _known(mark("stroke"), before, strokes, where)
        if strokes[before] >= i:
            raise NoSuchLinkError(
                where,
                phrase("'{before}' is not an earlier stroke; move it before '{id}'.", before=before, id=stroke.id),
            )
        if plan.strokes[strokes[before]].brush != stroke.brush:
            raise NoSuchLinkError(
                where, phrase("'{before}' is laid with another brush; its leftover is not in this one.", before=before)
            )


def _unique(kind: str, things: Iterable[Named]) -> dict[str, int]:
    names: dict[str, int] = {}
    for index, thing in enumerate(things):
        if thing.id in names:
            raise DoubleNameError(f"{kind}[{index}].id", thing.id)
        names[thing.id] = index
    return names


def _known(kind: str, name: str, names: Collection[str], where: str) -> None:
    if name not in names:
        raise UnknownNameError(told(kind), name, list(names), where)
