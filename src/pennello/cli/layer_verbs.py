"""The verbs about what lies over the paint, and how it reads: layer, contrast."""

from __future__ import annotations

from argparse import Namespace
from dataclasses import replace
from typing import Any

from pennello.chart.chart import Point
from pennello.cli.main import write_json
from pennello.cli.plan_file import read_plan, write_plan
from pennello.colour.skin import ita_class
from pennello.design.layers import (
    Layer,
    amount_of,
    every_layer,
    hand_drawn,
    layer_named,
    lines_of,
    moved_layer,
    sized_layer,
    stencil_of,
    with_amount,
    with_layer,
    without_layer,
)
from pennello.design.marks import Glitter, Lines, Reserved
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan
from pennello.design.reading import SKINS_ITA, readings
from pennello.errors import OutOfRangeError
from pennello.files.svg import read_svg
from pennello.units import parse_number


def layer_verb(wish: Namespace) -> int:
    """List what lies over the paint, or add, change or take away one of it."""
    plan = read_plan(wish.plan)
    if wish.name is not None:
        plan = _changed(plan, wish)
        write_plan(plan, wish.out or wish.plan)
    listed = [_told(layer) for layer in every_layer(plan)]
    if wish.json:
        write_json({"layers": listed})
    else:
        for one in listed:
            print(f"{one['kind']:8} {one['name']}: {one['width_mm']:g} mm wide on {one['chart']} at {one['at_mm']} mm")
    return 0


def _changed(plan: Plan, wish: Namespace) -> Plan:
    if wish.remove:
        return without_layer(plan, layer_named(plan, wish.name))
    old = None if wish.add else layer_named(plan, wish.name)
    layer = old if old is not None else _new(plan, wish)
    at = _point(plan, wish, old)
    if at is not None:
        layer = moved_layer(layer, *at)
    if wish.width_mm is not None:
        layer = sized_layer(layer, wish.width_mm / 2)
    if not isinstance(layer, Reserved):
        if wish.amount is not None:
            layer = with_amount(layer, wish.amount)
        if wish.colour is not None:
            layer = replace(layer, srgb=wish.colour)
        if wish.line_mm is not None and isinstance(layer, Lines):
            layer = replace(layer, line_mm=wish.line_mm)
    return with_layer(plan, layer, old)


def _new(plan: Plan, wish: Namespace) -> Layer:
    if wish.name in [one.name for one in every_layer(plan)]:
        raise OutOfRangeError("the name of a new layer", wish.name, "a name that no other one has")
    if wish.add == Reserved.word:
        return Reserved(wish.name, 0.0, 0.0, chart=wish.chart)
    if wish.add == Glitter.word:
        return Glitter(wish.name, 0.0, 0.0, chart=wish.chart, seed=len(plan.overlays) + 1)
    if wish.add == Lines.word:
        lines = read_svg(wish.svg, dots=True) if wish.svg else ()
        lines += tuple(hand_drawn(_points(text)) for text in wish.points or ())
        return lines_of(wish.name, lines, wish.chart)
    if wish.svg is None:
        raise OutOfRangeError("--add stencil", "no outlines", "--svg FILE with closed outlines")
    return stencil_of(wish.name, tuple(read_svg(wish.svg)), (0.0, 0.0), wish.chart)


def _points(text: str) -> list[Point]:
    """Return the points of a line typed as "x,y x,y ..."."""
    try:
        points = [(parse_number(x), parse_number(y)) for x, y in (pair.split(",") for pair in text.split())]
    except ValueError:
        points = []
    if not points:
        raise OutOfRangeError("--points", text, 'mm as "x,y x,y ..."; one point is a dot')
    return points


def _point(plan: Plan, wish: Namespace, old: Layer | None) -> Point | None:
    chart = chart_of(plan, old.chart if old is not None else wish.chart)
    if wish.at is not None:
        return chart.landmark(wish.at)
    if wish.x_mm is None and wish.y_mm is None:
        return None
    start = (old.x_mm, old.y_mm) if old is not None else (0.0, 0.0)
    return (start[0] if wish.x_mm is None else wish.x_mm, start[1] if wish.y_mm is None else wish.y_mm)


def _told(layer: Layer) -> dict[str, Any]:
    told = {"name": layer.name, "chart": layer.chart, "at_mm": [layer.x_mm, layer.y_mm]}
    if isinstance(layer, Reserved):
        return {"kind": "place", **told, "width_mm": 2 * layer.radius_mm}
    look = {"width_mm": layer.width_mm, "amount": amount_of(layer), "srgb": layer.srgb}
    lines = {"lines": len(layer.outlines), "line_mm": layer.line_mm} if isinstance(layer, Lines) else {}
    return {"kind": layer.word, **told, **look, **lines}


def contrast_verb(wish: Namespace) -> int:
    """Say how each load stands out from skins."""
    plan = read_plan(wish.plan)
    found = readings(plan, tuple(wish.skin) if wish.skin else SKINS_ITA)
    if wish.json:
        write_json(
            {
                "formula": "WCAG 2.1 contrast ratio, an even coat (predicted)",
                "readings": [
                    {
                        "stroke": one.stroke,
                        "skin_ita_deg": one.ita_deg,
                        "rim": one.rim,
                        "heel": one.heel,
                        "within": one.within,
                        "reads": one.reads,
                    }
                    for one in found
                ],
            }
        )
    else:
        for one in found:
            word = "reads" if one.reads else "hardly reads: outline it"
            print(
                f"{one.stroke} on {ita_class(one.ita_deg)} skin (ITA {one.ita_deg:.0f}°): rim {one.rim:.2f} : 1, "
                f"heel {one.heel:.2f} : 1, {word}"
            )
    return 0
