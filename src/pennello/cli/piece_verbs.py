"""The verb about what lies on charts: piece."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import replace
from pathlib import Path
from typing import Any

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.chart_verbs import numbers
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number, whole
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.on_chart import with_motif, without_motif
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.errors import OutOfRangeError, UnknownNameError

_PLACE = ("x_mm", "y_mm", "turn_deg", "scale")


def piece_arguments(parser: ArgumentParser) -> None:
    """Say what `piece` takes."""
    plan_argument(parser)
    parser.add_argument("id", nargs="?", metavar="ID", help="a motif or stroke on a chart; without it they are listed")
    parser.add_argument("--name", help="what it is called")
    parser.add_argument("--x-mm", type=length_mm, metavar="MM", help="where, from the chart's origin to the right")
    parser.add_argument("--y-mm", type=length_mm, metavar="MM", help="and down")
    parser.add_argument("--turn-deg", type=number, metavar="DEG")
    parser.add_argument("--scale", type=number, metavar="N")
    parser.add_argument("--twin", choices=("yes", "no"), help="its mirror image across the midline, too")
    parser.add_argument("--one-sided", choices=("yes", "no"), help="it differs left and right on purpose")
    parser.add_argument("--per-load", type=whole, metavar="N", help="strokes from one load")
    parser.add_argument("--set", action="append", default=[], metavar="KEY=VALUE", help="a number of the motif")
    parser.add_argument("--load", action="append", default=[], metavar="PART=STROKE", help="the load of a part")
    parser.add_argument("--remove", action="store_true", help="take it off the chart")
    parser.add_argument("--out", type=Path, metavar="FILE", help="write here instead of over the plan")
    json_argument(parser)


@verb("piece", "what lies on charts: list it, move it, change it, take it away", piece_arguments)
def piece_verb(args: Namespace) -> int:
    """List what lies on charts, or change one of it."""
    plan = read_plan(args.plan)
    if args.id is not None:
        placed = _placed(plan, args.id)
        plan = without_motif(plan, placed.id) if args.remove else with_motif(plan, _changed(plan, placed, args))
        write_plan(plan, args.out or args.plan)
    told = [_told(placed) for placed in plan.motifs]
    if args.json:
        write_json({"pieces": told})
        return 0
    for one in told:
        words = [f"{one['id']}: {one['name']} on {one['chart']}, {one['x_mm']:g}, {one['y_mm']:g} mm"]
        words += ["its mirror image too"] * one["twin"] + ["on one side on purpose"] * one["one_sided"]
        print(", ".join(words))
    return 0


def _placed(plan: Plan, name: str) -> PlacedMotif:
    found = next((one for one in plan.motifs if one.id == name), None)
    if found is None:
        raise UnknownNameError("piece", name, [one.id for one in plan.motifs])
    return found


def _changed(plan: Plan, placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    given = {name: getattr(args, name) for name in _PLACE if getattr(args, name) is not None}
    changes: dict[str, Any] = {"place": replace(placed.place, **given)} if given else {}
    changes |= {name: getattr(args, name) == "yes" for name in ("twin", "one_sided") if getattr(args, name)}
    changes |= {name: getattr(args, name) for name in ("name", "per_load") if getattr(args, name) is not None}
    if args.set:
        changes["values"] = tuple({**dict(placed.values), **numbers(args.set)}.items())
    if args.load:
        changes["loads"] = tuple({**placed.load_of, **_loads(plan, args.load)}.items())
    return replace(placed, **changes)


def _loads(plan: Plan, texts: list[str]) -> dict[str, str]:
    found = {}
    for text in texts:
        part, equals, stroke = text.partition("=")
        if not equals:
            raise OutOfRangeError("--load", text, "PART=STROKE, as in petal=dahlia-petal")
        found[part] = plan.stroke(stroke).id
    return found


def _told(placed: PlacedMotif) -> dict[str, Any]:
    return {
        "id": placed.id,
        "name": placed.name,
        "motif": placed.motif,
        "chart": placed.chart,
        **{name: getattr(placed.place, name) for name in (*_PLACE, "mirrored")},
        "twin": placed.twin,
        "one_sided": placed.one_sided,
        "per_load": placed.per_load,
        "loads": placed.load_of,
        "set": dict(placed.values),
    }
