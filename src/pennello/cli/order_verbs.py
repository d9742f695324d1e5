"""The verbs about order, paper, cautions and runs."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pennello.caution.person import AgeBand, Person, Said, SkinSays
from pennello.caution.rules import DECIDE, cautions
from pennello.cli.asking import (
    NO_KIT,
    json_argument,
    kit_argument,
    notebook_argument,
    pdf_argument,
    plan_argument,
    verb,
)
from pennello.cli.main import write_json
from pennello.cli.numbers import number, whole
from pennello.cli.order_arguments import timed_arguments
from pennello.cli.plan_file import read_plan, write_plan
from pennello.cli.whose_kit import kit_file
from pennello.design.ordering import GlitterWhen, Ordering, Priority, Rule, RuleKind, Sides, Whites
from pennello.design.pace import Pace, Tempo
from pennello.design.part_edits import short_form
from pennello.design.plan import Plan
from pennello.disk import make_folder
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.finding import Finding
from pennello.motif.catalogue import motif
from pennello.order.arrange import Arranged, arrange, design_of, in_order, moved
from pennello.order.explain import reasons
from pennello.order.steps import Step, Sums
from pennello.phrases import named, phrase, plural, told
from pennello.units import clock, is_count, minutes, parse_number

if TYPE_CHECKING:
    from pennello.order.stages import SheetPictures
    from pennello.store.notebook import RunNote

Answer = dict[str, Any]

AGES = {"under-3": AgeBand.SMALL, "child": AgeBand.CHILD, "teen": AgeBand.TEEN, "adult": AgeBand.ADULT}
SKINS = {"sound": SkinSays.SOUND, "sensitive": SkinSays.SENSITIVE, "broken": SkinSays.BROKEN}
SIDES = {"together": Sides.TOGETHER, "regions": Sides.REGIONS, "free": Sides.FREE}
WHITES = {"free": Whites.FREE, "before": Whites.BEFORE, "after": Whites.AFTER}
GLITTERS = {"tacky": GlitterWhen.TACKY, "last": GlitterWhen.LAST}

TEMPOS = {"event": Tempo.EVENT, "teaching": Tempo.TEACHING}

_LONGEST_S = 3600.0
_RESTARTS_S = 1.0


class CannotMoveError(PennelloError):
    """A step cannot be moved to a place."""


def _person(parser: ArgumentParser) -> None:
    parser.add_argument("--age", choices=("under-3", "child", "teen", "adult"), help=phrase("how old the person is"))
    for name in ("allergy", "asthma", "ill", "consent", "parent"):
        parser.add_argument(f"--{name}", choices=("yes", "no"))
    parser.add_argument("--skin-is", choices=("sound", "sensitive", "broken"))
    kit_argument(parser, phrase("look for dates in this kit; bare: your own"))


def order_arguments(parser: ArgumentParser) -> None:
    """Say what `order` takes."""
    plan_argument(parser)
    timed_arguments(parser)
    parser.add_argument("--reasons", action="store_true", help=phrase("say why each step stands where it does"))
    parser.add_argument("--own", action="store_true", help=phrase("the plan's own order, as it is"))
    parser.add_argument(
        "--move", nargs=2, metavar=("STEP", "PLACE"), help=phrase("move a step, if it may, and write the plan")
    )
    parser.add_argument(
        "--priority", action="append", metavar="PART=must|nice|skip", help=phrase("what may be left out")
    )
    parser.add_argument(
        "--worth", action="append", metavar="PART=NUMBER", help=phrase("how much a part adds, 0.1 to 10")
    )
    parser.add_argument(
        "--rule", action="append", metavar="EARLIER:after|dry|wet|any:LATER", help=phrase("a rule of your own")
    )
    parser.add_argument(
        "--sides", choices=("together", "regions", "free"), help=phrase("both sides together, or by region")
    )
    parser.add_argument(
        "--whites", choices=("free", "before", "after"), help=phrase("white lights before black, or after")
    )
    parser.add_argument(
        "--glitter", choices=("tacky", "last"), help=phrase("glitter on tacky paint, or as the last touch")
    )
    parser.add_argument(
        "--tempo", choices=tuple(TEMPOS), help=phrase("at an event, or teaching: each first load takes 40 s")
    )
    parser.add_argument("--automatic", action="store_true", help=phrase("forget an order of your own"))
    parser.add_argument("--csv", type=Path, metavar="FILE", help=phrase("write the steps as CSV"))
    parser.add_argument("--ics", type=Path, metavar="FILE", help=phrase("write the steps as iCalendar"))
    parser.add_argument("--start", metavar="YYYY-MM-DDTHH:MM", help=phrase("with --ics: when it begins (default: now)"))
    parser.add_argument("--out", type=Path, metavar="FILE", help=phrase("write a changed plan here instead of over it"))
    json_argument(parser)


@verb("order", phrase("the steps of a design in a good order, with times"), order_arguments)
def order_verb(args: Namespace) -> int:
    """Say in which order to paint; change how it is wished, or move a step."""
    plan = read_plan(args.plan)
    ordering = _wished(plan, args)
    changed = ordering != plan.ordering
    plan = replace(plan, ordering=ordering)
    arranged = arranged_of(plan, args)
    if args.move:
        plan, arranged = _moved(plan, arranged, args.move)
        changed = True
    if changed:
        write_plan(plan, args.out or args.plan)
    _write_steps(arranged, args)
    if args.json:
        write_json(order_answer(arranged, told_why=args.reasons))
    else:
        _say(arranged, told_why=args.reasons)
    return 0


def arranged_of(plan: Plan, args: Namespace) -> Arranged:
    """Return the order that the options ask for: restarts first, CP-SAT for what is left of the time."""
    from pennello.lay import engine  # noqa: PLC0415 - only where something is laid
    from pennello.session.chart_photo import with_photos_located  # noqa: PLC0415
    from pennello.session.notebook import pace_of  # noqa: PLC0415

    if not 0 <= args.seconds <= _LONGEST_S:
        raise OutOfRangeError("--seconds", args.seconds, "0 to 3600")
    shown = with_photos_located(short_form(plan) if args.short else plan, args.plan.parent)
    design = design_of(shown, args.chart, pace_of(args.notebook), engine=engine.kernel())
    if getattr(args, "own", False):
        ordering = plan.ordering
        return in_order(design, ordering.sequence or [job.id for job in design.work.jobs])
    restarts = min(args.seconds, _RESTARTS_S)
    return arrange(design, restarts, max(0.0, args.seconds - restarts), args.target)


def order_answer(arranged: Arranged, *, told_why: bool = False) -> Answer:
    """Return an order as it is told as JSON."""
    sums = arranged.sums
    answer: Answer = {
        "steps": [_step(step) for step in arranged.steps],
        "total_s": sums.total_s,
        "busy_s": sums.busy_s,
        "waiting_s": sums.waiting_s,
        "loads": sums.loads,
        "rinses": sums.rinses,
        "changes": sums.changes,
        "where_s": dict(sums.where),
        "gap": arranged.gap,
        "found_by": arranged.by,
        "own_total_s": arranged.own_total_s,
        "unmet": list(arranged.missed),
        "stop_here": [{"after": stop.after, "at_s": stop.at_s, "left": list(stop.left)} for stop in arranged.stops],
        "constraints": [
            {
                "before": lag.before,
                "after": lag.after,
                "least_s": lag.least_s,
                "most_s": None if lag.most_s > 1e8 else lag.most_s,
                "why": lag.why.value,
                "text": lag.words,
            }
            for lag in arranged.lags
        ],
    }
    if arranged.choice is not None:
        choice = arranged.choice
        answer["target"] = {
            "parts": list(choice.parts),
            "left_out": list(choice.left_out),
            "value": choice.value,
            "fits": choice.fits,
            "would_fit": list(choice.instead),
        }
    if told_why:
        answer["reasons"] = [{"step": one.job, "text": one.words} for one in reasons(arranged)]
    return answer


def _step(step: Step) -> Answer:
    return {
        "id": step.id,
        "kind": step.kind.value,
        "start_s": step.start_s,
        "end_s": step.end_s,
        "waits_for": list(step.waits_for),
        "reloads": [{"start_s": start, "end_s": end} for start, end in step.reloads_s],
        "job": step.job,
        "text": step.words,
    }


def _say(arranged: Arranged, *, told_why: bool) -> None:
    for step in arranged.steps:
        print(
            phrase(
                "{start_s:>6}  {seconds:5.1f} s  {kind:8} {step}",
                start_s=clock(step.start_s),
                seconds=step.seconds,
                kind=named(step.kind),
                step=step.words,
            )
        )
    sums = arranged.sums
    print(
        phrase(
            "{total_s} in all, {waiting_s} of it waiting; {counts}.",
            total_s=minutes(sums.total_s),
            waiting_s=minutes(sums.waiting_s),
            counts=sums.changes_words,
        )
    )
    print(_where(sums))
    listed = minutes(arranged.own_total_s)
    print(
        phrase(
            "As the plan has it {listed}. {how_good} ({by}). Times are predicted.",
            listed=listed,
            how_good=arranged.how_good,
            by=told(arranged.by),
        )
    )
    for sentence in arranged.missed:
        print(phrase("cannot be met: {sentence}", sentence=sentence))
    for sentence in arranged.choice.words() if arranged.choice is not None else ():
        print(sentence)
    for stop in arranged.stops[:-1]:
        print(phrase("complete as it is after {at_s}", at_s=minutes(stop.at_s)))
    if told_why:
        for one in reasons(arranged):
            print(f"  {one.words}.")


def _where(sums: Sums) -> str:
    """Return where the time goes as one bar of forty signs, and in words."""
    parts = list(zip("#o.-~", sums.where, strict=True))
    signs = "".join(sign * round(40 * seconds / max(sums.total_s, 0.1)) for sign, (_, seconds) in parts)
    words = ", ".join(
        phrase("{sign} {name} {seconds:.0f} s", sign=sign, name=told(name), seconds=seconds)
        for sign, (name, seconds) in parts
    )
    return f"[{signs}] {words}"


def _wished(plan: Plan, args: Namespace) -> Ordering:
    """Return the plan's ordering with what the options change."""
    ordering = plan.ordering
    parts = _ruled_names(plan)
    for word in args.priority or []:
        name, level = _pair(word, "--priority", parts)
        if level not in [one.value for one in Priority]:
            raise OutOfRangeError("--priority", word, phrase("PART=must, PART=nice or PART=skip"))
        ordering = ordering.with_priority(name, Priority(level))
    for word in args.worth or []:
        name, number = _pair(word, "--worth", parts)
        try:
            ordering = ordering.with_worth(name, parse_number(number))
        except ValueError:
            raise OutOfRangeError("--worth", word, "PART=NUMBER") from None
    for word in args.rule or []:
        ordering = ordering.with_rule(_rule(word, parts))
    return _with_habits(ordering, args)


def _ruled_names(plan: Plan) -> set[str]:
    """Return what a rule or a priority may name: parts, pieces, kinds of motifs, what lies over the paint."""
    names = {one.id for one in plan.parts} | {one.id for one in plan.motifs} | {one.name for one in plan.overlays}
    names |= {motif(one.motif).group for one in plan.motifs if one.motif}
    return names if plan.motifs else names | {stroke.id for stroke in plan.strokes}


def _with_habits(ordering: Ordering, args: Namespace) -> Ordering:
    if args.sides:
        ordering = replace(ordering, sides=SIDES[args.sides])
    if args.whites:
        ordering = replace(ordering, whites=WHITES[args.whites])
    if args.tempo:
        ordering = replace(ordering, tempo=TEMPOS[args.tempo])
    if args.glitter:
        ordering = replace(ordering, glitter=GLITTERS[args.glitter])
    return replace(ordering, sequence=()) if args.automatic else ordering


def _pair(word: str, option: str, parts: set[str]) -> tuple[str, str]:
    name, found, value = word.rpartition("=")
    if not found:
        raise OutOfRangeError(option, word, "PART=VALUE")
    if name not in parts:
        raise UnknownNameError(phrase("part"), name, sorted(parts), option)
    return name, value


def _rule(word: str, parts: set[str]) -> Rule:
    pieces = word.split(":")
    if len(pieces) != 3 or pieces[1] not in [kind.value for kind in RuleKind]:
        raise OutOfRangeError("--rule", word, "EARLIER:after:LATER, or dry, wet, any in the middle")
    for name in (pieces[0], pieces[2]):
        if name not in parts:
            raise UnknownNameError(phrase("part"), name, sorted(parts), "--rule")
    return Rule(pieces[0], pieces[2], RuleKind(pieces[1]))


def _moved(plan: Plan, arranged: Arranged, move: list[str]) -> tuple[Plan, Arranged]:
    name, place = move
    if name not in arranged.order:
        raise UnknownNameError(phrase("step"), name, list(arranged.order), "--move")
    if not is_count(place) or int(place) < 1:
        raise OutOfRangeError("--move", place, phrase("a step and its place, 1 for the first"))
    order = moved(arranged, name, int(place) - 1)
    if isinstance(order, str):
        raise CannotMoveError(order)
    return (
        replace(plan, ordering=replace(plan.ordering, sequence=order)),
        in_order(arranged.design, order, arranged.choice),
    )


def _write_steps(arranged: Arranged, args: Namespace) -> None:
    from pennello.files.steps_out import write_steps  # noqa: PLC0415 - only where asked for

    try:
        begins = datetime.fromisoformat(args.start) if args.start else datetime.now().replace(microsecond=0)
    except ValueError:
        raise OutOfRangeError("--start", args.start, phrase("a day and time as in 2026-11-28T18:30")) from None
    for path in (args.csv, args.ics):
        if path is not None:
            write_steps(arranged, path, begins)


def sheet_arguments(parser: ArgumentParser) -> None:
    """Say what `sheet` takes."""
    plan_argument(parser)
    pdf_argument(parser, required=True)
    parser.add_argument("--tiles", action="store_true", help=phrase("outlines at true scale too, cut into pages"))
    timed_arguments(parser)
    _person(parser)


@verb("sheet", phrase("the sheet for the chair as a PDF: the whole, then part by part"), sheet_arguments)
def sheet_verb(args: Namespace) -> int:
    """Write the sheet for the chair."""
    from pennello.files.sheet_pdf import write_sheet  # noqa: PLC0415 - reportlab only where asked for

    pages = write_sheet(*_for_paper(args), tiles=args.tiles)
    print(plural(pages, "Wrote {pdf}: {count} page.", "Wrote {pdf}: {count} pages.", pdf=args.pdf))
    return 0


def _for_paper(args: Namespace) -> tuple[Arranged, tuple[Finding, ...], Path, SheetPictures]:
    """Return the order that is asked for, its cautions, where it is written, and its pictures."""
    from pennello.session.order_pictures import sheet_pictures  # noqa: PLC0415 - only where something is laid

    plan = read_plan(args.plan)
    arranged = arranged_of(plan, args)
    told = cautions(plan, person_of(args), args.chart, expired_of(args.kit))
    return arranged, told, args.pdf, sheet_pictures(arranged)


def hand_over_arguments(parser: ArgumentParser) -> None:
    """Say what `hand-over` takes."""
    plan_argument(parser)
    pdf_argument(parser, required=True)
    timed_arguments(parser)
    _person(parser)


@verb("hand-over", phrase("all of a design as one PDF, for somebody without Pennello"), hand_over_arguments)
def hand_over_verb(args: Namespace) -> int:
    """Write all of a design as one PDF."""
    from pennello.files.hand_over_pdf import write_hand_over  # noqa: PLC0415 - reportlab only where asked for

    pages = write_hand_over(*_for_paper(args))
    print(
        plural(
            pages,
            "Wrote {pdf}: {count} page. Print it at 100 %.",
            "Wrote {pdf}: {count} pages. Print it at 100 %.",
            pdf=args.pdf,
        )
    )
    return 0


def sequence_arguments(parser: ArgumentParser) -> None:
    """Say what `sequence` takes."""
    plan_argument(parser)
    parser.add_argument("--out", type=Path, required=True, metavar="DIR", help=phrase("folder; it is made if need be"))
    parser.add_argument("--px-per-mm", type=number, default=3.0, metavar="N", help=phrase("resolution, default 3"))
    timed_arguments(parser)
    json_argument(parser)


@verb("sequence", phrase("the design after each step, as pictures"), sequence_arguments)
def sequence_verb(args: Namespace) -> int:
    """Write the design after each step as pictures."""
    from pennello.files.picture import write_png  # noqa: PLC0415 - Pillow only where asked for
    from pennello.lay import engine  # noqa: PLC0415
    from pennello.session.order_pictures import file_stem, sequence  # noqa: PLC0415

    if not 0.5 <= args.px_per_mm <= 16:
        raise OutOfRangeError("--px-per-mm", args.px_per_mm, "0.5 to 16")
    plan = read_plan(args.plan)
    arranged = arranged_of(plan, args)
    make_folder(args.out)
    written = []
    for chart in dict.fromkeys(job.chart for job in arranged.jobs):
        for moment in sequence(arranged, chart, args.px_per_mm, engine.kernel()):
            path = args.out / f"{chart}-{moment.number:03d}-{file_stem(moment.job)}.png"
            write_png(moment.picture, path, args.px_per_mm)
            written.append({"file": str(path), "step": moment.job, "at_s": moment.at_s})
    if args.json:
        write_json({"pictures": written})
    else:
        print(
            plural(
                len(written), "Wrote {count} picture into {out}.", "Wrote {count} pictures into {out}.", out=args.out
            )
        )
    return 0


def cautions_arguments(parser: ArgumentParser) -> None:
    """Say what `cautions` takes."""
    plan_argument(parser)
    parser.add_argument("--chart", default="", metavar="NAME", help=phrase("one chart only"))
    _person(parser)
    json_argument(parser)


@verb("cautions", phrase("the usual cautions for a plan and a person; never a certificate"), cautions_arguments)
def cautions_verb(args: Namespace) -> int:
    """Say the usual cautions; exit with 1 if one of them says stop."""
    plan = read_plan(args.plan)
    told = cautions(plan, person_of(args), args.chart, expired_of(args.kit))
    if args.json:
        write_json({"cautions": [_caution(one) for one in told], "decide": DECIDE})
    else:
        for one in told:
            print(f"{named(one.level)}: {one.text} {one.reason}")
        print(DECIDE)
    return 1 if any(one.level.name == "STOP" for one in told) else 0


def _caution(one: Finding) -> Answer:
    return {
        "code": one.code,
        "level": one.level.name.lower(),
        "text": one.text,
        "reason": one.reason,
        "about": one.piece,
    }


def person_of(args: Namespace) -> Person:
    """Return the person that the options tell of."""
    said = {
        name: Said(getattr(args, name) or "not asked") for name in ("allergy", "asthma", "ill", "consent", "parent")
    }
    age = AGES.get(args.age, AgeBand.UNKNOWN)
    return Person(age=age, skin=SKINS.get(args.skin_is, SkinSays.UNKNOWN), **said)


def expired_of(kit: str | None) -> tuple[str, ...]:
    """Return the names of what is past its date in a kit ("" for the painter's own), or nothing without one."""
    from pennello.session.kit import expired_names  # noqa: PLC0415 - only where asked for

    return () if kit in (None, NO_KIT) else expired_names(kit_file(kit))


def runs_arguments(parser: ArgumentParser) -> None:
    """Say what `runs` takes."""
    notebook_argument(parser, begun=False)
    parser.add_argument("--forget", action="store_true", help=phrase("erase what people said; times stay"))
    parser.add_argument(
        "--keep-answers", type=whole, metavar="DAYS", help=phrase("how many days after a run they are kept (default 0)")
    )
    json_argument(parser)


def _run_told(run: RunNote) -> dict[str, object]:
    return {
        "plan": run.plan,
        "chart": run.chart,
        "begun": run.begun,
        "hand_s": run.hand_s,
        "planned_s": run.planned_s,
        "finished": run.finished,
        "steps": len(run.steps),
    }


@verb("runs", phrase("recorded runs, and your own pace from them"), runs_arguments)
def runs_verb(args: Namespace) -> int:
    """List recorded runs, and the pace that they give."""
    from pennello.disk import exists  # noqa: PLC0415 - only where asked for
    from pennello.session.notebook import (  # noqa: PLC0415
        forget_answers,
        let_go_of_answers,
        notebook_path,
        pace_of,
        tighten_private_files,
    )
    from pennello.store.notebook import Notebook  # noqa: PLC0415

    path = args.notebook or notebook_path()
    if args.keep_answers is not None:
        _keep_answers(args.keep_answers)
    erased = 0
    if args.notebook is None:
        tighten_private_files()
    if args.forget:
        erased = forget_answers(path=path)
    elif args.notebook is None:  # a notebook that is named is only read
        let_go_of_answers()
    runs: tuple[RunNote, ...] = ()
    if exists(path):
        with Notebook(path) as book:
            runs = book.runs()
    pace = pace_of(path)
    if args.json:
        write_json(
            {
                "erased": erased,
                "runs": [_run_told(run) for run in runs],
                "pace": [
                    {"kind": kind.value, "factor": factor, "steps": count} for kind, factor, count in pace.factors
                ],
            }
        )
        return 0
    _say_runs(runs, pace)
    if args.forget:
        print(
            plural(
                erased,
                "What people said is erased, of {count} run; times stay.",
                "What people said is erased, of {count} runs; times stay.",
            )
        )
    return 0


def _keep_answers(days: int) -> None:
    """Keep what people say for so many days from now on."""
    from pennello.session.settings import MOST_ANSWERS_DAYS, load_settings, store_settings  # noqa: PLC0415

    if not 0 <= days <= MOST_ANSWERS_DAYS:
        raise OutOfRangeError("--keep-answers", days, phrase("0 to {most} days", most=MOST_ANSWERS_DAYS))
    store_settings(replace(load_settings(), answers_days=days))
    told = plural(
        days,
        "What people say is kept for {count} day after the day itself.",
        "What people say is kept for {count} days after the day itself.",
    )
    print(told, file=sys.stderr)


def _say_runs(runs: tuple[RunNote, ...], pace: Pace) -> None:
    for run in runs:
        print(
            phrase(
                "{begun}  {plan}: {hand_s:.0f} s of the hand, {planned_s:.0f} s planned",
                begun=run.begun,
                plan=run.plan,
                hand_s=run.hand_s,
                planned_s=run.planned_s,
            )
        )
    for words in pace.words:
        print(phrase("Your pace: {words}.", words=words))
    if not runs:
        print(phrase("No run is recorded yet; times are defaults."))
