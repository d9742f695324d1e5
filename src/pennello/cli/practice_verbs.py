"""The verbs about practice: card-sheet, fit-card, practise, score, own."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict, replace
from pathlib import Path

from pennello.cli.asking import json_argument, notebook_argument, pdf_argument, plan_argument, verb
from pennello.cli.main import write_json
from pennello.cli.numbers import seed
from pennello.cli.plan_file import read_plan, write_plan
from pennello.design.pace import StepKind
from pennello.design.words import pickup_words
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.demo import demo_plan
from pennello.files.swatch import read_picture
from pennello.phrases import phrase, plural
from pennello.practice.fit_card import OWN_BELOW
from pennello.practice.lessons import Progress, lesson, lesson_plan, progress
from pennello.practice.photo import Corners
from pennello.practice.sheet import places_for, practised
from pennello.practice.tries import TryScore, best_and_worst, trend
from pennello.session.log import hand_with, kept_tries, open_log, own_hand
from pennello.session.notebook import notebook_path, pace_of
from pennello.session.practising import (
    back_to_default,
    card_words,
    card_work,
    constants_of,
    fitted,
    load_of,
    scored,
    simulated_card,
    simulated_sheet,
    taken_over,
    write_photo,
)
from pennello.units import de_text, difference_words, parse_number


class PracticeWishError(PennelloError):
    """What is asked for does not fit together."""


def _photo_arguments(parser: ArgumentParser, what: str) -> None:
    parser.add_argument(
        "--photo",
        type=Path,
        required=True,
        metavar="FILE",
        help=phrase("a photo of {what}, dry, from above", what=what),
    )
    parser.add_argument(
        "--mark",
        action="append",
        metavar="X,Y",
        help=phrase(
            "middle of a corner mark on the photo, pixels from its top left; four, clockwise from the top left mark "
            "(without any they are looked for)"
        ),
    )


def _simulate_arguments(parser: ArgumentParser) -> None:
    pdf_argument(parser, phrase("write it as a PDF at true scale"))
    parser.add_argument(
        "--simulate",
        type=seed,
        metavar="SEED",
        help=phrase("let a simulated painter paint it, a stand-in for hand and camera"),
    )
    parser.add_argument("--photo", type=Path, metavar="FILE", help=phrase("where the simulated photo goes"))


def marks_of(texts: list[str] | None) -> Corners | None:
    """Return corner marks from the command line, or None where none are said."""
    if not texts:
        return None
    if len(texts) != 4:
        raise OutOfRangeError(phrase("number of --mark"), len(texts), phrase("4, clockwise from the top left"))
    found = []
    for text in texts:
        x, comma, y = text.partition(",")
        if not comma:
            raise OutOfRangeError("--mark", text, phrase("X,Y in pixels, as in 210,184"))
        found.append((parse_number(x), parse_number(y)))
    return tuple(found)


# --- the calibration card ---


def card_sheet_arguments(parser: ArgumentParser) -> None:
    """Say what `card-sheet` takes."""
    plan_argument(parser, stroke=True)
    _simulate_arguments(parser)
    json_argument(parser)


@verb("card-sheet", phrase("a calibration card to paint with a load, at true scale"), card_sheet_arguments)
def card_sheet_verb(args: Namespace) -> int:
    """Write a calibration card; let a simulated painter paint it."""
    plan = read_plan(args.plan)
    work = card_work(plan, args.stroke)
    answer: dict[str, object] = {
        "brush": work.brush.id,
        "paints": [one.id for one in work.paints],
        "fields": [asdict(one) | {"kind": one.kind.value} for one in work.card.fields],
    }
    if args.pdf:
        from pennello.files.practice_pdf import write_card_sheet  # noqa: PLC0415 - reportlab only for paper

        write_card_sheet(plan, args.stroke, work.card, args.pdf)
    if args.simulate is not None:
        picture, corners = simulated_card(work, args.simulate)
        write_photo(picture, _photo_target(args))
        answer["marks"] = [[round(x, 2), round(y, 2)] for x, y in corners]
    return _told(
        args,
        answer,
        plural(
            len(work.card.fields),
            "a card of {count} field for {brush}",
            "a card of {count} fields for {brush}",
            brush=work.brush.name,
        ),
    )


def _photo_target(args: Namespace) -> Path:
    if args.photo is None:
        raise PracticeWishError(phrase("--simulate paints a photo; say with --photo FILE where it goes."))
    target: Path = args.photo
    return target


def _told(args: Namespace, answer: dict[str, object], words: str) -> int:
    if args.json:
        write_json(answer)
        return 0
    print(words)
    if args.pdf:
        print(phrase("written to {pdf}: print at 100 %", pdf=args.pdf))
    marks = answer.get("marks")
    if isinstance(marks, list):
        print(phrase("the marks are at {marks}", marks=" ".join(f"--mark={x},{y}" for x, y in marks)))
    return 0


def fit_card_arguments(parser: ArgumentParser) -> None:
    """Say what `fit-card` takes."""
    plan_argument(parser, stroke=True)
    _photo_arguments(parser, phrase("the painted card"))
    parser.add_argument("--only", action="append", metavar="ID", help=phrase("take over this brush or paint alone"))
    parser.add_argument("--look", action="store_true", help=phrase("only say what it tells; change nothing"))
    parser.add_argument(
        "--out", type=Path, metavar="FILE", help=phrase("write the changed plan here instead of over it")
    )
    notebook_argument(parser)
    json_argument(parser)


@verb("fit-card", phrase("what a photo of a painted card tells of brush and paints, taken over"), fit_card_arguments)
def fit_card_verb(args: Namespace) -> int:
    """Fit a brush and its paints to a photo, and write the plan."""
    plan = read_plan(args.plan)
    work = card_work(plan, args.stroke)
    known = {work.brush.id, *(one.id for one in work.paints)}
    for name in args.only or ():
        if name not in known:
            raise UnknownNameError(phrase("brush or paint of the card"), name, sorted(known))
    fit = fitted(work, read_picture(args.photo), marks_of(args.mark))
    names = set(args.only) if args.only else None
    if not args.look:
        write_plan(taken_over(plan, fit, names), args.out or args.plan)
        with open_log(args.notebook) as log:
            log.add_learnt(constants_of(plan, fit, names))
    if args.json:
        write_json(
            {
                "before_de00": round(fit.before_de00, 3),
                "after_de00": round(fit.after_de00, 3),
                "learnt": [asdict(one) | {"own": one.own} for one in fit.learnt],
                "taken": not args.look,
            }
        )
        return 0
    print(
        phrase(
            "photo and prediction, with defaults: {de}; with what the card tells: {de_2}",
            de=_de(fit.before_de00),
            de_2=_de(fit.after_de00),
        )
    )
    for sentence in card_words(plan, fit):
        print(f"  {sentence}")
    if args.look:
        print(phrase("nothing was changed"))
    return 0


def _de(value: float) -> str:
    return f"{difference_words(value)} ({de_text(value)})"


# --- practice sheets ---


def practise_arguments(parser: ArgumentParser) -> None:
    """Say what `practise` takes."""
    plan_argument(parser)
    parser.add_argument("what", help=phrase("id of a load (its trial stroke), of a piece or of a part"))
    _simulate_arguments(parser)
    json_argument(parser)


@verb("practise", phrase("a practice sheet of a stroke, load or part, at true scale"), practise_arguments)
def practise_verb(args: Namespace) -> int:
    """Write a practice sheet; let a simulated hand paint it."""
    plan = read_plan(args.plan)
    what = practised(plan, args.what)
    places = places_for(what)
    answer: dict[str, object] = {"what": what.key, "name": what.name, "places": [asdict(one) for one in places]}
    load = load_of(plan, args.what)
    if args.pdf:
        from pennello.files.practice_pdf import write_practice_sheet  # noqa: PLC0415 - reportlab only for paper

        source = plan.stroke(load)
        words = " ".join(pickup_words(plan, source, one) for one in source.recipe.pickups[:1])
        write_practice_sheet(what, places, args.pdf, load=words)
    if args.simulate is not None:
        picture, corners, slips = simulated_sheet(plan, what, load, args.simulate)
        write_photo(picture, _photo_target(args))
        answer["marks"] = [[round(x, 2), round(y, 2)] for x, y in corners]
        answer["slips"] = [asdict(one) for one in slips]
    return _told(
        args,
        answer,
        plural(
            len(places), "{what}: {count} place at true scale", "{what}: {count} places at true scale", what=what.name
        ),
    )


def score_arguments(parser: ArgumentParser) -> None:
    """Say what `score` takes."""
    plan_argument(parser)
    parser.add_argument("what", help=phrase("what the sheet is of, as for `practise`"))
    _photo_arguments(parser, phrase("the painted sheet"))
    parser.add_argument("--look", action="store_true", help=phrase("only say; keep nothing in the notebook"))
    notebook_argument(parser)
    json_argument(parser)


@verb("score", phrase("the tries on a photographed practice sheet, scored"), score_arguments)
def score_verb(args: Namespace) -> int:
    """Score a photographed sheet and keep its tries."""
    plan = read_plan(args.plan)
    what = practised(plan, args.what)
    scores = scored(what, read_picture(args.photo), marks_of(args.mark))
    if not args.look:
        with open_log(args.notebook) as log:
            log.add_tries(kept_tries(scores, plan, what.key, what.name))
    if args.json:
        write_json({"tries": [try_told(one) for one in scores], "trend": round(trend(scores), 2)})
        return 0
    best, worst = best_and_worst(scores)
    for one in scores:
        mark = " best" if one is best else " worst" if one is worst else ""
        print(
            phrase(
                "{number:3d}  {points:3d} points{mark}: overlap {overlap:.0%}, off by {off_mm:.1f} mm",
                number=one.number,
                points=one.points,
                mark=mark,
                overlap=one.overlap,
                off_mm=one.off_mm,
            )
        )
        print(f"       {one.words}")
    return 0


def try_told(one: TryScore) -> dict[str, object]:
    """Return a scored try as the command line answers it."""
    return asdict(one) | {"points": one.points}


# --- lessons ---


def lessons_arguments(parser: ArgumentParser) -> None:
    """Say what `lessons` takes."""
    parser.add_argument("lesson", nargs="?", help=phrase("one of them; without it they are listed"))
    parser.add_argument(
        "--plan", type=Path, metavar="PLAN", help=phrase("whose cakes are taken; the demo's if left out")
    )
    pdf_argument(parser, phrase("write its sheet as a PDF at true scale"))
    parser.add_argument("--photo", type=Path, metavar="FILE", help=phrase("a photo of its painted sheet: scored, kept"))
    parser.add_argument(
        "--mark", action="append", metavar="X,Y", help=phrase("a corner mark on the photo, as for `score`")
    )
    notebook_argument(parser)
    json_argument(parser)


@verb("lessons", phrase("lessons from a straight sweep to a rose, and how far you are"), lessons_arguments, lists=True)
def lessons_verb(args: Namespace) -> int:
    """List the lessons; write the sheet of one, or score its tries."""
    if args.lesson is None:
        return _list_lessons(args)
    one = lesson(args.lesson)
    plan, name = lesson_plan(one, read_plan(args.plan) if args.plan else demo_plan())
    what = practised(plan, name)
    if args.pdf:
        from pennello.files.practice_pdf import write_practice_sheet  # noqa: PLC0415 - reportlab only for paper

        write_practice_sheet(what, places_for(what), args.pdf, load=one.watch)
    scores: tuple[TryScore, ...] = ()
    if args.photo:
        scores = scored(what, read_picture(args.photo), marks_of(args.mark))
        with open_log(args.notebook) as log:
            log.add_tries(kept_tries(scores, plan, what.key, what.name, lesson=one.key))
    if args.json:
        write_json({"lesson": one.key, "watch": one.watch, "tries": [try_told(score) for score in scores]})
        return 0
    print(f"{one.title}: {one.watch}")
    for score in scores:
        print(
            phrase(
                "{number:3d}  {points:3d} points: {score}", number=score.number, points=score.points, score=score.words
            )
        )
    return 0


def _list_lessons(args: Namespace) -> int:
    with open_log(args.notebook) as log:
        found = progress(log.tries())
    if args.json:
        write_json({"lessons": [_lesson_told(one) for one in found]})
        return 0
    for number, one in enumerate(found, 1):
        print(f"{number:2d}  {one.lesson.key:9s} {one.lesson.title}: {one.words}")
    return 0


def _lesson_told(one: Progress) -> dict[str, object]:
    of = one.lesson
    return {"key": of.key, "title": of.title, "watch": of.watch} | {
        name: getattr(one, name) for name in ("open", "tries", "best", "lacking")
    }


# --- what is the painter's own ---


def own_arguments(parser: ArgumentParser) -> None:
    """Say what `own` takes."""
    parser.add_argument("plan", type=Path, nargs="?", help=phrase("a plan, whose hand, brushes and paints are meant"))
    parser.add_argument("--take-hand", action="store_true", help=phrase("let the plan's forgiveness use your hand"))
    parser.add_argument(
        "--default", metavar="ID", help=phrase("bring a brush or paint of the plan back to its default")
    )
    parser.add_argument(
        "--forget-tries", action="store_true", help=phrase("erase your tries: the hand is a usual one again")
    )
    parser.add_argument(
        "--out", type=Path, metavar="FILE", help=phrase("write the changed plan here instead of over it")
    )
    notebook_argument(parser, begun=False)
    json_argument(parser)


@verb("own", phrase("all that is your own: hand, pace, brushes, paints; and the way back"), own_arguments)
def own_verb(args: Namespace) -> int:
    """Say what is the painter's own, take it into a plan, or give it back."""
    if args.plan is None and (args.take_hand or args.default):
        raise PracticeWishError(phrase("--take-hand and --default change a plan; say which."))
    with open_log(args.notebook) as log:
        forgotten = log.forget_tries() if args.forget_tries else 0
        tries, learnt = log.tries(), log.learnt()
    hand, pace = own_hand(tries), pace_of(args.notebook or notebook_path())
    if args.plan is not None:
        _own_in_plan(args, hand_words=hand.words)
    if args.json:
        write_json(
            {
                "hand": asdict(hand) | {"words": hand.words},
                "pace": [
                    {"kind": kind.value, "factor": factor, "steps": count} for kind, factor, count in pace.factors
                ],
                "learnt": [asdict(one) for one in learnt],
                "forgotten": forgotten,
            }
        )
        return 0
    print(hand.words)
    for words in pace.words:
        print(phrase("Your pace: {words}.", words=words))
    for one in learnt:
        if one.shrunk >= OWN_BELOW:
            continue
        print(
            phrase(
                "{item}, {one}: {one_2:.3g} (was {was:.3g}), from {source} of {taken}.",
                item=one.item,
                one=one.name,
                one_2=one.value,
                was=one.was,
                source=one.source,
                taken=one.taken[:10],
            )
        )
    return 0


def _pace_told(kind: StepKind, factor: float, count: int) -> dict[str, object]:
    return {"kind": kind.value, "factor": factor, "steps": count}


def _own_in_plan(args: Namespace, hand_words: str) -> None:
    plan = changed = read_plan(args.plan)
    with open_log(args.notebook) as log:
        if args.take_hand:
            own = own_hand(log.tries())
            if own.angle_deg is None:
                raise PracticeWishError(hand_words)
            changed = replace(changed, hand=hand_with(changed.hand, own))
        if args.default:
            changed = back_to_default(changed, args.default, log.learnt())
    if changed != plan:
        write_plan(changed, args.out or args.plan)
