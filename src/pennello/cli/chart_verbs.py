"""The verbs about motifs and charts: motif, chart; and how `render --chart` and `check` see charts."""

from __future__ import annotations

import math
from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pennello.chart.catalogue import CHARTS, OTHER_EYES, chart
from pennello.chart.chart import Chart
from pennello.chart.measures import Age, Measures, usual
from pennello.cli.asking import json_argument, kit_argument, light_argument, verb
from pennello.cli.main import write_json
from pennello.cli.names import chart_key, motif_key
from pennello.cli.numbers import length_mm, number, whole
from pennello.cli.plan_file import in_light, read_plan, write_plan
from pennello.cli.whose_kit import kit_of
from pennello.design.as_wished import as_wished
from pennello.design.counts import usual_counts
from pennello.design.findings import findings_by_chart
from pennello.design.free_room import room_on
from pennello.design.load_edits import reloading
from pennello.design.on_chart import chart_of, says_of, with_new_motif, with_other_eyes
from pennello.design.own import NothingChosenError, own_of, with_own
from pennello.design.photo import Photo
from pennello.design.photo_edits import with_photo, without_photo
from pennello.design.plan import MOST_PER_LOAD, Plan, Skin, skin_bytes
from pennello.disk import write_bytes
from pennello.errors import OutOfRangeError
from pennello.files.chart_svg import chart_svg, motif_svg
from pennello.files.motif_file import SUFFIX, read_own, write_own
from pennello.files.picture import write_png
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.motif import Motif
from pennello.motif.place import Place
from pennello.phrases import named, phrase, plural
from pennello.session.catalogue import laid, own_plan, png_of
from pennello.session.chart_photo import laid_photo, named_from
from pennello.session.motif_library import keep
from pennello.solve.suiting import with_loads_for
from pennello.units import parse_number

if TYPE_CHECKING:
    from pennello.session.chart_scene import Painted

Answer = dict[str, Any]


def motif_arguments(parser: ArgumentParser) -> None:
    """Say what `motif` takes."""
    parser.add_argument("name", nargs="?", help=phrase("a motif, or a file of an own one; without it they are listed"))
    parser.add_argument("--set", action="append", metavar="KEY=NUMBER", help=phrase("a number of it"))
    parser.add_argument("--brush-mm", type=length_mm, metavar="MM", help=phrase("width of its brushes, default 19.05"))
    parser.add_argument(
        "--per-load", type=whole, metavar="N", help=phrase("strokes from one load, else as its parts usually")
    )
    parser.add_argument(
        "--keep",
        action="append",
        metavar="ID",
        help=phrase("keep this motif or stroke of the plan as your own, under NAME"),
    )
    parser.add_argument(
        "--replace", action="store_true", help=phrase("let what is kept take the place of another one of that name")
    )
    parser.add_argument(
        "--plan-colours",
        action="store_true",
        help=phrase("lay an own one with the plan's loads that are most like its own"),
    )
    kit_argument(parser, phrase("find loads in this kit too; bare: your own"))
    parser.add_argument("--svg", type=Path, metavar="FILE", help=phrase("write its paths, 1 unit = 1 mm"))
    parser.add_argument("--plan", type=Path, metavar="PLAN", help=phrase("put it on a chart of this plan"))
    parser.add_argument("--chart", default="face", metavar="NAME", help=phrase("which chart, default face"))
    parser.add_argument(
        "--x-mm",
        type=length_mm,
        metavar="MM",
        help=phrase("where, from the chart's origin to the right; without both it is where there is room"),
    )
    parser.add_argument("--y-mm", type=length_mm, metavar="MM", help=phrase("and down"))
    parser.add_argument("--turn-deg", type=number, default=0.0, metavar="DEG")
    parser.add_argument("--scale", type=number, default=1.0, metavar="N")
    parser.add_argument("--twin", action="store_true", help=phrase("and its mirror image across the midline"))
    parser.add_argument("--load", metavar="STROKE", help=phrase("lay all of it with this stroke's load"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("motif", phrase("motifs: list them, what one comes to, put one on a chart"), motif_arguments, lists=True)
def motif_verb(args: Namespace) -> int:
    """List motifs, say what one comes to, write its paths, put it on a chart of a plan, or keep one's own."""
    if args.per_load is not None and not 1 <= args.per_load <= MOST_PER_LOAD:
        raise OutOfRangeError("--per-load", args.per_load, phrase("1 to {most_per_load}", most_per_load=MOST_PER_LOAD))
    if args.keep:
        return _keep(args)
    if args.name is None:
        _list_motifs(json=args.json)
        return 0
    if args.name.endswith(SUFFIX):
        return _place_own(args)
    return _say_motif(args, motif(motif_key(args.name)), numbers(args.set))


def _say_motif(args: Namespace, kind: Motif, values: dict[str, float]) -> int:
    """Say what a motif comes to, and do with it what is asked: its paths, its place on a chart."""
    width = args.brush_mm
    per_load = {part.key: args.per_load or part.reload for part in kind.parts}
    made = kind.made(values, {} if width is None else {part.key: width for part in kind.parts})
    taken = usual_counts(made, per_load)
    if args.svg:
        write_bytes(motif_svg(kind.name, made).encode(), args.svg)
    placed = {"placed": _place(args, kind.key, values)} if args.plan else {}
    if not args.json:
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
            "per_load": min(per_load.values()),
            "loads": taken.loads,
            "seconds": round(taken.seconds, 1),
            "strokes": [
                {"part": one.part, "row": one.row, "points_mm": [list(point) for point in one.stroke.path.points_mm]}
                for one in made.pieces
            ],
        }
    )
    return 0


def _keep(args: Namespace) -> int:
    """Keep motifs and strokes of a plan as one's own: in a file, or among one's own."""
    if not args.plan:
        raise NothingChosenError(phrase("--keep takes what lies on a chart of a plan: name the plan with --plan."))
    plan = read_plan(args.plan)
    own = own_of(plan, args.keep, args.name or args.keep[0])
    picture = png_of(laid(own_plan(plan, own), "own", own.name))
    if args.out:
        write_own(own, args.out, picture)
    path = args.out or keep(own, picture, over=args.replace)
    if args.json:
        write_json({"kept": str(path), "things": len(own.parts.motifs), "loads": len(own.parts.strokes)})
    else:
        print(phrase("Kept as {path}.", path=path))
    return 0


def _place_own(args: Namespace) -> int:
    """Put a motif of one's own on a chart, or say what it holds."""
    own = read_own(Path(args.name))
    answer: Answer = {
        "name": own.name,
        "things": [one.name for one in own.parts.motifs],
        "loads": [one.name for one in own.parts.strokes],
    }
    if args.plan:
        before = read_plan(args.plan)
        plan, ids = with_own(
            before,
            own,
            args.chart,
            _at(args, before),
            own_colours=not args.plan_colours,
            twin=True if args.twin else None,
        )
        if args.load:
            plan.stroke(args.load)
            mine = tuple(
                replace(one, loads=tuple((part, args.load) for part, _ in one.loads)) if one.id in ids else one
                for one in plan.motifs
            )
            plan = replace(plan, motifs=mine)
        write_plan(plan, args.out or args.plan)
        answer["placed"] = list(ids)
    if args.json:
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


def _at(args: Namespace, plan: Plan) -> Place:
    """Return where a motif is put: as asked, or where there is room; with a mirror image on one side."""
    if args.x_mm is None and args.y_mm is None:
        here = chart_of(plan, args.chart)
        left, top, right, bottom = here.bounds_mm
        if args.twin and here.midline_mm is not None:
            left = here.midline_mm
        place = room_on(plan, args.chart, (left, top, right, bottom))
        return replace(place, turn_deg=args.turn_deg, scale=args.scale)
    return Place(args.x_mm or 0.0, args.y_mm or 0.0, args.turn_deg, args.scale)


def _place(args: Namespace, key: str, values: dict[str, float]) -> str:
    """Put the motif on a chart of the plan; return its id there."""
    plan = read_plan(args.plan)
    place = _at(args, plan)
    if not args.load:
        plan = with_loads_for(plan, motif(key), kit_of(args))
    plan, new_id = with_new_motif(plan, key, args.chart, place, args.load or "")
    placed = replace(
        plan.motifs[-1],
        values=tuple(values.items()),
        twin=args.twin,
    )
    plan = replace(plan, motifs=(*plan.motifs[:-1], placed))
    if args.per_load:
        plan = reloading(plan, {name for _, name in placed.loads}, args.per_load)
    write_plan(plan, args.out or args.plan)
    if not args.json:
        print(
            phrase(
                "{new_id} on {chart}: {says_of}",
                new_id=new_id,
                chart=args.chart,
                says_of="; ".join(says_of(plan, placed)),
            )
        )
    return new_id


def _where(args: Namespace) -> int:
    """Say on which skin a plan is painted, and in which light it is seen."""
    if args.plan is None:
        raise OutOfRangeError("--plan", phrase("not said"), phrase("the plan whose skin or light it is"))
    plan = in_light(read_plan(args.plan), args.light)
    if args.skin is not None:
        plan = replace(plan, skin=Skin(args.skin))
    write_plan(plan, args.out or args.plan)
    if args.json:
        write_json({"skin": plan.skin.name, "light": plan.light.value})
    else:
        print(phrase("{skin}; light of the place: {light}.", skin=plan.skin.name, light=named(plan.light)))
    return 0


def _eyes(args: Namespace) -> int:
    """Open or close the eyes of a plan's chart: paint on a lid is fine where they are closed."""
    if args.plan is None or args.eyes is None or args.name is None:
        raise OutOfRangeError(
            phrase("eyes of a chart"),
            args.eyes or phrase("not said"),
            phrase("a chart, --plan PLAN and --eyes open or closed"),
        )
    plan, key = read_plan(args.plan), chart_key(args.name)
    closed = key in OTHER_EYES and chart(key, plan.measures).eyes_closed
    if key in OTHER_EYES and closed != (args.eyes == "closed"):
        plan = with_other_eyes(plan, key)
        write_plan(plan, args.out or args.plan)
        key = OTHER_EYES[key]
    elif key not in OTHER_EYES:
        with_other_eyes(plan, key)  # says that it has none
    odd = [one for one in chart_problems(plan) if one["chart"] == key]
    if args.json:
        write_json({"chart": key, "odd": odd})
    else:
        print(
            plural(
                len(odd),
                "{charts}: {count} place to look at.",
                "{charts}: {count} places to look at.",
                charts=CHARTS[key][0],
            )
        )
    return 0


def chart_arguments(parser: ArgumentParser) -> None:
    """Say what `chart` takes."""
    parser.add_argument("name", nargs="?", help=phrase("a chart; without it they are listed"))
    parser.add_argument("--svg", type=Path, metavar="FILE", help=phrase("write it, 1 unit = 1 mm"))
    parser.add_argument("--age", choices=("small-child", "child", "older-child", "adult", "broad-adult"))
    parser.add_argument("--head-mm", type=length_mm, metavar="MM", help=phrase("head breadth"))
    parser.add_argument("--face-mm", type=length_mm, metavar="MM", help=phrase("root of the nose to chin"))
    parser.add_argument(
        "--plan", type=Path, metavar="PLAN", help=phrase("with --eyes, --photo: the plan whose chart it is")
    )
    parser.add_argument(
        "--photo", type=str, metavar="FILE", help=phrase("a photo of your own in its place; 'none' draws it again")
    )
    parser.add_argument(
        "--mark",
        action="append",
        default=[],
        metavar="NAME=X,Y",
        help=phrase("twice: where a landmark lies in the photo, px"),
    )
    parser.add_argument(
        "--width-mm", type=length_mm, metavar="MM", help=phrase("how far these are apart on the person")
    )
    parser.add_argument("--skin", type=number, metavar="ITA", help=phrase("with --plan: the skin painted on, degrees"))
    light_argument(parser)
    parser.add_argument("--eyes", choices=("open", "closed"), help=phrase("paint it with open eyes or closed ones"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("chart", phrase("body charts: list them, or write one as SVG"), chart_arguments, lists=True)
def chart_verb(args: Namespace) -> int:
    """List charts, write one as SVG, or say whether its eyes are open."""
    if args.photo:
        return _photo(args)
    if args.light or args.skin is not None:
        return _where(args)
    if args.eyes or args.plan:
        return _eyes(args)
    if args.name is None:
        listed = [{"key": key, "name": name} for key, (name, _) in CHARTS.items()]
        if args.json:
            write_json({"charts": listed})
        else:
            print(*(f"{one['key']:14} {one['name']}" for one in listed), sep="\n")
        return 0
    measures = usual(Age[args.age.upper().replace("-", "_")]) if args.age else Measures()
    if args.head_mm is not None:
        measures = replace(measures, head_breadth_mm=args.head_mm)
    if args.face_mm is not None:
        measures = replace(measures, face_height_mm=args.face_mm)
    return _say_chart(args, chart(chart_key(args.name), measures))


def _photo(args: Namespace) -> int:
    """Put a photo in the place of a chart of a plan, or draw the chart again."""
    if args.plan is None or args.name is None:
        raise NothingChosenError(
            phrase("--photo stands for a chart of a plan: name both, as in `chart face --plan PLAN`.")
        )
    plan, key = read_plan(args.plan), chart_key(args.name)
    if args.photo == "none":
        plan = without_photo(plan, key)
    else:
        marks = [_mark(text) for text in args.mark]
        if len(marks) != 2:
            raise NothingChosenError(
                phrase('--photo needs --mark twice, as in --mark "pupil, wearer\'s left=412,300".')
            )
        (one, (x, y)), (other, (to_x, to_y)) = marks
        folder = (args.out or args.plan).parent
        photo = Photo(key, named_from(Path(args.photo), folder), one, other, x, y, to_x, to_y)
        plan = with_photo(plan, photo, args.width_mm)
        laid_photo(plan, key, folder)
    write_plan(plan, args.out or args.plan)
    if args.json:
        write_json({"chart": key, "photo": args.photo != "none", "measures": asdict(plan.measures)})
    else:
        print(
            phrase("{charts} is drawn again.", charts=CHARTS[key][0])
            if args.photo == "none"
            else phrase("{photo} stands for {key}.", photo=args.photo, key=key)
        )
    return 0


def _mark(text: str) -> tuple[str, tuple[float, float]]:
    name, _, place = text.rpartition("=")
    parts = place.split(",")
    if not name or len(parts) != 2:
        raise OutOfRangeError("--mark", text, phrase("NAME=X,Y in px, as in nose tip=400,512"))
    return name, (parse_number(parts[0]), parse_number(parts[1]))


def _say_chart(args: Namespace, made: Chart) -> int:
    """Say what a chart holds, and write it where that is asked."""
    if args.svg:
        write_bytes(chart_svg(made).encode(), args.svg)
    if args.json:
        write_json(
            {
                "chart": made.key,
                "bounds_mm": list(made.bounds_mm),
                "landmarks": {name: list(point) for name, point in made.landmarks},
                "frames": [name for name, _ in made.frames],
                "views": {name: list(view) for name, view in made.views},
                "zones": [zone.name for zone in made.zones],
                "source": made.source,
            }
        )
    else:
        left, top, right, bottom = made.bounds_mm
        print(
            plural(
                len(made.landmarks),
                "{made}: {right:.0f} x {bottom:.0f} mm, {count} landmark",
                "{made}: {right:.0f} x {bottom:.0f} mm, {count} landmarks",
                made=made.name,
                right=right - left,
                bottom=bottom - top,
            )
        )
        for what, names in (
            (phrase("close views"), [name for name, _ in made.views]),
            (phrase("landmarks"), [name for name, _ in made.landmarks]),
            (phrase("frames"), [name for name, _ in made.frames]),
            (phrase("zones"), [zone.name for zone in made.zones]),
        ):
            print(f"{what}: {'; '.join(names) or phrase('none')}")
        print(made.source)
    return 0


def _painted(plan: Plan, args: Namespace) -> Painted | None:
    """Return what is painted on a chart: in the order found, as the plan lists it, or as it is wished."""
    from pennello.cli.order_verbs import arranged_of  # noqa: PLC0415
    from pennello.design.scene import MOST_PIXELS  # noqa: PLC0415
    from pennello.lay import engine  # noqa: PLC0415 - only where something is laid
    from pennello.session.chart_scene import ChartScene  # noqa: PLC0415
    from pennello.session.order_pictures import painted_at  # noqa: PLC0415

    doer = engine.REFERENCE if args.reference else engine.kernel()
    if args.as_listed or args.wish:
        shown = as_wished(plan) if args.wish else plan
        return ChartScene(args.px_per_mm, MOST_PIXELS).paint(shown, args.chart, doer, args.at, light=plan.light)
    at_s = math.inf if args.at is None else args.at
    return painted_at(arranged_of(plan, args), args.chart, args.px_per_mm, at_s, doer, plan.light)


def render_chart(args: Namespace) -> int:
    """Write a chart with its motifs as painted."""
    from pennello.session.chart_scene import chart_picture  # noqa: PLC0415 - only where something is laid

    plan = in_light(read_plan(args.plan), args.light)
    if args.skin is not None:
        plan = replace(plan, skin=Skin(args.skin))
    drawn = chart_of(plan, args.chart)
    painted = _painted(plan, args)
    photo = None if args.drawn else laid_photo(plan, args.chart, args.plan.parent)
    picture = chart_picture(
        drawn,
        painted,
        skin_bytes(plan.skin, plan.light),
        args.px_per_mm,
        mirrored=args.mirror,
        view=args.view,
        photo=photo,
        light=plan.light,
    )
    write_png(picture, args.png, args.px_per_mm)
    answer = {
        "chart": args.chart,
        "motifs": [placed.id for placed in plan.motifs if placed.chart == args.chart],
        "strokes": painted.strokes if painted else 0,
        "width_px": picture.shape[1],
        "height_px": picture.shape[0],
        "px_per_mm": args.px_per_mm,
        "light": plan.light.value,
    }
    if args.json:
        write_json(answer)
    else:
        how = phrase("as wished") if args.wish else phrase("predicted")
        print(
            plural(
                answer["strokes"],
                "Wrote {png}: {drawn}, {answer} stroke ({how}).",
                "Wrote {png}: {drawn}, {answer} strokes ({how}).",
                png=args.png,
                drawn=drawn.name,
                answer=answer["strokes"],
                how=how,
            )
        )
    return 0


def chart_problems(plan: Plan) -> list[Answer]:
    """Return what is odd about all charts that something lies on, for `check`."""
    return [
        {"chart": key, "code": one.code, "motif": one.piece, "at_mm": [one.x_mm, one.y_mm], "text": one.text}
        for key, found in findings_by_chart(plan).items()
        for one in found
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
