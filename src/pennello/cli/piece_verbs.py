"""The verb about what lies on charts: piece."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.chart_verbs import numbers
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.bound import Sign, StripeOn
from pennello.design.clock import LINERS
from pennello.design.computing import Computed, Computing, LaidBy
from pennello.design.holds import numbers_in_hand, with_hold
from pennello.design.line_work import USUAL_LINE_MM, Taper, hand_drawn, press_for, with_line_load, with_line_work
from pennello.design.made_numbers import numbers_of, with_number
from pennello.design.on_chart import chart_of, seat, with_motif, without_motif
from pennello.design.part_edits import put_in, with_new_piece
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.pulled import Sample, points_of, pulled_stroke, with_point_at, with_press, with_pulled, with_way
from pennello.design.ribs import with_rib_turned
from pennello.design.seated import keeps_its_stripe, places_for_stripes
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.svg import read_svg
from pennello.lay.families.hold import Hold
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase
from pennello.units import is_count, parse_number

_PLACE = ("x_mm", "y_mm", "turn_deg", "scale")


def _changed_arguments(parser: ArgumentParser) -> None:
    """Say what of a piece is given or changed."""
    parser.add_argument("--part", metavar="PART", help=phrase("the part of the design that it belongs to; '' for none"))
    parser.add_argument("--name", help=phrase("what it is called"))
    parser.add_argument(
        "--x-mm", type=length_mm, metavar="MM", help=phrase("where, from the chart's origin to the right")
    )
    parser.add_argument("--y-mm", type=length_mm, metavar="MM", help=phrase("and down"))
    parser.add_argument("--turn-deg", type=number, metavar="DEG")
    parser.add_argument("--scale", type=number, metavar="N")
    parser.add_argument("--twin", choices=("yes", "no"), help=phrase("its mirror image across the midline, too"))
    parser.add_argument("--one-sided", choices=("yes", "no"), help=phrase("it differs left and right on purpose"))
    parser.add_argument(
        "--short", action="append", default=[], metavar="KEY=VALUE", help=phrase("another number in the short form")
    )
    parser.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="KEY=VALUE",
        help=phrase(
            "a number of the motif, or of a pulled stroke: waves, wave_mm, lift_mm, flip_mm, those of its hold; of "
            "what is worked out: off_mm, margin_mm, light_deg, times, smaller, by_turns (0, 1)"
        ),
    )
    parser.add_argument(
        "--by", choices=[one.value for one in LaidBy], help=phrase("of a ground or fill: how it is laid")
    )
    parser.add_argument(
        "--load", action="append", default=[], metavar="PART=LOAD", help=phrase("the load of a role; add: LOAD alone")
    )
    parser.add_argument(
        "--point", action="append", default=[], metavar="N=X,Y", help=phrase("a point of a stroke's way, mm")
    )
    parser.add_argument(
        "--rib",
        action="append",
        default=[],
        metavar="N=DEG",
        help=phrase("turn the chisel of a stroke at a rib, 0 the first"),
    )
    parser.add_argument(
        "--press", type=number, metavar="P", help=phrase("pressure of a stroke where it is greatest, 0.05 to 1")
    )


def piece_arguments(parser: ArgumentParser) -> None:
    """Say what `piece` takes."""
    plan_argument(parser)
    parser.add_argument("id", nargs="?", metavar="ID", help=phrase("what lies on a chart, or 'add'; without it: list"))
    parser.add_argument(
        "--points",
        action="append",
        metavar="'X,Y X,Y ...'",
        help=phrase(
            "add: the way of a stroke, mm on its chart, as '0,0 10,-5'; again for more lines; one point is a dot. "
            "As a hand pulls it: X,Y,PRESSURE,TURN, 0.05 to 1 and degrees of the chisel, 'flip' where it is flipped"
        ),
    )
    parser.add_argument(
        "--svg", type=Path, metavar="FILE", help=phrase("add: lines and dots of an SVG file, 1 unit = 1 mm")
    )
    parser.add_argument(
        "--hold", choices=("upright", "heel", "rim", "push", "square"), help=phrase("add: how it is held")
    )
    parser.add_argument("--colour", metavar="HEX", help=phrase("add: lines in this paint, with a load of it"))
    parser.add_argument("--line-mm", type=length_mm, metavar="MM", help=phrase("add: how wide lines are, 0.3 to 8"))
    parser.add_argument("--taper", choices=[one.value for one in Taper], help=phrase("add: where lines are thick"))
    parser.add_argument("--chart", default="face", metavar="NAME", help=phrase("add: on this chart (default: face)"))
    _changed_arguments(parser)
    _kept_arguments(parser)
    parser.add_argument("--remove", action="store_true", help=phrase("take it off the chart"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


def _kept_arguments(parser: ArgumentParser) -> None:
    """Take what a piece keeps, and what it says."""
    parser.add_argument(
        "--stripe", metavar="PAINT", help=phrase("keep this stripe of its load on a landmark, or 'none'")
    )
    parser.add_argument(
        "--on", metavar="NAME", help=phrase("with --stripe: a landmark, a frame, 'midline', 'pupil line'")
    )
    parser.add_argument(
        "--level-deg", metavar="DEG", help=phrase("keep its first stroke at this angle to the level; 'free'")
    )
    parser.add_argument("--says", metavar="TEXT", help=phrase("it is a sign that says so; '' for none"))
    parser.add_argument(
        "--checked", choices=("yes", "no"), help=phrase("whether somebody who reads the sign has checked it")
    )


@verb(
    "piece",
    phrase("what lies on charts: list it, move it, change it, take it away"),
    piece_arguments,
    lists=True,
    deed_first=True,
)
def piece_verb(args: Namespace) -> int:
    """List what lies on charts, or change one of it."""
    plan = read_plan(args.plan)
    if args.id == "add":
        plan, name = _added(plan, args)
        write_plan(plan, args.out or args.plan)
        if not args.json:
            print(phrase("Added {name}.", name=name))
    elif args.id is not None:
        placed = _placed(plan, args.id)
        plan = without_motif(plan, placed.id) if args.remove else with_motif(plan, _changed(plan, placed, args))
        if args.part is not None and not args.remove:
            plan = put_in(plan, [placed.id], args.part)
        write_plan(plan, args.out or args.plan)
    told = [_told(placed) for placed in plan.motifs]
    if args.json:
        write_json({"pieces": told})
        return 0
    for one in told:
        words = [
            phrase(
                "{one}: {one_2} on {one_3}, {one_4:g}, {one_5:g} mm",
                one=one["id"],
                one_2=one["name"],
                one_3=one["chart"],
                one_4=one["x_mm"],
                one_5=one["y_mm"],
            )
        ]
        words += [phrase("its mirror image too")] * one["twin"] + [phrase("on one side on purpose")] * one["one_sided"]
        print(", ".join(words))
    return 0


class NoWayError(PennelloError):
    """A stroke that is added needs a load and a way."""


def _added(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    """Return the plan with a stroke, or line work, more on a chart, and its id."""
    lines = tuple(read_svg(args.svg, dots=True)) if args.svg else ()
    lines += tuple(hand_drawn([(one.x_mm, one.y_mm) for one in samples_of(text)]) for text in args.points or ())
    if not lines or (len(args.load) != 1) == (args.colour is None):
        raise NoWayError(
            phrase(
                "'add' needs --points (or --svg) and --load LOAD or for lines --colour HEX, as in: --load white-petal "
                "--points '0,0 10,-12 24,-4'."
            )
        )
    plan, name = _drawn(plan, args, lines)
    if args.twin:
        plan = with_motif(plan, replace(_placed(plan, name), twin=args.twin == "yes"))
    return (put_in(plan, [name], args.part) if args.part else plan), name


def _drawn(plan: Plan, args: Namespace, lines: tuple[CubicPath, ...]) -> tuple[Plan, str]:
    """Return the plan with a stroke of a flat brush, or with lines of a round or liner as one piece, and its id."""
    if args.colour is not None:
        plan, load = with_line_load(plan, args.colour, args.line_mm or USUAL_LINE_MM)
    else:
        load = args.load[0]
    brush = plan.brush(plan.stroke(load).brush)
    if brush.kind not in LINERS and len(lines) == 1:
        hold = Hold[args.hold.upper()] if args.hold else None
        hand = samples_of(args.points[0]) if args.points else []
        if any(one != Sample(one.x_mm, one.y_mm) for one in hand):
            stroke = pulled_stroke(plan.stroke(load).stroke, hand, hold)
            return with_pulled(plan, load, stroke, args.chart, name=args.name or "")
        return with_new_piece(plan, load, lines[0], args.chart, hold, args.name or "")
    press = None if args.line_mm is None else press_for(brush, args.line_mm)
    taper = Taper(args.taper) if args.taper else Taper.EVEN
    return with_line_work(plan, load, lines, args.chart, args.name or plan.stroke(load).name, taper, press)


def samples_of(text: str, said: str = "--points") -> list[Sample]:
    """Return where a hand was, from "X,Y X,Y,PRESSURE,TURN flip X,Y ...", as an option said it."""
    found: list[Sample] = []
    here = Sample(0.0, 0.0)
    for word in text.split():
        here = replace(here, flipped=not here.flipped) if word == "flip" else _touched(word, here, said)
        if word != "flip":
            found.append(here)
    if not found:
        raise OutOfRangeError(said, text, phrase("X,Y in mm, pairs apart by spaces, as '0,0 10,-5'"))
    first = next((one.pressure for one in found if one.pressure is not None), None)
    return [replace(one, pressure=first) if one.pressure is None else one for one in found]


def _touched(word: str, before: Sample, said: str) -> Sample:
    """Return a place from "X,Y", "X,Y,PRESSURE" or "X,Y,PRESSURE,TURN"; what is not said is as before."""
    parts = word.split(",")
    if not 2 <= len(parts) <= 4 or not all(parts):
        wanted = phrase("X,Y in mm, pairs apart by spaces, as '0,0 10,-5'; or X,Y,PRESSURE,TURN, or 'flip'")
        raise OutOfRangeError(said, word, wanted)
    numbers_ = [parse_number(part) for part in parts]
    pressure = numbers_[2] if len(numbers_) > 2 else before.pressure
    turn = numbers_[3] if len(numbers_) > 3 else before.turn_deg
    return replace(before, x_mm=numbers_[0], y_mm=numbers_[1], pressure=pressure, turn_deg=turn)


def _placed(plan: Plan, name: str) -> PlacedMotif:
    found = next((one for one in plan.motifs if one.id == name), None)
    if found is None:
        raise UnknownNameError(phrase("piece"), name, [one.id for one in plan.motifs])
    return found


def _changed(plan: Plan, placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    given = {name: getattr(args, name) for name in _PLACE if getattr(args, name) is not None}
    changes: dict[str, Any] = {"place": replace(placed.place, **given)} if given else {}
    changes |= {name: getattr(args, name) == "yes" for name in ("twin", "one_sided") if getattr(args, name)}
    changes |= {"name": args.name} if args.name is not None else {}
    if args.set and placed.motif:
        changes["values"] = tuple({**dict(placed.values), **numbers(args.set)}.items())
    placed = _pulled(seat(plan, placed) if args.point else placed, args)
    for key, value in numbers(args.short).items():
        placed = placed.with_short(key, value)
    if args.load:
        changes["loads"] = tuple({**placed.load_of, **_loads(plan, args.load)}.items())
    return _bound(plan, replace(placed, **changes), args)


def _bound(plan: Plan, placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    """Return a piece with what it keeps: a stripe on a landmark, its angle to the level; and with what it says."""
    if args.stripe is not None:
        placed = _striped(plan, placed, args)
    if args.level_deg is not None:
        level = None if args.level_deg == "free" else parse_number(args.level_deg)
        placed = replace(placed, level_deg=level)
    if args.says is not None:
        placed = replace(placed, sign=Sign(args.says) if args.says else None)
    if args.checked is not None:
        if placed.sign is None:
            raise OutOfRangeError("--checked", placed.name, phrase("said of a sign; say what it says with --says"))
        placed = replace(placed, sign=replace(placed.sign, checked=args.checked == "yes"))
    return placed


def _striped(plan: Plan, placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    if args.stripe == "none":
        return replace(placed, stripe=None)
    on = args.on or (placed.stripe.on if placed.stripe is not None else "")
    known = places_for_stripes(chart_of(plan, placed.chart))
    if on not in known:
        raise UnknownNameError(phrase("place for a stripe"), on, list(known), placed.chart)
    kept = replace(placed, stripe=StripeOn(plan.paint(args.stripe).id, on))
    if why := keeps_its_stripe(plan, kept, chart_of(plan, placed.chart)):
        raise OutOfRangeError("--stripe", args.stripe, phrase("a paint of its load: {why}", why=why))
    return kept


def _shaped(placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    """Return a free stroke with points of its way elsewhere, and its chisel turned at ribs."""
    for text in args.point:
        at, equals, place = text.partition("=")
        if not (equals and is_count(at)):
            raise OutOfRangeError("--point", text, phrase("N=X,Y, as 3=12,-4"))
        here = samples_of(place)[-1]
        placed = with_point_at(placed, int(at), here.x_mm, here.y_mm)
    for text in args.rib:
        at, equals, deg = text.partition("=")
        if not (equals and is_count(at)):
            raise OutOfRangeError("--rib", text, phrase("N=DEG, as 1=-20"))
        placed = with_rib_turned(placed, int(at), parse_number(deg))
    return placed


def _pulled(placed: PlacedMotif, args: Namespace) -> PlacedMotif:
    """Return a free stroke with points of its way elsewhere, held or pressed another way."""
    placed = _shaped(placed, args)
    if (args.hold or args.press is not None) and not points_of(placed):
        raise OutOfRangeError(
            phrase("--hold or --press of {placed}", placed=placed.name), placed.motif, phrase("said of a single stroke")
        )
    if args.hold:
        placed = with_way(placed, lambda way: with_hold(way, Hold[args.hold.upper()]))
    if args.by is not None:
        if placed.computed is None:
            raise OutOfRangeError("--by", placed.name, phrase("said of a ground or fill that is worked out"))
        placed = replace(placed, computed=replace(placed.computed, by=LaidBy(args.by)))
    if args.set and placed.computed is not None:
        placed = _worked_out(placed, placed.computed, numbers(args.set))
    elif args.set and not placed.motif:
        placed = _numbered(placed, numbers(args.set))
    return placed if args.press is None else with_way(placed, lambda way: with_press(way, args.press))


def _numbered(placed: PlacedMotif, values: Mapping[str, float]) -> PlacedMotif:
    """Return a pulled stroke with other numbers: of its hold, waves, lift, where it is flipped."""
    for key, value in values.items():
        known = {one.key: one for one in numbers_in_hand(placed.way)} if placed.way and points_of(placed) else {}
        if key not in known:
            raise UnknownNameError(phrase("number"), key, list(known), placed.name)
        here = known[key]
        if not here.low <= value <= here.high:
            raise OutOfRangeError(
                phrase("{key} of {placed}", key=key, placed=placed.name),
                value,
                phrase("{low:g} to {high:g}{unit}", low=here.low, high=here.high, unit=here.unit),
            )
        placed = replace(placed, way=here.change(value))
    return placed


def _worked_out(placed: PlacedMotif, made: Computed, values: Mapping[str, float]) -> PlacedMotif:
    """Return what is worked out with other numbers, and an echo to both sides or to one."""
    for key, value in values.items():
        if key == "by_turns" and made.kind is Computing.ECHO:
            made = replace(made, by_turns=value >= 0.5)
        else:
            made = with_number(made, key, value)
    return replace(placed, computed=made)


def _loads(plan: Plan, texts: list[str]) -> dict[str, str]:
    found = {}
    for text in texts:
        part, equals, stroke = text.partition("=")
        if not equals:
            raise OutOfRangeError("--load", text, phrase("PART=STROKE, as in petal=dahlia-petal"))
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
        "part": placed.part,
        "loads": placed.load_of,
        "set": dict(placed.values),
        "short_set": dict(placed.short),
        **({"lines": len(placed.ways)} if placed.more else {}),
        **({"computed": _computed(placed.computed)} if placed.computed is not None else {}),
        **({"stripe": placed.stripe.paint, "on": placed.stripe.on} if placed.stripe is not None else {}),
        **({"level_deg": placed.level_deg} if placed.level_deg is not None else {}),
        **({"says": placed.sign.says, "checked": placed.sign.checked} if placed.sign is not None else {}),
    }


def _computed(made: Computed) -> dict[str, Any]:
    told: dict[str, Any] = {"kind": made.kind.value, "of": list(made.of)}
    told |= {one.key: getattr(made, one.key) for one in numbers_of(made)}
    if made.kind is Computing.ECHO:
        told |= {"along": made.along, "by_turns": made.by_turns}
    return told
