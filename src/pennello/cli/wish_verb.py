"""The verb that says what a stroke should look like: wish."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import replace
from pathlib import Path
from typing import Any

from pennello.aim.wish import Stop, Wanted
from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import length_mm, number
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan
from pennello.design.wish_edits import usual_wish, wish_of, wish_paints_kept, with_rim_at_least
from pennello.design.wishing import with_load_wished
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.paint import Near
from pennello.phrases import phrase
from pennello.units import parse_number

Answer = dict[str, Any]


class WishError(PennelloError):
    """A wish is asked for in no way, or in several that exclude one another."""


def wish_arguments(parser: ArgumentParser) -> None:
    """Say what `wish` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument(
        "--stops", metavar="NAME:END:BLEND,...", help=phrase("paints or #rrggbb, where each ends (0 to 1), mm")
    )
    parser.add_argument("--usual", action="store_true", help=phrase("light rim, dark heel, of the stroke's cakes"))
    parser.add_argument("--like", metavar="STROKE", help=phrase("as another stroke"))
    parser.add_argument("--load", action="store_true", help=phrase("what its load lays"))
    parser.add_argument("--picture", type=Path, metavar="FILE", help=phrase("as in a picture, along --line"))
    parser.add_argument("--line", metavar="X,Y,X,Y", help=phrase("ends of a line across the petal, px, from A to B"))
    parser.add_argument("--rim-mm", type=length_mm, metavar="MM", help=phrase("a rim at least so wide"))
    parser.add_argument(
        "--at-end", action="store_true", help=phrase("for the end of the stroke only; it changes towards it")
    )
    parser.add_argument("--near", choices=("skin", "eye", "lips"), help=phrase("what the stroke lies near"))
    parser.add_argument("--tolerance", type=number, metavar="DE", help=phrase("mean dE up to which it holds"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("wish", phrase("say what a stroke should look like"), wish_arguments)
def wish_verb(args: Namespace) -> int:
    """Say what a stroke should look like."""
    plan = read_plan(args.plan)
    stroke = plan.stroke(args.stroke)
    if args.near:
        stroke = replace(stroke, near=Near(args.near))
        plan = with_stroke(plan, stroke)
    wanted = _wished(plan, args)
    if args.rim_mm is not None:
        edge = plan.brush(stroke.brush).edge_mm(plan.axis(stroke.id))
        wanted = with_rim_at_least(wanted, stroke.rim, edge, args.rim_mm)
    if args.at_end:
        wanted = replace(stroke.wanted, end=wanted.stops)
    if args.tolerance is not None:
        wanted = replace(wanted, tolerance_de00=args.tolerance)
    plan = wish_paints_kept(plan, replace(stroke, wanted=wanted))
    write_plan(plan, args.out or args.plan)
    stops = [_stop_words(plan, stop) for stop in wanted.stops]
    if args.json:
        write_json(
            {
                "stroke": stroke.id,
                "stops": [_stop_answer(stop) for stop in wanted.stops],
                "end": [_stop_answer(stop) for stop in wanted.end],
                "near": stroke.near.value,
            }
        )
    else:
        print(phrase("{stroke} should look like: {stops}", stroke=stroke.name, stops=", ".join(stops)))
    return 0


def _wished(plan: Plan, args: Namespace) -> Wanted:
    stroke = plan.stroke(args.stroke)
    ways = [bool(args.stops), bool(args.usual), bool(args.like), bool(args.picture), bool(args.load)]
    if sum(ways) > 1:
        raise WishError(phrase("Say it in one way only: --stops, --usual, --like, --picture or --load."))
    if args.stops:
        return replace(stroke.wanted, stops=tuple(_stop(text) for text in args.stops.split(",")))
    if args.usual:
        return usual_wish(plan, stroke.id)
    if args.like:
        return wish_of(plan, stroke.id, args.like)
    if args.load:
        return with_load_wished(plan, stroke.id).stroke(stroke.id).wanted
    if args.picture:
        return replace(stroke.wanted, stops=_from_picture(plan, args), end=())
    if args.rim_mm is None and args.tolerance is None and not args.near:
        raise WishError(
            phrase("Say what is wanted: --stops, --usual, --like, --picture, --load, --rim-mm, --near or --tolerance.")
        )
    return stroke.wanted


def _from_picture(plan: Plan, args: Namespace) -> tuple[Stop, ...]:
    from pennello.aim.profile import stops_of  # noqa: PLC0415
    from pennello.files.profile import line_colours  # noqa: PLC0415
    from pennello.files.swatch import read_picture  # noqa: PLC0415

    stroke = plan.stroke(args.stroke)
    brush = plan.brush(stroke.brush)
    try:
        x0, y0, x1, y1 = (parse_number(text) for text in (args.line or "").split(","))
    except ValueError:
        raise WishError(
            phrase("--picture needs --line X,Y,X,Y: the two ends of a line across the petal, in px.")
        ) from None
    labs = line_colours(read_picture(Path(args.picture)), (x0, y0), (x1, y1))
    return stops_of(labs, brush.edge_mm(plan.axis(stroke.id)))


def _stop(text: str) -> Stop:
    """Return a stop written as PAINT or #rrggbb, then :END, then :BLEND; end 0 to 1, blend in mm."""
    name, *rest = text.strip().split(":")
    try:
        end, blend = (parse_number(rest[0]) if rest else 1.0), (parse_number(rest[1]) if len(rest) > 1 else 2.5)
    except ValueError:
        raise OutOfRangeError(phrase("a wanted stop"), text, "PAINT:END:BLEND, as in foam-white:0.2:2.5") from None
    return Stop(srgb=name, to_u=end, blend_mm=blend) if name.startswith("#") else Stop(name, None, end, blend)


def _stop_answer(stop: Stop) -> Answer:
    return {"paint": stop.paint, "srgb": stop.srgb, "to_u": stop.to_u, "blend_mm": stop.blend_mm}


def _stop_words(plan: Plan, stop: Stop) -> str:
    name = plan.paint(stop.paint).name if stop.paint is not None else str(stop.srgb)
    return phrase("{name} to {to_u:.0%}", name=name, to_u=stop.to_u)
