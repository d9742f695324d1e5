"""The verb that turns a drawn outline into one stroke: fill-outline."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.piece_verbs import samples_of
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.on_chart import placed_in, seat
from pennello.design.plan import Plan
from pennello.design.pulled import outline_of, with_pulled, with_stroke_for
from pennello.errors import OutOfRangeError, PennelloError
from pennello.phrases import phrase
from pennello.solve.fill_outline import (
    ENOUGH,
    OneStroke,
    fill_outline,
    loads_to_try,
    needs_two,
)


class WhichOutlineError(PennelloError):
    """It is not said which outline is to be filled, or in two ways."""


def fill_arguments(parser: ArgumentParser) -> None:
    """Say what `fill-outline` takes."""
    plan_argument(parser)
    parser.add_argument("--outline", metavar="'X,Y X,Y ...'", help=phrase("its points on the chart, mm; it is closed"))
    parser.add_argument(
        "--piece", metavar="ID", help=phrase("or a line that is drawn on a chart; a stroke takes its place")
    )
    parser.add_argument(
        "--load", action="append", default=[], metavar="LOAD", help=phrase("only with it; can be said again")
    )
    parser.add_argument("--rim", metavar="X,Y", help=phrase("a place near the side that the rim shall lie on, mm"))
    parser.add_argument(
        "--take", type=int, metavar="N", help=phrase("put the N-th of what is found on the chart, 1 the best")
    )
    parser.add_argument("--chart", default="face", metavar="NAME", help=phrase("on which chart, default face"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb(
    "fill-outline",
    phrase("one stroke that fills a drawn outline: which brush, way, chisel and pressure"),
    fill_arguments,
)
def fill_verb(args: Namespace) -> int:
    """Say which strokes fill an outline best, and put one on the chart if asked."""
    plan = read_plan(args.plan)
    outline = _outline(plan, args)
    rim_at = None
    if args.rim:
        here = samples_of(args.rim, "--rim")[0]
        rim_at = (here.x_mm, here.y_mm)
    found = fill_outline(plan, outline, loads_to_try(plan, args.load), rim_at)
    taken = _taken(plan, args, found)
    if args.json:
        told = [
            {"load": one.load, "brush": plan.stroke(one.load).brush, "overlap": one.overlap, "words": one.words}
            for one in found
        ]
        write_json({"found": told, "needs_two": needs_two(found), "piece": taken})
        return 0
    for number, one in enumerate(found, 1):
        brush = plan.brush(plan.stroke(one.load).brush).name
        print(
            phrase(
                "{number}. {brush} with {stroke}: {overlap:.0%} shared (predicted); {one}",
                number=number,
                brush=brush,
                stroke=plan.stroke(one.load).name,
                overlap=one.overlap,
                one=one.words,
            )
        )
    if needs_two(found):
        print(phrase("No single stroke shares {enough:.0%} with it: it needs two.", enough=ENOUGH))
    if taken:
        print(phrase("Added {taken}.", taken=taken))
    return 0


def _outline(plan: Plan, args: Namespace) -> list[tuple[float, float]]:
    if (args.outline is None) == (args.piece is None):
        raise WhichOutlineError(
            phrase("Say what is to be filled: --outline 'X,Y X,Y ...', or --piece ID of a drawn line.")
        )
    if args.outline is not None:
        return [(one.x_mm, one.y_mm) for one in samples_of(args.outline, "--outline")]
    points = outline_of(seat(plan, placed_in(plan, args.piece)))
    if not points:
        raise WhichOutlineError(
            phrase("{piece} is no single drawn line; draw one round the place, or say --outline.", piece=args.piece)
        )
    return list(points)


def _taken(plan: Plan, args: Namespace, found: tuple[OneStroke, ...]) -> str:
    """Put the stroke that was asked for on the chart, write the plan, and return the id of its piece."""
    if args.take is None:
        return ""
    if not 1 <= args.take <= len(found):
        raise OutOfRangeError("--take", args.take, phrase("1 to {count}", count=len(found)))
    one = found[args.take - 1]
    if args.piece is not None:
        plan, name = with_stroke_for(plan, args.piece, one.load, one.stroke)
    else:
        plan, name = with_pulled(plan, one.load, one.stroke, args.chart)
    write_plan(plan, args.out or args.plan)
    return name
