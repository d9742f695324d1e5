"""The verbs about strokes on skin: render, strokes, svg."""

from __future__ import annotations

import math
import time
from argparse import Namespace
from dataclasses import replace
from itertools import groupby
from typing import Any

from pennello.cli.main import write_json
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.clock import turns
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, Skin
from pennello.errors import OutOfRangeError
from pennello.units import length_text, parse_number


def render(wish: Namespace) -> int:
    """Write all strokes of a plan on one skin as a picture."""
    from pennello.design.scene import paint_all  # noqa: PLC0415
    from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only for pictures
    from pennello.lay import engine  # noqa: PLC0415
    from pennello.lay.skin_film import Box  # noqa: PLC0415

    if wish.chart:
        from pennello.cli.chart_verbs import render_chart  # noqa: PLC0415

        return render_chart(wish)
    plan = read_plan(wish.plan)
    if wish.skin is not None:
        plan = replace(plan, skin=Skin(wish.skin))
    _use_threads(wish.threads)
    doer = engine.REFERENCE if wish.reference else engine.kernel()
    before = time.perf_counter()
    film = paint_all(plan, wish.px_per_mm, doer, math.inf if wish.at is None else wish.at)
    spent = time.perf_counter() - before
    canvas = film.canvas
    picture = doer.picture(film, Box(0, canvas.rows, 0, canvas.columns))
    write_png(picture, wish.png, canvas.px_per_mm)
    laid = [turn.stroke for turn in turns(plan) if wish.at is None or turn.start_s <= wish.at]
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
    if wish.json:
        write_json(answer)
    else:
        size = f"{canvas.columns} x {canvas.rows} px at {canvas.px_per_mm:g} px/mm"
        print(f"Wrote {wish.png}: {len(laid)} strokes, {size}, {film.volume_mm3():.0f} mm³ of paint (predicted).")
    return 0


def _use_threads(threads: int | None) -> None:
    if threads is None:
        return
    import os  # noqa: PLC0415

    most = os.cpu_count() or 1
    if not 1 <= threads <= most:
        raise OutOfRangeError("number of threads", threads, f"1 to {most} on this machine")
    import numba  # noqa: PLC0415 - costs a second

    numba.set_num_threads(threads)


def strokes(wish: Namespace) -> int:
    """List the families of strokes, or put one into a plan."""
    from pennello.design.fresh import with_family_stroke  # noqa: PLC0415
    from pennello.lay.families.catalogue import FAMILIES  # noqa: PLC0415

    if wish.add:
        plan = read_plan(wish.plan)
        plan, new = with_family_stroke(plan, wish.add, dict(_settings(wish.set or [])))
        write_plan(plan, wish.out or wish.plan)
        print(f"Added {new}.")
        return 0
    if wish.json:
        write_json({"families": [_family_answer(one) for one in FAMILIES.values()]})
        return 0
    for hold, families in groupby(FAMILIES.values(), key=lambda one: one.hold):
        print(f"{hold.value[0].upper()}{hold.value[1:]}: {hold.words}")
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
            raise OutOfRangeError("a setting", word, "written as key=number") from None
        if not sign:
            raise OutOfRangeError("a setting", word, "written as key=number")
    return pairs


def svg(wish: Namespace) -> int:
    """Write the strokes' paths as SVG, or take one in."""
    from pennello.files.svg import read_svg, write_svg  # noqa: PLC0415 - its parsers only when asked for

    plan = read_plan(wish.plan)
    if wish.action == "export":
        write_svg(plan, wish.file)
        print(f"Wrote {wish.file}: {len(plan.strokes)} paths, 1 unit = 1 mm.")
        return 0
    found = read_svg(wish.file)
    if not 1 <= wish.number <= len(found):
        raise OutOfRangeError("number of the path", wish.number, f"1 to {len(found)}: so many are in the file")
    path = found[wish.number - 1]
    plan = _with_path(plan, wish.stroke, path)
    write_plan(plan, wish.out or wish.plan)
    from pennello.path.cubic import length_mm  # noqa: PLC0415

    print(f"{wish.stroke} follows the path, {length_text(length_mm(path))} long.")
    return 0


def _with_path(plan: Plan, name: str, path: Any) -> Plan:
    stroke = plan.stroke(name)
    way = replace(stroke.stroke, path=path, reload_mm=(), flips_mm=())
    return with_stroke(plan, replace(stroke, stroke=way))
