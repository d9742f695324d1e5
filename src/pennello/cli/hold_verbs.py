"""The verb that says how the hand holds and leads a stroke."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import replace
from pathlib import Path

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.edits import with_stroke
from pennello.design.hand_curves import CURVES, curve, with_part_curves
from pennello.design.holds import hold_of, numbers_of, with_hold
from pennello.errors import OutOfRangeError, PennelloError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Exit, Key, Over, Pats, Stroke
from pennello.phrases import named, phrase
from pennello.units import parse_number

HELD = ("pressure", "lean", "tilt")


class HoldError(PennelloError):
    """A way of holding that cannot be read."""


HOLDS = tuple(one.name.lower() for one in Hold if one is not Hold.TOUCH)


def hold_arguments(parser: ArgumentParser) -> None:
    """Say what `hold` takes."""
    plan_argument(parser, stroke=True)
    along = phrase("one value, or AT:VALUE,AT:VALUE with AT from 0 (start) to 1 (end)")
    parser.add_argument("--way", choices=HOLDS, help=phrase("which of the five holds"))
    parser.add_argument(
        "--number",
        action="append",
        metavar="KEY=NUMBER",
        help=phrase("a number of the hold, as --json lists them: angle=80"),
    )
    parser.add_argument("--pressure", metavar="KEYS", help=phrase("0.05 to 1; {along}", along=along))
    parser.add_argument("--lean", metavar="KEYS", help=phrase("0 (upright) to 70 degrees; {along}", along=along))
    parser.add_argument(
        "--tilt", metavar="KEYS", help=phrase("-1 (on corner A) to 1 (on corner B); {along}", along=along)
    )
    parser.add_argument(
        "--part", metavar="KEYS", help=phrase("the part of the edge on the skin: FROM-TO, or AT:FROM-TO,...")
    )
    parser.add_argument(
        "--on-part", action="store_true", default=None, help=phrase("the path is that of the part that touches")
    )
    parser.add_argument(
        "--whole-edge", dest="on_part", action="store_false", help=phrase("the path is that of the whole edge")
    )
    parser.add_argument(
        "--lift", type=length_mm, metavar="MM", help=phrase("over how much of its end the brush lifts off")
    )
    parser.add_argument("--exit", choices=("edge", "corner A", "corner B"), help=phrase("what leaves the skin last"))
    parser.add_argument(
        "--pats", choices=("way", "place", "no"), help=phrase("set down again and again, from one load")
    )
    parser.add_argument("--overlap", type=number, metavar="SHARE", help=phrase("of pats, 0 to 0.9"))
    parser.add_argument("--turn", type=number, metavar="DEG", help=phrase("of pats to and fro, 0 to 180"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("hold", phrase("how the hand holds and leads a stroke"), hold_arguments)
def hold_verb(args: Namespace) -> int:
    """Change how a stroke is held, and write the plan; without a wish only say it."""
    plan = read_plan(args.plan)
    stroke = plan.stroke(args.stroke)
    way = _held(stroke.stroke, args)
    if way != stroke.stroke or args.out:
        write_plan(with_stroke(plan, replace(stroke, stroke=way)), args.out or args.plan)
    if args.json:
        write_json({"stroke": stroke.id, **hold_answer(way)})
    else:
        print(f"{stroke.name}: {'; '.join(hold_words(way))}")
    return 0


def hold_answer(way: Stroke) -> dict[str, object]:
    """Return how a stroke is held, for scripts."""
    curves = {one.key: [[key.at, key.value] for key in one.keys(way)] for one in CURVES.values()}
    pats = None
    if way.pats is not None:
        pats = {"over": way.pats.over.value, "overlap": way.pats.overlap, "turn_deg": way.pats.turn_deg}
    held = {"hold": hold_of(way).value, "numbers": {one.key: round(one.value, 3) for one in numbers_of(way)}}
    return {**held, **curves, "on_part": way.on_part, "lift_mm": way.lift_mm, "exit": way.exit.value, "pats": pats}


def hold_words(way: Stroke) -> list[str]:
    """Return how a stroke is held, in words."""
    told = [f"{one.name} {one.value:.0f}{one.unit}" for one in numbers_of(way)]
    found = [
        (
            phrase("held {hold_of}: {told}", hold_of=named(hold_of(way)), told=", ".join(told))
            if told
            else phrase("held {hold_of}{told}", hold_of=named(hold_of(way)), told=", ".join(told))
        )
    ]
    for one in CURVES.values():
        values = [key.value for key in one.keys(way)]
        low, high = one.words(min(values)), one.words(max(values))
        found.append(
            f"{one.name} {low}" if low == high else phrase("{one} {low} to {high}", one=one.name, low=low, high=high)
        )
    if way.on_part:
        found.append(phrase("lies where its part touches"))
    if way.pats is not None:
        found.append(
            phrase("patted over the {over}, {overlap:.0%} overlap", over=named(way.pats.over), overlap=way.pats.overlap)
        )
    return found


def _in_hold(way: Stroke, args: Namespace) -> Stroke:
    """Return a stroke in one of the five holds, and with its numbers."""
    if args.way is not None:
        way = with_hold(way, Hold[args.way.upper()])
    for text in args.number or ():
        key, _, value = text.partition("=")
        numbers = {one.key: one for one in numbers_of(way)}
        if key not in numbers:
            has = ", ".join(numbers) or phrase("none")
            raise HoldError(
                phrase(
                    "--number '{text}': held {hold_of}, the stroke has these numbers: {has}.",
                    text=text,
                    hold_of=named(hold_of(way)),
                    has=has,
                )
            )
        one, wanted = numbers[key], parse_number(value)
        if not one.low <= wanted <= one.high:
            raise OutOfRangeError(
                one.name, wanted, phrase("{low:g} to {high:g}{unit}", low=one.low, high=one.high, unit=one.unit)
            )
        way = one.change(wanted)
    return way


def _held(way: Stroke, args: Namespace) -> Stroke:
    way = _in_hold(way, args)
    for name in HELD:
        text = getattr(args, name)
        if text is not None:
            way = curve(name).on(way, _keys(text, name))
    if args.part is not None:
        starts, ends = _part_keys(args.part)
        way = with_part_curves(way, starts, ends, "from")
    if args.on_part is not None:
        way = replace(way, on_part=args.on_part)
    if args.lift is not None:
        way = replace(way, lift_mm=args.lift)
    if args.exit is not None:
        way = replace(way, exit=Exit(args.exit))
    return _patted(way, args)


def _patted(way: Stroke, args: Namespace) -> Stroke:
    if args.pats == "no":
        return replace(way, pats=None)
    pats = way.pats
    if args.pats is not None:
        pats = replace(pats or Pats(), over=Over(args.pats))
    if pats is None:
        if args.overlap is not None or args.turn is not None:
            raise HoldError(phrase("--overlap and --turn are about pats: say --pats way or --pats place too."))
        return way
    if args.overlap is not None:
        pats = replace(pats, overlap=args.overlap)
    if args.turn is not None:
        pats = replace(pats, turn_deg=args.turn)
    return replace(way, pats=pats)


def _keys(text: str, name: str) -> tuple[Key, ...]:
    """Return keys from "VALUE" or "AT:VALUE,AT:VALUE".

    >>> _keys("0:0,1:40", "lean")
    (Key(at=0.0, value=0.0), Key(at=1.0, value=40.0))
    """
    found = []
    for part in text.split(","):
        at, colon, value = part.rpartition(":")
        if not colon and len(text.split(",")) > 1:
            raise HoldError(
                phrase(
                    "--{name} '{text}': write one value, or AT:VALUE,AT:VALUE with AT from 0 to 1.",
                    name=name,
                    text=text,
                )
            )
        found.append(Key(parse_number(at) if colon else 0.0, parse_number(value)))
    return tuple(found) if len(found) > 1 else (found[0], Key(1.0, found[0].value))


def _part_keys(text: str) -> tuple[tuple[Key, ...], tuple[Key, ...]]:
    """Return two curves from "FROM-TO" or "AT:FROM-TO,AT:FROM-TO"."""
    starts, ends = [], []
    for part in text.split(","):
        at, _, between = part.rpartition(":")
        low, dash, high = between.partition("-")
        if not dash:
            raise HoldError(phrase("--part '{text}': write FROM-TO, as 0-0.4, or AT:FROM-TO,AT:FROM-TO.", text=text))
        place = parse_number(at) if at else 0.0
        starts.append(Key(place, parse_number(low)))
        ends.append(Key(place, parse_number(high)))
    if len(starts) == 1:
        starts.append(replace(starts[0], at=1.0))
        ends.append(replace(ends[0], at=1.0))
    return tuple(starts), tuple(ends)
