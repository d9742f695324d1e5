"""What each verb does: read, compute, say."""

from __future__ import annotations

import json
from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from pathlib import Path
from typing import TYPE_CHECKING

from pennello.aim.comparison import compare
from pennello.aim.faults import find_faults
from pennello.aim.state import State
from pennello.aim.verdict import Verdict, judge
from pennello.cli.answers import check_answer, lay_answer, load_answer, verdict_answer
from pennello.cli.asking import json_argument, pdf_argument, plan_argument, verb
from pennello.cli.chart_verbs import chart_problems
from pennello.cli.main import write_json
from pennello.cli.mixing import mix_answer, parse_portion
from pennello.cli.numbers import length_mm, number
from pennello.cli.plan_file import read_plan, write_plan
from pennello.colour.basis import small_basis
from pennello.design.edits import mended, with_brush, with_stroke
from pennello.design.findings import findings_of
from pennello.design.fresh import fresh_plan, with_fresh_stroke
from pennello.design.load_kinds import LOAD_KINDS
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.words import load_words
from pennello.disk import exists
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.demo import demo_plan
from pennello.files.plan_schema import json_schema
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.load.edge import boundaries
from pennello.phrases import phrase
from pennello.units import de_text, difference_text, length_text, parse_length, parse_number

if TYPE_CHECKING:
    from pennello.practice.calibrate import Fit, Petals

_EXPORT_BANDS = 10


def mix_arguments(parser: ArgumentParser) -> None:
    """Say what `mix` takes."""
    parser.add_argument("--paint", action="append", required=True, metavar="HEX[@CONTRAST][:PARTS]")
    parser.add_argument(
        "--film-um", type=number, metavar="T", help=phrase("film thickness; without it thick enough to hide")
    )
    parser.add_argument(
        "--over", default="#ffffff", metavar="HEX", help=phrase("what the film lies on (default white)")
    )
    json_argument(parser)


@verb("mix", phrase("mix paints and see the colour"), mix_arguments)
def mix_verb(args: Namespace) -> int:
    """Mix paints."""
    answer = mix_answer([parse_portion(text) for text in args.paint], args.film_um, args.over)
    if args.json:
        write_json(answer)
    else:
        lightness, a, b = answer["lab"]
        print(
            phrase(
                "{answer}   L* {lightness:.1f}  a* {a:.1f}  b* {b:.1f}   (predicted)",
                answer=answer["srgb"],
                lightness=lightness,
                a=a,
                b=b,
            )
        )
    return 0


LOAD_KEYS = tuple(kind.key for kind in LOAD_KINDS)


def load_arguments(parser: ArgumentParser) -> None:
    """Say what `load` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument(
        "--as",
        dest="kind",
        metavar="WAY",
        help=phrase("load it another way: {load_keys}", load_keys=", ".join(LOAD_KEYS)),
    )
    parser.add_argument(
        "--reload", metavar="WHEN", help=phrase("load it anew: pale, each, never, or after so many strokes")
    )
    parser.add_argument(
        "--add", metavar="NAME", help=phrase("make a new load of this name, a copy of it, to be changed")
    )
    parser.add_argument("--name", help=phrase("what it is called"))
    parser.add_argument("--brush", metavar="ID", help=phrase("the brush"))
    parser.add_argument("--cake", metavar="ID", help=phrase("the cake of its first pick-up"))
    parser.add_argument("--offset-mm", type=length_mm, metavar="MM", help=phrase("where the brush lies on it"))
    parser.add_argument("--flip", choices=("yes", "no"), help=phrase("corner B lies left"))
    parser.add_argument("--passes", type=number, metavar="N", help=phrase("sweeps"))
    parser.add_argument(
        "--remove", action="store_true", help=phrase("take it out of the plan; nothing may be laid with it")
    )
    parser.add_argument(
        "--out", type=Path, metavar="FILE", help=phrase("write the changed plan here instead of over it")
    )
    json_argument(parser)


@verb("load", phrase("what one load puts on the brush; make one, change it"), load_arguments)
def load_verb(args: Namespace) -> int:
    """Say what is on the brush; add, change or take out a load."""
    plan = read_plan(args.plan)
    if args.kind:
        plan = _loaded_as(plan, args.stroke, args.kind)
        if args.out:
            write_plan(plan, args.out)
    changed, name = _load_edited(plan, args)
    if changed != plan:
        plan = changed
        write_plan(plan, args.out or args.plan)
    if args.remove:
        print(phrase("Took out {stroke}.", stroke=args.stroke))
        return 0
    stroke = plan.stroke(name)
    edge = plan.edge(stroke.id)
    if args.json:
        write_json(load_answer(plan, stroke, edge))
        return 0
    print(*load_words(plan, stroke), sep="\n")
    start = phrase("the tip") if edge.axis is GradientAxis.ALONG else "A"
    for one in boundaries(edge):
        names = phrase(
            "{paint} to {paint_2}", paint=plan.paint(one.from_paint).name, paint_2=plan.paint(one.to_paint).name
        )
        print(
            phrase(
                "  {names}: {at_mm} from {start}, {width_10_90_mm} wide",
                names=names,
                at_mm=length_text(one.at_mm),
                start=start,
                width_10_90_mm=length_text(one.width_10_90_mm),
            )
        )
    print(phrase("  {total_mm3:.0f} mm³ of paint on the brush (predicted)", total_mm3=edge.total_mm3))
    return 0


def _load_edited(plan: Plan, args: Namespace) -> tuple[Plan, str]:
    """Return the plan with what the options change of a load, and its id."""
    from pennello.design.load_edits import (  # noqa: PLC0415 - only where something is changed
        habit_in,
        with_copy_of,
        with_habit,
        without_load,
    )

    name = args.stroke
    if args.remove:
        return without_load(plan, name), ""
    if args.add:
        plan, name = with_copy_of(plan, name, args.add)
    if args.reload:
        plan = with_habit(plan, {name}, *habit_in(args.reload))
    load = plan.stroke(name)
    if args.brush:
        load = replace(load, brush=plan.brush(args.brush).id)
    changes = {"cake": args.cake, "offset_mm": args.offset_mm, "passes": args.passes}
    given = {key: value for key, value in changes.items() if value is not None}
    given |= {"flip": args.flip == "yes"} if args.flip else {}
    if args.cake:
        given["cake"] = plan.cake(args.cake).id
    if given:
        if not load.recipe.pickups or not load.recipe.pickups[0].cake:
            raise WayToLoadError(
                phrase("{load} is not taken from a cake; choose another load, or --as window first.", load=load.name)
            )
        first = replace(load.recipe.pickups[0], **given)
        load = replace(load, recipe=replace(load.recipe, pickups=(first, *load.recipe.pickups[1:])))
    if args.name:
        load = replace(load, name=args.name)
    return with_stroke(plan, load), name


class WayToLoadError(PennelloError):
    """An applicator cannot be loaded in a way."""


def _loaded_as(plan: Plan, name: str, key: str) -> Plan:
    """Return the plan with a stroke loaded in a way that painters name."""
    from pennello.design.load_kinds import kinds_for  # noqa: PLC0415 - only when another way is asked for

    stroke = plan.stroke(name)
    brush = plan.brush(stroke.brush)
    ways = {kind.key: kind for kind in kinds_for(brush)}
    if key not in ways:
        raise WayToLoadError(
            phrase("{brush} does not take '{key}'; it takes: {ways}.", brush=brush.name, key=key, ways=", ".join(ways))
        )
    return ways[key].edit(plan, stroke)


def _judged(plan: Plan, name: str) -> Verdict:
    attempt = plan.attempt(name)
    laid = attempt.lay()
    return judge(attempt, laid, compare(laid, attempt), tuple(catalogue.paints().values()))


def lay_arguments(parser: ArgumentParser) -> None:
    """Say what `lay` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument("--png", type=Path, metavar="FILE", help=phrase("write the stroke as a picture"))
    parser.add_argument("--px-per-mm", type=number, default=4.0, metavar="N", help=phrase("resolution, default 4"))
    json_argument(parser)


@verb("lay", phrase("what one stroke lays, and the verdict"), lay_arguments)
def lay_verb(args: Namespace) -> int:
    """Say what a stroke lays."""
    plan = read_plan(args.plan)
    stroke, attempt = plan.stroke(args.stroke), plan.attempt(args.stroke)
    laid = attempt.lay(args.px_per_mm)
    seen = compare(laid, attempt)
    verdict = judge(attempt, laid, seen, tuple(catalogue.paints().values()))
    if args.png:
        from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only for pictures
        from pennello.lay.render import render  # noqa: PLC0415

        film = attempt.lay(args.px_per_mm, small_basis(_EXPORT_BANDS)).film
        write_png(render(film, skin_spectrum(plan.skin)), args.png, args.px_per_mm)
    faults = find_faults(laid, attempt, seen)
    if args.json:
        found = [{"code": one.code, "text": one.text, "at_mm": one.at_mm} for one in faults]
        write_json({**lay_answer(stroke, laid, seen, verdict), "findings": found})
        return 0
    print(
        phrase(
            "{stroke}: {length_mm} long, {laid_mm3:.0f} mm³ of paint laid",
            stroke=stroke.name,
            length_mm=length_text(laid.track.length_mm),
            laid_mm3=laid.volumes.laid_mm3,
        )
    )
    _say(verdict)
    for one in faults:
        print(f"  {one.code}: {one.text}")
    return 0


def _say(verdict: Verdict) -> None:
    print(
        phrase(
            "{headline}  (mean {de}, 95 % below {most}, predicted)",
            headline=verdict.headline,
            de=de_text(verdict.mean_de00),
            most=de_text(verdict.p95_de00),
        )
    )
    for cause in verdict.causes:
        print(f"  {cause.code}: {cause.text}")
        for rated in cause.mends:
            print(f"    {rated.mend.words}: {difference_text(verdict.mean_de00)} -> {de_text(rated.mean_de00 or 0.0)}")


def check_arguments(parser: ArgumentParser) -> None:
    """Say what `check` takes."""
    plan_argument(parser)
    json_argument(parser)


@verb("check", phrase("the verdict on every stroke of a plan"), check_arguments)
def check_verb(args: Namespace) -> int:
    """Judge every stroke."""
    plan = read_plan(args.plan)
    verdicts = {stroke.id: _judged(plan, stroke.id) for stroke in plan.strokes}
    found = findings_of(plan)
    odd = chart_problems(plan)
    if args.json:
        write_json({**check_answer(verdicts, found), "charts": odd})
    else:
        if not plan.strokes:
            print(phrase("There is no stroke in this plan yet."))
        for stroke in plan.strokes:
            print(f"{stroke.id}  ", end="")
            _say(verdicts[stroke.id])
        for problem in found:
            print(f"{problem.place}: {problem.text}")
        for one in odd:
            x, y = one["at_mm"]
            print(
                phrase(
                    "{one}, {one_2} at {x:.0f}, {y:.0f} mm: {one_3}",
                    one=one["chart"],
                    one_2=one["motif"],
                    x=x,
                    y=y,
                    one_3=one["text"],
                )
            )
    return int(any(verdict.state is State.MISSES for verdict in verdicts.values()))


def mend_arguments(parser: ArgumentParser) -> None:
    """Say what `mend` takes."""
    plan_argument(parser, stroke=True)
    parser.add_argument(
        "--cause", metavar="CODE", help=phrase("the cause to mend, as `lay` names it (default: the first)")
    )
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("mend", phrase("apply the best mend of a stroke, or of one cause"), mend_arguments)
def mend_verb(args: Namespace) -> int:
    """Apply the best mend of a stroke and write the plan."""
    plan = read_plan(args.plan)
    verdict = _judged(plan, args.stroke)
    causes = [cause for cause in verdict.causes if cause.mends]
    if args.cause is not None:
        causes = [cause for cause in causes if cause.code == args.cause]
        if not causes:
            raise UnknownNameError(phrase("cause with a mend"), args.cause, [cause.code for cause in verdict.causes])
    if causes:
        rated = causes[0].mends[0]
        plan = mended(plan, args.stroke, rated.mend)
        write_plan(plan, args.out or args.plan)
        verdict = _judged(plan, args.stroke)
    if args.json:
        applied = causes[0].mends[0].mend.words if causes else None
        write_json({"applied": applied, "verdict": verdict_answer(verdict)})
    else:
        print(causes[0].mends[0].mend.words if causes else phrase("Nothing to mend."))
        _say(verdict)
    return 0


def card_arguments(parser: ArgumentParser) -> None:
    """Say what `card` takes."""
    plan_argument(parser, stroke=True)
    pdf_argument(parser, required=True)


@verb("card", phrase("the load card as a PDF at true scale"), card_arguments)
def card_verb(args: Namespace) -> int:
    """Write a load card."""
    from pennello.files.card_pdf import write_card  # noqa: PLC0415 - reportlab only for paper

    write_card(read_plan(args.plan), args.stroke, args.pdf)
    print(phrase("Wrote {pdf}. Print it at 100 %.", pdf=args.pdf))
    return 0


def calibrate_arguments(parser: ArgumentParser) -> None:
    """Say what `calibrate` takes."""
    plan_argument(parser)
    parser.add_argument("brush", help=phrase("the brush's id"))
    parser.add_argument(
        "--full-after", type=number, action="append", metavar="SWEEPS", help=phrase("sweeps until full")
    )
    parser.add_argument(
        "--petals", action="append", metavar="COUNTxMM", help=phrase("petals of one load before one is pale")
    )
    parser.add_argument(
        "--blend-mm", type=length_mm, action="append", metavar="MM", help=phrase("width of a blend on a test swatch")
    )
    parser.add_argument(
        "--softness-mm", type=length_mm, default=0.3, metavar="MM", help=phrase("softness of that cake, default 0.3")
    )
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write here instead of over the plan"))
    json_argument(parser)


@verb("calibrate", phrase("fit a brush to what you saw"), calibrate_arguments)
def calibrate_verb(args: Namespace) -> int:
    """Fit a brush to what was seen and write the plan."""
    from pennello.practice.calibrate import (  # noqa: PLC0415
        Blend,
        Filled,
        NothingSeenError,
        calibrated,
        fit_drift,
        fit_fill,
        fit_release,
    )

    plan = read_plan(args.plan)
    brush = plan.brush(args.brush)
    fits: list[Fit] = []
    if args.full_after:
        fits += fit_fill(brush, [Filled(sweeps) for sweeps in args.full_after])
    if args.petals:
        fits += fit_release(brush, [_petals(text) for text in args.petals])
    if args.blend_mm:
        fits += fit_drift(brush, [Blend(width, args.softness_mm) for width in args.blend_mm])
    if not fits:
        raise NothingSeenError
    write_plan(with_brush(plan, calibrated(brush, fits)), args.out or args.plan)
    if args.json:
        write_json({"brush": brush.id, "fits": [asdict(fit) for fit in fits]})
    else:
        for fit in fits:
            print(
                phrase(
                    "  {fit}: {before:g} -> {fit_2:.3g} (yours, from {count})",
                    fit=fit.name,
                    before=fit.before,
                    fit_2=fit.value,
                    count=fit.count,
                )
            )
    return 0


def _petals(text: str) -> Petals:
    from pennello.practice.calibrate import Petals  # noqa: PLC0415

    count, _, length = text.lower().partition("x")
    try:
        return Petals(parse_number(count), parse_length(length))
    except ValueError:
        raise OutOfRangeError(phrase("petals of one load"), text, phrase("COUNTxMM, as in 5x60")) from None


def new_arguments(parser: ArgumentParser) -> None:
    """Say what `new` takes."""
    parser.add_argument("plan", type=Path, help=phrase("the file to write; it must not exist"))
    parser.add_argument("--demo", action="store_true", help=phrase("the Saltmarsh Lantern Walk"))


@verb("new", phrase("write a new plan"), new_arguments)
def new_verb(args: Namespace) -> int:
    """Write a new plan."""
    if exists(args.plan):
        raise FileProblemError(args.plan, phrase("this file is there already; choose another name."))
    plan = demo_plan() if args.demo else with_fresh_stroke(fresh_plan())[0]
    write_plan(plan, args.plan)
    print(phrase("Wrote {plan}.", plan=args.plan))
    return 0


def schema_arguments(_: ArgumentParser) -> None:
    """Take nothing."""


@verb("schema", phrase("print the JSON Schema of plan files"), schema_arguments)
def schema_verb(_: Namespace) -> int:
    """Print the JSON Schema."""
    print(json.dumps(json_schema(), indent=1))
    return 0
