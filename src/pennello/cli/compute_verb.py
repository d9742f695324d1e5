"""The verb about pieces that are worked out from others: compute."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict
from itertools import pairwise
from pathlib import Path

from pennello.chart.chart import Chart
from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number
from pennello.cli.piece_verbs import samples_of
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.computed import bare_share
from pennello.design.computing import ABOVE_LEFT_DEG, LARGE, RIMS, Computed, Computing, LaidBy
from pennello.design.gaps import gaps_on, with_gaps_filled
from pennello.design.line_work import USUAL_LINE_MM, with_line_load
from pennello.design.on_chart import chart_of, counts_of, laid_pieces, placed_in, says_of, strokes_around, with_computed
from pennello.design.placed import SINGLE
from pennello.design.plan import Plan
from pennello.errors import PennelloError, UnknownNameError
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase, plural

GAPS = "gaps"
"""Holes between parts: found, and filled with dots and drops that are pieces of their own."""


class NothingToComputeError(PennelloError):
    """It is not said what is worked out, or with what."""


def compute_arguments(parser: ArgumentParser) -> None:
    """Say what `compute` takes."""
    plan_argument(parser)
    parser.add_argument(
        "kind",
        choices=[*(one.value for one in Computing if one is not Computing.ECHO), GAPS],
        help=phrase("what is worked out"),
    )
    parser.add_argument(
        "--of", action="append", default=[], metavar="ID", help=phrase("a part or piece that it goes round")
    )
    parser.add_argument(
        "--off-mm",
        type=length_mm,
        default=1.0,
        metavar="MM",
        help=phrase("outline, shadow, light: from the contour, -5 to 5"),
    )
    parser.add_argument("--margin-mm", type=length_mm, default=10.0, metavar="MM", help=phrase("ground: how far round"))
    parser.add_argument(
        "--border", metavar="'X,Y X,Y ...'", help=phrase("ground, fill: within this closed outline, mm")
    )
    parser.add_argument(
        "--zone", default="", metavar="NAME", help=phrase("fill: a zone or closed frame of the chart instead")
    )
    parser.add_argument(
        "--by", choices=[one.value for one in LaidBy], default="pulled", help=phrase("ground, fill: how it is laid")
    )
    parser.add_argument(
        "--light-deg",
        type=number,
        default=ABOVE_LEFT_DEG,
        metavar="DEG",
        help=phrase("shadow, light: where it comes from"),
    )
    parser.add_argument("--load", metavar="LOAD", help=phrase("the load, or that of the small brush"))
    parser.add_argument("--colour", metavar="HEX", help=phrase("or lines in this paint"))
    parser.add_argument(
        "--line-mm", type=length_mm, default=USUAL_LINE_MM, metavar="MM", help=phrase("so wide, 0.3 to 8")
    )
    parser.add_argument("--large", metavar="LOAD", help=phrase("ground, fill: the load of the large brush"))
    parser.add_argument("--chart", default="face", metavar="NAME", help=phrase("which chart, default face"))
    parser.add_argument("--part", default="", metavar="PART", help=phrase("the part of the design that it belongs to"))
    parser.add_argument("--name", help=phrase("what it is called"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb(
    "compute",
    phrase("an outline of parts, the ground round them, a fill: worked out, living"),
    compute_arguments,
    deed_first=True,
)
def compute_verb(args: Namespace) -> int:
    """Put a computed piece on a chart and say what it takes."""
    plan = read_plan(args.plan)
    if args.kind == GAPS:
        return _gaps(plan, args)
    if (args.load is None) == (args.colour is None):
        raise NothingToComputeError(
            phrase("Say what it is laid with: --load LOAD, or --colour HEX for lines in that paint.")
        )
    load = args.load
    if args.colour is not None:
        plan, load = with_line_load(plan, args.colour, args.line_mm)
    border = _border(args.border) if args.border else None
    made = Computed(
        Computing(args.kind),
        tuple(args.of),
        args.off_mm,
        args.margin_mm,
        border,
        _zone(args.zone, chart_of(plan, args.chart)),
        LaidBy(args.by),
        args.light_deg,
    )
    loads = {SINGLE: load, **({LARGE: args.large} if args.large else {})}
    plan, name = with_computed(plan, made, loads, args.chart, args.name or args.kind, args.part)
    write_plan(plan, args.out or args.plan)
    placed = placed_in(plan, name)
    pieces = laid_pieces(plan, placed, chart_of(plan, args.chart).midline_mm)
    sums = counts_of(plan, placed)
    lines = made.kind is Computing.OUTLINE or made.kind in RIMS
    bare = 0.0 if lines else bare_share(plan, placed, strokes_around(plan, placed))
    if args.json:
        told = {"piece": name, "strokes": len(pieces), "loads": sums.loads, "seconds": sums.seconds, "bare": bare}
        write_json(told)
        return 0
    print(phrase("Added {name}: {says_of}.", name=name, says_of="; ".join(says_of(plan, placed))))
    if not lines:
        print(phrase("{bare:.1%} of the place stays bare (predicted).", bare=bare))
    return 0


def _gaps(plan: Plan, args: Namespace) -> int:
    """Say which holes lie between parts, and fill them where it is said with what."""
    found = gaps_on(plan, args.chart)
    name, load = "", args.load
    if found and (load is not None or args.colour is not None):
        if args.colour is not None:
            plan, load = with_line_load(plan, args.colour, args.line_mm)
        plan, name = with_gaps_filled(plan, args.chart, load, args.name or phrase("Gaps"))
        write_plan(plan, args.out or args.plan)
    if args.json:
        write_json({"piece": name, "gaps": [asdict(gap) for gap in found]})
        return 0
    for gap in found:
        kind = phrase("a drop") if gap.is_long else phrase("dots")
        print(
            phrase(
                "{x_mm:g}, {y_mm:g} mm: {radius_mm:.1f} mm wide, {kind}",
                x_mm=gap.x_mm,
                y_mm=gap.y_mm,
                radius_mm=2 * gap.radius_mm,
                kind=kind,
            )
        )
    filled = (
        phrase("{count} filled as {name}.", count=len(found), name=name)
        if name
        else plural(len(found), "{count} gap; --colour HEX fills them.", "{count} gaps; --colour HEX fills them.")
    )
    print(filled if found else phrase("There are no gaps between parts."))
    return 0


def _zone(name: str, here: Chart) -> str:
    known = [*(zone.name for zone in here.zones), *(frame for frame, _ in here.frames)]
    if name and name not in known:
        raise UnknownNameError(phrase("zone or frame"), name, known, here.key)
    return name


def _border(text: str) -> CubicPath:
    """Return a closed outline through points."""
    points = [(one.x_mm, one.y_mm) for one in samples_of(text, "--border")]
    if len(points) < 3:
        raise NothingToComputeError(phrase("--border needs three points at least, as '0,0 20,0 20,15'."))
    corners = [*points, points[0]] if points[0] != points[-1] else points
    sides = [line(one, other).points_mm for one, other in pairwise(corners)]
    return CubicPath((corners[0], *(point for side in sides for point in side[1:])))
