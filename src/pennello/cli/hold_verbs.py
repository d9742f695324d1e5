"""The verb that says how the hand holds and leads a stroke."""

from __future__ import annotations

from argparse import Namespace
from dataclasses import replace

from pennello.cli.main import write_json
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.edits import with_stroke
from pennello.design.hand_curves import CURVES, curve, with_part_curves
from pennello.design.holds import hold_of, numbers_of, with_hold
from pennello.errors import OutOfRangeError, PennelloError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Exit, Key, Over, Pats, Stroke
from pennello.units import parse_number

HELD = ("pressure", "lean", "tilt")


class HoldError(PennelloError):
    """A way of holding that cannot be read."""


def hold_verb(wish: Namespace) -> int:
    """Change how a stroke is held, and write the plan; without a wish only say it."""
    plan = read_plan(wish.plan)
    stroke = plan.stroke(wish.stroke)
    way = _held(stroke.stroke, wish)
    if way != stroke.stroke or wish.out:
        write_plan(with_stroke(plan, replace(stroke, stroke=way)), wish.out or wish.plan)
    if wish.json:
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
    found = [f"held {hold_of(way).value}{': ' if told else ''}{', '.join(told)}"]
    for one in CURVES.values():
        values = [key.value for key in one.keys(way)]
        low, high = one.words(min(values)), one.words(max(values))
        found.append(f"{one.name} {low}" if low == high else f"{one.name} {low} to {high}")
    if way.on_part:
        found.append("lies where its part touches")
    if way.pats is not None:
        found.append(f"patted over the {way.pats.over.value}, {way.pats.overlap:.0%} overlap")
    return found


def _in_hold(way: Stroke, wish: Namespace) -> Stroke:
    """Return a stroke in one of the five holds, and with its numbers."""
    if wish.way is not None:
        way = with_hold(way, Hold[wish.way.upper()])
    for text in wish.number or ():
        key, _, value = text.partition("=")
        numbers = {one.key: one for one in numbers_of(way)}
        if key not in numbers:
            has = ", ".join(numbers) or "none"
            raise HoldError(f"--number '{text}': held {hold_of(way).value}, the stroke has these numbers: {has}.")
        one, wanted = numbers[key], parse_number(value)
        if not one.low <= wanted <= one.high:
            raise OutOfRangeError(one.name, wanted, f"{one.low:g} to {one.high:g}{one.unit}")
        way = one.change(wanted)
    return way


def _held(way: Stroke, wish: Namespace) -> Stroke:
    way = _in_hold(way, wish)
    for name in HELD:
        text = getattr(wish, name)
        if text is not None:
            way = curve(name).on(way, _keys(text, name))
    if wish.part is not None:
        starts, ends = _part_keys(wish.part)
        way = with_part_curves(way, starts, ends, "from")
    if wish.on_part is not None:
        way = replace(way, on_part=wish.on_part)
    if wish.lift is not None:
        way = replace(way, lift_mm=wish.lift)
    if wish.exit is not None:
        way = replace(way, exit=Exit(wish.exit))
    return _patted(way, wish)


def _patted(way: Stroke, wish: Namespace) -> Stroke:
    if wish.pats == "no":
        return replace(way, pats=None)
    pats = way.pats
    if wish.pats is not None:
        pats = replace(pats or Pats(), over=Over(wish.pats))
    if pats is None:
        if wish.overlap is not None or wish.turn is not None:
            raise HoldError("--overlap and --turn are about pats: say --pats way or --pats place too.")
        return way
    if wish.overlap is not None:
        pats = replace(pats, overlap=wish.overlap)
    if wish.turn is not None:
        pats = replace(pats, turn_deg=wish.turn)
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
            raise HoldError(f"--{name} '{text}': write one value, or AT:VALUE,AT:VALUE with AT from 0 to 1.")
        found.append(Key(parse_number(at) if colon else 0.0, parse_number(value)))
    return tuple(found) if len(found) > 1 else (found[0], Key(1.0, found[0].value))


def _part_keys(text: str) -> tuple[tuple[Key, ...], tuple[Key, ...]]:
    """Return two curves from "FROM-TO" or "AT:FROM-TO,AT:FROM-TO"."""
    starts, ends = [], []
    for part in text.split(","):
        at, _, between = part.rpartition(":")
        low, dash, high = between.partition("-")
        if not dash:
            raise HoldError(f"--part '{text}': write FROM-TO, as 0-0.4, or AT:FROM-TO,AT:FROM-TO.")
        place = parse_number(at) if at else 0.0
        starts.append(Key(place, parse_number(low)))
        ends.append(Key(place, parse_number(high)))
    if len(starts) == 1:
        starts.append(replace(starts[0], at=1.0))
        ends.append(replace(ends[0], at=1.0))
    return tuple(starts), tuple(ends)
