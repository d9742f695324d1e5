"""What each verb does: read, compute, say."""

from __future__ import annotations

import json
from argparse import Namespace
from dataclasses import asdict
from typing import TYPE_CHECKING

from pennello.aim.comparison import compare
from pennello.aim.state import State
from pennello.aim.verdict import Verdict, judge
from pennello.cli.answers import check_answer, lay_answer, load_answer, verdict_answer
from pennello.cli.chart_verbs import chart_problems
from pennello.cli.main import write_json
from pennello.cli.mixing import mix_answer, parse_portion
from pennello.cli.plan_file import read_plan, write_plan
from pennello.colour.basis import small_basis
from pennello.design.edits import mended, with_brush
from pennello.design.fresh import fresh_plan, with_fresh_stroke
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.problems import problems
from pennello.design.words import load_words
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.demo import demo_plan
from pennello.files.plan_schema import json_schema
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.load.edge import boundaries
from pennello.units import de_text, difference_text, length_text, parse_length, parse_number

if TYPE_CHECKING:
    from pennello.practice.calibrate import Fit, Petals

_EXPORT_BANDS = 10


def mix(wish: Namespace) -> int:
    """Mix paints."""
    answer = mix_answer([parse_portion(text) for text in wish.paint], wish.film_um, wish.over)
    if wish.json:
        write_json(answer)
    else:
        lightness, a, b = answer["lab"]
        print(f"{answer['srgb']}   L* {lightness:.1f}  a* {a:.1f}  b* {b:.1f}   (predicted)")
    return 0


def load(wish: Namespace) -> int:
    """Say what is on the brush."""
    plan = read_plan(wish.plan)
    if wish.kind:
        plan = _loaded_as(plan, wish.stroke, wish.kind)
        if wish.out:
            write_plan(plan, wish.out)
    stroke = plan.stroke(wish.stroke)
    edge = plan.edge(stroke.id)
    if wish.json:
        write_json(load_answer(plan, stroke, edge))
        return 0
    print(*load_words(plan, stroke), sep="\n")
    start = "the tip" if edge.axis is GradientAxis.ALONG else "A"
    for one in boundaries(edge):
        names = f"{plan.paint(one.from_paint).name} to {plan.paint(one.to_paint).name}"
        print(f"  {names}: {length_text(one.at_mm)} from {start}, {length_text(one.width_10_90_mm)} wide")
    print(f"  {edge.total_mm3:.0f} mm³ of paint on the brush (predicted)")
    return 0


class WayToLoadError(PennelloError):
    """An applicator cannot be loaded in a way."""


def _loaded_as(plan: Plan, name: str, key: str) -> Plan:
    """Return the plan with a stroke loaded in a way that painters name."""
    from pennello.design.load_kinds import kinds_for  # noqa: PLC0415 - only when another way is asked for

    stroke = plan.stroke(name)
    brush = plan.brush(stroke.brush)
    ways = {kind.key: kind for kind in kinds_for(brush)}
    if key not in ways:
        raise WayToLoadError(f"{brush.name} does not take '{key}'; it takes: {', '.join(ways)}.")
    return ways[key].edit(plan, stroke)


def _judged(plan: Plan, name: str) -> Verdict:
    attempt = plan.attempt(name)
    laid = attempt.lay()
    return judge(attempt, laid, compare(laid, attempt), tuple(catalogue.paints().values()))


def lay(wish: Namespace) -> int:
    """Say what a stroke lays."""
    plan = read_plan(wish.plan)
    stroke, attempt = plan.stroke(wish.stroke), plan.attempt(wish.stroke)
    laid = attempt.lay(wish.px_per_mm)
    seen = compare(laid, attempt)
    verdict = judge(attempt, laid, seen, tuple(catalogue.paints().values()))
    if wish.png:
        from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only for pictures
        from pennello.lay.render import render  # noqa: PLC0415

        film = attempt.lay(wish.px_per_mm, small_basis(_EXPORT_BANDS)).film
        write_png(render(film, skin_spectrum(plan.skin)), wish.png, wish.px_per_mm)
    if wish.json:
        write_json(lay_answer(stroke, laid, seen, verdict))
        return 0
    print(f"{stroke.name}: {length_text(laid.track.length_mm)} long, {laid.volumes.laid_mm3:.0f} mm³ of paint laid")
    _say(verdict)
    return 0


def _say(verdict: Verdict) -> None:
    print(f"{verdict.headline}  (mean {de_text(verdict.mean_de00)}, 95 % below {de_text(verdict.p95_de00)}, predicted)")
    for cause in verdict.causes:
        print(f"  {cause.code}: {cause.text}")
        for rated in cause.mends:
            print(f"    {rated.mend.words}: {difference_text(verdict.mean_de00)} -> {de_text(rated.mean_de00)}")


def check(wish: Namespace) -> int:
    """Judge every stroke."""
    plan = read_plan(wish.plan)
    verdicts = {stroke.id: _judged(plan, stroke.id) for stroke in plan.strokes}
    found = problems(plan)
    odd = chart_problems(plan)
    if wish.json:
        write_json({**check_answer(verdicts, found), "charts": odd})
    else:
        if not plan.strokes:
            print("There is no stroke in this plan yet.")
        for stroke in plan.strokes:
            print(f"{stroke.id}  ", end="")
            _say(verdicts[stroke.id])
        for problem in found:
            print(f"{problem.where}: {problem.text}")
        for one in odd:
            x, y = one["at_mm"]
            print(f"{one['chart']}, {one['motif']} at {x:.0f}, {y:.0f} mm: {one['text']}")
    return int(any(verdict.state is State.MISSES for verdict in verdicts.values()))


def mend(wish: Namespace) -> int:
    """Apply the best mend of a stroke and write the plan."""
    plan = read_plan(wish.plan)
    verdict = _judged(plan, wish.stroke)
    causes = [cause for cause in verdict.causes if cause.mends]
    if wish.cause is not None:
        causes = [cause for cause in causes if cause.code == wish.cause]
        if not causes:
            raise UnknownNameError("cause with a mend", wish.cause, [cause.code for cause in verdict.causes])
    if causes:
        rated = causes[0].mends[0]
        plan = mended(plan, wish.stroke, rated.mend)
        write_plan(plan, wish.out or wish.plan)
        verdict = _judged(plan, wish.stroke)
    if wish.json:
        applied = causes[0].mends[0].mend.words if causes else None
        write_json({"applied": applied, "verdict": verdict_answer(verdict)})
    else:
        print(causes[0].mends[0].mend.words if causes else "Nothing to mend.")
        _say(verdict)
    return 0


def card(wish: Namespace) -> int:
    """Write a load card."""
    from pennello.files.card_pdf import write_card  # noqa: PLC0415 - reportlab only for paper

    write_card(read_plan(wish.plan), wish.stroke, wish.pdf)
    print(f"Wrote {wish.pdf}. Print it at 100 %.")
    return 0


def calibrate(wish: Namespace) -> int:
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

    plan = read_plan(wish.plan)
    brush = plan.brush(wish.brush)
    fits: list[Fit] = []
    if wish.full_after:
        fits += fit_fill(brush, [Filled(sweeps) for sweeps in wish.full_after])
    if wish.petals:
        fits += fit_release(brush, [_petals(text) for text in wish.petals])
    if wish.blend_mm:
        fits += fit_drift(brush, [Blend(width, wish.softness_mm) for width in wish.blend_mm])
    if not fits:
        raise NothingSeenError
    write_plan(with_brush(plan, calibrated(brush, fits)), wish.out or wish.plan)
    if wish.json:
        write_json({"brush": brush.id, "fits": [asdict(fit) for fit in fits]})
    else:
        for fit in fits:
            print(f"  {fit.name}: {fit.before:g} -> {fit.value:.3g} (yours, from {fit.count})")
    return 0


def _petals(text: str) -> Petals:
    from pennello.practice.calibrate import Petals  # noqa: PLC0415

    count, _, length = text.lower().partition("x")
    try:
        return Petals(parse_number(count), parse_length(length))
    except ValueError:
        raise OutOfRangeError("petals of one load", text, "COUNTxMM, as in 5x60") from None


def new(wish: Namespace) -> int:
    """Write a new plan."""
    if wish.plan.exists():
        raise FileProblemError(wish.plan, "this file is there already; choose another name.")
    plan = demo_plan() if wish.demo else with_fresh_stroke(fresh_plan())[0]
    write_plan(plan, wish.plan)
    print(f"Wrote {wish.plan}.")
    return 0


def schema(_: Namespace) -> int:
    """Print the JSON Schema."""
    print(json.dumps(json_schema(), indent=1))
    return 0
