"""The verb about the parts of a design: part."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm
from pennello.cli.piece_verbs import samples_of
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.echo import echoed, guide_of, with_echo
from pennello.design.line_work import hand_drawn
from pennello.design.load_edits import words_of
from pennello.design.on_chart import placed_in, seat
from pennello.design.ordering import Priority
from pennello.design.part import Habit, PlanPart
from pennello.design.part_edits import (
    copied,
    mirrored_part,
    painted_before,
    part_in,
    placed_before,
    put_in,
    recoloured,
    twinned,
    with_new_part,
    with_part,
    without_part,
)
from pennello.design.parts import listed, pieces_in
from pennello.design.plan import Plan
from pennello.design.repeats import USUAL_SMALLER, USUAL_TIMES
from pennello.errors import OutOfRangeError, PennelloError
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase

HABITS = {
    "usual": Habit.USUAL,
    "one-go": Habit.ONE_GO,
    "rows": Habit.ROWS,
    "wet": Habit.WET,
    "dry": Habit.DRY,
    "tacky": Habit.TACKY,
}


class NothingSaidError(PennelloError):
    """A deed lacks what it needs."""


def part_arguments(parser: ArgumentParser) -> None:
    """Say what `part` takes."""
    plan_argument(parser)
    parser.add_argument(
        "deed", nargs="?", default="list", choices=("list", *_DEEDS), help=phrase("what to do (default: list)")
    )
    parser.add_argument("part", nargs="?", default="", metavar="PART", help=phrase("its id; with add its name"))
    parser.add_argument(
        "--piece",
        action="append",
        default=[],
        metavar="ID",
        help=phrase("add, put: a piece or part that belongs to it"),
    )
    parser.add_argument(
        "--in", dest="within", metavar="PART", help=phrase("add, put, move: the part that it is of; '' for none")
    )
    parser.add_argument(
        "--before", default="", metavar="ID", help=phrase("move: before this part or piece; without it, last")
    )
    parser.add_argument("--name", help=phrase("rename: what it is called"))
    parser.add_argument("--off", action="store_true", help=phrase("twin, one-sided, short: no longer"))
    parser.add_argument("--habit", choices=tuple(HABITS), help=phrase("habit: how it is painted"))
    parser.add_argument(
        "--priority", choices=[one.value for one in Priority], help=phrase("weigh: what may be left out")
    )
    parser.add_argument("--worth", type=float, metavar="N", help=phrase("weigh: how much it adds, 0.1 to 10"))
    parser.add_argument("--chart", default="", metavar="NAME", help=phrase("copy: onto this chart"))
    parser.add_argument("--x-mm", type=length_mm, default=0.0, metavar="MM", help=phrase("copy: so far to the right"))
    parser.add_argument("--y-mm", type=length_mm, default=0.0, metavar="MM", help=phrase("copy: and down"))
    parser.add_argument(
        "--along", metavar="'X,Y X,Y ...'", help=phrase("echo: along this line on the chart, from the part")
    )
    parser.add_argument("--guide", metavar="PIECE", help=phrase("echo: or along this drawn line"))
    parser.add_argument(
        "--times", type=int, default=USUAL_TIMES, metavar="N", help=phrase("echo: so often again, 1 to 24")
    )
    parser.add_argument(
        "--smaller", type=float, default=USUAL_SMALLER, metavar="F", help=phrase("echo: each so large, 0.5 to 1.2")
    )
    parser.add_argument("--copies", action="store_true", help=phrase("echo: copies of their own, not living"))
    parser.add_argument(
        "--same-side", action="store_true", help=phrase("echo: all on one side of the line, not by turns")
    )
    parser.add_argument(
        "--load", action="append", default=[], metavar="OLD=NEW", help=phrase("recolour: one load for another")
    )
    parser.add_argument("--pieces-too", action="store_true", help=phrase("remove: all that it holds, too"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb(
    "part", phrase("parts of a design: list them, make them, say how they are painted"), part_arguments, deed_first=True
)
def part_verb(args: Namespace) -> int:
    """List the parts of a design, or change one."""
    plan = read_plan(args.plan)
    made = args.part
    if args.deed != "list":
        plan, made = _DEEDS[args.deed](plan, args)
        write_plan(plan, args.out or args.plan)
    if args.json:
        write_json({"part": made, "parts": [_told(plan, one) for one in plan.parts]})
        return 0
    for deep, one in listed(plan):
        words = (
            _line(one)
            if isinstance(one, PlanPart)
            else phrase("{id}: {one} on {chart}", id=one.id, one=one.name, chart=one.chart)
        )
        print(f"{'  ' * deep}{words}")
    if args.deed == "add":
        print(phrase("Made {made}.", made=made))
    return 0


def _line(part: PlanPart) -> str:
    words = [f"[{part.id}] {part.name}"]
    words += [part.habit.value] if part.habit is not Habit.USUAL else []
    words += [phrase("differs left and right on purpose")] if part.one_sided else []
    words += [phrase("not in the short form")] if part.long_only else []
    return ", ".join(words)


def _told(plan: Plan, part: PlanPart) -> dict[str, Any]:
    pieces = pieces_in(plan, part.id)
    loads = dict.fromkeys(load for one in pieces for _, load in one.loads)
    return {
        "id": part.id,
        "name": part.name,
        "within": part.within,
        "habit": part.habit.value,
        "one_sided": part.one_sided,
        "in_short_form": not part.long_only,
        "priority": plan.ordering.priority(part.id).value,
        "worth": dict(plan.ordering.worth).get(part.id, 1.0),
        "pieces": [one.id for one in pieces],
        "charts": list(dict.fromkeys(one.chart for one in pieces)),
        "loads": [
            {"id": one.id, "name": one.name, "reload": words_of(one.reload, one.reload_after)}
            for one in (plan.stroke(load) for load in loads)
        ],
    }


# --- deeds ---


def _needed(args: Namespace, name: str) -> Any:
    value = getattr(args, name)
    if value is None or value == []:
        raise NothingSaidError(
            phrase("'{deed}' needs --{name}; see 'pennello part --help'.", deed=args.deed, name=name.replace("_", "-"))
        )
    return value


def _add(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    if not args.part:
        raise NothingSaidError(phrase("'add' needs a name, as in: pennello part PLAN add \"The rose\" --piece petals."))
    return with_new_part(plan, args.part, args.piece, args.within or "")


def _put(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    if args.piece:
        if args.part:
            part_in(plan, args.part)
        return put_in(plan, args.piece, args.part), args.part
    return with_part(plan, replace(part_in(plan, args.part), within=_needed(args, "within"))), args.part


def _move(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    if args.within is None:
        return painted_before(plan, args.part, args.before), args.part
    return placed_before(plan, args.part, args.before, args.within), args.part


def _copy(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    by = Place(args.x_mm, args.y_mm) if args.x_mm or args.y_mm else None
    return copied(plan, args.part, args.chart, by)


def _echo(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    if (args.along is None) == (args.guide is None):
        raise NothingSaidError(phrase("'echo' needs --along 'X,Y X,Y ...' or --guide PIECE, a line from the part on."))
    guide: CubicPath | str = args.guide
    if args.guide is None:
        guide = hand_drawn([(one.x_mm, one.y_mm) for one in samples_of(args.along, "--along")])
    by_turns = not args.same_side
    if not args.copies:
        return with_echo(plan, args.part, guide, args.times, args.smaller, by_turns=by_turns)
    if isinstance(guide, str):
        guide = guide_of(seat(plan, placed_in(plan, guide)))
    plan, made = echoed(plan, args.part, guide, args.times, args.smaller, by_turns=by_turns)
    return plan, made[0]


def _weigh(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    part_in(plan, args.part)
    ordering = plan.ordering
    if args.priority is None and args.worth is None:
        raise NothingSaidError(phrase("'weigh' needs --priority or --worth."))
    if args.priority is not None:
        ordering = ordering.with_priority(args.part, Priority(args.priority))
    if args.worth is not None:
        ordering = ordering.with_worth(args.part, args.worth)
    return replace(plan, ordering=ordering), args.part


def _recolour(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    loads = {}
    for text in _needed(args, "load"):
        old, equals, new = text.partition("=")
        if not equals:
            raise OutOfRangeError("--load", text, phrase("OLD=NEW, as in white-petal=pink-petal"))
        loads[plan.stroke(old).id] = new
    return recoloured(plan, args.part, loads), args.part


def _changed(name: str, value: Callable[[Namespace], Any]) -> Callable[[Plan, Namespace], tuple[Plan, str]]:
    def deed(plan: Plan, args: Namespace) -> tuple[Plan, str]:
        return with_part(plan, replace(part_in(plan, args.part), **{name: value(args)})), args.part

    return deed


_DEEDS: dict[str, Callable[[Plan, Namespace], tuple[Plan, str]]] = {
    "add": _add,
    "put": _put,
    "rename": _changed("name", lambda args: _needed(args, "name")),
    "move": _move,
    "twin": lambda plan, args: (twinned(plan, args.part, on=not args.off), args.part),
    "one-sided": _changed("one_sided", lambda args: not args.off),
    "short": _changed("long_only", lambda args: not args.off),
    "habit": _changed("habit", lambda args: HABITS[_needed(args, "habit")]),
    "weigh": _weigh,
    "copy": _copy,
    "echo": _echo,
    "mirror": lambda plan, args: (mirrored_part(plan, args.part), args.part),
    "recolour": _recolour,
    "remove": lambda plan, args: (without_part(plan, args.part, pieces=args.pieces_too), args.part),
}
