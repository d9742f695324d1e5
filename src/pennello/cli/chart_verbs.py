"""The verbs about motifs and charts: motif, chart; and how `render --chart` and `check` see charts."""

from __future__ import annotations

from argparse import Namespace
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from pennello.chart.catalogue import CHARTS, OTHER_EYES, chart
from pennello.chart.measures import Age, Measures, usual
from pennello.cli.main import write_json
from pennello.cli.names import chart_key, motif_key
from pennello.cli.plan_file import read_plan, write_plan
from pennello.cli.solve_verbs import kit_of
from pennello.design.as_wished import as_wished
from pennello.design.chart_checks import odd_on
from pennello.design.counts import counts
from pennello.design.on_chart import chart_of, charts_used, says_of, with_new_motif, with_other_eyes
from pennello.design.own import NothingChosenError, own_of, with_own
from pennello.design.plan import Plan, Skin, skin_bytes
from pennello.disk import write_bytes
from pennello.errors import OutOfRangeError
from pennello.files.chart_svg import chart_svg, motif_svg
from pennello.files.motif_file import SUFFIX, read_own, write_own
from pennello.files.picture import write_png
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.motif import Motif, counted
from pennello.motif.place import Place
from pennello.session.catalogue import laid, own_plan, png_of
from pennello.session.motif_library import keep
from pennello.solve.suiting import with_loads_for
from pennello.units import parse_number

Answer = dict[str, Any]

MOST_PER_LOAD = 40


def motif_verb(wish: Namespace) -> int:
    """List motifs, say what one comes to, write its paths, put it on a chart of a plan, or keep one's own."""
    if wish.per_load is not None and not 1 <= wish.per_load <= MOST_PER_LOAD:
        raise OutOfRangeError("--per-load", wish.per_load, f"1 to {MOST_PER_LOAD}")
    if wish.keep:
        return _keep(wish)
    if wish.name is None:
        _list_motifs(json=wish.json)
        return 0
    if wish.name.endswith(SUFFIX):
        return _place_own(wish)
    return _say_motif(wish, motif(motif_key(wish.name)), numbers(wish.set))


def _say_motif(wish: Namespace, kind: Motif, values: dict[str, float]) -> int:
    """Say what a motif comes to, and do with it what is asked: its paths, its place on a chart."""
    width, per_load = wish.brush_mm, wish.per_load or kind.per_load
    made = kind.made(values, {} if width is None else {part.key: width for part in kind.parts})
    taken = counts(made, {part.key: (part.key, 1) for part in kind.parts}, per_load)
    if wish.svg:
        write_bytes(motif_svg(kind.name, made).encode(), wish.svg)
    placed = {"placed": _place(wish, kind.key, values)} if wish.plan else {}
    if not wish.json:
        parts = [f"{part.name}: {part.role.words} ({part.tool})" for part in kind.parts]
        print(kind.name, *made.says, taken.words, *parts, sep="\n  ")
        return 0
    write_json(
        {
            **placed,
            "motif": kind.key,
            "values": kind.values(values),
            "parts": {
                part.key: {"brush": part.tool, "load": part.role.words, "wet": part.wet.value, "per_load": part.reload}
                for part in kind.parts
            },
            "says": [*made.says, taken.words],
            "spacings": [{**asdict(one), "overlap_mm": one.overlap_mm} for one in made.spacings],
            "per_load": per_load,
            "loads": taken.loads,
            "seconds": round(taken.seconds, 1),
            "strokes": [
                {"part": one.part, "row": one.row, "points_mm": [list(point) for point in one.stroke.path.points_mm]}
                for one in made.pieces
            ],
        }
    )
    return 0


def _keep(wish: Namespace) -> int:
    """Keep motifs and strokes of a plan as one's own: in a file, or among one's own."""
    if not wish.plan:
        raise NothingChosenError("--keep takes what lies on a chart of a plan: name the plan with --plan.")
    plan = read_plan(wish.plan)
    own = own_of(plan, wish.keep, wish.name or wish.keep[0])
    picture = png_of(laid(own_plan(plan, own), "own", own.name))
    if wish.out:
        write_own(own, wish.out, picture)
    path = wish.out or keep(own, picture)
    if wish.json:
        write_json({"kept": str(path), "things": len(own.parts.motifs), "loads": len(own.parts.strokes)})
    else:
        print(f"Kept as {path}.")
    return 0


def _place_own(wish: Namespace) -> int:
    """Put a motif of one's own on a chart, or say what it holds."""
    own = read_own(Path(wish.name))
    answer: Answer = {
        "name": own.name,
        "things": [one.name for one in own.parts.motifs],
        "loads": [one.name for one in own.parts.strokes],
    }
    if wish.plan:
        place = Place(wish.x_mm, wish.y_mm, wish.turn_deg, wish.scale)
        plan, ids = with_own(
            read_plan(wish.plan),
            own,
            wish.chart,
            place,
            own_colours=not wish.plan_colours,
            twin=True if wish.twin else None,
        )
        if wish.load:
            plan.stroke(wish.load)
            mine = tuple(
                replace(one, loads=tuple((part, wish.load) for part, _ in one.loads)) if one.id in ids else one
                for one in plan.motifs
            )
            plan = replace(plan, motifs=mine)
        write_plan(plan, wish.out or wish.plan)
        answer["placed"] = list(ids)
    if wish.json:
        write_json(answer)
    else:
        told = [f"{key}: {', '.join(map(str, names))}" for key, names in answer.items() if key != "name"]
        print(own.name, *told, sep="\n  ")
    return 0


def _list_motifs(*, json: bool) -> None:
    if json:
        write_json(
            {
                "motifs": [
                    {
                        "key": kind.key,
                        "name": kind.name,
                        "words": kind.words,
                        "group": kind.group,
                        "parts": [part.key for part in kind.parts],
                        "parameters": [
                            {
                                "key": one.key,
                                "name": one.name,
                                "default": one.default,
                                "low": one.low,
                                "high": one.high,
                                "unit": one.unit,
                            }
                            for one in kind.parameters
                        ],
                    }
                    for kind in MOTIFS.values()
                ]
            }
        )
        return
    for kind in MOTIFS.values():
        numbers_told = ", ".join(f"{one.key}={one.default:g}" for one in kind.parameters)
        print(f"{kind.key:16} {kind.group:8} {kind.name}: {kind.words} ({numbers_told})")


def _place(wish: Namespace, key: str, values: dict[str, float]) -> str:
    """Put the motif on a chart of the plan; return its id there."""
    plan = read_plan(wish.plan)
    place = Place(wish.x_mm, wish.y_mm, wish.turn_deg, wish.scale)
    if not wish.load:
        plan = with_loads_for(plan, motif(key), kit_of(wish))
    plan, new_id = with_new_motif(plan, key, wish.chart, place, wish.load or "")
    placed = replace(
        plan.motifs[-1],
        values=tuple(values.items()),
        twin=wish.twin,
        per_load=wish.per_load or plan.motifs[-1].per_load,
    )
    plan = replace(plan, motifs=(*plan.motifs[:-1], placed))
    write_plan(plan, wish.out or wish.plan)
    if not wish.json:
        print(f"{new_id} on {wish.chart}: {'; '.join(says_of(plan, placed))}")
    return new_id


def _eyes(wish: Namespace) -> int:
    """Open or close the eyes of a plan's chart: paint on a lid is fine where they are closed."""
    if wish.plan is None or wish.eyes is None or wish.name is None:
        raise OutOfRangeError(
            "eyes of a chart", wish.eyes or "not said", "a chart, --plan PLAN and --eyes open or closed"
        )
    plan, key = read_plan(wish.plan), chart_key(wish.name)
    closed = key in OTHER_EYES and chart(key, plan.measures).eyes_closed
    if key in OTHER_EYES and closed != (wish.eyes == "closed"):
        plan = with_other_eyes(plan, key)
        write_plan(plan, wish.out or wish.plan)
        key = OTHER_EYES[key]
    elif key not in OTHER_EYES:
        with_other_eyes(plan, key)  # says that it has none
    odd = [one for one in chart_problems(plan) if one["chart"] == key]
    if wish.json:
        write_json({"chart": key, "odd": odd})
    else:
        print(f"{CHARTS[key][0]}: {counted(len(odd), 'place')} to look at.")
    return 0


def chart_verb(wish: Namespace) -> int:
    """List charts, write one as SVG, or say whether its eyes are open."""
    if wish.eyes or wish.plan:
        return _eyes(wish)
    if wish.name is None:
        listed = [{"key": key, "name": name} for key, (name, _) in CHARTS.items()]
        if wish.json:
            write_json({"charts": listed})
        else:
            print(*(f"{one['key']:14} {one['name']}" for one in listed), sep="\n")
        return 0
    measures = usual(Age[wish.age.upper().replace("-", "_")]) if wish.age else Measures()
    if wish.head_mm is not None:
        measures = replace(measures, head_breadth_mm=wish.head_mm)
    if wish.face_mm is not None:
        measures = replace(measures, face_height_mm=wish.face_mm)
    made = chart(chart_key(wish.name), measures)
    if wish.svg:
        write_bytes(chart_svg(made).encode(), wish.svg)
    if wish.json:
        write_json(
            {
                "chart": made.key,
                "bounds_mm": list(made.bounds_mm),
                "landmarks": {name: list(point) for name, point in made.landmarks},
                "frames": [name for name, _ in made.frames],
                "zones": [zone.name for zone in made.zones],
                "source": made.source,
            }
        )
    else:
        left, top, right, bottom = made.bounds_mm
        print(f"{made.name}: {right - left:.0f} x {bottom - top:.0f} mm, {len(made.landmarks)} landmarks")
        print(made.source)
    return 0


def render_chart(wish: Namespace) -> int:
    """Write a chart with its motifs as painted."""
    from pennello.design.scene import MOST_PIXELS  # noqa: PLC0415
    from pennello.lay import engine  # noqa: PLC0415 - only where something is laid
    from pennello.session.chart_scene import ChartScene, chart_picture  # noqa: PLC0415

    plan = read_plan(wish.plan)
    if wish.skin is not None:
        plan = replace(plan, skin=Skin(wish.skin))
    drawn = chart_of(plan, wish.chart)
    doer = engine.REFERENCE if wish.reference else engine.kernel()
    shown = as_wished(plan) if wish.wish else plan
    painted = ChartScene(wish.px_per_mm, MOST_PIXELS).paint(shown, wish.chart, doer, wish.at)
    over = [overlay for overlay in plan.overlays if overlay.chart == wish.chart]
    picture = chart_picture(drawn, painted, skin_bytes(plan.skin), wish.px_per_mm, over, mirrored=wish.mirror)
    write_png(picture, wish.png, wish.px_per_mm)
    answer = {
        "chart": wish.chart,
        "motifs": [placed.id for placed in plan.motifs if placed.chart == wish.chart],
        "strokes": painted.strokes if painted else 0,
        "width_px": picture.shape[1],
        "height_px": picture.shape[0],
        "px_per_mm": wish.px_per_mm,
    }
    if wish.json:
        write_json(answer)
    else:
        how = "as wished" if wish.wish else "predicted"
        print(f"Wrote {wish.png}: {drawn.name}, {answer['strokes']} strokes ({how}).")
    return 0


def chart_problems(plan: Plan) -> list[Answer]:
    """Return what is odd about all charts that something lies on, for `check`."""
    return [
        {"chart": key, "code": odd.code, "motif": odd.motif, "at_mm": [odd.x_mm, odd.y_mm], "text": odd.text}
        for key in charts_used(plan)
        for odd in odd_on(plan, key)
    ]


def numbers(given: list[str] | None) -> dict[str, float]:
    """Return KEY=NUMBER words as numbers by key."""
    values = {}
    for word in given or []:
        key, _, text = word.partition("=")
        try:
            values[key.strip()] = parse_number(text)
        except ValueError:
            raise OutOfRangeError("--set", word, "key=number, as in petals=6") from None
    return values
