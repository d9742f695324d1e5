"""The verb that writes strokes as a moving picture."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from pennello.cli.asking import json_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.names import chart_key
from pennello.cli.numbers import number
from pennello.cli.plan_file import read_plan
from pennello.disk import write_bytes
from pennello.errors import PennelloError
from pennello.phrases import phrase, plural
from pennello.session.catalogue import motif_plan
from pennello.session.order_pictures import played_plan
from pennello.session.play import MOST_WRITTEN_PIXELS, Playing, alone, animation


class NothingToPlayError(PennelloError):
    """It cannot be told what to play, or how to write it."""


def play_arguments(parser: ArgumentParser) -> None:
    """Say what `play` takes."""
    plan_argument(parser)
    parser.add_argument("stroke", nargs="?", help=phrase("one stroke; without it all"))
    parser.add_argument("--chart", metavar="NAME", help=phrase("all that lies on this chart, in the order of painting"))
    parser.add_argument("--motif", metavar="KEY", help=phrase("a motif, laid with the plan's loads"))
    parser.add_argument("--out", type=Path, required=True, metavar="FILE", help=phrase("ends with .png (APNG) or .gif"))
    parser.add_argument(
        "--speed", type=number, default=1.0, metavar="N", help=phrase("times the hand's speed, default 1")
    )
    parser.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help=phrase("resolution, default 4"))
    json_argument(parser)


@verb("play", phrase("strokes as a moving picture: the brush moves over them"), play_arguments)
def play_verb(args: Namespace) -> int:
    """Write a stroke, all strokes, a chart or a motif as APNG or GIF, played at the hand's speed."""
    kind = {".gif": "gif", ".png": "apng", ".apng": "apng"}.get(args.out.suffix.lower())
    if kind is None:
        raise NothingToPlayError(
            phrase("A moving picture ends with .png (APNG) or .gif, not {suffix}.", suffix=args.out.suffix or "nothing")
        )
    plan = read_plan(args.plan)
    if args.motif:
        shown = motif_plan(plan, args.motif)
    elif args.chart:
        shown = played_plan(plan, chart_key(args.chart))
    else:
        shown = alone(plan, args.stroke) if args.stroke else plan
    if not shown.strokes:
        what = (
            phrase("the {chart} chart; put a motif on it first", chart=args.chart)
            if args.chart
            else phrase("this plan; add a stroke first")
        )
        raise NothingToPlayError(phrase("There is nothing to play on {what}.", what=what))
    playing = Playing(shown, args.px_per_mm, most_pixels=MOST_WRITTEN_PIXELS)
    write_bytes(animation(playing, kind, args.speed), args.out)
    if args.json:
        beats = [{"stroke": one.stroke, "start_s": one.start_s, "end_s": one.end_s} for one in playing.beats]
        write_json({"file": str(args.out), "seconds": round(playing.seconds, 2), "strokes": beats})
    else:
        print(
            plural(
                len(playing.beats),
                "Wrote {out}: {count} stroke, {seconds:.1f} s of pulling.",
                "Wrote {out}: {count} strokes, {seconds:.1f} s of pulling.",
                out=args.out,
                seconds=playing.seconds,
            )
        )
    return 0
