"""The verbs about glitter, stencils, gems and places kept, and how loads read: layer, contrast."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import replace
from pathlib import Path
from typing import Any

from pennello.chart.chart import Point
from pennello.cli.asking import json_argument, light_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number
from pennello.cli.plan_file import in_light, read_plan, write_plan
from pennello.colour.skin import ita_class
from pennello.design.layers import (
    Layer,
    amount_of,
    every_layer,
    layer_named,
    moved_layer,
    sized_layer,
    stencil_of,
    turned_layer,
    with_amount,
    with_layer,
    without_layer,
)
from pennello.design.marks import Gem, GemShape, Glitter, Reserved, Stencil
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan
from pennello.design.reading import SKINS_ITA, readings
from pennello.errors import OutOfRangeError
from pennello.files.svg import read_svg
from pennello.phrases import phrase


def layer_arguments(parser: ArgumentParser) -> None:
    """Say what `layer` takes."""
    plan_argument(parser)
    parser.add_argument("name", nargs="?", help=phrase("what to add, change or take away; without it they are listed"))
    parser.add_argument("--add", choices=("glitter", "stencil", "gem", "place"), help=phrase("add one of that name"))
    parser.add_argument("--svg", type=Path, metavar="FILE", help=phrase("outlines of a stencil to add"))
    parser.add_argument("--chart", default="face", metavar="NAME", help=phrase("which chart, default face"))
    parser.add_argument("--at", metavar="LANDMARK", help=phrase("at a landmark of the chart"))
    parser.add_argument(
        "--x-mm", type=length_mm, metavar="MM", help=phrase("or where, from the chart's origin to the right")
    )
    parser.add_argument("--y-mm", type=length_mm, metavar="MM", help=phrase("and down"))
    parser.add_argument("--width-mm", type=length_mm, metavar="MM", help=phrase("its width"))
    parser.add_argument(
        "--turn-deg", type=number, metavar="DEG", help=phrase("a stencil or gem turned about its middle")
    )
    parser.add_argument("--gem", choices=[one.value for one in GemShape], help=phrase("shape of a gem"))
    parser.add_argument(
        "--amount", type=number, metavar="N", help=phrase("grains a cm², 1 to 400; or cover, 0.05 to 1")
    )
    parser.add_argument("--colour", metavar="HEX")
    parser.add_argument("--remove", action="store_true", help=phrase("take it away"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("layer", phrase("glitter, stencils, gems, places kept free: list, add, change"), layer_arguments)
def layer_verb(args: Namespace) -> int:
    """List glitter, stencils, gems and places kept, or add, change or take away one of them."""
    plan = read_plan(args.plan)
    if args.name is not None:
        plan = _changed(plan, args)
        write_plan(plan, args.out or args.plan)
    listed = [_told(layer) for layer in every_layer(plan)]
    if args.json:
        write_json({"layers": listed})
    else:
        for one in listed:
            print(
                phrase(
                    "{one:8} {one_2}: {one_3:g} mm wide on {one_4} at {one_5} mm",
                    one=one["kind"],
                    one_2=one["name"],
                    one_3=one["width_mm"],
                    one_4=one["chart"],
                    one_5=one["at_mm"],
                )
            )
    return 0


def _changed(plan: Plan, args: Namespace) -> Plan:
    if args.remove:
        return without_layer(plan, layer_named(plan, args.name))
    old = None if args.add else layer_named(plan, args.name)
    layer = old if old is not None else _new(plan, args)
    at = _point(plan, args, old)
    if at is not None:
        layer = moved_layer(layer, *at)
    if args.width_mm is not None:
        layer = sized_layer(layer, args.width_mm / 2)
    if args.turn_deg is not None:
        layer = turned_layer(layer, args.turn_deg)
    if args.gem is not None and isinstance(layer, Gem):
        layer = replace(layer, shape=GemShape(args.gem))
    if not isinstance(layer, Reserved):
        if args.amount is not None:
            layer = with_amount(layer, args.amount)
        if args.colour is not None:
            layer = replace(layer, srgb=args.colour)
    return with_layer(plan, layer, old)


def _new(plan: Plan, args: Namespace) -> Layer:
    if args.name in [one.name for one in every_layer(plan)]:
        raise OutOfRangeError(phrase("the name of a new layer"), args.name, phrase("a name that no other one has"))
    if args.add == Reserved.word:
        return Reserved(args.name, 0.0, 0.0, chart=args.chart)
    if args.add == Glitter.word:
        return Glitter(args.name, 0.0, 0.0, chart=args.chart, seed=len(plan.overlays) + 1)
    if args.add == Gem.word:
        return Gem(args.name, 0.0, 0.0, 6.0, 6.0, chart=args.chart)
    if args.svg is None:
        raise OutOfRangeError(phrase("--add stencil"), phrase("no outlines"), phrase("--svg FILE with closed outlines"))
    return stencil_of(args.name, tuple(read_svg(args.svg)), (0.0, 0.0), args.chart)


def _point(plan: Plan, args: Namespace, old: Layer | None) -> Point | None:
    chart = chart_of(plan, old.chart if old is not None else args.chart)
    if args.at is not None:
        return chart.landmark(args.at)
    if args.x_mm is None and args.y_mm is None:
        return None
    start = (old.x_mm, old.y_mm) if old is not None else (0.0, 0.0)
    return (start[0] if args.x_mm is None else args.x_mm, start[1] if args.y_mm is None else args.y_mm)


def _told(layer: Layer) -> dict[str, Any]:
    told = {"name": layer.name, "chart": layer.chart, "at_mm": [layer.x_mm, layer.y_mm]}
    if isinstance(layer, Reserved):
        return {"kind": "place", **told, "width_mm": 2 * layer.radius_mm}
    look = {"width_mm": layer.width_mm, "amount": amount_of(layer), "srgb": layer.srgb}
    turned = {"turn_deg": layer.turn_deg} if isinstance(layer, Stencil | Gem) else {}
    shape = {"shape": layer.shape.value} if isinstance(layer, Gem) else {}
    return {"kind": layer.word, **told, **look, **turned, **shape}


def contrast_arguments(parser: ArgumentParser) -> None:
    """Say what `contrast` takes."""
    plan_argument(parser)
    parser.add_argument(
        "--skin", type=number, action="append", metavar="ITA", help=phrase("a skin (default: five, light to dark)")
    )
    light_argument(parser)
    json_argument(parser)


@verb("contrast", phrase("how a plan's loads stand out from light and dark skin"), contrast_arguments)
def contrast_verb(args: Namespace) -> int:
    """Say how each load stands out from skins."""
    plan = in_light(read_plan(args.plan), args.light)
    found = readings(plan, tuple(args.skin) if args.skin else SKINS_ITA)
    if args.json:
        write_json(
            {
                "formula": phrase("WCAG 2.1 contrast ratio, an even coat (predicted)"),
                "light": plan.light.value,
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
            word = phrase("reads") if one.reads else phrase("hardly reads: outline it")
            print(
                phrase(
                    "{stroke} on {ita_class} skin (ITA {ita_deg:.0f}°): rim {rim:.2f} : 1, heel {heel:.2f} : 1, {word}",
                    stroke=one.stroke,
                    ita_class=ita_class(one.ita_deg),
                    ita_deg=one.ita_deg,
                    rim=one.rim,
                    heel=one.heel,
                    word=word,
                )
            )
    return 0
