"""The verbs about strokes on skin: render, strokes, svg."""

from __future__ import annotations

import math
import time
from argparse import ArgumentParser, Namespace
from dataclasses import replace
from itertools import groupby
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pennello.cli.asking import json_argument, light_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import number, whole
from pennello.cli.order_arguments import timed_arguments
from pennello.cli.plan_file import in_light, read_plan, write_plan
from pennello.design.clock import turns
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, Skin
from pennello.errors import OutOfRangeError
from pennello.phrases import named, phrase, plural
from pennello.units import length_text, parse_number

if TYPE_CHECKING:
    from pennello.lay.skin_film import SkinFilm


def render_arguments(parser: ArgumentParser) -> None:
    """Say what `render` takes."""
    plan_argument(parser)
    parser.add_argument("--png", type=Path, required=True, metavar="FILE")
    parser.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help=phrase("resolution, default 4"))
    parser.add_argument("--skin", type=number, metavar="ITA", help=phrase("another skin, by its angle in degrees"))
    light_argument(parser)
    parser.add_argument("--at", type=number, metavar="SECONDS", help=phrase("only what is laid by then"))
    parser.add_argument("--threads", type=whole, metavar="N", help=phrase("threads for the picture"))
    timed_arguments(parser, phrase("a chart with its motifs instead of the strokes, painted in the order found"), None)
    parser.add_argument(
        "--as-listed", action="store_true", help=phrase("with --chart: painted in the plan's own order")
    )
    parser.add_argument("--wish", action="store_true", help=phrase("with --chart: what is wished in its place"))
    parser.add_argument(
        "--view", default="", metavar="NAME", help=phrase("with --chart: a close view of it, see `chart NAME`")
    )
    parser.add_argument(
        "--drawn", action="store_true", help=phrase("with --chart: drawn, also where a photo stands for it")
    )
    parser.add_argument("--mirror", action="store_true", help=phrase("with --chart: as seen in a mirror"))
    parser.add_argument("--reference", action="store_true", help=phrase("with the slow NumPy reference"))
    json_argument(parser)


@verb("render", phrase("all strokes on one skin, wet over wet, as a picture"), render_arguments)
def render_verb(args: Namespace) -> int:
    """Write all strokes of a plan on one skin as a picture."""
    from pennello.design.scene import paint_all  # noqa: PLC0415
    from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only for pictures
    from pennello.lay import engine  # noqa: PLC0415
    from pennello.lay.skin_film import Box  # noqa: PLC0415

    if args.chart:
        from pennello.cli.chart_verbs import render_chart  # noqa: PLC0415

        return render_chart(args)
    if args.view:
        raise OutOfRangeError("--view", args.view, phrase("said of a chart; name one with --chart"))
    plan = in_light(read_plan(args.plan), args.light)
    if args.skin is not None:
        plan = replace(plan, skin=Skin(args.skin))
    _use_threads(args.threads)
    doer = engine.REFERENCE if args.reference else engine.kernel()
    before = time.perf_counter()
    film = paint_all(plan, args.px_per_mm, doer, math.inf if args.at is None else args.at)
    spent = time.perf_counter() - before
    canvas = film.canvas
    picture = doer.picture(film.in_light(plan.light), Box(0, canvas.rows, 0, canvas.columns))
    write_png(picture, args.png, canvas.px_per_mm)
    laid = [turn.stroke for turn in turns(plan) if args.at is None or turn.start_s <= args.at]
    answer = {
        "strokes": laid,
        "px_per_mm": canvas.px_per_mm,
        "width_px": canvas.columns,
        "height_px": canvas.rows,
        "left_mm": canvas.left_mm,
        "top_mm": canvas.top_mm,
        "solids_mm3": film.volume_mm3(),
        "engine": doer.name,
        "seconds": spent,
    }
    if args.json:
        write_json(answer)
    else:
        print(_rendered(args.png, len(laid), film))
    return 0


def _rendered(png: str, strokes: int, film: SkinFilm) -> str:
    return plural(
        strokes,
        "Wrote {png}: {count} stroke, {wide} x {high} px at {px_per_mm:g} px/mm, {paint:.0f} mm³ of paint (predicted).",
        "Wrote {png}: {count} strokes, {wide} x {high} px at {px_per_mm:g} px/mm, {paint:.0f} mm³ of "
        "paint (predicted).",
        png=png,
        wide=film.canvas.columns,
        high=film.canvas.rows,
        px_per_mm=film.canvas.px_per_mm,
        paint=film.volume_mm3(),
    )


def _use_threads(threads: int | None) -> None:
    if threads is None:
        return
    import os  # noqa: PLC0415

    most = os.cpu_count() or 1
    if not 1 <= threads <= most:
        raise OutOfRangeError(phrase("number of threads"), threads, phrase("1 to {most} on this machine", most=most))
    import numba  # noqa: PLC0415 - costs a second

    numba.set_num_threads(threads)


def strokes_arguments(parser: ArgumentParser) -> None:
    """Say what `strokes` takes."""
    parser.add_argument("plan", nargs="?", type=Path, help=phrase("with --add: the plan"))
    parser.add_argument("--list", action="store_true", help=phrase("list them (also without)"))
    parser.add_argument("--add", metavar="FAMILY", help=phrase("put one into the plan"))
    parser.add_argument("--set", action="append", metavar="KEY=NUMBER", help=phrase("a parameter of it"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("strokes", phrase("the families of strokes"), strokes_arguments, lists=True)
def strokes_verb(args: Namespace) -> int:
    """List the families of strokes, or put one into a plan."""
    from pennello.design.fresh import with_family_stroke  # noqa: PLC0415
    from pennello.lay.families.catalogue import FAMILIES  # noqa: PLC0415

    if not args.add and (args.set or args.out):
        option, value = ("--set", args.set[0]) if args.set else ("--out", args.out)
        raise OutOfRangeError(option, value, phrase("said with --add, which names what is put into the plan"))
    if args.add:
        if args.plan is None:
            raise OutOfRangeError("--add", args.add, phrase("said with a plan, which it is put into"))
        plan = read_plan(args.plan)
        plan, new = with_family_stroke(plan, args.add, dict(_settings(args.set or [])))
        write_plan(plan, args.out or args.plan)
        print(phrase("Added {new}.", new=new))
        return 0
    if args.json:
        write_json({"families": [_family_answer(one) for one in FAMILIES.values()]})
        return 0
    for hold, families in groupby(FAMILIES.values(), key=lambda one: one.hold):
        name = named(hold)
        print(f"{name[0].upper()}{name[1:]}: {hold.words}")
        for one in families:
            numbers = ", ".join(f"{p.key}={p.default:g}" for p in one.parameters)
            print(f"  {one.key:16} {one.group:7} {one.name}: {one.words} ({numbers})")
    return 0


def _family_answer(family: Any) -> dict[str, Any]:
    return {
        "key": family.key,
        "name": family.name,
        "words": family.words,
        "group": family.group,
        "hold": family.hold.value,
        "applicator": family.tool,
        "parameters": [
            {"key": p.key, "name": p.name, "default": p.default, "low": p.low, "high": p.high, "unit": p.unit}
            for p in family.parameters
        ],
    }


def _settings(words: list[str]) -> list[tuple[str, float]]:
    pairs = []
    for word in words:
        key, sign, value = word.partition("=")
        try:
            pairs.append((key, parse_number(value)))
        except ValueError:
            raise OutOfRangeError(phrase("a setting"), word, phrase("written as key=number")) from None
        if not sign:
            raise OutOfRangeError(phrase("a setting"), word, phrase("written as key=number"))
    return pairs


def svg_arguments(parser: ArgumentParser) -> None:
    """Say what `svg` takes."""
    actions = parser.add_subparsers(dest="action", metavar="ACTION", required=True)
    out = actions.add_parser("export", help=phrase("write the paths of all strokes"))
    plan_argument(out)
    out.add_argument("file", type=Path)
    taken = actions.add_parser("import", help=phrase("let a stroke follow a path"))
    plan_argument(taken, stroke=True)
    taken.add_argument("file", type=Path)
    taken.add_argument("--number", type=whole, default=1, metavar="N", help=phrase("which path of the file, default 1"))
    taken.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))


@verb("svg", phrase("paths of strokes as SVG, 1 unit = 1 mm"), svg_arguments)
def svg_verb(args: Namespace) -> int:
    """Write the strokes' paths as SVG, or take one in."""
    from pennello.files.svg import read_svg, write_svg  # noqa: PLC0415 - its parsers only when asked for

    plan = read_plan(args.plan)
    if args.action == "export":
        write_svg(plan, args.file)
        print(
            plural(
                len(plan.strokes),
                "Wrote {file}: {count} path, 1 unit = 1 mm.",
                "Wrote {file}: {count} paths, 1 unit = 1 mm.",
                file=args.file,
            )
        )
        return 0
    found = read_svg(args.file)
    if not 1 <= args.number <= len(found):
        raise OutOfRangeError(
            phrase("number of the path"), args.number, phrase("1 to {count}: so many are in the file", count=len(found))
        )
    path = found[args.number - 1]
    plan = _with_path(plan, args.stroke, path)
    write_plan(plan, args.out or args.plan)
    from pennello.path.cubic import length_mm  # noqa: PLC0415

    print(
        phrase(
            "{stroke} follows the path, {length_mm} long.", stroke=args.stroke, length_mm=length_text(length_mm(path))
        )
    )
    return 0


def _with_path(plan: Plan, name: str, path: Any) -> Plan:
    stroke = plan.stroke(name)
    way = replace(stroke.stroke, path=path, reload_mm=(), flips_mm=())
    return with_stroke(plan, replace(stroke, stroke=way))
